"""Wall and top: a strip `2(l + w)` by h closed in one seam, and a top `l × w`; the wall is clipped where it turns the corners.

The strip is closed in the middle of the back, because a join never lies on a corner.
"""

from omnipel.core.covers.boxy import boxy
from omnipel.core.covers.places import facing
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Scheme, inside, meeting_notes, passages
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import checked, outline, rectangle
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.plane.curves import line
from omnipel.core.space.frames import Frame, Side
from omnipel.core.space.paths import straight
from omnipel.core.space.placements import Swept
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

AROUND = ("back left", "left", "front", "right", "back right")
"""Edges of the top in the order in which the wall meets them, from the middle of the back."""


def draft(body: Boxy, brief: Brief) -> Cover:
    """Wall and top."""
    box = boxy(brief, body)

    # Sizes
    top_long, top_wide = brief.size("top_finished_length", box.l), brief.size("top_finished_width", box.w)
    ring = brief.size("wall_finished_length", (box.l + box.w) * 2.0)
    high = brief.size("wall_finished_height", box.h)

    # Panels
    top = _top(brief, top_long, top_wide)
    wall = rectangle(
        "wall",
        ring,
        high,
        bottom=brief.choices.hem,
        right=brief.meeting,
        top=brief.seam,
        left=brief.closing,
        names={"top": "top edge", "bottom": "lower edge", "left": "close a", "right": "close b"},
        sources={"bottom": refs.HEM, "left": refs.CLOSING_ALLOWANCE, "right": refs.CLOSING_ALLOWANCE},
        notes=(tr("clip the top edge at the corner marks"), *meeting_notes(brief)),
    )
    brief.note(
        wall_cut_length=wall.cut_length,
        wall_cut_height=wall.cut_width,
        top_cut_length=top.cut_length,
        top_cut_width=top.cut_width,
    )

    # Pieces
    high_z = box.top
    x, y = top_long.value / 2.0, top_wide.value / 2.0
    round_it = straight((0.0, y), (-x, y), (-x, -y), (x, -y), (x, y), (0.0, y))
    begin = (ring.value - round_it.length) / 2.0
    frame = Frame((0.0, 0.0, high_z - high.value))
    pieces = (
        placed(top, facing(Side.TOP, (0.0, 0.0, high_z), top), clear=box.u.value),
        placed(wall, Swept(round_it, frame, (0.0, 0.0, 1.0), begin), clear=box.u.value),
    )

    passes = inside(brief, ring, CORNERED)
    return brief.cover(
        (top, wall),
        pieces,
        _seams(),
        openings={"lower edge": Run("wall", "lower edge")},
        profile=passages((0.0, body.drop.value), passes, top_long - brief.t, top_wide - brief.t),
        seams_across=1,
        turns=CORNERED,
    )


def _seams() -> tuple[Seam, ...]:
    """The wall around the top, and into a ring."""
    return (
        Seam(
            "wall to top",
            (Run("wall", "top edge", reversed=True),),
            tuple(Run("top", name) for name in AROUND),
            ring=True,
            kind=SeamKind.FELLED,
            easier="wall_finished_length",
        ),
        Seam("close the wall", (Run("wall", "close a"),), (Run("wall", "close b", reversed=True),), kind=SeamKind.FELLED),
    )


def _top(brief: Brief, long: Worked, wide: Worked) -> Panel:
    """The top; its back edge is parted in the middle, where the wall is closed."""
    a = brief.seam
    x, y = (
        checked(long, tr("the length of the top"), refs.panel("top")),
        checked(wide, tr("the width of the top"), refs.panel("top")),
    )
    points = [(0.0, 0.0), (x, 0.0), (x, y), (x / 2.0, y), (0.0, y)]
    names = ("front", "right", "back right", "back left", "left")
    edges = tuple(Edge(name, line(points[i], points[(i + 1) % 5]), a) for i, name in enumerate(names))
    return outline("top", edges, long, wide)


SCHEME = Scheme(
    "wall-and-top",
    tr("Wall and top"),
    tr("One strip around, and a top."),
    frozenset({Ability.BOXY}),
    (),
    draft,
    rings=True,
    level=True,
)
