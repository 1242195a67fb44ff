"""Where a feature lies on its panel, whether there is room for it, and what it adds.

Places are measured from the panel's centre line (the middle of its sew line, left to right) and from its top edge.
"""

import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely
import shapely.ops
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting.panel import Figure, Notch, Panel
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind, Shape
from omnipel.core.job.findings import Finding, Severity
from omnipel.core.plane.curves import Points, quarter_chords
from omnipel.core.words.phrases import Name, mm, term, tr
from omnipel.core.words.refs import Ref

ROUND_FEATURES = frozenset((FeatureKind.PORT,))
"""Only these may be round; what else has a size is a rectangle."""
ROWS = frozenset((FeatureKind.SNAP, FeatureKind.GROMMET, FeatureKind.TIE, FeatureKind.CORD_EXIT))
"""Points in a row."""
CUT = frozenset((FeatureKind.PORT, FeatureKind.VENT, FeatureKind.WINDOW, FeatureKind.ZIP))
"""What is cut out of the panel: nothing else may lie over it."""
SEWN_ON = frozenset((FeatureKind.POCKET, FeatureKind.HOOK_AND_LOOP))
FINE = 0.3
"""A place is found with so much to spare, mm: outlines are flattened."""


@dataclass
class Additions:
    """What a feature adds; gathered while the features are gone through."""

    figures: list[Figure] = field(default_factory=list)
    notches: list[Notch] = field(default_factory=list)
    panels: list[Panel] = field(default_factory=list)
    hardware: list[Hardware] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)

    def say(self, finding: Finding | None) -> None:
        """Keep what there is to say."""
        self.findings += [finding] if finding is not None else []


def middle_of(feature: Feature, host: Panel) -> tuple[float, float]:
    """Where the feature's middle lies in the panel's frame."""
    low, high = host.sew_points.min(axis=0), host.sew_points.max(axis=0)
    return float(low[0] + high[0]) / 2.0 + feature.from_centre, float(high[1]) - feature.from_top


def clear_of_edges(host: Panel, room: float) -> BaseGeometry:
    """The part of a panel that is clear of its seams by `room`, and of its folded hems by their width besides."""
    free: BaseGeometry = shapely.make_valid(shapely.Polygon(host.sew_points))
    for edge in host.edges:
        depth = edge.finish.folded + room
        free = free.difference(shapely.LineString(edge.curve.points(0.5)).buffer(depth, cap_style="flat"))
    return free


def shape_of(feature: Feature) -> Shape:
    """The shape of what it covers."""
    return feature.shape if feature.kind in ROUND_FEATURES else Shape.RECTANGLE


def shape_points(feature: Feature, host: Panel) -> Points:
    """The outline of an opening or patch, `(n, 2)`."""
    x, y = middle_of(feature, host)
    w, h = feature.width / 2.0, feature.height / 2.0
    match shape_of(feature):
        case Shape.ROUND:
            angles = np.linspace(0.0, 2.0 * math.pi, 96, endpoint=False)
            return np.column_stack((x + w * np.cos(angles), y + w * np.sin(angles)))
        case Shape.RECTANGLE:
            return np.array([(x - w, y - h), (x + w, y - h), (x + w, y + h), (x - w, y + h)])
        case Shape.SLOT:
            r = min(w, h)
            core = shapely.LineString([(x - (w - r), y - (h - r)), (x + (w - r), y + (h - r))])
            return np.asarray(
                shapely.get_coordinates(core.buffer(r, quad_segs=quarter_chords(r)))
                if core.length
                else shapely.get_coordinates(shapely.Point(x, y).buffer(r, quad_segs=quarter_chords(r)))
            )[:-1]


def covered(feature: Feature, host: Panel) -> shapely.Polygon:
    """What a feature takes up of its panel."""
    return shapely.Polygon(shape_points(feature, host))


def room_of(feature: Feature, choices: CoverChoices) -> float:
    """How far a feature keeps clear of seams and hems, mm."""
    habits = choices.habits
    if feature.kind is FeatureKind.WINDOW:
        return habits.mm("opening room") + habits.mm("window lap")
    if feature.kind in (CUT - {FeatureKind.ZIP}) or feature.kind is FeatureKind.POCKET:
        return habits.mm("opening room")
    return 0.0


def off_edges(feature: Feature, host: Panel, points: Points, where: Ref, code: str, choices: CoverChoices) -> Finding | None:
    """What there is to say when a shape does not lie clear of the edges by the room that it needs."""
    room = room_of(feature, choices)
    shape = shapely.Polygon(points)
    if clear_of_edges(host, room).contains(shape):
        return None
    called, panel = Name(feature.name), term(host.name)
    wanted = tr("it has to stay {room} clear", room=mm(room)) if room else tr("it has to lie inside of them")
    text = (
        tr(
            "{feature} lies across a seam, a hem or the edge of the {panel}: {wanted}.",
            feature=called,
            panel=panel,
            wanted=wanted,
        )
        if shapely.make_valid(shapely.Polygon(host.sew_points)).intersects(shape)
        else tr("{feature} lies beside the {panel}: {wanted}.", feature=called, panel=panel, wanted=wanted)
    )
    return Finding(code, Severity.STOP, text, where)


def over_others(feature: Feature, host: Panel, taken: Iterable[Feature], where: Ref) -> Finding | None:
    """What there is to say when a feature lies over an opening, or an opening over a pocket, or one pocket over another."""
    for other in taken:
        if collide(feature, other, host):
            text = tr(
                "{feature} and {other} lie over one another on the {panel}.",
                feature=Name(feature.name),
                other=Name(other.name),
                panel=term(host.name),
            )
            return Finding("features-overlap", Severity.STOP, text, where)
    return None


def collide(feature: Feature, other: Feature, host: Panel) -> bool:
    """Whether two features cannot both lie where they lie on a panel."""
    if not collide_anywhere(feature, other):
        return False
    if {feature.kind, other.kind} & ROWS:
        row, opening = (feature, other) if feature.kind in ROWS else (other, feature)
        return bool(covered(opening, host).intersects(shapely.MultiPoint(row_points(row, host))))
    return bool(covered(feature, host).intersects(covered(other, host)))


def row_points(feature: Feature, host: Panel) -> Points:
    """Where the fasteners of a row lie, `(n, 2)`."""
    x, y = middle_of(feature, host)
    count = 2 if feature.kind is FeatureKind.CORD_EXIT else feature.parts
    xs = np.linspace(x - feature.width / 2.0, x + feature.width / 2.0, count) if count > 1 else np.array([x])
    return np.column_stack((xs, np.full(len(xs), y)))


def resting_area(feature: Feature, host: Panel, room: float, taken: Sequence[Feature]) -> BaseGeometry:
    """Where the middle of a feature may lie so that all of it is clear: of edges by `room`, and of what lies there already."""
    free = clear_of_edges(host, room)
    for other in taken:
        if collide_anywhere(feature, other):
            free = free.difference(covered(other, host).buffer(1.0))
    if shape_of(feature) is Shape.ROUND:
        return free.buffer(-(feature.width / 2.0 + FINE))
    wide = feature.width / 2.0 if feature.kind not in ROWS or len(row_points(feature, host)) > 1 else 0.0
    return shrunk(free, wide + FINE, (0.0 if feature.kind in ROWS else feature.height / 2.0) + FINE)


def collide_anywhere(feature: Feature, other: Feature) -> bool:
    """Whether two kinds must not lie over one another."""
    kinds = {feature.kind, other.kind}
    return not (FeatureKind.PATCH in kinds or FeatureKind.HANDLE in kinds) and bool(kinds & CUT or kinds <= SEWN_ON)


def shrunk(area: BaseGeometry, wide: float, high: float) -> BaseGeometry:
    """Where the middle of a rectangle of these half sides may lie so that it stays inside an area: the area's erosion by it."""
    if area.is_empty:
        return area
    swept = []
    corners = np.array([(-wide, -high), (wide, -high), (wide, high), (-wide, high)])
    for part in getattr(area, "geoms", [area]):
        for ring in (part.exterior, *part.interiors) if isinstance(part, shapely.Polygon) else ():
            line = np.asarray(ring.simplify(0.2).coords)
            for a, b in itertools.pairwise(line):
                swept.append(shapely.MultiPoint(np.concatenate((corners + a, corners + b))).convex_hull)
    return area.difference(shapely.union_all(swept))
