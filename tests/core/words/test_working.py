"""Sums that are the computation."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, tr
from omnipel.core.words.working import Worked, through, worked

numbers = st.floats(-1e4, 1e4, allow_nan=False)
factors = st.floats(-20.0, 20.0).filter(lambda f: abs(f) > 1e-3)


@given(numbers, numbers, factors, factors)
def test_arithmetic_keeps_the_terms(a: float, b: float, k: float, m: float) -> None:
    size = (
        worked(tr("a"), a, refs.reading("a")) * k
        + worked(tr("b"), b, refs.reading("b")) / m
        - worked(tr("a"), a, refs.reading("a"))
    )
    assert size.value == pytest.approx(k * a + b / m - a, abs=1e-6)
    assert size.value == math.fsum(term.value for term in size.terms)
    one, two = worked(tr("c"), a), worked(tr("d"), b)
    assert size.plus([one, two]) == size + one + two
    assert size.plus([]) == size


def test_same_quantities_become_one_term() -> None:
    u = worked(tr("clearance"), 12.0, refs.CLEARANCE)
    (term,) = (u + u).terms
    assert (term.factor, term.amount, term.value) == (2.0, 12.0, 24.0)


def test_slopes_follow_readings_through_sums_and_formulas() -> None:
    height, radius = (
        worked(tr("height"), 300.0, refs.reading("height")),
        worked(tr("girth"), 942.0, refs.reading("girth")) / (2 * math.pi),
    )
    s = math.hypot(height.value, radius.value)
    slant = through(tr("slant"), NOTHING, math.hypot, height, radius)
    nudged = math.hypot(300.0, (942.0 + 1e-4) / (2 * math.pi))
    assert (slant * 2.0).slopes["girth"] == pytest.approx(2.0 * (nudged - s) / 1e-4, rel=1e-5)


def test_what_cancels_leaves_no_term_but_a_number() -> None:
    nothing = worked(tr("drop"), 5.0) - worked(tr("drop"), 5.0)
    assert isinstance(nothing, Worked)
    assert nothing.value == 0.0
    assert nothing.terms


def test_where_a_rule_ends_its_slope_is_that_of_the_side_that_is_there() -> None:
    def rule(length: float) -> float:
        if length > 3.0:
            raise ValueError("beyond the end")
        return 2.0 * length

    ends = through(tr("arc"), NOTHING, rule, worked(tr("a"), 3.0, refs.reading("a")))
    assert ends.value == 6.0
    assert ends.slopes["a"] == pytest.approx(2.0)
    only_here = through(tr("arc"), NOTHING, lambda a: a if a == 3.0 else math.sqrt(-1.0), worked(tr("a"), 3.0, refs.reading("a")))
    assert only_here.slopes["a"] == 0.0
    begins = through(
        tr("arc"), NOTHING, lambda a: 5.0 * a if a >= 3.0 else math.sqrt(-1.0), worked(tr("a"), 3.0, refs.reading("a"))
    )
    assert begins.slopes["a"] == pytest.approx(5.0)
