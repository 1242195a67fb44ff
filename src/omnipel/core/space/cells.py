"""How flat cloth is parted so that flat facets follow it in space."""

import math
from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.plane.curves import Points
from omnipel.core.space.paths import Runs

Box = tuple[float, float, float, float]
"""Least x, least y, greatest x, greatest y of a panel."""


def grid(box: Box, xs: Runs, ys: Runs) -> list[Points]:
    """The cells between lines across a box, those at its sides included."""
    xs = np.unique(np.concatenate(([box[0]], xs[(xs > box[0]) & (xs < box[2])], [box[2]])))
    ys = np.unique(np.concatenate(([box[1]], ys[(ys > box[1]) & (ys < box[3])], [box[3]])))
    corners = np.stack(
        [
            np.stack(np.broadcast_arrays(x, y), axis=-1)
            for x, y in (
                (xs[:-1, None], ys[None, :-1]),
                (xs[1:, None], ys[None, :-1]),
                (xs[1:, None], ys[None, 1:]),
                (xs[:-1, None], ys[None, 1:]),
            )
        ],
        axis=2,
    )
    return list(corners.reshape(-1, 4, 2))


def steps_around(low: float, high: float, turn: float, radius: float, chord_error: float) -> Runs:
    """Where cloth that turns by `turn` radians a mm is creased so that facets stay within the chord error of a circle."""
    angle = abs(high - low) * abs(turn)
    most = 2.0 * math.sqrt(2.0 * chord_error / max(radius, 4.0 * chord_error))
    return np.linspace(low, high, max(1, math.ceil(angle / most)) + 1)


def thinned(line: Points, chord_error: float) -> NDArray[np.intp]:
    """Indices of the points of a line that are kept so that none is further from it than the chord error (after Douglas and Peucker)."""
    numbered = shapely.linestrings(np.column_stack((line, np.arange(len(line)))))
    kept = shapely.get_coordinates(shapely.simplify(numbered, chord_error, preserve_topology=False), include_z=True)
    return np.asarray(kept[:, 2].round().astype(np.intp))


def rectangle_cell(x0: float, y0: float, x1: float, y1: float) -> Points:
    """A rectangle between two corners, counter-clockwise."""
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])


def counter_clockwise(corners: Sequence[tuple[float, float]] | Points) -> Points:
    """Convex corners, counter-clockwise."""
    ring = np.array(corners)
    x, y = ring[:, 0], ring[:, 1]
    return ring if float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) > 0.0 else ring[::-1]
