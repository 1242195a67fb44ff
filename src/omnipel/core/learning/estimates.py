"""What a shop has learnt: one line for each thing that differs from what was planned, as a normal estimate with its evidence, updated by every job.

A line begins as with all people (`errors.PEOPLE`), and every job's lesson is an observation of it: what was seen there, and how far one cover differs from
the next, N(·, s² + c²). Lines can be switched off, and what was seen so far forgotten.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from statistics import median
from typing import Final

from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job
from omnipel.core.job.reading import Instrument
from omnipel.core.learning.errors import CLOTH, COVERS, HEM, PEOPLE, QUILT, SEAM, Known
from omnipel.core.learning.evidence import BETWEEN, CLEARANCE, USED, VAGUE, Lesson, line_of
from omnipel.core.learning.gaussian import Normal
from omnipel.core.learning.instruments import PER_METRE, Reads, bias_before, reads
from omnipel.core.words.phrases import NOTHING, Count, Phrase, Share, Value, mm, plain, term, tr, trn

TAPE: Final = "tape"
KINDS: Final = (SEAM, HEM, TAPE, *QUILT, *CLOTH, CLEARANCE, USED)
"""In this order lines are told."""
BEFORE: Final[Mapping[str, Normal]] = {**PEOPLE, CLEARANCE: Normal(10.0, 6.0), USED: Normal(0.0, 0.1)}
"""Each kind of line before anything is known. Cloth and quilting are told with what was reckoned: they begin with what is said of them."""
DIFFERS: Final[Mapping[str, float]] = {**COVERS, CLEARANCE: 1.0, USED: 0.05}
OF_MATERIAL: Final[Mapping[str, Normal]] = {
    CLOTH[0]: Normal(0.0, 0.02),
    CLOTH[1]: Normal(0.0, 0.02),
    QUILT[0]: Normal(0.03, 0.015),
    QUILT[1]: Normal(0.03, 0.015),
}
"""What cloth shrinks and quilting takes up in all, before anything is known of a material."""
YOURS: Final[Mapping[Instrument, Phrase]] = {
    Instrument.TAPE: tr("your soft tape"),
    Instrument.RULE: tr("your steel rule"),
    Instrument.STRAIGHTEDGE: tr("your rule between straightedges"),
    Instrument.STRING: tr("your string"),
    Instrument.EYE: tr("your eye, across"),
    Instrument.TRACE: tr("your tracing"),
    Instrument.PHOTO: tr("your photos"),
}
"""Instruments as they are told of who uses them."""
FAR: Final = 3.0
"""What was seen counts with a spread that puts it no more than so many spreads from what was known."""
ENOUGH: Final = 3
"""So many covers have a middle that tells what is usual with somebody."""
SURE: Final = 1.0
"""A line is worth a proposal when zero lies so many spreads away from it at the least."""
LEAST_MM: Final = 0.3
LEAST_SHARE: Final = 0.002
"""Less is not worth a change."""


@dataclass(frozen=True)
class Line:
    """Something learnt.

    Args:
        key: what it is of.
        prior: as it was before.
        now: as it is.
        told: the jobs behind it: name, day, what each said, and its spread.
        on: whether it is used.
        per_metre: whether it is told for a metre.
        scatter: of an instrument, how far one reading scatters besides.
        jobs: how many jobs tell of it, where not each of them tells much by itself.
    """

    key: str
    prior: Normal
    now: Normal
    told: tuple[tuple[str, str, Normal], ...]
    on: bool = True
    per_metre: bool = False
    scatter: Reads | None = None
    jobs: int = 0

    @property
    def kind(self) -> str:
        """Of which kind it is."""
        return self.key.split(BETWEEN, 1)[0]

    @property
    def of(self) -> str:
        """What it is of."""
        return self.key.split(BETWEEN, 1)[1]

    @property
    def shares(self) -> bool:
        """Whether it is a share, not a length."""
        return self.kind in (*CLOTH, *QUILT, USED)

    @property
    def differs(self) -> bool:
        """Whether it is what comes out more than planned; else it is all of it."""
        return self.kind in (SEAM, HEM, TAPE, USED)

    @property
    def n(self) -> int:
        """How many jobs tell of it."""
        return max(len(self.told), self.jobs)

    @property
    def words(self) -> Phrase:
        """What it is."""
        of = term(self.of)
        match self.kind:
            case "seam":
                return tr("your seams on {cloth}", cloth=of)
            case "hem":
                return tr("your hems on {cloth}", cloth=of)
            case "cloth warp":
                return tr("{cloth} shrinks, along", cloth=cloth_words(self.of))
            case "cloth weft":
                return tr("{cloth} shrinks, across", cloth=cloth_words(self.of))
            case "quilt along":
                return tr("quilting takes up, along: {padding}", padding=of)
            case "quilt across":
                return tr("quilting takes up, across: {padding}", padding=of)
            case "tape":
                return YOURS[Instrument(self.of)]
            case "used":
                return tr("cloth used: {cloth}", cloth=cloth_words(self.of))
            case _:
                form, _, cloth = self.of.partition(BETWEEN)
                thing = FORMS[form].words if form in FORMS else plain(form)
                return tr("the gap that is right: {thing}, {cloth}", thing=thing, cloth=term(cloth))

    def amount(self, value: float) -> Value:
        """A value of it, as it is written."""
        return Share(value, 1) if self.shares else mm(value, fine=True)

    @property
    def says(self) -> Phrase:
        """What is known now, in a few words."""
        much = self.amount(abs(self.now.mean))
        more = self.now.mean > 0.0
        match self.kind:
            case "seam" | "hem":
                return tr("{much} deeper", much=much) if more else tr("{much} shallower", much=much)
            case "tape":
                if self.per_metre:
                    much = tr("{much} in every {metre}", much=much, metre=mm(PER_METRE))
                return tr("reads {much} long", much=much) if more else tr("reads {much} short", much=much)
            case "used":
                return tr("{much} more than planned", much=much) if more else tr("{much} less than planned", much=much)
            case _:
                return tr("{much}", much=self.amount(self.now.mean))

    @property
    def evidence(self) -> Phrase:
        """After how many covers, and in which range."""
        low, high = self.now.range
        return trn(
            "{n} cover, {low} to {high}", "{n} covers, {low} to {high}", self.n, low=self.amount(low), high=self.amount(high)
        )

    @property
    def scatters(self) -> Phrase:
        """How far one reading of an instrument scatters, against what is said of it."""
        how = self.scatter
        if how is None:
            return NOTHING
        return tr(
            "one reading scatters {times} times what is said of it ({low} to {high})",
            times=Count(how.times, 1),
            low=Count(how.low, 1),
            high=Count(how.high, 1),
        )

    def seen(self, told: Normal) -> Phrase:
        """What one job said of it."""
        return tr("{much} ± {by}", much=self.amount(told.mean), by=self.amount(told.sigma))

    @property
    def settled(self) -> bool:
        """Whether it is known well enough, and large enough, to be worth a change."""
        least = LEAST_SHARE if self.shares else LEAST_MM
        return self.on and self.n > 0 and abs(self.now.mean) > max(least, SURE * self.now.sigma)


@dataclass(frozen=True)
class Experience:
    """All that a shop has learnt, by line."""

    lines: Mapping[str, Line] = field(default_factory=dict)

    def line(self, key: str) -> Line | None:
        """A line that is switched on, and that any job tells of."""
        found = self.lines.get(key)
        return found if found is not None and found.on and found.n else None

    def known(self, job: Job) -> Known:
        """What is known beforehand of the errors of a job's cover."""
        made = {}
        for key in PEOPLE:
            line = self.line(line_of(key, job))
            if line is not None and key in (SEAM, HEM):
                made[key] = line.now
        return Known(made)


def experience(
    lessons: Sequence[tuple[int, Lesson]], off: Collection[str] = (), forgotten: Mapping[str, Collection[int]] | None = None
) -> Experience:
    """What a shop has learnt from the lessons of its jobs, by their numbers; `forgotten` are the jobs that no longer count for a line."""
    gone = forgotten or {}
    seen: dict[str, list[tuple[str, str, Normal]]] = {}
    for job, one in lessons:
        for key, (mean, sigma) in one.told.items():
            if job not in gone.get(key, ()):
                seen.setdefault(key, []).append((one.name, one.day, Normal(mean, sigma)))
    lines = {}
    for key, told in sorted(seen.items()):
        kind = key.split(BETWEEN, 1)[0]
        prior = OF_MATERIAL.get(kind) or BEFORE[kind]
        now = prior
        middle = median([normal.mean for _, _, normal in told]) if len(told) >= ENOUGH else prior.mean
        for _, _, normal in told:
            # Far from all that people do, and from what one's other covers tell: an accident, or a slip of the pen.
            blur = max(normal.sigma, min(abs(normal.mean - known) for known in (prior.mean, middle)) / FAR)
            now = now.and_seen(Normal(normal.mean, (blur**2 + DIFFERS[kind] ** 2) ** 0.5))
        lines[key] = Line(key, prior, now, tuple(told), key not in off)
    lines |= _tapes(lessons, off, gone)
    return Experience({key: lines[key] for key in sorted(lines, key=lambda key: (KINDS.index(lines[key].kind), key))})


def _tapes(lessons: Sequence[tuple[int, Lesson]], off: Collection[str], gone: Mapping[str, Collection[int]]) -> dict[str, Line]:
    """The lines of instruments: their biases are solved together."""
    made = {}
    for instrument, how in reads([one.checked for _, one in lessons]).items():
        key = f"{TAPE}{BETWEEN}{instrument.value}"
        kept = [(job, one) for job, one in lessons if job not in gone.get(key, ())]
        if len(kept) < len(lessons):
            how = reads([one.checked for _, one in kept]).get(instrument, how)  # noqa: PLW2901
        prior = bias_before(instrument)
        told = tuple((one.name, one.day, alone) for _, one in kept if (alone := _alone(one, instrument)) is not None)
        if told or how.n:
            share = prior.sigma > 0.0 and instrument in (Instrument.EYE, Instrument.PHOTO)
            jobs = sum(_tells(one, instrument) for _, one in kept)
            made[key] = Line(key, prior, how.bias, told, key not in off, per_metre=share, scatter=how, jobs=jobs)
    return made


def _tells(one: Lesson, instrument: Instrument) -> bool:
    """Whether a job tells anything of an instrument."""
    names = one.checked.names
    return instrument.value in names and one.checked.weight[(i := names.index(instrument.value))][i] > 0.0


def _alone(one: Lesson, instrument: Instrument) -> Normal | None:
    """What one job says of an instrument."""
    prior = bias_before(instrument)
    found = reads([one.checked]).get(instrument)
    alone = found.bias.without(prior) if found is not None else None
    return alone if alone is not None and alone.sigma < VAGUE * prior.sigma else None
