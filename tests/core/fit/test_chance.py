"""The chance against a Monte Carlo that knows nothing of slopes: readings are drawn, the cover is drafted anew, and it goes on or not.

The true thing is what the job says. Somebody measures it, each reading with another instrument; the cover is drafted from what they read
and sewn a little off; it goes on when nothing is too narrow anywhere, around or across. Most draws go through differences of real drafts;
some are drafted for good, and what the straight line missed is taken off.
"""

import math
from dataclasses import replace

import numpy as np
import pytest
from tests.wild import some

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.fit.chance import together
from omnipel.core.fit.going_on import Fit, NoPassage, slacks_of
from omnipel.core.forms.body import Body
from omnipel.core.job.document import Job
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import SticksOut
from omnipel.core.tape.readings import spread
from omnipel.shop.starter import starter

INSTRUMENTS = (Instrument.EYE, Instrument.TAPE, Instrument.STRING, Instrument.PHOTO, Instrument.RULE)
FAST, WHOLE, STEP = 40_000, 60, 0.25
NEAR = 0.03


def mixed(job: Job, first: int = 0) -> Job:
    """A different instrument for each reading."""
    readings = tuple(replace(r, instrument=INSTRUMENTS[(first + i) % len(INSTRUMENTS)]) for i, r in enumerate(job.readings))
    return replace(job, readings=readings)


def tight(form: str, scheme: str, c: float) -> Job:
    job = starter(form, scheme)
    return replace(job, cover=replace(job.cover, clearance=replace(job.cover.clearance, amount=c)))


def left(job: Job, body: Body, depths: np.ndarray) -> np.ndarray:
    """What is left over the true thing by a cover drafted from these readings, around and in every direction; `(k,)`."""
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    around, across = slacks_of(body, drafted.cover)
    ways = range(1 + max((slack.way for slack in across), default=0))
    found = []
    for way in ways:
        along = [(slack.depth, slack.slack.value) for slack in (*around, *across) if slack.way == way]
        found.append(np.interp(depths, *np.array(along).T))
    return np.concatenate(found)


def read(job: Job, errors: np.ndarray) -> Job:
    return replace(
        job, readings=tuple(replace(r, repeats=(r.repeats[0] + e,)) for r, e in zip(job.readings, errors, strict=True))
    )


def monte_carlo(job: Job) -> float:
    """The chance without any of the program's slopes."""
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    dice = np.random.default_rng(3)
    sigmas = np.array([spread(r) for r in job.readings])
    depths = np.array([slack.depth for slack in drafted.fit.slacks])  # type: ignore[union-attr]
    base = left(job, drafted.body, depths)
    across = np.arange(len(base)) >= len(depths)
    # Each seam across a girth is sewn off on its own, and takes twice as much of the girth as it is off, half of that of a width.
    seams = job.cover.sewing_sigma * np.where(across, 1.0, 2.0)[:, None]

    def sewn(n: int) -> np.ndarray:
        return dice.standard_normal((n, drafted.cover.seams_across)).sum(axis=1) * seams

    slopes = []
    for i, sigma in enumerate(sigmas):
        step = np.zeros(len(sigmas))
        step[i] = STEP * sigma
        slopes.append(
            (left(read(job, step), drafted.body, depths) - left(read(job, -step), drafted.body, depths)) / (2 * STEP * sigma)
        )
    lines = np.array(slopes).T
    straight = base[:, None] + lines @ (dice.standard_normal((FAST, len(sigmas))) * sigmas).T + sewn(FAST)
    chance = (straight >= 0.0).all(axis=0).mean()
    errors, thread = dice.standard_normal((WHOLE, len(sigmas))) * sigmas, sewn(WHOLE)
    missed = [
        float((left(read(job, e), drafted.body, depths) + t >= 0.0).all()) - float((base + lines @ e + t >= 0.0).all())
        for e, t in zip(errors, thread.T, strict=True)
    ]
    return float(chance + np.mean(missed))


def compared(job: Job) -> float:
    """How far the program's chance is from the Monte Carlo's."""
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    if isinstance(drafted.fit, NoPassage):
        assert "lies on top" in str(drafted.fit.words)
        return 0.0
    return abs(drafted.fit.chance - monte_carlo(job))


@pytest.mark.parametrize(("form", "scheme", "c"), some(lawful_pairs(), [0.8, 3.0], of=10))
def test_it_is_what_comes_of_trying(form: str, scheme: str, c: float) -> None:
    assert compared(mixed(tight(form, scheme, c))) < NEAR


def test_it_is_so_where_another_reading_passes() -> None:
    wider = tight("turned", "gores", 3.0)
    job = replace(wider, readings=tuple(replace(r, repeats=(2600.0,)) if r.place == "girth.2" else r for r in wider.readings))
    assert compared(mixed(job)) < NEAR


@pytest.mark.parametrize("first", range(5))
def test_it_is_so_where_length_and_width_must_pass(first: int) -> None:
    assert compared(mixed(tight("box", "five-panels", 2.0), first)) < NEAR


def test_it_is_so_over_a_knob_and_where_readings_check_one_another() -> None:
    job = tight("drum", "wall-and-lid", 1.0)
    knob = SticksOut(name="crank", from_top=200.0, reach=60.0, size=40.0)
    job = replace(job, thing=replace(job.thing, sticks_out=(knob,)))
    assert compared(mixed(job)) < NEAR
    checked = replace(
        job, readings=(*job.readings, Reading(place="across", repeats=(561.0,), instrument=Instrument.STRAIGHTEDGE))
    )
    assert compared(checked) < NEAR


def test_no_chance_is_stated_where_nothing_passes() -> None:
    for form, scheme in (("cap-body", "cap"), ("flat", "sheet"), ("box", "drape")):
        drafted = draft(starter(form, scheme))
        assert isinstance(drafted, Drafted)
        assert not isinstance(drafted.fit, Fit), (form, scheme)


def test_what_moves_with_nothing_is_sure() -> None:
    still, moving = np.zeros((1, 2)), np.array([[1.0, 0.0]])
    sigmas = np.array([2.0, 3.0])
    assert together(np.array([0.5]), still, sigmas) == 1.0
    assert together(np.array([-0.5]), still, sigmas) == 0.0
    assert together(np.array([3.0, -0.5]), np.vstack((moving, still)), sigmas) == 0.0
    both = together(np.array([3.0, 0.5]), np.vstack((moving, still)), sigmas)
    assert both == pytest.approx(0.5 * (1.0 + math.erf(1.5 / math.sqrt(2.0))), abs=1e-9)
    far = together(np.array([3.0, 1000.0]), np.vstack((moving, np.array([[0.3, 1.0]]))), sigmas)
    assert far == pytest.approx(both, abs=1e-9)  # what never happens changes nothing
