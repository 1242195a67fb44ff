"""A cover made again: a new job from an old one, what was learnt proposed change by change; and one thing in several sizes."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.draft import Drafted
from omnipel.core.job.changes import changed
from omnipel.core.job.document import ClearanceSchool, Job
from omnipel.core.job.findings import Change
from omnipel.core.job.laying import Placed
from omnipel.core.job.reading import Reading
from omnipel.core.job.sewing import Sewing
from omnipel.core.job.trying import Deed, Kin, Went, last_went
from omnipel.core.learning.applying import applied
from omnipel.core.learning.errors import READING
from omnipel.core.learning.estimates import Experience
from omnipel.core.learning.evidence import WANTED
from omnipel.core.learning.righting import righting
from omnipel.core.learning.why import Why
from omnipel.core.sewing.making import Making
from omnipel.core.tape.readings import as_read
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, mm, term, tr
from omnipel.core.words.refs import Ref

LIKELY: Final = 0.5
"""A reading is proposed to be taken again where it is the likeliest cause with such a share."""
AGAIN: Final = "again:"
WORTH: Final = 2.0
"""A reading, or a gap, that differs by less is left as it is, mm."""
NO_PLACES: Final[tuple[Placed, ...]] = ()


@dataclass(frozen=True)
class Proposed:
    """A change to the new job: what is done, why, and the changes; `wants` whether it is ticked from the beginning."""

    words: Phrase
    reason: Phrase
    changes: tuple[Change, ...]
    where: Ref
    wants: bool = True


def again(job: Job, name: str, thing: str = "") -> Job:
    """A new job from an old one, as that was decided and measured: nothing sewn, tried on or altered yet. `thing` is of which thing both are covers."""
    lays = {layer: replace(lay, placed=NO_PLACES, pieces=()) for layer, lay in job.lays.items()}
    kin = replace(job.kin, thing=thing or job.kin.thing, again_of=job.name)
    return replace(job, name=name, lays=lays, sewing=Sewing(), tries=(), alterations=(), log=(), kin=kin)


def proposed(making: Making, found: Why, learnt: Experience) -> tuple[Proposed, ...]:
    """What the new one could do differently: what this cover showed, then what the shop has learnt."""
    fresh = again(making.drafted.job, making.drafted.job.name)
    own = [*_readings(making, found), *_altered(making), *_gap(making, found)]
    taken = {change.ref for one in own for change in one.changes}
    shop = [
        Proposed(one.words, one.reason, one.changes, one.where)
        for one in applied(fresh, learnt)
        if not taken & {change.ref for change in one.changes}
    ]
    return tuple(one for one in (*own, *shop) if changed(fresh, *one.changes) != fresh)


def with_proposed(job: Job, those: Sequence[Proposed]) -> Job:
    """A new job with what was taken of it."""
    for one in those:
        job = changed(job, *one.changes)
    return job


def _readings(making: Making, found: Why) -> Iterator[Proposed]:
    """Readings that were taken once more: that is what counts; and one that is likely to be wrong: to be taken again."""
    job = making.drafted.job
    words = {place.key: place.words for place in making.drafted.measured.places}
    for size, length in found.sizes:
        reading = job.reading(size.key.removeprefix(AGAIN)) if size.key.startswith(AGAIN) else None
        if reading is None or abs(length - as_read(reading)) < WORTH:
            continue
        where = refs.reading(reading.place)
        new = Reading(place=reading.place, repeats=(length,), instrument=reading.instrument, beside=reading.beside,
                      reads_long=reading.reads_long)  # fmt: skip
        reason = tr(
            "{reading}, taken once more at the try-on: it was {old}", reading=words[reading.place], old=mm(as_read(reading))
        )
        told = tr("{reading}: {new}", reading=words[reading.place], new=mm(length))
        yield Proposed(told, reason, (Change(where, new),), where)
    first = found.causes[0] if found.causes else None
    place = first.key.removeprefix(READING) if first is not None and first.key.startswith(READING) else ""
    known = any(size.key == f"{AGAIN}{place}" for size, _ in found.sizes)
    if first is not None and place and first.share > LIKELY and not known:
        where = refs.reading(place)
        yield Proposed(
            tr("Take it again: {reading}", reading=words[place]), first.words, (Change(where.at("set_aside"), True),), where
        )


def _altered(making: Making) -> Iterator[Proposed]:
    """What was done to the old one is drafted so from the beginning."""
    job = making.drafted.job
    for one in making.drafted.cover.altered:
        what, why = one.what, tr("done to the one before: {what}", what=one.words)
        if one.refused:
            continue
        if what.deed in (Deed.HEM, Deed.HEM_DOWN):
            drop = job.reading("drop")
            by = what.by if what.deed is Deed.HEM_DOWN else -what.by
            if drop is not None:
                new = replace(drop, repeats=tuple(mm_ + by for mm_ in drop.repeats))
                yield Proposed(
                    tr("Drop: {new}", new=mm(as_read(new))), why, (Change(refs.reading("drop"), new),), refs.reading("drop")
                )
        elif what.deed is Deed.PORT:
            feature = next((f for f in job.cover.features if f.id == what.on), None)
            if feature is None:
                continue
            thing = next((t for t in job.thing.sticks_out if t.id == feature.serves), None)
            at, where = (thing, refs.sticks_out(thing.id)) if thing is not None else (feature, refs.feature(feature.id))
            moves = (
                Change(where.at("from_centre"), at.from_centre + what.right),
                Change(where.at("from_top"), at.from_top + what.down),
            )
            yield Proposed(tr("“{port}” where it was moved to", port=Name(feature.name)), why, moves, where)
        elif what.deed is Deed.DRAWN:
            edge = next((e for e in making.edges if e.name == what.on), None)
            if edge is not None and edge.drawn_to:
                where = refs.edge(what.on, "drawn_to")
                new_girth = edge.drawn_to + what.by
                yield Proposed(
                    tr("{edge} drawn in to {girth}", edge=term(what.on), girth=mm(new_girth)),
                    why,
                    (Change(where, new_girth),),
                    where,
                )


def _gap(making: Making, found: Why) -> Iterator[Proposed]:
    """A gap that would have been right, where nothing else explains how it went on."""
    job, went = making.drafted.job, last_went(making.drafted.job.tries)
    if went in (Went.UNSAID, Went.RIGHT) or job.cover.clearance.school is ClearanceSchool.GIRTH:
        return
    more, _ = WANTED[went]
    wide = righting(making, found).gap
    times = 2.0 if job.cover.clearance.school is ClearanceSchool.DIMENSION else 1.0
    wanted = job.cover.habits.system.near(max(0.0, wide + more))
    now = job.cover.clearance.amount / times
    if abs(wanted - now) < WORTH or (wanted < now) == (more > 0.0):  # it was sewn or read wrong: the gap itself was not
        return
    reason = tr("it {went}, with a gap of {gap} on each side as it was made", went=went.words, gap=mm(wide))
    changes = (Change(refs.CLEARANCE, wanted * times),)
    yield Proposed(tr("Leave {gap} on each side", gap=mm(wanted)), reason, changes, refs.CLEARANCE, wants=False)


@dataclass(frozen=True)
class Side:
    """A size of the old cover beside that of the new: finished or cut, mm; None where one of them has no such panel."""

    words: Phrase
    old: float | None
    new: float | None

    @property
    def differs(self) -> float:
        """By how much the new one is larger."""
        return (self.new or 0.0) - (self.old or 0.0) if self.old is not None and self.new is not None else 0.0


def beside(old: Drafted, new: Drafted) -> list[Side]:
    """The cut sizes of two drafts side by side, panel by panel."""
    mine = {panel.name: panel for panel in old.panels}
    other = {panel.name: panel for panel in new.panels}
    made = []
    for name in dict.fromkeys((*mine, *other)):
        a, b = mine.get(name), other.get(name)
        for words, of in (
            (tr("{panel}, cut long", panel=term(name)), "cut_length"),
            (tr("{panel}, cut wide", panel=term(name)), "cut_width"),
        ):
            made.append(Side(words, getattr(a, of).value if a else None, getattr(b, of).value if b else None))
    return made


def in_size(job: Job, name: str, place: str, length: float, family: str) -> Job:
    """A job of the same family in another size: the reading at a place is given, all others are larger or smaller by as much.

    Raises:
        KeyError: there is no such reading.
    """
    reading = job.reading(place)
    if reading is None:
        raise KeyError(place)
    times = length / as_read(reading)
    near = job.cover.habits.system.near

    def scaled(one: Reading) -> Reading:
        repeats = tuple(near(mm_ * times) if one.place != place else length for mm_ in one.repeats)
        kept = repeats if one.place != place else (length,)
        return replace(one, repeats=kept, left_out=(), beside=near(one.beside * times) if one.beside else one.beside)

    made = again(job, name)
    kin = Kin(thing="", family=family, again_of=job.name)
    return replace(made, readings=tuple(scaled(one) for one in job.readings), kin=kin)
