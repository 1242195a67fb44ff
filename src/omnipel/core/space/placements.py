"""Placements: where every point of a flat panel lies when the cover is sewn.

A placement maps points `(n, 2)` of a panel's flat frame (as it is drawn, seen from its right side) to points `(n, 3)` of the sewn cover, on the middle
of its thickness. It also says how the flat panel is to be parted so that flat facets follow it: `cells`, convex polygons of the flat frame.
Where cloth has a real fold radius nothing is modelled finer than half its thickness: folds are sharp.
"""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.plane.curves import Points
from omnipel.core.space.cells import Box, counter_clockwise, grid, steps_around
from omnipel.core.space.frames import Frame, Solid, crossed, lengths
from omnipel.core.space.paths import Path, Runs

SPARE = 0.5
"""Cells reach so far beyond what they cover, mm."""
ALONG_BOX = 5
"""How far a box reaches on a cone is looked at in so many places of each of its sides."""
HAIR = 1e-3
"""What is left of a box beside its parts is nothing when it is no wider than this, mm."""
STEP = 1e-3
"""Normals are taken over this far to each side, mm."""


class Placement(Protocol):
    """Where a panel lies."""

    def at(self, points: Points) -> Solid:
        """Points of the flat panel in space."""

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Convex polygons; what lies in one is flat in space to within the chord error.

        They cover the panel, whose box it is; or all of the box, where that is of what is `laid` on the panel and may reach beyond it.
        """


@dataclass(frozen=True, eq=False)
class Flat:
    """Flat in a frame."""

    frame: Frame

    def at(self, points: Points) -> Solid:
        """Points in space."""
        return self.frame.at(points)

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """All of it is flat."""
        return grid(box, np.array([box[0], box[2]]), np.array([box[1], box[3]]))


@dataclass(frozen=True, eq=False)
class Swept:
    """Bent in one direction: x follows a path in a plane, y runs straight, square to that plane.

    Args:
        path: what x follows.
        frame: the plane of the path.
        along: the direction of y, a unit vector.
        start: the x at which the path begins.
    """

    path: Path
    frame: Frame
    along: tuple[float, float, float]
    start: float = 0.0

    def at(self, points: Points) -> Solid:
        """Points in space."""
        return np.asarray(self.frame.at(self.path.at(points[:, 0] - self.start)) + points[:, 1:] * np.array(self.along))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Strips between the bends."""
        return grid(box, self.path.bends(chord_error) + self.start, np.array([box[1], box[3]]))


@dataclass(frozen=True, eq=False)
class Around:
    """Around an axis: y follows a meridian (distance from the axis, height along it), x turns about the axis.

    A straight meridian that keeps its distance is a cylinder; where the meridian comes nearer to the axis the cloth is gathered.

    Args:
        meridian: what y follows: distance and height.
        turn: radians for each mm of x.
        start: the direction of x = 0, radians.
        frame: the plane square to the axis; its origin is the foot of the axis, directions are counted from its right towards its up.
    """

    meridian: Path
    turn: float
    start: float
    frame: Frame = Frame()

    def at(self, points: Points) -> Solid:
        """Points in space."""
        reach = self.meridian.at(points[:, 1])
        angle = self.start + points[:, 0] * self.turn
        flat = np.column_stack((reach[:, 0] * np.cos(angle), reach[:, 0] * np.sin(angle)))
        return np.asarray(self.frame.at(flat) + reach[:, 1:] * np.array(self.frame.out))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Strips around, parted where the meridian bends."""
        ys = self.meridian.bends(chord_error)
        ys = np.concatenate(([box[1]], ys[(ys > box[1]) & (ys < box[3])], [box[3]]))
        widest = float(np.abs(self.meridian.at(ys)[:, 0]).max())
        return grid(box, steps_around(box[0], box[2], self.turn, widest, chord_error), ys)


@dataclass(frozen=True, eq=False)
class Cone:
    """A sector rolled about the z axis: its lower arc on one ring, everything else straight up the cone.

    Args:
        middle: of the lower arc, in the flat frame.
        heading: of the lower arc there, radians.
        curvature: of the lower arc, 1/mm, positive where it turns left.
        radius: of the ring that the lower arc lies on.
        widens: by how much the ring's radius grows for each mm up the slant.
        rises: by how much the height grows for each mm up the slant.
        height: of the lower ring.
        towards: the direction of the middle of the arc, radians.
        span: how long the lower arc is.
        slant: how far the sector reaches up the cone.
    """

    middle: tuple[float, float]
    heading: float
    curvature: float
    radius: float
    widens: float
    rises: float
    height: float
    towards: float
    span: float
    slant: float

    def _rolled(self, points: Points) -> tuple[Runs, Runs]:
        """How far along the lower arc, from its middle, and how far up the slant."""
        away = points - np.array(self.middle)
        c, s = math.cos(self.heading), math.sin(self.heading)
        a, b, k = away[:, 0] * c + away[:, 1] * s, away[:, 1] * c - away[:, 0] * s, self.curvature
        near = 1.0 - k * b
        up = (2.0 * b - k * (a * a + b * b)) / (1.0 + np.hypot(k * a, near))
        angle = np.arctan2(k * a, near)
        with np.errstate(divide="ignore", invalid="ignore"):
            run = np.where(np.abs(k * a) > 1e-9, angle / k if k else 0.0, a / np.where(near > 0.0, near, 1.0))
        return run, up

    def at(self, points: Points) -> Solid:
        """Points in space."""
        run, up = self._rolled(points)
        angle, r = self.towards + run / self.radius, self.radius + up * self.widens
        return np.column_stack((r * np.cos(angle), r * np.sin(angle), self.height + up * self.rises))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Strips between lines that run up the cone; of what is laid on it as far as it reaches."""
        widest = max(self.radius, self.radius + self.slant * self.widens)
        (left, right), (low, high) = self._reach(box) if laid else ((-self.span / 2.0, self.span / 2.0), (0.0, self.slant))
        runs = steps_around(left, right, 1.0 / self.radius, widest, chord_error)
        # The arcs below and above bulge beyond their chords.
        spare = 2.0 * abs(self.curvature) * (runs[1] - runs[0]) ** 2 / 8.0 + SPARE
        lower, upper = self._flat(runs, low - spare), self._flat(runs, high + spare)
        return [np.array([lower[i], lower[i + 1], upper[i + 1], upper[i]]) for i in range(len(runs) - 1)]

    def _reach(self, box: Box) -> tuple[tuple[float, float], tuple[float, float]]:
        """Between which lengths along the lower arc and up the slant the sector and a box lie."""
        half, (x0, y0, x1, y1) = self.span / 2.0, box
        steps = np.linspace(0.0, 1.0, ALONG_BOX)[:, None]
        corners = np.array(((x0, y0), (x1, y0), (x1, y1), (x0, y1)))
        around = np.concatenate([a + (b - a) * steps for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True)])
        run, up = self._rolled(around)
        return (min(-half, float(run.min())), max(half, float(run.max()))), (
            min(0.0, float(up.min())),
            max(self.slant, float(up.max())),
        )

    def _flat(self, run: Runs, up: float) -> Points:
        """Where a place of the cone lies on the flat panel."""
        k = self.curvature
        turned = k * run
        # Along the arc by half turns, then to the left of it.
        chord = run * np.sinc(turned / (2.0 * math.pi))
        along = chord * np.cos(turned / 2.0) - up * np.sin(turned)
        aside = chord * np.sin(turned / 2.0) + up * np.cos(turned)
        c, s = math.cos(self.heading), math.sin(self.heading)
        return np.column_stack((self.middle[0] + along * c - aside * s, self.middle[1] + along * s + aside * c))


@dataclass(frozen=True, eq=False)
class Folded:
    """Folded at lines: convex parts of the flat panel, each flat in a frame of its own."""

    parts: tuple[tuple[Points, Frame], ...]

    @cached_property
    def _sides(self) -> tuple[Points, Runs, NDArray[np.intp]]:
        """Outward normals of all parts' sides `(m, 2)`, how far out they lie `(m,)`, and where each part's sides begin."""
        normals: list[Runs] = []
        reaches: list[float] = []
        begins: list[int] = []
        for polygon, _ in self.parts:
            begins.append(len(reaches))
            for a, b in zip(polygon, np.roll(polygon, -1, axis=0), strict=True):
                size = math.dist(a, b)
                if size > 0.0:
                    out = np.array((b[1] - a[1], a[0] - b[0])) / size
                    normals.append(out)
                    reaches.append(float(out @ a))
        return np.array(normals), np.array(reaches), np.array(begins, dtype=np.intp)

    @cached_property
    def _frames(self) -> tuple[Solid, NDArray[np.float64]]:
        """Origins `(k, 3)` and axes `(k, 2, 3)` of the parts' frames."""
        frames = [frame for _, frame in self.parts]
        return np.array([f.origin for f in frames]), np.array([(f.right, f.up) for f in frames])

    def at(self, points: Points) -> Solid:
        """Points in space; a point outside of all parts goes with the nearest."""
        (normals, reaches, begins), (origins, axes) = self._sides, self._frames
        outside = np.maximum.reduceat(points @ normals.T - reaches, begins, axis=1)
        chosen = outside.argmin(axis=1)
        return np.asarray(origins[chosen] + np.einsum("ni,nij->nj", points, axes[chosen]))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Its parts; of what is laid on it what lies beside all of them, too, parted along their sides."""
        made = [polygon for polygon, _ in self.parts]
        if not laid:
            return made
        beside = shapely.box(*box).difference(shapely.union_all([shapely.Polygon(polygon) for polygon in made]))
        if beside.area <= HAIR * shapely.box(*box).length:
            return made
        normals, reaches, _ = self._sides
        far = 2.0 * (math.dist(box[:2], box[2:]) + float(np.abs(reaches).max()))
        feet, ways = normals * reaches[:, None], np.column_stack((-normals[:, 1], normals[:, 0])) * far
        lines = shapely.intersection(shapely.linestrings(np.stack((feet - ways, feet + ways), axis=1)), beside)
        found = shapely.polygonize([shapely.union_all([*shapely.get_parts(lines), beside.boundary])]).geoms
        return made + [
            counter_clockwise(shapely.get_coordinates(one)[:-1])
            for one in found
            if shapely.covers(beside, one.representative_point())
        ]


@dataclass(frozen=True, eq=False)
class Laid:
    """A panel laid on another that is placed: turned, moved and perhaps turned over first.

    Args:
        under: where the other lies.
        move: where the panel's origin lies on the other.
        right: the direction of the panel's x on the other, a unit vector.
        flip: whether the panel lies with its face down.
    """

    under: Placement
    move: tuple[float, float] = (0.0, 0.0)
    right: tuple[float, float] = (1.0, 0.0)
    flip: bool = False

    def _matrix(self) -> NDArray[np.float64]:
        c, s = self.right
        up = (s, -c) if self.flip else (-s, c)
        return np.array(((c, s), up))

    def at(self, points: Points) -> Solid:
        """Points in space."""
        return self.under.at(np.array(self.move) + points @ self._matrix())

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Those of the other, seen from this panel."""
        turn = self._matrix()
        corners = np.array([(box[i], box[j]) for i in (0, 2) for j in (1, 3)]) @ turn + np.array(self.move)
        low, high = corners.min(axis=0), corners.max(axis=0)
        made = self.under.cells((float(low[0]), float(low[1]), float(high[0]), float(high[1])), chord_error, laid=True)
        return [(cell - np.array(self.move)) @ turn.T for cell in made]


@dataclass(frozen=True, eq=False)
class Beside:
    """A placement moved square to itself: a lining inside of its outer, a flap on top of its panel; positive outward."""

    other: Placement
    out: float

    def at(self, points: Points) -> Solid:
        """Points in space."""
        return self.other.at(points) + self.out * normals(self.other, points)

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Those of the other."""
        return self.other.cells(box, chord_error, laid=laid)


def normals(place: Placement, points: Points) -> Solid:
    """Unit normals of the placed cloth, towards who looks at the panel as it is drawn, `(n, 3)`."""
    n = len(points)
    if isinstance(place, Flat):
        return np.full((n, 3), place.frame.out)
    step_x, step_y = np.array((STEP, 0.0)), np.array((0.0, STEP))
    at = place.at(np.concatenate((points + step_x, points - step_x, points + step_y, points - step_y)))
    out = crossed(at[:n] - at[n : 2 * n], at[2 * n : 3 * n] - at[3 * n :])
    sizes = lengths(out)[:, None]
    return np.asarray(out / np.where(sizes > 0.0, sizes, 1.0))
