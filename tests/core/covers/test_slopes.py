"""Every slope against differences: sizes, cut sizes, goods and girths move with each reading as they say they do."""

from collections.abc import Iterator
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.forms import FORMS
from omnipel.core.job.document import ClearanceSchool, Job
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import SticksOut
from omnipel.core.words.working import Worked
from omnipel.shop.starter import starter


def numbers(drafted: Drafted) -> Iterator[tuple[str, Worked]]:
    """Everything of a draft that carries slopes."""
    yield from drafted.cover.sizes.items()
    for panel in drafted.panels:
        yield from ((f"{panel.name} {key}", getattr(panel, key)) for key in ("length", "width", "cut_length", "cut_width"))
    for passage in drafted.cover.profile:
        yield f"girth at {passage.depth:.1f}", passage.girth
        yield from ((f"span {i} at {passage.depth:.1f}", span) for i, span in enumerate(passage.spans))
    yield from ((f"buy {h.name}", h.length) for h in drafted.cover.hardware if h.length is not None)
    yield from drafted.measured.numbers.items()


def moved(job: Job, place: str, by: float) -> Job:
    return replace(
        job,
        readings=tuple(replace(r, repeats=tuple(mm + by for mm in r.repeats)) if r.place == place else r for r in job.readings),
    )


def ordered(drafted: Drafted) -> list[tuple[str, Worked]]:
    """The same without depths in the names, which move with a height."""
    return [(name.split(" at ")[0], number) for name, number in numbers(drafted)]


WHOLE = ("gores", "excess_percent", "fasteners", "angle_total_deg", "panel_angle_deg", "edge_gather_ratio", "gather_ratio")
"""Counts, ratios and angles: they carry no slopes."""
TRACED = ("outline", "allowances")
"""What is measured on an outline has no slope of its own; what rests on it is not summed."""


def check(job: Job, near: float = 2e-4) -> int:
    """Compare every slope with a central difference; how many were compared."""
    base = draft(job)
    assert isinstance(base, Drafted), [str(f.text) for f in base.findings]
    compared = 0
    for reading in job.readings:
        h = 0.02
        up, down = draft(moved(job, reading.place, h)), draft(moved(job, reading.place, -h))
        if not (isinstance(up, Drafted) and isinstance(down, Drafted)):
            continue
        pairs = (ordered(base), ordered(up), ordered(down))
        if len({tuple(name for name, _ in pair) for pair in pairs}) > 1:
            continue  # another number of gores or fasteners: a step, no slope
        for (name, number), (_, above), (_, below) in zip(*pairs, strict=True):
            if name in WHOLE or any(term.name.template in TRACED for term in number.terms):
                continue
            found = (above.value - below.value) / (2.0 * h)
            told = number.slopes.get(reading.place, 0.0)
            # Where the difference itself has a kink within the step (a fold rounded up, a bound) both sides disagree.
            one_sided = (above.value - number.value) / h, (number.value - below.value) / h
            if abs(one_sided[0] - one_sided[1]) > 1e-3:
                continue
            assert told == pytest.approx(found, rel=near, abs=near / 10.0), (name, reading.place)
            compared += 1
    return compared


def everything_read(job: Job) -> Job:
    """The job with every place read that its parts determine, each a little off, so that all of them check one another."""
    base = draft(job)
    assert isinstance(base, Drafted)
    taken = {r.place for r in job.readings}
    values = base.measured.settled.adjusted.values
    more = []
    for i, place in enumerate(FORMS[job.thing.form].places(job.readings, job.thing)):
        would = place.would_read(values, job.unit)
        if place.key not in taken and would is not None and would > 5.0:
            more.append(Reading(place=place.key, repeats=(would + 0.3 * (-1) ** i,), instrument=place.instrument))
    return replace(job, readings=(*job.readings, *more))


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_at_the_starters(form: str, scheme: str) -> None:
    assert check(starter(form, scheme)) > 5
    # Where readings check one another the solution is straight only as far as they agree: residual × curvature is left over.
    assert check(everything_read(starter(form, scheme)), 3e-3) > 5


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_at_random_jobs(form: str, scheme: str) -> None:
    @tried(6)
    @given(
        st.lists(st.floats(0.8, 1.25), min_size=8, max_size=8),
        st.sampled_from(ClearanceSchool),
        st.floats(0.0, 12.0),
        st.booleans(),
    )
    def run(factors: list[float], school: ClearanceSchool, padding: float, knob: bool) -> None:
        job = starter(form, scheme)
        readings = tuple(replace(r, repeats=(r.repeats[0] * k,)) for r, k in zip(job.readings, factors, strict=False))
        amount = {ClearanceSchool.SIDE: 9.0, ClearanceSchool.DIMENSION: 17.0, ClearanceSchool.GIRTH: 0.04}[school]
        cover = replace(job.cover, clearance=replace(job.cover.clearance, school=school, amount=amount), padding=padding)
        things = (SticksOut(name="knob", from_top=90.0, reach=45.0, size=40.0),) if knob else ()
        check(replace(job, readings=readings, cover=cover, thing=replace(job.thing, sticks_out=things)))

    run()
