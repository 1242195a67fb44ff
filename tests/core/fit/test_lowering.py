"""Lowering a cover: the least gap on the way is what *goes on* tells, and a cover that is too small jams where it says."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.fit.going_on import Fit
from omnipel.core.fit.lowering import Lowering, lowering
from omnipel.core.job.document import Job
from omnipel.shop.starter import starter


def lowered(job: Job) -> tuple[Drafted, Fit, Lowering] | None:
    """A job's cover on its way; None where it passes over nothing."""
    made = draft(job)
    if not isinstance(made, Drafted) or not isinstance(made.fit, Fit):
        return None
    return made, made.fit, lowering(made.body, made.cover, made.fit, job.readings, job.cover.sewing_sigma)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@given(data=st.data())
@tried(6)
def test_the_least_gap_on_the_way_is_that_of_going_on(form: str, scheme: str, data: st.DataObject) -> None:
    found = lowered(data.draw(wild_jobs(form, scheme)))
    if found is None:
        return
    _, fit, way = found
    assert way.gaps.min() == pytest.approx(fit.tightest.clearance, abs=0.02)
    # Where it is tightest is one place: on the curve and in what *goes on* says, but for other places with as little left.
    if abs(way.depths[way.tightest] - fit.tightest.past) > 1.0:
        assert (way.gaps < way.gaps.min() + 0.02).sum() > 1
    assert way.lowered[0] == pytest.approx(0.0)
    assert way.lowered[-1] == pytest.approx(1.0)
    assert (np.diff(way.lowered) >= 0.0).all()
    assert (way.sigmas >= 0.0).all()
    assert (way.jams is not None) == bool((way.gaps < 0.0).any())


def test_a_cover_that_is_too_small_jams_at_the_belly_and_a_bag_takes_its_thing_from_above() -> None:
    job = starter("turned", "bands")
    found = lowered(replace(job, cover=replace(job.cover, clearance=replace(job.cover.clearance, amount=12.0))))
    assert found is not None
    made, _, way = found
    if way.jams is not None:
        assert way.gaps[way.jams] < 0.0
        assert way.gaps[: way.jams].min() >= 0.0
    bag = lowered(starter("drum", "plain-bag"))
    assert bag is not None
    assert bag[0].cover.from_below
    assert bag[2].gaps.min() == pytest.approx(bag[1].tightest.clearance, abs=0.02)
    assert made.cover.profile
