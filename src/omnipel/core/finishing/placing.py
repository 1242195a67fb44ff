"""Where a feature lies on its panel, whether there is room for it, and what it adds.

Places are measured from the panel's centre line (the middle of its sew line, left to right) and from its top edge.
"""

import math
from dataclasses import dataclass, field

import numpy as np
import shapely
import shapely.ops
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting.panel import Figure, Notch, Panel
from omnipel.core.job.document import Feature, FeatureKind, Shape
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Name, mm, term, tr
from omnipel.core.words.refs import Ref


@dataclass
class Additions:
    """What a feature adds; gathered while the features are gone through."""

    figures: list[Figure] = field(default_factory=list)
    notches: list[Notch] = field(default_factory=list)
    panels: list[Panel] = field(default_factory=list)
    hardware: list[Hardware] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)


def leave_out(where: Ref) -> Remedy:
    """Do without the feature."""
    return Remedy(tr("Leave it out"), (Change(where, act=Act.REMOVE),))


def middle_of(feature: Feature, host: Panel) -> tuple[float, float]:
    """Where the feature's middle lies in the panel's frame."""
    low, high = host.sew_points.min(axis=0), host.sew_points.max(axis=0)
    return float(low[0] + high[0]) / 2.0 + feature.from_centre, float(high[1]) - feature.from_top


def clear_of_edges(host: Panel, room: float) -> shapely.Polygon:
    """The part of a panel that is clear of its seams by `room`, and of its folded hems by their width besides."""
    free: BaseGeometry = shapely.Polygon(host.sew_points)
    for edge in host.edges:
        depth = edge.finish.folded + room
        free = free.difference(shapely.LineString(edge.curve.points(0.5)).buffer(depth, cap_style="flat"))
    parts = [part for part in getattr(free, "geoms", [free]) if isinstance(part, shapely.Polygon)]
    return max(parts, key=lambda part: part.area, default=shapely.Polygon())


def shape_points(feature: Feature, host: Panel, *, shape: Shape | None = None) -> Points:
    """The outline of an opening or patch, `(n, 2)`."""
    x, y = middle_of(feature, host)
    w, h = feature.width / 2.0, feature.height / 2.0
    match shape or feature.shape:
        case Shape.ROUND:
            angles = np.linspace(0.0, 2.0 * math.pi, 96, endpoint=False)
            return np.column_stack((x + w * np.cos(angles), y + w * np.sin(angles)))
        case Shape.RECTANGLE:
            return np.array([(x - w, y - h), (x + w, y - h), (x + w, y + h), (x - w, y + h)])
        case Shape.SLOT:
            r = min(w, h)
            core = shapely.LineString([(x - (w - r), y - (h - r)), (x + (w - r), y + (h - r))])
            return np.asarray(
                shapely.get_coordinates(core.buffer(r, quad_segs=16))
                if core.length
                else shapely.get_coordinates(shapely.Point(x, y).buffer(r, quad_segs=16))
            )[:-1]


def fits(feature: Feature, host: Panel, points: Points, where: Ref, code: str, room: float) -> Finding | None:
    """None when the shape lies clear of the edges; else the finding, with the nearest place where it would."""
    free = clear_of_edges(host, room)
    shape = shapely.Polygon(points)
    if free.contains(shape):
        return None
    remedies = []
    x, y = middle_of(feature, host)
    reach = (
        max(np.ptp(points, axis=0))
        / 2.0
        * (1.0 if feature.shape is Shape.ROUND and feature.kind is FeatureKind.PORT else math.sqrt(2.0))
    )
    inner = free.buffer(-reach * 1.001 - 0.2)  # its place is rounded to a tenth
    if not inner.is_empty:
        to = shapely.get_coordinates(shapely.ops.nearest_points(inner, shapely.Point(x, y))[0])[0]
        changes = (
            Change(where.at("from_centre"), round(feature.from_centre + float(to[0]) - x, 1)),
            Change(where.at("from_top"), round(max(0.0, feature.from_top - (float(to[1]) - y)), 1)),
        )
        remedies.append(Remedy(tr("Move it to the nearest place that is clear"), changes))
    remedies.append(leave_out(where))
    called, panel = Name(feature.name), term(host.name)
    wanted = tr("it has to stay {room} clear", room=mm(room)) if room else tr("it has to lie inside of them")
    text = (
        tr(
            "{feature} lies across a seam, a hem or the edge of the {panel}: {wanted}.",
            feature=called,
            panel=panel,
            wanted=wanted,
        )
        if shapely.Polygon(host.sew_points).intersects(shape)
        else tr("{feature} lies beside the {panel}: {wanted}.", feature=called, panel=panel, wanted=wanted)
    )
    return Finding(code, Severity.STOP, text, where, tuple(remedies))
