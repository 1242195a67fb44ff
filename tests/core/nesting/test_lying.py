"""Pieces laid side by side: nothing overlaps, nothing leaves the ground, bounds are below every lay; asked of another library each time."""

import json
import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.affinity import translate
from shapely.geometry import Polygon
from tests.core.nesting.test_pieces import rings
from tests.wild import tried

from omnipel.core.nesting.bounds import inscribed, least_length
from omnipel.core.nesting.building import built, pulled, quick, used_length
from omnipel.core.nesting.checking import faults, overlapping
from omnipel.core.nesting.placing import Ground, Placed, slid
from omnipel.core.nesting.problem import Problem, at_once, places_of, told, understood
from omnipel.core.nesting.shape import Shape, Way, turned
from omnipel.core.plane.curves import Points

LAYS = json.loads((Path(__file__).parents[2] / "cases" / "lays.json").read_text(encoding="utf-8"))["lays"]
WIDTH = 1500.0


@st.composite
def problems(draw: st.DrawFn, most: int = 6) -> Problem:
    """Some sorts of pieces on a bolt, or on a piece with a flaw."""
    shapes = tuple(Shape(draw(rings(8)), draw(st.sampled_from(((0.0,), (0.0, math.pi))))) for _ in range(draw(st.integers(1, 3))))
    pieces = tuple(draw(st.lists(st.integers(0, len(shapes) - 1), min_size=1, max_size=most)))
    flaw = ((300.0, 200.0), (420.0, 200.0), (420.0, 330.0), (300.0, 330.0))
    return Problem(shapes, pieces, WIDTH, avoid=(flaw,) if draw(st.booleans()) else ())


@tried(60)
@given(problems(), st.randoms(use_true_random=False))
def test_whatever_is_laid_is_sound_and_no_shorter_than_is_proven(problem: Problem, dice: object) -> None:
    order = list(range(len(problem.pieces)))
    dice.shuffle(order)  # type: ignore[attr-defined]
    nest = built(problem.ground, problem.each, order)
    assert nest is not None
    assert problem.sound(nest)
    assert used_length(nest) >= problem.least() - 1e-6
    for piece, placed in zip(problem.each, nest, strict=True):
        assert any(math.isclose(placed.way.turn, turn) for turn in piece.turns)


@tried(60)
@given(rings(8), rings(8), st.floats(0.5, 1.2))
def test_two_pieces_are_nowhere_shorter_than_is_proven(one: Points, other: Points, share: float) -> None:
    a, b = (Shape(ring, (0.0,)) for ring in (one, other))
    high = [float(np.ptp(ring[:, 1])) for ring in (one, other)]
    width = max(*high, share * sum(high))
    least = least_length((a, b), width)
    low, top = one[:, 1].max() - other[:, 1].min() - width, width + one[:, 1].min() - other[:, 1].max()
    here, wide = Polygon(one), float(np.ptp(one[:, 0]) + np.ptp(other[:, 0]))
    level = float(one[:, 0].min() - other[:, 0].min()), float(one[:, 0].max() - other[:, 0].max())
    for up in np.linspace(low, top, 9):
        for along in (*np.linspace(-wide, wide, 41), *level):
            there = translate(Polygon(other), along, up)
            if here.intersection(there).area < 1e-6:
                x0, _, x1, _ = here.union(there).bounds
                assert x1 - x0 >= least - 1e-6


def test_pieces_that_pass_one_another_are_together_no_longer_than_one() -> None:
    """They can lie level, although the one could be moved beyond the other's end before they met."""
    ring = np.array([(54.8, 24.4), (24.6, 155.1), (-41.2, 68.6), (-55.7, 27.2), (26.2, -599.4), (96.0, -169.7)])
    shape = Shape(ring, (0.0, math.pi))
    assert least_length((shape, shape), 1500.0) == pytest.approx(float(np.ptp(ring[:, 0])))


@tried(40)
@given(problems())
def test_pulling_together_never_makes_a_lay_longer_or_unsound(problem: Problem) -> None:
    nest = quick(problem.ground, problem.each, 0.0, 1)
    assert nest is not None
    spread = [
        Placed(p.way, p.at * (1.0, 1.0) + (40.0 * k, 0.0)) for k, p in enumerate(sorted(nest, key=lambda p: float(p.low[0])))
    ]
    if problem.avoid or next(faults(spread, WIDTH, math.inf), None) is not None:
        spread = nest
    tight = pulled(problem.ground, spread)
    assert used_length(tight) <= used_length(spread) + 1e-6
    assert next(faults(tight, WIDTH, math.inf, problem.ground.avoid), None) is None


@tried(60)
@given(problems(), st.lists(st.tuples(st.integers(-900, 900), st.integers(-900, 900)), min_size=1, max_size=5))
def test_however_a_piece_is_pushed_about_it_overlaps_nothing(problem: Problem, steps: list[tuple[int, int]]) -> None:
    ground = replace(problem.ground, length=3000.0)
    nest = built(ground, problem.each, range(len(problem.pieces)))
    if nest is None:
        return
    piece, others = nest[0], nest[1:]
    for step in steps:
        piece = slid(ground, piece, np.array(step, dtype=np.float64), others)
        assert next(faults([piece, *others], WIDTH, 3000.0, ground.avoid), None) is None
        again = slid(ground, piece, np.zeros(2), others)
        assert np.array_equal(again.at, piece.at)


@tried(40)
@given(rings(8), rings(8), st.sampled_from((0.0, 40.0, 73.0)), st.sampled_from((0.0, 55.0)))
def test_pieces_on_a_repeat_lie_on_it(one: object, other: object, along: float, across: float) -> None:
    shapes = [Shape(ring, (0.0,), (along, across), (13.0, 7.0)) for ring in (one, other)]  # type: ignore[arg-type]
    nest = built(Ground(1600.0), shapes, (0, 1))
    assert nest is not None
    for placed in nest:
        for step, at, start in zip((along, across), placed.at, (13.0, 7.0), strict=True):
            assert not step or abs(math.remainder(float(at) + start, step)) < 1e-6
    assert next(faults(nest, 1600.0, math.inf), None) is None


@tried(60)
@given(rings(), st.integers(20, 900))
def test_an_inscribed_rectangle_is_inside(ring: object, height: int) -> None:
    polygon = shapely.Polygon(ring)  # type: ignore[arg-type]
    long = inscribed(np.asarray(ring), float(height))
    assert long * height <= polygon.area * (1.0 + 1e-9)
    assert long <= float(np.ptp(np.asarray(ring)[:, 0])) + 1e-9


@pytest.mark.parametrize("lay", LAYS, ids=[lay["id"] for lay in LAYS])
def test_bounds_and_first_lays_on_the_cases(lay: dict) -> None:  # type: ignore[type-arg]
    shapes = tuple(Shape(np.array(p["outline"], dtype=np.float64)) for p in lay["pieces"])
    pieces = tuple(k for k, p in enumerate(lay["pieces"]) for _ in range(p["demand"]))
    problem = Problem(shapes, pieces, lay["cloth_width"])
    least = problem.least()
    assert least <= lay["best_known_length"] + 0.05  # it is told to a tenth
    first = at_once(problem, 4, 0.2)
    assert first is not None
    assert problem.sound(first)
    assert used_length(first) <= 1.25 * lay["best_known_length"]
    if lay["id"] in ("drum", "box", "wheel"):  # nothing is to be searched there
        assert least == pytest.approx(lay["proven_lower_bound"], abs=0.05)
        assert used_length(pulled(problem.ground, first)) <= least + 0.01


@tried(20)
@given(problems())
def test_a_problem_comes_through_to_another_process_as_it_is(problem: Problem) -> None:
    again = understood(json.loads(json.dumps(told(problem))))
    assert (again.pieces, again.width, again.length, again.avoid) == (
        problem.pieces,
        problem.width,
        problem.length,
        problem.avoid,
    )
    nest = at_once(problem, 1, 0.1)
    assert nest is not None
    assert again.sound(again.nest(places_of(nest)))


def test_an_overlap_and_what_lies_outside_are_told() -> None:
    square = np.array(((0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (0.0, 100.0)))
    way = Way(square)
    lying = [Placed(way, np.array(at)) for at in ((0.0, 0.0), (99.0, 0.0), (300.0, 450.0), (500.0, 100.0))]
    assert list(faults(lying, 500.0, 590.0)) == [(0, 1), (2, -1), (3, -1)]
    touching = [shapely.Polygon(square), shapely.Polygon(square + (100.0, 0.0))]
    assert overlapping(touching) == []
    assert np.allclose(turned(square, math.pi / 2.0)[1], (0.0, 100.0))
    assert least_length([], 100.0) == 0.0
