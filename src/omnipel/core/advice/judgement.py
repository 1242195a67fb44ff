"""Everything there is to say about a draft, stops first."""

from collections.abc import Iterable, Sequence
from typing import Final

from omnipel.core.advice import byhand, making, passing, readings, sense
from omnipel.core.advice.sticking import sticking_out
from omnipel.core.covers.scheme import Cover, Scheme
from omnipel.core.drafting.seams import Trued
from omnipel.core.fit.going_on import Fit, NoPassage
from omnipel.core.fit.sewn import Sewn
from omnipel.core.forms.body import Body
from omnipel.core.forms.form import Form, Measured
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Finding, Severity

ORDER: Final = (Severity.STOP, Severity.OPEN, Severity.LOOK, Severity.NOTE)


def of_measured(job: Job, measured: Measured) -> list[Finding]:
    """What there is to say about what was measured."""
    return [
        *readings.again(job, measured.places),
        *readings.repeats(job, measured.places),
        *readings.contradictions(job, measured),
        *readings.doubts(job, measured),
        *readings.traced(job),
    ]


def of_drafted(
    job: Job,
    form: Form,
    scheme: Scheme,
    measured: Measured,
    body: Body,
    cover: Cover,
    seams: Sequence[Trued],
    fit: Fit | NoPassage,
    in_space: Sewn,
) -> tuple[Finding, ...]:
    """What there is to say about a whole draft."""
    found = [
        *of_measured(job, measured),
        *sense.panels(job, scheme, cover),
        *cover.findings,
        *making.drops(job, measured),
        *making.sloping(form, scheme, body),
        *sticking_out(job, form, measured, body, cover),
        *passing.passing(job, fit, {place.key: place.words for place in measured.places}),
        *making.seams(job, cover, seams),
        *making.broken(job, cover, seams, in_space),
        *byhand.unknown(job, cover),
        *byhand.unfit(job, cover, seams, in_space),
        *making.cloth(job, cover),
        *sense.beyond_sense(job, scheme, cover),
        *sense.loose(job, scheme, cover, isinstance(fit, Fit)),
    ]
    return in_order(byhand.led(found, cover.stood_in))


def in_order(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings, worst first."""
    return tuple(sorted(findings, key=lambda finding: ORDER.index(finding.severity)))
