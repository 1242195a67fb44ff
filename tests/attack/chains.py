"""Remedies, one after the other: what each does, and where the chain of first remedies ends.

For every finding, applying any of its remedies gives a document that reads back, changes the panels or the readings that are asked, removes that
finding, brings no stop that was not there, and changes the thing that its words name. The chain of first remedies never comes back to a job that it
has seen before.
"""

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from omnipel.core.draft import Draft, Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.fit.going_on import Fit, NoPassage
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.findings import CATALOGUE, Act, Finding, Remedy, Severity
from omnipel.core.remedies import advised
from omnipel.core.tape.readings import counted, misreads
from omnipel.core.words.phrases import Voice
from omnipel.core.words.refs import Of
from omnipel.shop.document import DocumentError, dumped, lawful, loaded

LONGEST_CHAIN = 40


@dataclass
class Fault:
    """What a remedy does that it must not."""

    what: str
    code: str
    words: str
    job: Job
    more: str = ""


@dataclass
class Chain:
    """Where the chain of first remedies ended: `clean`, `explained` (a person must decide), `stuck` or `circle`."""

    end: str
    codes: list[str] = field(default_factory=list)


def shown(drafted: Draft) -> tuple[object, ...]:
    """What a person sees of a draft: panels with their marks and cut lines, what is bought, how it goes on, what is still to be read."""
    open_ = tuple(sorted(str(f.where) for f in drafted.findings if f.severity is Severity.OPEN))
    panels = tuple(
        (
            p.name,
            p.count,
            tuple(np.round(cut_line(p), 4).ravel()),
            tuple(np.round(p.sew_points, 4).ravel()),
            tuple((f.name, tuple(np.round(f.points, 4).ravel())) for f in p.figures),
            tuple((n.edge, round(n.fraction, 6), n.label) for n in p.notches),
            p.take_up,
            tuple(map(str, p.notes)),
        )
        for p in drafted.panels
    )
    more: tuple[object, ...] = ()
    if isinstance(drafted, Drafted):
        goods = tuple((str(h.name), h.length.value if h.length else 0.0, h.count, str(h.note)) for h in drafted.cover.hardware)
        sizes = tuple((name, round(size.value, 4)) for name, size in drafted.cover.sizes.items())
        seams = tuple(
            (t.seam.name, round(t.length_a, 4), round(t.length_b, 4), t.seam.ratio, str(t.seam.kind), t.seam.rows)
            for t in drafted.seams
        )
        more = (goods, sizes, seams, _fits(drafted.fit), drafted.doubtful)
    measured = drafted.measured
    numbers = measured.numbers.items() if measured is not None else ()
    told: tuple[object, ...] = tuple((k, round(n.value, 6)) for k, n in numbers)
    job = drafted.job
    told += (
        tuple((r.place, counted(r), misreads(r), r.sure, r.set_aside) for r in job.readings)
        + job.thing.sticks_out
        + tuple((f.face, *sorted(f.options.items())) for f in job.cover.features)
    )
    lined = any(p.cloth is Cloth.LINING for p in drafted.panels)
    bought = job.cover.cloth
    gathers = isinstance(drafted, Drafted) and drafted.cover.gathers  # then how far is asked
    cloth = (bought.usable_width, bought.gather_limit if gathers else 0.0, job.cover.lining.cloth.usable_width if lined else 0.0)
    return (open_, panels, told, cloth, *more)


def _fits(fit: Fit | NoPassage) -> tuple[object, ...]:
    """What a person sees of how it goes on."""
    if isinstance(fit, NoPassage):
        return (str(fit.words),)
    slacks = tuple((s.depth, s.way, round(s.left, 4), round(s.clearance, 4)) for s in (*fit.slacks, *fit.across))
    return (
        fit.verdict.value,
        slacks,
        round(fit.chance, 6),
        round(fit.sigma, 6),
        fit.matters_most,
        fit.doubtful,
        round(fit.surer, 4),
    )


def key(finding: Finding) -> tuple[str, str]:
    """Which finding it is: what is said, and of what."""
    return finding.code, str(finding.where)


def faults(job: Job, drafted: Draft) -> Iterator[Fault]:
    """Everything that any remedy of any finding does wrong."""
    before = shown(drafted)
    stops = {key(f) for f in drafted.findings if f.severity is Severity.STOP}
    for finding in advised(drafted, lawful).findings:
        if finding.code == "our-fault":
            yield Fault("a fault of ours", finding.code, Voice(job.unit).say(finding.text), job, "")
        if any(remedy.changes == other.changes for remedy, other in itertools.combinations(finding.remedies, 2)):
            yield Fault("the same offered twice", finding.code, Voice(job.unit).say(finding.text), job)
        for remedy in finding.remedies:
            yield from _faults(job, drafted, finding, remedy, before, stops)
        if finding.severity is Severity.STOP and not finding.remedies and not on_the_object(finding):
            yield Fault("a stop without a remedy", finding.code, Voice(job.unit).say(finding.text), job, str(finding.where))


def on_the_object(finding: Finding) -> bool:
    """Whether what is to be done is done on the object, or by bringing something else in: then the text says so."""
    return finding.where.of in (Of.READING, Of.THING, Of.STICKS_OUT) or CATALOGUE[finding.code].by_person


def _faults(
    job: Job, drafted: Draft, finding: Finding, remedy: Remedy, before: object, stops: set[tuple[str, str]]
) -> Iterator[Fault]:
    words = Voice(job.unit).say(remedy.words)

    def fault(what: str, more: str = "") -> Fault:
        return Fault(what, finding.code, words, job, more)

    try:
        after = changed(job, *remedy.changes)
    except KeyError as error:
        yield fault("leads nowhere", str(error))
        return
    try:
        if loaded(dumped(after)) != after:
            yield fault("reads back differently")
    except DocumentError as error:
        yield fault("cannot be read back", str(error))
        return
    made = draft(after)
    only_takes_away = finding.code == "choice-unused" or all(change.act is Act.REMOVE for change in remedy.changes)
    if shown(made) == before and not only_takes_away:
        yield fault("changes nothing")
    if key(finding) in [key(f) for f in made.findings]:
        yield fault(
            "does not remove its finding", next(Voice(job.unit).say(f.text) for f in made.findings if key(f) == key(finding))
        )
    waiting = {f.where for f in drafted.findings if f.severity is Severity.OPEN}
    asks = any(
        f.severity is Severity.OPEN and f.where not in waiting for f in made.findings
    )  # nothing is cut before it is measured
    said = any(change.ref.of is Of.READING for change in remedy.changes)  # what is so is so, whatever follows from it
    new_stops = (f for f in made.findings if f.severity is Severity.STOP and key(f) not in stops and f.code != finding.code)
    later = not isinstance(drafted, Drafted)  # what is judged only now was not brought
    brought = {} if asks or said or later else {key(f): f for f in new_stops}
    for code, new in brought.items():
        yield fault("brings a stop", f"{code}: {Voice(job.unit).say(new.text)}")
    named = {Of.FEATURE, Of.STICKS_OUT, Of.READING}
    for change in remedy.changes:
        if (
            change.ref.of in named
            and change.ref.id
            and change.ref.whole != finding.where.whole
            and not _names(job, change.ref.of, change.ref.id, words, drafted)
        ):
            yield fault("changes what its words do not name", str(change.ref))


def _names(job: Job, of: Of, id_: str, words: str, drafted: Draft) -> bool:
    """Whether the words of a remedy name what it changes."""
    if of is Of.FEATURE:
        return any(f.name in words for f in job.cover.features if f.id == id_)
    if of is Of.STICKS_OUT:
        return any(t.name in words for t in job.thing.sticks_out if t.id == id_)
    places = drafted.measured.places if drafted.measured is not None else ()
    return any(str(place.words).casefold() in words.casefold() for place in places if place.key == id_) or id_ in words.casefold()


def chain(job: Job) -> Chain:
    """Apply the first remedy of the worst finding that has one, again and again."""
    seen, codes = [job], []
    for _ in range(LONGEST_CHAIN):
        drafted = draft(job)
        worth = [f for f in advised(drafted, lawful).findings if f.severity in (Severity.STOP, Severity.LOOK)]
        step = next((f for f in worth if f.remedies), None)
        if step is None:
            stuck = [f for f in worth if f.severity is Severity.STOP and not on_the_object(f)]
            codes += [f.code for f in worth]
            return Chain("stuck" if stuck else "explained" if worth or not isinstance(drafted, Drafted) else "clean", codes)
        codes.append(step.code)
        job = changed(job, *step.remedies[0].changes)
        if job in seen:
            return Chain("circle", codes)
        seen.append(job)
    return Chain("circle", codes)
