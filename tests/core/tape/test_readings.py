"""Value, spread and misreads of a reading."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.tape.readings import Instrument, Reading


def test_value_is_the_mean_and_from_four_on_the_median() -> None:
    assert Reading(place="girth", repeats=(10.0, 20.0, 60.0)).value == 30.0
    assert Reading(place="girth", repeats=(10.0, 20.0, 30.0, 900.0)).value == 25.0


@pytest.mark.parametrize(
    ("instrument", "sigma"),
    [(Instrument.TAPE, 1.5), (Instrument.RULE, 0.7), (Instrument.STRING, 3.0), (Instrument.EYE, 15.0), (Instrument.PHOTO, 7.0)],
)
def test_a_single_reading_has_its_instruments_spread(instrument: Instrument, sigma: float) -> None:
    assert Reading(place="girth", repeats=(1000.0,), instrument=instrument).spread == pytest.approx(sigma)


def test_the_user_may_know_the_spread_better() -> None:
    assert Reading(place="girth", repeats=(1000.0,), sigma=4.0).spread == 4.0


def test_spread_of_repeats_never_falls_under_the_resolution() -> None:
    assert Reading(place="girth", repeats=(500.0, 500.0, 500.0)).spread == pytest.approx(1.0 / math.sqrt(12.0))
    assert Reading(place="girth", repeats=(500.0, 504.0)).spread == pytest.approx(math.sqrt(8.0))


def test_a_misread_is_shown_and_left_out_only_when_told() -> None:
    reading = Reading(place="girth", repeats=(1762.0, 1764.0, 1673.0, 1763.0))
    assert reading.misreads == (2,)
    assert reading.value == 1762.5
    told = Reading(place="girth", repeats=reading.repeats, left_out=(2,))
    assert told.misreads == ()
    assert told.value == 1763.0


@given(st.floats(100.0, 5000.0), st.lists(st.floats(-1.0, 1.0), min_size=3, max_size=5))
def test_honest_repeats_are_not_called_misread(centre: float, errors: list[float]) -> None:
    assert Reading(place="girth", repeats=tuple(centre + error for error in errors)).misreads == ()


@given(st.floats(200.0, 5000.0), st.integers(0, 3))
def test_swapped_digits_are_found_wherever_they_stand(centre: float, place: int) -> None:
    repeats = [centre, centre + 1.0, centre - 1.0, centre]
    repeats[place] += 90.0
    assert Reading(place="girth", repeats=tuple(repeats)).misreads == (place,)
