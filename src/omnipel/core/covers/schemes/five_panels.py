"""Five panels: a top and four walls, for cloth too narrow for strips or for sides of different cloth."""

from itertools import pairwise

from omnipel.core.covers.boxy import boxy
from omnipel.core.covers.places import facing
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Scheme, inside, passages
from omnipel.core.covers.schemes.tilted import SIDES, tilted
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.forms.taper import slopes, tapers
from omnipel.core.space.frames import Side
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr

NAMES = {"bottom": "lower edge", "top": "top edge", "left": "left edge", "right": "right edge"}


def draft(body: Boxy, brief: Brief) -> Cover:
    """Top, two long walls, two short walls; over a box that slopes or tapers each panel is one of its own."""
    if slopes(body) or tapers(body):
        return tilted(body, brief, _seams(easier=False))
    box = boxy(brief, body)

    # Sizes
    long, wide = brief.size("long_wall_finished_length", box.l), brief.size("short_wall_finished_length", box.w)
    high = brief.size("wall_finished_height", box.h)
    top_long, top_wide = brief.size("top_finished_length", box.l), brief.size("top_finished_width", box.w)

    # Panels
    a, hem = brief.seam, brief.choices.hem
    walls = [
        rectangle(name, size, high, bottom=hem, right=a, top=a, left=a, names=NAMES, sources={"bottom": refs.HEM})
        for name, size in (("long wall", long), ("short wall", wide))
    ]
    top = rectangle("top", top_long, top_wide, bottom=a, right=a, top=a, left=a, names={"bottom": "front", "top": "back"})
    brief.note(
        long_wall_cut_length=walls[0].cut_length,
        short_wall_cut_length=walls[1].cut_length,
        wall_cut_height=walls[0].cut_width,
        top_cut_length=top.cut_length,
        top_cut_width=top.cut_width,
    )

    # Pieces
    high_z = box.top
    low, clear = high_z - high.value, box.u.value
    x, y = wide.value / 2.0, long.value / 2.0
    pieces = [placed(top, facing(Side.TOP, (0.0, 0.0, high_z), top), clear=clear)]
    pieces += [
        placed(wall, facing(side, place, wall), f"{side} wall", clear=clear)
        for side, place, wall in (
            (Side.FRONT, (0.0, -x, low), walls[0]),
            (Side.RIGHT, (y, 0.0, low), walls[1]),
            (Side.BACK, (0.0, x, low), walls[0]),
            (Side.LEFT, (-y, 0.0, low), walls[1]),
        )
    ]

    passes = inside(brief, (long + wide) * 2.0, CORNERED)
    return brief.cover(
        (top, *walls),
        pieces,
        _seams(),
        openings={"lower edge": Run("front wall", "lower edge")},
        profile=passages((0.0, body.drop.value), passes, long - brief.t, wide - brief.t),
        seams_across=4,
        turns=CORNERED,
    )


def _seams(*, easier: bool = True) -> tuple[Seam, ...]:
    """Four corners, and every wall to the top; `easier` where the walls have sizes that can be set by hand."""
    tops = [
        Seam(
            f"{side} wall to top",
            (Run(f"{side} wall", "top edge", reversed=True),),
            (Run("top", side),),
            kind=SeamKind.FELLED,
            easier=f"{wall}_wall_finished_length" if easier else "",
        )
        for side, wall in zip(SIDES, ("long", "short", "long", "short"), strict=True)
    ]
    corners = [
        Seam(
            f"corner {first} {second}" if second in ("right", "left") else f"corner {second} {first}",
            (Run(f"{first} wall", "right edge"),),
            (Run(f"{second} wall", "left edge", reversed=True),),
            kind=SeamKind.FELLED,
        )
        for first, second in pairwise((*SIDES, SIDES[0]))
    ]
    return (*corners, *tops)


SCHEME = Scheme(
    "five-panels",
    tr("Five panels"),
    tr("A top and four walls."),
    frozenset({Ability.BOXY}),
    (),
    draft,
    without=frozenset({refs.CLOSING_ALLOWANCE}),
    tapers=True,
)
