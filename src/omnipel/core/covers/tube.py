"""A tube with a rectangular section, closed flat at one end or both: cases, sleeves, envelopes.

Closed flat, the tube has on each of its wide sides a flap half as deep as the tube is thick, which lies on the end and meets its
partner on the middle line. What is left of a narrow side is the *ear*: a triangle as wide as the tube is thick and half as high, in
two layers, which stands out beyond the end. It is stitched across and cut off (boxed), or stays.

The tube's own frame: `s` runs around, beginning at the middle of its left narrow side and coming to the front first; `v` runs up its axis.
"""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.drafting.panel import Figure, MarkKind
from omnipel.core.plane.curves import Points
from omnipel.core.space.cells import counter_clockwise, rectangle_cell
from omnipel.core.space.frames import Frame, Vector, vector
from omnipel.core.space.placements import Folded
from omnipel.core.tolerances import LONGEST, SAME_POINT

FAR = 10.0 * LONGEST
"""Beyond everything, mm."""


@dataclass(frozen=True, slots=True)
class Tube:
    """A tube.

    Args:
        wide, thick: of its section, mm.
        low, high: `v` of the folds at its lower and upper end, or of the end where it is open.
        closed_below, closed_above: which ends are closed flat.
        origin: where the middle of the section at `low` lies.
        across: the direction of its width.
        up: the direction of its axis.
    """

    wide: float
    thick: float
    low: float
    high: float
    closed_below: bool
    closed_above: bool
    origin: Vector
    across: Vector = (1.0, 0.0, 0.0)
    up: Vector = (0.0, 0.0, 1.0)

    @property
    def around(self) -> float:
        """Once around it."""
        return 2.0 * (self.wide + self.thick)

    def place(self, begin: float = 0.0) -> Folded:
        """Where every point (s, v) of it lies; `s` counted from `begin`, mm, and once around."""
        return Folded(tuple(_begun(self._parts(), begin, self.around) if begin else self._parts()))

    def _parts(self) -> list[tuple[Points, Frame]]:
        """Its sides, flaps and ears."""
        a, b, half, p = self.wide, self.thick, self.thick / 2.0, self.around
        x, z = np.array(self.across), np.array(self.up)
        y = np.cross(z, x)
        corners = (0.0, half, half + a, half + a + b, half + 2.0 * a + b, p)
        # Where each side begins, which way it runs; the left side is parted by the beginning.
        begins = (-a / 2 * x, -a / 2 * x - half * y, a / 2 * x - half * y, a / 2 * x + half * y, -a / 2 * x + half * y)
        ways = (-y, x, y, -x, -y)
        low = np.array(self.origin)
        parts = [
            (rectangle_cell(s, self.low, e, self.high), _frame(low + begin - s * way - self.low * z, way, z))
            for s, e, begin, way in zip(corners, corners[1:], begins, ways, strict=False)
        ]
        for closed, at, sign in ((self.closed_below, self.low, -1.0), (self.closed_above, self.high, 1.0)):
            if closed:
                parts += self._end(at, sign, (x, y, z))
        return parts

    def _end(self, at: float, sign: float, axes: tuple[NDArray[np.float64], ...]) -> list[tuple[Points, Frame]]:
        """Flaps and ears of one end; `sign` is −1 below."""
        x, y, z = axes
        a, half, p = self.wide, self.thick / 2.0, self.around
        middle = np.array(self.origin) + (at - self.low) * z
        beyond = at + sign * half
        flaps = [
            (((0.0, beyond), (p / 2, beyond), (p / 2 - half, at), (half, at)), half, -a / 2 * x - half * y, x, y),
            (((p / 2, beyond), (p, beyond), (p - half, at), (p / 2 + half, at)), p / 2 + half, a / 2 * x + half * y, -x, -y),
        ]
        ears = [
            (((p / 2 - half, at), (p / 2, beyond), (p / 2 + half, at)), p / 2 - half, a / 2 * x - half * y, y, x),
            (((0.0, at), (0.0, beyond), (half, at)), 0.0, -a / 2 * x, -y, -x),
            (((p - half, at), (p, beyond), (p, at)), p - half, -a / 2 * x + half * y, -y, -x),
        ]
        return [
            (counter_clockwise(corners), _frame(middle + begin - s * way - at * (sign * inward), way, sign * inward))
            for corners, s, begin, way, inward in (*flaps, *ears)
        ]


def boxed(name: str, left: float, low: float, right: float, high: float) -> Figure:
    """What a boxed corner takes off a tube laid flat: half as deep as the tube is thick, on both sides of its fold; stitched along its sides, then cut off."""
    return Figure(name, np.array([(left, low), (right, low), (right, high), (left, high)]), MarkKind.BOXED, closed=True)


def _begun(parts: list[tuple[Points, Frame]], begin: float, around: float) -> list[tuple[Points, Frame]]:
    """The parts with `s` counted from another place: one that lies across it is parted there."""
    made = []
    for cell, frame in parts:
        for low, shift in ((begin, -begin), (begin - around, around - begin)):
            shape = shapely.Polygon(cell).intersection(shapely.box(low, -FAR, low + around, FAR))
            if isinstance(shape, shapely.Polygon) and shape.area > SAME_POINT:
                ring = shapely.get_coordinates(shape.normalize())[-2::-1] + (shift, 0.0)
                origin = np.array(frame.origin) - shift * np.array(frame.right)
                made.append((counter_clockwise(tuple(map(tuple, ring))), Frame(vector(origin), frame.right, frame.up)))
    return made


def _frame(origin: NDArray[np.float64], right: NDArray[np.float64], up: NDArray[np.float64]) -> Frame:
    """A frame from arrays."""
    return Frame(vector(origin), vector(right), vector(up))
