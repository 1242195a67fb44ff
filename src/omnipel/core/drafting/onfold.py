"""Panels cut on the fold of the cloth: along which line a panel is the same on both sides, and the half of it that is marked out."""

import math
from collections.abc import Iterator

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Figure, Panel
from omnipel.core.plane.curves import Points
from omnipel.core.plane.fold import Fold
from omnipel.core.tolerances import FOLD_ALIKE


def fold_of(panel: Panel) -> Fold | None:
    """The line by which a panel can be placed on the fold: along the grain, as cloth is folded lengthwise, else across it; None where its sides differ."""
    ring = cut_line(panel)
    for heading in (panel.grain, panel.grain + math.pi / 2.0):
        across = np.array((-math.sin(heading), math.cos(heading)))
        reached = ring @ across
        middle = float(reached.min() + reached.max()) / 2.0
        x, y = np.array(ring.mean(axis=0)) + across * (middle - float(ring.mean(axis=0) @ across))
        fold = Fold((float(x), float(y)), heading)
        if _alike(panel, ring, fold):
            return fold
    return None


def _alike(panel: Panel, ring: Points, fold: Fold) -> bool:
    """Whether both halves are cut alike, and all that is drawn in them."""
    for line in (ring, panel.sew_points):
        outline = shapely.LinearRing(line)
        shapely.prepare(outline)
        if not shapely.dwithin(outline, shapely.points(fold.mirrored(line)), FOLD_ALIKE).all():
            return False  # a mirror image is as far from a line as that is from it
    drawn = [figure for figure in panel.figures if len(figure.points)]
    shapes = [_shape(figure.points, figure) for figure in drawn]
    left = list(range(len(drawn)))
    for figure in drawn:
        there = _shape(fold.mirrored(figure.points), figure)
        partner = next(
            (
                k
                for k in left
                if drawn[k].kind is figure.kind
                and shapes[k].geom_type == there.geom_type
                and shapely.hausdorff_distance(shapes[k], there) <= FOLD_ALIKE
            ),
            None,
        )
        if partner is None:
            return False
        left.remove(partner)
    return True


def _shape(points: Points, figure: Figure) -> BaseGeometry:
    """A figure as a line."""
    if len(points) == 1:
        return shapely.Point(points[0])
    return shapely.LinearRing(points) if figure.closed and len(points) > 2 else shapely.LineString(points)


def clipped(points: Points, half: shapely.Polygon, *, closed: bool = False) -> Iterator[Points]:
    """The parts of a line, or of a ring's line, that lie in the half, each `(n, 2)`."""
    if len(points) < 2:
        if len(points) and half.covers(shapely.Point(points[0])):
            yield points
        return
    line = shapely.LineString([*points, points[0]] if closed else points)
    within = shapely.intersection(line, half)
    merged = shapely.line_merge(within) if within.geom_type == "MultiLineString" else within
    for part in shapely.get_parts(merged):
        if isinstance(part, shapely.LineString) and part.length > FOLD_ALIKE:
            yield np.asarray(part.coords)
