"""Slack over height and the chance of going on."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.jobs import drum

from omnipel.core.draft import draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Clearance, ClearanceSchool
from omnipel.core.job.findings import Change
from omnipel.core.job.thing import SticksOut, Treatment
from omnipel.core.words import refs


@given(st.floats(300.0, 5000.0), st.floats(0.0, 25.0), st.floats(0.0, 20.0))
def test_slack_of_a_drum_is_the_clearance_around(girth: float, c: float, t: float) -> None:
    fit = draft(drum(girth, c=c, t=t)).fit
    assert fit.tightest.slack.value == pytest.approx(2 * math.pi * c, abs=1e-6)  # thickness takes nothing away inside


def test_chance_follows_the_spread_of_reading_and_sewing() -> None:
    fit = draft(drum(1000.0, c=0.5)).fit
    sigma = math.hypot(1.5, 2.0)  # soft tape once; one closing seam off by 1 moves the girth by 2
    assert fit.sigma == pytest.approx(sigma)
    assert fit.chance == pytest.approx(0.5 * math.erfc(-math.pi / sigma / math.sqrt(2)))
    assert fit.matters_most == "girth"
    assert dict(fit.shares)["sewing"] == pytest.approx(4.0 / sigma**2)


@pytest.mark.parametrize(("c", "verdict"), [(0.0, "tight"), (2.0, "tight"), (8.0, "goes on"), (31.0, "flaps")])
def test_verdict(c: float, verdict: str) -> None:
    fit = draft(drum(c=c)).fit
    assert fit.verdict == verdict


def test_a_crank_is_measured_over_and_a_port_is_not() -> None:
    def with_crank(treatment: Treatment) -> float:
        crank = SticksOut(name="crank", from_top=100.0, reach=95.0, size=60.0, treatment=treatment)
        return draft(drum(thing={"sticks_out": (crank,)})).cover.sizes["wall_sew_length"].value

    plain = draft(drum()).cover.sizes["wall_sew_length"].value
    assert with_crank(Treatment.PORT) == plain
    r, reach = 1763.0 / (2 * math.pi), 95.0
    tip = r + reach  # a taut tape over a point: two tangents and the arc left over; the crank is a little wider
    over = 2 * (math.sqrt(tip**2 - r**2) - r * math.acos(r / tip))
    assert over < with_crank(Treatment.COVER) - plain < over + 60.0


def test_the_three_schools_of_clearance_agree() -> None:
    girth = 1500.0
    sizes = []
    for school, amount in (
        (ClearanceSchool.SIDE, 10.0),
        (ClearanceSchool.DIMENSION, 20.0),
        (ClearanceSchool.GIRTH, 10.0 * 2 * math.pi / girth),
    ):
        job = changed(drum(girth), Change(refs.choice("clearance"), Clearance(school=school, amount=amount, drop=10.0)))
        sizes.append({name: size.value for name, size in draft(job).cover.sizes.items()})
    assert sizes[0] == pytest.approx(sizes[1])
    assert sizes[0] == pytest.approx(sizes[2])
