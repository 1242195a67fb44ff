"""Convex parts of outlines, and where one part would meet another: the sum of one and the other turned over (Minkowski).

A *part* is a convex ring, counter-clockwise, `(n, 2)`, mm. Where a moving part may not lie is a convex region, too: a point of the moving piece, its
origin, is in it exactly when the two parts share area. Regions are held as half-planes: inside is where `normals @ p < offsets` for all of them.
"""

from __future__ import annotations

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
    done = False
    while not done:
        done = True
        edges = {(face[k - 1], face[k]): i for i, face in enumerate(faces) for k in range(len(face))}
        for (a, b), i in edges.items():
            j = edges.get((b, a))
            if j is None or i == j:
                continue
            one, other = faces[i], faces[j]
            at, there = one.index(b), other.index(a)
            both = one[at:] + one[:at] + (other[there:] + other[:there])[1:-1]
            if is_convex(ring[both]):
                faces = [face for k, face in enumerate(faces) if k not in (i, j)] + [both]
                done = False
                break
    return faces


def summed(one: Points, other: Points) -> Points:
    """The sum of two convex rings: all points of one plus all of the other, a convex ring, counter-clockwise."""
    steps = []
    for ring in (one, other):
        lowest = int(np.lexsort((ring[:, 0], ring[:, 1]))[0])
        begun = np.roll(ring, -lowest, axis=0)
        steps.append((begun[0], np.roll(begun, -1, axis=0) - begun))
    along = np.concatenate([edges for _, edges in steps])
    heading = np.arctan2(along[:, 1], along[:, 0]) % (2.0 * np.pi)
    order = np.argsort(heading, kind="stable")
    reached: Points = np.cumsum(along[order], axis=0)
    both: Points = np.concatenate(([np.zeros(2)], reached[:-1])) + steps[0][0] + steps[1][0]
    return both


def planes(ring: Points) -> tuple[Floats, Floats]:
    """The half-planes of a convex ring: outward unit normals and offsets; edges of no length are left out."""
    along = np.roll(ring, -1, axis=0) - ring
    long = np.hypot(*along.T)
    kept = long > 1e-9
    normals = np.column_stack((along[kept, 1], -along[kept, 0])) / long[kept, None]
    return normals, (normals * ring[kept]).sum(axis=1)


def regions_of(rings: list[Points]) -> Regions:
    """Convex rings as rows of half-planes."""
    rows = [planes(ring) for ring in rings]
    most = max(len(offsets) for _, offsets in rows)
    normals = np.stack([np.concatenate((n, np.repeat(n[-1:], most - len(n), axis=0))) for n, _ in rows])
    offsets = np.stack([np.concatenate((c, np.repeat(c[-1:], most - len(c)))) for _, c in rows])
    low, high = (np.array([pick(ring, axis=0) for ring in rings]) for pick in (np.min, np.max))
    return Regions(normals, offsets, low, high, np.unique(np.concatenate([ring[:, 1] for ring in rings])))


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


def meeting(fixed: list[Points], moving: list[Points]) -> Regions:
    """Where the origin of a moving piece, given by its convex parts, may not lie beside a fixed one."""
    return regions_of([summed(part, -other) for part in fixed for other in moving])
