"""Sleeve with base, tied at the neck: wall and base, the top hemmed, a ribbon where the neck is."""

import math

import numpy as np

from omnipel.core.covers import places
from omnipel.core.covers.cloths import SHIRTING
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import (
    ROUND,
    Brief,
    Cover,
    Hardware,
    Scheme,
    beyond,
    inside,
    meeting_notes,
    passages,
    too_gathered,
)
from omnipel.core.covers.schemes.on_base import onto_base, wall_on_base
from omnipel.core.drafting.panel import Figure, MarkKind, Shows
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.shapes import disc
from omnipel.core.forms.abilities import Ability, Necked
from omnipel.core.job.findings import Change, Finding, Remedy
from omnipel.core.plane.curves import line
from omnipel.core.space.paths import Path
from omnipel.core.tolerances import MOST_GATHERED
from omnipel.core.words import refs
from omnipel.core.words.phrases import Ratio, Rule, mm, tr
from omnipel.core.words.working import Worked, worked

OPTIONS = (
    length(
        "collar",
        tr("collar above the ribbon"),
        Rule(60.0, 2.5),
        tr("Covers the neck and falls over the ribbon."),
        10.0,
        400.0,
        ("upper edge",),
    ),
    length("bow", tr("each end of the ribbon"), Rule(250.0, 10.0), low=50.0, high=1000.0),
)


def draft(body: Necked, brief: Brief) -> Cover:
    """Wall and base."""
    u = brief.u(body.girth)

    # Sizes
    radius = brief.size("base_sew_radius", body.girth / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    ring = brief.size("wall_sew_length", (body.girth / (2.0 * math.pi) + u) * (2.0 * math.pi), refs.ANY_CLEARANCE)
    drawn = body.neck or ring / brief.gather_limit
    # Without a neck the cloth has to lie over the top as far as the ribbon draws it in.
    over = (ring - drawn) / (2.0 * math.pi)
    stands = body.neck_height if body.neck_height is not None else body.height
    tied_at = stands if body.neck_height is not None else stands + over
    at = brief.size("ribbon_height", tied_at + u, refs.ANY_CLEARANCE)
    high = brief.size("wall_finished_height", tied_at + u + brief.length("collar"), refs.ANY_CLEARANCE, refs.option("collar"))

    # Panels
    base = disc("base", radius, brief.seam, begins=places.BACK_FROM_BELOW)
    tie = Figure("ribbon", np.array([(0.0, at.value), (ring.value, at.value)]), MarkKind.LINE, shows=Shows.STITCHES, holds="tie")
    wall = wall_on_base(brief, ring, high, brief.meeting, notes=meeting_notes(brief), figures=(tie,))
    brief.note(base_cut_radius=base.sizes["cut radius"], wall_cut_length=wall.cut_length, wall_cut_height=wall.cut_width)

    # Pieces
    level = over.value if body.neck_height is None else 0.0
    place = places.gathered_around(ring.value, _meridian(brief, (ring.value, drawn.value), at.value, high.value, level))
    pieces = (placed(base, places.base(-brief.t.value / 2.0), clear=brief.t.value / 2.0), placed(wall, place))

    passes = inside(brief, ring, ROUND)
    ends = worked(tr("end"), brief.number("bow"), refs.option("bow")) * 2.0
    return brief.cover(
        (base, wall),
        pieces,
        onto_base(),
        openings={"upper edge": Run("wall", "upper edge")},
        profile=passages((0.0, body.height.value), passes),
        from_below=True,
        seams_across=1,
        hardware=(Hardware(tr("ribbon"), drawn + ends, note=tr("caught in the closing seam")),),
        findings=(
            *_gathered(body, brief, ring),
            *beyond(brief, "collar", stands.value, tr("the object is only {high} high there", high=mm(stands.value))),
        ),
    )


def _meridian(brief: Brief, girths: tuple[float, float], at: float, high: float, level: float) -> Path:
    """Up the body, in to the ribbon, over the top where there is no neck (`level`), and on out again: the collar opens by 30°."""
    loose, least = girths[0] / (2.0 * math.pi), girths[1] / (2.0 * math.pi) + brief.t.value / 2.0
    ground = -brief.t.value / 2.0
    if level > 0.0:
        top = ground + at - (loose - least)
        up = Path((line((loose, ground), (loose, top)), line((loose, top), (least, top))))
    else:
        up = places.drawn_in(loose, min(loose, least), at, ground, way=1.0).reversed
    neck = tuple(map(float, up.at(np.array([at]))[0]))
    collar, angle = high - at, math.radians(60.0)
    end = neck[0] + collar * math.cos(angle), neck[1] + collar * math.sin(angle)
    return Path((*up.curves, line((neck[0], neck[1]), end)))


def _gathered(body: Necked, brief: Brief, ring: Worked) -> tuple[Finding, ...]:
    """Whether the cloth closes to the neck; without one it closes as far as it gathers."""
    if body.neck is None:
        return ()
    fullness = ring.value / body.neck.value
    finer = Remedy(
        tr("Take cloth that gathers {ratio}", ratio=Ratio(math.ceil(fullness))),
        (Change(refs.GATHER_LIMIT, float(math.ceil(fullness))),),
    )
    remedies = (finer,) if fullness <= MOST_GATHERED else ()
    return too_gathered(brief, fullness, tr("The wall at the neck"), refs.GATHER_LIMIT, *remedies)


SCHEME = Scheme(
    "sleeve-tied",
    tr("Sleeve tied at the neck"),
    tr("Wall and base, gathered to the neck by a ribbon; without a neck a plain bag."),
    frozenset({Ability.NECKED}),
    OPTIONS,
    draft,
    {"cloth": SHIRTING},
    without=frozenset({refs.CLOSURE}),
    edges=("upper edge",),
    rings=True,
)
