"""Lays drawn together as a whole: all pieces move at once until none can move and make the lay shorter.

Two pieces are apart when a line parts each convex part of one from each of the other. Which lines these are is read off the lay as it stands; with
them held, the shortest lay is a linear programme, and its answer shows other lines, until nothing is gained. Pieces that overlap are parted on
the way, at a price. (Z. Li and V. Milenkovic: Compaction and separation algorithms for non-convex polygons and their applications, European
Journal of Operational Research 84, 1995.)
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any, Final

import numpy as np
import numpy.typing as npt

from omnipel.core.nesting.building import Nest
from omnipel.core.nesting.convex import Floats
from omnipel.core.nesting.placing import Ground, Placed
from omnipel.core.nesting.shape import Way

if TYPE_CHECKING:
    from omnipel.core.nesting.problem import Problem

Ints = npt.NDArray[np.int32]

REACH: Final = 400.0
"""A piece moves no further along or across than this before the lines are read off again, mm."""
SEEN: Final = 400.0
"""Parts that are further from one another than this are not held apart until they come nearer, mm."""
OVERLAP: Final = 20.0
"""Overlapping by a mm costs as much as so many mm of cloth."""
SIDEWAYS: Final = 1e-3
"""All pieces together drawn towards the cut end by a mm each are worth so many mm of cloth, so that none hangs about in the middle."""
ROUNDS: Final = 12
GAINED: Final = 0.05
"""A round that gains less is the last, mm."""
APART: Final = 1e-6
"""Parts that overlap by less do not, mm."""


@dataclass(frozen=True)
class Pairs:
    """Half-planes that part pieces turned in their ways, a row for each two convex parts.

    Args:
        first, second: the pieces, `(m,)`.
        across, along: the normals' parts, `(m, k)`, by which the second is moved away from the first.
        offsets: how far its origin has to be on that side of the first one's, `(m, k)`, mm.
        begin, end: the corners of the box around where it may not be, `(m, 2)`.
        low, high: the corners of each piece's box from its origin, `(n, 2)`.
    """

    first: Ints
    second: Ints
    along: Floats
    across: Floats
    offsets: Floats
    begin: Floats
    end: Floats
    low: Floats
    high: Floats

    def near(self, at: Floats) -> tuple[Ints, Ints, Floats]:
        """The rows of parts that are near one another, the plane of each that parts them best, and by how much, mm."""
        apart = at[self.second] - at[self.first]
        rows = np.nonzero(((apart > self.begin - SEEN) & (apart < self.end + SEEN)).all(axis=1))[0]
        apart = apart[rows]
        room = self.along[rows] * apart[:, :1] + self.across[rows] * apart[:, 1:] - self.offsets[rows]
        planes = np.argmax(room, axis=1)
        far = room[np.arange(len(rows)), planes]
        seen = far < SEEN
        return rows[seen].astype(np.int32), planes[seen].astype(np.int32), far[seen]


class Tightener:
    """Draws lays of one problem together. What nothing may lie on, and what is locked, stays where it is."""

    def __init__(self, problem: Problem) -> None:
        self.ground: Ground = problem.ground
        self.pieces = len(problem.pieces)
        self.locked = frozenset(problem.locked or {})
        self.known: dict[tuple[int, ...], tuple[Sequence[Way], Pairs]] = {}

    @cached_property
    def solver(self) -> Any:
        """What solves the programmes, loaded when it is first needed."""
        import highspy

        made: Any = highspy.Highs()  # type: ignore[no-untyped-call]
        for name, value in (
            ("output_flag", False),
            ("presolve", "off"),
            ("solver", "simplex"),
            ("threads", 1),
            ("parallel", "off"),
            ("simplex_scale_strategy", 0),
            (
                "simplex_dual_edge_weight_strategy",
                0,
            ),  # small programmes: what is reckoned to save steps takes longer than they do
        ):
            made.setOptionValue(name, value)
        return made

    def drawn(self, nest: Sequence[Placed]) -> Nest | None:
        """A lay drawn together from where its pieces are, which may overlap; None where they cannot be parted from there."""
        ways = [piece.way for piece in nest]
        pairs = self._pairs(ways)
        fixed = np.array([piece.at for piece in self.ground.avoid]).reshape(-1, 2)
        every = np.concatenate((np.array([piece.at for piece in nest]), fixed))
        stays = np.array([i in self.locked for i in range(self.pieces)] + [True] * len(fixed))
        least, highest = self._borders(ways, pairs)
        every = np.where(stays[:, None], every, np.clip(every, least, np.maximum(least, highest)))
        last, clean = math.inf, False
        for _ in range(ROUNDS):
            found = self._programme(pairs, every, stays, least, highest)
            if found is None:
                return None
            every, length, overlap = found
            clean = overlap < APART
            cost = length + OVERLAP * overlap
            if cost > last - GAINED:
                break
            last = cost
        return [Placed(way, at) for way, at in zip(ways, every, strict=False)] if clean else None

    def _pairs(self, ways: Sequence[Way]) -> Pairs:
        key = tuple(id(way) for way in ways)
        if key not in self.known:
            if len(self.known) > 40:
                self.known.clear()
            self.known[key] = tuple(ways), self._read(ways)  # holds them, so that no id is used twice
        return self.known[key][1]

    def _read(self, ways: Sequence[Way]) -> Pairs:
        """What parts each two of them."""
        every = [*ways, *(piece.way for piece in self.ground.avoid)]
        stays = [*(i in self.locked for i in range(self.pieces)), *(True for _ in self.ground.avoid)]
        met = [
            (i, j, self.ground.meetings.of(every[i], every[j]))
            for i in range(len(every))
            for j in range(i + 1, len(every))
            if not (stays[i] and stays[j])
        ]
        rows, wide = sum(len(r.offsets) for _, _, r in met), max((r.offsets.shape[1] for _, _, r in met), default=1)
        first, second = np.empty(rows, dtype=np.int32), np.empty(rows, dtype=np.int32)
        along, across, offsets = np.zeros((rows, wide)), np.zeros((rows, wide)), np.full((rows, wide), np.inf)
        low, high = np.empty((rows, 2)), np.empty((rows, 2))
        done = 0
        for i, j, regions in met:
            many, planes = regions.offsets.shape
            here = slice(done, done + many)
            first[here], second[here] = i, j
            along[here, :planes], across[here, :planes] = regions.normals[..., 0], regions.normals[..., 1]
            offsets[here, :planes] = regions.offsets
            low[here], high[here] = regions.low, regions.high
            done += many
        boxes = np.array([w.low for w in every]), np.array([w.high for w in every])
        return Pairs(first, second, along, across, offsets, low, high, *boxes)

    def _borders(self, ways: Sequence[Way], pairs: Pairs) -> tuple[Floats, Floats]:
        """Where the origin of each may lie at least and at most, `(n, 2)` twice."""
        least, highest = -pairs.low, np.array((self.ground.length, self.ground.width)) - pairs.high
        for i, way in enumerate(ways):
            if way.level is not None:
                least[i, 1] = highest[i, 1] = way.level
        return least, np.maximum(least, highest)

    def _programme(
        self, pairs: Pairs, at: Floats, stays: npt.NDArray[np.bool_], least: Floats, highest: Floats
    ) -> tuple[Floats, float, float] | None:
        """The shortest lay with the lines as they are read off here: where all lie, its length, and by how much they overlap still."""
        n = len(at)
        near, plane, far = pairs.near(at)
        one, other = 2 * pairs.first[near], 2 * pairs.second[near]
        along, across = pairs.along[near, plane], pairs.across[near, plane]
        parted = pairs.offsets[near, plane]
        over = np.nonzero(far < -1e-7)[0]

        # a row for each two parts: along, across of both, and what may be left of an overlap; then one for each end
        counts = np.full(len(near), 4)
        counts[over] = 5
        ends = np.nonzero(~stays)[0]
        begin = np.concatenate(([0], np.cumsum(counts)))
        lines = int(begin[-1])
        index, value = np.empty(lines + 2 * len(ends), dtype=np.int32), np.empty(lines + 2 * len(ends))
        here = begin[:-1]
        for k, (column, number) in enumerate(((one, -along), (one + 1, -across), (other, along), (other + 1, across))):
            index[here + k], value[here + k] = column, number
        index[here[over] + 4], value[here[over] + 4] = 2 * n + 1 + np.arange(len(over)), 1.0
        index[lines::2], value[lines::2] = 2 * ends, -1.0
        index[lines + 1 :: 2], value[lines + 1 :: 2] = 2 * n, 1.0
        starts = np.concatenate((begin, lines + 2 * np.arange(1, len(ends) + 1))).astype(np.int32)

        cost = np.full(2 * n + 1 + len(over), OVERLAP)
        cost[: 2 * n : 2], cost[1 : 2 * n : 2], cost[2 * n] = SIDEWAYS / n, 0.0, 1.0
        lowest, most = np.zeros(len(cost)), np.full(len(cost), np.inf)
        lowest[: 2 * n] = np.where(stays[:, None], at, np.maximum(at - REACH, least)).ravel()
        most[: 2 * n] = np.where(stays[:, None], at, np.maximum(np.minimum(at + REACH, highest), least)).ravel()
        answer = self._solved(cost, lowest, most, np.concatenate((parted, pairs.high[ends, 0])), starts, index, value)
        if answer is None:
            return None
        return answer[: 2 * n].reshape(n, 2), float(answer[2 * n]), float(answer[2 * n + 1 :].sum())

    def _solved(
        self, cost: Floats, lowest: Floats, most: Floats, rows: Floats, starts: Ints, index: Ints, value: Floats
    ) -> Floats | None:
        """The cheapest values between `lowest` and `most` with which each row comes to at least its number; None where there are none."""
        import highspy

        every, by_rows, least = len(cost), 2, 1  # the library's numbers for matrices by rows and for what is to be least
        self.solver.passModel(
            every, len(rows), len(index), by_rows, least, 0.0,
            cost, lowest, most, rows, np.full(len(rows), np.inf), starts, index, value, np.zeros(every, dtype=np.int32),
        )  # fmt: skip
        self.solver.run()
        if self.solver.getModelStatus() != highspy.HighsModelStatus.kOptimal:
            return None
        answer: Floats = np.array(self.solver.getSolution().col_value)
        return answer
