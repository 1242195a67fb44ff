"""Good jobs are not accused, spoilt readings are noticed once the proposed checks are taken. `python -m tests.trials` gives the figures."""

import numpy as np
import pytest
from tests.trials import FIRST, SLIPS, exact, false_alarms, noticed, said, taken, truth, with_checks
from tests.wild import one_in, some

from omnipel.core.advice.measuring import Measuring
from omnipel.core.forms import FORMS
from omnipel.core.job.reading import Instrument
from omnipel.shop.starter import starter


@pytest.mark.parametrize(("instrument", "repeats"), some(Instrument, [1, 3], of=4))
def test_good_jobs_are_not_accused(instrument: Instrument, repeats: int) -> None:
    assert false_alarms(instrument, 300 // one_in(2), repeats) <= 0.015  # under 1 % over many more; so few jobs scatter


def test_spoilt_readings_are_noticed_once_the_checks_are_taken() -> None:
    without, with_one, with_all = (noticed(200, n) for n in (0, 1, 6))
    assert with_all > 0.95
    assert with_one > 0.85
    assert without < with_one


@pytest.mark.parametrize("form", FIRST)
def test_a_check_is_proposed_until_every_reading_is_checked(form: str) -> None:
    job = truth(form, np.random.default_rng(5))
    whole = with_checks(job, 8)
    assert len(whole.readings) > len(job.readings)
    assert Measuring(whole).best_check is None
    for place in FORMS[form].places(whole.readings, whole.thing):
        if job.reading(place.key) is not None:
            assert exact(whole, place.key) == pytest.approx(job.reading(place.key).repeats[0], rel=1e-6)  # type: ignore[union-attr]


@pytest.mark.parametrize("slip", SLIPS)
def test_the_whole_draft_says_what_the_trial_notices(slip: str) -> None:
    job = taken(with_checks(truth("box", np.random.default_rng(8)), 3), np.random.default_rng(9))
    assert said(job) == set()
    for i, reading in enumerate(job.readings):
        wrong = SLIPS[slip](reading.repeats[0])
        if abs(wrong - reading.repeats[0]) > 15.0 and wrong < 90_000.0:
            from dataclasses import replace

            spoilt = replace(
                job, readings=tuple(replace(r, repeats=(wrong,)) if k == i else r for k, r in enumerate(job.readings))
            )
            assert said(spoilt), (slip, reading.place)


def test_of_two_checks_that_see_as_much_the_one_that_leaves_nothing_blind_is_proposed() -> None:
    """Straight across a bottle checks its girth alone; up its side and across checks its height, and the girth nearly."""
    best = Measuring(starter("bottle", "sleeve-tied")).best_check
    assert best is not None
    assert (best.place.key, best.checks) == ("over", 1)
