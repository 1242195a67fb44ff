"""Drafts that were made lately: which of them hold for another job."""

from dataclasses import replace

import numpy as np
import pytest
from tests.core.cloth.test_lays import drafted_of, sample

from omnipel.core.draft import draft
from omnipel.core.drafts import Drafts, relaid
from omnipel.core.job.document import LayChoice
from omnipel.core.job.laying import Placed, Remnant, Spread

LAYS = (
    LayChoice(spread=Spread.FOLDED),
    LayChoice(gap=30.0, ends=80.0, match=("wall closing",)),
    LayChoice(pieces=(Remnant(id="7", length=800.0, width=700.0),), placed=(Placed(piece="lid", x=40.0, on="7", locked=True),)),
)


@pytest.mark.parametrize("lay", LAYS, ids=["folded", "spaced", "placed"])
@pytest.mark.parametrize("name", ["Honey extractor", "Press motor", "Bench cushion"])
def test_a_draft_holds_for_a_job_that_lies_otherwise_and_is_what_would_be_drafted(name: str, lay: LayChoice) -> None:
    job = sample(name)
    known, other = drafted_of(job), replace(job, lays={**job.lays, "outer": lay})
    again, fresh = Drafts().of(other), drafted_of(other)
    held = relaid(known, other)
    assert held is not None
    assert held.job == again.job == other
    assert held.findings == fresh.findings
    for mine, theirs in zip(held.panels, fresh.panels, strict=True):
        assert mine.name == theirs.name
        assert np.array_equal(mine.sew_points, theirs.sew_points)
    lately = Drafts()
    lately.keep(known)
    assert lately.of(other).panels[0] is known.panels[0]


def test_no_draft_holds_for_a_job_of_which_anything_else_differs() -> None:
    job = sample("Honey extractor")
    known = draft(job)
    assert relaid(known, job) is known
    for other in (
        replace(job, copies=job.copies + 1),
        replace(job, readings=job.readings[:-1]),
        replace(job, cover=replace(job.cover, cloth=replace(job.cover.cloth, thickness=2.0))),
    ):
        assert relaid(known, replace(other, lays={"outer": LAYS[0]})) is None
