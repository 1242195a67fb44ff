"""What is sewn or set on a panel: pockets, patches, handles, fasteners, strips."""

import numpy as np
import shapely
import shapely.ops

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Notch, Panel
from omnipel.core.drafting.shapes import outline, rectangle
from omnipel.core.finishing.placing import Additions, off_edges, row_points, shape_points
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind
from omnipel.core.job.findings import Finding, Severity
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
    points = shape_points(feature, host)
    made.say(off_edges(feature, host, points, where, "pocket-too-wide", choices))
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
    points = shape_points(feature, host)
    made.say(off_edges(feature, host, points, where, "pocket-too-wide", choices))
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
        text = tr(
            "{feature} is to be caught in “{edge}”, which is no seam of the {panel}.",
            feature=Name(feature.name),
            edge=term(feature.edge) if feature.edge else tr("no edge"),
            panel=term(host.name),
        )
        made.say(Finding("handle-not-in-seam", Severity.STOP, text, where))
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
    row = row_points(feature, host)
    count = len(row)
    for i, (x, y) in enumerate(row, 1):
        cross = np.array([(x - 4, y), (x + 4, y), (x, y), (x, y - 4), (x, y + 4)])
        made.figures.append(Figure(f"{feature.name} {i}", cross, MarkKind.POINT))
    points = shapely.MultiPoint(row)
    if not shapely.make_valid(shapely.Polygon(host.sew_points)).contains(points):
        text = tr("{feature} lies beside the {panel}.", feature=Name(feature.name), panel=term(host.name))
        made.say(Finding("feature-off-panel", Severity.STOP, text, where))
    for edge in host.edges:
        depth = edge.finish.folded
        away = min(shapely.LineString(edge.curve.points(0.5)).distance(point) for point in points.geoms)
        if depth and abs(away - depth) < STITCH_LINE:
            text = tr(
                "{feature} sits {away} from the fold of the {edge}, in the stitch line of its hem of {depth}.",
                feature=Name(feature.name),
                away=mm(away),
                edge=term(edge.name),
                depth=mm(depth),
            )
            made.say(Finding("snap-in-stitch-line", Severity.LOOK, text, where))
            break
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
    points = shape_points(feature, host)
    made.say(off_edges(feature, host, points, where, "pocket-too-wide", choices))
    made.figures.append(
        Figure(feature.name, points, MarkKind.CUT_OUT if feature.kind is FeatureKind.ZIP else MarkKind.LINE, closed=True)
    )
    long = worked(tr("length"), max(feature.width, feature.height), where.at("width"))
    made.hardware.append(Hardware(term(feature.kind), long, note=plain(feature.name)))
