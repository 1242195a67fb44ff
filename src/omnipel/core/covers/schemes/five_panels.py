"""Five panels: a top and four walls, for cloth too narrow for strips or for sides of different cloth."""

from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Scheme, boxy, inside, passages
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr

NAMES = {"bottom": "lower edge", "top": "top edge", "left": "left edge", "right": "right edge"}


def draft(body: Boxy, brief: Brief) -> Cover:
    """Top, two long walls, two short walls."""
    box = boxy(brief, body.length, body.width, body.drop)

    # Sizes
    long, wide = brief.size("long_wall_finished_length", box.l), brief.size("short_wall_finished_length", box.w)
    high = brief.size("wall_finished_height", box.h)
    top_long, top_wide = brief.size("top_finished_length", box.l), brief.size("top_finished_width", box.w)

    # Panels
    a, hem = brief.seam, brief.choices.hem
    walls = [
        rectangle(name, size, high, bottom=hem, right=a, top=a, left=a, names=NAMES, sources={"bottom": refs.HEM}, count=2)
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

    # Seams
    tops = [
        Seam(
            f"{name} to top, {side}",
            (Run(name, "top edge", reversed=True),),
            (Run("top", side),),
            kind=SeamKind.FELLED,
            easier=size,
        )
        for name, side, size in (
            ("long wall", "front", "long_wall_finished_length"),
            ("short wall", "right", "short_wall_finished_length"),
            ("long wall", "back", "long_wall_finished_length"),
            ("short wall", "left", "short_wall_finished_length"),
        )
    ]
    corners = [
        Seam(f"corner {where}", (Run(first, "right edge"),), (Run(second, "left edge", reversed=True),), kind=SeamKind.FELLED)
        for where, first, second in (
            ("front right", "long wall", "short wall"),
            ("back right", "short wall", "long wall"),
            ("back left", "long wall", "short wall"),
            ("front left", "short wall", "long wall"),
        )
    ]
    passes = inside(brief, (long + wide) * 2.0, CORNERED)
    return brief.cover(
        (top, *walls),
        (*corners, *tops),
        profile=passages((0.0, body.drop.value), passes, long - brief.t, wide - brief.t),
        roles={"top": "top", "front": "long wall", "back": "long wall", "left": "short wall", "right": "short wall"},
        seams_across=4,
        turns=CORNERED,
    )


SCHEME = Scheme(
    "five-panels",
    tr("Five panels"),
    tr("A top and four walls."),
    frozenset({Ability.BOXY}),
    (),
    draft,
    without=frozenset({refs.CLOSING_ALLOWANCE}),
)
