"""Saddle and ends: one strip front–top–back, and two ends.

Saddle `2h + w − (4 − π)ρ` for end corners of radius ρ (0 = square), as wide as the box is long; ends `w × h`. The saddle may run the other way: over the sides.
"""

import math

from omnipel.core.covers.boxy import boxy
from omnipel.core.covers.options import length, pick
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Scheme, inside, passages
from omnipel.core.covers.schemes.between_ends import (
    OVER_FRONT_AND_BACK,
    OVER_THE_SIDES,
    corners_cut_in,
    lower_edge,
    stand,
    strip,
    to_ends,
)
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.shapes import checked, outline
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.job.findings import Change, Finding, Impossible, Remedy, Severity
from omnipel.core.plane.curves import arc_about, line
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, tr
from omnipel.core.words.working import Worked, worked

WORTH_ROUNDING = 8.0
"""A measured rounding under this is within what a tape over the top can tell, mm."""
FRONT_AND_BACK, SIDES = "over front and back", "over the sides"

OPTIONS = (
    pick("runs", tr("the saddle runs"), (FRONT_AND_BACK, SIDES), tr("Over front and back, no seam faces the person.")),
    length(
        "rounding",
        tr("radius of the ends' top corners"),
        why=tr("0: square corners, easier to mark; rounded ones are easier to sew."),
        high=2000.0,
    ),
)


def draft(body: Boxy, brief: Brief) -> Cover:
    """Saddle and two ends."""
    box = boxy(brief, body)
    over = brief.picked("runs") == FRONT_AND_BACK
    long, wide = (box.l, box.w) if over else (box.w, box.l)
    bare = body.width if over else body.length
    rounded = body.rounding.value if over and body.rounding is not None else 0.0  # it is measured over front and back

    # Sizes
    end_wide = brief.size("end_finished_width", wide)
    end_high = brief.size("end_finished_height", box.h)
    rho = brief.number("rounding")
    rounding = worked(tr("rounded corners"), rho, refs.option("rounding")) * (4.0 - math.pi)
    over_all = box.h * 2.0 + wide
    saddle_long = brief.size("saddle_finished_length", over_all - rounding if rho else over_all)
    saddle_wide = brief.size("saddle_finished_width", long)

    # Panels
    end, saddle = _end(brief, end_wide, end_high, rho), strip(brief, "saddle", saddle_long, saddle_wide)
    brief.note(
        end_cut_width=end.cut_length,
        end_cut_height=end.cut_width,
        saddle_cut_length=saddle.cut_length,
        saddle_cut_width=saddle.cut_width,
    )

    # Pieces and seams
    ways = OVER_FRONT_AND_BACK if over else OVER_THE_SIDES
    low = box.top - end_high.value
    wider = end_wide.value - bare.value
    clear = min(box.u.value, brief.t.value / 2.0 - _cuts_in(body, brief, wider, end_high.value, rho, rounded))
    pieces = stand(saddle, end, low, ways=ways, clear=clear)
    seams = to_ends(saddle, end, ways=ways)
    passes = inside(brief, (saddle_wide + end_wide) * 2.0, CORNERED)
    spans = [saddle_wide - brief.t, end_wide - brief.t]
    return brief.cover(
        (saddle, end),
        pieces,
        seams,
        openings=lower_edge(saddle),
        profile=passages((0.0, body.drop.value), passes, *(spans if over else reversed(spans))),
        seams_across=4,
        turns=CORNERED,
        findings=corners_cut_in(brief, lambda radius: _cuts_in(body, brief, wider, end_high.value, radius, rounded))
        or _rounding(rounded, rho, brief.choices.habits.system.step),
    )


def _cuts_in(body: Boxy, brief: Brief, wider: float, high: float, radius: float, rounded: float) -> float:
    """By how much ends `wider` than the object and `high`, their corners rounded, cut into its own `rounded` ones, mm; negative when they clear them."""
    more = radius - rounded
    aside, above = more - wider / 2.0, more - (high - body.drop.value)
    # Towards θ the ends reach less far than the object by aside · cos θ + above · sin θ − more: most between them, or straight aside or up.
    most = math.hypot(aside, above) if min(aside, above) > 0.0 else max(aside, above)
    return most - more + brief.t.value / 2.0


def _end(brief: Brief, wide: Worked, high: Worked, rho: float) -> Panel:
    """One end, its two upper corners rounded by `rho`."""
    if rho > min(high.value, wide.value / 2.0) + 1e-9:
        raise Impossible(
            tr(
                "corners of radius {radius} do not fit an end of {width} by {height}",
                radius=mm(rho),
                width=mm(wide.value),
                height=mm(high.value),
            ),
            refs.option("rounding"),
        )
    a, hem = brief.seam, brief.choices.hem
    x, y = (
        checked(wide, tr("the width of the end"), refs.panel("end")),
        checked(high, tr("the height of the end"), refs.panel("end")),
    )
    r = min(rho, x / 2.0, y)
    stops = [("bottom", line((0.0, 0.0), (x, 0.0)), hem), ("right side", line((x, 0.0), (x, y - r)), a)]
    if r:
        stops.append(("right corner", arc_about((x - r, y - r), r, 0.0, math.pi / 2.0), a))
    stops.append(("top", line((x - r, y), (r, y)), a))
    if r:
        stops.append(("left corner", arc_about((r, y - r), r, math.pi / 2.0, math.pi / 2.0), a))
    stops.append(("left side", line((0.0, y - r), (0.0, 0.0)), a))
    edges = tuple(
        Edge(name, curve, finish, refs.HEM if name == "bottom" else refs.SEAM_ALLOWANCE)
        for name, curve, finish in stops
        if curve.length > 1e-9
    )
    return outline("end", edges, wide, high)


def _rounding(measured: float, rho: float, step: float) -> tuple[Finding, ...]:
    """What the over-the-top path says about the corners; a remedy is round to a `step`, mm."""
    if measured < WORTH_ROUNDING or abs(measured - rho) < WORTH_ROUNDING:
        return ()
    text = (
        tr(
            "Over the top is shorter than up, over and down: its edges are rounded by about {measured}. The ends are drafted with {radius}.",
            measured=mm(measured),
            radius=mm(rho),
        )
        if rho
        else tr(
            "Over the top is shorter than up, over and down: its edges are rounded by about {measured}. The ends are drafted square.",
            measured=mm(measured),
        )
    )
    to = step * round(measured / step)
    remedy = Remedy(tr("Round the ends by {radius}", radius=mm(to)), (Change(refs.option("rounding"), to),))
    return (Finding("rounding-measured", Severity.NOTE, text, refs.option("rounding"), (remedy,)),)


SCHEME = Scheme(
    "saddle-and-ends",
    tr("Saddle and ends"),
    tr("One strip over the top and two ends."),
    frozenset({Ability.BOXY}),
    OPTIONS,
    draft,
    without=frozenset({refs.CLOSING_ALLOWANCE}),
    level=True,
    trimmed=("saddle",),
)
