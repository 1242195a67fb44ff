"""Envelope: a front `w × h` and two backs `w × (h + lap)/2`, their lapped edges hemmed; lap 100–150.

On cloth with a repeat all panels start at the same point of it, and the notches fall on stripes.
"""

from omnipel.core.covers.cloths import SOFT
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import FLAT, Brief, Cover, Scheme, beyond, passages
from omnipel.core.covers.tube import Tube
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import checked, outline
from omnipel.core.forms.abilities import Ability, Slabby
from omnipel.core.job.findings import Impossible
from omnipel.core.plane.curves import line
from omnipel.core.space.placements import Laid
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
    front = _front(brief, wide, high, lap)
    back = _back(brief, wide, back_high, lap)
    brief.note(front_cut_width=front.cut_length, front_cut_height=front.cut_width, back_cut_height=back.cut_width)

    # Pieces: a tube along the cushion, closed flat at both ends; s comes to its upper side first
    thick = body.thickness.value + brief.t.value
    fold, top = thick / 2.0, high.value
    tube = Tube(
        wide.value - thick,
        thick,
        fold,
        top - fold,
        closed_below=True,
        closed_above=True,
        origin=(fold - top / 2.0, 0.0, body.thickness.value / 2.0),
        across=(0.0, -1.0, 0.0),
        up=(1.0, 0.0, 0.0),
    )
    place, p = tube.place(), tube.around
    clear = min(brief.t.value / 2.0, (tube.wide - body.width.value) / 2.0, (high.value - thick - body.length.value) / 2.0)
    pieces = (
        placed(front, place, clear=clear),
        placed(back, Laid(place, (p / 2.0, 0.0)), "lower back", clear=clear),
        placed(back, Laid(place, (p, top), (-1.0, 0.0)), "upper back", clear=clear),
    )

    # Seams
    seams = _seams()
    passes = wide * 2.0 - brief.t * 2.0
    return brief.cover(
        (front, back),
        pieces,
        seams,
        openings={"mouth": Run("lower back", "lapped edge")},
        profile=passages((0.0, body.length.value), passes),
        from_below=True,
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
    return outline("front", edges, wide, high)


def _back(brief: Brief, wide: Worked, high: Worked, lap: Worked) -> Panel:
    """One back, its sides parted where it laps over the other."""
    a, hem = brief.seam, brief.choices.hem
    x, y = (
        checked(wide, tr("the width of the back"), refs.panel("back")),
        checked(high, tr("the height of the back"), refs.panel("back")),
    )
    points = [(0.0, 0.0), (x, 0.0), (x, y - lap.value), (x, y), (0.0, y), (0.0, y - lap.value)]
    names = ("bottom", "right", "right lap", "lapped edge", "left lap", "left")
    finishes = {"lapped edge": (hem, refs.HEM)}
    edges = tuple(
        Edge(name, line(points[i], points[(i + 1) % 6]), *finishes.get(name, (a, refs.SEAM_ALLOWANCE)))
        for i, name in enumerate(names)
    )
    return outline("back", edges, wide, high)


def _seams() -> tuple[Seam, ...]:
    """The lower back from the bottom up to the far side of the lap, the upper one from the top down to its near side, over the lower."""

    def run(piece: str, *edges: str, turned: bool = False) -> tuple[Run, ...]:
        return tuple(Run(piece, edge, reversed=turned) for edge in edges)

    return (
        Seam(
            "lower back, bottom", run("lower back", "bottom"), run("front", "bottom", turned=True), easier="back_finished_width"
        ),
        Seam("upper back, top", run("upper back", "bottom"), run("front", "top", turned=True), easier="back_finished_width"),
        Seam(
            "lower back, right",
            run("lower back", "left", "left lap", turned=True),
            run("front", "right 1", "right lap"),
            easier="back_finished_height",
        ),
        Seam(
            "lower back, left",
            run("lower back", "right", "right lap"),
            run("front", "left 1", "left lap", turned=True),
            easier="back_finished_height",
        ),
        Seam("upper back, right", run("upper back", "right"), run("front", "right 2", turned=True)),
        Seam("upper back, left", run("upper back", "left"), run("front", "left 2", turned=True)),
        Seam("upper back, right lap", run("upper back", "right lap"), run("front", "right lap", turned=True), onto=True),
        Seam("upper back, left lap", run("upper back", "left lap"), run("front", "left lap", turned=True), onto=True),
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
    edges=("mouth",),
)
