"""What a form is: unknowns, the places where a tape can be laid, and how a body comes out of them.

A form declares what it is made of (`Part`s: diameter, height, rise …) and, for every place a tape can be laid, what it would read there for
given parts. Any set of readings that is sufficient will do; what is more than sufficient checks the others. `measure` solves it.
"""

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final, TypeVar

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import Body
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Outline, Thing
from omnipel.core.tape.adjustment import Adjusted, Observation, Unknown
from omnipel.core.tape.misreads import Misread, named
from omnipel.core.tape.readings import counted, spread, value
from omnipel.core.tape.settling import Contradiction, Settled, settle
from omnipel.core.words.phrases import NOTHING, Count, Phrase, Rule, Share, listed, mm, tr
from omnipel.core.words.units import Unit
from omnipel.core.words.working import READINGS, Worked, given, through, worked

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


NOTHING_LEFT: Final = 1e-6
"""A part that comes out smaller is not there, mm: readings that contradict were bounded at 0."""


@dataclass(frozen=True, slots=True)
class Doubt:
    """A reading that can hardly be meant: which, what it makes the thing, and a slip that would explain it."""

    place: str
    text: Phrase
    slip: Misread | None


class MissingReading(Impossible):
    """What has been read is not enough: which parts are still open, and the easiest readings that would be enough."""

    def __init__(self, parts: tuple[Part, ...], easiest: tuple[Place, ...]) -> None:
        self.parts, self.easiest = parts, easiest
        super().__init__(
            tr("to measure: {places}", places=listed(place.words for place in easiest)),
            READINGS + (easiest[0].key if easiest else ""),
            code="reading-missing",
        )


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


def measure(form: Form, readings: Sequence[Reading], thing: Thing, unit: Unit = Unit.MM) -> Measured:
    """What the readings come to.

    Raises:
        MissingReading: they are not enough; says what would be.
        Impossible: they leave nothing of a part that has to be there.
    """
    parts, places = form.parts(readings, thing), form.places(readings, thing)
    seen = observations(form, readings, thing, unit)
    taken = {r.place: r for r in readings if not r.set_aside}
    by_key = {place.key: place for place in places}
    by_part = {part.key: part for part in parts}
    settled = settle(
        unknowns(form, readings, thing),
        seen,
        firm=frozenset(place for place, r in taken.items() if r.sure),
        explains=lambda o, rest: _explained(o, rest, by_key, by_part, unit),
    )
    open_ = tuple(part for part in parts if part.needed and part.key not in settled.adjusted.values)
    if open_:
        raise MissingReading(open_, easiest(open_, places, settled.adjusted, taken))
    sums = {part.key: _sum(part, settled, by_key, taken, unit) for part in parts if part.key in settled.adjusted.values}
    numbers = {part.key: _number(part, sums[part.key], settled) for part in parts if part.key in sums}
    for part in parts:
        if part.needed and numbers[part.key].value < NOTHING_LEFT:
            source = next(iter(numbers[part.key].slopes), f"{READINGS}{next(iter(taken))}")
            again = Remedy(tr("Take it again"), (Change(f"{source}.set_aside", True),))
            raise Impossible(tr("the readings leave nothing of the {part}", part=part.words), source, again)
    doubts = tuple(_doubts(form, parts, by_key, settled, taken, unit))
    return Measured(numbers, sums, settled, doubts, thing, places)


def easiest(
    open_: Sequence[Part], places: Sequence[Place], adjusted: Adjusted, taken: Mapping[str, Reading]
) -> tuple[Place, ...]:
    """The least troublesome readings that would be enough for the open parts, in the order in which they are measured."""
    found: list[Place] = []
    reached = set(adjusted.values)
    for part in open_:
        if part.key in reached:
            continue
        serving = [p for p in places if part.key in p.on and p.key not in taken and set(p.on) <= reached | {part.key}]
        serving = serving or [p for p in places if part.key in p.on and p.key not in taken]
        if serving:
            best = min(serving, key=lambda p: (p.effort, places.index(p)))
            found.append(best)
            reached |= set(best.on)
    return tuple(sorted(dict.fromkeys(found), key=places.index))


def _explained(o: Observation, rest: Adjusted, places: Mapping[str, Place], parts: Mapping[str, Part], unit: Unit) -> float:
    """How well a slip, or what the place is known for, explains an observation beside the rest."""
    if any(key not in rest.values for key in o.on):
        return 0.0
    expected = o.reads(*(rest.values[key] for key in o.on))
    if o.place.startswith(PRIOR):
        # A form's own guess (square edges) gives way where the readings say otherwise and what they say can be.
        return 2.5 if 0.0 < rest.values[o.on[0]] <= parts[o.on[0]].most(rest.values) else -1.0
    place = places.get(o.place)
    longer = 2.0 if place is not None and place.too_long and o.value > expected else 0.0
    # Where nothing explains it, a small slip is likelier than a large one; to a tenth, so that equals stay equals.
    small = round(1.0 / (1.0 + 10.0 * abs(o.value - expected) / max(expected, 1.0)), 1)
    return max(longer, 3.0 if named(o.value, unit, expected, o.sigma) else small)


def _sum(part: Part, settled: Settled, places: Mapping[str, Place], taken: Mapping[str, Reading], unit: Unit) -> Worked:
    """A part with the sum that made it: one reading directly, or several with what each counts."""
    adjusted, key = settled.adjusted, part.key
    x, slopes = adjusted.values[key], adjusted.slopes[key]
    direct = []
    for o in settled.used:
        place = places.get(o.place)
        if place is not None and o.on == (key,) and slopes.get(o.place):
            direct.append((place, _implied(place, part, taken[o.place], unit), slopes[o.place]))
    sources = tuple((READINGS + place, slope) for place, slope in slopes.items() if place in taken)
    if len(direct) == 1 and len(slopes) == 1:
        return direct[0][1]
    if not direct or len(direct) < len(slopes):
        return _corrected(part, x, direct, sources)
    total = Worked(())
    weights = [slope / (implied.slopes[READINGS + place.key] or 1.0) for place, implied, slope in direct]
    left = x
    for i, ((place, implied, _), weight) in enumerate(zip(direct, weights, strict=True)):
        last = i == len(direct) - 1
        amount = left / weight if last and weight else implied.value
        left -= weight * amount
        how = tr(
            "{reading} makes {implied}, counts {weight}", reading=place.words, implied=mm(implied.value), weight=Share(weight, 1)
        )
        single = given(tr("from {reading}", reading=place.words), amount, implied.slopes.items(), how, READINGS + place.key)
        total = total + single * weight
    return total


def _corrected(
    part: Part, x: float, direct: Sequence[tuple[Place, Worked, float]], sources: tuple[tuple[str, float], ...]
) -> Worked:
    """A part that other readings have a say in: what was read, and by how much the others move it."""
    if not direct:
        others = tuple(place for place, _ in sources)
        return given(part.words, x, sources, tr("from what the other readings leave"), others[0] if others else "")
    _, implied, _ = max(direct, key=lambda d: abs(d[2]))
    moved = dict(sources)
    for source, slope in implied.slopes.items():
        moved[source] = moved.get(source, 0.0) - slope
    return implied + given(tr("moved by the readings that check it"), x - implied.value, moved.items())


def _number(part: Part, made: Worked, settled: Settled) -> Worked:
    """A part as sums of sizes show it: the reading itself where it is just that, else the part with what its readings count."""
    if len(settled.adjusted.slopes[part.key]) <= 1:
        return made
    weights = [term.how for term in made.terms if term.how]
    how = tr("adjusted: {readings}", readings=listed(weights, "; ")) if weights else tr("adjusted to the readings that check it")
    return made.named(part.words, how, made.terms[0].source)


def _implied(place: Place, part: Part, reading: Reading, unit: Unit) -> Worked:
    """What one reading alone says of the part it reads."""
    count = len(counted(reading))
    how = (
        NOTHING
        if count < 2
        else tr("median of {n} readings", n=Count(count))
        if count >= 4
        else tr("mean of {n} readings", n=Count(count))
    )
    read = worked(place.words, value(reading), READINGS + place.key, how)
    if place.undo is not None:
        if place.beside is None:
            return place.undo(read)
        noted = reading.beside or place.beside.usual.mm(unit)
        return place.undo(read, worked(place.beside.words, noted))
    if place.beside is None and _is_itself(place):
        return read
    o = place.observe(reading, unit)
    return through(part.words, tr("from {reading}", reading=place.words), lambda length: _inverted(o, length, part), read)


def _is_itself(place: Place) -> bool:
    """Whether a place reads its part as it is."""
    return math.isclose(place.reads(123.0), 123.0) and math.isclose(place.reads(1234.0), 1234.0)


def _inverted(o: Observation, length: float, part: Part) -> float:
    """The part for which a place would read `length`: a few Newton steps."""
    x = part.start
    for _ in range(50):
        h = 1e-4 * max(1.0, x)
        slope = (o.reads(x + h) - o.reads(x - h)) / (2.0 * h)
        ahead = x + (length - o.reads(x)) / slope if slope else x
        ahead = min(max(ahead, x * 0.3), x * 3.0)
        if abs(ahead - x) < 1e-11 * max(1.0, x):
            return ahead
        x = ahead
    return x


def _doubts(
    form: Form, parts: Sequence[Part], places: Mapping[str, Place], settled: Settled, taken: Mapping[str, Reading], unit: Unit
) -> Iterable[Doubt]:
    """Readings that make the thing what nobody covers: far outside of what its parts are, or of what they are to one another."""
    values = settled.adjusted.values
    words = {part.key: part.words for part in parts}
    starts = {part.key: part.start for part in parts}
    told: set[str] = set()

    def doubt(keys: tuple[str, ...], text: Phrase) -> Iterable[Doubt]:
        behind = [
            (abs(math.log(max(values[key], 1e-9) / starts[key])), place, key)
            for key in keys
            for place in settled.adjusted.slopes[key]
            if place in taken and not taken[place].sure
        ]
        if behind and not any(r.sure for p, r in taken.items() if any(p in settled.adjusted.slopes[key] for key in keys)):
            _, place, key = max(behind, key=lambda found: found[0])
            if place not in told:
                told.add(place)
                o = next(o for o in settled.used if o.place == place)
                expected = places[place].sample if len(keys) == 1 else o.value * starts[key] / max(values[key], 1e-9)
                slip = named(o.value, unit, expected, 0.25 * expected)
                yield Doubt(place, text, slip if slip is not None else None)

    for part in parts:
        if part.key in values and part.known is None and not part.usual[0] <= values[part.key] <= part.usual[1]:
            yield from doubt((part.key,), tr("the {part} comes out at {length}", part=part.words, length=mm(values[part.key])))
    for p in form.proportions:
        if p.part in values and p.other in values and values[p.other] > 0.0:
            ratio = values[p.part] / values[p.other]
            if not p.low <= ratio <= p.high:
                a, b = (p.part, p.other) if ratio > 1.0 else (p.other, p.part)
                text = tr(
                    "the {large} of {long} is {times} times the {small} of {short}",
                    large=words[a],
                    long=mm(values[a]),
                    times=Count(values[a] / max(values[b], 1e-9)),
                    small=words[b],
                    short=mm(values[b]),
                )
                yield from doubt((p.part, p.other), text)
