"""Wall and lid, for round bodies; with a second skirt ("choker") if wanted.

`r = G/2π + u`. Lid: a disc of radius r. Wall: 2πr long and h = drop + u high, because the lid lies u above the object. The lid's
sew line and the wall's are the same number by construction. The second skirt hangs at the lid seam: as long as the wall,
a share of the drop high, with a cord casing at its free edge.
"""

import math
from dataclasses import replace

from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, inside, length, pick, share, yes
from omnipel.core.drafting.finishes import Finish, FinishKind, seam
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, rectangle
from omnipel.core.findings import Change, Finding, Remedy, Severity
from omnipel.core.forms.body import widest
from omnipel.core.forms.drum import Drum
from omnipel.core.job import RingSchool
from omnipel.core.working import Worked, worked

TRIM_SPARE = 150.0
"""Meet and trim: what the strip is cut longer, to be cut off where the ends meet."""

OPTIONS = (
    yes("skirt", "second skirt", False, "A second skirt with a cord keeps dust out from below; most drums stand well without."),
    share(
        "skirt_share",
        "height of the second skirt, share of the wall",
        0.5,
        "Half the drop reaches under the widest hoop.",
        0.1,
        1.0,
    ),
    pick("skirt_hangs", "the second skirt hangs", ("inside", "outside"), "Inside, the wall sheds rain over its cord."),
    length("cord", "cord diameter", 5.0, "5 mm runs easily and does not cut the fingers.", 1.0, 30.0),
    length("casing", "casing fold", 20.0, "Wider than the least fold, so that a toggle can be hidden in it.", 4.0, 100.0),
    length("casing_turn_under", "casing turn-under", 12.0, "", 0.0, 60.0),
    length("draw", "cord closes to a girth of", 0.0, "0: as far as the cloth gathers."),
    length("tails", "each cord tail", 50.0, "Enough to tie a bow with cold hands.", 0.0, 1000.0),
)


def draft(body: Drum, brief: Brief) -> Cover:
    """Lid, wall and second skirt."""
    choices = brief.choices
    passed = widest(body.sections, body.drop.value).girth
    u = brief.u(passed)

    # Sizes
    radius = brief.size("lid_sew_radius", passed / (2.0 * math.pi) + u)
    ring = brief.size("wall_sew_length", (passed / (2.0 * math.pi) + u) * (2.0 * math.pi))
    height = brief.size("wall_finished_height", body.drop + u)
    spare = worked("spare to trim", TRIM_SPARE) if choices.ring is RingSchool.MEET_AND_TRIM else None

    # Panels
    lid = disc("lid", radius, brief.seam)
    wall = rectangle(
        "wall",
        ring,
        height,
        bottom=choices.hem,
        right=brief.closing,
        top=brief.seam,
        left=brief.closing,
        names={"top": "lid edge", "bottom": "lower edge", "left": "close a", "right": "close b"},
        sources={"bottom": "cover.hem", "left": "cover.closing_allowance", "right": "cover.closing_allowance"},
        note="meet and trim: cut 150 longer" if spare else "",
    )
    cut_length = wall.cut_length + spare if spare else wall.cut_length
    brief.note(lid_cut_radius=lid.sizes["cut radius"], wall_cut_length=cut_length, wall_cut_height=wall.cut_width)

    # Seams
    seams = [
        Seam(
            "wall to lid",
            (Run("wall", "lid edge", reversed=True),),
            (Run("lid", "rim"),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="wall_sew_length",
        ),
        Seam("close the wall", (Run("wall", "close a"),), (Run("wall", "close b", reversed=True),), kind=SeamKind.FELLED),
    ]
    passes = inside(brief, ring, ROUND)
    profile = ((0.0, passes), (body.drop.value, passes))
    cover = Cover((lid, wall), tuple(seams), brief.sizes, profile, roles={"top": "lid", "side": "wall"}, seams_across=1)
    return _with_skirt(cover, body, brief, ring) if brief.yes("skirt") else cover


def _with_skirt(cover: Cover, body: Drum, brief: Brief, ring: Worked) -> Cover:
    """The second skirt, its cord and how far that can be drawn."""
    height = brief.size("skirt_finished_height", cover.sizes["wall_finished_height"] * brief.number("skirt_share"))
    long = brief.size("skirt_sew_length", ring)
    casing = Finish(kind=FinishKind.CORD_CASING, width=brief.number("casing"), turn_under=brief.number("casing_turn_under"))
    skirt = rectangle(
        "second skirt",
        long,
        height,
        bottom=casing,
        right=seam(brief.choices.closing_allowance),
        top=brief.seam,
        left=seam(brief.choices.closing_allowance),
        names={"top": "lid edge", "bottom": "casing edge", "left": "close a", "right": "close b"},
        sources={"bottom": "cover.options.casing", "left": "cover.closing_allowance", "right": "cover.closing_allowance"},
        note=f"hangs {brief.picked('skirt_hangs')} the wall",
    )
    limit = brief.choices.cloth.gather_limit
    least = long.value / limit
    drawn_to = brief.number("draw") or least
    ratio = long.value / drawn_to
    cord = long + brief.length("tails", "cord tail") * 2.0
    brief.note(
        skirt_cut_length=skirt.cut_length,
        skirt_cut_height=skirt.cut_width,
        cord_length=cord,
        cord_drawn_out=long - worked("drawn to a girth of", drawn_to, "cover.options.draw"),
        gather_ratio=worked("ungathered over gathered", ratio, how=f"{long.value:.0f} / {drawn_to:.0f}"),
    )
    findings = list(cover.findings)
    if ratio > limit * (1.0 + 1e-9):
        remedy = Remedy("Draw it in only as far as the cloth gathers", (Change("cover.options.draw", round(least + 0.5)),))
        text = (
            f"Drawing {long.value:.0f} mm of casing in to {drawn_to:.0f} gathers it {ratio:.2f} : 1; this cloth closes to {limit:g} : 1 at "
            f"best, so the cord cannot close below {least:.0f}."
        )
        findings.append(Finding("cord-cannot-close", Severity.LOOK, text, "cover.options.draw", (remedy,)))
    seams = (
        Seam(
            "second skirt to lid",
            (Run("second skirt", "lid edge", reversed=True),),
            (Run("lid", "rim"),),
            ring=True,
            easier="skirt_sew_length",
        ),
        Seam("close the second skirt", (Run("second skirt", "close a"),), (Run("second skirt", "close b", reversed=True),)),
    )
    return replace(
        cover,
        panels=(*cover.panels, skirt),
        seams=(*cover.seams, *seams),
        hardware=(*cover.hardware, Hardware("cord", cord, note=f"{brief.number('cord'):g} mm, in the second skirt")),
        findings=tuple(findings),
    )


SCHEME = Scheme(
    "wall-and-lid", "Wall and lid", "A disc on top and one strip around, closed in a seam.", ("drum",), OPTIONS, draft
)
