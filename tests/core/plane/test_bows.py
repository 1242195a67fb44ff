"""Arcs found in lines of points: what was an arc is one, to the last digit, wherever it was moved; what was none is none."""

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.plane.bows import along, bows, bulge, circle
from omnipel.core.plane.curves import Points, arc_about, line

near = st.floats(-3000.0, 3000.0)


@given(near, near, st.floats(2.0, 5000.0), st.floats(-math.pi, math.pi), st.floats(0.05, math.pi), st.booleans())
@tried(600)
def test_an_arc_between_two_lines_is_found_with_its_turn(
    x: float, y: float, radius: float, start: float, sweep: float, left: bool
) -> None:
    arc = arc_about((x, y), radius, start, sweep if left else -sweep)
    ends = [np.array(arc.at(at)) - way * 40.0 * np.array((math.cos(h), math.sin(h))) for at, way, h in (
        (0.0, 1.0, arc.heading_at(0.0)), (1.0, -1.0, arc.heading_at(1.0)))]  # fmt: skip
    points = np.concatenate((line(tuple(ends[0]), arc.start).points(), arc.points()[1:], ends[1][None]))
    found = bows(points)
    assert sum(bow.sweep for bow in found) == pytest.approx(sweep if left else -sweep, abs=1e-6)
    assert found[0].first == 1
    assert found[-1].last == len(points) - 2
    assert all(a.last == b.first for a, b in pairwise(found))
    for bow in found:
        centre, r = circle(points[bow.first], points[(bow.first + bow.last) // 2], points[bow.last]) or (np.zeros(2), 0.0)
        assert r == pytest.approx(radius, rel=1e-5)
        assert centre == pytest.approx((x, y), abs=1e-4 * radius)


@given(st.floats(1.0, 4000.0), st.integers(0, 200), st.floats(-3.0, 3.0), near, near)
@tried(200)
def test_a_circle_is_whole_wherever_its_ring_begins_and_however_it_lies(
    radius: float, first: int, turn: float, x: float, y: float
) -> None:
    ring = np.roll(arc_about((0.0, 0.0), radius, 0.0, 2.0 * math.pi).points()[:-1], first, axis=0)
    ring = ring @ np.array(((math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn)))) + (x, y)
    found = bows(ring, closed=True)
    assert math.fsum(bow.sweep for bow in found) == pytest.approx(2.0 * math.pi, abs=1e-6)
    assert all(bow.sweep <= math.radians(140.0) for bow in found)
    mirrored = bows((ring * (1.0, -1.0))[::-1], closed=True)
    assert math.fsum(bow.sweep for bow in mirrored) == pytest.approx(2.0 * math.pi, abs=1e-6)


def regular(n: int, radius: float) -> Points:
    angles = np.linspace(0.0, 2.0 * math.pi, n, endpoint=False)
    return np.column_stack((np.cos(angles), np.sin(angles))) * radius


@pytest.mark.parametrize("n", [3, 4, 6, 8, 12, 24, 36, 48])
def test_a_thing_with_many_equal_sides_stays_what_it_is(n: int) -> None:
    assert bows(regular(n, 400.0), closed=True) == ()


def test_what_is_cut_larger_along_than_across_and_what_was_drawn_by_hand_is_no_arc() -> None:
    ring = arc_about((0.0, 0.0), 300.0, 0.0, 2.0 * math.pi).points()[:-1]
    found = bows(ring * (1.03, 1.01), closed=True)
    assert math.fsum(bow.sweep for bow in found) < 0.2  # a few steps beside each axis do lie on a circle
    shaken = ring + np.random.default_rng(3).normal(0.0, 0.05, ring.shape)
    assert bows(shaken, closed=True) == ()
    assert bows(np.array(((0.0, 0.0), (50.0, 0.0), (100.0, 0.0), (150.0, 0.0), (200.0, 0.0), (260.0, 0.0)))) == ()


def test_a_rounded_rectangle_is_walked_as_four_sides_and_four_corners() -> None:
    ring = shapely.get_coordinates(shapely.box(20.0, 20.0, 380.0, 180.0).buffer(20.0, quad_segs=24))[:-1]
    steps = list(along(ring, bows(ring, closed=True), closed=True))
    arcs = [sweep for _, sweep in steps if sweep]
    assert len(arcs) in (4, 5)  # the ring may begin within a corner
    assert math.fsum(abs(sweep) for sweep in arcs) == pytest.approx(2.0 * math.pi)
    assert sum(not sweep for _, sweep in steps) == 4
    assert steps[-1][0] == 0
    assert bulge(-math.pi) == -1.0
