"""Tapered tub: a frustum of n panels on a base disc; the tub stands in it, or it is pulled up from below.

Bottom radius r₁, top r₂, each with u added: slant `s = √(h² + (r₂ − r₁)²)`; sector radii `ρ₁ = r₁s/|r₂ − r₁|`, `ρ₂ = ρ₁ + s`; angle `θ = 2π|r₂ − r₁|/s`.
"""

import math

from omnipel.core.covers.scheme import ROUND, Brief, Cover, Scheme, count, inside
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum, sector
from omnipel.core.forms.tub import Tub
from omnipel.core.working import formula, worked

OPTIONS = (count("panels", "panels around", 2, "Two nest well on the cloth; more when the angle grows past a half turn.", 1, 24),)


def draft(body: Tub, brief: Brief) -> Cover:
    """Side panels and base."""
    n = brief.count("panels")

    # Sizes
    bottom = brief.size("r_bottom", body.girth_bottom / (2.0 * math.pi) + brief.u(body.girth_bottom))
    top = brief.size("r_top", body.girth_top / (2.0 * math.pi) + brief.u(body.girth_top))
    height = brief.size("height", body.height)
    flat = frustum(bottom, top, height, n)
    slant = brief.size("slant", flat.slant)
    low, high = brief.size("panel_bottom_arc", flat.bottom_arc), brief.size("panel_top_arc", flat.top_arc)
    brief.note(
        sector_inner_radius=formula("inner radius", flat.inner_radius, "r₁ · s / |r₂ − r₁|"),
        sector_outer_radius=formula("outer radius", flat.outer_radius, "ρ₁ + s"),
        angle_total_deg=worked("angle", math.degrees(flat.angle), how="2π |r₂ − r₁| / s"),
        panel_angle_deg=worked("angle of a panel", math.degrees(flat.angle) / n, how=f"θ / {n}"),
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
    profile = ((0.0, inside(brief, high * n, ROUND)), (body.height.value, inside(brief, low * n, ROUND)))
    return Cover(
        (base, side), seams, brief.sizes, profile, from_below=True, roles={"base": "base", "side": "side"}, seams_across=n
    )


SCHEME = Scheme("tapered-tub", "Tapered tub", "A cone's band in panels, on a base disc.", ("tub",), OPTIONS, draft)
