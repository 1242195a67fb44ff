"""Convex parts, sums and outlines with fewer corners, held against another library's geometry."""

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.nesting.convex import convex_parts, is_convex, meeting, sides_of, summed
from omnipel.core.nesting.outward import cleaned, outward
from omnipel.core.nesting.placing import intervals
from omnipel.core.plane.curves import Points


@st.composite
def rings(draw: st.DrawFn, most: int = 14) -> Points:
    """Outlines around a middle, with inward corners, of sizes that panels have."""
    n = draw(st.integers(4, most))
    turns = np.sort(np.array(draw(st.lists(st.integers(0, 719), min_size=n, max_size=n, unique=True)))) * np.pi / 360.0
    gaps = np.diff(np.append(turns, turns[0] + 2.0 * np.pi))
    if gaps.max() > 3.0:  # the middle has to lie inside
        turns = np.linspace(0.0, 2.0 * np.pi, n, endpoint=False)
    away = np.array(draw(st.lists(st.integers(60, 600), min_size=n, max_size=n)), dtype=np.float64)
    return cleaned(np.column_stack((away * np.cos(turns), away * np.sin(turns))))


@tried(60)
@given(rings())
def test_parts_are_convex_and_are_the_outline(ring: Points) -> None:
    parts = convex_parts(ring)
    assert all(is_convex(part) for part in parts)
    polygons = [shapely.Polygon(part) for part in parts]
    whole = shapely.Polygon(ring)
    assert abs(sum(p.area for p in polygons) - whole.area) < 1e-6 * whole.area
    assert shapely.union_all(polygons).symmetric_difference(whole).area < 1e-6 * whole.area


@tried(40)
@given(rings(8), rings(8))
def test_a_sum_is_the_hull_of_all_sums_of_corners(one: Points, other: Points) -> None:
    a, b = (np.asarray(shapely.convex_hull(shapely.Polygon(r)).exterior.coords)[:-1] for r in (one, other))
    a, b = (r if shapely.LinearRing(r).is_ccw else r[::-1] for r in (a, b))
    hull = shapely.convex_hull(shapely.MultiPoint((a[:, None] + b[None]).reshape(-1, 2)))
    assert shapely.Polygon(summed(sides_of(a), sides_of(b))[0]).symmetric_difference(hull).area < 1e-6 * hull.area


@tried(40)
@given(rings(), rings(), st.integers(-900, 900), st.integers(-900, 900))
def test_where_a_piece_may_not_lie_is_where_it_would_overlap(one: Points, other: Points, x: int, y: int) -> None:
    regions = meeting([sides_of(part) for part in convex_parts(one)], [sides_of(-part) for part in convex_parts(other)])
    low, high = intervals(regions, np.array([float(y)]))
    forbidden = bool(((low < x) & (x < high)).any())
    shared = shapely.Polygon(one).intersection(shapely.Polygon(other + (x, y))).area
    if shared > 1e-3:
        assert forbidden
    elif shapely.Polygon(one).distance(shapely.Polygon(other + (x, y))) > 1e-6:
        assert not forbidden


@tried(60)
@given(rings(), st.sampled_from((0.2, 2.0, 10.0)))
def test_an_outline_with_fewer_corners_holds_the_old_one(ring: Points, within: float) -> None:
    made = outward(ring, within)
    assert len(made) <= len(ring)
    assert shapely.Polygon(made).buffer(1e-5).covers(shapely.Polygon(ring))


@tried(24)
@given(st.integers(200, 900), st.sampled_from((0.2, 2.0)))
def test_a_disc_keeps_within_what_was_said_and_loses_most_of_its_corners(radius: int, within: float) -> None:
    angles = np.linspace(0.0, 2.0 * np.pi, 400, endpoint=False)
    disc = np.column_stack((np.cos(angles), np.sin(angles))) * radius
    made = outward(disc, within)
    assert len(made) <= (240 if within < 1.0 else 80)
    assert float(np.hypot(*made.T).max()) <= radius + within + 1e-6
