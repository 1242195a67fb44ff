"""Whether a lay is sound: asked of another library than the one way it was made, so that what it says is a proof."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Final

import numpy as np
import shapely

from omnipel.core.nesting.placing import Placed

OVERLAP: Final = 1e-6
"""Pieces that share no more area than this only touch, mm²: rounding."""
OUTSIDE: Final = 1e-6
"""Nor does a piece leave the cloth by less, mm."""


def overlapping(rings: Sequence[shapely.Polygon]) -> list[tuple[int, int]]:
    """Which polygons overlap, each pair once."""
    polygons = np.array(rings, dtype=object)
    if len(polygons) < 2:
        return []
    one, other = shapely.STRtree(polygons).query(polygons)
    one, other = one[one < other], other[one < other]
    shared = shapely.area(shapely.intersection(polygons[one], polygons[other]))
    return [(int(i), int(j)) for i, j, area in zip(one, other, shared, strict=True) if area > OVERLAP]


def faults(placed: Sequence[Placed], width: float, length: float, avoid: Sequence[Placed] = ()) -> Iterator[tuple[int, int]]:
    """Pairs of pieces that overlap; with −1 a piece that leaves the ground or lies on what is to be avoided."""
    polygons = [shapely.Polygon(piece.ring) for piece in placed]
    yield from overlapping(polygons)
    for i, piece in enumerate(placed):
        beyond = max(-piece.low[0], piece.high[0] - length, -piece.low[1], piece.high[1] - width)
        flaws = (shapely.intersection(polygons[i], shapely.Polygon(flaw.ring)).area for flaw in avoid)
        if beyond > OUTSIDE or any(area > OVERLAP for area in flaws):
            yield i, -1
