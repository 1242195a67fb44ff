"""Cloth that is laid on a turned surface or drawn over a rim: its lengths stay along the meridian, around it is drawn in."""

import math
from dataclasses import dataclass

import numpy as np
import shapely

from omnipel.core.plane.curves import Points
from omnipel.core.space.cells import Box, grid, steps_around, thinned
from omnipel.core.space.frames import Frame, Solid
from omnipel.core.space.paths import Path, Runs


@dataclass(frozen=True, eq=False)
class Petal:
    """A gore laid on a turned surface: y follows its meridian, x runs around, as wide as the petal is there.

    Args:
        along: lengths up the meridian, `(k,)`, rising.
        radius: distance from the axis there.
        height: above the ground there.
        wide: half the width of the flat petal there.
        share: the angle that half the width takes, radians.
        towards: the direction of the petal's middle.
    """

    along: Runs
    radius: Runs
    height: Runs
    wide: Runs
    share: float
    towards: float

    def at(self, points: Points) -> Solid:
        """Points in space."""
        y = points[:, 1]
        r, half = np.interp(y, self.along, self.radius), np.interp(y, self.along, self.wide)
        z = np.interp(y, self.along, self.height) + np.minimum(y - self.along[0], 0.0)
        angle = self.towards + np.clip(points[:, 0] / np.maximum(half, 1e-9), -2.0, 2.0) * self.share
        return np.column_stack((r * np.cos(angle), r * np.sin(angle), z))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Strips up and across: from one kept point of the meridian to the next."""
        kept = thinned(np.column_stack((self.radius, self.height)), chord_error)
        widest = float(self.wide.max())
        xs = steps_around(box[0], box[2], self.share / widest, float(self.radius.max()), chord_error)
        return grid(box, xs, self.along[kept])


@dataclass(frozen=True, eq=False)
class Spun:
    """A disc drawn over a rim: the way from its middle follows a meridian (distance from the axis, height), directions stay."""

    meridian: Path
    frame: Frame = Frame()
    middle: tuple[float, float] = (0.0, 0.0)

    def at(self, points: Points) -> Solid:
        """Points in space."""
        away = points - np.array(self.middle)
        far = np.hypot(away[:, 0], away[:, 1])
        reach = self.meridian.at(far)
        ways = away / np.maximum(far, 1e-12)[:, None]
        return np.asarray(self.frame.at(ways * reach[:, :1]) + reach[:, 1:] * np.array(self.frame.out))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Rings parted into sectors; the middle of the disc is flat as far as the meridian is."""
        far = 1.5 * max(math.dist((box[i], box[j]), self.middle) for i in (0, 2) for j in (1, 3))
        bends = self.meridian.bends(chord_error)
        rings = np.concatenate((bends[(bends > 1e-9) & (bends < far)], [far]))
        angles = steps_around(0.0, 2.0 * math.pi, 1.0, float(rings[-2] if len(rings) > 1 else far), chord_error)
        ways = np.column_stack((np.cos(angles), np.sin(angles)))
        made = [self.middle + ways[:-1] * rings[0]]
        for low, high in zip(rings, rings[1:], strict=False):
            made += [
                np.array([ways[i] * low, ways[i] * high, ways[i + 1] * high, ways[i + 1] * low]) + self.middle
                for i in range(len(ways) - 1)
            ]
        return made


@dataclass(frozen=True, eq=False)
class DrawnOver:
    """A sheet drawn over an outlined rim: inside of the rim it lies flat, outside it follows a path square to the rim.

    Args:
        rim: closed ring without repeated end, in the flat frame.
        path: how far out and how high, by the distance from the rim; heights beside the frame's plane.
        frame: where the flat frame lies.
    """

    rim: Points
    path: Path
    frame: Frame

    def at(self, points: Points) -> Solid:
        """Points in space."""
        ring = shapely.LinearRing(self.rim)
        nearest = shapely.get_coordinates(
            shapely.line_interpolate_point(ring, shapely.line_locate_point(ring, shapely.points(points)))
        )
        inside = shapely.contains_xy(shapely.Polygon(self.rim), points)
        away = points - nearest
        far = np.where(inside, 0.0, np.hypot(away[:, 0], away[:, 1]))
        ways = away / np.maximum(far, 1e-9)[:, None]
        reach = self.path.at(far)
        flat = np.where(inside[:, None], points, nearest + ways * reach[:, :1])
        return np.asarray(self.frame.at(flat) + np.where(inside, 0.0, reach[:, 1])[:, None] * np.array(self.frame.out))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """The rim, and around it rings that are parted at its corners."""
        kept = thinned(np.vstack((self.rim, self.rim[:1])), chord_error)[:-1]
        rim = self.rim[kept]
        bends = self.path.bends(chord_error)
        ways = _mitres(rim)
        rings = [rim + far * ways for far in (*bends[:-1], 2.0 * bends[-1])]
        made = [rim]
        for low, high in zip(rings, rings[1:], strict=False):
            made += [np.array([low[i - 1], high[i - 1], high[i], low[i]]) for i in range(len(low))]
        return made


SHARPEST = 0.2
"""A corner is moved outward along its mitre no further than 1 over this."""


def _mitres(ring: Points) -> Points:
    """How far each corner of a ring moves when its sides move outward by 1."""
    sides = np.roll(ring, -1, axis=0) - ring
    turned = 1.0 if shapely.LinearRing(ring).is_ccw else -1.0
    after = np.column_stack((sides[:, 1], -sides[:, 0])) * turned / np.maximum(np.hypot(*sides.T), 1e-9)[:, None]
    before = np.roll(after, 1, axis=0)
    return np.asarray((after + before) / np.maximum(1.0 + (after * before).sum(axis=1), SHARPEST)[:, None])
