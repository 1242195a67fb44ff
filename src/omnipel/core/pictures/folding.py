"""A piece folded so that two of its edges lie on one another, as a strip is to be closed into a tube."""

from dataclasses import dataclass
from typing import Final

import numpy as np
import shapely

from omnipel.core.plane.curves import Points

OFF: Final = 0.02
"""Edges whose ends come to lie further apart than this share of their length do not meet by folding once."""


@dataclass(frozen=True)
class Fold:
    """A fold.

    Args:
        below: what of the piece stays where it is, its outline.
        above: what is folded over, its outline as it lies then.
        line: where it is folded, from end to end; empty where that runs through nothing.
    """

    below: Points
    above: Points
    line: Points


def fold(ring: Points, one: Points, other: Points) -> Fold | None:
    """The fold that brings an edge of a piece onto another; None where no fold does.

    Args:
        ring: the piece's outline, `(n, 2)`.
        one: the edge that is brought onto the other, `(n, 2)`.
        other: the edge that stays.
    """
    here, there = (edge[[0, -1]].mean(axis=0) for edge in (one, other))
    across = there - here
    far = float(np.hypot(*across))
    if far < 1e-6:
        return None
    unit, middle = across / far, (here + there) / 2.0
    brought = _reflected(one[[0, -1]], unit, middle)
    ends = other[[0, -1]]
    off = min(float(np.hypot(*(brought - way).T).max()) for way in (ends, ends[::-1]))
    long = float(np.hypot(*(ends[1] - ends[0])))
    if off > OFF * long:
        return None
    size = 4.0 * float(np.ptp(ring, axis=0).max())
    along = np.array((-unit[1], unit[0])) * size
    stays = shapely.Polygon(
        np.array((middle - along, middle + along, middle + along + unit * size, middle - along + unit * size))
    )
    whole = shapely.make_valid(shapely.Polygon(ring))
    below, above = _largest(whole & stays), _largest(whole - stays)
    if below is None or above is None:
        return None
    crossed = shapely.LineString((middle - along, middle + along)).intersection(whole)
    line = shapely.get_coordinates(crossed)
    return Fold(below, _reflected(above, unit, middle), line[[0, -1]] if len(line) > 1 else np.empty((0, 2)))


def _reflected(points: Points, unit: Points, middle: Points) -> Points:
    """Points on the other side of the fold."""
    moved: Points = points - 2.0 * ((points - middle) @ unit)[:, None] * unit
    return moved


def _largest(shape: shapely.Geometry) -> Points | None:
    polygons = [part for part in shapely.get_parts(shape) if part.geom_type == "Polygon" and part.area > 0.0]
    return np.array(max(polygons, key=lambda part: part.area).exterior.coords)[:-1] if polygons else None
