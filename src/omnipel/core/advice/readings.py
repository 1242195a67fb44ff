"""What there is to say about readings: what is still to be read, misread repeats, contradictions, and what can hardly be meant."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

from omnipel.core.forms.form import Doubt, Measured, Place
from omnipel.core.forms.measuring import MissingReading
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Face, SticksOut
from omnipel.core.plane.trace import drawn
from omnipel.core.tape.misreads import Misread, named
from omnipel.core.tape.readings import misreads
from omnipel.core.tape.settling import Contradiction
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Length, Name, Phrase, either, listed, mm, tr
from omnipel.core.words.refs import Ref


def missing(open_: MissingReading) -> Iterator[Finding]:
    """One finding for each reading that would be enough."""
    for place in open_.easiest:
        yield Finding("reading-missing", Severity.OPEN, tr("To measure: {place}.", place=place.words), refs.reading(place.key))


def traced(job: Job) -> Iterator[Finding]:
    """What was done to a tracing so that it can be sewn."""
    outline = job.thing.outline
    if outline is None:
        return
    try:
        made = drawn(outline)
    except Impossible:
        return  # a form that makes no use of it has nothing to say about it
    if made.simplified:
        text = tr(
            "The outline was traced with more points and corners than can be sewn. It is drafted simpler, {off} off at the most.",
            off=mm(made.simplified, fine=True),
        )
        yield Finding("outline-simplified", Severity.NOTE, text, refs.OUTLINE)
    if made.smoothed < outline.smoothing:
        text = tr(
            "Smoothed by {asked} the outline would cross itself: it is smoothed by {made}.",
            asked=mm(outline.smoothing, fine=True),
            made=mm(made.smoothed, fine=True),
        )
        yield Finding("outline-smoothed-less", Severity.NOTE, text, refs.OUTLINE.at("smoothing"))


def repeats(job: Job, places: Sequence[Place]) -> Iterator[Finding]:
    """Repeats that are further apart than the instrument explains."""
    words = {place.key: place.words for place in places}
    for reading in job.readings:
        doubtful = () if reading.set_aside else misreads(reading)
        if not doubtful:
            continue
        where, name = refs.reading(reading.place), words.get(reading.place, Name(reading.place))
        right = Remedy(tr("All of them are right"), (Change(where.at("sure"), True),))
        if len(doubtful) == 2 and len(reading.repeats) - len(reading.left_out) == 2:
            a, b = (reading.repeats[i] for i in doubtful)
            slip = named(min(a, b), job.unit, max(a, b), 0.005 * max(a, b))
            text = tr(
                "{place} was read {a} and {b}: one of them is misread{slip}. The larger one is used until you say.",
                place=name,
                a=mm(a),
                b=mm(b),
                slip=tr(" ({slip})", slip=slip.words) if slip else NOTHING,
            )
            outs = tuple(
                Remedy(tr("Leave {repeat} out", repeat=mm(reading.repeats[i])), (_left_out(where, reading, i),)) for i in doubtful
            )
            yield Finding("reading-misread", Severity.LOOK, text, where, (*outs, right))
            continue
        far = [reading.repeats[i] for i in doubtful]
        others = [length for k, length in enumerate(reading.repeats) if k not in doubtful and k not in reading.left_out]
        text = tr(
            "{place}: {repeats} is far from the others ({others}). A misread?",
            place=name,
            repeats=listed(mm(length) for length in far),
            others=listed(mm(length) for length in others) if others else tr("which are far from one another, too"),
        )
        out = replace(reading, left_out=tuple(sorted({*reading.left_out, *doubtful})))
        again = Remedy(tr("Take {place} again", place=name), (Change(where.at("set_aside"), True),))
        leave = Remedy(
            tr("Leave {repeats} out", repeats=listed(mm(length) for length in far)), (Change(where.at("left_out"), out.left_out),)
        )
        cures = (leave, right) if len(out.kept) < len(reading.kept) and others and not misreads(out) else (again, right)
        yield Finding("reading-misread", Severity.LOOK, text, where, cures)


def again(job: Job, places: Sequence[Place]) -> Iterator[Finding]:
    """Readings that were set aside to be taken again."""
    words = {place.key: place.words for place in places}
    for reading in job.readings:
        if reading.set_aside and reading.place in words:
            text = tr("To measure again: {place}.", place=words[reading.place])
            yield Finding("reading-again", Severity.OPEN, text, refs.reading(reading.place))


def _left_out(where: Ref, reading: Reading, i: int) -> Change:
    return Change(where.at("left_out"), tuple(sorted({*reading.left_out, i})))


def contradictions(job: Job, measured: Measured) -> Iterator[Finding]:
    """Readings that cannot all be right: the likeliest culprit, what it should read, and both cures."""
    places = {place.key: place for place in measured.places}
    for found in measured.contradictions:
        culprit = found.left_out
        place = places.get(culprit.place)
        expected = _expected(found)
        if place is None or expected is None:
            yield _against_outline(job, found, places)
            continue
        slip = named(culprit.value, job.unit, expected, culprit.sigma)
        long = place.too_long if culprit.value > expected else NOTHING
        others = [places[o.place].words for o in found.suspects[1:] if o.place in places]
        text = tr(
            "{place} reads {read}, but the other readings make it {expected}.{slip}{long}{others} It is left out until you say.",
            place=place.words,
            read=mm(culprit.value),
            expected=mm(expected),
            slip=tr(" Perhaps {slip}.", slip=slip.words) if slip else NOTHING,
            long=tr(" Perhaps {reason}.", reason=long) if long and not slip else NOTHING,
            others=tr(" It may as well be {others}.", others=either(others)) if others else NOTHING,
        )
        where = refs.reading(culprit.place)
        yield Finding("readings-disagree", Severity.LOOK, text, where, tuple(_cures(job, measured, found, place, expected, slip)))


def _expected(found: Contradiction) -> float | None:
    values, culprit = found.rest.values, found.left_out
    if any(key not in values for key in culprit.on):
        return None
    return culprit.reads(*(values[key] for key in culprit.on))


def _cures(
    job: Job, measured: Measured, found: Contradiction, place: Place, expected: float, slip: Misread | None
) -> Iterator[Remedy]:
    """Take it again; the number that was meant; another one again; or: my tape is right, with what that means."""
    places = {p.key: p for p in measured.places}
    where = refs.reading(place.key)
    if slip is not None:
        reading = job.reading(place.key)
        if reading is not None:
            meant = replace(reading, repeats=(slip.meant,), left_out=(), set_aside=False, sure=True)
            yield Remedy(tr("It was {meant}", meant=mm(slip.meant)), (Change(where, meant),))
    yield Remedy(tr("Take {place} again", place=place.words), (Change(where.at("set_aside"), True),))
    rivals = [o for o in found.suspects[1:] if o.place in places and job.reading(o.place) is not None]
    for rival in rivals[:2]:
        yield Remedy(
            tr("Take {place} again", place=places[rival.place].words), (Change(refs.reading(rival.place).at("set_aside"), True),)
        )
    up = _stands_up(job, place, found, expected)
    if up is not None and up.reach <= max(found.rest.values.values()):
        text = tr("My tape is right: something stands out {reach} under it", reach=mm(up.reach))
        yield Remedy(text, (Change(refs.sticks_out(), up, Act.ADD),))
    elif rivals:
        text = tr("My tape is right: strike {other}", other=places[rivals[0].place].words)
        yield Remedy(text, (Change(where.at("sure"), True), Change(refs.reading(rivals[0].place), act=Act.REMOVE)))


def _stands_up(job: Job, place: Place, found: Contradiction, expected: float) -> SticksOut | None:
    """What would have to stand out under a tape that reads too long there; None where nothing does."""
    values, more = found.rest.values, found.left_out.value - expected
    if not place.too_long or more <= 0.0:
        return None
    size = job.cover.habits.mm("stands up")
    names = {thing.name for thing in job.thing.sticks_out}
    name = next(n for n in ("what stands out", *(f"what stands out {i}" for i in range(2, 99))) if n not in names)
    if place.key == "path" and {"height", "width"} <= set(values):
        # P = 2H + q + 2√(((W − q)/2)² + k²), solved for k
        size = min(size, values["width"] * 0.5)
        half = (found.left_out.value - values["height"] - values.get("front_height", values["height"]) - size) / 2.0
        rise = half**2 - ((values["width"] - size) / 2.0) ** 2
        return SticksOut(name=name, from_top=0.0, reach=math.sqrt(rise), size=size, face=Face.TOP) if rise > 0.0 else None
    if place.key == "girth" and {"length", "width"} <= set(values):
        return _stands_out(name, found.left_out.value, values["length"], values["width"], size, values.get("height", 400.0))
    return None


def _stands_out(name: str, girth: float, length: float, width: float, size: float, height: float) -> SticksOut:
    """The reach of a thing in the middle of the front that makes a taut tape read so much: G = L + 2W + q + 2√(x² + k²)."""
    size = min(size, length * 0.5)
    half = (girth - length - 2.0 * width - size) / 2.0
    beside = (length - size) / 2.0
    return SticksOut(name=name, from_top=height / 2.0, reach=math.sqrt(max(half**2 - beside**2, 1.0)), size=size)


def _against_outline(job: Job, found: Contradiction, places: dict[str, Place]) -> Finding:
    """A traced outline against a reading: the tracing, or its scale, is wrong."""
    rivals = [o for o in (found.left_out, *found.suspects) if o.place in places]
    traced = next((o for o in (found.left_out, *found.suspects) if o.place not in places), found.left_out)
    if not rivals:
        return Finding("readings-disagree", Severity.LOOK, tr("The tracing does not agree with itself."), refs.OUTLINE)
    rival = rivals[0]
    name = places[rival.place].words
    text = tr(
        "The tracing makes it {traced}, but {place} reads {read}: the tracing or its scale is wrong, or the reading is.",
        traced=mm(traced.value),
        place=name,
        read=mm(rival.value),
    )
    again = Remedy(tr("Take {place} again", place=name), (Change(refs.reading(rival.place).at("set_aside"), True),))
    return Finding("readings-disagree", Severity.LOOK, text, refs.reading(rival.place), (again,))


def doubts(job: Job, measured: Measured) -> Iterator[Finding]:
    """Readings that make the thing what hardly anybody covers."""
    for doubt in measured.doubts:
        where = refs.reading(doubt.place)
        name = next(place.words for place in measured.places if place.key == doubt.place)
        text = tr(
            "{place}: {what}.{slip} Is that so?",
            place=name,
            what=doubt.text,
            slip=tr(" Perhaps {slip}.", slip=doubt.slip.words) if doubt.slip else NOTHING,
        )
        yield Finding("reading-implausible", Severity.LOOK, text, where, tuple(_answers(job, doubt, where, name)))


def _answers(job: Job, doubt: Doubt, where: Ref, name: Phrase) -> Iterator[Remedy]:
    reading = job.reading(doubt.place)
    if doubt.slip is not None and reading is not None:
        meant = replace(reading, repeats=(doubt.slip.meant,), left_out=(), sure=True)
        yield Remedy(tr("It was {meant}", meant=Length(doubt.slip.meant)), (Change(where, meant),))
    yield Remedy(tr("Take {place} again", place=name), (Change(where.at("set_aside"), True),))
    yield Remedy(tr("It is so"), (Change(where.at("sure"), True),))


def doubtful(job: Job, measured: Measured) -> frozenset[str]:
    """Places whose reading is in doubt until a person decides."""
    found = {c.left_out.place for c in measured.contradictions}
    found |= {o.place for c in measured.contradictions for o in c.suspects}
    found |= {doubt.place for doubt in measured.doubts}
    found |= {
        r.place for r in job.readings if not r.set_aside and len(misreads(r)) == 2 and len(r.repeats) - len(r.left_out) == 2
    }
    return frozenset(found)
