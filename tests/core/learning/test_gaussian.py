"""What is known of errors after something was seen: order does not matter, bands agree with counting, what was seen alone can be told from what was known."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from omnipel.core.learning.gaussian import Band, Normal, Seen, Unknown, beforehand, mixed

SIGMAS = st.floats(0.1, 5.0)
SLOPES = st.dictionaries(st.sampled_from("abc"), st.floats(-3.0, 3.0), min_size=1, max_size=3)
SEEN = st.lists(st.builds(Seen, SLOPES, st.floats(-10.0, 10.0), st.floats(0.2, 4.0)), min_size=1, max_size=5)
ERRORS = st.tuples(SIGMAS, SIGMAS, SIGMAS).map(lambda s: [Unknown(key, sigma) for key, sigma in zip("abc", s, strict=True)])


@given(ERRORS, SEEN)
@settings(max_examples=60)
def test_the_order_of_what_was_seen_does_not_matter_and_nothing_is_known_worse(errors: list[Unknown], told: list[Seen]) -> None:
    one, other = beforehand(errors), beforehand(errors)
    for seen in told:
        one = one.after(seen)
    for seen in reversed(told):
        other = other.after(seen)
    assert one.mean == pytest.approx(other.mean, abs=1e-7)
    assert one.covariance == pytest.approx(other.covariance, abs=1e-7)
    assert one.evidence == pytest.approx(other.evidence, abs=1e-6)
    for error in errors:
        assert one.of({error.key: 1.0}).sigma <= error.sigma + 1e-9
    for seen in told:  # what it would tell was told
        before = beforehand(errors)
        fell = before.of(seen.sum).sigma ** 2 - before.after(seen).of(seen.sum).sigma ** 2
        assert fell == pytest.approx(before.would_tell(seen.sum, seen.sigma, seen.sum), abs=1e-7)


@given(ERRORS, SEEN)
@settings(max_examples=40)
def test_it_is_the_solution_of_the_normal_equations(errors: list[Unknown], told: list[Seen]) -> None:
    after = beforehand(errors)
    for seen in told:
        after = after.after(seen)
    weight = np.diag([error.sigma**-2 for error in errors])
    pull = np.zeros(3)
    for seen in told:
        row = np.array([seen.sum.get(key, 0.0) for key in "abc"])
        weight += np.outer(row, row) / seen.sigma**2
        pull += row * seen.value / seen.sigma**2
    assert after.mean == pytest.approx(np.linalg.solve(weight, pull), abs=1e-6)
    assert after.covariance == pytest.approx(np.linalg.inv(weight), abs=1e-6)


@pytest.mark.parametrize(("low", "high"), [(-math.inf, 0.0), (0.0, 3.0), (3.0, 18.0), (30.0, math.inf), (-math.inf, -40.0)])
def test_a_band_agrees_with_counting(low: float, high: float) -> None:
    rng = np.random.default_rng(7)
    errors = [Unknown("a", 3.0), Unknown("b", 6.0, 1.0)]
    band = Band({"a": 1.0, "b": -2.0}, 12.0, low, high, 2.0)
    after = beforehand(errors).within(band)
    draws = rng.normal((0.0, 1.0), (3.0, 6.0), (400_000, 2))
    told = 12.0 + draws @ (1.0, -2.0) + rng.normal(0.0, 2.0, len(draws))
    other = 12.0 + draws @ (1.0, -2.0) + rng.normal(0.0, 2.0, len(draws))
    kept = draws[(told > low) & (other < high)]
    if len(kept) > 1000:
        assert after.mean == pytest.approx(kept.mean(axis=0), abs=0.15)
        assert np.sqrt(np.diag(after.covariance)) == pytest.approx(kept.std(axis=0), rel=0.05)
        assert math.exp(after.evidence) == pytest.approx(len(kept) / len(draws), rel=0.05)
    else:  # far out, where nothing is counted any more, it lies where it was said to lie
        gap = after.of({"a": 1.0, "b": -2.0})
        assert gap.mean + 12.0 == pytest.approx(high if math.isinf(low) else low, abs=4.0 * gap.sigma)


@given(st.floats(-5.0, 5.0), SIGMAS, st.floats(-5.0, 5.0), SIGMAS)
def test_what_was_seen_alone_is_told_from_what_was_known(known: float, sure: float, seen: float, noise: float) -> None:
    prior, alone = Normal(known, sure), Normal(seen, noise)
    back = prior.and_seen(alone).without(prior)
    assert back is not None
    assert (back.mean, back.sigma) == pytest.approx((seen, noise), rel=1e-5, abs=1e-5)
    assert prior.without(prior) is None
    low, high = alone.range
    assert high - low == pytest.approx(2.0 * 1.2815515655446 * noise)


def test_several_ways_are_mixed_with_their_mean_and_variance() -> None:
    one, other = beforehand([Unknown("a", 1.0)]), beforehand([Unknown("a", 2.0, 3.0)])
    both = mixed([one, other], [0.25, 0.75])
    assert both.of({"a": 1.0}).mean == pytest.approx(2.25)
    assert both.of({"a": 1.0}).sigma ** 2 == pytest.approx(0.25 * 1.0 + 0.75 * 4.0 + 0.25 * 0.75 * 9.0)
