"""One size, one measurement: what is said of a panel is what is measured on its outline, whatever was chosen or set by hand."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from tests.wild import tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line, cut_size
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, Override, RingSchool
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import FOLDED
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.words import refs
from omnipel.core.words.phrases import Voice
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()
OPEN_BELOW = [
    (form, scheme)
    for form, scheme in PAIRS
    if scheme not in ("gathered-halves", "cap", "wheel-both-faces", "wheel-cap", "drape", "sheet", "envelope", "padded-case")
]
"""Schemes whose hem is the whole edge that has to pass over the thing; elsewhere it is gathered, cut away at the axle, or there is none."""


def measured_alike(panel: Panel) -> None:
    sewn = np.ptp(panel.sew_points, axis=0)
    assert sewn == pytest.approx((panel.length.value, panel.width.value), abs=0.06), panel.name
    assert cut_size(panel) == pytest.approx((panel.cut_length.value, panel.cut_width.value), abs=0.06), panel.name
    outline = next(
        i for i in panel_drawing(panel, Voice(), 5.0).items if getattr(i, "closed", False) and i.layer.value in ("cut", "fold")
    ).points
    if panel.fold is not None:  # the half that is marked out, and what the cloth below it gives
        outline = np.vstack([outline, panel.fold.mirrored(outline)])
    assert np.ptp(outline, axis=0) == pytest.approx((panel.cut_length.value, panel.cut_width.value), abs=0.06)
    for edge in panel.edges:
        assert edge.curve.length == pytest.approx(shapely.LineString(edge.curve.points(0.001)).length, abs=0.02)


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_sizes_are_those_of_the_outline(form: str, scheme: str) -> None:
    @tried(15)
    @given(wild_jobs(form, scheme))
    def run(job: Job) -> None:
        for panel in draft(job).panels:
            measured_alike(panel)

    run()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_they_stay_so_whatever_is_set_by_hand(form: str, scheme: str) -> None:
    job = starter(form, scheme)
    plain = draft(job)
    assert isinstance(plain, Drafted)
    for name in plain.cover.by_hand:
        for k in (0.97, 1.05):
            override = Override(size=name, value=plain.cover.sizes[name].value * k, reason="a remnant")
            drafted = draft(changed(job, Change(refs.by_hand(), override, Act.ADD)))
            for panel in drafted.panels:
                measured_alike(panel)
            if (form, scheme) in OPEN_BELOW and isinstance(drafted, Drafted) and drafted.cover.profile:
                passes_what_its_hem_is_long(drafted)


def passes_what_its_hem_is_long(drafted: Drafted) -> None:
    """Goes on is reckoned with the girth of the very cloth that is cut: its open edge, less the thickness on the inside."""
    hem = sum(e.curve.length * p.count for p in drafted.panels for e in p.edges if e.finish.kind in FOLDED)
    profile, t = drafted.cover.profile, drafted.job.cover.cloth.thickness
    open_end = profile[0] if drafted.cover.from_below else profile[-1]
    layers = t + drafted.job.cover.padding
    assert open_end.girth.value == pytest.approx(hem - layers * drafted.cover.turns / 2.0, abs=0.05)


@pytest.mark.parametrize(("form", "scheme"), [("drum", "wall-and-lid"), ("box", "wall-and-top")])
def test_meet_and_trim_is_cut_longer_at_one_end_and_sewn_alike(form: str, scheme: str) -> None:
    job = starter(form, scheme)
    first, meeting = draft(job), draft(replace(job, cover=replace(job.cover, ring=RingSchool.MEET_AND_TRIM)))
    assert isinstance(first, Drafted)
    assert isinstance(meeting, Drafted)
    a, b = (next(p for p in d.panels if p.name == "wall") for d in (first, meeting))
    assert b.cut_length.value - a.cut_length.value == pytest.approx(150.0)
    assert cut_line(b)[:, 0].max() - cut_line(a)[:, 0].max() == pytest.approx(150.0, abs=1e-6)
    assert cut_line(b)[:, 0].min() == pytest.approx(cut_line(a)[:, 0].min())
    assert b.length.value == a.length.value
    assert [t.length_a for t in first.seams] == [t.length_a for t in meeting.seams]
    assert any(str(term.name) == "spare to trim" and term.value == 150.0 for term in b.cut_length.terms)
