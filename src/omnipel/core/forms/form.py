"""What a form is: unknowns, the places where a tape can be laid, and how a body comes out of them.

A form declares what it is made of (`Part`s: diameter, height, rise …) and, for every place a tape can be laid, what it would read there for
given parts. Any set of readings that is sufficient will do; what is more than sufficient checks the others. `measuring.measure` solves it.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import TypeVar

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import Body
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Outline, Thing
from omnipel.core.tape.adjustment import Observation, Unknown
from omnipel.core.tape.misreads import Misread
from omnipel.core.tape.readings import spread, value
from omnipel.core.tape.settling import Contradiction, Settled
from omnipel.core.words.phrases import NOTHING, Phrase, Rule
from omnipel.core.words.units import Unit
from omnipel.core.words.working import Worked

T = TypeVar("T")

PRIOR = "known of "
"""Observations whose place begins so are what a form knows beforehand, not readings."""


@dataclass(frozen=True, slots=True)
class Beside:
    """What a place asks to be noted beside the reading (how far down a string was laid), and what is assumed until it is."""

    words: Phrase
    usual: Rule


@dataclass(frozen=True, slots=True)
class Place:
    """A place where a tape can be laid.

    Args:
        key: its name in the job.
        words: what is read there.
        how: where the tape starts, goes and stops, in one sentence.
        sample: a plausible value in mm.
        on: the parts it depends on.
        reads: from those parts (and what is noted beside it) to what the tape would read, mm.
        undo: for a place that reads one part alone: from the reading (and what is beside it) to that part.
        instrument: what it is usually taken with.
        beside: what else has to be noted there.
        effort: how much trouble it is; the easiest of several is asked for.
        too_long: what it usually means when it reads longer than the others say; "" for nothing in particular.
        asked: whether it belongs to the plain way to measure this form; the others are other ways and checks.
    """

    key: str
    words: Phrase
    how: Phrase
    sample: float
    on: tuple[str, ...]
    reads: Callable[..., float] = lambda part: part
    undo: Callable[..., Worked] | None = None
    instrument: Instrument = Instrument.TAPE
    beside: Beside | None = None
    effort: float = 1.0
    too_long: Phrase = NOTHING
    asked: bool = True

    def observe(self, reading: Reading, unit: Unit) -> Observation:
        """A reading taken here as an observation."""
        if self.beside is None:
            return Observation(self.key, value(reading), spread(reading), self.on, self.reads)
        noted = reading.beside or self.beside.usual.mm(unit)
        return Observation(self.key, value(reading), spread(reading), self.on, lambda *parts: self.reads(noted, *parts))

    def would_read(self, parts: Mapping[str, float], unit: Unit) -> float | None:
        """What the tape would read for given parts, mm; None when one of them is not known."""
        if any(key not in parts for key in self.on):
            return None
        values = [parts[key] for key in self.on]
        return self.reads(self.beside.usual.mm(unit), *values) if self.beside else self.reads(*values)


@dataclass(frozen=True, slots=True)
class Part:
    """One number that a form is made of.

    Args:
        key: its name inside.
        words: what it is called.
        start: a plausible value in mm, where the search begins.
        needed: whether the form cannot do without.
        low: what it cannot fall below.
        known: what the form knows of it beforehand, as value and σ in mm; None for nothing.
        most: what it cannot be more than, given the other parts, mm.
        usual: the range outside of which it is hardly meant, mm.
    """

    key: str
    words: Phrase
    start: float
    needed: bool = True
    low: float = 0.0
    known: tuple[float, float] | None = None
    most: Callable[[Mapping[str, float]], float] = lambda _parts: math.inf
    usual: tuple[float, float] = (10.0, 15_000.0)


@dataclass(frozen=True, slots=True)
class Proportion:
    """Two parts of a thing and the range their ratio lies in, for nearly everything people cover."""

    part: str
    other: str
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Doubt:
    """A reading that can hardly be meant: which, what it makes the thing, and a slip that would explain it."""

    place: str
    text: Phrase
    slip: Misread | None


@dataclass(frozen=True)
class Measured:
    """What the readings of a job come to.

    Args:
        numbers: every part that is determined, as a number that knows its readings.
        sums: the same with the weights of the readings that made it.
        settled: the adjustment behind them, and what was left out of it.
        doubts: readings that can hardly be meant.
        thing: what is to be covered.
    """

    numbers: Mapping[str, Worked]
    sums: Mapping[str, Worked]
    settled: Settled
    doubts: tuple[Doubt, ...]
    thing: Thing
    places: tuple[Place, ...] = ()

    def __getitem__(self, part: str) -> Worked:
        return self.numbers[part]

    def get(self, part: str) -> Worked | None:
        """A part, or None when no reading tells of it."""
        return self.numbers.get(part)

    @property
    def contradictions(self) -> tuple[Contradiction, ...]:
        """Readings that cannot all be right."""
        return tuple(c for c in self.settled.contradictions if not c.left_out.place.startswith(PRIOR))


@dataclass(frozen=True, slots=True)
class Form:
    """A kind of object.

    Args:
        key: its name in job files and on the command line.
        words: its name on screen.
        about: one line that tells it from the others.
        abilities: what schemes may ask of it.
        parts: what it is made of, given the readings taken so far (marks can be added) and the thing.
        places: where a tape can be laid.
        build: from the measured parts to a body.
        known: observations besides readings (a traced outline).
        outline: a traced outline to start from, for a sample of a form that needs one.
        traced: "needed" when it cannot do without an outline, "helps" when one may take the place of readings, "" for neither.
        grows: whether its girths grow by what sticks out of it.
        tops: whether its cover grows by what stands on top of it.
        dropped_over: whether its covers are dropped over it from above.
        proportions: what its parts are to one another.
        best_scheme: the scheme its answers speak for, with the reason, from part values and thing.
    """

    key: str
    words: Phrase
    about: Phrase
    abilities: frozenset[Ability]
    parts: Callable[[Sequence[Reading], Thing], tuple[Part, ...]]
    places: Callable[[Sequence[Reading], Thing], tuple[Place, ...]]
    build: Callable[[Measured], Body]
    known: Callable[[Thing], tuple[Observation, ...]] = lambda _thing: ()
    outline: Outline | None = None
    traced: str = ""
    grows: bool = False
    tops: bool = False
    dropped_over: bool = False
    proportions: tuple[Proportion, ...] = ()
    best_scheme: Callable[[Mapping[str, float], Thing], tuple[str, Phrase]] = field(default=lambda _parts, _thing: ("", NOTHING))


def always(*made: T) -> Callable[[Sequence[Reading], Thing], tuple[T, ...]]:
    """For a form that has the same parts or places whatever has been read."""
    return lambda _readings, _thing: made


def observations(form: Form, readings: Sequence[Reading], thing: Thing, unit: Unit) -> list[Observation]:
    """Everything that is known: readings that count, outlines, and what the form knows beforehand."""
    places = {place.key: place for place in form.places(readings, thing)}
    made = [places[r.place].observe(r, unit) for r in readings if r.place in places and not r.set_aside]
    made += form.known(thing)
    for part in form.parts(readings, thing):
        if part.known is not None:
            made.append(Observation(PRIOR + part.key, part.known[0], part.known[1], (part.key,), lambda mm_: mm_))
    return made


def unknowns(form: Form, readings: Sequence[Reading], thing: Thing) -> list[Unknown]:
    """The parts as unknowns of the adjustment."""
    return [Unknown(part.key, part.start, part.low) for part in form.parts(readings, thing)]
