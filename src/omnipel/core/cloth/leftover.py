"""What is left of the cloth when a cover has been cut: the largest rectangles that nothing was cut from, as far as they are worth keeping."""

from __future__ import annotations

import math
from typing import Final

import numpy as np
import numpy.typing as npt
import shapely
import shapely.affinity

from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.cloth.sheets import Ground
from omnipel.core.job.laying import Remnant

CELLS: Final = 60_000
"""The cloth is looked at in no more cells than this."""
FINEST: Final = 10.0
"""Nor in finer ones, mm."""
MOST: Final = 6
"""No more pieces are kept of one length."""

Grid = npt.NDArray[np.bool_]


def left_over(lay: Lay, least: float) -> list[Remnant]:
    """Rectangles of the bought length, and of used pieces of the stash, that nothing is cut from and that are no smaller than `least`, mm."""
    found: list[Remnant] = []
    for ground in lay.grounds:
        if lay.on(ground):
            found += _of(lay, ground, least)
    return found


def _of(lay: Lay, ground: Ground, least: float) -> list[Remnant]:
    bolt = math.isinf(ground.length) and not by_the_piece(lay.sheet)
    long = lay.there - lay.sheet.ends if bolt else lay.sheet.cloth.cut_piece if math.isinf(ground.length) else ground.length
    wide = ground.width * (2.0 if lay.sheet.folded else 1.0)
    side = max(FINEST, math.sqrt(long * wide / CELLS))
    nx, ny = int(long / side), int(wide / side)
    if min(nx, ny) < 1:
        return []
    free = np.ones((ny, nx), dtype=bool)
    outlines = [shapely.Polygon(lay.outline(piece)) for piece in lay.on(ground)]
    if lay.sheet.folded:  # cut through both layers: on the other one as in a mirror
        outlines = [shapely.affinity.translate(p, 0.0, wide / 2.0) for p in outlines] + [
            shapely.affinity.translate(shapely.affinity.scale(p, 1.0, -1.0, origin=(0.0, 0.0)), 0.0, wide / 2.0) for p in outlines
        ]
    for polygon in (*outlines, *(shapely.Polygon(ring) for ring in ground.avoid)):
        _take(free, polygon, side)
    found: list[Remnant] = []
    while len(found) < MOST:
        x0, y0, x1, y1 = _largest(free)
        length, width = (x1 - x0) * side, (y1 - y0) * side
        if min(length, width) < least:
            break
        free[y0:y1, x0:x1] = False
        found.append(Remnant(id=f"left {len(found) + 1}", name=lay.sheet.cloth.name, length=_round(length), width=_round(width)))
    return found


def _round(length: float) -> float:
    return math.floor(length / FINEST + 1e-9) * FINEST


def _take(free: Grid, polygon: shapely.Polygon, side: float) -> None:
    """Mark the cells that a piece takes."""
    x0, y0, x1, y1 = (value / side for value in polygon.bounds)
    i0, i1 = max(0, math.floor(x0)), min(free.shape[1], math.ceil(x1))
    j0, j1 = max(0, math.floor(y0)), min(free.shape[0], math.ceil(y1))
    if i0 >= i1 or j0 >= j1:
        return
    xs, ys = np.meshgrid(np.arange(i0, i1) * side, np.arange(j0, j1) * side)
    shapely.prepare(polygon)
    met = shapely.intersects(polygon, shapely.box(xs, ys, xs + side, ys + side))
    free[j0:j1, i0:i1] &= ~np.asarray(met)


def _largest(free: Grid) -> tuple[int, int, int, int]:
    """The largest rectangle of free cells: columns and rows from … to …; by bars that grow row by row."""
    best, box = 0, (0, 0, 0, 0)
    high = np.zeros(free.shape[1] + 1, dtype=int)
    for row in range(free.shape[0]):
        high[:-1] = np.where(free[row], high[:-1] + 1, 0)
        stack: list[int] = []
        for k, bar in enumerate(high.tolist()):
            while stack and high[stack[-1]] >= bar:
                top = int(high[stack.pop()])
                begin = stack[-1] + 1 if stack else 0
                if top * (k - begin) > best:
                    best, box = top * (k - begin), (begin, row + 1 - top, k, row + 1)
            stack.append(k)
    return box
