"""Features on panels: openings, pockets, patches, handles, fasteners. Each adds its own panels, hardware, marks and checks.

Places are measured from the panel's centre line (the middle of its sew line, left to right) and from its top edge.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace

import numpy as np
import shapely
import shapely.ops
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Cover, Hardware, one_each
from omnipel.core.drafting.panel import Cloth, Edge, Figure, MarkKind, Notch, Panel
from omnipel.core.drafting.shapes import outline, rectangle
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind, Shape
from omnipel.core.job.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.job.finish import SEWN, double_hem, seam
from omnipel.core.plane.curves import Points, line
from omnipel.core.words.phrases import Name, mm, plain, term, tr
from omnipel.core.words.working import worked

STITCH_LINE = 5.0
"""A fastener nearer than this to a hem's stitch line splits it."""


@dataclass
class Additions:
    """What a feature adds; gathered while the features are gone through."""

    figures: list[Figure] = field(default_factory=list)
    notches: list[Notch] = field(default_factory=list)
    panels: list[Panel] = field(default_factory=list)
    hardware: list[Hardware] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)


def with_features(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its features."""
    panels = one_each(cover.panels)
    added: list[Panel] = []
    hardware, findings = list(cover.hardware), list(cover.findings)
    for i, feature in enumerate(choices.features):
        where = f"cover.features.{i}"
        host = panels.get(feature.panel)
        if host is None:
            findings.append(_off(feature, where, cover))
            continue
        made = Additions()
        try:
            _HANDLERS[feature.kind](feature, host, choices, where, made)
        except Impossible as impossible:
            text = tr("{feature}: {fault}.", feature=Name(feature.name), fault=impossible.text)
            made.findings.append(Finding("size-impossible", Severity.STOP, text, where, (_leave_out(where),)))
        panels[host.name] = replace(host, figures=(*host.figures, *made.figures), notches=(*host.notches, *made.notches))
        added += made.panels
        hardware += made.hardware
        findings += made.findings
    named = tuple(_numbered(added, set(panels)))
    return replace(cover, panels=(*panels.values(), *named), hardware=tuple(hardware), findings=tuple(findings))


def _numbered(added: list[Panel], taken: set[str]) -> Iterator[Panel]:
    """Panels of features with names of their own."""
    for panel in added:
        name, k = panel.name, 2
        while name in taken:
            name, k = f"{panel.name} {k}", k + 1
        taken.add(name)
        yield replace(panel, name=name)


def _off(feature: Feature, where: str, cover: Cover) -> Finding:
    remedies = tuple(
        Remedy(tr("Put it on the {panel}", panel=term(p.name)), (Change(f"{where}.panel", p.name),)) for p in cover.panels[:2]
    )
    text = tr("{feature}: this cover has no panel named “{panel}”.", feature=Name(feature.name), panel=term(feature.panel))
    return Finding("feature-off-panel", Severity.STOP, text, where, (*remedies, _leave_out(where)))


def _leave_out(where: str) -> Remedy:
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


def _fits(feature: Feature, host: Panel, points: Points, where: str, code: str, room: float) -> Finding | None:
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
            Change(f"{where}.from_centre", round(feature.from_centre + float(to[0]) - x, 1)),
            Change(f"{where}.from_top", round(max(0.0, feature.from_top - (float(to[1]) - y)), 1)),
        )
        remedies.append(Remedy(tr("Move it to the nearest place that is clear"), changes))
    remedies.append(_leave_out(where))
    called, panel, clear = Name(feature.name), term(host.name), mm(room)
    text = (
        tr(
            "{feature} lies across a seam, a hem or the edge of the {panel}: it has to stay {room} clear.",
            feature=called,
            panel=panel,
            room=clear,
        )
        if shapely.Polygon(host.sew_points).intersects(shape)
        else tr("{feature} lies beside the {panel}: it has to stay {room} clear.", feature=called, panel=panel, room=clear)
    )
    return Finding(code, Severity.STOP, text, where, tuple(remedies))


def _opening(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """Port: bound opening, with slit and flap if wanted."""
    points = shape_points(feature, host)
    found = _fits(feature, host, points, where, "port-across-seam", choices.habits.mm("opening room"))
    made.findings += [found] if found else []
    made.figures.append(Figure(feature.name, points, MarkKind.CUT_OUT, closed=True))
    around = worked(tr("around the opening"), float(shapely.Polygon(points).length), where)
    if feature.slit_to:
        slit = _slit(feature, host, points, where, made)
        if slit is not None:
            around = around + worked(tr("slit"), float(slit.length), f"{where}.slit_to") * 2.0
            if feature.flap:
                a = seam(choices.seam_allowance)
                size = worked(tr("slit"), float(slit.length), where) + worked(tr("lap"), choices.habits.mm("flap lap"))
                made.panels.append(
                    rectangle(
                        f"flap of {feature.name}",
                        size,
                        worked(tr("flap"), choices.habits.mm("flap")),
                        bottom=a,
                        right=a,
                        top=a,
                        left=a,
                    )
                )
                made.hardware.append(
                    Hardware(tr("hook-and-loop"), size, note=tr("under the flap of {feature}", feature=Name(feature.name)))
                )
    made.hardware.append(Hardware(tr("binding"), around, note=plain(feature.name)))


def _slit(feature: Feature, host: Panel, points: Points, where: str, made: Additions) -> shapely.LineString | None:
    """A straight slit from the opening to the nearest point of an edge."""
    names = [e.name for e in host.edges]
    if feature.slit_to not in names:
        remedies = tuple(
            Remedy(tr("Run it to the {edge}", edge=term(name)), (Change(f"{where}.slit_to", name),)) for name in names[:3]
        )
        text = tr(
            "{feature}: the slit is to run to “{edge}”, but the {panel} has no such edge.",
            feature=Name(feature.name),
            edge=term(feature.slit_to),
            panel=term(host.name),
        )
        none = Remedy(tr("No slit"), (Change(f"{where}.slit_to", ""),))
        made.findings.append(Finding("slit-reaches-nothing", Severity.STOP, text, f"{where}.slit_to", (*remedies, none)))
        return None
    edge = shapely.LineString(host.edge(feature.slit_to).curve.points())
    middle = shapely.Point(middle_of(feature, host))
    straight = shapely.LineString([middle, shapely.ops.nearest_points(edge, middle)[0]])
    slit = straight.difference(shapely.Polygon(points))
    if not isinstance(slit, shapely.LineString) or slit.is_empty:
        return None
    made.figures.append(Figure(f"slit of {feature.name}", np.asarray(slit.coords, dtype=np.float64), MarkKind.CUT_OUT))
    return slit


def _vent(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """Vent: an opening with mesh behind and a hood over it."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = _fits(feature, host, points, where, "port-across-seam", choices.habits.mm("opening room"))
    made.findings += [found] if found else []
    made.figures.append(Figure(feature.name, points, MarkKind.CUT_OUT, closed=True))
    a = seam(choices.seam_allowance)
    w, h = worked(tr("vent"), feature.width, f"{where}.width"), worked(tr("vent"), feature.height, f"{where}.height")
    made.panels.append(
        rectangle(
            f"hood of {feature.name}",
            w + worked(tr("room to breathe"), choices.habits.mm("hood")),
            h + worked(tr("overhang"), choices.habits.mm("hood")),
            bottom=double_hem(choices.habits.mm("hood hem"), choices.habits.mm("hood turn-under")),
            right=a,
            top=a,
            left=a,
        )
    )
    more = choices.habits.mm("mesh")
    size = tr(
        "{feature}, {width} by {height}",
        feature=Name(feature.name),
        width=mm(feature.width + more),
        height=mm(feature.height + more),
    )
    made.hardware.append(Hardware(tr("mesh"), count=1, note=size))


def _window(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """Clear window: lapped on from inside, the cloth cut away behind."""
    lap = choices.habits.mm("window lap")
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = _fits(feature, host, points, where, "pocket-too-wide", choices.habits.mm("opening room") + lap)
    made.findings += [found] if found else []
    made.figures.append(Figure(feature.name, points, MarkKind.CUT_OUT, closed=True))
    a = seam(lap)
    w, h = worked(tr("window"), feature.width, f"{where}.width"), worked(tr("window"), feature.height, f"{where}.height")
    made.panels.append(
        rectangle(
            feature.name,
            w,
            h,
            bottom=a,
            right=a,
            top=a,
            left=a,
            sources=dict.fromkeys(("bottom", "right", "top", "left"), ""),
            cloth=Cloth.WINDOW,
        )
    )


def _pocket(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """Pocket: flat, boxed with open corners, or divided; its top hemmed, sewn on while the panel is flat."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = _fits(feature, host, points, where, "pocket-too-wide", choices.habits.mm("opening room"))
    made.findings += [found] if found else []
    made.figures.append(Figure(f"place of {feature.name}", points, closed=True))
    low, high = points.min(axis=0), points.max(axis=0)
    for k in range(1, feature.parts):
        x = float(low[0]) + feature.width * k / feature.parts
        made.figures.append(Figure(f"division {k} of {feature.name}", np.array([(x, float(low[1])), (x, float(high[1]))])))
    made.panels.append(_pocket_panel(feature, choices, where))


def _pocket_panel(feature: Feature, choices: CoverChoices, where: str) -> Panel:
    a, hem = seam(choices.seam_allowance), double_hem(choices.habits.mm("pocket hem"), choices.habits.mm("pocket turn-under"))
    d = feature.depth
    depth = worked(tr("depth"), d, f"{where}.depth")
    wide = worked(tr("pocket"), feature.width, f"{where}.width") + (depth * 2.0 if d else depth * 0.0)
    high = worked(tr("pocket"), feature.height, f"{where}.height") + depth
    if not d:
        return rectangle(feature.name, wide, high, bottom=a, right=a, top=hem, left=a, sources={"top": ""})
    x, y = wide.value, high.value
    points = [(d, 0), (x - d, 0), (x - d, d), (x, d), (x, y), (0, y), (0, d), (d, d)]
    names = ("bottom", "right corner up", "right corner out", "right", "top", "left", "left corner out", "left corner up")
    edges = tuple(Edge(n, line(points[i], points[(i + 1) % 8]), hem if n == "top" else a) for i, n in enumerate(names))
    return outline(feature.name, edges, notes=(tr("boxed: close the two lower corners"),))


def _patch(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """Reinforcement patch: turned under all round and stitched on."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = _fits(feature, host, points, where, "pocket-too-wide", 0.0)
    made.findings += [found] if found else []
    made.figures.append(Figure(f"place of {feature.name}", points, closed=True))
    a = seam(choices.habits.mm("patch seam"))
    w, h = worked(tr("patch"), feature.width, f"{where}.width"), worked(tr("patch"), feature.height, f"{where}.height")
    made.panels.append(
        rectangle(
            feature.name, w, h, bottom=a, right=a, top=a, left=a, sources=dict.fromkeys(("bottom", "right", "top", "left"), "")
        )
    )


def _handle(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """Webbing handle: both ends caught in a seam, marked on its edge."""
    sewn = [e for e in host.edges if e.finish.kind in SEWN]
    edges = [e for e in sewn if e.name == feature.edge]
    if not edges:
        remedies = tuple(
            Remedy(tr("Catch it in the {edge}", edge=term(e.name)), (Change(f"{where}.edge", e.name),)) for e in sewn[:2]
        )
        text = tr(
            "{feature} is to be caught in “{edge}”, which is no seam of the {panel}.",
            feature=Name(feature.name),
            edge=term(feature.edge) if feature.edge else tr("no edge"),
            panel=term(host.name),
        )
        made.findings.append(Finding("handle-not-in-seam", Severity.STOP, text, f"{where}.edge", (*remedies, _leave_out(where))))
        return
    long = edges[0].curve.length
    half = min(feature.width / long, 1.0) / 2.0
    at = min(max(0.5 + feature.from_centre / long, half), 1.0 - half)
    made.notches += [Notch(feature.edge, at + side * half, feature.name[:6], MarkKind.POINT) for side in (-1.0, 1.0)]
    grip = (
        worked(tr("grip"), feature.width * 1.4, f"{where}.width", tr("the hand's room over its width"))
        + worked(tr("caught in the seam"), choices.seam_allowance + choices.habits.mm("caught"), "cover.seam_allowance") * 2.0
    )
    made.hardware.append(Hardware(tr("webbing"), grip, note=plain(feature.name)))


def _fasteners(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """A row of snaps, grommets, ties or drawcord exits."""
    x, y = middle_of(feature, host)
    count = 2 if feature.kind is FeatureKind.CORD_EXIT else feature.parts
    xs = np.linspace(x - feature.width / 2.0, x + feature.width / 2.0, count) if count > 1 else [x]
    polygon = shapely.Polygon(host.sew_points)
    for i, at in enumerate(xs, 1):
        made.figures.append(
            Figure(f"{feature.name} {i}", np.array([(at - 4, y), (at + 4, y), (at, y), (at, y - 4), (at, y + 4)]), MarkKind.POINT)
        )
    ends = shapely.MultiPoint([(float(xs[0]), y), (float(xs[-1]), y)])
    drop = _leave_out(where)
    if not polygon.contains(ends):
        text = tr("{feature} lies beside the {panel}.", feature=Name(feature.name), panel=term(host.name))
        centre = Remedy(
            tr("Put it in the middle"),
            (
                Change(f"{where}.from_centre", 0.0),
                Change(f"{where}.from_top", round(float(np.ptp(host.sew_points[:, 1])) / 2.0, 1)),
                Change(f"{where}.width", 1.0),
            ),
        )
        made.findings.append(Finding("feature-off-panel", Severity.STOP, text, where, (centre, drop)))
    for edge in host.edges:
        depth = edge.finish.folded
        away = shapely.LineString(edge.curve.points(0.5)).distance(ends)
        if depth and abs(away - depth) < STITCH_LINE:
            text = tr(
                "{feature} sits {away} from the fold of the {edge}, in the stitch line of its hem of {depth}.",
                feature=Name(feature.name),
                away=mm(away),
                edge=term(edge.name),
                depth=mm(depth),
            )
            up = round(max(0.0, feature.from_top - (depth + choices.habits.mm("clear of a stitch line") - away)), 1)
            move = Remedy(tr("Move it clear of the hem"), (Change(f"{where}.from_top", up),))
            made.findings.append(Finding("snap-in-stitch-line", Severity.LOOK, text, where, (move, drop)))
    if feature.kind is FeatureKind.TIE:
        made.hardware.append(
            Hardware(tr("tie tape"), worked(tr("tie"), choices.habits.mm("tie")) * (2.0 * count), note=plain(feature.name))
        )
    else:
        made.hardware.append(
            Hardware(
                tr("grommets") if feature.kind is FeatureKind.CORD_EXIT else term(feature.kind),
                count=count,
                note=plain(feature.name),
            )
        )


def _strip(feature: Feature, host: Panel, choices: CoverChoices, where: str, made: Additions) -> None:
    """A length of hook-and-loop or a zip, laid on the panel."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = _fits(feature, host, points, where, "pocket-too-wide", 0.0)
    made.findings += [found] if found else []
    made.figures.append(
        Figure(feature.name, points, MarkKind.CUT_OUT if feature.kind is FeatureKind.ZIP else MarkKind.LINE, closed=True)
    )
    long = worked(tr("length"), max(feature.width, feature.height), f"{where}.width")
    made.hardware.append(Hardware(term(feature.kind), long, note=plain(feature.name)))


_HANDLERS: dict[FeatureKind, Callable[[Feature, Panel, CoverChoices, str, Additions], None]] = {
    FeatureKind.PORT: _opening,
    FeatureKind.VENT: _vent,
    FeatureKind.WINDOW: _window,
    FeatureKind.POCKET: _pocket,
    FeatureKind.PATCH: _patch,
    FeatureKind.HANDLE: _handle,
    FeatureKind.SNAP: _fasteners,
    FeatureKind.GROMMET: _fasteners,
    FeatureKind.TIE: _fasteners,
    FeatureKind.CORD_EXIT: _fasteners,
    FeatureKind.HOOK_AND_LOOP: _strip,
    FeatureKind.ZIP: _strip,
}
