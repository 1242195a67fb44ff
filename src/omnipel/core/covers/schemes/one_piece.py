"""One piece, boxed corners: a sheet `(l + 2h) × (w + 2h)` with a square of side h closed at each corner.

The squares are cut out, or left in and folded flat inside, which keeps rain out of the seam.
"""

import numpy as np

from omnipel.core.covers.cloths import WIDE
from omnipel.core.covers.options import pick
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Scheme, boxy, inside, passages
from omnipel.core.drafting.panel import Edge, Figure, Panel
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import checked, outline, rectangle, with_allowances
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.plane.curves import line
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

OPTIONS = (
    pick("corners", tr("corners are"), ("cut out", "folded in"), tr("Cut out lies flatter; folded in holds water better.")),
)
SIDES = ("front", "right", "back", "left")


def draft(body: Boxy, brief: Brief) -> Cover:
    """The sheet."""
    box = boxy(brief, body.length, body.width, body.drop)

    # Sizes
    corner = brief.size("corner_seam", box.h)
    long = brief.size("sheet_finished_length", box.l + box.h * 2.0)
    wide = brief.size("sheet_finished_width", box.w + box.h * 2.0)

    # Panels
    for size, words in (
        (long, tr("the length of the sheet")),
        (wide, tr("the width of the sheet")),
        (corner, tr("the drop of the sheet")),
    ):
        checked(size, words, refs.panel("sheet"))
    cut_out = brief.picked("corners") == "cut out"
    sheet = _cut_out(long, wide, corner, brief) if cut_out else _folded(long, wide, corner, brief)
    brief.note(sheet_cut_length=sheet.cut_length, sheet_cut_width=sheet.cut_width)

    # Seams
    seams: tuple[Seam, ...] = ()
    if cut_out:
        seams = tuple(
            Seam(
                f"{here} {there} corner",
                (Run("sheet", f"{here} {there} up"),),
                (Run("sheet", f"{here} {there} out", reversed=True),),
                easier="corner_seam",
            )
            for here, there in zip(SIDES, (*SIDES[1:], SIDES[0]), strict=True)
        )
    top_long, top_wide = long - corner * 2.0, wide - corner * 2.0
    passes = inside(brief, (top_long + top_wide) * 2.0, CORNERED)
    spans = (top_long - brief.t, top_wide - brief.t)
    return brief.cover(
        (sheet,),
        seams,
        profile=passages((0.0, body.drop.value), passes, *spans),
        roles={"top": "sheet", "side": "sheet"},
        seams_across=4,
        turns=CORNERED,
    )


def _cut_out(long: Worked, wide: Worked, corner: Worked, brief: Brief) -> Panel:
    """A plus: four hems, and at each corner an edge up from one hem and one out to the next."""
    x, y, h = long.value, wide.value, corner.value
    points = [
        (h, 0),
        (x - h, 0),
        (x - h, h),
        (x, h),
        (x, y - h),
        (x - h, y - h),
        (x - h, y),
        (h, y),
        (h, y - h),
        (0, y - h),
        (0, h),
        (h, h),
    ]
    hem, a = brief.choices.hem, brief.seam
    edges = []
    for k, (here, there) in enumerate(zip(SIDES, (*SIDES[1:], SIDES[0]), strict=True)):
        stops = [points[(3 * k + i) % 12] for i in range(4)]
        edges += [
            Edge(f"{here} hem", line(stops[0], stops[1]), hem),
            Edge(f"{here} {there} up", line(stops[1], stops[2]), a),
            Edge(f"{here} {there} out", line(stops[2], stops[3]), a),
        ]
    below = (hem, refs.HEM)
    return outline(
        "sheet", tuple(edges), long, wide, cut=(with_allowances(long, below, below), with_allowances(wide, below, below))
    )


def _folded(long: Worked, wide: Worked, corner: Worked, brief: Brief) -> Panel:
    """The whole rectangle, with the stitch line of each corner: square to the diagonal fold at h from the corner."""
    x, y, h = long.value, wide.value, corner.value
    lines = [((0.0, h), (h, h)), ((h, 0.0), (h, h)), ((x, h), (x - h, h)), ((x - h, 0.0), (x - h, h))]
    lines += [((0.0, y - h), (h, y - h)), ((h, y), (h, y - h)), ((x, y - h), (x - h, y - h)), ((x - h, y), (x - h, y - h))]
    figures = tuple(Figure(f"corner stitch {i}", np.array(pair)) for i, pair in enumerate(lines, 1))
    hem = brief.choices.hem
    return rectangle(
        "sheet",
        long,
        wide,
        bottom=hem,
        right=hem,
        top=hem,
        left=hem,
        sources=dict.fromkeys(("bottom", "right", "top", "left"), refs.HEM),
        figures=figures,
        mitred=True,
    )


SCHEME = Scheme(
    "one-piece",
    tr("One piece, boxed corners"),
    tr("A single sheet with its corners closed."),
    frozenset({Ability.BOXY}),
    OPTIONS,
    draft,
    {"cloth": WIDE},
    without=frozenset({refs.CLOSING_ALLOWANCE}),
)
