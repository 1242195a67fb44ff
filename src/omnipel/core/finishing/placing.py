"""Whether there is room for something where it lies, and where there would be."""

import itertools
from collections.abc import Iterable, Sequence
from typing import Final

import numpy as np
import shapely
import shapely.ops
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.panel import Panel
from omnipel.core.finishing.kind import Lies, Put
from omnipel.core.job.findings import Finding, Severity
from omnipel.core.words.phrases import Name, mm, term, tr

FINE: Final = 0.3
"""A place is found with so much to spare, mm: outlines are flattened."""


def clear_of_edges(host: Panel, room: float) -> BaseGeometry:
    """The part of a panel that is clear of its seams by `room`, and of its folded hems by their width besides."""
    lines, depths = _edges(host, room)
    taken = shapely.union_all(shapely.buffer(lines, depths, cap_style="flat"))
    return shapely.make_valid(shapely.Polygon(host.sew_points)).difference(taken)


def _edges(host: Panel, room: float) -> tuple[NDArray[np.object_], NDArray[np.float64]]:
    """The edges of a panel as lines, and how far something that needs `room` has to stay from each, mm."""
    lines = np.array([shapely.LineString(edge.curve.points(0.5)) for edge in host.edges])
    return lines, np.array([edge.finish.folded + room for edge in host.edges])


def _clear(put: Put, room: float) -> bool:
    """Whether something lies clear of the edges by the room that it needs."""
    lines, depths = _edges(put.host, room)
    if (
        shapely.make_valid(shapely.Polygon(put.host.sew_points)).covers(put.area)
        and (shapely.distance(lines, put.area) > depths).all()
    ):
        return True
    return bool(clear_of_edges(put.host, room).buffer(1e-6).contains(put.area))


def off_edges(put: Put, code: str) -> Finding | None:
    """What there is to say when it does not lie clear of the edges by the room that it needs."""
    room = put.kind.room(put)
    if _clear(put, room):
        return None
    wanted = tr("it has to stay {room} clear", room=mm(room)) if room else tr("it has to lie inside of them")
    text = tr(
        "{feature} lies across a seam, a hem or the edge of the {panel}: {wanted}.", feature=put.name, panel=put.on, wanted=wanted
    )
    return Finding(code, Severity.STOP, text, put.where)


def over_others(put: Put, taken: Iterable[Put]) -> Finding | None:
    """What there is to say when it lies over an opening, or an opening over a pocket, or one pocket over another."""
    for other in taken:
        if other.spot.piece.name == put.spot.piece.name and collide(put, other) and put.area.intersects(other.area):
            text = tr(
                "{feature} and {other} lie over one another on the {panel}.",
                feature=put.name,
                other=Name(other.feature.name),
                panel=term(put.host.name),
            )
            return Finding("features-overlap", Severity.STOP, text, put.where)
    return None


def collide(put: Put, other: Put) -> bool:
    """Whether two kinds must not lie over one another: nothing may lie over an opening, nor one pocket over another."""
    kinds = {put.kind.lies, other.kind.lies}
    return not kinds & {Lies.UNDER, Lies.CAUGHT} and (Lies.CUT in kinds or kinds == {Lies.SEWN})


def resting_area(put: Put, taken: Sequence[Put]) -> BaseGeometry:
    """Where the middle of something may lie on the flat panel so that all of it is clear: of edges by its room, and of what lies there already."""
    free = clear_of_edges(put.host, put.kind.room(put))
    for other in taken:
        if other.spot.piece.name == put.spot.piece.name and collide(put, other):
            free = free.difference(other.area.buffer(1.0))
    return shrunk(free, put.spot.flat(put.local) - put.spot.at)


def shrunk(area: BaseGeometry, shape: np.ndarray) -> BaseGeometry:
    """Where the origin of a convex shape `(n, 2)` may lie so that it stays inside an area: the area's erosion by it."""
    if area.is_empty:
        return area
    hull = shapely.MultiPoint(shape).convex_hull.buffer(FINE, quad_segs=2)
    corners, swept = -shapely.get_coordinates(hull), []
    for part in getattr(area, "geoms", [area]):
        for ring in (part.exterior, *part.interiors) if isinstance(part, shapely.Polygon) else ():
            line = np.asarray(ring.simplify(0.2).coords)
            for a, b in itertools.pairwise(line):
                swept.append(shapely.MultiPoint(np.concatenate((corners + a, corners + b))).convex_hull)
    return area.difference(shapely.union_all(swept))
