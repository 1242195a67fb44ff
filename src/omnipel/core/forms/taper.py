"""Boxes whose left end is narrower or lower than the right one: their plan is a trapezoid, their top a plane that falls to the left (and to the front).

Seen from above the front and the back run straight from end to end; both ends are upright, and as high at the back as was measured there.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.forms.form import Part, Place
from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Solid
from omnipel.core.space.occupied import Planes
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

LEFT_WIDTH: Final = Place(
    "left_width",
    tr("width of the left end"),
    tr("From front to back at the left end, when that is narrower than the right one."),
    240.0,
    ("left_width",),
    effort=3.0,
)
LEFT_HEIGHT: Final = Place(
    "left_height",
    tr("height of the left end"),
    tr("From the ground to the upper edge of the left end, at the back, when that is lower than the right one."),
    560.0,
    ("left_height",),
    effort=3.0,
)
TELLS: Final = 3.0
"""Ends that differ by no more than this are equal, and a front that is lower than the back by no more is level, mm."""
UPRIGHT: Final = ((1, 4), (1, 2), (3, 2), (3, 4))
"""The two walls that meet in each corner, from the front left around to the right, by their numbers among the planes."""
PARTS: Final[Mapping[str, Part]] = {
    "left_width": Part("left_width", tr("width of the left end"), 240.0, needed=False),
    "left_height": Part("left_height", tr("height of the left end"), 560.0, needed=False),
}


@dataclass(frozen=True, slots=True)
class LeftEnd:
    """The left end of a box that differs from the right one."""

    width: Worked
    height: Worked


def slopes(body: Any) -> bool:
    """Whether the front is lower than the back."""
    front, height = getattr(body, "front_height", None), getattr(body, "height", None)
    return front is not None and height is not None and height.value - front.value > TELLS


def tapers(body: Any) -> bool:
    """Whether the left end is narrower, wider or lower than the right one."""
    left = getattr(body, "left", None)
    sizes = ((left.width, body.width), (left.height, body.height)) if left is not None else ()
    return any(abs(one.value - other.value) > TELLS for one, other in sizes)


def girth_of(length: float, width: float, left: float) -> float:
    """Around a plan with unequal ends: L, and both sides by Pythagoras.

    >>> girth_of(30.0, 10.0, 10.0)
    80.0
    """
    return width + left + 2.0 * math.hypot(length, (width - left) / 2.0)


def plan(length: float, width: float, left: float) -> Points:
    """The level outline, counter-clockwise from the front left, `(4, 2)`."""
    x = length / 2.0
    return np.array([(-x, -left / 2.0), (x, -width / 2.0), (x, width / 2.0), (-x, left / 2.0)])


@dataclass(frozen=True, slots=True)
class Tilted:
    """A box with walls upright and a plane top, as numbers: its right end `width` by `height` (at the back) and `front`, its left end; mm."""

    length: float
    width: float
    height: float
    front: float
    left_width: float
    left_height: float

    @property
    def top(self) -> tuple[float, float, float]:
        """Height in the middle of the top, and how much it rises for each mm to the right and to the back."""
        back = (self.height - self.front) / self.width
        right, left = self.height - back * self.width / 2.0, self.left_height - back * self.left_width / 2.0
        return (right + left) / 2.0, (right - left) / self.length, back

    @property
    def planes(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Outward unit normals `(5, 3)` of top, front, right, back, left, and how far out they lie `(5,)`."""
        middle, to_right, to_back = self.top
        slant = (self.width - self.left_width) / (2.0 * self.length)
        half = (self.width + self.left_width) / 4.0
        normals = np.array(
            [(-to_right, -to_back, 1.0), (-slant, -1.0, 0.0), (1.0, 0.0, 0.0), (-slant, 1.0, 0.0), (-1.0, 0.0, 0.0)]
        )
        reach = np.array([middle, half, self.length / 2.0, half, self.length / 2.0])
        sizes = np.linalg.norm(normals, axis=1)
        return normals / sizes[:, None], reach / sizes

    def corners(self, out: float, floor: float) -> Solid:
        """The corners of the five planes moved outward and of the level at `floor`: upper then lower, each from the front left to the right, `(8, 3)`."""
        normals, reach = self.planes
        reach = reach + out
        lids = ((normals[0], reach[0]), (np.array((0.0, 0.0, 1.0)), floor))
        met = [
            ((lid, normals[one], normals[other]), (at, reach[one], reach[other])) for lid, at in lids for one, other in UPRIGHT
        ]
        planes = np.array([directions for directions, _ in met])
        return np.asarray(np.linalg.solve(planes, np.array([far for _, far in met])[:, :, None])[:, :, 0])

    @property
    def occupied(self) -> Planes:
        """The room that it takes up."""
        normals, reach = self.planes
        upper, lower = np.split(self.corners(0.0, 0.0), 2)
        edges = [(ring[k - 1], ring[k]) for ring in (upper, lower) for k in range(4)] + list(zip(upper, lower, strict=True))
        return Planes(np.vstack((normals, (0.0, 0.0, -1.0))), np.append(reach, 0.0), np.array(edges))
