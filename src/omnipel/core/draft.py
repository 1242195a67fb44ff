"""From a job to its draft: the whole pipeline, short enough to read at a glance."""

from dataclasses import dataclass

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.completed import completed
from omnipel.core.covers.scheme import Cover, Scheme, one_each
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Trued, true, with_marks
from omnipel.core.findings import Change, Finding, Impossible, Remedy, Severity
from omnipel.core.fit.going_on import Fit, going_on
from omnipel.core.fit.judgement import judge
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import Body, Form, MissingReading, Taken
from omnipel.core.job import Job


@dataclass(frozen=True)
class Draft:
    """All that follows from a job. Without a cover (readings are missing, sizes impossible) the findings say why."""

    job: Job
    body: Body | None
    cover: Cover
    seams: tuple[Trued, ...]
    fit: Fit | None
    findings: tuple[Finding, ...]

    @property
    def panels(self) -> tuple[Panel, ...]:
        """The panels, with their marks."""
        return self.cover.panels

    @property
    def stops(self) -> bool:
        """Whether a finding says: do not cut."""
        return any(finding.severity is Severity.STOP for finding in self.findings)


def draft(job: Job) -> Draft:
    """Draft a job. The same job always gives the same draft; nothing is ever raised for what a person may have typed."""
    body = None
    try:
        form, scheme = chosen(job)
        body = form.measure(Taken(job.readings, form.wanted(job.readings)), job.thing)
        cover = completed(scheme.draft(body, scheme.brief(job.cover)), job.cover)
    except Impossible as impossible:
        return Draft(job, body, Cover(), (), None, (*missing(job), *_refused(impossible), *judge(job, body, None, (), None)))
    panels = one_each(cover.panels)
    seams = tuple(true(seam, panels, letters(i)) for i, seam in enumerate(cover.seams))
    marked = Cover(**{**vars(cover), "panels": with_marks(cover.panels, seams, job.cover.clips)})
    fit = going_on(body, marked, job.readings, job.cover.sewing_sigma)
    return Draft(job, body, marked, seams, fit, judge(job, body, marked, seams, fit))


def chosen(job: Job) -> tuple[Form, Scheme]:
    """Form and scheme of a job.

    Raises:
        Impossible: one is unknown, or they do not go together.
    """
    form, scheme = FORMS.get(job.thing.form), SCHEMES.get(job.cover.scheme)
    if form is None:
        raise Impossible(f"there is no form named {job.thing.form!r}", "thing.form")
    serving = [s for s in SCHEMES.values() if form.key in s.forms]
    remedies = [Remedy(f"Use {s.words.lower()}", (Change("cover.scheme", s.key), Change("cover.options", {}))) for s in serving]
    if scheme is None:
        raise Impossible(f"there is no scheme named {job.cover.scheme!r}", "cover.scheme", *remedies)
    if form.key not in scheme.forms:
        raise Impossible(f"{scheme.words.lower()} does not serve a {form.words.lower()}", "cover.scheme", *remedies)
    return form, scheme


def missing(job: Job) -> tuple[Finding, ...]:
    """One finding for each needed reading that has not been taken."""
    form = FORMS.get(job.thing.form)
    wanted = form.wanted(job.readings) if form else ()
    return tuple(
        Finding("reading-missing", Severity.STOP, f"The {want.words} has not been measured yet.", f"readings.{want.place}")
        for want in wanted
        if want.needed and job.reading(want.place) is None
    )


def _refused(impossible: Impossible) -> tuple[Finding, ...]:
    if isinstance(impossible, MissingReading):
        return ()
    code = "hem-too-deep" if impossible.where == "cover.hem.width" else "size-impossible"
    text = impossible.text[0].upper() + impossible.text[1:] + "."
    return (Finding(code, Severity.STOP, text, impossible.where, impossible.remedies),)


def letters(i: int) -> str:
    """A, B … Z, AA, AB …: the letter of a seam's match marks.

    >>> [letters(i) for i in (0, 25, 26, 27)]
    ['A', 'Z', 'AA', 'AB']
    """
    return (letters(i // 26 - 1) if i >= 26 else "") + chr(ord("A") + i % 26)
