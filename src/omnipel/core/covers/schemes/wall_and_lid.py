"""Wall and lid, for round bodies; with a second skirt ("choker") if wanted.

`r = G/2π + u`. Lid: a disc of radius r. Wall: 2πr long and h = drop + u high, because the lid lies u above the object. The lid's
sew line and the wall's are the same number by construction. The second skirt hangs at the lid seam: as long as the wall,
a share of the drop high, with a cord casing at its free edge.
"""

import math

from omnipel.core.covers import places
from omnipel.core.covers.options import ZERO, length, only_when, pick, share, yes
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Hardware, Scheme, inside, meeting_notes, passages
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, rectangle
from omnipel.core.forms.abilities import Ability, Round
from omnipel.core.forms.body import widest
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import Finish, FinishKind, cord_fold
from omnipel.core.plane.curves import line
from omnipel.core.space.paths import Path
from omnipel.core.space.placements import Around
from omnipel.core.words import refs
from omnipel.core.words.phrases import Ratio, Rule, mm, tr
from omnipel.core.words.working import Worked, worked

OPTIONS = (
    yes(
        "skirt",
        tr("second skirt"),
        False,
        tr("A second skirt with a cord keeps dust out from below; most drums stand well without."),
    ),
    only_when(
        share(
            "skirt_share",
            tr("second skirt covers"),
            0.5,
            tr("A share of the wall: half of it reaches under the widest hoop."),
            0.1,
            1.0,
        ),
        skirt=(True,),
    ),
    only_when(
        pick(
            "skirt_hangs", tr("the second skirt hangs"), ("inside", "outside"), tr("Inside, the wall sheds rain over its cord.")
        ),
        skirt=(True,),
    ),
    only_when(
        length(
            "cord",
            tr("cord diameter"),
            Rule(5.0, 3 / 16),
            tr("{cord} runs easily and does not cut the fingers.", cord=Rule(5.0, 3 / 16)),
            1.0,
            30.0,
        ),
        skirt=(True,),
    ),
    only_when(
        length(
            "casing",
            tr("casing fold"),
            Rule(20.0, 3 / 4),
            tr("Wider than the least fold, so that a toggle can be hidden in it."),
            4.0,
            100.0,
        ),
        skirt=(True,),
    ),
    only_when(length("casing_turn_under", tr("casing turn-under"), Rule(12.0, 1 / 2), high=60.0), skirt=(True,)),
    only_when(length("draw", tr("cord closes to a girth of"), ZERO, tr("0: as far as the cloth gathers.")), skirt=(True,)),
    only_when(
        length("tails", tr("each cord tail"), Rule(50.0, 2.0), tr("Enough to tie a bow with cold hands."), high=1000.0),
        skirt=(True,),
    ),
)


STEPS_IN = 8.0
"""Hung inside, the second skirt comes clear of the wall over so many thicknesses of it."""


def draft(body: Round, brief: Brief) -> Cover:
    """Lid, wall and second skirt."""
    choices = brief.choices
    passed = widest(body.sections, body.drop.value).girth
    u = brief.u(passed)

    # Sizes
    radius = brief.size("lid_sew_radius", passed / (2.0 * math.pi) + u, refs.ANY_CLEARANCE)
    ring = brief.size("wall_sew_length", (passed / (2.0 * math.pi) + u) * (2.0 * math.pi), refs.ANY_CLEARANCE)
    height = brief.size("wall_finished_height", body.drop + u, refs.ANY_CLEARANCE)

    # Panels
    lid = disc("lid", radius, brief.seam)
    wall = rectangle(
        "wall",
        ring,
        height,
        bottom=choices.hem,
        right=brief.meeting,
        top=brief.seam,
        left=brief.closing,
        names={"top": "lid edge", "bottom": "lower edge", "left": "close a", "right": "close b"},
        sources={"bottom": refs.HEM, "left": refs.CLOSING_ALLOWANCE, "right": refs.CLOSING_ALLOWANCE},
        notes=meeting_notes(brief),
    )
    brief.note(lid_cut_radius=lid.sizes["cut radius"], wall_cut_length=wall.cut_length, wall_cut_height=wall.cut_width)

    # Pieces
    top = body.ends + body.drop.value + u.value
    pieces = (
        placed(lid, places.lid(top), clear=u.value),
        placed(wall, places.around(ring.value, top - height.value, top), clear=u.value),
    )

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
    profile = passages((0.0, body.drop.value), inside(brief, ring, ROUND))
    openings = {"lower edge": Run("wall", "lower edge")}
    cover = brief.cover((lid, wall), pieces, seams, openings=openings, profile=profile, seams_across=1)
    return _with_skirt(cover, body, brief, ring, top) if brief.yes("skirt") else cover


def _with_skirt(cover: Cover, body: Round, brief: Brief, ring: Worked, top: float) -> Cover:
    """The second skirt, its cord and how far that can be drawn."""
    height = brief.size(
        "skirt_finished_height", cover.sizes["wall_finished_height"] * brief.number("skirt_share"), refs.option("skirt_share")
    )
    long = brief.size("skirt_sew_length", ring)
    skirt = _skirt(brief, long, height)
    limit = brief.gather_limit
    least = long.value / limit
    drawn_to = brief.number("draw") or least
    ratio = long.value / drawn_to
    cord = long + brief.length("tails") * 2.0
    brief.note(
        skirt_cut_length=skirt.cut_length,
        skirt_cut_height=skirt.cut_width,
        cord_length=cord,
        cord_drawn_out=long - worked(tr("drawn to a girth of"), drawn_to, refs.option("draw")),
        gather_ratio=worked(
            tr("ungathered over gathered"), ratio, how=tr("{loose} to {drawn}", loose=mm(long.value), drawn=mm(drawn_to))
        ),
    )
    seams = (
        Seam(
            "second skirt to lid",
            (Run("second skirt", "lid edge", reversed=True),),
            (Run("lid", "rim"),),
            ring=True,
            easier="skirt_sew_length",
            onto=True,
        ),
        Seam("close the second skirt", (Run("second skirt", "close a"),), (Run("second skirt", "close b", reversed=True),)),
    )
    return brief.completed(
        cover,
        panels=(*cover.panels, skirt),
        pieces=(
            *cover.pieces,
            placed(
                skirt,
                _drawn_in(body, brief, long.value, height.value, drawn_to, top),
                behind=brief.picked("skirt_hangs") == "inside",
            ),
        ),
        openings={**cover.openings, "lower edge of the second skirt": Run("second skirt", "casing edge")},
        seams=(*cover.seams, *seams),
        hardware=(
            *cover.hardware,
            Hardware(
                tr("cord"),
                cord,
                note=tr("{cord} thick, in the second skirt", cord=mm(brief.number("cord"), fine=True)),
                size=brief.number("cord"),
            ),
        ),
        findings=(*cover.findings, *_cannot_close(brief, long, drawn_to, limit), *_narrow(brief)),
    )


def _drawn_in(body: Round, brief: Brief, long: float, high: float, drawn_to: float, top: float) -> Around:
    """Where the skirt lies: down with the wall as far as its cord lets it, then in to the girth that the cord closes to, or to the object."""
    radius = long / (2.0 * math.pi)
    bare = body.girth.value / (2.0 * math.pi) + brief.t.value / 2.0
    least = drawn_to / (2.0 * math.pi)
    if top - high > body.ends and least < bare:  # beside the object the cord lies on it
        least = bare
    t, inside_it = brief.t.value, brief.picked("skirt_hangs") == "inside"
    lead = min(STEPS_IN * t, high / 2.0) if inside_it else 0.0
    inner, begins = radius - (t if lead else 0.0), top - math.sqrt(max(0.0, lead * lead - t * t))
    down = places.drawn_in(inner, min(least, inner), high - lead, begins)
    return places.gathered_around(long, Path((*down.curves, line((inner, begins), (radius, top)))) if lead else down)


def _skirt(brief: Brief, long: Worked, height: Worked) -> Panel:
    """The second skirt, with its casing."""
    casing = Finish(kind=FinishKind.CORD_CASING, width=brief.number("casing"), turn_under=brief.number("casing_turn_under"))
    return rectangle(
        "second skirt",
        long,
        height,
        bottom=casing,
        right=brief.meeting,
        top=brief.seam,
        left=brief.closing,
        names={"top": "lid edge", "bottom": "casing edge", "left": "close a", "right": "close b"},
        sources={"bottom": refs.option("casing"), "left": refs.CLOSING_ALLOWANCE, "right": refs.CLOSING_ALLOWANCE},
        notes=(
            tr("hangs inside the wall") if brief.picked("skirt_hangs") == "inside" else tr("hangs outside the wall"),
            *meeting_notes(brief),
        ),
    )


def _cannot_close(brief: Brief, long: Worked, drawn_to: float, limit: float) -> tuple[Finding, ...]:
    """A cord that is to be drawn further than the cloth gathers."""
    ratio, least = long.value / drawn_to, long.value / limit
    if drawn_to >= long.value:
        text = tr("A cord that closes to {drawn} does not draw in a skirt of {loose}.", drawn=mm(drawn_to), loose=mm(long.value))
        closed = (Change(refs.option("draw"), brief.choices.habits.system.up(least)),)
        remedy = Remedy(tr("Draw it in as far as the cloth gathers"), closed)
        return (Finding("cord-does-nothing", Severity.LOOK, text, refs.option("draw"), (remedy,)),)
    if ratio <= limit * (1.0 + 1e-9):
        return ()
    far = (Change(refs.option("draw"), brief.choices.habits.system.up(least)),)
    remedy = Remedy(tr("Draw it in only as far as the cloth gathers"), far)
    text = tr(
        "Drawing {loose} of casing in to {drawn} gathers it {ratio}; this cloth closes to {limit} at best, so the cord cannot close below {least}.",
        loose=mm(long.value),
        drawn=mm(drawn_to),
        ratio=Ratio(ratio),
        limit=Ratio(limit),
        least=mm(least),
    )
    return (Finding("cord-cannot-close", Severity.LOOK, text, refs.option("draw"), (remedy,)),)


def _narrow(brief: Brief) -> tuple[Finding, ...]:
    """A casing that is narrower than its cord needs."""
    cord, casing = brief.number("cord"), brief.number("casing")
    least = cord_fold(cord, brief.choices.habits.system.step)
    if casing >= cord_fold(cord, 0.01) - 0.01:
        return ()
    text = tr(
        "The casing of {casing} is too narrow for a cord of {cord}: it needs {least}.",
        casing=mm(casing),
        cord=mm(cord, fine=True),
        least=mm(least),
    )
    remedy = Remedy(tr("Casing {width}", width=mm(least)), (Change(refs.option("casing"), least),))
    return (Finding("casing-too-narrow", Severity.LOOK, text, refs.option("casing"), (remedy,)),)


SCHEME = Scheme(
    "wall-and-lid",
    tr("Wall and lid"),
    tr("A disc on top and one strip around, closed in a seam."),
    frozenset({Ability.ROUND}),
    OPTIONS,
    draft,
    rings=True,
)
