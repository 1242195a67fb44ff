"""What is to be laid, and what comes of it, as plain values that go from one process to another."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Final

import numpy as np
import shapely

from omnipel.core.nesting.bounds import least_length
from omnipel.core.nesting.building import Nest, pulled, quick, used_length
from omnipel.core.nesting.checking import faults
from omnipel.core.nesting.convex import inward
from omnipel.core.nesting.outward import cleaned, outward
from omnipel.core.nesting.placing import Ground, Placed
from omnipel.core.nesting.shape import Shape, Way, turned
from omnipel.core.plane.curves import Points

Ring = tuple[tuple[float, float], ...]
Place = tuple[float, float, float]
"""How far a piece is turned around its origin, radians, and where that lies then: along and across, mm."""

SIMPLER: Final = 2.0
"""The first lays are made of outlines that leave the true ones by no more, mm."""


@dataclass(frozen=True)
class Problem:
    """Pieces to be laid on a ground.

    Args:
        shapes: each sort once.
        pieces: of which sort each piece is.
        width: of the ground, mm.
        length: of it, infinite for a bolt.
        avoid: outlines of what nothing may lie on.
        locked: where some of the pieces lie already, by their index.
        rough: whether it need not be looked very closely where a piece goes.
    """

    shapes: tuple[Shape, ...]
    pieces: tuple[int, ...]
    width: float
    length: float = math.inf
    avoid: tuple[Ring, ...] = ()
    locked: Mapping[int, Place] | None = None
    rough: bool = False

    @property
    def open(self) -> bool:
        """Whether it is a plain bolt with nothing on it, and every piece may lie anywhere."""
        plain = all(shape.level is None and not any(shape.pitch) for shape in self.shapes)
        return plain and math.isinf(self.length) and not self.avoid and not self.locked

    @property
    def movable(self) -> bool:
        """Whether it is a bolt on which pieces may be pushed along and across by any amount, those apart that are to lie at a level."""
        return math.isinf(self.length) and not any(any(shape.pitch) for shape in self.shapes)

    @cached_property
    def ground(self) -> Ground:
        """The ground."""
        flaws = tuple(Placed(Way(np.array(ring, dtype=np.float64)), np.zeros(2)) for ring in self.avoid)
        return (
            Ground(self.width, self.length, flaws, closer=1, most_levels=120)
            if self.rough
            else Ground(self.width, self.length, flaws)
        )

    @cached_property
    def each(self) -> list[Shape]:
        """The shape of each piece."""
        return [self.shapes[k] for k in self.pieces]

    @cached_property
    def simpler(self) -> Problem:
        """The same with fewer corners, its outlines around the true ones."""
        fewer = [outward(s.ring, SIMPLER) if len(s.ring) > 4 else s.ring for s in self.shapes]
        return self._with([Shape(r, s.turns, s.pitch, s.start, s.level, s.free) for r, s in zip(fewer, self.shapes, strict=True)])

    @cached_property
    def boxes(self) -> Problem:
        """The same with the boxes around its pieces, which are laid in no time."""
        return self._with([Shape(_box(s.ring), s.turns, s.pitch, s.start, s.level, s.free) for s in self.shapes])

    def _with(self, shapes: Sequence[Shape]) -> Problem:
        return Problem(tuple(shapes), self.pieces, self.width, self.length, self.avoid, self.locked, rough=True)

    @cached_property
    def begun(self) -> list[Placed | None]:
        """What lies already, for each piece."""
        locked = self.locked or {}
        return [self.at(i, locked[i]) if i in locked else None for i in range(len(self.pieces))]

    def at(self, piece: int, place: Place) -> Placed:
        """A piece at a place: one of its own ways where it is turned as one of these is."""
        shape = self.shapes[self.pieces[piece]]
        for way in shape.ways:
            if abs(math.remainder(way.turn - place[0], 2.0 * math.pi)) < 1e-9:
                return Placed(way, np.array(place[1:]))
        return Placed(Way(turned(shape.ring, place[0]), place[0]), np.array(place[1:]))

    def nest(self, places: Sequence[Place]) -> Nest:
        """Pieces at their places."""
        return [self.at(i, place) for i, place in enumerate(places)]

    @property
    def least_at_sight(self) -> float:
        """Below which length nothing can be laid, as far as it is seen at once, mm."""
        return least_length(self.each, self.width, 0.0)

    def least(self, known: float = math.inf) -> float:
        """Below which length nothing can be laid, mm."""
        return least_length(self.each, self.width, known)

    def sound(self, nest: Nest) -> bool:
        """Whether all pieces lie there, none on another, none outside, none on what is to be avoided."""
        whole = len(nest) == len(self.pieces) and all(np.isfinite(piece.at).all() for piece in nest)
        return whole and next(faults(nest, self.width, self.length, self.ground.avoid), None) is None


def problem_of(
    sorts: Sequence[tuple[Points, int, tuple[float, ...]]], width: float, length: float = math.inf, *, gap: float = 0.0
) -> Problem:
    """Pieces to be laid: outlines, how many of each, and how they may be turned; with a gap between any two of them, mm."""
    shapes = tuple(Shape(spaced(ring, gap), turns) for ring, _, turns in sorts)
    return Problem(shapes, tuple(k for k, (_, count, _) in enumerate(sorts) for _ in range(count)), width + gap, length + gap)


def _box(ring: Points) -> Points:
    (left, low), (right, high) = ring.min(axis=0), ring.max(axis=0)
    return np.array(((left, low), (right, low), (right, high), (left, high)))


def spaced(ring: Points, gap: float) -> Points:
    """An outline grown by half of the gap that is kept around it, without corners that are none."""
    plain = cleaned(ring)
    if gap <= 0.0:
        return plain
    grown = shapely.Polygon(plain).buffer(gap / 2.0, join_style="mitre", mitre_limit=2.0)
    return cleaned(shapely.get_coordinates(grown.exterior)[:-1][::-1])


def places_of(nest: Nest) -> list[Place]:
    """Where pieces lie, as plain numbers."""
    return [(piece.way.turn, float(piece.at[0]), float(piece.at[1])) for piece in nest]


def told(problem: Problem) -> dict[str, Any]:
    """A problem as plain data."""
    return {
        "shapes": [
            {"ring": s.ring.tolist(), "turns": s.turns, "pitch": s.pitch, "start": s.start, "level": s.level, "free": s.free}
            for s in problem.shapes
        ],
        "pieces": problem.pieces,
        "width": problem.width,
        "length": None if math.isinf(problem.length) else problem.length,
        "avoid": problem.avoid,
        "locked": [[i, *place] for i, place in (problem.locked or {}).items()],
    }


def understood(data: Mapping[str, Any]) -> Problem:
    """A problem from plain data."""
    return Problem(
        tuple(
            Shape(np.array(s["ring"]), tuple(s["turns"]), tuple(s["pitch"]), tuple(s["start"]), s["level"], s["free"])
            for s in data["shapes"]
        ),
        tuple(data["pieces"]),
        data["width"],
        math.inf if data["length"] is None else data["length"],
        tuple(tuple((x, y) for x, y in ring) for ring in data["avoid"]),
        {int(i): (turn, x, y) for i, turn, x, y in data["locked"]},
    )


def shortest(one: Nest | None, other: Nest | None) -> Nest | None:
    """The shorter of two lays."""
    if one is None or other is None:
        return one if other is None else other
    return other if used_length(other) < used_length(one) - 1e-6 else one


SIMPLE: Final = 12
"""Of more pieces than this the boxes are laid first."""
FEW: Final = 6
"""No more pieces than this are pulled together at once ..."""
BENT: Final = 12
"""... nor with more inward corners than this, all together."""


def at_once(problem: Problem, tries: int, seconds: float) -> Nest | None:
    """A lay of simpler outlines, or of the boxes around them, with the true outlines in them; None where a piece fits nowhere."""
    simple = problem.simpler if len(problem.pieces) <= SIMPLE else problem.boxes
    found = quick(simple.ground, simple.each, problem.least_at_sight, tries, seconds, simple.begun)
    if found is None:
        return None
    made = problem.nest(places_of(found))
    first = min(float(piece.low[0]) for piece in made) if problem.open else 0.0
    return problem.nest([(turn, x - first, y) for turn, x, y in places_of(made)])


def pulled_if_few(problem: Problem, nest: Nest) -> Nest:
    """A lay pulled together with its true outlines, where that takes no time."""
    if not problem.open or len(nest) > FEW or sum(inward(piece.way.ring) for piece in nest) > BENT:
        return nest
    return pulled(problem.ground, nest)
