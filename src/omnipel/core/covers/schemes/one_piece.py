"""One piece, boxed corners: a sheet `(l + 2h) × (w + 2h)` with a square of side h closed at each corner.

The squares are cut out, or left in and folded flat inside, which keeps rain out of the seam.
"""

import math
from itertools import pairwise

import numpy as np

from omnipel.core.covers.boxy import boxy
from omnipel.core.covers.cloths import WIDE
from omnipel.core.covers.options import pick
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Scheme, inside, passages
from omnipel.core.drafting.panel import Edge, Figure, Panel, Shows
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import checked, outline
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.plane.curves import Points, line
from omnipel.core.space.cells import counter_clockwise, rectangle_cell
from omnipel.core.space.frames import Frame, Side, looking_at, vector
from omnipel.core.space.placements import Folded
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

OPTIONS = (
    pick("corners", tr("corners are"), ("cut out", "folded in"), tr("Cut out lies flatter; folded in holds water better.")),
)
SIDES = ("front", "right", "back", "left")


def draft(body: Boxy, brief: Brief) -> Cover:
    """The sheet."""
    box = boxy(brief, body)

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

    # Pieces and seams
    top = box.top
    place = _folded_down(long.value, wide.value, corner.value, top, ears=not cut_out)
    names = ("up", "out") if cut_out else ("ear", "ear")
    seams = tuple(
        Seam(
            f"{here} {there} corner",
            (Run("sheet", f"{here} {there} {names[0]}"),),
            (Run("sheet", f"{here} {there} {names[1]}" if cut_out else f"{there} {here} ear", reversed=True),),
            kind=SeamKind.PLAIN if cut_out else SeamKind.BOXED,
            easier="corner_seam",
        )
        for here, there in pairwise((*SIDES, SIDES[0]))
    )
    top_long, top_wide = long - corner * 2.0, wide - corner * 2.0
    passes = inside(brief, (top_long + top_wide) * 2.0, CORNERED)
    spans = (top_long - brief.t, top_wide - brief.t)
    return brief.cover(
        (sheet,),
        (placed(sheet, place, clear=box.u.value),),
        seams,
        openings={"lower edge": Run("sheet", "front hem")},
        profile=passages((0.0, body.drop.value), passes, *spans),
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
    for k, (here, there) in enumerate(pairwise((*SIDES, SIDES[0]))):
        stops = [points[(3 * k + i) % 12] for i in range(4)]
        edges += [
            Edge(f"{here} hem", line(stops[0], stops[1]), hem, refs.HEM),
            Edge(f"{here} {there} up", line(stops[1], stops[2]), a),
            Edge(f"{here} {there} out", line(stops[2], stops[3]), a),
        ]
    return outline("sheet", tuple(edges), long, wide)


def _folded(long: Worked, wide: Worked, corner: Worked, brief: Brief) -> Panel:
    """The whole rectangle: at each corner two ears that are folded onto one another, and the stitch line square to the fold at h from the corner."""
    x, y, h = long.value, wide.value, corner.value
    lines = [((0.0, h), (h, h)), ((h, 0.0), (h, h)), ((x, h), (x - h, h)), ((x - h, 0.0), (x - h, h))]
    lines += [((0.0, y - h), (h, y - h)), ((h, y), (h, y - h)), ((x, y - h), (x - h, y - h)), ((x - h, y), (x - h, y - h))]
    figures = tuple(
        Figure(f"corner stitch {i}", np.array(pair), shows=Shows.STITCHES, holds="seam") for i, pair in enumerate(lines, 1)
    )
    corners = ((0.0, 0.0), (x, 0.0), (x, y), (0.0, y))
    hem, edges = brief.choices.hem, []
    for k, side in enumerate(SIDES):
        here, there = np.array(corners[k]), np.array(corners[(k + 1) % 4])
        along = (there - here) / math.dist(here, there) * h
        stops = [tuple(map(float, stop)) for stop in (here, here + along, there - along, there)]
        for name, a, b in zip(
            (f"{side} {SIDES[k - 1]} ear", f"{side} hem", f"{side} {SIDES[(k + 1) % 4]} ear"), stops, stops[1:], strict=False
        ):
            edges.append(Edge(name, line((a[0], a[1]), (b[0], b[1])), hem, refs.HEM))
    return outline("sheet", tuple(edges), long, wide, figures=figures, mitred=True)


def _folded_down(long: float, wide: float, h: float, top: float, *, ears: bool) -> Folded:
    """The sheet over the box: its middle on top, its sides down, the ears of its corners folded flat against front and back."""
    x, y = long / 2.0, wide / 2.0
    a, b = x - h, y - h
    upper = looking_at(Side.TOP, (0.0, 0.0, top), (x, y))
    front = looking_at(Side.FRONT, (0.0, -b, top - h), (x, 0.0))
    back = Frame((-x, b, top + wide - h), (1.0, 0.0, 0.0), (0.0, 0.0, -1.0))
    right = Frame((a, -y, top + long - h), (0.0, 0.0, -1.0), (0.0, 1.0, 0.0))
    left = Frame((-a, -y, top - h), (0.0, 0.0, 1.0), (0.0, 1.0, 0.0))
    parts = [
        (rectangle_cell(h, h, long - h, wide - h), upper),
        (rectangle_cell(h, 0.0, long - h, h), front),
        (rectangle_cell(long - h, h, long, wide - h), right),
        (rectangle_cell(h, wide - h, long - h, wide), back),
        (rectangle_cell(0.0, h, h, wide - h), left),
    ]
    if ears:
        for fold, low, frame in ((h, 0.0, front), (long - h, 0.0, front), (long - h, wide, back), (h, wide, back)):
            parts += _ear(fold, 0.0 if fold == h else long, low, h if low == 0.0 else wide - h, frame)
    return Folded(tuple(parts))


def _ear(fold: float, outer: float, low: float, high: float, frame: Frame) -> list[tuple[Points, Frame]]:
    """Both halves of a corner square, folded along its diagonal and turned in about the corner: x = fold, where the wall in `frame` ends."""
    right, up, origin = (np.array(v) for v in (frame.right, frame.up, frame.origin))
    turned = Frame(vector(origin + 2.0 * fold * right), vector(-right), frame.up)
    # The other half lies on this one: what is as far from the corner along one side goes to what is as far along the other.
    s = 1.0 if (outer < fold) == (low < high) else -1.0
    begin = turned.at(np.array([(outer, low)]))[0]
    across = Frame(vector(begin + outer * s * -up + low * s * right), vector(s * up), vector(s * -right))
    near, far = [(outer, low), (fold, low), (fold, high)], [(outer, low), (fold, high), (outer, high)]
    return [(counter_clockwise(near), turned), (counter_clockwise(far), across)]


SCHEME = Scheme(
    "one-piece",
    tr("One piece, boxed corners"),
    tr("A single sheet with its corners closed."),
    frozenset({Ability.BOXY}),
    OPTIONS,
    draft,
    {"cloth": WIDE},
    without=frozenset({refs.CLOSING_ALLOWANCE}),
    level=True,
)
