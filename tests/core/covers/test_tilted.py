"""Boxes that slope to the front, taper to the left, or both, under five panels: the gap is the same all over."""

import math
from dataclasses import replace

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from tests.core.space.test_promises import a_surface, clears, closes, keeps_lengths, one_truth
from tests.wild import tried

from omnipel.core.covers import SCHEMES, following
from omnipel.core.draft import Drafted, draft
from omnipel.core.forms import FORMS
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Face, SticksOut
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


def measured(scheme: str = "five-panels", **readings: float) -> Job:
    """The sample box 512 × 287 × 633 with further readings."""
    base = starter("box", scheme, Unit.MM)
    taken = {r.place: r for r in base.readings} | {k: Reading(place=k, repeats=(v,)) for k, v in readings.items()}
    return replace(base, readings=tuple(taken.values()))


def made(job: Job) -> Drafted:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), drafted.findings
    return drafted


@tried(40)
@example(
    box=(876.1143254131614, 191.90955832566922, 390.6955176273175),
    ends=(0.985088092040052, 1.0, 0.8453639104665311),
    more=(0.88, 0.0),
)
@example(box=(150.0, 120.0, 151.0), ends=(0.5, 0.5, 0.985), more=(0.6, 0.0))
@given(
    st.tuples(st.floats(150.0, 1200.0), st.floats(120.0, 900.0), st.floats(150.0, 900.0)),
    st.tuples(st.floats(0.3, 1.0), st.floats(0.5, 1.0), st.floats(0.5, 1.0)),
    st.tuples(st.floats(0.6, 0.9), st.sampled_from([0.0, 12.0, 40.0])),
)
def test_every_promise_is_kept_over_unequal_ends_and_a_low_front(
    box: tuple[float, float, float], ends: tuple[float, float, float], more: tuple[float, float]
) -> None:
    long, wide, high = box
    job = measured(
        length=long, width=wide, height=high, left_width=wide * ends[0], left_height=high * ends[1], front_height=high * ends[2]
    )
    job = replace(job, cover=replace(job.cover, clearance=replace(job.cover.clearance, amount=more[1])))
    drafted = draft(job)
    if not isinstance(drafted, Drafted):
        assert [f.where.id for f in drafted.findings if f.severity == "stop"]
        return
    for kept in (a_surface, keeps_lengths, closes, clears, one_truth):
        kept(drafted)
    assert drafted.sewn.nearest is not None
    assert drafted.sewn.nearest.gap == pytest.approx(
        drafted.sewn.nearest.promised, abs=1e-6
    )  # it lies along the object everywhere
    assert "slope-ignored" not in [f.code for f in drafted.findings]
    assert drafted.fit.tightest.left >= 2.0 * more[1] - 1e-6  # type: ignore[union-attr]


def test_a_knob_on_a_sloping_top_is_cleared() -> None:
    base = measured(left_height=450.0, front_height=560.0)
    knob = SticksOut(name="knob", from_top=0.0, reach=60.0, size=50.0, face=Face.TOP)
    drafted = made(replace(base, thing=replace(base.thing, sticks_out=(knob,))))
    clears(drafted)
    assert drafted.sewn.nearest is not None
    assert drafted.sewn.nearest.gap >= drafted.sewn.nearest.promised - 1e-6


def test_its_sizes_are_those_of_pencil_and_paper() -> None:
    """The top falls by m to the left: over the right end, u further out, it is u·m higher, and u·√(1 + m²) above the object."""
    u = 12.25
    drafted = made(measured(left_height=450.0))
    sizes = {p.name: (p.length.value, p.width.value, p.count, p.mirrored) for p in drafted.panels}
    m = (633.0 - 450.0) / 512.0
    rise = math.hypot(1.0, m)
    assert sizes["right wall"] == (pytest.approx(287.0 + 2 * u), pytest.approx(633.0 + u * m + u * rise), 1, False)
    assert sizes["left wall"] == (pytest.approx(287.0 + 2 * u), pytest.approx(450.0 - u * m + u * rise), 1, False)
    assert sizes["long wall"] == (pytest.approx(512.0 + 2 * u), pytest.approx(633.0 + u * m + u * rise), 2, True)
    assert sizes["top"][:2] == (pytest.approx((512.0 + 2 * u) * rise), pytest.approx(287.0 + 2 * u))

    drafted = made(measured(left_width=187.0))
    sizes = {p.name: (p.length.value, p.width.value, p.count, p.mirrored) for p in drafted.panels}
    s = 50.0 / 512.0
    slant = math.hypot(1.0, s)
    assert sizes["long wall"] == (pytest.approx((512.0 + 2 * u) * slant), pytest.approx(633.0 + u), 2, True)
    assert sizes["left wall"][0] == pytest.approx(187.0 + 2 * u * (slant - s))
    assert sizes["right wall"][0] == pytest.approx(287.0 + 2 * u * (slant + s))


def test_what_does_not_follow_unequal_ends_says_so_and_is_not_offered() -> None:
    drafted = made(measured("wall-and-top", left_width=150.0))
    finding = next(f for f in drafted.findings if f.code == "slope-ignored")
    assert "left end" in str(finding.text)
    assert made(changed(drafted.job, *finding.remedies[0].changes)).job.cover.scheme == "five-panels"
    assert [scheme.key for scheme in following(FORMS["box"], drafted.body)] == ["five-panels"]
    assert SCHEMES["five-panels"].follows(drafted.body)


@pytest.mark.parametrize(("place", "value"), [("left_width", 400.0), ("left_height", 700.0)])
def test_a_left_end_larger_than_the_right_one_is_to_be_looked_at_from_the_other_side(place: str, value: float) -> None:
    drafted = draft(measured(**{place: value}))
    assert not isinstance(drafted, Drafted)
    assert place in [f.where.id for f in drafted.findings]


def test_a_girth_around_unequal_ends_checks_the_tape() -> None:
    """Around: both ends and both slanted sides, by Pythagoras."""
    around = 287.0 + 187.0 + 2.0 * math.hypot(512.0, 50.0)
    good = made(measured(left_width=187.0, girth=around))
    assert not [f for f in good.findings if f.code.startswith("readings")]
    bad = draft(measured(left_width=187.0, girth=around + 100.0))
    assert [f for f in bad.findings if f.code.startswith("readings")]
