"""Arcs that stay sound down to curvature 0, and traces."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.plane.curves import Arc, Trace, arc_about, line
from omnipel.core.plane.smoothing import smooth
from omnipel.core.plane.trace import corners_of, smoothed

arcs = st.builds(
    Arc,
    st.tuples(st.floats(-500, 500), st.floats(-500, 500)),
    st.floats(-3.0, 3.0),
    st.floats(-0.02, 0.02),
    st.floats(1.0, 250.0),
)


@given(arcs)
def test_reversed_runs_the_same_way_back(arc: Arc) -> None:
    back = arc.reversed()
    for fraction in (0.0, 0.3, 1.0):
        assert back.at(fraction) == pytest.approx(arc.at(1.0 - fraction), abs=1e-6)


@given(arcs, st.floats(-30.0, 30.0))
def test_offset_keeps_its_distance(arc: Arc, distance: float) -> None:
    moved = arc.offset(distance)
    for fraction in (0.0, 0.5, 1.0):
        assert math.dist(arc.at(fraction), moved.at(fraction)) == pytest.approx(abs(distance), abs=1e-6)


@given(arcs, st.floats(0.005, 0.5))
def test_flattening_stays_within_the_chord_error(arc: Arc, error: float) -> None:
    points = arc.points(error)
    walked = np.hypot(*np.diff(points, axis=0).T).sum()
    assert walked <= arc.length + 1e-6
    middles = (points[:-1] + points[1:]) / 2.0
    count = len(points) - 1
    for i in range(0, count, max(1, count // 7)):
        assert math.dist(middles[i], arc.at((i + 0.5) / count)) <= error * 1.001 + 1e-9


def test_an_arc_of_no_curvature_is_a_line() -> None:
    almost = Arc((0.0, 0.0), 0.3, 1e-12, 1000.0)
    straight = line((0.0, 0.0), (1000.0 * math.cos(0.3), 1000.0 * math.sin(0.3)))
    assert almost.end == pytest.approx(straight.end, abs=1e-6)


def test_a_parallel_that_would_turn_inside_out_is_refused() -> None:
    with pytest.raises(ValueError, match="no parallel"):
        arc_about((0.0, 0.0), 10.0, 0.0, -math.pi).offset(10.5)


@pytest.mark.parametrize("start", [0, 7])
def test_smoothing_keeps_corners_and_stays_near(start: int) -> None:
    """A half disc traced with a shaky hand: its two corners stay where they are, its curve loses the shake."""
    dice = np.random.default_rng(3)
    angles = np.linspace(0.0, math.pi, 60)
    curve = 200.0 * np.column_stack((np.cos(angles), np.sin(angles)))
    shaky = curve + np.where(np.isin(np.arange(60), (0, 59))[:, None], 0.0, dice.normal(0.0, 0.4, (60, 2)))
    flat = np.column_stack((np.linspace(-190.0, 190.0, 39), np.zeros(39)))
    ring = np.roll(np.vstack((shaky, flat)), start, axis=0)
    corners = {(round(x), round(y)) for x, y in ring[corners_of(ring)]}
    assert corners == {(200, 0), (-200, 0)}
    found = smoothed(ring, 0.6)
    assert {(round(x), round(y)) for x, y in found[corners_of(found)]} == corners
    away = np.abs(np.hypot(found[:, 0], found[:, 1]) - 200.0)[found[:, 1] > 1.0]
    assert away.max() < 1.5
    assert away.std() < 0.3  # the shake was 0.4
    walked = np.hypot(*np.diff(np.vstack((found, found[:1])), axis=0).T).sum()
    assert walked == pytest.approx(200.0 * (math.pi + 2.0), rel=3e-3)


def test_a_ring_without_corners_is_smoothed_all_round() -> None:
    dice = np.random.default_rng(4)
    angles = np.linspace(0.0, 2.0 * math.pi, 90, endpoint=False)
    ring = 150.0 * np.column_stack((np.cos(angles), np.sin(angles))) + dice.normal(0.0, 0.4, (90, 2))
    found = smoothed(ring, 0.5)
    assert corners_of(found) == []
    assert np.abs(np.hypot(found[:, 0], found[:, 1]) - 150.0).max() < 1.5


def test_a_trace_is_walked_by_length() -> None:
    trace = Trace(np.array([(0.0, 0.0), (10.0, 0.0), (10.0, 30.0)]))
    assert trace.length == 40.0
    assert trace.at(0.5) == pytest.approx((10.0, 10.0))
    assert trace.heading_at(0.75) == pytest.approx(math.pi / 2)


@tried(60)
@given(st.integers(0, 10**6), st.floats(0.2, 4.0), st.booleans())
def test_a_smoothed_line_is_as_near_as_asked_nearer_to_what_was_drawn_and_turns_with_it(
    seed: int, shake: float, closed: bool
) -> None:
    dice = np.random.default_rng(seed)
    turns = np.linspace(0.0, 2.0 * math.pi if closed else 2.0, int(dice.integers(120, 300)))
    meant = np.column_stack((400.0 * np.cos(turns), 250.0 * np.sin(turns) + 20.0 * np.sin(3.0 * turns)))
    off = dice.normal(0.0, shake, meant.shape)
    off[-1] = off[0] = 0.0
    line, reach = meant + off, 0.8 * math.sqrt(float((off**2).sum(axis=1).mean()))
    found = smooth(line, reach, closed=closed)
    away = shapely.distance(shapely.LineString(found), shapely.points(line))
    assert math.sqrt(float((away**2).mean())) < reach  # as the crow flies is never further than along the line
    assert found[0] == pytest.approx(found[-1] if closed else line[0], abs=1e-9)
    true = shapely.LineString(meant)
    assert shapely.distance(true, shapely.points(found)).mean() < 0.9 * shapely.distance(true, shapely.points(line)).mean()
    assert shapely.LineString(found).length < shapely.LineString(line).length
    turn = np.array(((0.6, -0.8), (0.8, 0.6)))
    assert smooth(line @ turn + 1000.0, reach, closed=closed) == pytest.approx(found @ turn + 1000.0, abs=1e-3)
    stiff = smooth(line, 1e6, closed=closed)  # what is left is simple, never nothing
    assert np.ptp(stiff, axis=0) == pytest.approx(np.ptp(meant, axis=0), rel=0.2)
