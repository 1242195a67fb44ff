"""Spots on the pieces of a cover, and the flat parts that a sewn cover is searched by."""

import math
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Final, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.job.feature import Facing
from omnipel.core.plane.curves import Points, turn_between
from omnipel.core.space.frames import RIGHT_AND_UP, Side, Solid, Vector, lengths, vector
from omnipel.core.space.placements import STEP
from omnipel.core.tolerances import CHORD_ERROR, CLOSES

Flat = NDArray[np.float64]
"""`(2,)`: a place or a direction on a flat panel."""
UNGATHERED: Final = 1e-3
"""Cloth whose lengths in space differ from the flat by less than this share lies as it is."""
SHARP = math.cos(math.radians(40.0))
"""Two parts of a cover that meet at more than this angle meet in an edge; the bands of a dome do not."""


@dataclass(frozen=True, eq=False)
class Spot:
    """A place on a piece, and which way is right and down there as one looks at the cover from outside; unit vectors of the flat panel.

    Args:
        piece: on which piece.
        panel: the panel it is cut from.
        at: where on the flat panel.
        right: to the right.
        down: downwards.
    """

    piece: Piece
    panel: Panel
    at: Flat
    right: Flat
    down: Flat

    @cached_property
    def drawn_in(self) -> tuple[float, float]:
        """How many times the cloth is gathered here, to the right and downwards."""
        across, down = speeds(self.piece, self.at, np.array((self.right, self.down))).tolist()
        return 1.0 / max(across, 1e-9), 1.0 / max(down, 1e-9)

    def flat(self, points: Points) -> Points:
        """Points to the right of and above the spot, as one looks at it, on the flat panel, `(n, 2)`."""
        return np.asarray(self.at + points[:, :1] * self.right - points[:, 1:] * self.down)

    def seen(self, points: Points) -> Points:
        """Points of the flat panel as they lie to the right of and above the spot, `(n, 2)`."""
        return np.asarray((points - self.at) @ np.column_stack((self.right, -self.down)))

    @property
    def place(self) -> Vector:
        """Where it lies in space."""
        return vector(self.piece.place.at(self.at[None, :])[0])


class Facet(NamedTuple):
    """A flat part of a placed piece: its ring on the flat panel and in space, and its normal outward."""

    piece: str
    flat: Points
    solid: Solid
    normal: NDArray[np.float64]


class Cut(NamedTuple):
    """Where the plane of a centre line cuts a facet: both ends on the flat panel and in the plane (outward, up), the upper end first."""

    facet: Facet
    flat: Points
    ends: Points

    def meets(self, other: "Cut") -> bool:
        """Whether another goes on smoothly from its upper end."""
        (x, z), (x0, z0) = self.ends.tolist()
        upper, lower = other.ends.tolist()
        if math.dist(lower, (x, z)) > math.dist(upper, (x, z)):
            upper, lower = lower, upper
        if math.dist(lower, (x, z)) >= CLOSES:
            return False
        on, here = (upper[0] - lower[0], upper[1] - lower[1]), (x0 - x, z0 - z)
        return bool(-(on[0] * here[0] + on[1] * here[1]) > SHARP * math.hypot(*on) * math.hypot(*here))

    def turned(self, below: "Cut") -> "Cut":
        """The same with the end last that lies nearest to another's upper end."""
        away = [math.dist(end, below.ends[0]) for end in self.ends]
        return self if away[1] <= away[0] else Cut(self.facet, self.flat[::-1], self.ends[::-1])


@dataclass(frozen=True, eq=False)
class Rim:
    """The sew line of a panel as short straight steps: where each begins, its step, the name of its edge, and the shares of it that it lies between."""

    begins: Points
    steps: Points
    names: tuple[str, ...]
    shares: NDArray[np.float64]

    @classmethod
    def of(cls, panel: Panel) -> "Rim":
        """Of a panel."""
        begins, steps, names, shares = [], [], [], []
        for edge in panel.edges:
            points = edge.curve.points(CHORD_ERROR)
            step = np.diff(points, axis=0)
            ends = np.concatenate(([0.0], np.cumsum(np.linalg.norm(step, axis=1))))
            ends = ends / (ends[-1] or 1.0)
            begins.append(points[:-1])
            steps.append(step)
            shares.append(np.column_stack((ends[:-1], ends[1:])))
            names += [edge.name] * len(step)
        return cls(np.concatenate(begins), np.concatenate(steps), tuple(names), np.concatenate(shares))

    @cached_property
    def least(self) -> NDArray[np.float64]:
        """What a direction and a step come to, multiplied crosswise, when they are as good as parallel."""
        return np.asarray(1e-9 * lengths(self.steps))

    def left_at(self, at: Flat, heading: Flat) -> tuple[float, str, float]:
        """Where one who goes straight from a place of the panel leaves it: how far that is, over which edge, at which share of it."""
        off, turned = self.begins - at, heading[0] * self.steps[:, 1] - heading[1] * self.steps[:, 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            far = (off[:, 0] * self.steps[:, 1] - off[:, 1] * self.steps[:, 0]) / turned
            part = (off[:, 0] * heading[1] - off[:, 1] * heading[0]) / turned
        outward = turned > self.least
        hit = outward & (part >= -1e-9) & (part <= 1.0 + 1e-9) & (far >= -1e-5)
        if not hit.any():
            return 0.0, self.names[0], 0.0
        i = int(np.flatnonzero(hit)[far[hit].argmin()])
        low, high = self.shares[i]
        return max(0.0, float(far[i])), self.names[i], float(low + (high - low) * min(1.0, max(0.0, part[i])))


def unit(v: Flat) -> Flat:
    """The direction of a vector."""
    return np.asarray(v / (math.hypot(*v) or 1.0))


@cache
def out_of(face: Facing) -> NDArray[np.float64]:
    """Square to a side, outward."""
    out = np.cross(*RIGHT_AND_UP[Side(face)])
    out.setflags(write=False)
    return out


def travel(panel: Panel, edge: str, share: float) -> Flat:
    """The direction of travel at a share of an edge; the panel lies to its left."""
    heading = panel.edge(edge).curve.heading_at(share)
    return np.array((math.cos(heading), math.sin(heading)))


def left_of(way: Flat) -> Flat:
    """A direction turned to the left."""
    return np.array((-way[1], way[0]))


def turned_by(angle: float) -> NDArray[np.float64]:
    """What turns directions to the left by an angle, radians, `(2, 2)`."""
    return np.array(((math.cos(angle), -math.sin(angle)), (math.sin(angle), math.cos(angle))))


def corner_in(panel: Panel, edge: str, *, last: bool) -> float:
    """The angle inside of a panel at the first or the last point of an edge, radians."""
    i = panel.edges.index(panel.edge(edge))
    before, after = panel.edges[i if last else i - 1], panel.edges[(i + 1) % len(panel.edges) if last else i]
    return math.pi - turn_between(before.curve.heading_at(1.0), after.curve.heading_at(0.0))


def right_of(piece: Piece, down: Flat) -> Flat:
    """To the right of who looks at the piece from outside, on the flat panel; one that is mirrored is drawn as seen from inside."""
    return np.array((-down[1], down[0])) * (-1.0 if piece.mirrored else 1.0)


def speeds(piece: Piece, at: Points, ways: Points) -> NDArray[np.float64]:
    """How far one comes in space for each mm on the flat panel, `(n,)`: from places, or one place, in directions, or one direction."""
    ends = piece.place.at(np.concatenate((at + STEP * ways, at - STEP * ways)))
    half = len(ends) // 2
    speed = lengths(ends[:half] - ends[half:]) / (2.0 * STEP)
    return np.asarray(np.where(np.abs(speed - 1.0) < UNGATHERED, 1.0, speed))


def slopes_at(piece: Piece, at: Flat) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Where a place of a piece lies in space, and how far one comes there for each mm to the right and up on the flat panel, `(2, 3)`."""
    there = piece.place.at(np.array((at, at + (STEP, 0.0), at + (0.0, STEP))))
    return there[0], (there[1:] - there[0]) / STEP


def downward(piece: Piece, at: Flat, way: NDArray[np.float64]) -> Flat | None:
    """The direction on the flat panel that leads furthest in a direction of space; None where that is square to the cloth."""
    slope = slopes_at(piece, at)[1] @ way
    return unit(slope) if math.hypot(*slope) > 0.05 else None


def inside(facet: Facet, point: NDArray[np.float64]) -> Flat | None:
    """Where a point of a facet's plane lies on the flat panel; None outside of the facet."""
    middle, flat_middle = facet.solid.mean(axis=0), facet.flat.mean(axis=0)
    to_flat, *_ = np.linalg.lstsq(facet.solid - middle, facet.flat - flat_middle, rcond=1e-9)
    at = np.asarray(flat_middle + (point - middle) @ to_flat)
    return at if shapely.dwithin(shapely.Polygon(facet.flat), shapely.Point(at), 1e-5) else None
