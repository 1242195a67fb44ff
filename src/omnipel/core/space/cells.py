"""How flat cloth is parted so that flat facets follow it in space."""

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from omnipel.core.plane.curves import Points
from omnipel.core.space.paths import Runs

Box = tuple[float, float, float, float]
"""Least x, least y, greatest x, greatest y of a panel."""


def grid(box: Box, xs: Runs, ys: Runs) -> list[Points]:
    """The cells between lines across a box, those at its sides included."""
    xs = np.unique(np.concatenate(([box[0]], xs[(xs > box[0]) & (xs < box[2])], [box[2]])))
    ys = np.unique(np.concatenate(([box[1]], ys[(ys > box[1]) & (ys < box[3])], [box[3]])))
    return [
        np.array([(a, c), (b, c), (b, d), (a, d)])
        for a, b in zip(xs, xs[1:], strict=False)
        for c, d in zip(ys, ys[1:], strict=False)
    ]


def steps_around(low: float, high: float, turn: float, radius: float, chord_error: float) -> Runs:
    """Where cloth that turns by `turn` radians a mm is creased so that facets stay within the chord error of a circle."""
    angle = abs(high - low) * abs(turn)
    most = 2.0 * math.sqrt(2.0 * chord_error / max(radius, 4.0 * chord_error))
    return np.linspace(low, high, max(1, math.ceil(angle / most)) + 1)


def thinned(line: Points, chord_error: float) -> NDArray[np.intp]:
    """Indices of the points of a line that are kept so that none is further from it than the chord error (after Douglas and Peucker)."""
    kept, open_ = {0, len(line) - 1}, [(0, len(line) - 1)]
    while open_:
        a, b = open_.pop()
        if b - a < 2:
            continue
        chord = line[b] - line[a]
        away = line[a + 1 : b] - line[a]
        size = float(np.hypot(*chord)) or 1.0
        off = np.abs(away[:, 0] * chord[1] - away[:, 1] * chord[0]) / size
        worst = int(off.argmax())
        if off[worst] > chord_error:
            kept.add(a + 1 + worst)
            open_ += [(a, a + 1 + worst), (a + 1 + worst, b)]
    return np.array(sorted(kept), dtype=np.intp)


def rectangle_cell(x0: float, y0: float, x1: float, y1: float) -> Points:
    """A rectangle between two corners, counter-clockwise."""
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])


def counter_clockwise(corners: Sequence[tuple[float, float]]) -> Points:
    """Convex corners, counter-clockwise."""
    ring = np.array(corners)
    x, y = ring[:, 0], ring[:, 1]
    return ring if float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) > 0.0 else ring[::-1]
