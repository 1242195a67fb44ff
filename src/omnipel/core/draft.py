"""From a job to its draft: the whole pipeline, short enough to read at a glance."""

import logging
from dataclasses import dataclass, replace

from omnipel.core.advice.byhand import led
from omnipel.core.advice.judgement import in_order, of_drafted, of_measured
from omnipel.core.advice.readings import doubtful, missing
from omnipel.core.covers import SCHEMES, schemes_for
from omnipel.core.covers.eased import directions, eased
from omnipel.core.covers.scheme import Cover, Scheme
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Trued, alike, true, with_marks
from omnipel.core.finishing.altering.deeds import with_alterations
from omnipel.core.finishing.completed import completed, of_use
from omnipel.core.finishing.inward import Inward
from omnipel.core.fit.going_on import Fit, NoPassage, doubted, going_on
from omnipel.core.fit.sewn import Sewn, sewn
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import Body, Standing, standing
from omnipel.core.forms.form import Form, Measured
from omnipel.core.forms.measuring import MissingReading, measure
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change, Finding, Impossible, Remedy, Severity
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, tr
from omnipel.core.words.working import Worked


@dataclass(frozen=True)
class NotYet:
    """No cover yet: readings are missing or sizes impossible; the findings say why. `body` is there as far as the thing is known."""

    job: Job
    measured: Measured | None
    body: Body | None
    findings: tuple[Finding, ...]

    @property
    def panels(self) -> tuple[Panel, ...]:
        """None yet."""
        return ()

    @property
    def seams(self) -> tuple[Trued, ...]:
        """None yet."""
        return ()

    @property
    def stops(self) -> bool:
        """Nothing can be cut."""
        return True


@dataclass(frozen=True)
class Drafted:
    """All that follows from a job.

    Args:
        job: what was decided and measured.
        measured: what the readings come to.
        body: the measured object.
        cover: panels with their marks, seams, sizes.
        seams: walked.
        fit: whether it goes on.
        findings: what there is to say, stops first.
        sewn: the cover as it is sewn, measured in space.
        doubtful: places of readings that are in doubt until a person decides.
    """

    job: Job
    measured: Measured
    body: Body
    cover: Cover
    seams: tuple[Trued, ...]
    fit: Fit | NoPassage
    findings: tuple[Finding, ...]
    sewn: Sewn
    doubtful: frozenset[str] = frozenset()

    @property
    def panels(self) -> tuple[Panel, ...]:
        """The panels, with their marks."""
        return self.cover.panels

    @property
    def stops(self) -> bool:
        """Whether a finding says: do not cut."""
        return any(finding.severity is Severity.STOP for finding in self.findings)

    def rests_on_doubt(self, *numbers: Worked) -> tuple[str, ...]:
        """The readings in doubt that numbers rest on."""
        sources = {place for number in numbers for place in number.slopes}
        return tuple(sorted(self.doubtful & sources))


Draft = Drafted | NotYet


def draft(job: Job) -> Draft:
    """Draft a job. The same job always gives the same draft; nothing is ever raised: a fault of ours is a finding that says so."""
    try:
        return _drafted(job)
    except Exception as error:  # whatever it is, it must not take the window, or a batch of jobs, with it
        logging.getLogger(__name__).exception("a fault while drafting")
        text = tr(
            "This cover cannot be drafted: something went wrong inside Omnipel ({fault}). What you measured and decided is kept.",
            fault=Name(f"{type(error).__name__}: {error}"[:120]),
        )
        return NotYet(job, None, None, (Finding("our-fault", Severity.STOP, text, refs.of_job("name")),))


def _drafted(job: Job) -> Draft:
    measured, body, brief = None, None, None
    try:
        form, scheme = chosen(job)
        measured = measure(form, job.readings, job.thing, job.unit)
        body = form.build(measured)
        choices = of_use(job.cover, scheme)
        brief = scheme.brief(choices)
        seen = eased(body, choices, scheme.without)
        begun = replace(scheme.draft(seen, brief), directions=frozenset(directions(body, choices, scheme.without)))
        cover = completed(begun, choices, scheme, where_served(body, job), Inward(scheme, brief, seen))
        cover = with_alterations(cover, job.alterations, choices)
    except MissingReading as open_:
        return NotYet(job, None, None, in_order(missing(open_)))
    except Impossible as impossible:
        found = of_measured(job, measured) if measured is not None else []
        stood_in = brief.stood_in if brief is not None else {}
        return NotYet(job, measured, body, in_order([*led([_refused(impossible)], stood_in), *found]))
    groups = alike(cover.seams, cover.panel_of)
    seams = tuple(true(group[0], cover.flat, letters(i), group) for i, group in enumerate(groups))
    marked = replace(cover, panels=with_marks(cover.panels, cover.panel_of, seams, job.cover.clips))
    fit = going_on(body, marked, job.readings, job.cover.sewing_sigma)
    in_doubt = doubtful(job, measured)
    if in_doubt and isinstance(fit, Fit):
        others = other_bodies(job, form, measured)
        fit = doubted(fit, [(other, marked) for other in others], sorted(in_doubt), job.readings, job.cover.sewing_sigma)
    in_space = sewn(seen, marked, seams, closely=bool(job.cover.overrides))
    if not scheme.follows(body):
        # It is cut as if the body were another, which is said: how near it comes is no promise of its own.
        in_space = replace(in_space, nearest=None)
    findings = of_drafted(job, form, scheme, measured, body, marked, seams, fit, in_space)
    return Drafted(job, measured, body, marked, seams, fit, findings, in_space, in_doubt)


def where_served(body: Body, job: Job) -> Standing:
    """Where what comes out through a port stands and which way it points, by its id."""
    served = {feature.serves for feature in job.cover.features if feature.serves}
    return standing(body, (thing for thing in job.thing.sticks_out if thing.id in served)) if served else {}


def other_bodies(job: Job, form: Form, measured: Measured) -> list[Body]:
    """What the thing may be instead, while readings contradict: one body for each suspect that was believed."""
    made: list[Body] = []
    for found in measured.contradictions:
        for suspect in found.suspects[1:]:
            believed = tuple(replace(r, set_aside=r.set_aside or r.place == suspect.place) for r in job.readings)
            try:
                made.append(form.build(measure(form, believed, job.thing, job.unit)))
            except Impossible:
                continue
    return made


def chosen(job: Job) -> tuple[Form, Scheme]:
    """Form and scheme of a job.

    Raises:
        Impossible: one is unknown, or they do not go together.
    """
    form, scheme = FORMS.get(job.thing.form), SCHEMES.get(job.cover.scheme)
    if form is None:
        raise Impossible(tr("there is no form named “{form}”", form=Name(job.thing.form)), refs.thing("form"))
    remedies = [
        Remedy(tr("Use {scheme}", scheme=s.words), (Change(refs.SCHEME, s.key), Change(refs.option(), {})))
        for s in schemes_for(form)
    ]
    if scheme is None:
        raise Impossible(tr("there is no scheme named “{scheme}”", scheme=Name(job.cover.scheme)), refs.SCHEME, *remedies)
    if not scheme.serves_form(form):
        text = tr("the scheme “{scheme}” does not serve the form “{form}”", scheme=scheme.words, form=form.words)
        raise Impossible(text, refs.SCHEME, *remedies)
    return form, scheme


def _refused(impossible: Impossible) -> Finding:
    severity = Severity.OPEN if impossible.code == "outline-missing" else Severity.STOP
    return Finding(impossible.code, severity, tr("{fault}.", fault=impossible.text), impossible.where, impossible.remedies)


def letters(i: int) -> str:
    """A, B … Z, AA, AB …: the letter of a seam's match marks.

    >>> [letters(i) for i in (0, 25, 26, 27)]
    ['A', 'Z', 'AA', 'AB']
    """
    return (letters(i // 26 - 1) if i >= 26 else "") + chr(ord("A") + i % 26)
