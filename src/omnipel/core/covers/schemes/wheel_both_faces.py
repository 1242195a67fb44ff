"""Wheel, both faces: two discs and a boxing, with a flat at the bottom that keeps it off the ground.

Chord at height k: half-angle `φ = acos((r − k)/r)`, flat `2r sin φ`, arc left `2r(π − φ)`. The boxing is that arc long and `W + 2u` wide, its ends
hemmed. The face towards the axle has a hub opening (hub Ø/2 + its own clearance, bound), a slit from it to the flat, and a flap under it.
"""

import math
from collections.abc import Sequence
from dataclasses import replace

from omnipel.core.covers import places
from omnipel.core.covers.dressed import decided
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, beyond, inside, passages
from omnipel.core.drafting.cut_sizes import with_allowances
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import outline, rectangle
from omnipel.core.forms.abilities import Ability, Wheeled
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.finish import ON_FOLD, Finish
from omnipel.core.plane.curves import arc_about, line
from omnipel.core.space.frames import Side, looking_at
from omnipel.core.space.paths import straight
from omnipel.core.space.placements import Around, Beside, Flat, Laid
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, listed, mm, tr
from omnipel.core.words.working import Worked, through

OPTIONS = (
    length(
        "flat",
        tr("height of the flat"),
        Rule(25.0, 1.0),
        tr("Keeps the cloth off the ground, where it would wick and wear."),
        high=2000.0,
    ),
    length(
        "hub_clearance", tr("clearance at the hub"), Rule(10.0, 3 / 8), tr("Lets the bound edge slip over flanges."), high=200.0
    ),
    length("flap", tr("width of the flap under the slit"), Rule(60.0, 2.5), low=20.0, high=400.0),
)


def draft(body: Wheeled, brief: Brief) -> Cover:
    """Two faces, a boxing, a flap."""
    u, a, hem = brief.u(body.girth), brief.seam, brief.choices.hem
    flat_hem = hem if decided(brief.choices, "lower edge").finish.folded < body.girth.value / (2.0 * math.pi) else ON_FOLD

    # Sizes
    radius = brief.size("disc_sew_radius", body.girth / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    r, k = radius.value, brief.number("flat")
    if not 0.0 <= k < r:
        raise Impossible(
            tr("a flat {height} high cuts off the hub of a wheel of radius {radius}", height=mm(k), radius=mm(r)),
            refs.option("flat"),
        )
    phi = math.acos((r - k) / r)
    arc = brief.size(
        "arc", through(tr("arc left"), tr("the ring without the part under the flat"), lambda r_: arc_left(r_, k), radius)
    )
    brief.note(flat_finished=through(tr("flat"), tr("straight across at its height"), lambda r_: chord_at(r_, k), radius))
    wide = brief.size("boxing_finished_width", body.width + u * 2.0, refs.ANY_CLEARANCE)
    bare_hub = body.hub / 2.0 if body.hub else body.girth / (12.0 * math.pi)
    hub = brief.size("hub_radius", bare_hub + brief.length("hub_clearance"), refs.option("hub_clearance"))
    slit = brief.size("slit_length", radius - brief.length("flat") - hub)
    if slit.value <= 0.0:
        raise _no_slit(brief, r - bare_hub.value)

    # Panels
    plain = _face("outer face", radius, phi, a, flat_hem, ())
    opening = Figure("hub opening", arc_about((0.0, 0.0), hub.value, 0.0, 2.0 * math.pi).points(), MarkKind.CUT_OUT, closed=True)
    cut = Figure("slit", line((0.0, -hub.value), (0.0, -(r - k))).points(), MarkKind.CUT_OUT)
    axle = _face("axle face", radius, phi, a, flat_hem, (opening, cut))
    boxing = _boxing(brief, arc, wide)
    flap = rectangle("flap", slit, brief.length("flap"), bottom=a, right=a, top=a, left=a, names={"bottom": "slit edge"})
    brief.note(
        disc_cut_radius=with_allowances(radius, axle.edge("rim")),
        boxing_cut_width=boxing.cut_width,
        boxing_cut_length=boxing.cut_length,
    )

    passes = inside(brief, radius * (2.0 * math.pi), ROUND)
    binding = hub * (2.0 * math.pi) + slit * 2.0
    return brief.cover(
        (plain, axle, boxing, flap),
        _pieces(body, brief, (plain, axle, boxing, flap), u.value, phi),
        (_to_face("outer"), _to_face("axle")),
        openings={"lower edge": Run("boxing", "end a")},
        profile=passages((0.0, body.width.value), passes),
        seams_across=0,
        hardware=(
            Hardware(tr("binding"), binding, note=tr("hub opening and slit")),
            Hardware(tr("hook-and-loop"), slit, note=tr("under the flap")),
        ),
        findings=beyond(brief, "flap", radius.value, tr("the face is {radius} from rim to hub", radius=mm(radius.value))),
    )


def _pieces(body: Wheeled, brief: Brief, panels: Sequence[Panel], u: float, phi: float) -> tuple[Piece, ...]:
    """Both faces upright, the boxing around the tread, the flap behind the slit."""
    plain, axle, boxing, flap = panels
    hub = -float(axle.figures[1].points[0, 1])  # where the slit begins
    half, bare = body.width.value / 2.0 + u, body.girth.value / (2.0 * math.pi)
    outer_at = Flat(looking_at(Side.LEFT, (-half, 0.0, bare)))
    axle_at = Flat(looking_at(Side.RIGHT, (boxing.width.value - half, 0.0, bare)))
    about = boxing.length.value / (2.0 * (math.pi - phi))
    tread = straight((about, boxing.width.value), (about, 0.0))
    axis = replace(places.UPRIGHT, origin=(-half, 0.0, bare))
    return (
        placed(plain, outer_at, clear=u),
        placed(axle, axle_at, clear=u),
        placed(boxing, Around(tread, -1.0 / about, -math.pi / 2.0 - phi, axis), clear=u),
        placed(flap, Beside(Laid(axle_at, (0.0, -hub), (0.0, -1.0)), -brief.t.value), on="axle face"),
    )


def _boxing(brief: Brief, arc: Worked, wide: Worked) -> Panel:
    """The strip round the tread, hemmed where it ends at the flat."""
    a, hem = brief.seam, brief.choices.hem
    return rectangle(
        "boxing",
        arc,
        wide,
        bottom=a,
        right=hem,
        top=a,
        left=hem,
        names={"bottom": "axle edge", "top": "outer edge", "left": "end a", "right": "end b"},
        sources={"left": refs.HEM, "right": refs.HEM},
    )


def _to_face(which: str) -> Seam:
    """The boxing sewn to the outer or the axle face: the one runs on with it, the other against it."""
    boxing, rim = Run("boxing", f"{which} edge", reversed=which == "outer"), Run(f"{which} face", "rim", reversed=which == "axle")
    return Seam(f"boxing to {which} face", (boxing,), (rim,), kind=SeamKind.FELLED, easier="arc")


def arc_left(r: float, k: float) -> float:
    """The ring left over a flat at height k: 2r(π − φ), φ = acos((r − k)/r)."""
    return 2.0 * r * (math.pi - math.acos((r - k) / r))


def chord_at(r: float, k: float) -> float:
    """The flat at height k: 2r sin φ."""
    return 2.0 * r * math.sin(math.acos((r - k) / r))


def _no_slit(brief: Brief, room: float) -> Impossible:
    """The hub opening reaches the flat; `room` is what lies between the bare hub and the rim, mm."""
    text, system = tr("the hub opening reaches the flat: no slit is left"), brief.choices.habits.system
    if room <= 0.0:
        return Impossible(text, refs.reading("hub"))
    less = {key: min(brief.number(key), system.down(room / 4.0)) for key in ("flat", "hub_clearance")}
    smaller = [key for key in less if less[key] < brief.number(key)]
    words = listed(tr("{what}: {less}", what=brief.known[key].words, less=mm(less[key])) for key in smaller)
    changes = tuple(Change(refs.option(key), less[key]) for key in smaller)
    return Impossible(text, refs.option("flat"), *([Remedy(tr("{words}", words=words), changes)] if smaller else []))


def _face(name: str, radius: Worked, phi: float, a: Finish, hem: Finish, figures: tuple[Figure, ...]) -> Panel:
    """A disc with a flat below: rim from the right end of the flat round to its left end."""
    r = radius.value
    rim = arc_about((0.0, 0.0), r, -math.pi / 2.0 + phi, 2.0 * (math.pi - phi))
    if not phi:
        return outline(name, (Edge("rim", rim, a),), figures=figures, sizes={"radius": radius})
    flat = Edge("flat", line(rim.end, rim.start), hem, refs.HEM)
    return outline(name, (Edge("rim", rim, a), flat), figures=figures, sizes={"radius": radius})


SCHEME = Scheme(
    "wheel-both-faces",
    tr("Wheel, both faces"),
    tr("Two discs and a boxing, slit at the axle."),
    frozenset({Ability.WHEELED}),
    OPTIONS,
    draft,
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.CLOSURE}),
    trimmed=("boxing",),
)
