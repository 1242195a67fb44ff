"""The half-section and the ruler edge: what they show is what was drafted."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.jobs import drum

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.pictures.halfsection import half_section
from omnipel.core.pictures.ticks import ticks
from omnipel.core.words.units import MM_PER_INCH, Unit
from omnipel.shop.starter import starter


@given(st.floats(400.0, 4000.0), st.floats(150.0, 1500.0), st.floats(4.0, 40.0))
def test_across_a_drum_the_gap_is_the_one_that_was_chosen(girth: float, height: float, clearance: float) -> None:
    made = draft(drum(girth, height, c=clearance))
    assert isinstance(made, Drafted)
    section = half_section(made.cover, made.body)
    level = shapely.LineString([(-1.0, height * 0.5), (girth, height * 0.5)])
    across = section.gap().intersection(level)
    thick = made.job.cover.cloth.thickness
    assert across.length == pytest.approx(clearance + thick / 2.0, abs=0.003 * girth / 6.28 + 0.2)  # facets of a round thing
    assert section.object.intersection(level).length == pytest.approx(girth / (2.0 * np.pi), rel=0.02)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_cover_is_cut_through_with_its_object(form: str, scheme: str) -> None:
    job = starter(form, scheme)
    made = draft(replace(job, thing=replace(job.thing, sticks_out=())))  # what sticks out may come through
    assert isinstance(made, Drafted)
    section = half_section(made.cover, made.body)
    assert section.object.area > 0.0
    assert section.cover
    assert all((line[:, 0] > -1e-6).all() for line in section.cover)
    gap = section.gap()
    assert gap.intersection(section.object).area <= 1e-6 * section.object.area
    # The cloth never runs through the object.
    inner = section.object.buffer(-3.0)
    inside = sum(shapely.LineString(line).intersection(inner).length for line in section.cover)
    if scheme == "padded-case":
        return  # a taut cover over the clips that stand on a case is sketched level
    assert inside <= 0.01 * sum(shapely.LineString(line).length for line in section.cover), (form, scheme)
    up = section.raised(10.0)
    assert [line[0, 1] - 10.0 for line in up.cover] == pytest.approx([line[0, 1] for line in section.cover])
    assert section.raised(10.0, object_too=True).object.bounds[1] == pytest.approx(section.object.bounds[1] + 10.0)


@given(st.floats(-500.0, 500.0), st.floats(1.0, 3000.0), st.floats(0.2, 60.0), st.sampled_from([Unit.MM, Unit.CM, Unit.INCH_16]))
def test_ticks_lie_on_the_tape_and_never_closer_than_can_be_told_apart(
    first: float, wide: float, least: float, unit: Unit
) -> None:
    found = list(ticks(first, first + wide, least, unit))
    at = np.array([place for place, _ in found])
    assert (np.diff(at) >= least * 0.999).all() or len(at) < 2
    large = [place for place, rank in found if rank == 2]
    one = MM_PER_INCH if unit is Unit.INCH_16 else 10.0
    assert all(abs(place / one - round(place / one)) < 1e-6 for place in large)
