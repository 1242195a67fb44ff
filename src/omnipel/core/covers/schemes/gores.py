"""Turned body in gores: n equal petals, half as wide at meridian length σ as `π r(σ)/n`.

Flat gore edges are longer than the true meridian; the excess is about the mean of ½(π r′/n)². The number of gores is proposed so that it stays under
1 %, and the excess is eased in. Below the dome a skirt may take the place of the gores.
"""

import math

import numpy as np

from omnipel.core.covers.options import count, yes
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Passage, Scheme, inside
from omnipel.core.covers.schemes.meridian import Meridian, meridian, meridian_length, petal_edge, walls
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum, outline, sector
from omnipel.core.forms.abilities import Ability, Turned
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.plane.curves import Trace, line
from omnipel.core.tolerances import GORE_EXCESS
from omnipel.core.words.phrases import Count, Share, tr, trn
from omnipel.core.words.working import Worked, through, worked

MOST = 48

OPTIONS = (
    count("gores", tr("number of gores"), 0, tr("0: as many as bring the excess under 1 %."), 0, MOST),
    yes("skirt", tr("skirt below the dome"), False, tr("One band instead of long petals: less seam, one more ring.")),
)


def draft(body: Turned, brief: Brief) -> Cover:
    """Gores, and where there is one the skirt or the flat top."""
    rings = walls(body, brief)
    skirted = brief.yes("skirt") and len(rings) > 1 and body.rise is not None
    start = len(rings) - 1 if skirted else 0
    line_ = meridian(body, brief, start)
    n = brief.count("gores") or proposed(line_)

    # Sizes
    base = rings[start][0]
    half = brief.size("half_width_at_base", base * (math.pi / n))
    along = brief.size("meridian", meridian_length(body, brief, start))
    x = line_.radius * (math.pi / n)
    edge = petal_edge(body, brief, n, start)
    excess = edge.value / line_.length - 1.0
    brief.note(
        edge_length=edge,
        excess_percent=worked(tr("excess in percent"), excess * 100.0, how=tr("edge beyond the meridian")),
        gores=worked(tr("gores"), float(n), how=tr("chosen") if brief.count("gores") else tr("fewest with an excess under 1 %")),
    )

    # Panels
    stretch = along.value / line_.length  # 1 unless set by hand
    gore = _gore(x * (half.value / x[0]), line_.along * stretch, n, half, along, brief, hemmed=not skirted)
    panels, seams = (
        [gore],
        [Seam("gore to gore", (Run("gore", "right"),), (Run("gore", "left", reversed=True),), kind=SeamKind.FELLED)],
    )
    if body.rise is None:
        top_radius = brief.size("top_sew_radius", rings[-1][0])
        panels.append(disc("top", top_radius, brief.seam))
        seams.append(
            Seam(
                "gores to top",
                tuple(Run("gore", "top") for _ in range(n)),
                (Run("top", "rim"),),
                ring=True,
                tolerance=_chord_room(top_radius, n),
            )
        )
    if skirted:
        panels, seams = _with_skirt(panels, seams, body, brief, n, half)
    top_depth = body.top
    profile = tuple(
        Passage(max(0.0, top_depth - h.value), inside(brief, _girth(half, r, base, n) if k >= start else r * ROUND, ROUND))
        for k, (r, h) in reversed(list(enumerate(rings)))
    )
    findings = _excess(excess, n, line_)
    return brief.cover(panels, seams, profile=profile, roles={"side": "gore", "top": "top"}, seams_across=n, findings=findings)


def _girth(half: Worked, radius: Worked, base: Worked, n: int) -> Worked:
    """Around all gores where the body's ring has this radius: they are as wide there as at their base, in proportion."""
    return through(
        tr("around the gores"), tr("all gores side by side"), lambda x, r, low: 2.0 * n * x * r / low, half, radius, base
    )


def proposed(line_: Meridian) -> int:
    """The fewest gores, an even number, whose excess stays under the limit."""
    steps_r, steps_s = np.diff(line_.radius), np.diff(line_.along)
    for n in range(4, MOST + 1, 2):
        if np.hypot(steps_r * (math.pi / n), steps_s).sum() / line_.length - 1.0 <= GORE_EXCESS:
            return n
    return MOST


def _gore(x: np.ndarray, y: np.ndarray, n: int, half: Worked, along: Worked, brief: Brief, *, hemmed: bool) -> Panel:
    """One petal, standing on its lower edge."""
    pointed = x[-1] < 0.5
    right = np.column_stack((x, y))
    left = right[::-1] * (-1.0, 1.0)
    if pointed:
        right[-1, 0] = left[0, 0] = 0.0
    edges = [
        Edge("base", line((-x[0], 0.0), (x[0], 0.0)), brief.choices.hem if hemmed else brief.seam),
        Edge("right", Trace(right), brief.closing),
        Edge("left", Trace(left), brief.closing),
    ]
    if not pointed:
        edges.insert(2, Edge("top", line((x[-1], y[-1]), (-x[-1], y[-1])), brief.seam))
    return outline("gore", tuple(edges), None, along, count=n, grain=math.pi / 2.0, sizes={"half width at the base": half})


def _with_skirt(
    panels: list[Panel], seams: list[Seam], body: Turned, brief: Brief, n: int, half: Worked
) -> tuple[list[Panel], list[Seam]]:
    """One band of cloth for each pair of stations below the dome."""
    rings = walls(body, brief)
    for k, ((low, below), (high, above)) in enumerate(zip(rings, rings[1:], strict=False), 1):
        flat = frustum(low, high, above - below, 1)
        name = "skirt" if len(rings) == 2 else f"skirt {k}"
        lower = brief.choices.hem if k == 1 else brief.seam
        band = sector(name, flat.bottom_arc, flat.top_arc, flat.slant, inside=lower, outside=brief.seam, sides=brief.closing)
        panels.append(band)
        seams.append(Seam(f"close the {name}", (Run(name, "left"),), (Run(name, "right", reversed=True),), kind=SeamKind.FELLED))
        if k > 1:
            under = "skirt" if len(rings) == 2 else f"skirt {k - 1}"
            seams.append(Seam(f"{name} to {under}", (Run(name, "bottom"),), (Run(under, "top", reversed=True),), ring=True))
    last = panels[-1].name
    seams.append(
        Seam(
            "gores to skirt",
            tuple(Run("gore", "base") for _ in range(n)),
            (Run(last, "top", reversed=True),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="half_width_at_base",
            easier_share=0.5 / n,
        )
    )
    return panels, seams


def _chord_room(radius: Worked, n: int) -> float:
    """Straight tops of gores are 2πr/n long each: exactly the ring. Rounding only."""
    return max(0.01, 1e-9 * radius.value * n)


def _excess(excess: float, n: int, line_: Meridian) -> tuple[Finding, ...]:
    if excess <= GORE_EXCESS or proposed(line_) <= n:
        return ()
    better = proposed(line_)
    text = trn(
        "With {n} gore its flat edges are {excess} longer than the curve they follow. {better} bring it under {limit}.",
        "With {n} gores their flat edges are {excess} longer than the curve they follow. {better} bring it under {limit}.",
        n,
        excess=Share(excess, 1),
        better=Count(better),
        limit=Share(GORE_EXCESS),
    )
    return (
        Finding(
            "gore-excess",
            Severity.LOOK,
            text,
            "cover.options.gores",
            (Remedy(tr("Use {n} gores", n=Count(better)), (Change("cover.options.gores", float(better)),)),),
        ),
    )


SCHEME = Scheme(
    "gores", tr("Gores"), tr("Equal petals from the lower edge to the crown."), frozenset({Ability.TURNED}), OPTIONS, draft
)
