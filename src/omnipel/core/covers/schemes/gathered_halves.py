"""Gathered halves on a base: a cosy. Base disc; two rectangles, each gathered onto half of the base's ring.

From the base's seam each half goes up the side and over the top, as far in as a ribbon draws it: one ribbon, through the channels of both halves, between two
stitch lines under the heading. The padding is not gathered, and ends below the channel; the sides stay open for what sticks out.
"""

import math
from dataclasses import dataclass

import numpy as np

from omnipel.core.covers import places
from omnipel.core.covers.cloths import QUILTING
from omnipel.core.covers.options import length, ratio
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, beyond, inside, passages, too_gathered
from omnipel.core.covers.schemes.on_base import stands_on_base
from omnipel.core.drafting.panel import Cloth, Edge, Figure, Panel, Shows
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import checked, outline, rectangle
from omnipel.core.forms.abilities import Ability, Round
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import double_hem
from omnipel.core.plane.curves import arc_about
from omnipel.core.space.paths import Path, straight
from omnipel.core.words import refs
from omnipel.core.words.phrases import Ratio, Rule, mm, tr
from omnipel.core.words.working import Worked, worked

OPTIONS = (
    ratio(
        "ratio",
        tr("gathered"),
        2.4,
        tr("2 to 3: fuller than 2 stands off by itself, over 3 will not go under the foot."),
        1.0,
        4.0,
    ),
    length("heading", tr("heading above the channel"), Rule(20.0, 3 / 4), tr("The frill above the ribbon."), 5.0, 300.0),
    length("ribbon", tr("width of the ribbon"), Rule(15.0, 5 / 8), tr("Its channel is a little wider."), low=3.0, high=80.0),
    length(
        "drawn",
        tr("drawn in by the ribbon to a girth of"),
        Rule(0.0, 0.0),
        tr("0: as far as the cloth gathers. The smaller, the further the halves have to reach over the top."),
        high=5000.0,
    ),
    length("bow", tr("each end of the ribbon"), Rule(250.0, 10.0), low=50.0, high=1000.0),
)


@dataclass(frozen=True)
class _Top:
    """What becomes of a half above the side: how far it is drawn in, the widths of channel and heading, and what of it is not padded below them."""

    drawn: Worked
    over: Worked
    channel: Worked
    heading: Worked
    below: Worked

    @property
    def padded(self) -> Worked:
        """From the end of the padding, below the channel, to the upper edge."""
        return self.above + self.below

    @property
    def above(self) -> Worked:
        """From the lower line of the channel to the upper edge."""
        return self.channel + self.heading


def draft(body: Round, brief: Brief) -> Cover:
    """Base and two halves."""
    stands_on_base(body)
    flat = brief.layer is Cloth.PADDING
    fullness = 1.0 if flat else brief.number("ratio")
    u = brief.u(body.girth)

    # Sizes
    radius = brief.size("base_sew_radius", body.girth / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    half_ring = brief.size("half_ring", (body.girth / (2.0 * math.pi) + u) * math.pi, refs.ANY_CLEARANCE)
    long = half_ring if flat else brief.size("half_ungathered", half_ring * fullness)
    top = _top(brief, half_ring * 2.0)
    high = brief.size(
        "half_finished_height", body.drop + u + brief.t / 2.0 + top.over + top.channel + top.heading, refs.ANY_CLEARANCE
    )
    ribbon = top.drawn + brief.length("bow") * 2.0

    # Panels
    base, half = _base(brief, radius), _half(brief, long, high, top)
    brief.note(
        base_cut_radius=base.sizes["cut radius"], half_cut_length=half.cut_length, padding_height=high - top.padded, ribbon=ribbon
    )

    # Pieces
    floor = body.ends - brief.t.value / 2.0
    meridian = _meridian(floor, half_ring.value / math.pi, high.value, top, fullness)
    pieces = [placed(base, places.base(floor), clear=brief.t.value / 2.0)]
    pieces += [
        placed(half, places.gathered_around(long.value, meridian, 0.5, begin), f"{words} half", clear=u.value)
        for words, begin in (("front", math.pi), ("back", 0.0))
    ]

    limit = brief.gather_limit
    less = Remedy(tr("Gather {ratio}", ratio=Ratio(limit)), (Change(refs.option("ratio"), limit),))
    passes = inside(brief, half_ring * 2.0, ROUND)
    wide = brief.number("ribbon")
    return brief.cover(
        (base, half),
        pieces,
        _seams(fullness),
        openings={"upper edge": Run("front half", "top")},
        profile=passages((0.0, body.drop.value), passes),
        from_below=True,
        seams_across=2,
        hardware=(
            Hardware(
                tr("ribbon"), ribbon, note=tr("{wide} wide, one through the channels of both halves", wide=mm(wide)), size=wide
            ),
        ),
        findings=(
            *too_gathered(brief, fullness, tr("Each half"), refs.option("ratio"), less),
            *_drawn(brief, half_ring * 2.0, top.drawn),
            *beyond(brief, "heading", body.drop.value * 0.5, tr("the cosy is {high} high", high=mm(body.drop.value))),
            *beyond(brief, "ribbon", body.drop.value * 0.25, tr("the cosy is {high} high", high=mm(body.drop.value))),
        ),
    )


def _top(brief: Brief, ring: Worked) -> _Top:
    """How far the ribbon draws the halves in: as was chosen, else as far as the cloth gathers."""
    fullest = max(1.0, brief.gather_limit / brief.number("ratio"))
    drawn = brief.length("drawn") if brief.number("drawn") else ring / fullest
    reach, how = tr("over the top"), tr("from the ring in to the ribbon")
    over = ((ring - drawn) / (2.0 * math.pi)).named(reach, how) if drawn.value < ring.value else worked(reach, 0.0)
    channel = brief.length("ribbon") + worked(tr("for it to run in"), brief.habit("channel"))
    below = worked(tr("below the channel"), brief.habit("padding under a channel"))
    return _Top(drawn, over, channel, brief.length("heading"), below)


def _meridian(floor: float, loose: float, high: float, top: _Top, fullness: float) -> Path:
    """From the base up the side, level inward to the channel, and up into the heading, which opens by 30° or as far as its cloth reaches."""
    below, above = max(0.0, high - top.above.value), min(high, top.above.value)
    over = min(top.over.value, below)
    level, drawn = floor + below - over, loose - over
    fans = min(above / 2.0, max(0.0, loose * fullness - drawn))
    return straight(
        (loose, floor), (loose, level), (drawn, level), (drawn + fans, level + math.sqrt(above * above - fans * fans))
    )


def _drawn(brief: Brief, ring: Worked, drawn: Worked) -> tuple[Finding, ...]:
    """Whether the ribbon can draw the halves in so far, and does anything."""
    where, around, chosen = refs.option("drawn"), ring.value, brief.number("drawn")
    if not chosen:
        return ()
    usual = Remedy(tr("Draw it in only as far as the cloth gathers"), (Change(where, 0.0),))
    if drawn.value < around:
        return too_gathered(brief, around * brief.number("ratio") / drawn.value, tr("The channel"), where, usual)
    text = tr("Drawn in to {drawn}, the ribbon does nothing on a ring of {ring}.", drawn=mm(drawn.value), ring=mm(around))
    return (Finding("cord-does-nothing", Severity.LOOK, text, where, (usual,)),)


def _seams(fullness: float) -> tuple[Seam, ...]:
    """Both halves onto the base, and to one another at their sides."""
    to_base = (
        Seam(
            f"{words} half to base",
            (Run(f"{words} half", "base edge"),),
            (Run("base", f"{words} rim", reversed=True),),
            ratio=fullness,
            kind=SeamKind.GATHERED,
            easier="half_ungathered",
        )
        for words in ("front", "back")
    )
    sides = (
        Seam(f"{words} side", (Run(one, "right"),), (Run(other, "left", reversed=True),))
        for words, one, other in (("right", "front half", "back half"), ("left", "back half", "front half"))
    )
    return (*to_base, *sides)


def _base(brief: Brief, radius: Worked) -> Panel:
    """A disc, its rim in two halves."""
    a = brief.seam
    r = checked(radius, tr("the radius of the base"), refs.panel("base"))
    rim = [Edge(name, arc_about((0.0, 0.0), r, start, math.pi), a) for name, start in (("front rim", 0.0), ("back rim", math.pi))]
    return outline("base", tuple(rim), radius * 2.0, radius * 2.0, sizes={"radius": radius, "cut radius": radius})


def _half(brief: Brief, long: Worked, high: Worked, top: _Top) -> Panel:
    """One half before it is gathered, with the lines of its channel; its padding lies between the base's seam and below the channel."""
    a, upper = brief.seam, high.value - top.heading.value
    lines = tuple(
        Figure(f"channel {words}", np.array([(0.0, y), (long.value, y)]), shows=Shows.STITCHES, holds="ribbon")
        for words, y in (("lower line", upper - top.channel.value), ("upper line", upper))
    )
    return rectangle(
        "half",
        long,
        high,
        bottom=a,
        right=a,
        top=double_hem(brief.habit("half heading hem"), brief.habit("half heading hem")),
        left=a,
        names={"bottom": "base edge"},
        sources={"top": None},
        padded={"bottom": worked(tr("to the seam of the base"), 0.0), "top": top.padded},
        figures=lines,
        notes=(tr("leave one side open between the lines of the channel: the ribbon goes in and comes out there"),),
    )


SCHEME = Scheme(
    "gathered-halves",
    tr("Gathered halves on a base"),
    tr("A cosy: two full halves gathered onto a base, tied at the top."),
    frozenset({Ability.ROUND}),
    OPTIONS,
    draft,
    {"cloth": QUILTING, "padding": 4.0},
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.HEM, refs.CLOSURE, refs.EASE_DROP}),
    edges=(),
    gathered=True,
)
