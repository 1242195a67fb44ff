"""Advice while measuring: what a reading should be, whether a number can be meant, how far it can be trusted, and which reading to take next."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final

from omnipel.core.forms import FORMS
from omnipel.core.forms.form import PRIOR, MissingReading, Place, measure, observations, unknowns
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.tape.adjustment import Adjusted, Observation, adjust, predicted
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tape.misreads import named
from omnipel.core.words.phrases import NOTHING, Phrase, mm, tr

SEEN_FROM: Final = 4.1
"""An error of so many σ/√redundancy is seen four times out of five (3.3 for the threshold, 0.8 for the power)."""
SMALL_SLIP: Final = 15.0
SMALL_SHARE: Final = 0.03
"""A slip this small, mm or share of the reading, is taken up by the clearance; a larger one has to be caught."""
HARDLY: Final = 25.0
"""A reading so many times larger or smaller than what is usual there is asked about."""
FAR: Final = 8.0
"""So many σ away from what the others say is asked about at once."""


class Trust(StrEnum):
    """How far a reading can be trusted."""

    CHECKED = "the others agree"
    ALONE = "nothing checks it"
    DOUBTED = "in doubt"
    ASIDE = "to be taken again"


@dataclass(frozen=True, slots=True)
class Expected:
    """What the other readings say a place should read: value and σ of a reading taken there, mm."""

    value: float
    sigma: float

    @property
    def low(self) -> float:
        """Two σ below."""
        return self.value - 2.0 * self.sigma

    @property
    def high(self) -> float:
        """Two σ above."""
        return self.value + 2.0 * self.sigma


def expected(job: Job, place: Place, *, believing: Sequence[Reading] | None = None) -> Expected | None:
    """What the other readings say about a place; None when they say nothing, or contradict one another."""
    form = FORMS.get(job.thing.form)
    if form is None:
        return None
    others = [r for r in (job.readings if believing is None else believing) if r.place != place.key and not r.set_aside]
    try:
        seen = observations(form, others, job.thing, job.unit)
    except Impossible:
        return None
    parts = unknowns(form, job.readings, job.thing)
    if adjust(parts, seen, bounded=False).contradicts:
        return None
    probe = Reading(place=place.key, repeats=(place.sample,), instrument=place.instrument)
    found = predicted(parts, seen, place.observe(probe, job.unit))
    told = [o for o in seen if not o.place.startswith(PRIOR)]
    if found is None or not told:
        return None
    # Where only the form's own guess speaks for the part, the others say nothing.
    guessed = {part.key for part in form.parts(job.readings, job.thing) if part.known is not None}
    if guessed.issuperset(place.on) and predicted(parts, told, place.observe(probe, job.unit)) is None:
        return None
    return Expected(*found)


def question(job: Job, place: Place, length: float, instrument: Instrument) -> Phrase:
    """What makes a number hardly the one that was meant there; nothing when it may well be."""
    reach = PRECISION[instrument]
    others = expected(job, place)
    if others is not None and abs(length - others.value) > FAR * others.sigma + 0.02 * others.value:
        slip = named(length, job.unit, others.value, others.sigma)
        if slip is not None:
            return tr("{slip}? The others say about {expected}", slip=slip.words, expected=mm(others.value))
        return tr("the others say about {expected}", expected=mm(others.value))
    if others is None and not place.sample / HARDLY <= length <= place.sample * HARDLY:
        return tr(
            "that is {size} for {place}", size=tr("very little") if length < place.sample else tr("very much"), place=place.words
        )
    if not reach.least <= length <= reach.most:
        return tr("nobody reads that with this instrument")
    return NOTHING


def trust(job: Job, place: Place, doubtful: frozenset[str]) -> Trust | None:
    """How far the reading at a place can be trusted; None while there is none."""
    reading = job.reading(place.key)
    if reading is None:
        return None
    if reading.set_aside:
        return Trust.ASIDE
    if place.key in doubtful:
        return Trust.DOUBTED
    return Trust.ALONE if expected(job, place) is None else Trust.CHECKED


@dataclass(frozen=True, slots=True)
class Check:
    """A reading worth taking: where, and how many readings it would check that nothing checks well enough now."""

    place: Place
    checks: int


def best_check(job: Job) -> Check | None:
    """The one further reading that would catch most misreads; None when every reading that counts is checked."""
    form = FORMS.get(job.thing.form)
    if form is None:
        return None
    try:
        measured = measure(form, job.readings, job.thing, job.unit)
    except Impossible:
        return None
    seen = list(measured.settled.used)
    parts = unknowns(form, job.readings, job.thing)
    places = form.places(job.readings, job.thing)
    matter = _that_matter(job, measured.settled.adjusted)
    open_now = _unseen(adjust(parts, seen), seen, matter)
    taken = {r.place for r in job.readings if not r.set_aside}
    best: tuple[float, float, Place] | None = None
    for place in places:
        would = place.would_read(measured.settled.adjusted.values, job.unit)
        if place.key in taken or would is None or would <= 0.0 or not place.words:
            continue
        probe = place.observe(Reading(place=place.key, repeats=(would,), instrument=place.instrument), job.unit)
        with_it = [*seen, probe]
        gain = len(open_now) - len(_unseen(adjust(parts, with_it), with_it, matter))
        if gain > 0 and (best is None or (gain, -place.effort) > (best[0], best[1])):
            best = (gain, -place.effort, place)
    return Check(best[2], int(best[0])) if best else None


def _that_matter(job: Job, adjusted: Adjusted) -> frozenset[str]:
    """Readings that some part rests on."""
    used = {place for slopes in adjusted.slopes.values() for place in slopes}
    return frozenset(r.place for r in job.readings if not r.set_aside and r.place in used)


def _unseen(adjusted: Adjusted, seen: Sequence[Observation], matter: frozenset[str]) -> list[str]:
    """Readings whose slips would not be seen."""
    found = []
    for o in seen:
        if o.place not in matter:
            continue
        redundancy = adjusted.redundancies.get(o.place, 0.0)
        seen_from = SEEN_FROM * o.sigma / math.sqrt(redundancy) if redundancy > 1e-6 else math.inf
        if seen_from > max(SMALL_SLIP, SMALL_SHARE * o.value):
            found.append(o.place)
    return found


def to_take(job: Job) -> tuple[Place, ...]:
    """The readings that would be enough, easiest first; none when there are enough."""
    form = FORMS.get(job.thing.form)
    if form is None:
        return ()
    try:
        measure(form, job.readings, job.thing, job.unit)
    except MissingReading as open_:
        return open_.easiest
    except Impossible:
        return ()
    return ()


def taken_again(reading: Reading | None, place: Place, length: float, instrument: Instrument) -> Reading:
    """A reading with one more number; one that was set aside begins afresh."""
    if reading is None or reading.set_aside:
        begun = reading if reading is not None else Reading(place=place.key, repeats=(length,))
        return replace(begun, repeats=(length,), instrument=instrument, left_out=(), set_aside=False, sure=False)
    return replace(reading, repeats=(*reading.repeats, length))
