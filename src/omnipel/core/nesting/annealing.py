"""Shorter lays by exchanging pieces: some change places, move elsewhere or are turned; then all are drawn together, and what comes of it is kept
when it is shorter, and sometimes when it is not, less and less often. (A. M. Gomes and J. F. Oliveira: Solving irregular strip packing problems
by hybridising simulated annealing and linear programming, European Journal of Operational Research 171, 2006.)

Some thousand exchanges in a second make the difference, so that they are reckoned in a language with a just-in-time compiler (exchanging.lua):
the lay and all that is known of its pieces are arrays here that it reads and writes. What it finds is drawn together by `tightening.py` again.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from importlib import resources
from typing import Any, Final

import numpy as np
import numpy.typing as npt

from omnipel.core.nesting import tightening
from omnipel.core.nesting.building import Nest
from omnipel.core.nesting.convex import Floats
from omnipel.core.nesting.placing import Placed
from omnipel.core.nesting.problem import Problem
from omnipel.core.nesting.shape import Way

HEAT: Final = 0.3
"""At first a lay may be worse than the one before by about this share of how long a piece is, where there are not many ..."""
MIDDLE: Final = 1.0
"""... and that its pieces end a mm further along on average counts like so many mm of its length: else most changes make no difference."""
MANY: Final = 18
"""With more pieces than this both are less, as the square of how many there are and more: there is no time to melt them all."""
COOLER: Final = 1.25
"""The heat is less by the share of the rest to this power."""
FAR: Final = 2000.0
"""What costs so much more than is asked for when it is first drawn together is given up, mm; with more pieces less is looked into, too, ..."""
LEAST_FAR: Final = 400.0
"""... but so much."""
SLICE: Final = 0.03
"""So long is exchanged before anybody is told, s."""
FIRST: Final = 8
"""So many exchanges are made in the first slice."""

HOW: Final = {
    "reach": tightening.REACH,
    "seen": tightening.SEEN,
    "overlap": tightening.OVERLAP,
    "sideways": tightening.SIDEWAYS,
    "rounds": tightening.ROUNDS,
    "gained": tightening.GAINED,
    "apart": tightening.APART,
    "hopeless": 200.0,  # what costs so much more when it is drawn together again is given up, mm
    "spare": 50.0,  # a lay that comes out longer than is allowed by more than this is not looked at to its end, mm
    "swapped": 0.5,  # so many of the changes let two pieces change places; ...
    "moved": 0.4,  # ... so many let one lie elsewhere; the rest turn one
    "twice": 0.3,  # so often two changes are made at once
    "last": 0.4,  # so often it is a piece at the far end that is changed
    "at_end": 1.0,  # pieces that end no further from the end are the last ones, mm
    "places": 16,  # a piece that is moved comes to lie where it overlaps the others least, of so many places
    "shorter": 0.01,  # what is shorter by less is not, mm
}
"""How lays are drawn together and what is changed about them, by the names that exchanging.lua has for it."""


def _key(sort: int, way: Way) -> tuple[int, float]:
    """A way by its sort and how it is turned there."""
    return sort, round(math.remainder(way.turn, 2.0 * math.pi), 9)


@dataclass
class Tables:
    """Arrays that exchanging.lua reads and writes.

    Args:
        problem: whose pieces may lie anywhere on a bolt, but for levels and what is locked.
        begun: a lay of it: what may be turned at will lies there in ways of its own.
        ways: in which pieces may lie, each once; where they are named by a number, it is their place here.
        known: the number of a sort's way by how it is turned.
        arrays: by their names there. Of pieces and what is to be avoided after them: `way`, `x`, `y`, `stays`; the shortest lay: `best_way`,
            `best_x`, `best_y`. Of ways: `low`, `high` (corners of their boxes), `level` (nan where there is none). Of sorts: `sort` of each piece,
            `sort_first` and `sort_ways`. Of pairs of ways, the first no later than the second: `pair_first`, `pair_count` of rows; of rows:
            `row_first` of planes and `box` around where the second's origin may not be; of planes: `normal_x`, `normal_y`, `offset`.
    """

    problem: Problem
    begun: Sequence[Placed]
    ways: list[Way] = field(default_factory=list)
    known: dict[tuple[int, float], int] = field(default_factory=dict)
    arrays: dict[str, npt.NDArray[Any]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        problem, fixed = self.problem, self.problem.ground.avoid
        sorts = [[self._known(sort, way) for way in shape.ways] for sort, shape in enumerate(problem.shapes)]
        for sort, piece in zip(problem.pieces, self.begun, strict=True):
            self._known(sort, piece.way)
        avoid = range(len(self.ways), len(self.ways) + len(fixed))
        self.ways += [piece.way for piece in fixed]
        every, locked = len(problem.pieces) + len(avoid), problem.locked or {}
        self._pairs()
        self.arrays |= {
            "low": np.array([way.low for way in self.ways]),
            "high": np.array([way.high for way in self.ways]),
            "level": np.array([np.nan if way.level is None else way.level for way in self.ways]),
            "sort": np.array(problem.pieces, dtype=np.int32),
            "sort_first": np.cumsum([0, *(len(ways) for ways in sorts)], dtype=np.int32),
            "sort_ways": np.array([way for ways in sorts for way in ways], dtype=np.int32),
            "stays": np.array([*(i in locked for i in range(len(problem.pieces))), *(True for _ in avoid)], dtype=np.int32),
            "way": np.array([*(0 for _ in problem.pieces), *avoid], dtype=np.int32),
            "x": np.array([*(0.0 for _ in problem.pieces), *(piece.at[0] for piece in fixed)]),
            "y": np.array([*(0.0 for _ in problem.pieces), *(piece.at[1] for piece in fixed)]),
            "best_way": np.zeros(every, dtype=np.int32),
            "best_x": np.zeros(every),
            "best_y": np.zeros(every),
        }

    def _known(self, sort: int, way: Way) -> int:
        """The number of a way in which a sort may lie."""
        number = self.known.setdefault(_key(sort, way), len(self.ways))
        if number == len(self.ways):
            self.ways.append(way)
        return number

    def _pairs(self) -> None:
        """What parts each two ways."""
        many, meetings = len(self.ways), self.problem.ground.meetings
        first, count = np.zeros((many, many), dtype=np.int32), np.zeros((many, many), dtype=np.int32)
        planes, boxes, lines, rows = [], [], [], 0
        for i in range(many):
            for j in range(i, many):
                met = meetings.of(self.ways[i], self.ways[j])
                first[i, j], count[i, j] = rows, len(met.offsets)
                rows += len(met.offsets)
                planes += [met.offsets.shape[1]] * len(met.offsets)
                boxes.append(np.concatenate((met.low, met.high), axis=1))
                lines.append((met.normals.reshape(-1, 2), met.offsets.ravel()))
        normals = np.concatenate([normals for normals, _ in lines])
        self.arrays |= {
            "pair_first": first,
            "pair_count": count,
            "row_first": np.cumsum([0, *planes], dtype=np.int32),
            "box": np.concatenate(boxes),
            "normal_x": normals[:, 0].copy(),
            "normal_y": normals[:, 1].copy(),
            "offset": np.concatenate([offsets for _, offsets in lines]),
        }

    def hold(self, nest: Sequence[Placed]) -> bool:
        """Whether each piece lies in a way that is known."""
        return all(_key(sort, piece.way) in self.known for sort, piece in zip(self.problem.pieces, nest, strict=True))

    def lay(self, nest: Sequence[Placed]) -> None:
        """Lay the pieces. KeyError where one lies in no way that is known."""
        for i, (sort, piece) in enumerate(zip(self.problem.pieces, nest, strict=True)):
            self.arrays["way"][i] = self.known[_key(sort, piece.way)]
            self.arrays["x"][i], self.arrays["y"][i] = piece.at

    def nest(self, which: str = "") -> Nest:
        """The pieces where they lie; with `best_`, in the shortest lay."""
        ways, x, y = (self.arrays[which + name][: len(self.problem.pieces)].tolist() for name in ("way", "x", "y"))
        return [Placed(self.ways[k], np.array(at)) for k, at in zip(ways, zip(x, y, strict=True), strict=True)]


class Annealer:
    """Looks for shorter lays of a problem whose pieces may lie anywhere on a bolt, but for levels, what is locked and what is to be avoided."""

    def __init__(self, problem: Problem, begun: Sequence[Placed]) -> None:
        from lupa.luajit21 import LuaRuntime

        self.problem, self.tables = problem, Tables(problem, begun)
        self.fewer = min(1.0, (MANY / max(len(problem.pieces), 1)) ** 2)
        self.found = False
        lua = LuaRuntime(unpack_returned_tuples=True)
        self.machine: Any = lua.execute((resources.files(__package__) / "exchanging.lua").read_text(encoding="utf-8"))
        numbers = {
            **HOW,
            "far": max(FAR * self.fewer, LEAST_FAR),
            "weight": MIDDLE * self.fewer,
            "width": problem.width,
            "pieces": len(problem.pieces),
            "all": len(self.tables.arrays["way"]),
            "ways": len(self.tables.ways),
        }
        arrays = {name: lua.table_from((array.ctypes.data, str(array.dtype))) for name, array in self.tables.arrays.items()}
        self.machine["take"](lua.table_from(numbers), lua.table_from(arrays))

    def look(
        self, nest: Sequence[Placed], seed: int, until: float, hot: float = 1.0, clock: Callable[[], float] = time.monotonic
    ) -> Iterator[bool]:
        """Change a lay until the clock says so; after each slice of time, whether there is a shorter `best` now.

        Args:
            nest: the lay to begin with.
            seed: of the dice.
            until: when it is over, by the clock.
            hot: how boldly, from 0 up.
            clock: seconds.
        """
        if all(self.tables.arrays["stays"]):
            return
        long = float(np.mean([float((shape.ways[0].high - shape.ways[0].low)[0]) for shape in self.problem.each]))
        self.tables.lay(nest)
        begun = now = clock()
        length = self.machine["begin"](seed, hot * HEAT * self.fewer**COOLER * long)
        if length is None:
            return
        self.found = True
        yield True
        count, gone = FIRST, 0.0
        while gone < 1.0:
            then = min(1.0, gone + SLICE / max(until - begun, SLICE))
            shortest = self.machine["exchange"](count, 1.0 - gone, 1.0 - then)
            yield shortest < length
            length = shortest
            last, now = now, clock()
            count = max(1, min(2 * count, round(count * SLICE / max(now - last, 1e-9))))
            gone = (now - begun) / max(until - begun, 1e-9)

    @property
    def best(self) -> Nest:
        """The shortest lay that was found; empty where the pieces could not be parted."""
        return self.tables.nest("best_") if self.found else []

    def drawn(self, nest: Sequence[Placed]) -> Nest | None:
        """A lay drawn together; None where its pieces cannot be parted."""
        self.tables.lay(nest)
        return None if self.machine["settle"](np.inf) is None else self.tables.nest()

    def overlaps(self, nest: Sequence[Placed], piece: int, places: Floats) -> list[float]:
        """By how much a piece would lie over the others and over what is to be avoided at each of some places, `(k, 2)`: in all, mm."""
        self.tables.lay(nest)
        return [float(self.machine["overlap"](piece, float(x), float(y))) for x, y in places]
