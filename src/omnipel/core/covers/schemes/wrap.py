"""Wrap, meeting on top: one piece around a slab or a long box, whose two long edges meet in the middle of the top without lapping.

Around `2(w + h)`, less the slot that is to stay between its edges; along `l + h`: at each end half the height folds over and meets, sewn flat, and both
corners are boxed with a stitch line h long, h/2 from the fold. Ties hold the edges together.
"""

import numpy as np

from omnipel.core.covers.options import length, only_when, pick
from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme, beyond
from omnipel.core.covers.tube import Tube, boxed
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import checked, outline
from omnipel.core.forms.abilities import Ability, Boxy, Slabby
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.finish import FinishKind
from omnipel.core.plane.curves import line
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, term, tr
from omnipel.core.words.working import Worked

OPTIONS = (
    length("slot", tr("slot between its edges"), why=tr("0: they meet. A handle or a rail on top wants room."), high=2_000.0),
    pick(
        "ties", tr("ties"), ("two pairs", "one pair", "none"), tr("Two hold it shut along a slab; one is enough for a short box.")
    ),
    only_when(length("tie", tr("each tie"), Rule(300.0, 12.0), low=50.0, high=1000.0), ties=("one pair", "two pairs")),
)
PAIRS = {"none": (), "one pair": (0.5,), "two pairs": (0.3, 0.7)}
"""Where along the edges ties are sewn on, as shares of the length between the ends."""


def draft(body: Slabby | Boxy, brief: Brief) -> Cover:
    """One piece."""
    thick = body.thickness if isinstance(body, Slabby) else body.height
    u = brief.u((body.width + thick) * 2.0)

    # Sizes
    long = brief.size("case_finished_length", body.length + u * 2.0, refs.ANY_CLEARANCE)
    wide = brief.size("case_finished_width", body.width + u * 2.0, refs.ANY_CLEARANCE)
    high = brief.size("case_finished_height", thick + u * 2.0, refs.ANY_CLEARANCE)
    slot = brief.length("slot")
    if slot.value >= (wide + high).value:
        met = Remedy(tr("Let the edges meet"), (Change(refs.option("slot"), 0.0),))
        raise Impossible(tr("the slot takes both ends of the wrap: nothing is left to close"), refs.option("slot"), met)
    around = brief.size("wrap_finished_around", (wide + high) * 2.0 - slot)
    along = brief.size("wrap_finished_along", long + high)
    brief.note(end_seam=wide + high - slot, boxing_line=high, boxing_from_fold=high / 2.0)

    # Panel
    panel = _wrap(brief, around, along, high.value, slot.value)
    brief.note(wrap_cut_around=panel.cut_length, wrap_cut_along=panel.cut_width)

    # Piece: its `s` begins where the slot ends, in the middle of the top, and comes to the front first.
    half = high.value / 2.0
    across = checked((around + slot) / 2.0 - high, tr("the width of the wrap"), refs.panel("wrap"))
    between = checked(along - high, tr("the length between the ends"), refs.panel("wrap"))
    tube = Tube(
        across,
        high.value,
        half,
        half + between,
        closed_below=True,
        closed_above=True,
        origin=(-between / 2.0, 0.0, half - u.value),
        across=(0.0, 1.0, 0.0),
        up=(1.0, 0.0, 0.0),
    )
    place = tube.place(begin=0.75 * tube.around + slot.value / 2.0)
    n = 2.0 * len(PAIRS[brief.picked("ties")])
    ties = () if not n else (Hardware(tr("tie tape"), brief.length("tie") * n, note=tr("at the edges on top")),)
    return brief.cover(
        (panel,),
        (placed(panel, place, clear=u.value),),
        _seams(),
        openings={"edges on top": Run("wrap", "long edge a")},
        seams_across=0,
        hardware=ties,
        findings=beyond(brief, "slot", body.width.value, tr("it is {wide} wide", wide=mm(body.width.value))),
    )


def _wrap(brief: Brief, around: Worked, along: Worked, high: float, slot: float) -> Panel:
    """The piece laid flat: at each end its edge is parted at the folds and in the middle of the underside."""
    x, y = (
        checked(around, tr("the length of the {panel}", panel=term("wrap")), refs.panel("wrap")),
        checked(along, tr("the height of the {panel}", panel=term("wrap")), refs.panel("wrap")),
    )
    quarter, hem, a = (x - slot) / 4.0, (brief.choices.hem, refs.HEM), (brief.seam, refs.SEAM_ALLOWANCE)
    stops = [0.0, quarter, 2.0 * quarter, 2.0 * quarter + slot, x - quarter, x]
    names = ("1", "2", "slot", "3", "4")
    parts = [(name, begin, end) for name, begin, end in zip(names, stops, stops[1:], strict=False) if end - begin > 1e-9]
    edges = [Edge(f"left end {n}", line((b, 0.0), (e, 0.0)), *(hem if n == "slot" else a)) for n, b, e in parts]
    edges.append(Edge("long edge b", line((x, 0.0), (x, y)), *hem))
    edges += [Edge(f"right end {n}", line((e, y), (b, y)), *(hem if n == "slot" else a)) for n, b, e in reversed(parts)]
    edges.append(Edge("long edge a", line((0.0, y), (0.0, 0.0)), *hem))
    half = high / 2.0
    figures = [
        boxed(f"boxed corner {k}", at - half, low, at + half, low + half)
        for k, (at, low) in enumerate(((quarter, 0.0), (x - quarter, 0.0), (quarter, y - half), (x - quarter, y - half)), 1)
    ]
    spots = [(side, half + (y - high) * share) for share in PAIRS[brief.picked("ties")] for side in (0.0, x)]
    figures += [
        Figure(
            f"tie {k}", np.array([(px - 4, py), (px + 4, py), (px, py), (px, py - 4), (px, py + 4)]), MarkKind.POINT, holds="tie"
        )
        for k, (px, py) in enumerate(spots, 1)
    ]
    return outline("wrap", tuple(edges), around, along, figures=tuple(figures))


def _seams() -> tuple[Seam, ...]:
    """Both ends, sewn flat from each fold to the middle."""
    return tuple(
        Seam(
            f"{end} end, {side}",
            (Run("wrap", f"{end} end {upper}", reversed=turned),),
            (Run("wrap", f"{end} end {under}", reversed=not turned),),
            kind=SeamKind.FELLED,
        )
        for end, flips in (("left", False), ("right", True))
        for side, upper, under, turned in (("front", "1", "2", not flips), ("back", "4", "3", flips))
    )


SCHEME = Scheme(
    "wrap",
    tr("Wrap, meeting on top"),
    tr("One piece around; its two edges meet on top, its ends are boxed."),
    frozenset({Ability.SLAB, Ability.BOXY}),
    OPTIONS,
    draft,
    {"hem": FinishKind.BOUND},
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.CLOSURE, refs.EASE_DROP}),
    edges=("edges on top",),
    level=True,
)
