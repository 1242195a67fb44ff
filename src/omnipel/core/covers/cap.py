"""Cap: one disc with elastic or cord, for what is open at the top; single layer, or two discs bagged and reversible.

`R = D/2 + overhang`. Single layer: cut `R + casing allowance`. Reversible: two discs cut `R + a`, the casing stitched inside the edge with an entry
gap. Elastic: *from the rim* rim girth + overlap − tension; *from loose* loose girth − take-off; *by share* rim girth × (1 − s) + overlap.
"""

import math

from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme, length, pick, share, too_gathered
from omnipel.core.drafting.curves import arc_about
from omnipel.core.drafting.finishes import Finish, FinishKind
from omnipel.core.drafting.panel import Cloth, Figure
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc
from omnipel.core.findings import Change, Finding, Remedy, Severity
from omnipel.core.forms.cap_body import CapBody
from omnipel.core.working import Worked, worked

STRETCH = 2.0
"""Braided elastic stretches to about twice its length before it gives way."""

OPTIONS = (
    pick(
        "layers",
        "made of",
        ("single layer", "reversible"),
        "A single layer sews in half the time; two make it reversible and stiffer.",
    ),
    length(
        "overhang", "overhang below the rim", 55.0, "Enough to gather under the rim without sagging into the bowl.", 5.0, 400.0
    ),
    pick("fastening", "held by", ("elastic", "cord"), "Elastic goes on with one hand."),
    pick(
        "school",
        "elastic length",
        ("by share", "from the rim", "from loose"),
        "By share suits every size; the other two are for a known elastic.",
    ),
    share("share", "shorter than the rim by", 0.12, "10 to 15 % holds without tearing the stitches.", 0.02, 0.4),
    length("tension", "from the rim: tension", 90.0, "", 0.0, 1000.0),
    length("take_off", "from loose: take-off", 80.0, "", 0.0, 1000.0),
    length("overlap", "elastic overlap", 15.0, "Sewn across twice.", 0.0, 100.0),
    length("casing", "casing fold", 14.0, "", 6.0, 80.0),
    length("casing_turn_under", "casing turn-under", 12.0, "", 0.0, 60.0),
    length("entry_gap", "entry gap", 40.0, "Wide enough for a safety pin.", 10.0, 200.0),
)


def draft(body: CapBody, brief: Brief) -> Cover:
    """One disc, or two."""
    reversible = brief.picked("layers") == "reversible"
    casing = Finish(kind=FinishKind.ELASTIC_CASING, width=brief.number("casing"), turn_under=brief.number("casing_turn_under"))

    # Sizes
    radius = brief.size("finished_radius", body.diameter / 2.0 + brief.length("overhang", "overhang"))
    edge = radius * (2.0 * math.pi)
    held = _held(body, brief)
    ratio = edge.value / body.rim.value
    brief.note(edge_gather_ratio=worked("edge over rim", ratio, how=f"{edge.value:.0f} / {body.rim.value:.0f}"))
    cut = brief.size("elastic_cut", held)

    # Panels
    if reversible:
        inside = _ring("casing stitch line", radius.value - brief.number("casing"))
        panels = [
            disc(
                "cap", radius, brief.seam, figures=(inside,), note=f"entry gap {brief.number('entry_gap'):.0f} in the casing line"
            ),
            disc("inner cap", radius, brief.seam, cloth=Cloth.LINING),
        ]
    else:
        panels = [
            disc(
                "cap",
                radius,
                casing,
                source="cover.options.casing",
                note=f"entry gap {brief.number('entry_gap'):.0f} in the casing",
            )
        ]
    brief.note(cut_radius=panels[0].sizes["cut radius"])

    # Seams
    seams = (
        (Seam("bag the edge", (Run("inner cap", "rim"),), (Run("cap", "rim"),), ring=True, kind=SeamKind.BAGGED),)
        if reversible
        else ()
    )
    less = Remedy("Make the overhang half as deep", (Change("cover.options.overhang", brief.number("overhang") / 2.0),))
    findings = [*too_gathered(brief, ratio, "The edge of the cap", "cover.options.overhang", less)]
    band = brief.picked("fastening")
    if band == "elastic":
        findings += _elastic(body, brief, cut)
        hardware = Hardware("elastic", cut, note=f"{max(4.0, brief.number('casing') - 4.0):.0f} mm wide")
    else:
        hardware = Hardware("cord", edge + worked("cord tail", 150.0) * 2.0, note="drawn in under the rim")
    return Cover(
        tuple(panels),
        seams,
        brief.sizes,
        (),
        roles={"top": "cap"},
        seams_across=0,
        hardware=(hardware,),
        findings=tuple(findings),
    )


def _held(body: CapBody, brief: Brief) -> Worked:
    """The elastic to cut, in the chosen school."""
    overlap = brief.length("overlap", "overlap")
    match brief.picked("school"):
        case "from the rim":
            return body.rim + overlap - brief.length("tension", "tension")
        case "from loose":
            return (body.below or body.rim) - brief.length("take_off", "take-off")
        case _:
            return body.rim * (1.0 - brief.number("share")) + overlap


def _elastic(body: CapBody, brief: Brief, cut: Worked) -> list[Finding]:
    """Whether the elastic passes the rim stretched, and holds relaxed."""
    closed = cut.value - brief.number("overlap")
    holds_to = body.below or body.rim
    share_remedy = Remedy(
        "Take 12 % off the rim", (Change("cover.options.school", "by share"), Change("cover.options.share", 0.12))
    )
    found = []
    if closed * STRETCH < body.rim.value:
        text = f"Closed, the elastic is {closed:.0f} mm; stretched to {closed * STRETCH:.0f} it does not pass the rim of {body.rim.value:.0f}."
        found.append(Finding("elastic-too-short", Severity.STOP, text, "cover.options.share", (share_remedy,)))
    if closed >= holds_to.value:
        text = f"Closed, the elastic is {closed:.0f} mm and holds to nothing on a girth of {holds_to.value:.0f}."
        shorter = 1.0 - 0.9 * holds_to.value / body.rim.value
        remedy = Remedy(
            f"Take {shorter:.0%} off the rim",
            (Change("cover.options.school", "by share"), Change("cover.options.share", round(min(0.4, max(0.02, shorter)), 3))),
        )
        found.append(Finding("elastic-does-not-hold", Severity.LOOK, text, "cover.options.share", (remedy,)))
    return found


def _ring(name: str, radius: float) -> Figure:
    return Figure(name, arc_about((0.0, 0.0), max(radius, 1.0), 0.0, 2.0 * math.pi).points(), closed=True)


SCHEME = Scheme("cap", "Cap", "One disc gathered under the rim.", ("cap-body",), OPTIONS, draft)
