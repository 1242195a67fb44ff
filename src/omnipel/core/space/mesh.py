"""Surfaces for the sketch: rings of points joined by faces, and polylines that are always drawn.

Frame: x to the right, y away from the viewer, z up; z = 0 on the ground. mm.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from omnipel.core.space.frames import Solid

AROUND = 48
"""Faces around a round body: round to the eye at 400 px, and few enough to draw in a frame."""
CREASE = 0.6
"""Radians. Two faces that meet at more than this have a line between them; a round body's own facets do not."""


@dataclass(frozen=True, slots=True)
class Face:
    """A flat or nearly flat polygon `(n, 3)`, counter-clockwise seen from outside, and what it belongs to."""

    points: Solid
    part: str = "object"


@dataclass(frozen=True)
class Mesh:
    """Faces; the lines between them follow from their angles."""

    faces: tuple[Face, ...] = ()

    def __add__(self, other: "Mesh") -> "Mesh":
        return Mesh((*self.faces, *other.faces))

    @cached_property
    def corners(self) -> tuple[Solid, NDArray[np.intp], NDArray[np.intp]]:
        """All corners `(c, 3)`, the face each belongs to `(c,)`, and the index of the next corner of that face `(c,)`."""
        sizes = np.array([len(face.points) for face in self.faces], dtype=np.intp)
        points = np.concatenate([face.points for face in self.faces])
        owner = np.repeat(np.arange(len(sizes)), sizes)
        following = np.arange(1, len(points) + 1)
        lasts = np.cumsum(sizes) - 1
        following[lasts] = lasts - sizes + 1
        return points, owner, following

    @cached_property
    def normals(self) -> Solid:
        """Unit normals of the faces after Newell, sound for slightly bent and concave ones, `(n, 3)`."""
        points, owner, following = self.corners
        a, b = points, points[following]
        steps = np.column_stack(
            (
                (a[:, 1] - b[:, 1]) * (a[:, 2] + b[:, 2]),
                (a[:, 2] - b[:, 2]) * (a[:, 0] + b[:, 0]),
                (a[:, 0] - b[:, 0]) * (a[:, 1] + b[:, 1]),
            )
        )
        made = np.add.reduceat(steps, np.flatnonzero(np.diff(owner, prepend=-1)), axis=0)
        sizes = np.linalg.norm(made, axis=1, keepdims=True)
        return np.asarray(made / np.where(sizes > 0.0, sizes, 1.0))

    @cached_property
    def middles(self) -> Solid:
        """Middles of the faces, `(n, 3)`."""
        points, owner, _ = self.corners
        starts = np.flatnonzero(np.diff(owner, prepend=-1))
        return np.asarray(np.add.reduceat(points, starts, axis=0) / np.bincount(owner)[:, None])

    @cached_property
    def edges(self) -> tuple[Solid, NDArray[np.intp]]:
        """Edges as pairs of ends `(e, 2, 3)` and the two faces that meet there `(e, 2)`, −1 for none."""
        points, owner, following = self.corners
        # Corners at the same place get the same number, so that faces find their neighbours.
        keys = np.round(points * 1000.0).astype(np.int64)
        keys -= keys.min(axis=0)
        spans = keys.max(axis=0) + 1
        flat = (keys[:, 0] * spans[1] + keys[:, 1]) * spans[2] + keys[:, 2]
        _, number = np.unique(flat, return_inverse=True)
        low, high = np.minimum(number, number[following]), np.maximum(number, number[following])
        names = low * (number.max() + 1) + high
        order = np.flatnonzero(low != high)
        order = order[np.argsort(names[order], kind="stable")]
        first = np.flatnonzero(np.diff(names[order], prepend=-1))
        second = np.minimum(first + 1, len(order) - 1)
        shared = (names[order[second]] == names[order[first]]) & (second > first)
        sides = np.column_stack((owner[order[first]], np.where(shared, owner[order[second]], -1)))
        return np.stack((points[order[first]], points[following[order[first]]]), axis=1), sides


def ring(radius: float, z: float, count: int = AROUND) -> Solid:
    """A level circle, counter-clockwise from above, `(count, 3)`, its first point towards the viewer."""
    angles = np.linspace(0.0, 2.0 * math.pi, count, endpoint=False) - math.pi / 2.0
    return np.column_stack((radius * np.cos(angles), radius * np.sin(angles), np.full(count, z)))


def level(outline: NDArray[np.float64], z: float) -> Solid:
    """A flat outline `(n, 2)` at height z, `(n, 3)`."""
    return np.column_stack((outline, np.full(len(outline), z)))


def loft(rings: Sequence[Solid], part: str = "object", *, top: bool = True, bottom: bool = True) -> Mesh:
    """Join rings of equal count, counter-clockwise from above, from the lowest to the highest; close the ends if asked."""
    faces = []
    for low, high in zip(rings, rings[1:], strict=False):
        low_next, high_next = np.roll(low, -1, axis=0), np.roll(high, -1, axis=0)
        quads = np.stack((low, low_next, high_next, high), axis=1)
        faces += [Face(quad, part) for quad in quads]
    if top:
        faces.append(Face(rings[-1], part))
    if bottom:
        faces.append(Face(rings[0][::-1], part))
    return Mesh(tuple(faces))


def block(
    middle: tuple[float, float, float], out: float, reach: float, wide: float, high: float, part: str = "sticks out"
) -> Mesh:
    """A block that stands out from a surface: at `middle` on it, pointing in level direction `out` (radians)."""
    away, along = np.array([math.cos(out), math.sin(out)]), np.array([-math.sin(out), math.cos(out)])
    base = np.array(middle[:2])
    corners = np.array(
        [
            base - along * wide / 2,
            base + away * reach - along * wide / 2,
            base + away * reach + along * wide / 2,
            base + along * wide / 2,
        ]
    )
    return loft([level(corners, middle[2] - high / 2), level(corners, middle[2] + high / 2)], part)


def closed(points: Solid) -> Solid:
    """The ring with its first point again at the end."""
    return np.concatenate((points, points[:1]))
