"""How a part shows where it comes from: one reading directly, or several with what each counts."""

import math
from collections.abc import Mapping, Sequence

from omnipel.core.forms.form import Part, Place
from omnipel.core.job.reading import Reading
from omnipel.core.tape.adjustment import Observation
from omnipel.core.tape.readings import as_read, counted, value
from omnipel.core.tape.settling import Settled
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Share, listed, mm, term, tr
from omnipel.core.words.units import Unit
from omnipel.core.words.working import Worked, given, through, worked


def part_sum(part: Part, settled: Settled, places: Mapping[str, Place], taken: Mapping[str, Reading], unit: Unit) -> Worked:
    """A part with the sum that made it: one reading directly, or several with what each counts."""
    adjusted, key = settled.adjusted, part.key
    x, slopes = adjusted.values[key], adjusted.slopes[key]
    direct = []
    for o in settled.used:
        place = places.get(o.place)
        if place is not None and o.on == (key,) and slopes.get(o.place):
            direct.append((place, _implied(place, part, taken[o.place], unit), slopes[o.place]))
    sources = tuple((place, slope) for place, slope in slopes.items() if place in taken)
    if len(direct) == 1 and len(slopes) == 1:
        return direct[0][1]
    if not direct or len(direct) < len(slopes):
        return _corrected(part, x, direct, sources)
    total = Worked(())
    weights = [slope / (implied.slopes[place.key] or 1.0) for place, implied, slope in direct]
    left = x
    for i, ((place, implied, _), weight) in enumerate(zip(direct, weights, strict=True)):
        last = i == len(direct) - 1
        amount = left / weight if last and weight else implied.value
        left -= weight * amount
        how = tr(
            "{reading} makes {implied}, counts {weight}", reading=place.words, implied=mm(implied.value), weight=Share(weight, 1)
        )
        single = given(tr("from {reading}", reading=place.words), amount, implied.slopes.items(), how, refs.reading(place.key))
        total = total + single * weight
    return total


def _corrected(
    part: Part, x: float, direct: Sequence[tuple[Place, Worked, float]], sources: tuple[tuple[str, float], ...]
) -> Worked:
    """A part that other readings have a say in: what was read, and by how much the others move it."""
    if not direct:
        others = tuple(place for place, _ in sources)
        return given(
            part.words, x, sources, tr("from what the other readings leave"), refs.reading(others[0]) if others else None
        )
    _, implied, _ = max(direct, key=lambda d: abs(d[2]))
    moved = dict(sources)
    for source, slope in implied.slopes.items():
        moved[source] = moved.get(source, 0.0) - slope
    return implied + given(tr("moved by the readings that check it"), x - implied.value, moved.items())


def part_number(part: Part, made: Worked, settled: Settled) -> Worked:
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
    read = worked(place.words, as_read(reading), refs.reading(place.key), how)
    if off := value(reading) - as_read(reading):
        long = tr("your {instrument} reads long", instrument=term(reading.instrument))
        read = read + given(long, off, (), source=refs.reading(place.key).at("reads_long"))
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
