"""Wheel, both faces: two discs and a boxing, with a flat at the bottom that keeps it off the ground.

Chord at height k: half-angle `φ = acos((r − k)/r)`, flat `2r sin φ`, arc left `2r(π − φ)`. The boxing is that arc long and `W + 2u` wide, its ends
hemmed. The face towards the axle has a hub opening (hub Ø/2 + its own clearance, bound), a slit from it to the flat, and a flap under it.
"""

import math

from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, inside, length
from omnipel.core.drafting.curves import arc_about, line
from omnipel.core.drafting.finishes import ON_FOLD, Finish
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import outline, rectangle, with_allowances
from omnipel.core.findings import Impossible
from omnipel.core.forms.wheel import Wheel
from omnipel.core.working import Worked, formula, worked

OPTIONS = (
    length("flat", "height of the flat", 25.0, "Keeps the cloth off the ground, where it would wick and wear.", 0.0, 2000.0),
    length("hub_clearance", "clearance at the hub", 10.0, "Lets the bound edge slip over flanges.", 0.0, 200.0),
    length("flap", "width of the flap under the slit", 60.0, "", 20.0, 400.0),
)


def draft(body: Wheel, brief: Brief) -> Cover:
    """Two faces, a boxing, a flap."""
    u, a, hem = brief.u(body.girth), brief.seam, brief.choices.hem

    # Sizes
    radius = brief.size("disc_sew_radius", body.girth / (2.0 * math.pi) + u)
    r, k = radius.value, brief.number("flat")
    if not 0.0 <= k < r:
        raise Impossible(f"a flat {k:.0f} mm high cuts off the hub of a wheel of radius {r:.0f}", "cover.options.flat")
    phi = math.acos((r - k) / r)
    # d(arc)/dr = 2(π − φ) − 2r dφ/dr with dφ/dr = −k/(r² sin φ)
    bend = k / (r * math.sin(phi)) if phi else 0.0
    arc = brief.size(
        "arc",
        formula(
            "arc left", 2.0 * r * (math.pi - phi), "2r(π − φ), φ = acos((r − k)/r)", (radius, 2.0 * (math.pi - phi) + 2.0 * bend)
        ),
    )
    brief.size("flat_finished", formula("flat", 2.0 * r * math.sin(phi), "2r sin φ", (radius, 2.0 * math.sin(phi))))
    wide = brief.size("boxing_finished_width", body.width + u * 2.0)
    hub_half = (body.hub / 2.0 if body.hub else body.girth / (12.0 * math.pi)) + brief.length("hub_clearance", "hub clearance")
    hub = brief.size("hub_radius", hub_half)
    slit = brief.size("slit_length", radius - worked("flat", k, "cover.options.flat") - hub)
    if slit.value <= 0.0:
        raise Impossible("the hub opening reaches the flat: no slit is left", "cover.options.flat")

    # Panels
    plain = _face("outer face", radius, phi, a, hem, ())
    opening = Figure("hub opening", arc_about((0.0, 0.0), hub.value, 0.0, 2.0 * math.pi).points(), MarkKind.CUT_OUT, closed=True)
    cut = Figure("slit", line((0.0, -hub.value), (0.0, -(r - k))).points(), MarkKind.CUT_OUT)
    axle = _face("axle face", radius, phi, a, hem, (opening, cut))
    boxing = rectangle(
        "boxing",
        arc,
        wide,
        bottom=a,
        right=hem,
        top=a,
        left=hem,
        names={"bottom": "axle edge", "top": "outer edge", "left": "end a", "right": "end b"},
        sources={"left": "cover.hem", "right": "cover.hem"},
    )
    flap = rectangle(
        "flap",
        slit,
        worked("flap", brief.number("flap"), "cover.options.flap"),
        bottom=a,
        right=a,
        top=a,
        left=a,
        names={"bottom": "slit edge"},
    )
    brief.note(
        disc_cut_radius=with_allowances(radius, (a, "cover.seam_allowance")),
        boxing_cut_width=boxing.cut_width,
        boxing_cut_length=boxing.cut_length,
    )

    # Seams
    seams = (
        Seam(
            "boxing to outer face",
            (Run("boxing", "outer edge", reversed=True),),
            (Run("outer face", "rim"),),
            kind=SeamKind.FELLED,
            easier="arc",
        ),
        Seam(
            "boxing to axle face",
            (Run("boxing", "axle edge"),),
            (Run("axle face", "rim", reversed=True),),
            kind=SeamKind.FELLED,
            easier="arc",
        ),
    )
    passes = inside(brief, radius * (2.0 * math.pi), ROUND)
    binding = hub * (2.0 * math.pi) + slit * 2.0
    return Cover(
        (plain, axle, boxing, flap),
        seams,
        brief.sizes,
        ((0.0, passes), (body.width.value, passes)),
        roles={"left": "outer face", "right": "axle face", "side": "boxing"},
        seams_across=0,
        hardware=(
            Hardware("binding", binding, note="hub opening and slit"),
            Hardware("hook-and-loop", slit, note="under the flap"),
        ),
    )


def _face(name: str, radius: Worked, phi: float, a: Finish, hem: Finish, figures: tuple[Figure, ...]) -> Panel:
    """A disc with a flat below: rim from the right end of the flat round to its left end."""
    r = radius.value
    rim = arc_about((0.0, 0.0), r, -math.pi / 2.0 + phi, 2.0 * (math.pi - phi))
    if not phi:
        return outline(name, (Edge("rim", rim, a),), figures=figures, sizes={"radius": radius})
    flat = Edge("flat", line(rim.end, rim.start), hem if hem.folded < r else ON_FOLD)
    return outline(name, (Edge("rim", rim, a), flat), figures=figures, sizes={"radius": radius})


SCHEME = Scheme("wheel-both-faces", "Wheel, both faces", "Two discs and a boxing, slit at the axle.", ("wheel",), OPTIONS, draft)
