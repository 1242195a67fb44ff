"""Traced outlines: from points or an SVG path to a clean ring; corners, smoothing, offset."""

import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

import numpy as np
import shapely

from omnipel.core.job.findings import Impossible
from omnipel.core.job.thing import Outline
from omnipel.core.plane.curves import Points, quarter_chords
from omnipel.core.plane.smoothing import smooth
from omnipel.core.tolerances import CHORD_ERROR, CORNER_ANGLE, LONGEST, SHORTEST
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Name, mm, tr, trn

WHERE = refs.OUTLINE
MOST_CORNERS = 250
"""A corner is a match mark on both sides; more of them are no outline but a rough trace."""
MOST_POINTS = 6000
SIMPLER = (0.0, 0.05, 0.1, 0.25, 0.5, 1.0, 2.0)
"""How far a simplified outline may leave the trace, mm: no more than a pencil does."""
FARTHEST = LONGEST
"""No point of an outline lies further from the origin than this, mm."""


@dataclass(frozen=True)
class Drawn:
    """An outline as it is drafted: its ring, how far it leaves the tracing because that had too many points, and how far it was smoothed, mm."""

    ring: Points
    simplified: float
    smoothed: float


def ring_of(outline: Outline) -> Points:
    """The outline as a counter-clockwise ring without repeated end, `(n, 2)`, its lowest left corner at 0, 0.

    Raises:
        Impossible: fewer than three different points, no area, or it crosses itself (says where).
    """
    return drawn(outline).ring


@lru_cache(maxsize=16)
def drawn(outline: Outline) -> Drawn:
    """The outline as it is drafted, and what was done to it.

    Raises:
        Impossible: as of its ring.
    """
    points = path_points(outline.path) if outline.path else np.array(outline.points, dtype=np.float64).reshape(-1, 2)
    if not (np.abs(points) <= FARTHEST).all():
        raise Impossible(tr("the traced outline reaches further than {far}", far=mm(FARTHEST)), WHERE)
    if len(points):
        keep = np.hypot(*(points - np.roll(points, 1, axis=0)).T) > 1e-3
        points = points[keep]
    if len(points) < 3:
        raise Impossible(
            trn("the traced outline has only {n} point", "the traced outline has only {n} different points", len(points)), WHERE
        )
    polygon = shapely.Polygon(points)
    if not polygon.is_valid:
        _, _, place = shapely.is_valid_reason(polygon).partition("[")
        at = [float(part) for part in place.rstrip("]").split()[:2]]
        if len(at) < 2:
            raise Impossible(tr("the traced outline crosses itself"), WHERE)
        raise Impossible(tr("the traced outline crosses itself near {x} across and {y} up", x=mm(at[0]), y=mm(at[1])), WHERE)
    if polygon.area < SHORTEST:
        raise Impossible(tr("the traced outline holds no area"), WHERE)
    if not polygon.exterior.is_ccw:
        points = points[::-1]
    points, off = _sewable(points)
    reach = outline.smoothing
    if reach > 0.0:
        points, reach = _smoothed_soundly(points, reach)
    ring = np.ascontiguousarray(points - points.min(axis=0))
    ring.setflags(write=False)
    return Drawn(ring, off, reach)


def _sewable(points: Points) -> tuple[Points, float]:
    """The ring with no more corners and points than can be sewn, and by how much it was simplified for that.

    Raises:
        Impossible: it stays too rough.
    """
    for off in SIMPLER:
        made = shapely.get_coordinates(shapely.Polygon(points).simplify(off))[:-1] if off else points
        if len(made) >= 3 and len(made) <= MOST_POINTS and len(corners_of(made)) <= MOST_CORNERS:
            return made, off
    found = len(corners_of(points))
    raise Impossible(
        tr("the traced outline has {n} corners, and no more than {most} can be sewn", n=Count(found), most=Count(MOST_CORNERS)),
        WHERE,
    )


def _smoothed_soundly(points: Points, reach: float) -> tuple[Points, float]:
    """The ring smoothed, by less where it would cross itself, and by how much."""
    while reach > SHORTEST / 8.0:
        made = smoothed(points, reach)
        if np.isfinite(made).all() and shapely.Polygon(made).is_valid:
            return made, reach
        reach /= 2.0
    return points, 0.0


def path_points(path: str) -> Points:
    """Points of an SVG path's first closed figure, mm with y up.

    Raises:
        Impossible: it is no path.
    """
    from svgelements import Path

    try:
        return flattened(Path(path))
    except Exception as error:  # the reader of paths lets many kinds through, and all mean the same: this is none
        words = Name(str(error) or type(error).__name__)
        raise Impossible(tr("the outline's path cannot be read: {fault}", fault=words), WHERE.at("path")) from None


def flattened(segments: Iterable[Any]) -> Points:
    """Points along the first figure of an SVG path's segments, y up; on a curve no further apart than 4, at most 64 of them, on
    an arc as many as keep to the chord error.
    """
    from svgelements import Arc, Close, Line, Move

    points: list[tuple[float, float]] = []
    for segment in segments:
        if isinstance(segment, Move):
            if points:
                break
            points.append((segment.end.x, -segment.end.y))
        elif isinstance(segment, Line | Close):
            points.append((segment.end.x, -segment.end.y))
        else:
            if isinstance(segment, Arc):
                length = max(abs(segment.rx), abs(segment.ry)) * abs(float(segment.sweep))
            else:  # the way over its control points is longer than the curve
                over = [(p.x, p.y) for p in segment]
                length = sum(math.dist(a, b) for a, b in itertools.pairwise(over))
            count = min(64, max(4, math.ceil(length / 4.0))) if math.isfinite(length) else 4
            if isinstance(segment, Arc) and math.isfinite(length):
                large = max(abs(segment.rx), abs(segment.ry))
                count = max(count, min(512, math.ceil(abs(float(segment.sweep)) * math.sqrt(large / (8.0 * CHORD_ERROR)))))
            along = segment.npoint(np.arange(1, count + 1) / count)
            points += [(float(x), -float(y)) for x, y in along]
    return np.array(points, dtype=np.float64).reshape(-1, 2)


def corners_of(ring: Points, closed: bool = True) -> list[int]:
    """Indices of the ring's corners: where it turns by more than the corner angle within one step."""
    before = ring - np.roll(ring, 1, axis=0)
    after = np.roll(ring, -1, axis=0) - ring
    turn = np.arctan2(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1))
    found = np.flatnonzero(np.abs(turn) > CORNER_ANGLE).tolist()
    return [i for i in found if closed or 0 < i < len(ring) - 1]


def smoothed(ring: Points, reach: float) -> Points:
    """The ring with each stretch between corners smoothed to a line that leaves its points by about `reach`, mm."""
    starts = corners_of(ring)
    if not starts:
        return smooth(np.vstack((ring, ring[:1])), reach, closed=True)[:-1]
    made = []
    for start, stop in zip(starts, (*starts[1:], starts[0]), strict=True):
        stretch = ring[(start + np.arange((stop - start - 1) % len(ring) + 2)) % len(ring)]
        made.append((stretch if len(stretch) < 5 else smooth(stretch, reach))[:-1])
    return np.vstack(made)


def grown_ring(ring: Points, distance: float, *, rounded: bool) -> Points:
    """The ring moved outward, corners kept or rounded.

    Raises:
        Impossible: nothing is left of it.
    """
    style: Literal["round", "mitre"] = "round" if rounded else "mitre"
    polygon = shapely.Polygon(ring).buffer(distance, join_style=style, mitre_limit=3.0, quad_segs=quarter_chords(distance))
    if not isinstance(polygon, shapely.Polygon) or polygon.is_empty:
        raise Impossible(tr("the outline falls apart when it is moved outward"), WHERE)
    # Counter-clockwise again, and without the hair-fine steps a buffer leaves.
    coordinates = shapely.get_coordinates(shapely.normalize(shapely.Polygon(polygon.exterior)).simplify(0.005))[-2::-1]
    return np.ascontiguousarray(coordinates)


def ring_around(polygon: shapely.Polygon) -> Points:
    """The outer ring of a polygon, counter-clockwise, without repeated end, `(n, 2)`."""
    return np.ascontiguousarray(shapely.get_coordinates(shapely.normalize(polygon).exterior)[-2::-1])


def polyline_length(points: Points | Sequence[tuple[float, float]]) -> float:
    """Along a polyline, mm."""
    return float(np.hypot(*np.diff(np.asarray(points), axis=0).T).sum())


def chord(ring: Points, y: float) -> float:
    """Across an outline at height y, from its leftmost to its rightmost point there, mm; 0 where it is not."""
    after = np.concatenate((ring[1:], ring[:1]))
    met = (ring[:, 1] <= y) != (after[:, 1] <= y)
    begins, ends = ring[met], after[met]
    there = begins[:, 0] + (ends[:, 0] - begins[:, 0]) * (y - begins[:, 1]) / (ends[:, 1] - begins[:, 1])
    across = np.concatenate((there, ring[ring[:, 1] == y, 0]))
    return float(np.ptp(across)) if len(across) else 0.0


LEVELS = (0.02, 0.1, 0.25, 0.4, 0.55, 0.7, 0.85, 0.995)
"""Where an outline's width is looked at, as shares of its height from the top."""
