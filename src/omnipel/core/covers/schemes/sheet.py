"""Sheet: a hemmed rectangle or outline with fasteners along its sides, or ties.

Corners first: n along a side includes both corners, so all round there are `2(n₁ + n₂) − 4`; spacing even and under a chosen limit.
"""

import math

import numpy as np

from omnipel.core.covers.dressed import decided
from omnipel.core.covers.options import count, length, only_when, pick, yes
from omnipel.core.covers.places import facing
from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.shapes import outline, rectangle
from omnipel.core.forms.abilities import Ability, Spread
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.plane.curves import Trace
from omnipel.core.plane.trace import corners_of, polyline_length
from omnipel.core.space.frames import Side
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Rule, mm, term, tr
from omnipel.core.words.working import worked

OPTIONS = (
    pick(
        "fastener", tr("held by"), ("grommets", "snaps", "ties", "nothing"), tr("Grommets take a cord anywhere and wear longest.")
    ),
    only_when(
        length(
            "spacing",
            tr("no further apart than"),
            Rule(320.0, 12.0),
            tr("A hand's span and a half: wind lifts no edge between."),
            50.0,
            3000.0,
        ),
        fastener=("grommets", "snaps", "ties"),
    ),
    only_when(
        count("along", tr("along the length"), 0, tr("0: as many as the spacing asks for; both corners count."), 0),
        fastener=("grommets", "snaps", "ties"),
        needs=lambda body: body.ring is None,
    ),
    only_when(
        count("across", tr("along the width"), 0, tr("0: as many as the spacing asks for; both corners count."), 0),
        fastener=("grommets", "snaps", "ties"),
        needs=lambda body: body.ring is None,
    ),
    only_when(
        yes("patches", tr("backing patches"), True, tr("A patch under every fastener keeps it from pulling out.")),
        fastener=("grommets", "snaps", "ties"),
    ),
    only_when(
        yes("mitred", tr("mitred corners"), True, tr("A mitre takes the bulk out of the corner.")),
        needs=lambda body: body.ring is None,
    ),
)


CLOSEST = 30.0
"""Fasteners nearer to one another than this touch, mm."""


def draft(body: Spread, brief: Brief) -> Cover:
    """The sheet."""
    return _traced(body, brief) if body.ring is not None else _rectangle(body, brief)


def _rectangle(body: Spread, brief: Brief) -> Cover:
    # Sizes
    long, wide = brief.size("finished_length", body.length), brief.size("finished_width", body.width)
    n_long = brief.count("along") or fasteners(long.value, brief.number("spacing"))
    n_wide = brief.count("across") or fasteners(wide.value, brief.number("spacing"))
    n_long, n_wide = max(2, n_long), max(2, n_wide)
    number = 0 if brief.picked("fastener") == "nothing" else 2 * (n_long + n_wide) - 4

    # Panel
    hem = brief.choices.hem
    inset = max(decided(brief.choices, "edge").finish.folded, 12.0) / 2.0
    places = _places(long.value, wide.value, n_long, n_wide, inset) if number else []
    panel = rectangle(
        "sheet",
        long,
        wide,
        bottom=hem,
        right=hem,
        top=hem,
        left=hem,
        sources=dict.fromkeys(("bottom", "right", "top", "left"), refs.HEM),
        figures=tuple(_cross(f"{brief.picked('fastener').removesuffix('s')} {i}", at) for i, at in enumerate(places, 1)),
        mitred=brief.yes("mitred"),
    )
    brief.note(
        cut_length=panel.cut_length,
        cut_width=panel.cut_width,
        fasteners=worked(
            tr("fasteners"),
            float(number),
            how=tr("{along} along and {across} across, corners shared", along=Count(n_long), across=Count(n_wide))
            if number
            else NOTHING,
        ),
    )
    if number:
        brief.note(spacing_along=long / (n_long - 1), spacing_across=wide / (n_wide - 1))
    found = _close(brief, "along", long.value, n_long) + _close(brief, "across", wide.value, n_wide) if number else ()
    return _spread(brief, panel, number, *found)


def _close(brief: Brief, key: str, side: float, count: int) -> tuple[Finding, ...]:
    """Fasteners so close that they touch."""
    apart = side / (count - 1)
    if apart >= CLOSEST or not brief.count(key):
        return ()
    option = brief.known[key]
    text = tr(
        "{what}: {count} fasteners on a side of {side} stand {apart} apart: they would touch.",
        what=option.words,
        count=Count(count),
        side=mm(side),
        apart=mm(apart),
    )
    fewer = fasteners(side, brief.number("spacing"))
    remedy = Remedy(tr("{what}: {count}", what=option.words, count=Count(fewer)), (Change(refs.option(key), 0.0),))
    return (Finding("hardly-meant", Severity.LOOK, text, refs.option(key), (remedy,)),)


def _traced(body: Spread, brief: Brief) -> Cover:
    ring = body.ring if body.ring is not None else np.empty((0, 2))
    hem = brief.choices.hem
    cuts = corners_of(ring)
    stretches = []
    for k, start in enumerate(cuts or [0]):
        rolled = np.roll(ring, -start, axis=0)
        size = ((cuts[(k + 1) % len(cuts)] - start) % len(ring) if cuts else len(ring)) or len(ring)
        stretches.append(np.vstack((rolled, rolled[:1]))[: size + 1])
    edges = tuple(Edge(f"side {i}", Trace(s.copy()), hem, refs.HEM) for i, s in enumerate(stretches, 1))
    around = sum(polyline_length(s) for s in stretches)
    number = 0 if brief.picked("fastener") == "nothing" else max(3, math.ceil(around / brief.number("spacing")))
    panel = outline("sheet", edges)
    brief.note(
        finished_length=panel.length,
        finished_width=panel.width,
        cut_length=panel.cut_length,
        cut_width=panel.cut_width,
        around=worked(tr("around"), around, how=tr("along the outline")),
        fasteners=worked(tr("fasteners"), float(number)),
    )
    return _spread(brief, panel, number)


def _spread(brief: Brief, sheet: Panel, number: int, *found: Finding) -> Cover:
    """The sheet lying level, its middle over the middle of what is under it."""
    lies = placed(sheet, facing(Side.TOP, (0.0, 0.0, brief.t.value / 2.0), sheet))
    return brief.cover(
        (sheet,),
        (lies,),
        openings={"edge": Run("sheet", sheet.edges[0].name)},
        seams_across=0,
        hardware=_hardware(brief, number),
        findings=found,
    )


def fasteners(side: float, spacing: float) -> int:
    """How many stand along a side, both corners included, none further apart than the spacing.

    >>> fasteners(1830, 320), fasteners(790, 320)
    (7, 4)
    """
    return max(2, math.ceil(side / spacing - 1e-9) + 1)


def _places(x: float, y: float, n_long: int, n_wide: int, inset: float) -> list[tuple[float, float]]:
    """Corners first, then the sides, in the middle of the hem."""
    xs, ys = np.linspace(inset, x - inset, n_long), np.linspace(inset, y - inset, n_wide)
    corners = [(xs[0], ys[0]), (xs[-1], ys[0]), (xs[-1], ys[-1]), (xs[0], ys[-1])]
    sides = [(at, end) for end in (ys[0], ys[-1]) for at in xs[1:-1]] + [(end, at) for end in (xs[0], xs[-1]) for at in ys[1:-1]]
    return [(float(a), float(b)) for a, b in (*corners, *sides)]


def _cross(name: str, at: tuple[float, float]) -> Figure:
    x, y = at
    return Figure(name, np.array([(x - 4, y), (x + 4, y), (x, y), (x, y - 4), (x, y + 4)]), MarkKind.POINT)


def _hardware(brief: Brief, number: int) -> tuple[Hardware, ...]:
    if not number:
        return ()
    kind = brief.picked("fastener")
    side = mm(brief.habit("backing patch"))
    patch = Hardware(tr("backing patches"), count=number, note=tr("{side} by {side}", side=side))
    patches = (patch,) if brief.yes("patches") else ()
    return (Hardware(term(kind), count=number, note=tr("corners first")), *patches)


SCHEME = Scheme(
    "sheet",
    tr("Sheet with fasteners"),
    tr("Hemmed, held at its corners and sides."),
    frozenset({Ability.SPREAD}),
    OPTIONS,
    draft,
    without=frozenset(
        {refs.ANY_CLEARANCE, refs.SEAM_ALLOWANCE, refs.CLOSING_ALLOWANCE, refs.HEM_ORDER, refs.CLOTH_THICKNESS, refs.CLOSURE}
    ),
    edges=("edge",),
)
