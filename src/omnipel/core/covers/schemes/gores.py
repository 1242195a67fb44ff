"""Turned body in gores: n equal petals, half as wide at meridian length σ as `π r(σ)/n`.

Flat gore edges are longer than the true meridian; the excess is about the mean of ½(π r′/n)². The number of gores is proposed so that it stays under
1 %, and the excess is eased in. Below the dome a skirt may take the place of the gores.
"""

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from omnipel.core.covers.options import count, only_when, yes
from omnipel.core.covers.places import BACK, cones, copies, lid
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Parts, Passage, Scheme, inside
from omnipel.core.covers.schemes.meridian import Meridian, Profile, clear_of, ring_sector, walls
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum, outline
from omnipel.core.forms.abilities import Ability, Turned
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.plane.curves import Trace, line
from omnipel.core.space.drawn import Petal
from omnipel.core.tolerances import GORE_EXCESS
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Share, tr, trn
from omnipel.core.words.working import Worked, through, worked

MOST = 48

OPTIONS = (
    count("gores", tr("number of gores"), 0, tr("0: as many as bring the excess under 1 %."), 0, MOST),
    only_when(
        yes("skirt", tr("skirt below the dome"), False, tr("One band instead of long petals: less seam, one more ring.")),
        needs=lambda body: body.rise is not None and len(body.stations) > 1,
    ),
)


def draft(body: Turned, brief: Brief) -> Cover:
    """Gores, and where there is one the skirt or the flat top."""
    rings = walls(body, brief)
    skirted = brief.yes("skirt") and len(rings) > 1 and body.rise is not None
    start = len(rings) - 1 if skirted else 0
    up = Profile.over(body, brief, rings[start:])
    curve = up.meridian()
    n = brief.count("gores") or proposed(curve)

    # Sizes
    base = rings[start][0]
    half = brief.size("half_width_at_base", base * (math.pi / n))
    along = brief.size("meridian", up.length())
    excess = _noted(brief, up.petal_edge(n), curve, n)

    # Panels, pieces and seams
    gore = _gore(curve, n, half, along, brief, hemmed=not skirted)
    names, parts, clear = copies("gore", n), Parts(), clear_of(body, brief, rings[-1])
    hangs = not skirted
    parts.add(
        gore, *(placed(gore, _petal(curve, half, along, n, k, hangs=hangs), name, clear=clear) for k, name in enumerate(names))
    )
    parts.seams += [
        Seam("gore to gore", (Run(before, "right"),), (Run(after, "left", reversed=True),), kind=SeamKind.FELLED)
        for before, after in pairwise((*names, names[0]))
    ]
    if body.rise is None:
        _add_top(parts, brief.size("top_sew_radius", rings[-1][0]), rings[-1][1].value, names, brief, clear)
    if skirted:
        _add_skirt(parts, rings, brief, names, clear)
    girths = [_girth(half, r, base, n) if k >= start else r * ROUND for k, (r, _) in enumerate(rings)]
    profile = tuple(
        Passage(max(0.0, body.top - height.value), inside(brief, girth, ROUND))
        for girth, (_, height) in reversed(list(zip(girths, rings, strict=True)))
    )
    lowest = Run("skirt" if len(rings) == 2 else "skirt 1", "bottom") if skirted else Run(names[0], "base")
    return brief.cover(
        parts.panels,
        parts.pieces,
        parts.seams,
        openings={"lower edge": lowest},
        profile=profile,
        seams_across=n,
        findings=_excess(excess, n, curve),
    )


def _petal(curve: Meridian, half: Worked, along: Worked, n: int, k: int, *, hangs: bool) -> Petal:
    """Where gore `k` lies; what was set by hand stretches it from where it hangs: from the top, or up from its skirt."""
    wider, longer = half.value / (curve.radius[0] * math.pi / n), along.value / curve.length
    radius, held = curve.radius * wider, float(curve.height[-1] if hangs else curve.height[0])
    towards = BACK + (k + 0.5) * 2.0 * math.pi / n
    height = held + (curve.height - held) * longer
    return Petal(curve.along * longer, radius, height, radius * (math.pi / n), math.pi / n, towards)


def _noted(brief: Brief, edge: Worked, curve: Meridian, n: int) -> float:
    """Note the edge of a gore, by how much it exceeds the curve, and how many there are; the excess as a share."""
    excess = edge.value / curve.length - 1.0
    chosen = brief.count("gores") > 0
    brief.note(
        edge_length=edge,
        excess_percent=worked(tr("excess in percent"), excess * 100.0, how=tr("edge beyond the meridian")),
        gores=worked(tr("gores"), float(n), how=tr("chosen") if chosen else tr("fewest with an excess under 1 %")),
    )
    return excess


def _girth(half: Worked, radius: Worked, base: Worked, n: int) -> Worked:
    """Around all gores where the body's ring has this radius: they are as wide there as at their base, in proportion."""
    return through(
        tr("around the gores"), tr("all gores side by side"), lambda x, r, low: 2.0 * n * x * r / low, half, radius, base
    )


def proposed(curve: Meridian) -> int:
    """The fewest gores, an even number, whose excess stays under the limit."""
    steps_r, steps_s = np.diff(curve.radius), np.diff(curve.along)
    for n in range(4, MOST + 1, 2):
        if np.hypot(steps_r * (math.pi / n), steps_s).sum() / curve.length - 1.0 <= GORE_EXCESS:
            return n
    return MOST


def _gore(curve: Meridian, n: int, half: Worked, along: Worked, brief: Brief, *, hemmed: bool) -> Panel:
    """One petal, standing on its lower edge; a width or a length set by hand stretches it in proportion."""
    wide = curve.radius * (math.pi / n)
    x, y = wide * (half.value / wide[0]), curve.along * (along.value / curve.length)
    pointed = x[-1] < 0.5
    right = np.column_stack((x, y))
    left = right[::-1] * (-1.0, 1.0)
    if pointed:
        right[-1, 0] = left[0, 0] = 0.0
    below = (brief.choices.hem, refs.HEM) if hemmed else (brief.seam, refs.SEAM_ALLOWANCE)
    edges = [
        Edge("base", line((-x[0], 0.0), (x[0], 0.0)), *below),
        Edge("right", Trace(right), brief.closing, refs.CLOSING_ALLOWANCE),
        Edge("left", Trace(left), brief.closing, refs.CLOSING_ALLOWANCE),
    ]
    if not pointed:
        edges.insert(2, Edge("top", line((x[-1], y[-1]), (-x[-1], y[-1])), brief.seam))
    return outline("gore", tuple(edges), None, along, grain=math.pi / 2.0, sizes={"half width at the base": half})


def _add_top(parts: Parts, radius: Worked, height: float, names: Sequence[str], brief: Brief, clear: float) -> None:
    """The disc of a flat top."""
    top = disc("top", radius, brief.seam)
    parts.add(top, placed(top, lid(height), clear=clear))
    tops = tuple(Run(name, "top", reversed=True) for name in names)
    parts.seams.append(Seam("gores to top", tops, (Run("top", "rim"),), ring=True, tolerance=_chord_room(radius, len(names))))


def _add_skirt(parts: Parts, rings: Sequence[tuple[Worked, Worked]], brief: Brief, names: Sequence[str], clear: float) -> None:
    """One band of cloth for each pair of stations below the dome."""
    n = len(names)
    for k, ((low, below), (high, above)) in enumerate(zip(rings, rings[1:], strict=False), 1):
        flat = frustum(low, high, above - below, 1)
        name = "skirt" if len(rings) == 2 else f"skirt {k}"
        band = ring_sector(name, (flat.bottom_arc, flat.top_arc, flat.slant), brief, hemmed=k == 1)
        parts.add(band, placed(band, cones(band, 1, below.value, flat.slant.value)[0], clear=clear))
        closing = Seam(f"close the {name}", (Run(name, "left"),), (Run(name, "right", reversed=True),), kind=SeamKind.FELLED)
        parts.seams.append(closing)
        if k > 1:
            under = f"skirt {k - 1}"
            parts.seams.append(Seam(f"{name} to {under}", (Run(name, "bottom"),), (Run(under, "top", reversed=True),), ring=True))
    last = parts.panels[-1].name
    parts.seams.append(
        Seam(
            "gores to skirt",
            tuple(Run(name, "base") for name in names),
            (Run(last, "top", reversed=True),),
            ring=True,
            kind=SeamKind.FELLED,
            easier="half_width_at_base",
            easier_share=0.5 / n,
        )
    )


def _chord_room(radius: Worked, n: int) -> float:
    """Straight tops of gores are 2πr/n long each: exactly the ring. Rounding only."""
    return max(0.01, 1e-9 * radius.value * n)


def _excess(excess: float, n: int, curve: Meridian) -> tuple[Finding, ...]:
    if excess <= GORE_EXCESS or proposed(curve) <= n:
        return ()
    better = proposed(curve)
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
            refs.option("gores"),
            (Remedy(tr("Use {n} gores", n=Count(better)), (Change(refs.option("gores"), float(better)),)),),
        ),
    )


SCHEME = Scheme(
    "gores", tr("Gores"), tr("Equal petals from the lower edge to the crown."), frozenset({Ability.TURNED}), OPTIONS, draft
)
