"""Padded case: closed all round a box, for carrying.

A padded tube `2(l + w)` round and `h + w` tall (half the depth is folded over at top and bottom), closed along the middle of top and
bottom by a seam and boxed at each end (stitch line w long, w/2 from the fold). The top seam stays open for the handle's length; a zip along
the whole ring at height z parts the tube into two, each edge with its zip allowance. Girths are measured over clips and handle, and the
largest wins.
"""

import numpy as np

from omnipel.core.covers.cloths import SOFT
from omnipel.core.covers.options import length, only_when, share
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Hardware, Scheme, inside, passages
from omnipel.core.covers.tube import Tube, boxed
from omnipel.core.drafting.panel import Edge, Figure, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import checked, outline
from omnipel.core.forms.abilities import Ability, Cased
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.finish import seam
from omnipel.core.plane.curves import line
from omnipel.core.space.placements import Laid
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, term, tr
from omnipel.core.words.working import Worked, worked

OPTIONS = (
    length("zip_at", tr("zip this high above the lower edge"), why=tr("0: at a share of the height of the case.")),
    only_when(
        share(
            "zip_height",
            tr("height of the zip, share of the case"),
            0.7,
            tr("High enough to lift the case out, low enough to reach in."),
            0.1,
            0.9,
        ),
        zip_at=(0.0,),
    ),
    length(
        "zip_allowance",
        tr("zip allowance"),
        Rule(8.0, 3 / 8),
        tr("Half the zip's tape, so that the tube keeps its height."),
        3.0,
        40.0,
    ),
    share("take_up", tr("quilting take-up"), 0.03, tr("2 to 4 % along each direction sewn; square up after quilting."), 0.0, 0.1),
)
ZIP = (refs.option("zip_at"), refs.option("zip_height"))
"""What the heights of both tubes come from, and nothing else does."""


def draft(body: Cased, brief: Brief) -> Cover:
    """Lower and upper tube."""
    around = body.around
    u = brief.u(around)

    # Sizes
    ring = brief.size("tube_finished_length", around + u * CORNERED, refs.ANY_CLEARANCE)
    wide = brief.size("case_finished_width", body.width + u * 2.0, refs.ANY_CLEARANCE)
    high = brief.size("case_finished_height", body.height + u * 2.0, refs.ANY_CLEARANCE)
    at = brief.length("zip_at") if brief.number("zip_at") else high * brief.number("zip_height")
    if at.value >= high.value:
        by_share = Remedy(tr("At a share of its height"), (Change(refs.option("zip_at"), 0.0),))
        raise Impossible(
            tr("the zip lies above the case, which is {high} high", high=mm(high.value)), refs.option("zip_at"), by_share
        )
    lower = brief.size("lower_finished_height", at + wide / 2.0, *ZIP)
    upper = brief.size("upper_finished_height", high - at + wide / 2.0, *ZIP)
    handle = brief.size("handle_opening", body.handle)
    if handle.value >= ring.value / 2.0 - wide.value:
        raise Impossible(tr("the handle is longer than the top seam between its boxed ends"), refs.reading("handle"))

    # Panels
    panels = (
        _tube("lower tube", ring, lower, wide, brief, folded="bottom", gap=0.0),
        _tube("upper tube", ring, upper, wide, brief, folded="top", gap=handle.value),
    )
    brief.note(
        tube_cut_length=panels[0].cut_length,
        lower_cut_height=panels[0].cut_width,
        upper_cut_height=panels[1].cut_width,
        boxed_corner=wide / 2.0,
    )

    # Pieces
    thick, z0 = wide.value, -u.value
    folds = thick / 2.0, lower.value + upper.value - thick / 2.0
    tube = Tube(ring.value / 2.0 - thick, thick, *folds, closed_below=True, closed_above=True, origin=(0.0, 0.0, z0)).place()
    pieces = (placed(panels[0], tube, clear=u.value), placed(panels[1], Laid(tube, (0.0, lower.value)), clear=u.value))

    passes = inside(brief, ring, CORNERED)
    zip_ = Hardware(
        tr("zip"), ring + worked(tr("ends"), brief.habit("zip end")) * 2.0, note=tr("along the whole ring, two sliders")
    )
    return brief.cover(
        panels,
        pieces,
        _seams(),
        profile=passages((0.0, body.height.value), passes),
        from_below=True,
        seams_across=1,
        turns=CORNERED,
        hardware=(zip_,),
    )


def _seams() -> list[Seam]:
    """Each tube closed and sewn to itself, and the zip between them."""
    seams = [
        Seam(f"close the {name}", (Run(name, "close a"),), (Run(name, "close b", reversed=True),), kind=SeamKind.FELLED)
        for name in ("lower tube", "upper tube")
    ]
    seams += [
        Seam(words, (Run(name, "front half"),), (Run(name, "back half", reversed=True),), kind=SeamKind.PLAIN)
        for name, words in (("lower tube", "bottom seam"), ("upper tube", "top seam"))
    ]
    seams.append(
        Seam(
            "zip", (Run("lower tube", "zip edge", reversed=True),), (Run("upper tube", "zip edge"),), ring=True, kind=SeamKind.ZIP
        )
    )
    return seams


def _tube(name: str, ring: Worked, high: Worked, wide: Worked, brief: Brief, *, folded: str, gap: float) -> Panel:
    """One part of the tube, laid flat: the folded side is sewn to itself, half to half."""
    x, y = (
        checked(ring, tr("the length of the {panel}", panel=term(name)), refs.panel(name)),
        checked(high, tr("the height of the {panel}", panel=term(name)), refs.panel(name)),
    )
    a, zip_edge = brief.seam, seam(brief.number("zip_allowance"))
    if folded == "bottom":
        points = [(0.0, 0.0), (x / 2.0, 0.0), (x, 0.0), (x, y), (0.0, y)]
        names = ("front half", "back half", "close b", "zip edge", "close a")
        fold_y = wide.value / 2.0
    else:
        points = [(0.0, 0.0), (x, 0.0), (x, y), (x / 2.0, y), (0.0, y)]
        names = ("zip edge", "close b", "back half", "front half", "close a")
        fold_y = y - wide.value / 2.0
    own, closing = (a, refs.SEAM_ALLOWANCE), (brief.closing, refs.CLOSING_ALLOWANCE)
    finish = {"zip edge": (zip_edge, refs.option("zip_allowance")), "front half": own, "back half": own}
    edges = tuple(Edge(n, line(points[i], points[(i + 1) % 5]), *finish.get(n, closing)) for i, n in enumerate(names))
    half = wide.value / 2.0
    sewn_y = 0.0 if folded == "bottom" else y
    # The case's own corners are at a quarter of what is left; the boxing is stitched half the depth from the fold.
    figures = [Figure(f"{folded} fold", np.array([(0.0, fold_y), (x, fold_y)]))]
    figures += [
        boxed(f"boxed end {i}", begin, min(sewn_y, fold_y), end, max(sewn_y, fold_y))
        for i, (begin, end) in enumerate(((0.0, half), (x / 2.0 - half, x / 2.0 + half), (x - half, x)), 1)
    ]
    if gap:
        figures += [
            Figure(f"handle opening {i}", np.array([(at - gap / 2.0, y), (at + gap / 2.0, y)]))
            for i, at in enumerate((x / 4.0, 3.0 * x / 4.0), 1)
        ]
    take_up = brief.number("take_up")
    return outline(
        name,
        edges,
        ring,
        high,
        figures=tuple(figures),
        take_up=(take_up, take_up),
        notes=(tr("quilt, square up, trim to the cut size"),),
    )


SCHEME = Scheme(
    "padded-case",
    tr("Padded case"),
    tr("A padded tube closed at top and bottom, parted by a zip."),
    frozenset({Ability.CASED}),
    OPTIONS,
    draft,
    {"cloth": SOFT, "padding": 6.0},
    without=frozenset({refs.HEM, refs.HEM_ORDER, refs.CLOSURE, refs.EASE_ALONG}),
    edges=(),
)
