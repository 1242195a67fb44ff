"""Domed covers against the sphere: what the general oracles leave out because a dome has as many pieces as it likes."""

import math
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.schemes.gores import MOST, proposed
from omnipel.core.covers.schemes.meridian import Profile, walls
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job
from omnipel.core.job.reading import Reading
from omnipel.core.tolerances import GORE_EXCESS
from omnipel.shop.starter import starter

PI = math.pi


@st.composite
def domed(draw: st.DrawFn, scheme: str) -> tuple[Job, list[float], list[float], float, float]:
    """A domed thing of one to three marks: the job; radii and heights of its marks, rise, and the gap with half the cloth."""
    marks = draw(st.integers(1, 3))
    radii = [draw(st.floats(120.0, 600.0)) for _ in range(marks)]
    heights = [0.0]
    for _ in range(marks - 1):
        heights.append(heights[-1] + draw(st.floats(80.0, 400.0)))
    rise = draw(st.floats(0.15, 1.1)) * radii[-1]
    c, t = draw(st.floats(2.0, 20.0)), draw(st.floats(0.1, 1.5))
    readings = [Reading(place=f"girth.{k}", repeats=(2 * PI * r,)) for k, r in enumerate(radii, 1)]
    readings += [Reading(place=f"height.{k}", repeats=(h,)) for k, h in enumerate(heights, 1) if k > 1]
    readings.append(Reading(place="rise", repeats=(rise,)))
    job = starter("turned", scheme)
    cover = replace(
        job.cover, clearance=replace(job.cover.clearance, amount=c), cloth=replace(job.cover.cloth, thickness=t), padding=0.0
    )
    return replace(job, readings=tuple(readings), cover=cover), radii, heights, rise, c + t / 2


def crown(radii: list[float], heights: list[float], rise: float, u: float) -> tuple[float, float, float, float]:
    """The cover's highest ring, its radius and height, and over it the radius and half the opening angle of its sphere.

    Its sphere lies u outside of the dome's. A side beside a dome of less than half a ball goes up to it; otherwise the sphere comes down to the rim.
    """
    rim, high = radii[-1], heights[-1]
    ball = (rim**2 + rise**2) / (2 * rise)
    middle = high + rise - ball
    ring, at = math.sqrt((ball + u) ** 2 - (high - middle) ** 2), high
    if len(radii) > 1 and rise < rim:
        ring, at = rim + u, middle + math.sqrt((ball + u) ** 2 - (rim + u) ** 2)
        if radii[-2] < rim:
            ring += (rim - radii[-2]) / (high - heights[-2]) * (at - high)
    grown = middle + ball + u - at
    outer = (ring**2 + grown**2) / (2 * grown)
    return ring, at, outer, math.atan2(ring, outer - grown)


def sides(radii: list[float], heights: list[float]) -> list[float]:
    return [math.hypot(b - a, h - g) for (a, g), (b, h) in pairwise(zip(radii, heights, strict=True))]


@tried(40)
@given(domed("bands"), st.integers(1, 5), st.integers(1, 4))
def test_bands_of_a_dome_touch_its_sphere_from_outside(
    case: tuple[Job, list[float], list[float], float, float], n: int, parts: int
) -> None:
    job, radii, heights, rise, u = case
    drafted = draft(replace(job, cover=replace(job.cover, options={"dome_bands": float(n), "panels": float(parts)})))
    assert isinstance(drafted, Drafted)
    ring, at, ball, half = crown(radii, heights, rise, u)
    step = half / n
    tangent = ball * math.tan(step / 2)
    rings = [*(r + u for r in radii[:-1]), ring]
    slants = [*sides(rings, [*heights[:-1], at]), tangent, *[2 * tangent] * (n - 1)]
    tops = [2 * PI * ball / math.cos(step / 2) * math.sin(half - (k - 0.5) * step) for k in range(1, n + 1)]
    around = [*(2 * PI * r for r in rings), *tops]
    sizes = drafted.cover.sizes
    assert [sizes[f"band_{k}_slant"].value for k in range(1, len(slants) + 1)] == pytest.approx(slants, rel=1e-9)
    for k, (low, high) in enumerate(pairwise(around), 1):
        assert sizes[f"band_{k}_lower_arc"].value * parts == pytest.approx(low, rel=1e-9)
        assert sizes[f"band_{k}_upper_arc"].value * parts == pytest.approx(high, rel=1e-9)
    assert sizes["top_sew_radius"].value == pytest.approx(tangent, rel=1e-9)
    assert all(seam.true for seam in drafted.seams)
    low = min(
        math.cos(math.atan2(abs(b - a), h - g))
        for (a, g), (b, h) in pairwise([*zip(radii, heights, strict=True), (radii[-1], 9e9)])
    )
    assert drafted.sewn.nearest is not None
    assert drafted.sewn.nearest.gap > u * low - 0.05


@tried(40)
@given(domed("gores"), st.sampled_from([6, 8, 13]), st.booleans())
def test_gores_run_along_the_sphere_and_a_skirt_below_it(
    case: tuple[Job, list[float], list[float], float, float], n: int, skirt: bool
) -> None:
    job, radii, heights, rise, u = case
    drafted = draft(replace(job, cover=replace(job.cover, options={"gores": float(n), "skirt": skirt})))
    assert isinstance(drafted, Drafted)
    ring, at, ball, half = crown(radii, heights, rise, u)
    skirted = skirt and len(radii) > 1
    rings = [*(r + u for r in radii[:-1]), ring]
    below = sides(rings, [*heights[:-1], at])
    sizes = drafted.cover.sizes
    assert sizes["meridian"].value == pytest.approx(ball * half + (0.0 if skirted else sum(below)), rel=1e-9)
    base = rings[-1 if skirted else 0]
    assert sizes["half_width_at_base"].value == pytest.approx(PI * base / n, rel=1e-9)
    panels = {p.name: p for p in drafted.panels}
    names = ["skirt"] if len(below) == 1 else [f"skirt {k}" for k in range(1, len(below) + 1)]
    assert set(panels) == {"gore", *(names if skirted else [])}
    seams = {trued.seam.name: trued for trued in drafted.seams}
    assert all(trued.true for trued in seams.values())
    if not skirted:
        assert set(seams) == {"gore to gore"}
        return
    joins = {f"skirt {k} to skirt {k - 1}" for k in range(2, len(below) + 1)}
    assert set(seams) == {"gore to gore", "gores to skirt", *(f"close the {name}" for name in names), *joins}
    for k, (name, long) in enumerate(zip(names, below, strict=True)):
        assert panels[name].edge("left").curve.length == pytest.approx(long, rel=1e-9)
        assert panels[name].edge("bottom").curve.length == pytest.approx(2 * PI * rings[k], rel=1e-6)
        assert panels[name].edge("bottom").finish == (job.cover.hem if k == 0 else panels[name].edge("top").finish)
    assert seams["gores to skirt"].length_b == pytest.approx(2 * PI * ring, rel=1e-6)


@tried(40)
@given(domed("gores"))
def test_the_fewest_gores_that_are_enough_are_proposed(case: tuple[Job, list[float], list[float], float, float]) -> None:
    job = case[0]
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    brief = SCHEMES["gores"].brief(job.cover)
    up = Profile.over(drafted.body, brief, walls(drafted.body, brief))  # type: ignore[arg-type]
    n = proposed(up.meridian())
    excess = {m: up.petal_edge(m).value / up.length().value - 1.0 for m in (n - 2, n)}
    assert n % 2 == 0
    assert excess[n] <= GORE_EXCESS or n == MOST
    assert n == 4 or excess[n - 2] > GORE_EXCESS
    assert drafted.cover.sizes["gores"].value == n
    assert "gore-excess" not in {f.code for f in drafted.findings}
