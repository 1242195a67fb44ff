"""Openings in panels: ports with slit and flap, vents with mesh and hood, clear windows."""

import numpy as np
import shapely
import shapely.ops

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting.panel import Cloth, Figure, MarkKind, Panel
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.finishing.placing import Additions, middle_of, off_edges, shape_points
from omnipel.core.job.document import CoverChoices, Feature
from omnipel.core.job.findings import Finding, Severity
from omnipel.core.job.finish import double_hem, seam
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Name, mm, plain, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked


def opening(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """Port: bound opening, with slit and flap if wanted."""
    points = shape_points(feature, host)
    made.say(off_edges(feature, host, points, where, "port-across-seam", choices))
    made.figures.append(Figure(feature.name, points, MarkKind.CUT_OUT, closed=True))
    around = worked(tr("around the opening"), float(shapely.Polygon(points).length), where)
    if feature.slit_to:
        slit = _slit(feature, host, points, where, made)
        if slit is not None:
            around = around + worked(tr("slit"), float(slit.length), where.at("slit_to")) * 2.0
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


def _slit(feature: Feature, host: Panel, points: Points, where: Ref, made: Additions) -> shapely.LineString | None:
    """A straight slit from the opening to the nearest point of an edge."""
    names = [e.name for e in host.edges]
    if feature.slit_to not in names:
        text = tr(
            "{feature}: the slit is to run to “{edge}”, but the {panel} has no such edge.",
            feature=Name(feature.name),
            edge=term(feature.slit_to),
            panel=term(host.name),
        )
        made.say(Finding("slit-reaches-nothing", Severity.STOP, text, where))
        return None
    edge = shapely.LineString(host.edge(feature.slit_to).curve.points())
    middle = shapely.Point(middle_of(feature, host))
    straight = shapely.LineString([middle, shapely.ops.nearest_points(edge, middle)[0]])
    slit = straight.difference(shapely.Polygon(points))
    if not isinstance(slit, shapely.LineString) or slit.is_empty:
        text = tr(
            "{feature}: no straight slit runs from it to the {edge}.", feature=Name(feature.name), edge=term(feature.slit_to)
        )
        made.say(Finding("slit-reaches-nothing", Severity.STOP, text, where))
        return None
    made.figures.append(Figure(f"slit of {feature.name}", np.asarray(slit.coords, dtype=np.float64), MarkKind.CUT_OUT))
    return slit


def vent(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """Vent: an opening with mesh behind and a hood over it."""
    points = shape_points(feature, host)
    made.say(off_edges(feature, host, points, where, "port-across-seam", choices))
    made.figures.append(Figure(feature.name, points, MarkKind.CUT_OUT, closed=True))
    a = seam(choices.seam_allowance)
    w, h = worked(tr("vent"), feature.width, where.at("width")), worked(tr("vent"), feature.height, where.at("height"))
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


def window(feature: Feature, host: Panel, choices: CoverChoices, where: Ref, made: Additions) -> None:
    """Clear window: lapped on from inside, the cloth cut away behind."""
    lap = choices.habits.mm("window lap")
    points = shape_points(feature, host)
    made.say(off_edges(feature, host, points, where, "pocket-too-wide", choices))
    made.figures.append(Figure(feature.name, points, MarkKind.CUT_OUT, closed=True))
    a = seam(lap)
    w, h = worked(tr("window"), feature.width, where.at("width")), worked(tr("window"), feature.height, where.at("height"))
    made.panels.append(
        rectangle(
            feature.name,
            w,
            h,
            bottom=a,
            right=a,
            top=a,
            left=a,
            sources=dict.fromkeys(("bottom", "right", "top", "left")),
            cloth=Cloth.WINDOW,
        )
    )
