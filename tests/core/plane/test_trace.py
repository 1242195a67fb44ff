"""Traced outlines as they come: rough, far away, smoothed until they would cross themselves."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.draft import Drafted, draft
from omnipel.core.job.changes import changed
from omnipel.core.job.findings import Change, Impossible
from omnipel.core.job.thing import Outline
from omnipel.core.plane.trace import MOST_CORNERS, MOST_POINTS, chord, corners_of, drawn, ring_of
from omnipel.core.words import refs
from omnipel.shop.starter import starter


def star(corners: int, rough: float) -> tuple[tuple[float, float], ...]:
    """A disc of 300 whose rim goes in and out."""
    turn = np.linspace(0.0, 2.0 * np.pi, corners, endpoint=False)
    radius = 300.0 + np.where(np.arange(corners) % 2, rough, 0.0)
    return tuple(map(tuple, np.column_stack((radius * np.cos(turn), radius * np.sin(turn))).tolist()))


@pytest.mark.parametrize("corners", [2_000, 20_000])
def test_a_trace_rougher_than_a_pencil_is_refused_and_a_finer_one_is_smoothed_out(corners: int) -> None:
    with pytest.raises(Impossible, match="corners"):
        ring_of(Outline(points=star(corners, 20.0)))
    ring = ring_of(Outline(points=star(corners, 0.3)))
    assert len(ring) <= MOST_POINTS
    assert len(corners_of(ring)) <= MOST_CORNERS
    assert shapely.Polygon(ring).area == pytest.approx(np.pi * 300.15**2, rel=0.01)
    said = draft(changed(starter("traced", "traced-ends"), Change(refs.OUTLINE, Outline(points=star(corners, 0.3)))))
    off = next(dict(f.text.values)["off"].mm for f in said.findings if f.code == "outline-simplified")
    assert (
        shapely.hausdorff_distance(shapely.Polygon(ring), shapely.Polygon(star(corners, 0.3) + np.array([300, 300]))) < off + 0.4
    )


@pytest.mark.parametrize("path", ["M0 0 h1e308 v10 z", "M0 0 L1e300 0 L1e300 1e300 Z", "M0 0 H2e5 V10 Z"])
def test_what_reaches_too_far_is_said(path: str) -> None:
    job = changed(starter("traced", "traced-ends"), Change(refs.OUTLINE, Outline(path=path)))
    found = draft(job).findings[0]
    assert (found.code, found.where) == ("size-impossible", refs.OUTLINE)


@tried(60)
@given(st.lists(st.floats(0.3, 1.0), min_size=4, max_size=30), st.floats(-1.1, 1.1), st.booleans())
def test_across_an_outline_is_from_its_leftmost_to_its_rightmost_place_at_that_height(
    arms: list[float], at: float, corner: bool
) -> None:
    turn = np.linspace(0.0, 2.0 * np.pi, len(arms), endpoint=False)
    ring = np.column_stack((np.cos(turn), np.sin(turn))) * 400.0 * np.array(arms)[:, None]
    y = float(ring[int(abs(at) * 1000) % len(ring), 1]) if corner else 400.0 * at
    met = shapely.Polygon(ring).intersection(shapely.LineString([(-500.0, y), (500.0, y)]))
    left, _, right, _ = met.bounds if not met.is_empty else (0.0, 0.0, 0.0, 0.0)
    assert chord(ring, y) == pytest.approx(right - left, abs=1e-6)


@tried(40)
@given(st.lists(st.tuples(st.floats(0.2, 1.0), st.floats(0.3, 1.0)), min_size=5, max_size=40), st.floats(0.0, 100.0))
def test_smoothing_never_makes_an_outline_cross_itself(arms: list[tuple[float, float]], reach: float) -> None:
    turn = np.cumsum([step for _, step in arms])
    turn *= 2.0 * np.pi / (turn[-1] + 0.3)
    radius = 400.0 * np.array([arm for arm, _ in arms])
    points = tuple(map(tuple, np.column_stack((radius * np.cos(turn), radius * np.sin(turn))).tolist()))
    try:
        ring = ring_of(Outline(points=points, smoothing=reach))
    except Impossible:
        return
    assert shapely.Polygon(ring).is_valid
    said = draft(
        changed(starter("traced", "traced-ends"), Change(refs.OUTLINE, Outline(points=points, smoothing=reach)))
    ).findings
    less = any(f.code == "outline-smoothed-less" for f in said)
    assert less is (drawn(Outline(points=points, smoothing=reach)).smoothed < reach)


@pytest.mark.parametrize("rounding", [10.0, 30.0, 60.0])
def test_rounded_corners_leave_the_feet_as_they_stand(rounding: float) -> None:
    plain = draft(starter("box", "traced-ends"))
    rounded = draft(changed(plain.job, Change(refs.option("rounding"), rounding)))
    assert isinstance(plain, Drafted)
    assert isinstance(rounded, Drafted)
    foot, other = (next(p.edge("bottom").curve.length for p in d.panels if p.name == "end") for d in (plain, rounded))
    assert other == pytest.approx(foot, abs=0.05)
    assert rounded.cover.sizes["gusset_finished_length"].value < plain.cover.sizes["gusset_finished_length"].value
