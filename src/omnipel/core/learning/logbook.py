"""The logbook of a thing: what happened to its covers, in order of days; and when to look again.

How long cloth keeps outdoors is told in sun-years: solution-dyed acrylic 8 to 10, coated or vinyl 5, cotton 2; thread goes before the cloth does. What is
kept in a shed keeps twice as long, indoors four times. A look is due each year outdoors, each second in a shed, each third indoors.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.job.document import ClothChoice, ClothKind, Job
from omnipel.core.job.thing import Lives
from omnipel.core.job.trying import Entry, Happened, Photo, Stage
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Name, Phrase, term, tr, trn
from omnipel.core.words.refs import Ref

YEAR: Final = 365.25
ACRYLIC, COATED, COTTON, OTHER = 8, 5, 2, 4
"""Years in the sun that a cloth keeps."""
THREAD: Final = 5
"""And polyester thread."""
PROOFED_FOR: Final = 3
"""So many years outdoors, and what keeps water off cloth that breathes has gone."""
SHADE: Final = {Lives.OUTDOORS: 1, Lives.SHED: 2, Lives.KITCHEN: 3, Lives.INDOORS: 4}
"""How many times as long it keeps there as in the sun."""
LOOKS: Final = {Lives.OUTDOORS: 1, Lives.SHED: 2, Lives.KITCHEN: 1, Lives.INDOORS: 3}
"""After how many years one looks again."""
SEEN: Final = frozenset({Happened.LOOKED, Happened.WASHED, Happened.PROOFED, Happened.MENDED, Happened.CHANGED, Happened.MADE})
"""Whoever did this has looked at it."""


@dataclass(frozen=True)
class Happening:
    """One line of the time line.

    Args:
        day: when; "" where that is not known.
        words: what happened.
        said: what a person wrote about it.
        photos: of it.
        job: the cover's name.
        where: what it leads to; None for a cover that is another job.
    """

    day: str
    words: Phrase
    said: str
    photos: tuple[Photo, ...]
    job: str
    where: Ref | None = None


@dataclass(frozen=True)
class Due:
    """What is due: when, what, why."""

    day: str
    words: Phrase
    reason: Phrase

    def over(self, today: str) -> bool:
        """Whether it is due by a day."""
        return self.day <= today


def sun_years(cloth: ClothChoice) -> int:
    """How many years in the sun a cloth keeps.

    >>> sun_years(ClothChoice()), sun_years(ClothChoice(name="coated canvas", waterproof=True, breathes=False))
    (8, 5)
    """
    name = cloth.name.casefold()
    if "acrylic" in name:
        return ACRYLIC
    if cloth.kind is ClothKind.COTTON or "cotton" in name or "linen" in name:
        return COTTON
    if (cloth.waterproof and not cloth.breathes) or "vinyl" in name or "coated" in name or "tarpaulin" in name:
        return COATED
    return OTHER


def timeline(jobs: Sequence[Job]) -> list[Happening]:
    """What happened to the covers of a thing, the first of the jobs that whose logbook it is; the latest first, what has no day last."""
    lines = [line for i, job in enumerate(jobs) for line in _of_job(job, own=i == 0)]
    return sorted(lines, key=lambda line: (line.day == "", [-ord(sign) for sign in line.day]))


def _of_job(job: Job, *, own: bool) -> Iterator[Happening]:
    for one in job.tries:
        words = tr("{stage}: {went}", stage=term(one.stage), went=one.went.words) if one.went else term(one.stage)
        yield Happening(one.day, words, one.words, one.photos, job.name, refs.try_on(one.id) if own else None)
    for entry in job.log:
        yield Happening(entry.day, term(entry.happened), entry.words, entry.photos, job.name, refs.log(entry.id) if own else None)
    sewn = max((step.day for step in job.sewing.steps.values() if step.done), default="")
    if sewn and not any(entry.happened is Happened.MADE for entry in job.log):
        yield Happening(
            sewn,
            tr("sewn") if _is_made(job) or _sewn_through(job) else tr("being sewn"),
            "",
            (),
            job.name,
            refs.step() if own else None,
        )


def made_on(job: Job) -> str:
    """The day a cover was made, as far as anything tells: of its log, its last step, its try-on when it was finished."""
    told = [entry.day for entry in job.log if entry.happened is Happened.MADE and entry.day]
    steps = [step.day for step in job.sewing.steps.values() if step.done and step.day]
    tried = [one.day for one in job.tries if one.stage is not Stage.FIRST and one.day]
    return told[0] if told else min(tried) if tried else max(steps, default="")


def retired(job: Job) -> bool:
    """Whether the cover is no longer used."""
    return any(entry.happened is Happened.RETIRED for entry in job.log)


def dues(job: Job) -> list[Due]:
    """What is due of a cover, the next first; nothing of what was not made, or is no longer used."""
    made = made_on(job)
    if not made or retired(job) or not _is_made(job):
        return []
    found = sorted(_dues(job, made), key=lambda due: due.day)
    return found


def _is_made(job: Job) -> bool:
    """Whether it is a cover already: it was tried on when it was finished, or its log says so."""
    return any(one.stage is not Stage.FIRST for one in job.tries) or any(e.happened in SEEN for e in job.log)


def _sewn_through(job: Job) -> bool:
    """Whether its last step is done: it was put on."""
    return any(step.done and step.deed == "fit" for step in job.sewing.steps.values())


def _dues(job: Job, made: str) -> Iterator[Due]:
    lives, cloth = job.thing.lives, job.cover.cloth
    where = term(lives)
    told = max((e for e in job.log if e.next_look), key=lambda e: (e.day, e.id), default=None)
    looked = max([made, *(e.day for e in job.log if e.happened in SEEN and e.day), *_used(job)])
    years = LOOKS[lives]
    if told is not None and told.next_look > looked:
        yield Due(told.next_look, tr("look at it"), tr("as it was written down"))
    else:
        reason = trn("kept {where}: a look every year", "kept {where}: a look every {n} years", years, where=where)
        yield Due(after(looked, years), tr("look at it"), reason)
    if lives is Lives.OUTDOORS and cloth.outdoors and cloth.breathes:
        proofed = max([made, *(e.day for e in job.log if e.happened is Happened.PROOFED and e.day)])
        reason = trn("what keeps the water off lasts {n} year", "what keeps the water off lasts {n} years", PROOFED_FOR)
        yield Due(after(proofed, PROOFED_FOR), tr("re-proof it"), reason)
    keeps = SHADE[lives]
    cloth_years, thread_years = sun_years(cloth) * keeps, THREAD * keeps
    name = cloth_words(cloth.name)
    reason = tr("{cloth} keeps {years} years there", cloth=name, years=Count(cloth_years))
    yield Due(after(made, cloth_years), tr("make it anew"), reason)
    if thread_years < cloth_years:
        yield Due(
            after(made, thread_years),
            tr("look at its seams"),
            tr("its thread goes before the cloth: {n} years there", n=Count(thread_years)),
        )


def _used(job: Job) -> list[str]:
    return [one.day for one in job.tries if one.stage is Stage.USED and one.day]


def after(day: str, years: float) -> str:
    """The day so many years later.

    >>> after("2026-10-14", 1)
    '2027-10-14'
    """
    begun = date.fromisoformat(day)
    try:
        return begun.replace(year=begun.year + round(years)).isoformat()
    except ValueError:  # the 29th of February
        return (begun + timedelta(days=YEAR * years)).isoformat()


def next_due(job: Job) -> Due | None:
    """What is due next; None where nothing is."""
    found = dues(job)
    return found[0] if found else None


def entry_words(entry: Entry) -> Phrase:
    """A line of the log in words."""
    return tr("{what}, {day}", what=term(entry.happened), day=Name(entry.day)) if entry.day else term(entry.happened)
