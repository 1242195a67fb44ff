"""Wheel cap: a disc and a boxing strip with a cord at its free edge.

The strip is the ring's length + overlap, its ends hemmed; 30–50 % of the cord is drawn out, which pulls the free edge behind the wheel.
"""

import math

from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, inside, length, share, too_gathered
from omnipel.core.drafting.curves import line
from omnipel.core.drafting.finishes import cord_casing
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, edge, outline, with_allowances
from omnipel.core.findings import Change, Remedy
from omnipel.core.forms.wheel import Wheel
from omnipel.core.working import worked

OPTIONS = (
    length("depth", "depth of the boxing", 0.0, "0: the width of the tread and 60 more, to reach behind it."),
    length("overlap", "overlap of the strip's ends", 40.0, "The ends lap where the cord comes out.", 0.0, 300.0),
    share("drawn_share", "of the cord drawn out", 0.4, "30 to 50 %: less hangs loose, more will not gather.", 0.05, 0.6),
    length("cord", "cord diameter", 5.0, "", 1.0, 20.0),
    length("casing_turn_under", "casing turn-under", 10.0, "", 0.0, 60.0),
    length("tails", "each cord tail", 100.0, "", 0.0, 1000.0),
)


def draft(body: Wheel, brief: Brief) -> Cover:
    """Disc and boxing strip."""
    u = brief.u(body.girth)

    # Sizes
    radius = brief.size("disc_sew_radius", body.girth / (2.0 * math.pi) + u)
    ring = brief.size("boxing_sew_length", (body.girth / (2.0 * math.pi) + u) * (2.0 * math.pi))
    chosen = brief.length("depth", "depth")
    depth = brief.size("boxing_finished_width", chosen if chosen.value else body.width + u + worked("reach behind", 60.0))
    overlap = brief.length("overlap", "overlap")
    strip = ring + overlap

    # Panels
    casing, ends = cord_casing(brief.number("cord"), brief.number("casing_turn_under")), brief.choices.hem
    face = disc("disc", radius, brief.seam)
    x, lap, y = strip.value, overlap.value, depth.value
    points = [(0.0, 0.0), (x, 0.0), (x, y), (lap, y), (0.0, y)] if lap else [(0.0, 0.0), (x, 0.0), (x, y), (0.0, y)]
    names = ["casing edge", "end b", "disc edge", "lap edge", "end a"] if lap else ["casing edge", "end b", "disc edge", "end a"]
    finishes = {"casing edge": casing, "end a": ends, "end b": ends, "disc edge": brief.seam, "lap edge": brief.seam}
    edges = tuple(edge(name, line(points[i], points[(i + 1) % len(points)]), finishes[name]) for i, name in enumerate(names))
    cut_long = with_allowances(strip, (ends, "cover.hem"), (ends, "cover.hem"))
    boxing = outline(
        "boxing",
        edges,
        strip,
        depth,
        cut=(cut_long, with_allowances(depth, (brief.seam, "cover.seam_allowance"), (casing, "cover.options.cord"))),
    )
    drawn = brief.number("drawn_share")
    cord = strip + brief.length("tails", "cord tail") * 2.0
    brief.note(
        disc_cut_radius=face.sizes["cut radius"],
        boxing_cut_length=boxing.cut_length,
        boxing_cut_width=boxing.cut_width,
        cord_length=cord,
        cord_drawn_out=strip * drawn,
    )

    # Seams
    seams = (
        Seam(
            "boxing to disc",
            (Run("boxing", "disc edge", reversed=True),),
            (Run("disc", "rim"),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="boxing_sew_length",
        ),
    )
    passes = inside(brief, ring, ROUND)
    less = Remedy("Draw out 40 %", (Change("cover.options.drawn_share", 0.4),))
    return Cover(
        (face, boxing),
        seams,
        brief.sizes,
        ((0.0, passes), (body.width.value, passes)),
        roles={"left": "disc", "side": "boxing"},
        seams_across=1,
        hardware=(Hardware("cord", cord, note=f"{brief.number('cord'):g} mm"),),
        findings=too_gathered(brief, 1.0 / (1.0 - drawn), "The free edge", "cover.options.drawn_share", less),
    )


SCHEME = Scheme("wheel-cap", "Wheel cap", "A disc and a strip, drawn in behind.", ("wheel",), OPTIONS, draft)
