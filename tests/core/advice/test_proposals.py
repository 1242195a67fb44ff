"""Proposals: each has a reason, can be taken, is gone when taken, and never takes itself."""

from dataclasses import replace

import pytest

from omnipel.core.advice.proposals import proposals
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.core.job.changes import changed
from omnipel.core.job.thing import ComesOff, Lives
from omnipel.shop.starter import starter


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@pytest.mark.parametrize("lives", Lives)
@pytest.mark.parametrize("off", ComesOff)
def test_every_proposal_can_be_taken(form: str, scheme: str, lives: Lives, off: ComesOff) -> None:
    job = starter(form, scheme)
    job = replace(job, thing=replace(job.thing, lives=lives, comes_off=off))
    for proposal in proposals(job):
        assert str(proposal.reason).endswith(".")
        taken = changed(job, *proposal.changes)
        assert taken != job
        assert proposal.words not in [p.words for p in proposals(taken)]
        assert draft(taken).panels


def test_a_sloping_front_proposes_shaped_ends() -> None:
    from omnipel.core.job.document import with_reading
    from omnipel.core.job.reading import Reading

    job = with_reading(starter("box", "saddle-and-ends"), Reading(place="front_height", repeats=(400.0,)))
    assert "Traced ends" in str(proposals(job)[0].words)
