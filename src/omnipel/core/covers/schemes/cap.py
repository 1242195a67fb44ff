"""Cap: one disc with elastic or cord, for what is open at the top; single layer, or two discs bagged and reversible.

`R = D/2 + overhang`. Single layer: cut `R + casing allowance`. Reversible: two discs cut `R + a`, the casing stitched inside the edge with an entry
gap. Elastic: *from the rim* rim girth + overlap − tension; *from loose* loose girth − take-off; *by share* rim girth × (1 − s) + overlap.
"""

import math
from collections.abc import Sequence

import numpy as np

from omnipel.core.covers.options import length, only_when, pick, share
from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme, too_gathered
from omnipel.core.drafting.panel import Cloth, Edge, Figure, Panel, Shows
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, outline
from omnipel.core.forms.abilities import Ability, Rimmed
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import Finish, FinishKind
from omnipel.core.plane.curves import Points, Trace, arc_about, line
from omnipel.core.plane.trace import grown_ring, polyline_length
from omnipel.core.space.drawn import DrawnOver, Spun
from omnipel.core.space.frames import Frame
from omnipel.core.space.paths import Path, moved
from omnipel.core.space.placements import Placement
from omnipel.core.tolerances import ELASTIC_STRETCH
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, Share, mm, tr
from omnipel.core.words.working import Worked, worked

OPTIONS = (
    pick(
        "layers",
        tr("made of"),
        ("single layer", "reversible"),
        tr("A single layer sews in half the time; two make it reversible and stiffer."),
    ),
    length(
        "overhang",
        tr("overhang below the rim"),
        Rule(55.0, 2.25),
        tr("Enough to gather under the rim without sagging into the bowl."),
        5.0,
        400.0,
        ("rim",),
    ),
    pick("fastening", tr("held by"), ("elastic", "cord"), tr("Elastic goes on with one hand.")),
    only_when(
        pick(
            "school",
            tr("elastic length"),
            ("by share", "from the rim", "from loose"),
            tr("By share suits every size; the other two are for a known elastic."),
        ),
        fastening=("elastic",),
    ),
    only_when(
        share("share", tr("shorter than the rim by"), 0.12, tr("10 to 15 % holds without tearing the stitches."), 0.02, 0.4),
        fastening=("elastic",),
        school=("by share",),
    ),
    only_when(
        length("tension", tr("from the rim: tension"), Rule(90.0, 3.5), high=1000.0),
        fastening=("elastic",),
        school=("from the rim",),
    ),
    only_when(
        length("take_off", tr("from loose: take-off"), Rule(80.0, 3.25), high=1000.0),
        fastening=("elastic",),
        school=("from loose",),
    ),
    only_when(
        length("overlap", tr("elastic overlap"), Rule(15.0, 5 / 8), tr("Sewn across twice."), high=100.0), fastening=("elastic",)
    ),
    length("casing", tr("casing fold"), Rule(14.0, 1 / 2), low=6.0, high=80.0),
    only_when(length("casing_turn_under", tr("casing turn-under"), Rule(12.0, 1 / 2), high=60.0), layers=("single layer",)),
    length("entry_gap", tr("entry gap"), Rule(40.0, 1.5), tr("Wide enough for a safety pin."), 10.0, 200.0),
)

BEND_SHARE, MOST_BEND = 0.3, 10.0
"""Over the rim the cloth bends in an arc of this share of the overhang, no wider than this, mm."""
UNDER = 0.9
"""Girth below the rim as a share of it, where it has not been measured; for the place of the edge only."""
HOLDS = tuple(map(refs.option, ("school", "share", "tension", "take_off")))
"""What the length of the elastic comes from, and nothing else does."""


def draft(body: Rimmed, brief: Brief) -> Cover:
    """One disc, or two; where the rim was traced, its outline moved outward."""
    reversible = brief.picked("layers") == "reversible"
    casing = Finish(kind=FinishKind.ELASTIC_CASING, width=brief.number("casing"), turn_under=brief.number("casing_turn_under"))

    # Sizes
    if body.ring is not None:
        return _traced(body, body.ring, brief, casing)
    radius = brief.size("finished_radius", body.diameter / 2.0 + brief.length("overhang"), refs.option("overhang"))
    edge = radius * (2.0 * math.pi)
    cut = brief.size("elastic_cut", _held(body, brief), *HOLDS) if brief.picked("fastening") == "elastic" else None

    # Panels
    if reversible:
        inside = _ring("casing stitch line", radius.value - brief.number("casing"), brief.picked("fastening"))
        gap = tr("entry gap of {gap} in the casing line", gap=mm(brief.number("entry_gap")))
        panels = [
            disc("cap", radius, brief.seam, figures=(inside,), notes=(gap,)),
            disc("inner cap", radius, brief.seam, cloth=Cloth.LINING),
        ]
    else:
        gap = tr("entry gap of {gap} in the casing", gap=mm(brief.number("entry_gap")))
        panels = [disc("cap", radius, casing, source=refs.option("casing"), notes=(gap,))]
    brief.note(cut_radius=panels[0].sizes["cut radius"])

    # Seams
    seams = (
        (Seam("bag the edge", (Run("inner cap", "rim"),), (Run("cap", "rim"),), ring=True, kind=SeamKind.BAGGED),)
        if reversible
        else ()
    )
    rim, top = body.diameter.value / 2.0, body.height.value + brief.t.value / 2.0
    hangs = _hanging(body, brief, radius.value - rim, edge, cut)
    meridian = Path((line((0.0, top), (rim, top)), *moved(hangs.curves, (rim, top))))
    return _finished(body, brief, panels, seams, edge, cut, Spun(meridian))


def _traced(body: Rimmed, ring: Points, brief: Brief, casing: Finish) -> Cover:
    """The rim as it was traced, moved outward by the overhang."""
    reversible = brief.picked("layers") == "reversible"

    # Sizes
    grown = grown_ring(ring, brief.number("overhang"), rounded=True)
    edge = worked(tr("around the edge"), polyline_length(np.vstack((grown, grown[:1]))), how=tr("the traced rim moved outward"))
    cut = brief.size("elastic_cut", _held(body, brief), *HOLDS) if brief.picked("fastening") == "elastic" else None

    # Panels
    rim = Edge(
        "rim",
        Trace(np.vstack((grown, grown[:1]))),
        *((brief.seam, refs.SEAM_ALLOWANCE) if reversible else (casing, refs.option("casing"))),
    )
    gap = tr("entry gap of {gap} in the casing", gap=mm(brief.number("entry_gap")))
    within = max(0.0, brief.number("overhang") - brief.number("casing"))
    stitched = Figure(
        "casing stitch line",
        grown_ring(ring, within, rounded=True),
        closed=True,
        shows=Shows.STITCHES,
        holds=brief.picked("fastening"),
    )
    panels = [outline("cap", (rim,), notes=(gap,), figures=(stitched,) if reversible else ())]
    seams: tuple[Seam, ...] = ()
    if reversible:
        panels.append(outline("inner cap", (rim,), cloth=Cloth.LINING))
        seams = (Seam("bag the edge", (Run("inner cap", "rim"),), (Run("cap", "rim"),), ring=True, kind=SeamKind.BAGGED),)
    brief.note(cut_length=panels[0].cut_length, cut_width=panels[0].cut_width)
    middle = (ring.min(axis=0) + ring.max(axis=0)) / 2.0
    frame = Frame((-float(middle[0]), -float(middle[1]), body.height.value + brief.t.value / 2.0))
    place = DrawnOver(ring, _hanging(body, brief, brief.number("overhang"), edge, cut), frame)
    return _finished(body, brief, panels, seams, edge, cut, place)


def _hanging(body: Rimmed, brief: Brief, long: float, edge: Worked, cut: Worked | None) -> Path:
    """How what hangs below the rim lies: how far out from the rim and how high beside it, by its length.

    It turns down in an arc and goes on straight to where elastic or cord holds it: no nearer than the girth below the rim, no flatter than half a
    right angle.
    """
    bend = min(BEND_SHARE * long, MOST_BEND)
    rest = long - math.pi / 2.0 * bend
    closed = cut.value - brief.number("overlap") if cut is not None else 0.0
    held = max(closed, (body.below or body.rim * UNDER).value)
    inward = min(max(bend + (body.rim.value - min(held, edge.value)) / (2.0 * math.pi), 0.0), rest * math.sin(math.pi / 4.0))
    down = (bend, -bend)
    return Path(
        (
            arc_about((0.0, -bend), bend, math.pi / 2.0, -math.pi / 2.0),
            line(down, (bend - inward, -bend - math.sqrt(rest * rest - inward * inward))),
        )
    )


def _finished(
    body: Rimmed,
    brief: Brief,
    panels: Sequence[Panel],
    seams: tuple[Seam, ...],
    edge: Worked,
    cut: Worked | None,
    place: Placement,
) -> Cover:
    """The cap with what draws it in."""
    pieces = [placed(panel, place, mirrored=panel.cloth is Cloth.LINING) for panel in panels]
    openings = {} if seams else {"edge": Run("cap", "rim")}
    fullness = edge.value / body.rim.value
    brief.note(
        edge_gather_ratio=worked(
            tr("edge over rim"), fullness, how=tr("{edge} to {rim}", edge=mm(edge.value), rim=mm(body.rim.value))
        )
    )
    less = Remedy(tr("Make the overhang half as deep"), (Change(refs.option("overhang"), brief.number("overhang") / 2.0),))
    findings = [*too_gathered(brief, fullness, tr("The edge of the cap"), refs.option("overhang"), less)]
    if cut is not None:
        findings += _elastic(body, brief, cut)
        elastic = max(4.0, brief.number("casing") - 4.0)
        hardware = Hardware(tr("elastic"), cut, note=tr("{width} wide", width=mm(elastic)), size=elastic)
    else:
        cord = edge + worked(tr("cord tail"), brief.habit("tail")) * 2.0
        hardware = Hardware(tr("cord"), cord, note=tr("drawn in under the rim"))
    return brief.cover(panels, pieces, seams, openings=openings, seams_across=0, hardware=(hardware,), findings=tuple(findings))


def _held(body: Rimmed, brief: Brief) -> Worked:
    """The elastic to cut, in the chosen school."""
    overlap = brief.length("overlap")
    match brief.picked("school"):
        case "from the rim":
            return body.rim + overlap - brief.length("tension")
        case "from loose":
            return (body.below or body.rim) - brief.length("take_off")
        case _:
            return body.rim * (1.0 - brief.number("share")) + overlap


def _elastic(body: Rimmed, brief: Brief, cut: Worked) -> list[Finding]:
    """Whether the elastic passes the rim stretched, and holds relaxed."""
    sewn = cut - brief.length("overlap")
    brief.note(elastic_closed=sewn)
    closed, holds_to = sewn.value, body.below or body.rim
    share_remedy = Remedy(
        tr("Take {share} off the rim", share=Share(0.12)),
        (Change(refs.option("school"), "by share"), Change(refs.option("share"), 0.12)),
    )
    found = []
    if closed * ELASTIC_STRETCH < body.rim.value:
        text = tr(
            "Closed, the elastic is {closed}; stretched to {stretched} it does not pass the rim of {rim}.",
            closed=mm(closed),
            stretched=mm(closed * ELASTIC_STRETCH),
            rim=mm(body.rim.value),
        )
        found.append(Finding("elastic-too-short", Severity.STOP, text, refs.option("share"), (share_remedy,)))
    if closed >= holds_to.value:
        text = tr(
            "Closed, the elastic is {closed} and holds to nothing on a girth of {girth}.",
            closed=mm(closed),
            girth=mm(holds_to.value),
        )
        shorter = 1.0 - 0.9 * holds_to.value / body.rim.value
        remedy = Remedy(
            tr("Take {share} off the rim", share=Share(shorter)),
            (Change(refs.option("school"), "by share"), Change(refs.option("share"), round(min(0.4, max(0.02, shorter)), 3))),
        )
        found.append(Finding("elastic-does-not-hold", Severity.LOOK, text, refs.option("share"), (remedy,)))
    return found


def _ring(name: str, radius: float, holds: str) -> Figure:
    points = arc_about((0.0, 0.0), max(radius, 1.0), 0.0, 2.0 * math.pi).points()
    return Figure(name, points, closed=True, shows=Shows.STITCHES, holds=holds)


SCHEME = Scheme(
    "cap",
    tr("Cap"),
    tr("One disc gathered under the rim."),
    frozenset({Ability.RIMMED}),
    OPTIONS,
    draft,
    without=frozenset(
        {
            refs.ANY_CLEARANCE,
            refs.SEAM_ALLOWANCE,
            refs.CLOSING_ALLOWANCE,
            refs.HEM,
            refs.HEM_ORDER,
            refs.CLOTH_THICKNESS,
            refs.CLOSURE,
        }
    ),
    edges=(),
)
