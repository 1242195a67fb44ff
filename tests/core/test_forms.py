"""Every form: what it asks for, what it says about readings that cannot both be right, and its girth at any depth."""

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.jobs import job

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Draft, draft
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import interpolated
from omnipel.core.forms.thing import SticksOut
from omnipel.core.job import with_reading
from omnipel.core.tape.readings import Reading
from omnipel.shop.starter import starter

SCHEME_OF = dict(reversed(lawful_pairs()))


def drafted(form: str, **readings: float) -> Draft:
    """A starter of the form with readings put in."""
    made = starter(form, SCHEME_OF[form])
    for place, mm in readings.items():
        made = with_reading(made, Reading(place=place.replace("__", "."), repeats=(mm,)))
    return draft(made)


@pytest.mark.parametrize("form", FORMS)
def test_each_missing_reading_is_named_and_nothing_else_is_said(form: str) -> None:
    made = starter(form, SCHEME_OF[form])
    for reading in made.readings:
        without = replace(made, readings=tuple(r for r in made.readings if r.place != reading.place))
        found = draft(without)
        assert not found.panels
        assert {f.code for f in found.findings} == {"reading-missing"}
        assert reading.place in {f.where.removeprefix("readings.") for f in found.findings}


@pytest.mark.parametrize(
    ("form", "readings", "where"),
    [
        ("drum", {"across": 500.0}, "across"),
        ("cap-body", {"across": 320.0}, "across"),
        ("wheel", {"across": 380.0}, "across"),
        ("tub", {"slant": 420.0}, "slant"),
        ("box", {"girth": 1700.0}, "girth"),
        ("box", {"path": 1700.0}, "path"),
        ("box", {"path": 700.0}, "path"),
        ("bottle", {"across": 240.0}, "across"),
        ("traced", {"height": 400.0}, "height"),
    ],
)
def test_readings_that_cannot_both_be_right(form: str, readings: dict[str, float], where: str) -> None:
    found = [f for f in drafted(form, **readings).findings if f.code == "readings-disagree"]
    assert [f.where for f in found] == [f"readings.{where}"]
    assert any(character.isdigit() for character in found[0].text)


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
    assert "readings-disagree" not in [f.code for f in drafted(form, **readings).findings]


@pytest.mark.parametrize(
    ("form", "readings", "where"),
    [
        ("turned", {"height__2": 450.0, "girth__3": 1500.0, "height__3": 300.0}, "readings.height.3"),
        ("bottle", {"neck_height": 500.0}, "readings.neck_height"),
        ("bottle", {"neck": 900.0}, "readings.neck"),
        ("box", {"front_height": 900.0}, "readings.front_height"),
    ],
)
def test_impossible_bodies_are_said_at_their_reading(form: str, readings: dict[str, float], where: str) -> None:
    found = drafted(form, **readings)
    assert not found.panels
    assert where in [f.where for f in found.findings if f.code == "size-impossible"]


def test_the_case_takes_its_largest_girth() -> None:
    plain, over = drafted("case"), drafted("case", girth=1300.0)
    assert over.cover.sizes["tube_finished_length"].value - plain.cover.sizes["tube_finished_length"].value == pytest.approx(
        100.0
    )
    less = drafted("case", girth=1100.0)
    assert less.cover.sizes == plain.cover.sizes


def test_stations_ask_for_one_more_as_they_are_taken() -> None:
    form = FORMS["turned"]
    places = [w.place for w in form.wanted(())]
    assert places == ["girth.1", "girth.2", "height.2", "rise"]
    taken = [Reading(place=p, repeats=(100.0,)) for p in ("girth.1", "girth.2", "height.2")]
    asked = {w.place: w.needed for w in form.wanted(taken)}
    assert asked["girth.3"] is False
    assert asked["girth.2"] is True
    dome = {
        w.place: w.needed for w in form.wanted([Reading(place="girth.1", repeats=(9.0,)), Reading(place="rise", repeats=(5.0,))])
    }
    assert dome["girth.2"] is False


@given(st.floats(0.0, 1000.0))
def test_girth_between_stations_runs_straight(depth: float) -> None:
    body = draft(job("tub", "tapered-tub", {"girth_bottom": 1000.0, "girth_top": 2000.0, "height": 500.0})).body
    assert body is not None
    expected = 2000.0 - 1000.0 * min(depth, 500.0) / 500.0
    assert interpolated(body.sections, depth).value == pytest.approx(expected)


@pytest.mark.parametrize("form", ["drum", "box"])
@given(reach=st.floats(5.0, 300.0), size=st.floats(5.0, 120.0), more=st.floats(1.0, 100.0))
def test_the_further_something_stands_out_the_larger_the_girth(form: str, reach: float, size: float, more: float) -> None:
    def girth(out: float) -> float:
        made = starter(form, SCHEME_OF[form])
        thing = SticksOut(name="knob", from_top=200.0, reach=out, size=size)
        body = draft(replace(made, thing=replace(made.thing, sticks_out=(thing,)))).body
        assert body is not None
        return max(s.girth.value for s in body.sections)

    plain = draft(starter(form, SCHEME_OF[form])).body
    assert plain is not None
    base = max(s.girth.value for s in plain.sections)
    assert base < girth(reach) < girth(reach + more)
    assert girth(reach) <= base + 2.0 * reach + 2.0 * size  # no more than there and back


@pytest.mark.parametrize("form", FORMS)
def test_a_mesh_is_closed_and_looks_outward(form: str) -> None:
    body = draft(starter(form, SCHEME_OF[form])).body
    assert body is not None
    mesh = body.mesh()
    volume = 0.0
    for face in mesh.faces:  # divergence theorem: outward faces give a positive volume
        a = face.points[0]
        for b, c in zip(face.points[1:], face.points[2:], strict=False):
            volume += float(np.dot(a, np.cross(b, c))) / 6.0
    assert volume > 0.0
    _, sides = mesh.edges
    assert (sides[:, 1] >= 0).mean() > 0.85  # a hub stands on its wheel without a floor of its own


def test_readings_of_a_form_have_words_and_a_way(monkeypatch: pytest.MonkeyPatch) -> None:
    for form in FORMS.values():
        wanted: tuple[Any, ...] = form.wanted(())
        assert len({w.place for w in wanted}) == len(wanted)
        for want in wanted:
            assert want.how.endswith(".")
            assert want.sample > 0.0 or want.place.startswith("height")
            assert want.words
