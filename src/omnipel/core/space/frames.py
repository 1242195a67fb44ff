"""Frames: a flat plane standing somewhere in space, with its right and its up as a person sees it from outside.

Frame of the object: x to the right, y away from the viewer, z up; the ground or the lower edge at z = 0. mm.
"""

from dataclasses import dataclass
from enum import StrEnum
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.plane.curves import Points

Solid = NDArray[np.float64]
"""`(n, 3)` array of x, y, z in mm."""
Vector = tuple[float, float, float]


class Side(StrEnum):
    """A side of the object, looked at from outside."""

    FRONT = "front"
    RIGHT = "right"
    BACK = "back"
    LEFT = "left"
    TOP = "top"
    BELOW = "below"


RIGHT_AND_UP: Final[dict[Side, tuple[Vector, Vector]]] = {
    Side.FRONT: ((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    Side.RIGHT: ((0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    Side.BACK: ((-1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    Side.LEFT: ((0.0, -1.0, 0.0), (0.0, 0.0, 1.0)),
    Side.TOP: ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    Side.BELOW: ((1.0, 0.0, 0.0), (0.0, -1.0, 0.0)),
}
"""What lies to the right and what lies up when one looks at a side."""


@dataclass(frozen=True, slots=True)
class Frame:
    """A plane in space: where its origin is, and where its right and its up point; unit vectors, square to one another."""

    origin: Vector = (0.0, 0.0, 0.0)
    right: Vector = (1.0, 0.0, 0.0)
    up: Vector = (0.0, 1.0, 0.0)

    def at(self, points: Points) -> Solid:
        """Points of the plane in space."""
        return np.asarray(self.origin + points @ np.array((self.right, self.up)))

    @property
    def out(self) -> Vector:
        """Square to the plane, towards who looks at it."""
        (a, b, c), (d, e, f) = self.right, self.up
        return b * f - c * e, c * d - a * f, a * e - b * d


def looking_at(side: Side, place: Vector, flat: tuple[float, float] = (0.0, 0.0)) -> Frame:
    """The plane of a side in which the flat point `flat` lies at `place`."""
    right, up = RIGHT_AND_UP[side]
    origin = np.array(place) - flat[0] * np.array(right) - flat[1] * np.array(up)
    return Frame((float(origin[0]), float(origin[1]), float(origin[2])), right, up)


def crossed(a: Solid, b: Solid) -> Solid:
    """The cross products of vectors, `(n, 3)` each: the library's own takes as long again to find out what shape they have."""
    made = np.empty(np.broadcast_shapes(a.shape, b.shape))
    made[..., 0] = a[..., 1] * b[..., 2] - a[..., 2] * b[..., 1]
    made[..., 1] = a[..., 2] * b[..., 0] - a[..., 0] * b[..., 2]
    made[..., 2] = a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0]
    return made


def lengths(v: NDArray[np.float64]) -> NDArray[np.float64]:
    """The lengths of vectors along the last axis."""
    return np.asarray(np.sqrt(np.einsum("...i,...i->...", v, v)))


def vector(v: NDArray[np.float64]) -> Vector:
    """Three numbers of an array."""
    return float(v[0]), float(v[1]), float(v[2])
