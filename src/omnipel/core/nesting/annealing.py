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
from functools import cached_property
from typing import Final

import numpy as np

from omnipel.core.nesting.building import Nest
from omnipel.core.nesting.convex import Floats
from omnipel.core.nesting.placing import Placed
from omnipel.core.nesting.problem import Problem
from omnipel.core.nesting.shape import Way
from omnipel.core.nesting.tightening import FAR, Tightener

HEAT: Final = 0.2
"""At first a lay may be worse than the one before by about this share of how long a piece is, where there are not many ..."""
MIDDLE: Final = 1.0
"""... and that its pieces end a mm further along on average counts like so many mm of its length: else most changes make no difference."""
MANY: Final = 18
"""With more pieces than this both are less, as the square of how many there are: there is no time to melt them all."""
LEAST_FAR: Final = 400.0
"""What costs so much more than is asked for when it is first drawn together may still come out well, mm: with many pieces less is looked into, too."""
SPARE: Final = 50.0
"""A lay that comes out longer than is allowed by more than this is not looked at to its end, mm."""
SWAPPED: Final = 0.5
"""So many of the changes let two pieces change places; ..."""
MOVED: Final = 0.4
"""... so many let one lie elsewhere; the rest turn one."""
TWICE: Final = 0.3
"""So often two changes are made at once."""
LAST: Final = 0.4
"""So often it is a piece at the far end that is moved."""
PLACES: Final = 16
"""A piece that is moved comes to lie where it overlaps the others least, of so many places."""
AT_END: Final = 1.0
"""Pieces that end no further from the end are the last ones, mm."""
SHORTER: Final = 0.01


@dataclass(frozen=True)
class _Lay:
    """Where pieces lie, how long that is, and where they end on average."""

    ways: tuple[Way, ...]
    at: Floats
    length: float

    @cached_property
    def ends(self) -> float:
        """Where its pieces end, on average, mm."""
        return float(self.at[:, 0].mean()) + sum(float(way.high[0]) for way in self.ways) / len(self.ways)

    def middle(self, piece: int) -> Floats:
        """The middle of a piece's box."""
        middle: Floats = self.at[piece] + _half(self.ways[piece])
        return middle


def _half(way: Way) -> Floats:
    """From a way's origin to the middle of its box."""
    middle: Floats = (way.low + way.high) / 2.0
    return middle


class Annealer:
    """Looks for shorter lays of a problem whose pieces may lie anywhere on a bolt; `hot` is how boldly, from 0 up."""

    def __init__(self, problem: Problem, seed: int, hot: float = 1.0) -> None:
        self.problem, self.each = problem, problem.each
        fewer = min(1.0, (MANY / max(len(self.each), 1)) ** 2)
        self.tightener = Tightener(problem, max(FAR * fewer, LEAST_FAR))
        self.dice = random.Random(seed)
        self.loose = [i for i, piece in enumerate(problem.begun) if piece is None]
        self.lay: _Lay | None = None
        self.heat = hot * HEAT * fewer * float(np.mean([float((s.ways[0].high - s.ways[0].low)[0]) for s in self.each]))
        self.weight = MIDDLE * fewer

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
            worse = -self.heat * (1.0 - gone) * math.log(1.0 - self.dice.random())
            found = self.tightener.settle(ways, at, now.length + worse + SPARE)
            made = _Lay(tuple(ways), *found) if found is not None else None
            if made is not None and self._cost(made) <= self._cost(now) + worse:
                now = made
            shorter = made is not None and made.length < self.lay.length - SHORTER
            if made is not None and shorter:
                self.lay = made
            yield shorter

    def _cost(self, lay: _Lay) -> float:
        return lay.length + self.weight * lay.ends

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
            at[one] = self._elsewhere(ways, at, one, lay.length)
        else:
            ways[one] = dice.choice(turns)
            at[one] = lay.middle(one) - _half(ways[one])

    def _elsewhere(self, ways: Sequence[Way], at: Floats, one: int, length: float) -> Floats:
        """A place for a piece where it hardly lies over others."""
        low, far = ways[one].low, np.array((length, self.problem.width))
        room = np.maximum(far - (ways[one].high - low), 0.0)
        places = np.array([(self.dice.random(), self.dice.random()) for _ in range(PLACES)]) * room - low
        found: Floats = places[int(self.tightener.overlaps(ways, at, one, places).argmin())]
        return found
