"""The cut line: exact along every edge, valid, and around the sew line."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import assume, example, given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.drafting.cutline import crowded, cut_line, cut_size
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.shapes import disc, outline, rectangle, sector
from omnipel.core.job.finish import BOUND, ON_FOLD, RAW, Finish, cord_casing, double_hem, seam, single_hem
from omnipel.core.plane.curves import Trace, line
from omnipel.core.words.working import worked

FINISHES = (seam(12.0), seam(6.0), single_hem(20.0), double_hem(25.0, 15.0), cord_casing(6.0, 12.0), BOUND, RAW)


def star(radii: list[float]) -> np.ndarray:
    """A star-shaped ring: convex when the radii are alike, concave when they are not."""
    angles = np.linspace(0.0, 2.0 * math.pi, len(radii), endpoint=False)
    return np.column_stack((np.array(radii) * np.cos(angles), np.array(radii) * np.sin(angles)))


def polygon(points: np.ndarray, finishes: list[Finish]) -> Panel:
    """A panel with straight edges."""
    count = len(points)
    edges = tuple(
        Edge(f"e{i}", line(tuple(points[i]), tuple(points[(i + 1) % count])), finishes[i % len(finishes)]) for i in range(count)
    )
    return outline("panel", edges)


@pytest.mark.parametrize("allowance", [0.0, 5.0, 12.0])
@pytest.mark.parametrize(
    "shape",
    [
        star([100.0] * 5),
        star([200.0, 90.0, 180.0, 100.0, 220.0, 95.0]),
        np.array([(0, 0), (300, 0), (300, 200), (200, 200), (200, 80), (100, 80), (100, 200), (0, 200)], float),
    ],
)
def test_equal_allowances_agree_with_a_mitred_buffer(shape: np.ndarray, allowance: float) -> None:
    ours = shapely.Polygon(cut_line(polygon(shape, [seam(allowance)])))
    theirs = shapely.Polygon(shape).buffer(allowance, join_style="mitre", mitre_limit=4.0)
    assert ours.symmetric_difference(theirs).area < 0.02 * max(1.0, allowance)


@tried(400)
@given(st.lists(st.floats(80.0, 260.0), min_size=3, max_size=9), st.lists(st.sampled_from(FINISHES), min_size=1, max_size=5))
@example(radii=[80.0, 253.0, 253.30834044886814, 80.0, 80.0, 80.0, 86.0], finishes=[single_hem(20.0), BOUND])
def test_any_panel_gets_a_valid_exact_cut_line(radii: list[float], finishes: list[Finish]) -> None:
    points = star(radii)
    assume(min(math.dist(points[i], points[i - 1]) for i in range(len(points))) > 60.0)
    panel = polygon(points, finishes)
    cut = shapely.Polygon(cut_line(panel))
    assert cut.is_valid
    assert cut.buffer(2e-6).contains(shapely.Polygon(panel.sew_points))  # it is rounded to a millionth
    boundary = cut.exterior
    for edge in panel.edges:
        for fraction in (0.45, 0.5, 0.55):
            x, y = edge.curve.at(fraction)
            heading = edge.curve.heading_at(fraction)
            out = np.array([math.sin(heading), -math.cos(heading)])
            at = shapely.Point(np.array([x, y]) + out * edge.finish.allowance)
            # Exactly on the cut line, unless a neighbour's allowance covers the place at an inward corner.
            assert boundary.distance(at) < 1e-6 or cut.contains(at)
            if not any(_covers(other, at) for other in panel.edges if other is not edge):
                assert boundary.distance(at) < 1e-6


def _covers(edge: Edge, at: shapely.Point) -> bool:
    reach = edge.finish.allowance * 4.0 + 1.0
    return bool(shapely.LineString(edge.curve.points()).distance(at) < reach)


@pytest.mark.parametrize(
    ("angle", "drift"), [(90.0, 0.0), (75.0, math.tan(math.radians(15))), (110.0, -math.tan(math.radians(20)))]
)
def test_beside_a_fold_the_neighbours_cut_line_is_reflected(angle: float, drift: float) -> None:
    """Folding the hem up must lay its ends exactly on the neighbour's cut line."""
    lean = 200.0 / math.tan(math.radians(angle))
    corners = [(0.0, 0.0), (400.0, 0.0), (400.0 - lean, 200.0), (0.0, 200.0)]
    hem = double_hem(30.0, 14.0)
    edges = tuple(
        Edge(name, line(corners[i], corners[(i + 1) % 4]), finish)
        for i, (name, finish) in enumerate([("hem", hem), ("side", seam(10.0)), ("top", RAW), ("left", RAW)])
    )
    ring = shapely.Polygon(cut_line(outline("panel", edges)))

    def right_edge(y: float) -> float:
        return ring.intersection(shapely.LineString([(-500.0, y), (900.0, y)])).bounds[2]

    for depth in (3.0, 15.0, 29.0):
        assert right_edge(-depth) == pytest.approx(right_edge(depth), abs=1e-6)
        assert right_edge(depth) - right_edge(0.0) == pytest.approx(-depth * drift, abs=1e-6)
    for beyond in (2.0, 12.0):  # the turn-under is folded once more, at 30
        assert right_edge(-30.0 - beyond) == pytest.approx(right_edge(30.0 - beyond), abs=1e-6)


def test_rectangle_with_its_own_allowance_on_each_side() -> None:
    panel = rectangle(
        "wall",
        worked("length", 400.0),
        worked("height", 200.0),
        bottom=double_hem(25.0, 15.0),
        right=seam(12.0),
        top=seam(10.0),
        left=seam(8.0),
    )
    assert cut_size(panel) == pytest.approx((420.0, 250.0), abs=1e-9)
    assert (panel.cut_length.value, panel.cut_width.value) == pytest.approx((420.0, 250.0))


def test_a_fold_keeps_its_line_and_a_disc_grows_all_round() -> None:
    half = rectangle(
        "half", worked("l", 300.0), worked("w", 100.0), bottom=ON_FOLD, right=seam(10.0), top=seam(10.0), left=seam(10.0)
    )
    assert cut_line(half)[:, 1].min() == pytest.approx(0.0)
    lid = disc("lid", worked("r", 150.0), seam(12.0))
    assert np.hypot(*cut_line(lid).T) == pytest.approx(162.0, abs=1e-9)


def test_a_mitred_corner_leaves_one_seam_allowance_outside_the_fold() -> None:
    hem = double_hem(20.0, 10.0)
    square = rectangle("sheet", worked("l", 300.0), worked("w", 300.0), bottom=hem, right=hem, top=hem, left=hem, mitred=True)
    corner = shapely.Point(300.0, 0.0)
    assert shapely.Polygon(cut_line(square)).exterior.distance(corner) == pytest.approx(10.0, abs=1e-6)


@given(st.floats(200.0, 2000.0), st.floats(-0.3, 0.3), st.floats(100.0, 600.0))
def test_a_sector_is_true_on_all_four_sides(inner: float, share: float, height: float) -> None:
    outer = inner * (1.0 + share)
    panel = sector(
        "side",
        worked("b", inner),
        worked("t", outer),
        worked("s", height),
        inside=seam(10.0),
        outside=double_hem(20.0, 10.0),
        sides=seam(10.0),
    )
    lengths = {edge.name: edge.curve.length for edge in panel.edges}
    assert lengths == pytest.approx({"bottom": inner, "right": height, "top": outer, "left": height}, rel=1e-9)
    assert shapely.Polygon(cut_line(panel)).is_valid


def test_a_traced_edge_keeps_its_allowance_in_hollows_and_on_corners() -> None:
    trace = np.array([(0, 0), (200, 0), (200, 120), (150, 90), (100, 140), (50, 90), (0, 120)], float)
    edges = (Edge("bottom", line((0, 0), (200, 0)), RAW), Edge("outline", Trace(np.vstack((trace[1:], trace[:1]))), seam(10.0)))
    cut = shapely.Polygon(cut_line(outline("end", edges)))
    sides = shapely.LineString(np.vstack((trace[1:], trace[:1])))
    on_cut = shapely.get_coordinates(shapely.segmentize(cut.exterior, 3.0))
    away = shapely.distance(shapely.points(on_cut[on_cut[:, 1] > 1.0]), sides)
    assert away.min() >= 10.0 - 1e-6
    assert np.median(away) == pytest.approx(10.0, abs=1e-6)


@given(st.floats(2.0, 14.0), st.floats(5.0, 20.0), st.floats(5.0, 20.0), st.floats(0.0, 6.28))
def test_a_very_sharp_corner_is_blunted_one_allowance_beyond_its_point(degrees: float, a: float, b: float, turned: float) -> None:
    """The parallels run on past the point by the wider allowance, then the cut goes straight across."""
    half, long = math.radians(degrees) / 2.0, 900.0
    corners = [(-long, -long * math.tan(half)), (0.0, 0.0), (-long, long * math.tan(half))]
    turn = np.array([[math.cos(turned), -math.sin(turned)], [math.sin(turned), math.cos(turned)]])
    low, tip, high = (tuple(turn @ np.array(c)) for c in corners)
    edges = (Edge("to", line(low, tip), seam(a)), Edge("from", line(tip, high), seam(b)), Edge("back", line(high, low), seam(a)))
    ring = cut_line(outline("wedge", edges))
    along, back = (np.array(tip) - np.array(low), np.array(high) - np.array(tip))
    along, back = along / np.hypot(*along), back / np.hypot(*back)
    wide = max(a, b)
    for away, direction, allowance in ((along, along, a), (-back, back, b)):
        outward = np.array([direction[1], -direction[0]])
        wanted = np.array(tip) + outward * allowance + away * wide
        assert np.hypot(*(ring - wanted).T).min() < 1e-3


def test_a_piece_without_allowances_is_never_crowded() -> None:
    assert crowded(polygon(star([200.0, 90.0, 180.0, 100.0, 220.0, 95.0]), [RAW])) is None


@tried(100)
@given(st.floats(4.0, 80.0), st.floats(2.0, 20.0), st.floats(2.0, 20.0), st.floats(0.0, 0.15))
@example(24.0, 12.0, 12.0, 1e-11)
@example(4.0, 2.0, 2.0, 0.0)
def test_a_slit_keeps_both_its_allowances_or_is_said_to_be_crowded(wide: float, a: float, b: float, lean: float) -> None:
    """A piece with a slit 400 deep, `wide` at its foot and widening upward: on its left side `a` is allowed, on its right `b`."""
    out = wide + 400.0 * lean
    ring = [(0, 0), (500 + out, 0), (500 + out, 600), (250 + out, 600), (250 + wide, 200), (250, 200), (250, 600), (0, 600)]
    made = polygon(np.array(ring, float), [RAW, RAW, seam(5.0), seam(b), seam(1.0), seam(a), seam(5.0), RAW])
    found, cut = crowded(made), shapely.Polygon(cut_line(made))
    place = np.array([(250.0 + a * 0.999, y) for y in np.linspace(320.0, 590.0, 28)])
    kept = (shapely.distance(cut.exterior, shapely.points(place)) < 0.6).all()
    if found is None:
        assert kept
    else:
        assert {found.edge.name, found.facing.name} == {"e3", "e5"}
        assert wide - 1e-6 <= found.apart <= a + b + 25.0
        assert wide < a + b + 1.0
