"""Sleeve with base, tied at the neck: wall and base, the top hemmed, a ribbon where the neck is."""

import math

import numpy as np

from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, inside, length, too_gathered
from omnipel.core.drafting.panel import Figure, MarkKind
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, rectangle
from omnipel.core.findings import Change, Remedy
from omnipel.core.forms.bottle import Bottle
from omnipel.core.job import ClothChoice
from omnipel.core.working import worked

SHIRTING = ClothChoice(name="cotton shirting", colour="#b9a36d", thickness=0.3, usable_width=1400.0, gather_limit=4.0)
"""Fine enough to draw in to the neck."""

OPTIONS = (
    length("collar", "collar above the ribbon", 60.0, "Covers the neck and falls over the ribbon.", 10.0, 400.0),
    length("bow", "each end of the ribbon", 250.0, "", 50.0, 1000.0),
)


def draft(body: Bottle, brief: Brief) -> Cover:
    """Wall and base."""
    u = brief.u(body.girth)

    # Sizes
    radius = brief.size("base_sew_radius", body.girth / (2.0 * math.pi) + u)
    ring = brief.size("wall_sew_length", (body.girth / (2.0 * math.pi) + u) * (2.0 * math.pi))
    at = brief.size("ribbon_height", body.neck_height + u)
    high = brief.size("wall_finished_height", body.neck_height + u + brief.length("collar", "collar"))

    # Panels
    base = disc("base", radius, brief.seam)
    tie = Figure("ribbon", np.array([(0.0, at.value), (ring.value, at.value)]), MarkKind.LINE)
    wall = rectangle(
        "wall",
        ring,
        high,
        bottom=brief.seam,
        right=brief.closing,
        top=brief.choices.hem,
        left=brief.closing,
        names={"bottom": "base edge", "top": "upper edge", "left": "close a", "right": "close b"},
        sources={"top": "cover.hem", "left": "cover.closing_allowance", "right": "cover.closing_allowance"},
        figures=(tie,),
    )
    brief.note(base_cut_radius=base.sizes["cut radius"], wall_cut_length=wall.cut_length, wall_cut_height=wall.cut_width)

    # Seams
    seams = (
        Seam(
            "wall to base",
            (Run("wall", "base edge"),),
            (Run("base", "rim"),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="wall_sew_length",
        ),
        Seam("close the wall", (Run("wall", "close a"),), (Run("wall", "close b", reversed=True),), kind=SeamKind.FELLED),
    )
    ratio = ring.value / body.neck.value
    finer = Remedy("Take cloth that gathers 3 : 1 or more", (Change("cover.cloth.gather_limit", float(math.ceil(ratio))),))
    passes = inside(brief, ring, ROUND)
    return Cover(
        (base, wall),
        seams,
        brief.sizes,
        ((0.0, passes), (body.height.value, passes)),
        from_below=True,
        roles={"base": "base", "side": "wall"},
        seams_across=1,
        hardware=(
            Hardware(
                "ribbon",
                body.neck + worked("end", brief.number("bow"), "cover.options.bow") * 2.0,
                note="caught in the closing seam",
            ),
        ),
        findings=too_gathered(brief, ratio, "The wall at the neck", "cover.cloth.gather_limit", finer) if ratio <= 6.0 else (),
    )


SCHEME = Scheme(
    "sleeve-tied",
    "Sleeve tied at the neck",
    "Wall and base, gathered to the neck by a ribbon.",
    ("bottle",),
    OPTIONS,
    draft,
    {"cloth": SHIRTING, "seam_allowance": 8.0, "closing_allowance": 8.0},
)
