"""What is offered where no single step leads on."""

from dataclasses import replace

import pytest

from omnipel.core.draft import draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import ClearanceSchool, Job, Override, with_reading
from omnipel.core.job.findings import Act, Change, Severity
from omnipel.core.job.reading import Reading
from omnipel.core.remedies import advised
from omnipel.core.words import refs
from omnipel.core.words.units import Unit
from omnipel.shop.document import lawful
from omnipel.shop.starter import starter


def with_size(job: Job, name: str, value: float) -> Job:
    return changed(job, Change(refs.by_hand(), Override(size=name, value=value, reason="a remnant"), Act.ADD))


def wider_above() -> Job:
    """A turned body whose cover has to pass over what is wider above, and a gore that is set by hand and cannot be."""
    job = starter("turned", "gores")
    for place, girth in (("girth.1", 2388.0), ("girth.2", 2576.0)):
        job = with_reading(job, Reading(place=place, repeats=(girth,)))
    kept = tuple(r for r in job.readings if r.place in ("girth.1", "girth.2", "height.2"))
    return with_size(replace(job, readings=kept), "half_width_at_base", 1000.0)


def twelve_girths_wide() -> Job:
    """A gap of twelve times the girth, typed as a length, and a strip that fits nothing."""
    job = starter("wheel", "wheel-cap", Unit.INCH_16)
    return with_size(changed(job, Change(refs.CLEARANCE_SCHOOL, ClearanceSchool.GIRTH)), "boxing_sew_length", 688.0)


@pytest.mark.parametrize("job", [wider_above(), twelve_girths_wide()], ids=["one after the other", "all at once"])
def test_where_no_single_step_leads_on_several_are_taken_together(job: Job) -> None:
    found = next(f for f in advised(draft(job), lawful).findings if f.code == "seam-not-true")
    assert found.remedies
    assert len({str(remedy.words) for remedy in found.remedies}) == len(found.remedies)
    for remedy in found.remedies:
        single = [draft(changed(job, change)) for change in remedy.changes]
        assert len(single) >= 2
        assert all(any(f.severity is Severity.STOP for f in made.findings) for made in single)
        after = draft(changed(job, *remedy.changes))
        assert "seam-not-true" not in {f.code for f in after.findings}
        assert not {f.code for f in after.findings if f.severity is Severity.STOP} - {f.code for f in draft(job).findings}
