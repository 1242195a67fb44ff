"""Jobs with one feature."""

from dataclasses import replace
from typing import Any

from tests.jobs import drum

from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.document import Job
from omnipel.core.job.feature import Feature


def put(kind: str, host: Job | None = None, *, own: dict[str, Any] | None = None, **more: Any) -> Job:
    """A drum (or another job) with one feature; on its front unless it is said otherwise."""
    base = host or drum()
    feature = Feature(kind=kind, name="it", options=own or {}, **{"from_top": 300.0, **more})
    return replace(base, cover=replace(base.cover, features=(feature,)))


def made(job: Job) -> Drafted:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), drafted.findings
    return drafted


def named(drafted: Drafted, name: str) -> Panel:
    return next(panel for panel in drafted.panels if panel.name == name)
