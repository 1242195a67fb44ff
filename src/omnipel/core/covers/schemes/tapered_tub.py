"""Tapered tub: a frustum of n panels on a base disc; the tub stands in it, or it is pulled up from below.

Bottom radius r₁, top r₂, each with u added: slant `s = √(h² + (r₂ − r₁)²)`; sector radii `ρ₁ = r₁s/|r₂ − r₁|`, `ρ₂ = ρ₁ + s`; angle `θ = 2π|r₂ − r₁|/s`.
"""

import math
from collections.abc import Sequence
from itertools import pairwise

from omnipel.core.covers import places
from omnipel.core.covers.options import count
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Passage, Scheme, inside
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum, sector
from omnipel.core.forms.abilities import Ability, Tapered
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr, trn
from omnipel.core.words.working import worked

OPTIONS = (
    count("panels", tr("panels around"), 2, tr("Two nest well on the cloth; more when the angle grows past a half turn."), 1, 24),
)


def draft(body: Tapered, brief: Brief) -> Cover:
    """Side panels and base."""
    n = brief.count("panels")

    # Sizes
    bottom = brief.size("r_bottom", body.girth_bottom / (2.0 * math.pi) + brief.u(body.girth_bottom), refs.ANY_CLEARANCE)
    top = brief.size("r_top", body.girth_top / (2.0 * math.pi) + brief.u(body.girth_top), refs.ANY_CLEARANCE)
    height = brief.size("height", body.height)
    flat = frustum(bottom, top, height, n)
    slant = brief.size("slant", flat.slant)
    low, high = brief.size("panel_bottom_arc", flat.bottom_arc), brief.size("panel_top_arc", flat.top_arc)
    brief.note(
        sector_inner_radius=flat.inner_radius,
        sector_outer_radius=flat.outer_radius,
        angle_total_deg=worked(tr("angle in degrees"), math.degrees(flat.angle), how=tr("of the whole cone laid flat")),
        panel_angle_deg=worked(
            tr("angle of a panel in degrees"), math.degrees(flat.angle) / n, how=trn("{n} panel", "shared by {n} panels", n)
        ),
    )

    # Panels
    base = disc("base", bottom, brief.seam, begins=places.BACK_FROM_BELOW)
    side = sector(
        "side",
        low,
        high,
        slant,
        inside=brief.seam,
        outside=brief.choices.hem,
        sides=brief.closing,
        sources={"upper edge": refs.HEM, "side a": refs.CLOSING_ALLOWANCE, "side b": refs.CLOSING_ALLOWANCE},
        names=("base edge", "side b", "upper edge", "side a"),
    )
    brief.note(base_cut_radius=base.sizes["cut radius"])

    # Pieces
    names = places.copies("side", n)
    floor = -brief.t.value / 2.0  # the tub stands on the base
    level = min(brief.u(body.girth_bottom).value, brief.u(body.girth_top).value)
    leans = (body.girth_bottom.value - body.girth_top.value) / (2.0 * math.pi) / body.height.value
    clear = (level + min(0.0, floor * leans)) / math.hypot(1.0, leans)  # u is measured level, the gap square to the side
    pieces = [placed(base, places.base(floor), clear=-floor)]
    pieces += [
        placed(side, place, name, clear=clear)
        for name, place in zip(names, places.cones(side, n, floor, slant.value), strict=True)
    ]

    profile = (Passage(0.0, inside(brief, high * n, ROUND)), Passage(body.height.value, inside(brief, low * n, ROUND)))
    return brief.cover(
        (base, side),
        pieces,
        _seams(names),
        openings={"upper edge": Run(names[0], "upper edge")},
        profile=profile,
        from_below=True,
        seams_across=n,
    )


def _seams(names: Sequence[str]) -> tuple[Seam, ...]:
    """The sides onto the base, and to one another."""
    n = len(names)
    return (
        Seam(
            "sides to base",
            tuple(Run(name, "base edge") for name in names),
            (Run("base", "rim", reversed=True),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="panel_bottom_arc",
            easier_share=1.0 / n,
        ),
        *(
            Seam("side to side", (Run(after, "side a"),), (Run(before, "side b", reversed=True),), kind=SeamKind.FELLED)
            for before, after in pairwise((*names, names[0]))
        ),
    )


SCHEME = Scheme(
    "tapered-tub",
    tr("Tapered tub"),
    tr("A cone's band in panels, on a base disc."),
    frozenset({Ability.TAPERED}),
    OPTIONS,
    draft,
    edges=("upper edge",),
)
