"""Rounding everything chosen: what changes is what is listed, what was measured stays, a second time changes nothing."""

from dataclasses import fields, replace
from typing import get_type_hints

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import inside, tried, wild_jobs

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.fields import FEATURE_LENGTHS, LENGTHS
from omnipel.core.covers.options import OptionKind
from omnipel.core.draft import draft
from omnipel.core.finishing.rounding import round_to, rounded, roundings, step_of
from omnipel.core.job.document import Clearance, ClearanceSchool, Closure, ClothChoice, CoverChoices, Job, Lining, Override
from omnipel.core.job.feature import Feature
from omnipel.core.job.finish import Finish
from omnipel.core.job.layers import Padded, Stiffener
from omnipel.core.words.habits import HABITS, Habits, System
from omnipel.core.words.phrases import Length, Phrase, Voice, reads_exactly
from omnipel.core.words.units import MM_PER_INCH, Unit
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
@pytest.mark.parametrize("unit", [Unit.MM, Unit.CM, Unit.INCH_16, Unit.INCH_8])
def test_a_new_job_is_round_in_its_own_unit(form: str, scheme: str, unit: Unit) -> None:
    job = starter(form, scheme, unit)
    assert roundings(job) == ()
    assert rounded(job) == job
    for option in SCHEMES[scheme].options:
        if option.kind is OptionKind.LENGTH:
            usual = option.usual(scheme, job.cover.habits)
            assert isinstance(usual, float)
            assert reads_exactly(usual, unit if unit.denominator != 8 else Unit.INCH_16, fine=not unit.denominator), option.key


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_switched_to_the_other_system_it_is_rounded_once(form: str, scheme: str) -> None:
    @tried(8)
    @given(wild_jobs(form, scheme), st.sampled_from([Unit.CM, Unit.INCH_16]))
    def run(job: Job, unit: Unit) -> None:
        job = replace(job, unit=unit)
        once = rounded(job)
        assert rounded(once) == once
        assert roundings(once) == ()
        assert (once.readings, once.thing, once.unit, once.name) == (job.readings, job.thing, job.unit, job.name)
        assert once.cover.cloth.thickness == job.cover.cloth.thickness
        assert once.cover.padding == job.cover.padding
        assert once.cover.habits.system is System.of(unit)
        step = step_of(unit)
        for name in ("seam_allowance", "closing_allowance", "padding_inset"):
            assert reads_on(getattr(once.cover, name), step)
        if job.cover.clearance.school is ClearanceSchool.GIRTH:
            assert once.cover.clearance == job.cover.clearance
        for found in roundings(job):
            assert reads_on(found.after, step), str(found.words)
            words = Voice(unit).say(found.phrase)
            assert "→" in words
            assert "_" not in words
        assert draft(once).findings is not None

    run()


def reads_on(length: float, step: float) -> bool:
    return abs(length / step - round(length / step)) < 1e-6


@given(st.floats(0.0, 3000.0), st.sampled_from([0.5, MM_PER_INCH / 16.0]))
def test_rounding_goes_to_the_nearest_step_and_never_to_nothing(length: float, step: float) -> None:
    found = round_to(length, step)
    assert reads_on(found, step)
    assert (found == 0.0) == (length == 0.0)
    assert abs(found - length) <= step / 2.0 + 1e-9 or (found == step and length < step / 2.0)
    assert round_to(-length, step) == -found


def test_a_shop_keeps_its_own_habits() -> None:
    own = Habits(system=System.INCH, own={"seam": 9.525, "wall-and-lid.cord": 6.35})
    job = starter("drum", "wall-and-lid", Unit.INCH_16, habits=own)
    assert job.cover.seam_allowance == 9.525
    assert job.cover.closing_allowance in (9.525, 12.7)
    assert SCHEMES["wall-and-lid"].brief(job.cover).number("cord") == 6.35
    other = rounded(replace(job, unit=Unit.MM))
    assert other.cover.habits == Habits(system=System.METRIC)
    assert other.cover.seam_allowance == 9.5


@pytest.mark.parametrize("name", HABITS)
def test_every_habit_is_round_in_both_systems(name: str) -> None:
    rule = HABITS[name].rule
    assert rule.metric == round(rule.metric)
    assert reads_exactly(rule.inches * MM_PER_INCH, Unit.INCH_16)
    assert abs(rule.inches * MM_PER_INCH - rule.metric) < 0.35 * rule.metric  # the same thing in both
    assert isinstance(HABITS[name].words, Phrase)
    assert not [v for v in inside(HABITS[name].words) if isinstance(v, Length)]


def test_every_length_that_is_chosen_is_rounded_and_nothing_else() -> None:
    """A length added to the job has to be put down as chosen or as measured."""
    kinds = (CoverChoices, ClothChoice, Lining, Closure, Finish, Feature, Clearance, Override, Padded, Stiffener)
    numbers = {f.name for kind in kinds for f in fields(kind) if get_type_hints(kind)[f.name] is float}
    sold = {
        "weight",
        "sold_by",
        "least",
        "piece_length",
        "repeat_along",
        "repeat_across",
        "stitch",
    }  # as the cloth is made and sold
    measured, shares = (
        {"padding", "thickness", "sewing_sigma", "seam_take", "hem_take"},
        {"gather_limit", "shrink_warp", "shrink_weft"},
    )
    chosen = {ref.part.rpartition(".")[2] for ref in LENGTHS} | set(FEATURE_LENGTHS) | {"amount", "value", "drop"}
    assert numbers - measured - shares - sold == chosen


def test_a_size_set_by_hand_is_rounded_too() -> None:
    job = starter("drum", "wall-and-lid")
    by_hand = (Override(size="drop", value=900.0, reason="reaches the step"),)
    job = replace(job, unit=Unit.INCH_16, cover=replace(job.cover, overrides=by_hand))
    assert rounded(job).cover.overrides[0].value == pytest.approx(35.4375 * MM_PER_INCH)
    assert [r.before for r in roundings(job) if r.before == 900.0]
