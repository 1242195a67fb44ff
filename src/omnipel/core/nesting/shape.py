"""Shapes to be laid: an outline as it may be turned, with what is known of it for laying."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from omnipel.core.nesting.convex import Regions, Sides, convex_parts, meeting, sides_of
from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import SAME_POINT


@dataclass(frozen=True, eq=False)
class Shape:
    """An outline to be laid.

    Args:
        ring: `(n, 2)`, counter-clockwise, mm.
        turns: the angles by which it may be turned, radians.
        pitch: what its place is a multiple of, along and across, mm; 0 where it may lie anywhere.
        start: the point of it that lies on these multiples, in its own frame.
        level: the height at which its origin has to lie, mm; None where it may lie at any.
        free: whether it may be turned by any angle at all.
    """

    ring: Points
    turns: tuple[float, ...] = (0.0, math.pi)
    pitch: tuple[float, float] = (0.0, 0.0)
    start: tuple[float, float] = (0.0, 0.0)
    level: float | None = None
    free: bool = False

    @cached_property
    def ways(self) -> tuple[Way, ...]:
        """All the ways it may lie; turns that give the same again are left out."""
        made: list[Way] = []
        for turn in self.turns:
            at = turned(np.array([self.start]), turn)[0]
            way = Way(turned(self.ring, turn), turn, self.pitch, (float(at[0]), float(at[1])), self.level)
            if any(self.pitch) or not any(_same(way, known) for known in made):
                made.append(way)
        return tuple(made)

    @cached_property
    def area(self) -> float:
        """Its area, mm²."""
        return float(shapely.Polygon(self.ring).area)


@dataclass(frozen=True, eq=False)
class Way:
    """A shape turned as it will lie, with what holds for its place."""

    ring: Points
    turn: float = 0.0
    pitch: tuple[float, float] = (0.0, 0.0)
    start: tuple[float, float] = (0.0, 0.0)
    level: float | None = None

    @cached_property
    def parts(self) -> list[Points]:
        """Its convex parts."""
        return convex_parts(self.ring)

    @cached_property
    def sides(self) -> tuple[Sides, ...]:
        """The sides of its convex parts."""
        return tuple(sides_of(part) for part in self.parts)

    @cached_property
    def sides_over(self) -> tuple[Sides, ...]:
        """The sides of these parts turned over, in which it meets what is fixed."""
        return tuple(sides_of(-part) for part in self.parts)

    @cached_property
    def largest(self) -> Points:
        """The largest of its convex parts."""
        return max(self.parts, key=lambda part: float(shapely.Polygon(part).area))

    @cached_property
    def low(self) -> Points:
        """The left lower corner of its box."""
        corner: Points = self.ring.min(axis=0)
        return corner

    @cached_property
    def high(self) -> Points:
        """The right upper corner of its box."""
        corner: Points = self.ring.max(axis=0)
        return corner


@dataclass(eq=False)
class Meetings:
    """Where ways may not lie beside one another, worked out once for each pair."""

    known: dict[tuple[int, int], tuple[Way, Way, Regions]]

    def of(self, fixed: Way, moving: Way) -> Regions:
        """Where the moving one's origin may not lie beside the fixed one at its own origin."""
        key = id(fixed), id(moving)
        found = self.known.get(key)
        if found is None:
            found = self.known[key] = (
                fixed,
                moving,
                meeting(fixed.sides, moving.sides_over),
            )  # holds both, so that no id is used twice
        return found[2]


def turned(points: Points, by: float) -> Points:
    """Points turned around the origin; quarter turns exactly."""
    c, s = (round(v) if abs(v - round(v)) < 1e-15 else v for v in (math.cos(by), math.sin(by)))
    ring: Points = points @ np.array(((c, s), (-s, c)))
    return ring


def _same(one: Way, other: Way) -> bool:
    """Whether two ways are the same but for where they lie."""
    if len(one.ring) != len(other.ring) or not np.allclose(one.high - one.low, other.high - other.low, atol=SAME_POINT):
        return False
    first, second = (shapely.Polygon(way.ring - way.low) for way in (one, other))
    return bool(shapely.equals_exact(first.normalize(), second.normalize(), SAME_POINT * 100.0))
