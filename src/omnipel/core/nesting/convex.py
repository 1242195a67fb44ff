"""Convex parts of outlines, and where one part would meet another: the sum of one and the other turned over (Minkowski).

A *part* is a convex ring, counter-clockwise, `(n, 2)`, mm. Where a moving part may not lie is a convex region, too: a point of the moving piece, its
origin, is in it exactly when the two parts share area. Regions are held as half-planes: inside is where `normals @ p < offsets` for all of them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
import numpy.typing as npt
import shapely

from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import STRAIGHT_ANGLE

Floats = npt.NDArray[np.float64]

TOUCH: Final = 1e-10
"""What touches does not overlap, mm: rounding only."""


@dataclass(frozen=True)
class Regions:
    """Convex regions as rows of half-planes.

    Args:
        normals: outward unit normals, `(m, k, 2)`; a row with fewer planes repeats the last.
        offsets: how far out they lie from the origin, `(m, k)`, mm.
        low, high: corners of the regions' boxes, `(m, 2)`.
        corners: heights of all corners, `(c,)`, for levels worth looking at; also of those that were left out.
    """

    normals: Floats
    offsets: Floats
    low: Floats
    high: Floats
    corners: Floats

    def near(self, bottom: float, top: float, first: float, most: float) -> Regions | None:
        """Those that count for a point between two heights, from one x to another; None where none does."""
        kept = (
            (self.low[:, 1] < top + TOUCH)
            & (self.high[:, 1] > bottom - TOUCH)
            & (self.high[:, 0] > first)
            & (self.low[:, 0] <= most)
        )
        if kept.all():
            return self
        return (
            Regions(self.normals[kept], self.offsets[kept], self.low[kept], self.high[kept], self.corners) if kept.any() else None
        )

    @property
    def upright(self) -> bool:
        """Whether all of them are rectangles that lie as the cloth does: what is best lies at a corner then."""
        return self.offsets.shape[1] <= 4 and bool((np.abs(self.normals).max(axis=2) > 1.0 - STRAIGHT_ANGLE).all())

    def moved(self, by: Floats) -> Regions:
        """The same regions elsewhere."""
        return Regions(self.normals, self.offsets + self.normals @ by, self.low + by, self.high + by, self.corners + by[1])


def is_convex(ring: Points) -> bool:
    """Whether a counter-clockwise ring has no inward corner."""
    return inward(ring) == 0


def inward(ring: Points) -> int:
    """How many inward corners a counter-clockwise ring has."""
    along = np.roll(ring, -1, axis=0) - ring
    after = np.roll(along, -1, axis=0)
    turn = along[:, 0] * after[:, 1] - along[:, 1] * after[:, 0]
    return int((turn < -STRAIGHT_ANGLE * np.hypot(*along.T).max() ** 2).sum())


def convex_parts(ring: Points) -> list[Points]:
    """Convex rings that cover a counter-clockwise ring, and nothing else: its triangles, joined while they stay convex (Hertel and Mehlhorn)."""
    if is_convex(ring):
        return [ring]
    triangles = shapely.get_parts(shapely.constrained_delaunay_triangles(shapely.Polygon(ring)))
    index = {(float(x), float(y)): i for i, (x, y) in enumerate(ring)}
    faces: list[list[int]] = []
    for triangle in triangles:
        corners = shapely.get_coordinates(shapely.orient_polygons(triangle))[:3]
        faces.append([index[float(x), float(y)] for x, y in corners])
    return [ring[face] for face in _joined(ring, faces)]


def _joined(ring: Points, faces: list[list[int]]) -> list[list[int]]:
    """Faces joined over edges that they share, while what comes of it is convex."""
    points, straight = ring.tolist(), -STRAIGHT_ANGLE * float(np.ptp(ring, axis=0).max()) ** 2

    def bends_in(a: int, b: int, c: int) -> bool:
        (ax, ay), (bx, by), (cx, cy) = points[a], points[b], points[c]
        return bool((bx - ax) * (cy - by) - (by - ay) * (cx - bx) < straight)

    of_edge = {(face[k - 1], face[k]): i for i, face in enumerate(faces) for k in range(len(face))}
    made = dict(enumerate(faces))
    for a, b in list(of_edge):
        i, j = of_edge[a, b], of_edge.get((b, a))
        if j is None or i == j or a > b:
            continue
        at, there = made[i].index(b), made[j].index(a)
        one, other = made[i][at:] + made[i][:at], made[j][there:] + made[j][:there]  # from b to a, from a to b
        if not bends_in(one[-2], a, other[1]) and not bends_in(other[-2], b, one[1]):
            made[i] = one + other[1:-1]
            for k, corner in enumerate(other):
                of_edge[other[k - 1], corner] = i
            del made[j]
    return list(made.values())


@dataclass(frozen=True)
class Sides:
    """A convex ring by its sides, from its lowest corner on.

    Args:
        begin: the lowest corner, of several the leftmost, `(2,)`.
        along: from corner to corner, `(n, 2)`.
        heading: of each side, from 0 up to a full turn, radians.
        normals: of each, outward and of length 1, `(n, 2)`.
    """

    begin: Floats
    along: Floats
    heading: Floats
    normals: Floats


def sides_of(ring: Points) -> Sides:
    """The sides of a convex ring, counter-clockwise; those of no length are left out."""
    lowest = int(np.lexsort((ring[:, 0], ring[:, 1]))[0])
    begun = np.concatenate((ring[lowest:], ring[: lowest + 1]))
    along = begun[1:] - begun[:-1]
    long = np.hypot(along[:, 0], along[:, 1])
    if not (kept := long > 1e-9).all():
        along, long = along[kept], long[kept]
    normals = np.column_stack((along[:, 1], -along[:, 0])) / long[:, None]
    return Sides(begun[0], along, np.arctan2(along[:, 1], along[:, 0]) % (2.0 * np.pi), normals)


def summed(one: Sides, other: Sides) -> tuple[Points, Floats]:
    """The sum of two convex rings, all points of one plus all of the other: a convex ring, counter-clockwise, and the normals of its sides."""
    order = np.argsort(np.concatenate((one.heading, other.heading)), kind="stable")
    ring = np.empty((len(order), 2))
    ring[0] = one.begin + other.begin
    ring[1:] = np.concatenate((one.along, other.along))[order[:-1]]
    return np.cumsum(ring, axis=0), np.concatenate((one.normals, other.normals))[order]


def stacked(several: list[Regions]) -> Regions:
    """Regions as one."""
    most = max(each.offsets.shape[1] for each in several)
    normals, offsets = [], []
    for each in several:
        more = most - each.offsets.shape[1]
        normals.append(
            np.concatenate((each.normals, np.repeat(each.normals[:, -1:], more, axis=1)), axis=1) if more else each.normals
        )
        offsets.append(
            np.concatenate((each.offsets, np.repeat(each.offsets[:, -1:], more, axis=1)), axis=1) if more else each.offsets
        )
    return Regions(
        np.concatenate(normals),
        np.concatenate(offsets),
        np.concatenate([each.low for each in several]),
        np.concatenate([each.high for each in several]),
        np.concatenate([each.corners for each in several]),
    )


def meeting(fixed: Sequence[Sides], moving: Sequence[Sides]) -> Regions:
    """Where the origin of a moving piece may not lie beside a fixed one.

    Args:
        fixed: the convex parts of the fixed one.
        moving: those of the moving one, turned over.
    """
    sums = [summed(part, other) for part in fixed for other in moving]
    most = max(len(ring) for ring, _ in sums)
    normals, offsets, boxes = np.empty((len(sums), most, 2)), np.empty((len(sums), most)), np.empty((2, len(sums), 2))
    for k, (ring, outward) in enumerate(sums):
        many = len(ring)
        normals[k, :many], normals[k, many:] = outward, outward[-1]
        offsets[k, :many] = np.einsum("ij,ij->i", outward, ring)
        offsets[k, many:] = offsets[k, many - 1]
        boxes[0, k], boxes[1, k] = ring.min(axis=0), ring.max(axis=0)
    return Regions(normals, offsets, boxes[0], boxes[1], np.unique(np.concatenate([ring[:, 1] for ring, _ in sums])))
