"""Envelope: a front `w × h` and two backs `w × (h + lap)/2`, their lapped edges hemmed; lap 100–150.

On cloth with a repeat all panels start at the same point of it, and the notches fall on stripes.
"""

from omnipel.core.covers.cloths import SOFT
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import FLAT, Brief, Cover, Scheme, beyond, passages
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import checked, outline, rectangle, with_allowances
from omnipel.core.forms.abilities import Ability, Slabby
from omnipel.core.job.findings import Impossible
from omnipel.core.plane.curves import line
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, tr
from omnipel.core.words.working import Worked

OPTIONS = (
    length(
        "lap",
        tr("lap of the backs"),
        Rule(120.0, 5.0),
        tr("{least} to {most}: it stays shut without a fastener.", least=Rule(100.0, 4.0), most=Rule(150.0, 6.0)),
        20.0,
        400.0,
    ),
)


def draft(body: Slabby, brief: Brief) -> Cover:
    """Front and two backs."""
    u = brief.u((body.width + body.thickness) * 2.0)
    lap = brief.length("lap")

    # Sizes
    wide = brief.size("front_finished_width", body.width + body.thickness + u * 2.0, refs.ANY_CLEARANCE)
    high = brief.size("front_finished_height", body.length + body.thickness + u * 2.0, refs.ANY_CLEARANCE)
    back_high = brief.size("back_finished_height", (high + lap) / 2.0)
    if lap.value >= high.value:
        raise Impossible(tr("the lap is longer than the cushion"), refs.option("lap"))

    # Panels
    front, a = _front(brief, wide, high, lap), brief.seam
    back = rectangle(
        "back",
        wide,
        back_high,
        bottom=a,
        right=a,
        top=brief.choices.hem,
        left=a,
        names={"top": "lapped edge"},
        sources={"top": refs.HEM},
        count=2,
    )
    brief.note(front_cut_width=front.cut_length, front_cut_height=front.cut_width, back_cut_height=back.cut_width)

    # Seams
    seams = _seams()
    passes = wide * 2.0 - brief.t * 2.0
    return brief.cover(
        (front, back),
        seams,
        profile=passages((0.0, body.length.value), passes),
        from_below=True,
        roles={"top": "front", "side": "back"},
        seams_across=2,
        turns=FLAT,
        findings=beyond(brief, "lap", high.value / 2.0, tr("the cushion is {high} long", high=mm(high.value))),
    )


def _front(brief: Brief, wide: Worked, high: Worked, lap: Worked) -> Panel:
    """The front, its sides parted where the backs lap."""
    a = brief.seam
    x, y = (
        checked(wide, tr("the width of the front"), refs.panel("front")),
        checked(high, tr("the height of the front"), refs.panel("front")),
    )
    low, top = (y - lap.value) / 2.0, (y + lap.value) / 2.0
    points = [(0.0, 0.0), (x, 0.0), (x, low), (x, top), (x, y), (0.0, y), (0.0, top), (0.0, low)]
    names = ("bottom", "right 1", "right lap", "right 2", "top", "left 2", "left lap", "left 1")
    edges = tuple(Edge(name, line(points[i], points[(i + 1) % 8]), a) for i, name in enumerate(names))
    side = (a, refs.SEAM_ALLOWANCE)
    return outline("front", edges, wide, high, cut=(with_allowances(wide, side, side), with_allowances(high, side, side)))


def _seams() -> tuple[Seam, ...]:
    """The lower back from the bottom up to the far side of the lap, the upper one from the top down to its near side."""
    return (
        Seam("lower back, bottom", (Run("back", "bottom"),), (Run("front", "bottom"),), easier="back_finished_width"),
        Seam("upper back, top", (Run("back", "bottom"),), (Run("front", "top"),)),
        Seam(
            "lower back, right",
            (Run("back", "left", reversed=True),),
            (Run("front", "right 1"), Run("front", "right lap")),
            easier="back_finished_height",
        ),
        Seam(
            "lower back, left",
            (Run("back", "right"),),
            (Run("front", "left 1", reversed=True), Run("front", "left lap", reversed=True)),
            easier="back_finished_height",
        ),
        Seam(
            "upper back, right",
            (Run("back", "right"),),
            (Run("front", "right 2", reversed=True), Run("front", "right lap", reversed=True)),
            easier="back_finished_height",
        ),
        Seam(
            "upper back, left",
            (Run("back", "left", reversed=True),),
            (Run("front", "left 2"), Run("front", "left lap")),
            easier="back_finished_height",
        ),
    )


SCHEME = Scheme(
    "envelope",
    tr("Envelope"),
    tr("A front and two lapped backs."),
    frozenset({Ability.SLAB}),
    OPTIONS,
    draft,
    {"cloth": SOFT},
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.CLOSURE}),
)
