"""Advice while measuring: what a reading should be, whether a number can be meant, how far it can be trusted, and which reading to take next."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cached_property
from typing import Final

from omnipel.core.forms import FORMS
from omnipel.core.forms.form import PRIOR, Measured, Part, Place, observations
from omnipel.core.forms.measuring import MissingReading, measure
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.tape.adjustment import Adjusted, Observation, Unknown, adjust, predicted, within_bounds
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tape.misreads import named
from omnipel.core.words.phrases import NOTHING, Phrase, mm, tr

SEEN_FROM: Final = 4.1
"""An error of so many σ/√redundancy is seen four times out of five (3.3 for the threshold, 0.8 for the power)."""
SMALL_SLIP: Final = 15.0
SMALL_SHARE: Final = 0.03
"""A slip this small, mm or share of the reading, is taken up by the clearance; a larger one has to be caught."""
BLIND: Final = 0.5
"""Share: where no slip smaller than this is seen, a reading is as good as unchecked."""
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


@dataclass(frozen=True, slots=True)
class Check:
    """A reading worth taking: where, and how many readings it would check that nothing checks well enough now."""

    place: Place
    checks: int


class Measuring:
    """Advice on the readings of one job. Whatever has to be solved for it is solved once; it is thrown away with the job's draft.

    Args:
        job: what was read.
        measured: what the readings come to, where the draft has solved it already.
    """

    def __init__(self, job: Job, measured: Measured | None = None) -> None:
        self.job = job
        self.form = FORMS.get(job.thing.form)
        self._given = measured
        self._expected: dict[str, Expected | None] = {}

    @cached_property
    def places(self) -> tuple[Place, ...]:
        """Where a tape can be laid on the job's thing, in the order of its card."""
        return self.form.places(self.job.readings, self.job.thing) if self.form is not None else ()

    @cached_property
    def to_take(self) -> tuple[Place, ...]:
        """The readings that would be enough, easiest first; none when there are enough."""
        return self._solved if isinstance(self._solved, tuple) else ()

    @cached_property
    def _solved(self) -> Measured | tuple[Place, ...] | None:
        """What the readings come to, or the readings that would be enough, or None when nothing can come of them."""
        if self._given is not None or self.form is None:
            return self._given
        try:
            return measure(self.form, self.job.readings, self.job.thing, self.job.unit)
        except MissingReading as open_:
            return open_.easiest
        except Impossible:
            return None

    @cached_property
    def _parts(self) -> tuple[Part, ...]:
        return self.form.parts(self.job.readings, self.job.thing) if self.form is not None else ()

    @cached_property
    def _unknowns(self) -> list[Unknown]:
        return [Unknown(part.key, part.start, part.low) for part in self._parts]

    @cached_property
    def _seen(self) -> list[Observation] | None:
        """Everything that is known; None when that cannot be."""
        if self.form is None:
            return None
        try:
            return observations(self.form, self.job.readings, self.job.thing, self.job.unit)
        except Impossible:
            return None

    def expected(self, place: Place) -> Expected | None:
        """What the other readings say about a place; None when they say nothing, or contradict one another."""
        if place.key not in self._expected:
            self._expected[place.key] = self._told(place)
        return self._expected[place.key]

    def _told(self, place: Place) -> Expected | None:
        others = [o for o in self._seen or () if o.place != place.key]
        told = [o for o in others if not o.place.startswith(PRIOR)]
        free = adjust(self._unknowns, others, bounded=False)
        if not told or free.contradicts:
            return None
        probe = place.observe(Reading(place=place.key, repeats=(place.sample,), instrument=place.instrument), self.job.unit)
        found = predicted(within_bounds(free, self._unknowns, others), others, probe)
        if found is None:
            return None
        # Where only the form's own guess speaks for the part, the others say nothing.
        guessed = {part.key for part in self._parts if part.known is not None}
        if guessed.issuperset(place.on) and predicted(adjust(self._unknowns, told), told, probe) is None:
            return None
        return Expected(*found)

    def question(self, place: Place, length: float, instrument: Instrument) -> Phrase:
        """What makes a number hardly the one that was meant there; nothing when it may well be."""
        reach, others = PRECISION[instrument], self.expected(place)
        if others is not None and abs(length - others.value) > FAR * others.sigma + 0.02 * others.value:
            slip = named(length, self.job.unit, others.value, others.sigma)
            if slip is not None:
                return tr("{slip}? The others say about {expected}", slip=slip.words, expected=mm(others.value))
            return tr("the others say about {expected}", expected=mm(others.value))
        if others is None and not place.sample / HARDLY <= length <= place.sample * HARDLY:
            size = tr("very little") if length < place.sample else tr("very much")
            return tr("that is {size} for {place}", size=size, place=place.words)
        if not reach.least <= length <= reach.most:
            return tr("nobody reads that with this instrument")
        return NOTHING

    def trust(self, place: Place, doubtful: frozenset[str]) -> Trust | None:
        """How far the reading at a place can be trusted; None while there is none."""
        reading = self.job.reading(place.key)
        if reading is None:
            return None
        if reading.set_aside:
            return Trust.ASIDE
        if place.key in doubtful:
            return Trust.DOUBTED
        return Trust.ALONE if self.expected(place) is None else Trust.CHECKED

    @cached_property
    def best_check(self) -> Check | None:
        """The one further reading that would catch most misreads; None when every reading that counts is checked."""
        if not isinstance(self._solved, Measured):
            return None
        settled = self._solved.settled
        seen, values = list(settled.used), settled.adjusted.values
        matter = _that_matter(self.job, settled.adjusted)
        open_now = _unseen(settled.adjusted, seen, matter)
        taken = {r.place for r in self.job.readings if not r.set_aside}
        best: tuple[int, int, float, Place] | None = None
        for place in self.places if open_now else ():
            would = place.would_read(values, self.job.unit)
            if place.key in taken or would is None or would <= 0.0 or not place.words:
                continue
            probe = place.observe(Reading(place=place.key, repeats=(would,), instrument=place.instrument), self.job.unit)
            with_it = [*seen, probe]
            after = adjust(self._near(values), with_it)
            gain = len(open_now) - len(_unseen(after, with_it, matter))
            # Of two that check as many, the one that leaves fewer wholly unchecked: there even ten times too much is not seen.
            worth = (gain, -len(_unseen(after, with_it, matter, BLIND)), -place.effort)
            if gain > 0 and (best is None or worth > best[:3]):
                best = (*worth, place)
        return Check(best[3], best[0]) if best else None

    def _near(self, values: Mapping[str, float]) -> list[Unknown]:
        """The unknowns, searched for from where they are known to be."""
        return [replace(unknown, start=values.get(unknown.key) or unknown.start) for unknown in self._unknowns]


def _that_matter(job: Job, adjusted: Adjusted) -> frozenset[str]:
    """Readings that some part rests on."""
    used = {place for slopes in adjusted.slopes.values() for place in slopes}
    return frozenset(r.place for r in job.readings if not r.set_aside and r.place in used)


def _unseen(adjusted: Adjusted, seen: Sequence[Observation], matter: frozenset[str], share: float = SMALL_SHARE) -> list[str]:
    """Readings in which a slip of a share would not be seen."""
    found = []
    for o in seen:
        if o.place not in matter:
            continue
        redundancy = adjusted.redundancies.get(o.place, 0.0)
        seen_from = SEEN_FROM * o.sigma / math.sqrt(redundancy) if redundancy > 1e-6 else math.inf
        if seen_from > max(SMALL_SLIP, share * o.value):
            found.append(o.place)
    return found


def taken_again(reading: Reading | None, place: Place, length: float, instrument: Instrument) -> Reading:
    """A reading with one more number; one that was set aside begins afresh."""
    if reading is None or reading.set_aside:
        begun = reading if reading is not None else Reading(place=place.key, repeats=(length,))
        return replace(begun, repeats=(length,), instrument=instrument, left_out=(), set_aside=False, sure=False)
    return replace(reading, repeats=(*reading.repeats, length))
