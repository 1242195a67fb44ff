"""What the readings of a job come to: the parts of its form, what is still to be measured, and what can hardly be meant."""

import math
from collections.abc import Iterable, Mapping, Sequence
from typing import Final

from omnipel.core.forms.form import PRIOR, Doubt, Form, Measured, Part, Place, observations, unknowns
from omnipel.core.forms.reckoned import part_number, part_sum
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Thing
from omnipel.core.tape.adjustment import Adjusted, Observation
from omnipel.core.tape.misreads import named
from omnipel.core.tape.settling import Settled, settle
from omnipel.core.tolerances import SHORTEST
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Phrase, listed, mm, tr
from omnipel.core.words.units import Unit

NOTHING_LEFT: Final = 1e-6
"""A part that comes out smaller is not there, mm: readings that contradict were bounded at 0."""


class MissingReading(Impossible):
    """What has been read is not enough: which parts are still open, and the easiest readings that would be enough."""

    def __init__(self, parts: tuple[Part, ...], easiest: tuple[Place, ...]) -> None:
        self.parts, self.easiest = parts, easiest
        super().__init__(
            tr("to measure: {places}", places=listed(place.words for place in easiest)),
            refs.reading(easiest[0].key if easiest else ""),
            code="reading-missing",
        )


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
    sums = {part.key: part_sum(part, settled, by_key, taken, unit) for part in parts if part.key in settled.adjusted.values}
    numbers = {part.key: part_number(part, sums[part.key], settled) for part in parts if part.key in sums}
    for part in parts:
        if part.needed and numbers[part.key].value < NOTHING_LEFT:
            source = refs.reading(next(iter(numbers[part.key].slopes), next(iter(taken))))
            again = Remedy(tr("Take it again"), (Change(source.at("set_aside"), True),))
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
                    "beside the {large} of {long} there is next to no {small}", large=words[a], long=mm(values[a]), small=words[b]
                )
                if values[b] > SHORTEST / 8.0:
                    text = tr(
                        "the {large} of {long} is {times} times the {small} of {short}",
                        large=words[a],
                        long=mm(values[a]),
                        times=Count(values[a] / values[b]),
                        small=words[b],
                        short=mm(values[b]),
                    )
                yield from doubt((p.part, p.other), text)
