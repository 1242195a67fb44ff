"""Wheel cap: a disc and a boxing strip with a cord at its free edge.

The strip is the ring's length + overlap, its ends hemmed; 30–50 % of the cord is drawn out, which pulls the free edge behind the wheel.
"""

import math
from dataclasses import replace

from omnipel.core.covers import places
from omnipel.core.covers.options import length, share
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, beyond, inside, passages, too_gathered
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, outline
from omnipel.core.forms.abilities import Ability, Wheeled
from omnipel.core.job.findings import Change, Finding, Impossible, Remedy
from omnipel.core.job.finish import cord_casing
from omnipel.core.plane.curves import line
from omnipel.core.space.frames import Side, looking_at
from omnipel.core.space.placements import Around, Flat
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, Share, mm, tr
from omnipel.core.words.working import Worked, worked

OPTIONS = (
    length(
        "depth",
        tr("depth of the boxing"),
        why=tr("0: the width of the tread and {reach} more, to reach behind it.", reach=Rule(60.0, 2.5)),
        ends_at=("disc edge", "casing edge"),
    ),
    length(
        "overlap", tr("overlap of the strip's ends"), Rule(40.0, 1.5), tr("The ends lap where the cord comes out."), high=300.0
    ),
    share("drawn_share", tr("of the cord drawn out"), 0.4, tr("30 to 50 %: less hangs loose, more will not gather."), 0.05, 0.6),
    length("cord", tr("cord diameter"), Rule(5.0, 3 / 16), low=1.0, high=20.0),
    length("casing_turn_under", tr("casing turn-under"), Rule(10.0, 3 / 8), high=60.0),
    length("tails", tr("each cord tail"), Rule(100.0, 4.0), high=1000.0),
)


def draft(body: Wheeled, brief: Brief) -> Cover:
    """Disc and boxing strip."""
    u = brief.u(body.girth)

    # Sizes
    radius = brief.size("disc_sew_radius", body.girth / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    ring = brief.size("boxing_sew_length", (body.girth / (2.0 * math.pi) + u) * (2.0 * math.pi), refs.ANY_CLEARANCE)
    chosen = brief.length("depth")
    reach = body.width + u + worked(tr("reach behind"), brief.habit("reach behind"))
    depth = (
        brief.size("boxing_finished_width", chosen, refs.option("depth"))
        if chosen.value
        else brief.size("boxing_finished_width", reach, refs.option("depth"), refs.ANY_CLEARANCE)
    )
    overlap = brief.length("overlap")
    _not_too_far(brief, overlap, ring)
    strip = ring + overlap

    # Panels
    lapped = {"rim at the lap": overlap.value} if overlap.value else None
    face = disc("disc", radius, brief.seam, begins=-math.pi / 2.0, parted=lapped)
    boxing = _boxing(brief, strip, overlap, depth)
    drawn = brief.number("drawn_share")
    cord = strip + brief.length("tails") * 2.0
    brief.note(
        disc_cut_radius=face.sizes["cut radius"],
        boxing_cut_length=boxing.cut_length,
        boxing_cut_width=boxing.cut_width,
        cord_length=cord,
        cord_drawn_out=strip * drawn,
    )

    # Pieces
    half = body.width.value / 2.0 + u.value
    over = places.over_the_tread(ring.value, depth.value, 2.0 * half, ring.value * (1.0 - drawn) / (2.0 * math.pi))
    axis = replace(places.UPRIGHT, origin=(-half, 0.0, body.girth.value / (2.0 * math.pi)))
    pieces = (
        placed(face, Flat(looking_at(Side.LEFT, axis.origin)), clear=u.value),
        placed(boxing, Around(over, -2.0 * math.pi / ring.value, -math.pi / 2.0, axis), clear=u.value),
    )

    passes = inside(brief, ring, ROUND)
    return brief.cover(
        (face, boxing),
        pieces,
        _seams(overlap.value),
        openings={"free edge": Run("boxing", "casing edge")},
        profile=passages((0.0, body.width.value), passes),
        seams_across=1,
        hardware=(
            Hardware(
                tr("cord"), cord, note=tr("{cord} thick", cord=mm(brief.number("cord"), fine=True)), size=brief.number("cord")
            ),
        ),
        findings=_judged(body, brief, radius),
    )


def _not_too_far(brief: Brief, overlap: Worked, ring: Worked) -> None:
    """Refuse ends that lap by half of the ring and more."""
    if overlap.value >= ring.value / 2.0:
        less = brief.choices.habits.system.down(ring.value / 8.0)
        remedy = Remedy(
            tr("{what}: {less}", what=brief.known["overlap"].words, less=mm(less)), (Change(refs.option("overlap"), less),)
        )
        raise Impossible(
            tr("the ends of the strip overlap by more than half of the ring of {ring}", ring=mm(ring.value)),
            refs.option("overlap"),
            remedy,
        )


def _seams(lap: float) -> list[Seam]:
    """The strip around the disc; where its ends lap, one is caught over the other."""
    seams = [
        Seam(
            "boxing to disc",
            (Run("boxing", "disc edge", reversed=True),),
            (Run("disc", "rim"),),
            ring=not lap,
            kind=SeamKind.FELLED,
            easier="boxing_sew_length",
            easier_more=lap,
        )
    ]
    if lap:
        seams += [
            Seam("lap of the boxing to disc", (Run("boxing", "under the lap", reversed=True),), (Run("disc", "rim at the lap"),)),
            Seam("upper lap of the boxing", (Run("boxing", "lap", reversed=True),), (Run("disc", "rim at the lap"),), onto=True),
        ]
    return seams


def _judged(body: Wheeled, brief: Brief, radius: Worked) -> tuple[Finding, ...]:
    """Whether the free edge can be drawn in so far, and the boxing is no deeper than there is anything behind."""
    less = Remedy(tr("Draw out {share}", share=Share(0.4)), (Change(refs.option("drawn_share"), 0.4),))
    fullness = 1.0 / (1.0 - brief.number("drawn_share"))
    beside = tr(
        "the tread is {width} wide and the wheel {radius} from rim to hub", width=mm(body.width.value), radius=mm(radius.value)
    )
    return (
        *too_gathered(brief, fullness, tr("The free edge"), refs.option("drawn_share"), less),
        *beyond(brief, "depth", body.width.value + radius.value, beside),
    )


def _boxing(brief: Brief, strip: Worked, overlap: Worked, depth: Worked) -> Panel:
    """The strip, with its casing along one edge; where its ends lap, the disc edge is parted."""
    casing, ends = (
        cord_casing(brief.number("cord"), brief.number("casing_turn_under"), brief.choices.habits.system.step),
        brief.choices.hem,
    )
    x, lap, y = strip.value, overlap.value, depth.value
    points = [(0.0, 0.0), (x, 0.0), (x, y), *([(x - lap, y), (lap, y)] if lap else []), (0.0, y)]
    names = ["casing edge", "end b", *(["lap", "disc edge", "under the lap"] if lap else ["disc edge"]), "end a"]
    finishes = {"casing edge": (casing, refs.option("cord")), "end a": (ends, refs.HEM), "end b": (ends, refs.HEM)}
    seam = (brief.seam, refs.SEAM_ALLOWANCE)
    edges = tuple(
        Edge(name, line(points[i], points[(i + 1) % len(points)]), *finishes.get(name, seam)) for i, name in enumerate(names)
    )
    return outline("boxing", edges, strip, depth)


SCHEME = Scheme(
    "wheel-cap",
    tr("Wheel cap"),
    tr("A disc and a strip, drawn in behind."),
    frozenset({Ability.WHEELED}),
    OPTIONS,
    draft,
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.CLOSURE}),
    trimmed=("boxing",),
    edges=(),
)
