"""What an object takes up: how far points are from its surface.

Every form says what it takes up as prisms and turned bodies; distances are positive outside. Points `(n, 3)`, mm.
"""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Frame, Solid

Gaps = NDArray[np.float64]
"""`(n,)` distances to a surface, mm; negative inside."""


class Occupied(Protocol):
    """What is taken up."""

    def gaps(self, points: Solid) -> Gaps:
        """How far points lie outside of it; negative inside."""


@dataclass(frozen=True, eq=False)
class Prism:
    """An outline drawn out square to its plane.

    Args:
        outline: closed ring without repeated end, `(k, 2)`.
        low, high: how far it is drawn out from the plane: towards the back and towards who looks at it.
        frame: its plane.
    """

    outline: Points
    low: float
    high: float
    frame: Frame

    @cached_property
    def _polygon(self) -> BaseGeometry:
        polygon = shapely.make_valid(shapely.Polygon(self.outline))
        shapely.prepare(polygon)
        return polygon

    def gaps(self, points: Solid) -> Gaps:
        """How far points lie outside."""
        away = points - np.array(self.frame.origin)
        flat = away @ np.array((self.frame.right, self.frame.up)).T
        out = away @ np.array(self.frame.out)
        return _both(_from(self._polygon, flat), np.maximum(self.low - out, out - self.high))


@dataclass(frozen=True, eq=False)
class Planes:
    """What lies within some planes.

    Args:
        normals: outward unit normals `(k, 3)`.
        reach: how far out each plane lies, mm `(k,)`.
        edges: where two of them meet, begin and end `(m, 2, 3)`.
    """

    normals: NDArray[np.float64]
    reach: NDArray[np.float64]
    edges: NDArray[np.float64]

    def gaps(self, points: Solid) -> Gaps:
        """How far points lie outside: from the face that is met square to it, else from the nearest edge."""
        off = points @ self.normals.T - self.reach
        outside = off.max(axis=1)
        # A foot on a plane counts where it lies within all the others.
        feet = points[:, None, :] - off[:, :, None] * self.normals[None, :, :]
        within = ((feet @ self.normals.T - self.reach) < WITHIN).all(axis=2) & (off > 0.0)
        square = np.where(within, off, math.inf).min(axis=1)
        begin, step = self.edges[:, 0], self.edges[:, 1] - self.edges[:, 0]
        away = points[:, None, :] - begin
        share = np.clip((away * step).sum(axis=2) / (step * step).sum(axis=1), 0.0, 1.0)
        beside = np.linalg.norm(away - share[:, :, None] * step, axis=2).min(axis=1)
        return np.asarray(np.where(outside <= 0.0, outside, np.minimum(square, beside)))


@dataclass(frozen=True, eq=False)
class TurnedBody:
    """A profile turned about an axis: distance from the axis and height along it, from the lowest up, `(k, 2)`."""

    profile: Points
    frame: Frame = Frame()

    @cached_property
    def _polygon(self) -> BaseGeometry:
        polygon = shapely.make_valid(shapely.Polygon(np.vstack((self.profile, self.profile[::-1] * (-1.0, 1.0)))))
        shapely.prepare(polygon)
        return polygon

    def gaps(self, points: Solid) -> Gaps:
        """How far points lie outside."""
        away = points - np.array(self.frame.origin)
        flat = away @ np.array((self.frame.right, self.frame.up)).T
        return _from(self._polygon, np.column_stack((np.hypot(flat[:, 0], flat[:, 1]), away @ np.array(self.frame.out))))


@dataclass(frozen=True, eq=False)
class All:
    """Several things together."""

    parts: tuple[Occupied, ...]

    def gaps(self, points: Solid) -> Gaps:
        """How far points lie outside of the nearest."""
        if not self.parts:
            return np.full(len(points), math.inf)
        return np.asarray(np.min([part.gaps(points) for part in self.parts], axis=0))


WITHIN = 1e-9
"""A place no further outside of a plane lies on it, mm."""
FEW = 40
"""A polygon with no more sides than this is measured against all of them at once."""


def _from(polygon: BaseGeometry, flat: Points) -> Gaps:
    """Signed distance of points of a plane from a polygon."""
    if isinstance(polygon, shapely.Polygon) and not polygon.interiors and len(polygon.exterior.coords) <= FEW:
        return _from_ring(np.asarray(polygon.exterior.coords), flat)
    away = shapely.distance(polygon.boundary, shapely.points(flat))
    return np.asarray(np.where(shapely.contains_xy(polygon, flat), -away, away))


def _from_ring(ring: Points, flat: Points) -> Gaps:
    """The same for a closed ring of few sides."""
    a, steps = ring[:-1], np.diff(ring, axis=0)
    sizes = (steps * steps).sum(axis=1)
    away = flat[:, None, :] - a[None, :, :]
    share = np.clip((away * steps).sum(axis=2) / np.where(sizes > 0.0, sizes, 1.0), 0.0, 1.0)
    off = away - share[:, :, None] * steps
    gaps = np.sqrt((off * off).sum(axis=2).min(axis=1))
    # A ray to the right crosses the ring an odd number of times from inside.
    above = a[None, :, 1] > flat[:, None, 1]
    crosses = above != np.roll(above, -1, axis=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        at = a[:, 0] + (flat[:, None, 1] - a[:, 1]) * np.where(steps[:, 1] != 0.0, steps[:, 0] / steps[:, 1], 0.0)
    inside = ((crosses & (at > flat[:, None, 0])).sum(axis=1) % 2).astype(bool)
    return np.asarray(np.where(inside, -gaps, gaps))


def _both(first: Gaps, second: Gaps) -> Gaps:
    """Distance from what lies within both of two distances square to one another."""
    beyond = np.hypot(np.maximum(first, 0.0), np.maximum(second, 0.0))
    return np.asarray(np.where((first > 0.0) | (second > 0.0), beyond, np.maximum(first, second)))


def cylinder(radius: float, low: float, high: float) -> TurnedBody:
    """An upright cylinder from one height to another."""
    return TurnedBody(np.array([(radius, low), (radius, high)]))


def lying_box(length: float, width: float, low: float, high: float) -> Prism:
    """A box about the z axis, `length` along x, from one height to another."""
    x, y = length / 2.0, width / 2.0
    return Prism(np.array([(-x, -y), (x, -y), (x, y), (-x, y)]), low, high, Frame())


def drawn_across(ring: Points, width: float) -> Prism:
    """A side outline, seen from the right with its front at x = 0, drawn out across the object."""
    deep = float(ring[:, 0].max()) / 2.0
    return Prism(ring, -width / 2.0, width / 2.0, Frame((0.0, -deep, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)))
