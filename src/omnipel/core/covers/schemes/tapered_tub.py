"""Tapered tub: a frustum of n panels on a base disc; the tub stands in it, or it is pulled up from below.

Bottom radius r₁, top r₂, each with u added: slant `s = √(h² + (r₂ − r₁)²)`; sector radii `ρ₁ = r₁s/|r₂ − r₁|`, `ρ₂ = ρ₁ + s`; angle `θ = 2π|r₂ − r₁|/s`.
"""

import math

from omnipel.core.covers.options import count
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Passage, Scheme, inside
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
    base = disc("base", bottom, brief.seam)
    side = sector(
        "side",
        low,
        high,
        slant,
        inside=brief.seam,
        outside=brief.choices.hem,
        sides=brief.closing,
        names=("base edge", "side b", "upper edge", "side a"),
        count=n,
    )
    brief.note(base_cut_radius=base.sizes["cut radius"])

    # Seams
    seams = (
        Seam(
            "sides to base",
            tuple(Run("side", "base edge") for _ in range(n)),
            (Run("base", "rim"),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="panel_bottom_arc",
            easier_share=1.0 / n,
        ),
        Seam("side to side", (Run("side", "side a"),), (Run("side", "side b", reversed=True),), kind=SeamKind.FELLED),
    )
    profile = (Passage(0.0, inside(brief, high * n, ROUND)), Passage(body.height.value, inside(brief, low * n, ROUND)))
    return brief.cover(
        (base, side), seams, profile=profile, from_below=True, roles={"base": "base", "side": "side"}, seams_across=n
    )


SCHEME = Scheme(
    "tapered-tub", tr("Tapered tub"), tr("A cone's band in panels, on a base disc."), frozenset({Ability.TAPERED}), OPTIONS, draft
)
