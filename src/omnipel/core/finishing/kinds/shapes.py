"""Outlines of openings, in a feature's own frame, and how long a binding around them is."""

import math
from enum import StrEnum

import numpy as np
import shapely

from omnipel.core.plane.curves import Points, quarter_chords
from omnipel.core.plane.trace import ring_around

LEAST_CORNER = 6.0
"""A corner of an opening is rounded at least so far, mm: a sharp one tears."""


class Shape(StrEnum):
    """The shape of an opening."""

    ROUND = "round"
    SLOT = "slot"
    RECTANGLE = "rectangle"


def outline(shape: str, wide: float, high: float) -> Points:
    """An opening so wide and high about its middle, `(n, 2)`, counter-clockwise."""
    match shape:
        case Shape.ROUND:
            angles = np.linspace(0.0, 2.0 * math.pi, 4 * quarter_chords(wide / 2.0), endpoint=False)
            return np.column_stack((np.cos(angles), np.sin(angles))) * wide / 2.0
        case Shape.SLOT:
            r = min(wide, high) / 2.0
        case _:
            r = min(LEAST_CORNER, wide / 2.0, high / 2.0)
    x, y = wide / 2.0 - r, high / 2.0 - r
    core = shapely.MultiPoint([(-x, -y), (x, -y), (x, y), (-x, y)]).convex_hull
    return ring_around(core.buffer(r, quad_segs=quarter_chords(r)))


def around(shape: str, wide: float, high: float) -> float:
    """How long the edge of such an opening is, mm.

    >>> round(around("slot", 52.0, 66.0), 3), around("rectangle", 100.0, 50.0) < 300.0
    (191.363, True)
    """
    if shape == Shape.ROUND:
        return math.pi * wide
    r = min(wide, high) / 2.0 if shape == Shape.SLOT else min(LEAST_CORNER, wide / 2.0, high / 2.0)
    return 2.0 * (wide + high) - (8.0 - 2.0 * math.pi) * r


def bend(shape: str, wide: float, high: float) -> float:
    """The tightest bend of its edge, mm."""
    return wide / 2.0 if shape == Shape.ROUND else min(wide, high) / 2.0 if shape == Shape.SLOT else LEAST_CORNER
