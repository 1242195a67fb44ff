"""Trials of measuring: good jobs that must not be accused, and spoilt ones that must be noticed.

`python -m tests.trials 4000` prints the figures; the tests run a few hundred of each.
"""

import sys
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from omnipel.core.advice.measuring import Measuring
from omnipel.core.draft import draft
from omnipel.core.forms import FORMS
from omnipel.core.forms.measuring import measure
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tape.readings import misreads
from omnipel.shop.starter import starter

FIRST = {
    "drum": "wall-and-lid",
    "cap-body": "cap",
    "wheel": "wheel-cap",
    "tub": "tapered-tub",
    "turned": "gores",
    "box": "five-panels",
    "flat": "sheet",
    "slab": "slip-sleeve",
    "bottle": "sleeve-tied",
    "case": "padded-case",
}
"""A scheme for every form that is measured by tape alone."""

ACCUSED = ("readings-disagree", "reading-misread", "reading-implausible")


def truth(form: str, dice: np.random.Generator) -> Job:
    """A thing of random size, its readings exact."""
    job = starter(form, FIRST[form])
    size = dice.uniform(0.7, 2.0)
    return replace(job, readings=tuple(replace(r, repeats=(r.repeats[0] * size * dice.uniform(0.9, 1.1),)) for r in job.readings))


def with_checks(job: Job, number: int) -> Job:
    """The job with so many of the checks that the program proposes, read exactly."""
    for _ in range(number):
        found = Measuring(job).best_check
        if found is None:
            break
        would = exact(job, found.place.key)
        if would is None:
            break
        job = replace(
            job, readings=(*job.readings, Reading(place=found.place.key, repeats=(would,), instrument=found.place.instrument))
        )
    return job


def exact(job: Job, place: str) -> float | None:
    """What a tape would read at a place of the thing that the readings describe."""
    form = FORMS[job.thing.form]
    values = measure(form, job.readings, job.thing, job.unit).settled.adjusted.values
    found = next(p for p in form.places(job.readings, job.thing) if p.key == place)
    return found.would_read(values, job.unit)


def everywhere(job: Job) -> Job:
    """The job read at every place where a tape can be laid."""
    more = [
        Reading(place=place.key, repeats=(would,), instrument=place.instrument)
        for place in FORMS[job.thing.form].places(job.readings, job.thing)
        if job.reading(place.key) is None and (would := exact(job, place.key)) is not None and would > 20.0
    ]
    return replace(job, readings=(*job.readings, *more))


def taken(job: Job, dice: np.random.Generator, instrument: Instrument | None = None, repeats: int = 1) -> Job:
    """The job as somebody reads it: with the spread that the program believes in, rounded to the instrument's step."""

    def read(r: Reading) -> Reading:
        by = instrument or r.instrument
        precision, length = PRECISION[by], r.repeats[0]
        place = next(p for p in FORMS[job.thing.form].places(job.readings, job.thing) if p.key == r.place)
        sigma = place.observe(replace(r, instrument=by), job.unit).sigma
        numbers = length + sigma * dice.standard_normal(repeats)
        return replace(
            r,
            instrument=by,
            repeats=tuple(float(max(1.0, round(x / precision.resolution) * precision.resolution)) for x in numbers),
        )

    return replace(job, readings=tuple(read(r) for r in job.readings))


def digit_dropped(length: float) -> float:
    text = str(round(length))
    return float(text[:1] + text[2:]) if len(text) > 1 else length * 10


def digits_swapped(length: float) -> float:
    text = str(round(length))
    for i in range(len(text) - 1):
        if text[i] != text[i + 1] and not (i == 0 and text[1] == "0"):
            return float(text[:i] + text[i + 1] + text[i] + text[i + 2 :])
    return length + 90.0


SLIPS: dict[str, Callable[[float], float]] = {
    "a digit dropped": digit_dropped,
    "two digits swapped": digits_swapped,
    "ten times": lambda mm: mm * 10.0,
    "a tenth": lambda mm: mm / 10.0,
    "inches for centimetres": lambda mm: mm * 2.54,
    "a foot out": lambda mm: mm + 304.8,
    "a hundred out": lambda mm: mm + 100.0,
}


def accused(job: Job) -> bool:
    """Whether anything is said against the readings."""
    if any(misreads(r) for r in job.readings):
        return True
    try:
        measured = measure(FORMS[job.thing.form], job.readings, job.thing, job.unit)
    except Impossible:
        return True
    return bool(measured.contradictions or measured.doubts)


def false_alarms(instrument: Instrument, trials: int, repeats: int = 1, seed: int = 1) -> float:
    """Share of good jobs, read everywhere with an instrument, that are accused."""
    dice, found = np.random.default_rng(seed), 0
    for k in range(trials):
        job = everywhere(truth(list(FIRST)[k % len(FIRST)], dice))
        found += accused(taken(job, dice, instrument, repeats))
    return found / trials


def noticed(trials: int, checks: int, seed: int = 2) -> float:
    """Share of jobs with one spoilt reading in which something is said, when so many proposed checks are taken."""
    dice, found, asked = np.random.default_rng(seed), 0, 0
    slips = list(SLIPS.values())
    for k in range(trials):
        job = truth(list(FIRST)[k % len(FIRST)], dice)
        plain = len(job.readings)
        job = taken(with_checks(job, checks), dice)
        at = int(dice.integers(plain))
        spoilt = job.readings[at]
        wrong = slips[int(dice.integers(len(slips)))](spoilt.repeats[0])
        if abs(wrong - spoilt.repeats[0]) < 15.0 or not 1.0 <= wrong <= 90_000.0:
            continue  # a slip that the clearance takes up
        asked += 1
        readings = tuple(replace(r, repeats=(wrong,)) if i == at else r for i, r in enumerate(job.readings))
        found += accused(replace(job, readings=readings))
    return found / asked


def said(job: Job) -> set[str]:
    """Codes of what the whole draft says against the readings."""
    return {f.code for f in draft(job).findings} & set(ACCUSED)


if __name__ == "__main__":
    number = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    for which in Instrument:
        rates = [false_alarms(which, number, n) for n in (1, 3)]
        print(f"false alarms, {which.value:12} once {rates[0]:6.2%}   three times {rates[1]:6.2%}")
    for n in (0, 1, 2, 3):
        print(f"spoilt readings noticed with {n} proposed checks taken: {noticed(number, n):.1%}")
