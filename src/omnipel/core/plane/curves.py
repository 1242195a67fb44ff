"""Curves that bound a panel: arcs (a line is an arc without curvature) and traces (polylines from a traced outline).

An arc is held by its start, heading, curvature and length rather than by its centre: a tub that is nearly a cylinder has
centres thousands of kilometres away, and this form stays sound down to curvature 0.

Frame: x to the right, y up, headings counter-clockwise from x in radians. Panels run counter-clockwise, so outward is to the
right of travel. Point arrays are `(n, 2)` float64.
"""

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from omnipel.core.tolerances import CHORD_ERROR, CORNER_ANGLE, STRAIGHT_ANGLE

Points = NDArray[np.float64]
"""`(n, 2)` array of x, y in mm."""


@dataclass(frozen=True, slots=True)
class Arc:
    """A piece of a circle, or of a line when `curvature` is 0.

    Args:
        start: x, y in mm.
        heading: direction of travel at the start, radians.
        curvature: 1/radius in 1/mm, positive when it turns left.
        length: along the curve, mm.
    """

    start: tuple[float, float]
    heading: float
    curvature: float
    length: float

    def at(self, fraction: float) -> tuple[float, float]:
        """The point at a fraction of the length.

        >>> half = arc_about((0, 0), 10, 0, math.pi)
        >>> [round(v, 6) + 0.0 for v in half.at(0.5)]
        [0.0, 10.0]
        """
        run = self.length * fraction
        half_turn = 0.5 * self.curvature * run
        chord = run * _sinc(half_turn)
        angle = self.heading + half_turn
        return self.start[0] + chord * math.cos(angle), self.start[1] + chord * math.sin(angle)

    def heading_at(self, fraction: float) -> float:
        """Direction of travel at a fraction of the length, radians."""
        return self.heading + self.curvature * self.length * fraction

    @property
    def end(self) -> tuple[float, float]:
        """The last point."""
        return self.at(1.0)

    def offset(self, distance: float) -> "Arc":
        """The parallel curve `distance` mm to the right of travel.

        Raises:
            ValueError: an inward curve is tighter than the distance, so that the parallel would turn inside out.
        """
        grow = 1.0 + self.curvature * distance
        if grow <= 0.0:
            raise ValueError(f"an arc of radius {-1 / self.curvature:.1f} has no parallel at {distance:.1f}")
        start = _right_of(self.start, self.heading, distance)
        return Arc(start, self.heading, self.curvature / grow, self.length * grow)

    def reversed(self) -> "Arc":
        """The same curve travelled the other way."""
        return Arc(self.end, self.heading_at(1.0) + math.pi, -self.curvature, self.length)

    def points(self, chord_error: float = CHORD_ERROR) -> Points:
        """Points along the curve, ends included, no chord further than `chord_error` from it."""
        if abs(self.curvature) * self.length <= STRAIGHT_ANGLE:
            return np.array((self.start, self.end))
        count = math.ceil(self.length * math.sqrt(abs(self.curvature) / (8.0 * chord_error)))
        count = 4 * max(1, math.ceil(count / 4))  # quarters, so that a circle's extremes are points of it
        return self.along(np.linspace(0.0, self.length, count + 1))

    def along(self, runs: NDArray[np.float64]) -> Points:
        """The points at lengths from the start, `(n, 2)`."""
        made = np.empty((len(runs), 2))
        if not self.curvature:
            made[:, 0], made[:, 1] = runs * math.cos(self.heading), runs * math.sin(self.heading)
        else:
            half_turn = 0.5 * self.curvature * runs
            chord, angle = runs * np.sinc(half_turn / math.pi), self.heading + half_turn
            made[:, 0], made[:, 1] = chord * np.cos(angle), chord * np.sin(angle)
        return np.asarray(made + self.start)


@dataclass(frozen=True)
class Trace:
    """A polyline from a traced outline. `corners` tells `offset` to keep sharp corners sharp."""

    vertices: Points

    def __post_init__(self) -> None:
        self.vertices.setflags(write=False)

    def __eq__(self, other: object) -> bool:
        """Whether it runs through the same points."""
        return np.array_equal(self.vertices, other.vertices) if isinstance(other, Trace) else NotImplemented

    def __hash__(self) -> int:
        return hash((len(self.vertices), self.start, self.end))

    @cached_property
    def runs(self) -> NDArray[np.float64]:
        """Length from the start to each vertex, `(n,)`, mm."""
        return np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(self.vertices, axis=0).T))))

    @property
    def length(self) -> float:
        """Along the polyline, mm."""
        return float(self.runs[-1])

    @cached_property
    def gentle(self) -> bool:
        """Whether it turns by no more than a corner's angle anywhere, so that its parallel is the plain one."""
        steps = np.diff(self.vertices, axis=0)
        across = steps[:-1, 0] * steps[1:, 1] - steps[:-1, 1] * steps[1:, 0]
        along = (steps[:-1] * steps[1:]).sum(axis=1)
        return bool(len(steps) and np.all(np.hypot(*steps.T) > 0.0) and np.all(np.abs(np.arctan2(across, along)) < CORNER_ANGLE))

    @property
    def start(self) -> tuple[float, float]:
        """The first point."""
        return float(self.vertices[0, 0]), float(self.vertices[0, 1])

    @property
    def end(self) -> tuple[float, float]:
        """The last point."""
        return float(self.vertices[-1, 0]), float(self.vertices[-1, 1])

    def at(self, fraction: float) -> tuple[float, float]:
        """The point at a fraction of the length."""
        ((x, y),) = self.along(np.array([fraction * self.length])).tolist()
        return x, y

    def along(self, runs: NDArray[np.float64]) -> Points:
        """The points at lengths from the start, `(n, 2)`."""
        return np.column_stack([np.interp(runs, self.runs, of) for of in self.vertices.T])

    def heading_at(self, fraction: float) -> float:
        """Direction of the segment at a fraction of the length, radians."""
        place = min(max(int(self.runs.searchsorted(fraction * self.length, side="right")), 1), len(self.runs) - 1)
        (x, y), (x1, y1) = self.vertices[place - 1 : place + 1].tolist()
        return math.atan2(y1 - y, x1 - x)

    def offset(self, distance: float) -> "Trace":
        """The parallel `distance` mm to the right of travel, each corner extended until its two sides meet.

        Exact along every segment. Where the trace turns in more tightly than the distance the parallel crosses itself; the
        caller checks for that.
        """
        steps = np.diff(self.vertices, axis=0)
        units = steps / np.hypot(*steps.T)[:, None]
        normals = np.column_stack((units[:, 1], -units[:, 0]))
        before, after = np.vstack((normals[:1], normals)), np.vstack((normals, normals[-1:]))
        # n₁ + n₂ over 1 + n₁·n₂ reaches from a vertex to where the parallels of its two sides meet.
        closing = 1.0 + np.einsum("ij,ij->i", before, after)
        return Trace(self.vertices + distance * (before + after) / np.maximum(closing, 1e-3)[:, None])

    def reversed(self) -> "Trace":
        """The same curve travelled the other way."""
        return Trace(self.vertices[::-1].copy())

    def points(self, chord_error: float = CHORD_ERROR) -> Points:
        """Its own vertices."""
        return self.vertices


Curve = Arc | Trace


def quarter_chords(radius: float) -> int:
    """How many chords of a quarter circle stay within the chord error, at least four.

    >>> quarter_chords(30.0), quarter_chords(0.001)
    (31, 4)
    """
    return max(4, math.ceil(math.pi / 4.0 / math.acos(1.0 - CHORD_ERROR / max(radius, 2.0 * CHORD_ERROR))))


def line(start: tuple[float, float], end: tuple[float, float]) -> Arc:
    """A straight edge from one point to another."""
    dx, dy = end[0] - start[0], end[1] - start[1]
    return Arc(start, math.atan2(dy, dx), 0.0, math.hypot(dx, dy))


def arc_about(centre: tuple[float, float], radius: float, angle: float, sweep: float) -> Arc:
    """The arc about `centre` from direction `angle` through `sweep` radians (positive: counter-clockwise)."""
    start = centre[0] + radius * math.cos(angle), centre[1] + radius * math.sin(angle)
    turn = math.copysign(1.0, sweep)
    return Arc(start, angle + turn * math.pi / 2, turn / radius, radius * abs(sweep))


def turn_between(before: float, after: float) -> float:
    """The turn from one heading to another, −π … π, positive to the left."""
    return math.remainder(after - before, 2.0 * math.pi)


def _right_of(point: tuple[float, float], heading: float, distance: float) -> tuple[float, float]:
    return point[0] + distance * math.sin(heading), point[1] - distance * math.cos(heading)


def _sinc(x: float) -> float:
    return math.sin(x) / x if x else 1.0
