"""Outlines with fewer corners that hold the whole of the old ones: a search among simple outlines is several times as quick."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import shapely

from omnipel.core.nesting.convex import Floats
from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import SAME_POINT


def cleaned(ring: Points) -> Points:
    """A counter-clockwise ring without repeated points and without corners that are none."""
    ring = np.asarray(ring, dtype=np.float64)
    points: Points = ring[np.hypot(*(ring - np.roll(ring, 1, axis=0)).T) > SAME_POINT]
    while len(points) > 3:
        aside = _aside(np.roll(points, 1, axis=0), points, np.roll(points, -1, axis=0))
        flat = np.abs(aside) <= SAME_POINT
        flat[1:] &= ~flat[:-1]  # no two neighbours at once
        if not flat.any():
            break
        points = points[~flat]
    return points if shapely.Polygon(points).exterior.is_ccw else points[::-1]


def _aside(before: Points, at: Points, after: Points) -> Floats:
    """How far a corner lies to the right of the line past it."""
    along = after - before
    long = np.maximum(np.hypot(*along.T), SAME_POINT)
    off: Floats = (along[:, 1] * (at - before)[:, 0] - along[:, 0] * (at - before)[:, 1]) / long
    return off


def outward(ring: Points, within: float) -> Points:
    """A ring with fewer corners around a counter-clockwise one, no further from it than `within`, mm, but for what is between its corners.

    Edges between two outward corners give way to a corner where their neighbours meet, inward corners are cut off. Where that does not come
    out, the ring as it is.
    """
    return np.frombuffer(_outward(np.asarray(ring, dtype=np.float64).tobytes(), within)).reshape(-1, 2)


@lru_cache(maxsize=512)
def _outward(known: bytes, within: float) -> bytes:
    """The same as plain bytes: an outline that stays as it is when a cover is drafted anew is not simplified again."""
    ring = np.frombuffer(known).reshape(-1, 2)
    polygon = shapely.Polygon(ring)
    shapely.prepare(polygon)
    points = ring
    while len(points) > 4:
        fewer = _filled(_sharpened(points, polygon, within), polygon, within)
        if len(fewer) == len(points):
            break
        points = fewer
    made = shapely.Polygon(points)
    sound = made.is_valid and shapely.covers(made.buffer(SAME_POINT), polygon)
    return np.ascontiguousarray(points if sound else ring).tobytes()


def _sharpened(points: Points, polygon: shapely.Polygon, within: float) -> Points:
    """Edges between outward corners given up for a corner further out."""
    a, b = np.roll(points, 1, axis=0), points
    c, d = np.roll(points, -1, axis=0), np.roll(points, -2, axis=0)
    u, v, w = b - a, c - d, d - a
    across = u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (w[:, 0] * v[:, 1] - w[:, 1] * v[:, 0]) / across
        s = (w[:, 0] * u[:, 1] - w[:, 1] * u[:, 0]) / across
    corner = a + u * np.where(np.isfinite(t), t, 0.0)[:, None]
    outside = _aside(b, corner, c) > 0.0
    may = np.isfinite(t) & (t > 1.0) & (s > 1.0) & outside
    far = np.where(may, shapely.distance(polygon, shapely.points(corner)), np.inf)
    made, gone = points.copy(), np.zeros(len(points), dtype=bool)
    taken: set[int] = set()
    n = len(points)
    for i in np.argsort(far, kind="stable").tolist():
        if far[i] > within or n - int(gone.sum()) <= 4:
            break
        if taken & {(i + k) % n for k in (-1, 0, 1, 2)}:
            continue
        taken |= {(i + k) % n for k in (-1, 0, 1, 2)}
        made[i] = corner[i]
        gone[(i + 1) % n] = True
    return made[~gone]


def _filled(points: Points, polygon: shapely.Polygon, within: float) -> Points:
    """Inward corners cut off."""
    before, after = np.roll(points, 1, axis=0), np.roll(points, -1, axis=0)
    inward = _aside(before, points, after) < 0.0
    near = shapely.distance(polygon, shapely.points((before + after) / 2.0)) <= within
    gone = inward & near
    gone[1:] &= ~gone[:-1]
    gone[0] &= not gone[-1]
    return points[~gone] if len(points) - int(gone.sum()) >= 4 else points
