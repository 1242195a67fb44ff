"""Value, spread and misreads of a reading."""

import math
import random
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.advice.measuring import Measuring
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tape.readings import counted, misreads, spread, value
from omnipel.shop.starter import starter


def girth(*repeats: float, **more: object) -> Reading:
    return Reading(place="girth", repeats=repeats, **more)  # type: ignore[arg-type]


def test_value_is_the_mean_and_from_four_on_the_median() -> None:
    assert value(girth(10.0, 11.0, 12.0)) == 11.0
    assert value(girth(10.0, 11.0, 12.0, 14.0)) == 11.5


@pytest.mark.parametrize(
    ("instrument", "sigma"),
    [
        (Instrument.TAPE, 1.5),
        (Instrument.RULE, 0.7),
        (Instrument.STRAIGHTEDGE, 0.7),
        (Instrument.STRING, 3.0),
        (Instrument.EYE, 15.0),
        (Instrument.PHOTO, 7.0),
    ],
)
def test_a_single_reading_has_its_instruments_spread(instrument: Instrument, sigma: float) -> None:
    assert spread(girth(1000.0, instrument=instrument)) == pytest.approx(sigma)


def test_no_reading_is_finer_than_the_steps_of_its_instrument() -> None:
    assert spread(girth(50.0, instrument=Instrument.EYE)) == pytest.approx(5.0 / math.sqrt(12.0))


def test_a_number_too_large_does_not_widen_its_own_doubt() -> None:
    """Two of 100 and 109 by eye: 4 · √2 · 1.5 % of 100 is 8.5, of 109 it would be 9.2."""
    assert misreads(girth(100.0, 109.0, instrument=Instrument.EYE)) == (0, 1)
    assert misreads(girth(109.0, 100.0, instrument=Instrument.EYE)) == (0, 1)
    assert misreads(girth(100.0, 108.0, instrument=Instrument.EYE)) == ()


def test_the_person_may_know_the_spread_better() -> None:
    assert spread(girth(1000.0, sigma=4.0)) == 4.0


def test_two_equal_numbers_do_not_make_a_tape_exact() -> None:
    once, twice = spread(girth(500.0)), spread(girth(500.0, 500.0))
    assert twice == pytest.approx(math.sqrt(4.0 / 5.0) * 1.5 / math.sqrt(2.0))
    assert once / 2.0 < twice < once
    assert spread(girth(500.0, 504.0)) > twice


@pytest.mark.parametrize("instrument", Instrument)
@pytest.mark.parametrize("n", [1, 2, 3, 4, 5])
def test_spread_is_what_the_value_really_scatters_by(instrument: Instrument, n: int) -> None:
    rng, true = random.Random(n), 1200.0
    sigma = PRECISION[instrument].of(true)
    made = [girth(*(rng.gauss(true, sigma) for _ in range(n)), instrument=instrument) for _ in range(1500)]
    scatter = math.sqrt(sum((value(r) - true) ** 2 for r in made) / len(made))
    told = math.sqrt(sum(spread(r) ** 2 for r in made) / len(made))
    assert 0.88 < told / scatter < 1.12


def test_a_misread_is_shown_and_left_out_of_the_value() -> None:
    reading = girth(1762.0, 1764.0, 1673.0, 1763.0)
    assert misreads(reading) == (2,)
    assert counted(reading) == (1762.0, 1764.0, 1763.0)
    assert value(reading) == 1763.0
    stands = girth(1762.0, 1764.0, 1673.0, 1763.0, sure=True)
    assert misreads(stands) == ()
    assert value(stands) == 1762.5


def test_two_repeats_that_contradict_are_never_averaged() -> None:
    reading = girth(600.0, 6000.0)
    assert misreads(reading) == (0, 1)
    assert value(reading) == 6000.0
    assert value(girth(600.0, 6000.0, left_out=(1,))) == 600.0


@pytest.mark.parametrize("instrument", Instrument)
@pytest.mark.parametrize("n", [2, 3, 4, 5])
def test_honest_repeats_are_called_misread_in_less_than_one_job_in_a_hundred(instrument: Instrument, n: int) -> None:
    rng = random.Random(7 * n)
    sigma, false = PRECISION[instrument].of(900.0), 0
    for _ in range(4000):
        repeats = tuple(max(1.0, rng.gauss(900.0, sigma)) for _ in range(n))
        false += bool(misreads(Reading(place="girth", repeats=repeats, instrument=instrument)))
    assert false / 4000 < 0.01


@given(st.floats(200.0, 5000.0), st.integers(0, 3))
def test_swapped_digits_are_found_wherever_they_stand(centre: float, place: int) -> None:
    repeats = [centre, centre + 1.0, centre - 1.0, centre]
    repeats[place] += 90.0
    assert misreads(girth(*repeats)) == (place,)


@pytest.mark.parametrize(
    ("instrument", "most"), [(Instrument.RULE, 3000.0), (Instrument.STRAIGHTEDGE, 4000.0), (Instrument.TAPE, 20_000.0)]
)
def test_a_number_beyond_its_instrument_is_asked_about(instrument: Instrument, most: float) -> None:
    advice = Measuring(starter("turned", "gores", with_readings=False))
    place = replace(advice.places[0], sample=most)  # as such it is what is usual there
    assert not advice.question(place, most, instrument)
    assert "instrument" in str(advice.question(place, most + 1.0, instrument))
