"""Plain bag: a base, a wall and a hem, open at the top; what stands in it is lifted in.

`r = G/2π + u`. Base: a disc of radius r under the object. Wall: 2πr long and `height + u` high. What draws it in at the top, if anything, is decided
about its upper edge.
"""

import math

from omnipel.core.covers import places
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Scheme, inside, meeting_notes, passages
from omnipel.core.covers.schemes.on_base import onto_base, wall_on_base
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.shapes import disc
from omnipel.core.forms.abilities import Ability, Round
from omnipel.core.forms.body import widest
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, tr

LEVEL = 1.0
"""What stays free below a bag may be no more than this, mm: it is measured no finer."""


def draft(body: Round, brief: Brief) -> Cover:
    """Base and wall."""
    passed = widest(body.sections, body.drop.value).girth
    u = brief.u(passed)
    if body.ends > LEVEL:
        text = tr("a bag stands on its base: {below} cannot stay free below it", below=mm(body.ends))
        instead = Remedy(
            tr("Use {scheme}", scheme=tr("Wall and lid")), (Change(refs.SCHEME, "wall-and-lid"), Change(refs.option(), {}))
        )
        raise Impossible(text, refs.reading("drop"), instead)

    # Sizes
    radius = brief.size("base_sew_radius", passed / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    ring = brief.size("wall_sew_length", (passed / (2.0 * math.pi) + u) * (2.0 * math.pi), refs.ANY_CLEARANCE)
    high = brief.size("wall_finished_height", body.drop + u, refs.ANY_CLEARANCE)

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


SCHEME = Scheme(
    "plain-bag",
    tr("Plain bag"),
    tr("A base and a wall, open at the top."),
    frozenset({Ability.ROUND}),
    (),
    draft,
    rings=True,
    edges=("upper edge",),
    without=frozenset({refs.EASE_DROP}),
)
