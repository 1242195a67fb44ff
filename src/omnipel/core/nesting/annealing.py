"""Shorter lays by exchanging pieces: some change places, move elsewhere or are turned; then all are drawn together, and what comes of it is kept
when it is shorter, and sometimes when it is not, less and less often. (A. M. Gomes and J. F. Oliveira: Solving irregular strip packing problems
by hybridising simulated annealing and linear programming, European Journal of Operational Research 171, 2006.)
"""

from __future__ import annotations

import math
import random
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from omnipel.core.nesting.building import Nest
from omnipel.core.nesting.convex import Floats
from omnipel.core.nesting.placing import Placed
from omnipel.core.nesting.problem import Problem
from omnipel.core.nesting.shape import Way
from omnipel.core.nesting.tightening import Tightener

HEAT: Final = 0.08
"""At first a lay may be longer than the one before by about this share of how long a piece is."""
SWAPPED: Final = 0.6
"""So many of the changes let two pieces change places; ..."""
MOVED: Final = 0.3
"""... so many let one lie near another; the rest turn one."""
TWICE: Final = 0.3
"""So often two changes are made at once."""
LAST: Final = 0.4
"""So often it is a piece at the far end that is moved."""
NEAR: Final = 200.0
"""A piece that is moved comes to lie about so far from the middle of another, mm."""
AT_END: Final = 1.0
"""Pieces that end no further from the end are the last ones, mm."""
SHORTER: Final = 0.01


@dataclass(frozen=True)
class _Lay:
    """Where pieces lie, and how long that is."""

    ways: tuple[Way, ...]
    at: Floats
    length: float

    def middle(self, piece: int) -> Floats:
        """The middle of a piece's box."""
        middle: Floats = self.at[piece] + _half(self.ways[piece])
        return middle


def _half(way: Way) -> Floats:
    """From a way's origin to the middle of its box."""
    middle: Floats = (way.low + way.high) / 2.0
    return middle


class Annealer:
    """Looks for shorter lays of a problem whose pieces may lie anywhere on a bolt."""

    def __init__(self, problem: Problem, seed: int) -> None:
        self.problem, self.each = problem, problem.each
        self.tightener = Tightener(problem)
        self.dice = random.Random(seed)
        self.loose = [i for i, piece in enumerate(problem.begun) if piece is None]
        self.lay: _Lay | None = None
        self.heat = HEAT * float(np.mean([float((s.ways[0].high - s.ways[0].low)[0]) for s in self.each]))

    def look(self, nest: Sequence[Placed], until: float, clock: Callable[[], float] = time.monotonic) -> Iterator[bool]:
        """Change a lay until the clock says so; after each change, whether there is a shorter `best` now."""
        begun = clock()
        settled = self.tightener.settle([piece.way for piece in nest], np.array([piece.at for piece in nest]))
        if settled is None or not self.loose:
            return
        now = self.lay = _Lay(tuple(piece.way for piece in nest), *settled)
        yield True
        while (gone := (clock() - begun) / max(until - begun, 1e-9)) < 1.0:
            ways, at = self._changed(now)
            may = now.length - self.heat * (1.0 - gone) * math.log(1.0 - self.dice.random())
            found = self.tightener.settle(ways, at, may)
            if found is not None and found[1] <= may:
                now = _Lay(tuple(ways), *found)
            shorter = found is not None and found[1] < self.lay.length - SHORTER
            if found is not None and shorter:
                self.lay = _Lay(tuple(ways), *found)
            yield shorter

    @property
    def best(self) -> Nest:
        """The shortest lay that was found."""
        return [Placed(way, at) for way, at in zip(self.lay.ways, self.lay.at, strict=True)] if self.lay is not None else []

    def _changed(self, lay: _Lay) -> tuple[list[Way], Floats]:
        """A lay with a piece or two elsewhere, whether they have room there or not."""
        ways, at = list(lay.ways), lay.at.copy()
        self._change(lay, ways, at)
        if self.dice.random() < TWICE:
            self._change(_Lay(tuple(ways), at.copy(), lay.length), ways, at)
        return ways, at

    def _change(self, lay: _Lay, ways: list[Way], at: Floats) -> None:
        dice = self.dice
        one = dice.choice(self.loose)
        if dice.random() < LAST:
            ends = [i for i in self.loose if lay.at[i, 0] + lay.ways[i].high[0] > lay.length - AT_END]
            one = dice.choice(ends or [one])
        drawn = dice.random()
        others = [i for i in self.loose if self.problem.pieces[i] != self.problem.pieces[one]]
        turns = [way for way in self.each[one].ways if way is not lay.ways[one]]
        if drawn < SWAPPED and others:
            other = dice.choice(others)
            at[one] = lay.middle(other) - _half(ways[one])
            at[other] = lay.middle(one) - _half(ways[other])
        elif drawn < SWAPPED + MOVED or not turns:
            aside = np.array((dice.gauss(0.0, NEAR), dice.gauss(0.0, NEAR)))
            at[one] = lay.middle(dice.choice(self.loose)) + aside - _half(ways[one])
        else:
            ways[one] = dice.choice(turns)
            at[one] = lay.middle(one) - _half(ways[one])
