"""What is sewn or set on a panel: pockets, patches, handles, fasteners, strips."""

import numpy as np
import shapely
import shapely.ops

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Notch, Panel
from omnipel.core.drafting.shapes import outline, rectangle
from omnipel.core.finishing.placing import Additions, fits, leave_out, middle_of, shape_points
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind, Shape
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import SEWN, double_hem, seam
from omnipel.core.plane.curves import line
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, mm, plain, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked

STITCH_LINE = 5.0
"""A fastener nearer than this to a hem's stitch line splits it."""


def pocket(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """Pocket: flat, boxed with open corners, or divided; its top hemmed, sewn on while the panel is flat."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = fits(feature, host, points, where, "pocket-too-wide", choices.habits.mm("opening room"))
    made.findings += [found] if found else []
    made.figures.append(Figure(f"place of {feature.name}", points, closed=True))
    low, high = points.min(axis=0), points.max(axis=0)
    for k in range(1, feature.parts):
        x = float(low[0]) + feature.width * k / feature.parts
        made.figures.append(Figure(f"division {k} of {feature.name}", np.array([(x, float(low[1])), (x, float(high[1]))])))
    made.panels.append(_pocket_panel(feature, choices, where))


def _pocket_panel(feature: Feature, choices: CoverChoices, where: Ref) -> Panel:
    a, hem = seam(choices.seam_allowance), double_hem(choices.habits.mm("pocket hem"), choices.habits.mm("pocket turn-under"))
    d = feature.depth
    depth = worked(tr("depth"), d, where.at("depth"))
    wide = worked(tr("pocket"), feature.width, where.at("width")) + (depth * 2.0 if d else depth * 0.0)
    high = worked(tr("pocket"), feature.height, where.at("height")) + depth
    if not d:
        return rectangle(feature.name, wide, high, bottom=a, right=a, top=hem, left=a, sources={"top": None})
    x, y = wide.value, high.value
    points = [(d, 0), (x - d, 0), (x - d, d), (x, d), (x, y), (0, y), (0, d), (d, d)]
    names = ("bottom", "right corner up", "right corner out", "right", "top", "left", "left corner out", "left corner up")
    edges = tuple(Edge(n, line(points[i], points[(i + 1) % 8]), hem if n == "top" else a) for i, n in enumerate(names))
    return outline(feature.name, edges, notes=(tr("boxed: close the two lower corners"),))


def patch(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """Reinforcement patch: turned under all round and stitched on."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = fits(feature, host, points, where, "pocket-too-wide", 0.0)
    made.findings += [found] if found else []
    made.figures.append(Figure(f"place of {feature.name}", points, closed=True))
    a = seam(choices.habits.mm("patch seam"))
    w, h = worked(tr("patch"), feature.width, where.at("width")), worked(tr("patch"), feature.height, where.at("height"))
    made.panels.append(
        rectangle(feature.name, w, h, bottom=a, right=a, top=a, left=a, sources=dict.fromkeys(("bottom", "right", "top", "left")))
    )


def handle(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """Webbing handle: both ends caught in a seam, marked on its edge."""
    sewn = [e for e in host.edges if e.finish.kind in SEWN]
    edges = [e for e in sewn if e.name == feature.edge]
    if not edges:
        remedies = tuple(
            Remedy(tr("Catch it in the {edge}", edge=term(e.name)), (Change(where.at("edge"), e.name),)) for e in sewn[:2]
        )
        text = tr(
            "{feature} is to be caught in “{edge}”, which is no seam of the {panel}.",
            feature=Name(feature.name),
            edge=term(feature.edge) if feature.edge else tr("no edge"),
            panel=term(host.name),
        )
        made.findings.append(Finding("handle-not-in-seam", Severity.STOP, text, where.at("edge"), (*remedies, leave_out(where))))
        return
    long = edges[0].curve.length
    half = min(feature.width / long, 1.0) / 2.0
    at = min(max(0.5 + feature.from_centre / long, half), 1.0 - half)
    made.notches += [Notch(feature.edge, at + side * half, feature.name[:6], MarkKind.POINT) for side in (-1.0, 1.0)]
    grip = (
        worked(tr("grip"), feature.width * 1.4, where.at("width"), tr("the hand's room over its width"))
        + worked(tr("caught in the seam"), choices.seam_allowance + choices.habits.mm("caught"), refs.SEAM_ALLOWANCE) * 2.0
    )
    made.hardware.append(Hardware(tr("webbing"), grip, note=plain(feature.name)))


def fasteners(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
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
    drop = leave_out(where)
    if not polygon.contains(ends):
        text = tr("{feature} lies beside the {panel}.", feature=Name(feature.name), panel=term(host.name))
        centre = Remedy(
            tr("Put it in the middle"),
            (
                Change(where.at("from_centre"), 0.0),
                Change(where.at("from_top"), round(float(np.ptp(host.sew_points[:, 1])) / 2.0, 1)),
                Change(where.at("width"), 1.0),
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
            move = Remedy(tr("Move it clear of the hem"), (Change(where.at("from_top"), up),))
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


def strip(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """A length of hook-and-loop or a zip, laid on the panel."""
    points = shape_points(feature, host, shape=Shape.RECTANGLE)
    found = fits(feature, host, points, where, "pocket-too-wide", 0.0)
    made.findings += [found] if found else []
    made.figures.append(
        Figure(feature.name, points, MarkKind.CUT_OUT if feature.kind is FeatureKind.ZIP else MarkKind.LINE, closed=True)
    )
    long = worked(tr("length"), max(feature.width, feature.height), where.at("width"))
    made.hardware.append(Hardware(term(feature.kind), long, note=plain(feature.name)))
