"""An opening that lies across a seam: a part of it on each panel, finished before the seam is sewn."""

from dataclasses import replace
from typing import Final

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.panel import MarkKind, Notch
from omnipel.core.finishing.kind import Put
from omnipel.core.finishing.spots import Spot
from omnipel.core.plane.trace import ring_around
from omnipel.core.words.phrases import tr

LEAST: Final = 0.5
"""A seam that an opening meets for less than this is not interrupted, mm."""


def halves(put: Put) -> None:
    """Draw the part of an opening that lies on its own panel, and that on the panel across its nearest seam; a finding where it lies otherwise."""
    whole = shapely.Polygon(put.local)
    mine = _within(whole, put.spot)
    beyond = whole.difference(mine)
    if beyond.is_empty or beyond.area < 1.0:
        put.draw(put.feature.name, put.local, MarkKind.CUT_OUT, closed=True)
        return
    over = _neighbour(put, beyond)
    other = _within(whole, over) if over is not None else shapely.Polygon()
    if over is None or abs(mine.area + other.area - whole.area) > 0.02 * whole.area:
        text = tr(
            "{feature} lies across more than one seam, or over the edge of the cover: it cannot be made of two halves.",
            feature=put.name,
        )
        put.stop("port-across-seam", text)
        return
    for part, spot in ((mine, put.spot), (other, over)):
        put.draw(f"half of {put.feature.name}", ring_around(part), MarkKind.CUT_OUT, closed=True, spot=spot)
        _interrupt(put, whole, spot)


def _interrupt(put: Put, whole: shapely.Polygon, spot: Spot) -> None:
    """Marks on the seam where it stops before the opening and goes on behind it."""
    area = shapely.Polygon(spot.flat(np.asarray(whole.exterior.coords)))
    for edge in spot.panel.edges:
        line = shapely.LineString(edge.curve.points())
        over = line.intersection(area)
        if over.length < LEAST:
            continue
        ends = [line.project(shapely.Point(at), normalized=True) for at in shapely.get_coordinates(over)]
        for share in (min(ends), max(ends)):
            if 1e-6 < share < 1.0 - 1e-6:
                put.mark(Notch(edge.name, share, "stop", MarkKind.POINT), spot.piece.name)


def _within(whole: shapely.Polygon, spot: Spot) -> shapely.Polygon:
    """What of a shape lies on the panel of a spot, in the frame of the feature."""
    sewn = shapely.make_valid(shapely.Polygon(spot.seen(spot.panel.sew_points)))
    part = whole.intersection(sewn)
    return part if isinstance(part, shapely.Polygon) else shapely.Polygon()


def _neighbour(put: Put, beyond: BaseGeometry) -> Spot | None:
    """The middle of the opening as the panel across the seam has it, its own panel carried on over the seam."""
    x, y = np.asarray(beyond.centroid.coords[0])
    way = np.array((x, -y)) / (np.hypot(x, y) or 1.0)
    edge, share, reach = put.ground.to_edge(put.spot, (float(way[0]), float(way[1])))
    met = put.ground.over(put.spot, edge, share)
    return replace(met, at=met.at - (way[0] * met.right + way[1] * met.down) * reach) if met is not None else None
