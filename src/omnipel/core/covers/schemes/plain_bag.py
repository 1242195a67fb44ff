"""Plain bag: a base, a wall and a hem, open at the top; what stands in it is lifted in.

Round: `r = G/2π + u`, a disc of radius r and a wall 2πr long. With corners: a base `l × w` of `L + 2u` by `W + 2u`, and a wall 2(l + w) long, clipped where it
turns the corners. The wall is `height + u` high, and as much more as is chosen. What draws it in at the top, if anything, is decided about its upper edge.
"""

import math

from omnipel.core.covers import places
from omnipel.core.covers.boxy import boxy
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import CORNERED, ROUND, Brief, Cover, Scheme, inside, meeting_notes, passages
from omnipel.core.covers.schemes.on_base import onto_base, stands_on_base, wall_on_base
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.shapes import checked, disc, outline
from omnipel.core.forms.abilities import Ability, Boxy, Round
from omnipel.core.forms.body import widest
from omnipel.core.plane.curves import line
from omnipel.core.space.frames import Frame, Side
from omnipel.core.space.paths import straight
from omnipel.core.space.placements import Swept
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

OPTIONS = (
    length(
        "above",
        tr("higher than what stands in it"),
        why=tr("0: to its top. To be drawn shut above it, half of the way across or more."),
        high=2_000.0,
    ),
)
AROUND = ("back left", "left", "front", "right", "back right")
"""Edges of a base with corners in the order in which the wall meets them, from the middle of the back."""


def draft(body: Round | Boxy, brief: Brief) -> Cover:
    """Base and wall."""
    stands_on_base(body)
    return _round(body, brief) if isinstance(body, Round) else _cornered(body, brief)


def _round(body: Round, brief: Brief) -> Cover:
    passed = widest(body.sections, body.drop.value).girth
    u = brief.u(passed)

    # Sizes
    radius = brief.size("base_sew_radius", passed / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    ring = brief.size("wall_sew_length", (passed / (2.0 * math.pi) + u) * (2.0 * math.pi), refs.ANY_CLEARANCE)
    high = brief.size("wall_finished_height", body.drop + u + brief.length("above"), refs.ANY_CLEARANCE, refs.option("above"))

    # Panels
    base = disc("base", radius, brief.seam, begins=places.BACK_FROM_BELOW)
    wall = wall_on_base(brief, ring, high, brief.meeting, notes=meeting_notes(brief))
    brief.note(base_cut_radius=base.sizes["cut radius"], wall_cut_length=wall.cut_length, wall_cut_height=wall.cut_width)

    # Pieces
    floor = body.ends - brief.t.value / 2.0
    pieces = (
        placed(base, places.base(floor), clear=brief.t.value / 2.0),
        placed(wall, places.around(ring.value, floor, floor + high.value), clear=u.value),
    )
    return brief.cover(
        (base, wall),
        pieces,
        onto_base(),
        openings={"upper edge": Run("wall", "upper edge")},
        profile=passages((0.0, body.drop.value), inside(brief, ring, ROUND)),
        from_below=True,
        seams_across=1,
    )


def _cornered(body: Boxy, brief: Brief) -> Cover:
    box = boxy(brief, body)

    # Sizes
    long, wide = brief.size("base_finished_length", box.l), brief.size("base_finished_width", box.w)
    ring = brief.size("wall_finished_length", (box.l + box.w) * 2.0)
    high = brief.size("wall_finished_height", box.h + brief.length("above"), refs.option("above"))

    # Panels
    base = _base(brief, long, wide)
    wall = wall_on_base(
        brief, ring, high, brief.meeting, notes=(tr("clip the base edge at the corner marks"), *meeting_notes(brief))
    )
    brief.note(
        base_cut_length=base.cut_length,
        base_cut_width=base.cut_width,
        wall_cut_length=wall.cut_length,
        wall_cut_height=wall.cut_width,
    )

    # Pieces
    floor, x, y = body.ends - brief.t.value / 2.0, long.value / 2.0, wide.value / 2.0
    round_it = straight((0.0, y), (-x, y), (-x, -y), (x, -y), (x, y), (0.0, y))
    begin = (ring.value - round_it.length) / 2.0
    pieces = (
        placed(base, places.facing(Side.BELOW, (0.0, 0.0, floor), base), clear=brief.t.value / 2.0),
        placed(wall, Swept(round_it, Frame((0.0, 0.0, floor)), (0.0, 0.0, 1.0), begin), clear=box.u.value),
    )
    return brief.cover(
        (base, wall),
        pieces,
        onto_base(tuple(Run("base", name, reversed=True) for name in AROUND), "wall_finished_length"),
        openings={"upper edge": Run("wall", "upper edge")},
        profile=passages((0.0, body.drop.value), inside(brief, ring, CORNERED), long - brief.t, wide - brief.t),
        from_below=True,
        seams_across=1,
        turns=CORNERED,
    )


def _base(brief: Brief, long: Worked, wide: Worked) -> Panel:
    """A base with corners, seen from below: its back edge is parted in the middle, where the wall is closed."""
    x = checked(long, tr("the length of the base"), refs.panel("base"))
    y = checked(wide, tr("the width of the base"), refs.panel("base"))
    points = [(0.0, 0.0), (x / 2.0, 0.0), (x, 0.0), (x, y), (0.0, y)]
    names = ("back left", "back right", "right", "front", "left")
    edges = tuple(Edge(name, line(points[i], points[(i + 1) % 5]), brief.seam) for i, name in enumerate(names))
    return outline("base", edges, long, wide)


SCHEME = Scheme(
    "plain-bag",
    tr("Plain bag"),
    tr("A base and a wall, open at the top."),
    frozenset({Ability.ROUND, Ability.BOXY}),
    OPTIONS,
    draft,
    rings=True,
    edges=("upper edge",),
    without=frozenset({refs.EASE_DROP}),
)
