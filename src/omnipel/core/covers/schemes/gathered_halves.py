"""Gathered halves on a base: a cosy. Base disc; two rectangles, each gathered onto half of the base's ring.

The padding is shorter than its panel, so that none lies in a seam or under the channel; two stitch lines near the top make the channel for a ribbon; the sides
stay open for what sticks out.
"""

import math

import numpy as np

from omnipel.core.covers import places
from omnipel.core.covers.cloths import QUILTING
from omnipel.core.covers.options import length, ratio
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, beyond, inside, passages, too_gathered
from omnipel.core.covers.schemes.on_base import stands_on_base
from omnipel.core.drafting.panel import Edge, Figure, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import checked, outline, rectangle
from omnipel.core.forms.abilities import Ability, Round
from omnipel.core.job.findings import Change, Remedy
from omnipel.core.job.finish import double_hem
from omnipel.core.plane.curves import arc_about
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
    length("heading", tr("heading above the channel"), Rule(40.0, 1.5), tr("The frill above the ribbon."), 5.0, 300.0),
    length("channel", tr("width of the channel"), Rule(18.0, 3 / 4), low=6.0, high=80.0),
)


def draft(body: Round, brief: Brief) -> Cover:
    """Base and two halves."""
    stands_on_base(body)
    fullness = brief.number("ratio")
    u = brief.u(body.girth)

    # Sizes
    radius = brief.size("base_sew_radius", body.girth / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    half_ring = brief.size("half_ring", (body.girth / (2.0 * math.pi) + u) * math.pi, refs.ANY_CLEARANCE)
    long = brief.size("half_ungathered", half_ring * fullness)
    high = brief.size(
        "half_finished_height", body.drop + u + brief.length("channel") + brief.length("heading"), refs.ANY_CLEARANCE
    )

    # Panels
    base, half = _base(brief, radius), _half(brief, long, high)
    brief.note(base_cut_radius=base.sizes["cut radius"], half_cut_length=half.cut_length)

    # Pieces
    floor = body.ends - brief.t.value / 2.0
    loose = half_ring.value / math.pi
    above = brief.number("channel") + brief.number("heading")
    inset = min(loose, above * math.sin(math.pi / 4.0))
    meridian = places.drawn_in(loose, loose - inset, high.value, floor, way=1.0).reversed
    clear = _clear(brief, u.value, inset, above)
    pieces = [placed(base, places.base(floor), clear=brief.t.value / 2.0)]
    pieces += [
        placed(half, places.gathered_around(long.value, meridian, 0.5, begin), f"{words} half", clear=clear)
        for words, begin in (("front", math.pi), ("back", 0.0))
    ]

    limit = brief.gather_limit
    less = Remedy(tr("Gather {ratio}", ratio=Ratio(limit)), (Change(refs.option("ratio"), limit),))
    passes = inside(brief, half_ring * 2.0, ROUND)
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
                tr("ribbon"),
                long * 0.5 + worked(tr("two bows"), brief.habit("two bows")),
                note=tr("through the channel, one for each half"),
            ),
        ),
        findings=(
            *too_gathered(brief, fullness, tr("Each half"), refs.option("ratio"), less),
            *beyond(brief, "heading", body.drop.value * 0.5, tr("the cosy is {high} high", high=mm(body.drop.value))),
            *beyond(brief, "channel", body.drop.value * 0.25, tr("the cosy is {high} high", high=mm(body.drop.value))),
        ),
    )


def _clear(brief: Brief, u: float, inset: float, above: float) -> float:
    """How far the halves stay off the object: u beside it; where they are drawn in by a quarter circle they come nearer to its upper rim."""
    beside, below = inset - u, math.pi / 2.0 * inset - above - u + brief.t.value / 2.0
    return min(u, inset - math.hypot(max(beside, 0.0), max(below, 0.0))) if inset > 0.0 else u


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


def _half(brief: Brief, long: Worked, high: Worked) -> Panel:
    """One half before it is gathered, with the lines of its channel."""
    a = brief.seam
    top = high.value - brief.number("heading")
    lines = tuple(
        Figure(f"channel {words}", np.array([(0.0, y), (long.value, y)]))
        for words, y in (("lower line", top - brief.number("channel")), ("upper line", top))
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
        figures=lines,
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
)
