"""Every form: what it asks for, what it says about readings that cannot both be right, and its girth at any depth."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.jobs import job

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Draft, Drafted, draft
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import section_at
from omnipel.core.job.document import with_reading
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Outline, SticksOut, Thing
from omnipel.core.words import refs
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter

SCHEME_OF = dict(reversed(lawful_pairs()))


def drafted(form: str, **readings: float) -> Draft:
    """A starter of the form with readings put in."""
    made = starter(form, SCHEME_OF[form])
    for place, length in readings.items():
        made = with_reading(made, Reading(place=place.replace("__", "."), repeats=(length,)))
    return draft(made)


def codes(found: Draft) -> list[str]:
    return [f.code for f in found.findings]


@pytest.mark.parametrize("form", FORMS)
def test_what_is_still_to_be_measured_is_named_and_nothing_else_is_said(form: str) -> None:
    made = starter(form, SCHEME_OF[form])
    for reading in made.readings:
        without = replace(made, readings=tuple(r for r in made.readings if r.place != reading.place))
        found = draft(without)
        if isinstance(found, Drafted):  # the others are enough without it
            continue
        assert set(codes(found)) == {"reading-missing"}
        assert str(found.findings[0].text).startswith("To measure: ")
        asked = [f.where.id for f in found.findings]
        again = replace(without, readings=(*without.readings, *(Reading(place=p, repeats=(sample(form, p),)) for p in asked)))
        assert isinstance(draft(again), Drafted)


def sample(form: str, key: str) -> float:
    made = starter(form, SCHEME_OF[form])
    return next(p.sample for p in FORMS[form].places(made.readings, made.thing) if p.key == key)


@pytest.mark.parametrize(
    ("form", "readings"),
    [
        ("drum", {"across": 560.0, "drop": 655.0}),
        ("drum", {"string": 660.0, "drop": 655.0}),
        ("drum", {"girth": 1763.0, "height": 720.0, "below": 65.0}),
        ("wheel", {"across": 412.0, "width": 98.0}),
        ("wheel", {"part_girth": 1028.0, "width": 98.0}),
        ("wheel", {"stands": 412.0, "over_tread": 510.0}),
        ("cap-body", {"rim": 842.0}),
        ("cap-body", {"string": 368.0}),
        ("tub", {"across_bottom": 376.0, "girth_top": 1470.0, "slant": 363.0}),
        ("turned", {"girth.1": 2590.0, "rise": 320.0}),
        ("turned", {"across.1": 824.0, "over": 1120.0}),
        ("box", {"length": 512.0, "girth": 1598.0, "path": 1540.0}),
        ("box", {"length": 512.0, "diagonal": 587.0, "edges": 1432.0}),
        ("flat", {"length": 1830.0, "diagonal": 1993.0}),
        ("slab", {"girth": 904.0, "girth_long": 1264.0, "thickness": 22.0}),
        ("bottle", {"girth": 640.0, "height": 380.0}),
        ("bottle", {"across": 203.0, "neck_height": 250.0, "neck_across": 60.0}),
        ("case", {"length": 420.0, "girth": 1202.0, "girth_handle": 1027.0, "end_to_handle": 150.0}),
    ],
)
def test_any_sufficient_set_of_readings_drafts(form: str, readings: dict[str, float]) -> None:
    made = starter(form, SCHEME_OF[form])
    found = draft(replace(made, readings=tuple(Reading(place=k, repeats=(v,)) for k, v in readings.items())))
    assert isinstance(found, Drafted), [str(f.text) for f in found.findings]
    assert not {"readings-disagree", "reading-implausible"} & set(codes(found))
    for reading in found.job.readings:  # everything that was read moves something
        assert any(reading.place in number.slopes for number in found.measured.numbers.values())


@pytest.mark.parametrize(
    ("form", "readings", "where"),
    [
        ("drum", {"across": 500.0}, {"across", "girth"}),
        ("cap-body", {"rim": 842.0, "across": 320.0}, {"across", "rim"}),
        ("wheel", {"girth": 1295.0, "across": 380.0}, {"across", "girth"}),
        ("tub", {"slant": 420.0}, {"slant", "height"}),
        ("box", {"girth": 1700.0}, {"girth"}),
        ("box", {"path": 1700.0}, {"path"}),
        ("box", {"path": 700.0}, {"path", "height"}),
        ("bottle", {"across": 240.0}, {"across", "girth"}),
        ("traced", {"height": 400.0}, {"height"}),
    ],
)
def test_readings_that_cannot_both_be_right(form: str, readings: dict[str, float], where: set[str]) -> None:
    found = [f for f in drafted(form, **readings).findings if f.code == "readings-disagree"]
    assert len(found) == 1
    assert found[0].where.id in where
    assert any(character.isdigit() for character in str(found[0].text))
    assert found[0].remedies


@pytest.mark.parametrize(
    ("form", "readings"),
    [
        ("drum", {"across": 1763.0 / math.pi}),
        ("tub", {"slant": math.hypot(360.0, 290.0 / (2 * math.pi))}),
        ("box", {"girth": 2 * (512.0 + 287.0), "path": 2 * 633.0 + 287.0}),
        ("bottle", {"across": 640.0 / math.pi}),
        ("traced", {"height": 262.0}),
    ],
)
def test_readings_that_agree_say_nothing(form: str, readings: dict[str, float]) -> None:
    assert "readings-disagree" not in codes(drafted(form, **readings))


@pytest.mark.parametrize(
    ("form", "readings", "where"),
    [
        ("turned", {"height__2": 450.0, "girth__3": 1500.0, "height__3": 300.0}, refs.reading("height.3")),
        ("bottle", {"neck_height": 500.0, "neck": 190.0}, refs.reading("neck_height")),
        ("bottle", {"neck_height": 250.0, "neck": 900.0}, refs.reading("neck")),
        ("box", {"front_height": 900.0}, refs.reading("front_height")),
    ],
)
def test_impossible_bodies_are_said_at_their_reading(form: str, readings: dict[str, float], where: str) -> None:
    found = drafted(form, **readings)
    assert not found.panels
    assert where in [f.where for f in found.findings if f.code == "size-impossible"]


def test_a_tape_over_the_clips_checks_length_and_depth() -> None:
    plain, over = drafted("case"), drafted("case", girth=1204.0)
    assert over.cover.sizes["tube_finished_length"].value == pytest.approx(
        plain.cover.sizes["tube_finished_length"].value, abs=5.0
    )
    wrong = drafted("case", girth=1300.0)
    assert "readings-disagree" in codes(wrong)
    assert wrong.cover.sizes["tube_finished_length"].value == pytest.approx(
        plain.cover.sizes["tube_finished_length"].value, abs=5.0
    )


def test_marks_ask_for_one_more_as_they_are_taken() -> None:
    form, thing = FORMS["turned"], Thing(form="turned")
    places = [p.key for p in form.places((), thing) if p.asked]
    assert places == ["girth.1", "girth.2", "height.2", "girth.3", "height.3", "rise"]
    taken = [Reading(place=p, repeats=(100.0,)) for p in ("girth.1", "girth.2", "height.2", "girth.3", "height.3")]
    assert "girth.4" in [p.key for p in form.places(taken, thing)]
    assert [p.key for p in form.parts(taken, thing) if p.needed] == [
        "diameter.1",
        "diameter.2",
        "height.2",
        "diameter.3",
        "height.3",
    ]
    dome = [Reading(place="girth.1", repeats=(900.0,)), Reading(place="rise", repeats=(50.0,))]
    assert [p.key for p in form.parts(dome, thing) if p.needed] == ["diameter.1"]


def test_a_traced_job_that_was_never_traced_drafts_nothing() -> None:
    made = starter("traced", "traced-ends", with_readings=False)
    assert made.thing.outline is None
    found = draft(replace(made, readings=(Reading(place="width", repeats=(480.0,)),)))
    assert not found.panels
    assert codes(found) == ["outline-missing"]


def test_a_tracing_of_another_scale_contradicts_the_tape() -> None:
    found = drafted("traced", height=131.0, deep=260.0)
    assert "readings-disagree" in codes(found)


def test_a_bowls_rim_may_be_traced() -> None:
    ring = tuple(
        (300.0 * math.cos(a) + 400.0, 180.0 * math.sin(a) + 200.0) for a in np.linspace(0.0, 2.0 * math.pi, 90, endpoint=False)
    )
    made = starter("cap-body", "cap")
    found = draft(replace(made, readings=(), thing=replace(made.thing, outline=Outline(points=ring))))
    assert isinstance(found, Drafted), [str(f.text) for f in found.findings]
    cap = found.panels[0]
    assert (cap.length.value, cap.width.value) == pytest.approx((600.0 + 110.0, 360.0 + 110.0), abs=1.0)


@given(st.floats(0.0, 1000.0))
def test_girth_between_stations_runs_straight(depth: float) -> None:
    body = draft(job("tub", "tapered-tub", {"girth_bottom": 1000.0, "girth_top": 2000.0, "height": 500.0})).body
    expected = 2000.0 - 1000.0 * min(depth, 500.0) / 500.0
    assert section_at(body.sections, depth).girth.value == pytest.approx(expected)


@pytest.mark.parametrize("form", ["drum", "box"])
@given(reach=st.floats(5.0, 300.0), size=st.floats(5.0, 120.0), more=st.floats(1.0, 100.0))
def test_the_further_something_stands_out_the_larger_the_girth(form: str, reach: float, size: float, more: float) -> None:
    def girth(out: float) -> float:
        made = starter(form, SCHEME_OF[form])
        thing = SticksOut(name="knob", from_top=200.0, reach=out, size=size)
        body = draft(replace(made, thing=replace(made.thing, sticks_out=(thing,)))).body
        return max(s.girth.value for s in body.sections)

    plain = draft(starter(form, SCHEME_OF[form])).body
    base = max(s.girth.value for s in plain.sections)
    assert base < girth(reach) < girth(reach + more)
    assert girth(reach) <= base + 2.0 * reach + 2.0 * size  # no more than there and back


@pytest.mark.parametrize("form", FORMS)
def test_a_mesh_is_closed_and_looks_outward(form: str) -> None:
    body = draft(starter(form, SCHEME_OF[form])).body
    mesh = body.mesh()
    volume = 0.0
    for face in mesh.faces:  # divergence theorem: outward faces give a positive volume
        a = face.points[0]
        for b, c in zip(face.points[1:], face.points[2:], strict=False):
            volume += float(np.dot(a, np.cross(b, c))) / 6.0
    assert volume > 0.0
    _, sides = mesh.edges
    assert (sides[:, 1] >= 0).mean() > 0.85  # a hub stands on its wheel without a floor of its own


def test_places_have_words_and_a_way() -> None:
    for form in FORMS.values():
        made = starter(form.key, SCHEME_OF[form.key])
        places = form.places(made.readings, made.thing)
        assert len({p.key for p in places}) == len(places)
        parts = {p.key: p.start for p in form.parts(made.readings, made.thing)}
        for place in places:
            assert place.words
            expected = place.would_read(parts, Unit.MM)
            if expected is not None:
                assert expected == pytest.approx(place.sample, rel=0.12, abs=12.0), (form.key, place.key)


@pytest.mark.parametrize("scheme", ["gores", "bands"])
@pytest.mark.parametrize("rise", [1e-9, 1e-4, 0.01])
def test_a_dome_that_hardly_rises_is_a_flat_top(scheme: str, rise: float) -> None:
    job = starter("turned", scheme)
    drafted = draft(replace(job, readings=(*job.readings, Reading(place="rise", repeats=(rise,)))))
    assert drafted.panels
    assert "top" in [panel.name for panel in drafted.panels] or rise > 1e-3
