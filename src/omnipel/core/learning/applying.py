"""What is learnt, put to a job that is not made yet: always a proposal with its evidence, never done by itself."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final

from omnipel.core.job.document import ClearanceSchool, Job
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.reading import Instrument
from omnipel.core.learning.errors import CLOTH, HEM, QUILT, SEAM
from omnipel.core.learning.estimates import LEAST_MM, LEAST_SHARE, TAPE, Experience, Line
from omnipel.core.learning.evidence import BETWEEN, CLEARANCE, allowed, line_of
from omnipel.core.learning.instruments import lever
from omnipel.core.tape.readings import as_read
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, mm, tr
from omnipel.core.words.refs import Ref

TENTH: Final = 0.1
"""What is allowed for is rounded to this, mm."""
GAP_OFF: Final = 2.0
"""A gap is proposed where the right one differs by more, mm."""
GAP_COVERS: Final = 2
"""After so many covers at the least."""
FINE: Final = 0.001
"""A share is rounded to this."""


@dataclass(frozen=True)
class Applied:
    """A proposal of what was learnt.

    Args:
        line: what it comes of.
        words: what is done.
        reason: why, with its evidence.
        changes: that.
        where: what is changed.
    """

    line: Line
    words: Phrase
    reason: Phrase
    changes: tuple[Change, ...]
    where: Ref


def finding_of(those: Sequence[Applied]) -> Finding:
    """Proposals as one thing that is good to know, each a remedy of it."""
    text = tr("{reasons}.", reasons=listed([one.reason for one in those], "; "))
    remedies = tuple(Remedy(one.words, one.changes) for one in those)
    return Finding("learnt", Severity.NOTE, text, those[0].where, remedies)


def made_already(job: Job) -> bool:
    """Whether a cover has been begun: what is learnt is for the next."""
    return bool(job.tries or job.sewing.done)


def keys_of(job: Job) -> list[str]:
    """The lines that concern a job: its seams and hems, its instruments, cloth, quilting, gap."""
    instruments = dict.fromkeys(r.instrument.value for r in job.readings)
    tapes = [f"{TAPE}{BETWEEN}{name}" for name in instruments]
    quilts = [line_of(key, job) for key in QUILT] if job.cover.padding else []
    cloths = [line_of(key, job) for key in CLOTH if allowed(key, job)]
    return [*(line_of(key, job) for key in (SEAM, HEM)), *tapes, *quilts, *cloths, line_of(CLEARANCE, job)]


def applied(job: Job, learnt: Experience) -> tuple[Applied, ...]:
    """What is proposed for a job."""
    lines = [line for key in keys_of(job) if (line := learnt.line(key)) is not None]
    return tuple(made for line in lines for made in _of_line(job, line))


def _of_line(job: Job, line: Line) -> Iterator[Applied]:
    match line.kind:
        case "seam" | "hem":
            yield from _taken(job, line)
        case "tape":
            yield from _tape(job, line)
        case "clearance":
            yield from _gap(job, line)
        case _:
            yield from _share(job, line)


def _taken(job: Job, line: Line) -> Iterator[Applied]:
    """So much more is cut as seams or hems come out deeper."""
    where = refs.SEAM_TAKE if line.kind == SEAM else refs.HEM_TAKE
    now, wanted = allowed(line.kind, job), round(line.now.mean / TENTH) * TENTH
    if not line.settled or abs(wanted - now) < LEAST_MM:
        return
    more = wanted - now
    by = mm(abs(more), fine=True)
    if line.kind == SEAM:
        words = tr("Cut seams {by} wider", by=by) if more > 0.0 else tr("Cut seams {by} narrower", by=by)
    else:
        words = tr("Cut hems {by} wider", by=by) if more > 0.0 else tr("Cut hems {by} narrower", by=by)
    reason = tr("{what} come out {says} ({evidence})", what=line.words, says=line.says, evidence=line.evidence)
    yield Applied(line, words, reason, (Change(where, wanted),), where)


def _tape(job: Job, line: Line) -> Iterator[Applied]:
    """Readings count so much less as their instrument reads too long."""
    instrument = Instrument(line.of)
    changes = []
    for reading in job.readings:
        wanted = round(line.now.mean * lever(instrument, as_read(reading)) / TENTH) * TENTH
        if reading.instrument is instrument and abs(wanted - reading.reads_long) >= LEAST_MM:
            changes.append(Change(refs.reading(reading.place).at("reads_long"), wanted))
    if not line.settled or not changes:
        return
    reason = tr("{what} {says} ({evidence})", what=line.words, says=line.says, evidence=line.evidence)
    words = tr("Count its readings so much less") if line.now.mean > 0.0 else tr("Count its readings so much more")
    yield Applied(line, words, reason, tuple(changes), changes[0].ref)


def _share(job: Job, line: Line) -> Iterator[Applied]:
    """Cloth and quilting take up what they were seen to."""
    where = {
        CLOTH[0]: refs.SHRINK_WARP,
        CLOTH[1]: refs.SHRINK_WEFT,
        QUILT[0]: refs.QUILTING_ALONG,
        QUILT[1]: refs.QUILTING_ACROSS,
    }.get(line.kind)
    wanted = round(max(0.0, line.now.mean) / FINE) * FINE
    if where is None or not line.n or abs(wanted - allowed(line.kind, job)) < max(LEAST_SHARE, line.now.sigma):
        return
    reason = tr("{what}: {says} ({evidence})", what=line.words, says=line.says, evidence=line.evidence)
    yield Applied(line, tr("Reckon with {share}", share=line.amount(wanted)), reason, (Change(where, wanted),), where)


def _gap(job: Job, line: Line) -> Iterator[Applied]:
    """A gap that turned out right."""
    chosen = job.cover.clearance
    if chosen.school is ClearanceSchool.GIRTH or line.n < GAP_COVERS or line.now.mean <= 0.0:
        return
    times = 2.0 if chosen.school is ClearanceSchool.DIMENSION else 1.0
    wanted = job.cover.habits.system.near(line.now.mean)
    if abs(wanted - chosen.amount / times) < max(GAP_OFF, line.now.sigma):
        return
    reason = tr("{what}: {says} on each side ({evidence})", what=line.words, says=line.says, evidence=line.evidence)
    yield Applied(
        line, tr("Leave {gap} on each side", gap=mm(wanted)), reason, (Change(refs.CLEARANCE, wanted * times),), refs.CLEARANCE
    )
