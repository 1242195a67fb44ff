"""A piece folded onto itself: nothing of it is lost, its edges lie on one another, and what does not fold is not folded."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import some

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.pictures.drawing import Label, Path
from omnipel.core.pictures.folding import fold
from omnipel.core.pictures.pens import Layer
from omnipel.core.sewing.pictured import FOLDED, picture
from omnipel.core.sewing.plan import planned
from omnipel.core.words.phrases import Voice
from omnipel.shop.starter import starter

SIZES = st.floats(20.0, 3000.0)


def turned(points: np.ndarray, angle: float) -> np.ndarray:
    c, s = math.cos(angle), math.sin(angle)
    return points @ np.array(((c, s), (-s, c)))


def sector(inner: float, high: float, angle: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The wall of a cone, laid flat: its outline and its two straight edges."""
    angles = np.linspace(0.0, angle, 60)
    arc = np.column_stack((np.cos(angles), np.sin(angles)))
    ring = np.concatenate((arc * (inner + high), arc[::-1] * inner))
    return ring, np.array((arc[0] * inner, arc[0] * (inner + high))), np.array((arc[-1] * (inner + high), arc[-1] * inner))


@given(SIZES, SIZES, st.floats(0.0, 6.28))
def test_a_strip_is_folded_in_half(long: float, high: float, angle: float) -> None:
    ring = turned(np.array(((0.0, 0.0), (long, 0.0), (long, high), (0.0, high))), angle)
    made = fold(ring, ring[[3, 0]], ring[[1, 2]])
    assert made is not None
    below, above = shapely.Polygon(made.below), shapely.Polygon(made.above)
    assert below.area == pytest.approx(long * high / 2.0, rel=1e-6)
    assert below.symmetric_difference(above).area == pytest.approx(0.0, abs=1e-6 * long * high)
    assert np.hypot(*(made.line[1] - made.line[0])) == pytest.approx(high, rel=1e-6)


@given(st.floats(50.0, 900.0), SIZES, st.floats(0.3, 2.9), st.floats(0.0, 6.28))
def test_a_cones_wall_is_folded_on_its_middle(inner: float, high: float, angle: float, lies: float) -> None:
    ring, one, other = (turned(part, lies) for part in sector(inner, high, angle))
    made = fold(ring, one, other)
    assert made is not None
    whole = shapely.Polygon(ring).area
    assert shapely.Polygon(made.below).area + shapely.Polygon(made.above).area == pytest.approx(whole, rel=1e-6)
    for corner in other:  # the edge that was brought lies on the one that stays
        assert np.hypot(*(made.above - corner).T).min() < 1e-6 * (inner + high)


@given(SIZES, SIZES, st.floats(1.2, 3.0))
def test_edges_that_are_not_as_long_or_not_alike_do_not_fold(long: float, high: float, more: float) -> None:
    ring = np.array(((0.0, 0.0), (long, 0.0), (long, high * more), (0.0, high)))
    assert fold(ring, ring[[3, 0]], ring[[1, 2]]) is None
    assert fold(ring, ring[[3, 0]], ring[[3, 0]]) is None


@pytest.mark.parametrize(("form", "scheme"), some(lawful_pairs(), of=4))
def test_what_closes_a_flat_strip_is_drawn_folded(form: str, scheme: str) -> None:
    made = draft(starter(form, scheme))
    if not isinstance(made, Drafted):
        return
    plan, voice = planned(made), Voice(made.job.unit)
    for step in plan.steps:
        items = picture(plan, step, voice).items
        words = [item.words for item in items if isinstance(item, Label)]
        folded = any("folded" in text for text in words)
        if step.operation.deed not in FOLDED:
            assert not folded
        elif folded:
            assert len(step.operation.on) == 1
            cloth = [item for item in items if isinstance(item, Path) and item.layer is Layer.FACE]
            assert [item.tone for item in cloth] == sorted(item.tone for item in cloth)  # the wrong side lies on the right one
            lit = next(item for item in items if isinstance(item, Path) and item.layer is Layer.LIT)
            above = shapely.Polygon(cloth[-1].points).buffer(1.0)
            assert above.contains(shapely.LineString(lit.points))
