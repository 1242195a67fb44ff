"""The worked cases of adjusted readings, through the forms themselves; and the adjustment against plain algebra."""

import json
import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.forms import FORMS
from omnipel.core.forms.form import PRIOR
from omnipel.core.forms.measuring import measure
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Thing
from omnipel.core.tape.adjustment import Observation, Unknown, adjust, predicted
from omnipel.core.words.units import Unit

CASES = {case["id"]: case for case in json.loads((Path(__file__).parent / "readings.json").read_text())["cases"]}
PLACES = {
    "girth": ("girth", Instrument.TAPE, None),
    "across straightedge": ("across", Instrument.STRAIGHTEDGE, None),
    "across by eye": ("across", Instrument.EYE, None),
    "string over the top, 50 down": ("string", Instrument.STRING, 50.0),
    "part girth, both ends 80 up": ("part_girth", Instrument.TAPE, 80.0),
    "length": ("length", Instrument.TAPE, None),
    "width": ("width", Instrument.TAPE, None),
    "height": ("height", Instrument.TAPE, None),
    "girth level": ("girth", Instrument.TAPE, None),
    "over the top, front to back": ("path", Instrument.TAPE, None),
}
PARTS = {
    "D": ("diameter", 1.0),
    "r": ("diameter", 0.5),
    "L": ("length", 1.0),
    "W": ("width", 1.0),
    "H": ("height", 1.0),
    "rho": ("rounding", 1.0),
}
BESIDES = {"drum": [Reading(place="drop", repeats=(400.0,))], "wheel": [Reading(place="width", repeats=(90.0,))], "box": []}


def measured(case: dict[str, Any]) -> Any:
    taken = [
        Reading(
            place=PLACES[r["place"]][0],
            repeats=(r["value"],),
            instrument=PLACES[r["place"]][1],
            beside=PLACES[r["place"]][2],
            sigma=r["sigma"],
        )
        for r in case["readings"]
        if r["place"] != "rounding"
    ]
    return measure(FORMS[case["form"]], (*taken, *BESIDES[case["form"]]), Thing(form=case["form"]), Unit.MM)


@pytest.mark.parametrize("name", [name for name, case in CASES.items() if "values" in case["expect"]])
def test_adjusted_as_worked_out_by_others(name: str) -> None:
    case = CASES[name]
    made = measured(case)
    assert not made.contradictions
    for key, expected in case["expect"]["values"].items():
        part, factor = PARTS[key]
        assert made.numbers[part].value * factor == pytest.approx(expected, abs=0.002)
        assert made.settled.adjusted.sigmas[part] * factor == pytest.approx(case["expect"]["sigmas"][key], abs=0.002)
        for place, slope in case["expect"]["slopes"][key].items():
            if place != "rounding":
                found = made.numbers[part].slopes.get(PLACES[place][0], 0.0) * factor
                assert found == pytest.approx(slope, abs=2e-4), place
    for place, residual in case["expect"]["normalised_residuals"].items():
        key = PRIOR + "rounding" if place == "rounding" else PLACES[place][0]
        found = made.settled.adjusted.residuals[key]
        assert found is None if residual is None else found == pytest.approx(residual, abs=0.01)


@pytest.mark.parametrize("name", [name for name, case in CASES.items() if "contradiction" in case["expect"]])
def test_what_contradicts_is_named_and_never_averaged(name: str) -> None:
    case = CASES[name]
    made = measured(case)
    (found,) = made.contradictions
    wanted = {PLACES[place][0] for place in case["expect"]["contradiction"]}
    assert found.left_out.place in wanted
    assert {o.place for o in found.suspects if not o.place.startswith(PRIOR)} >= wanted - {"rounding"}
    left_out = found.left_out.place
    for part in made.numbers.values():
        assert left_out not in part.slopes


@given(st.lists(st.floats(50.0, 900.0), min_size=2, max_size=2), st.lists(st.floats(-4.0, 4.0), min_size=5, max_size=5))
def test_straight_observations_give_the_weighted_least_squares(true: list[float], errors: list[float]) -> None:
    a, b = true
    rows = np.array([(1.0, 0.0), (0.0, 1.0), (2.0, 2.0), (1.0, -1.0), (1.0, 1.0)])
    sigmas = np.array([1.5, 1.5, 3.0, 0.7, 2.0])
    read = rows @ (a, b) + errors
    observations = [
        Observation(f"p{i}", float(read[i]), float(sigmas[i]), ("a", "b"), lambda x, y, r=rows[i]: float(r[0] * x + r[1] * y))
        for i in range(5)
    ]
    solved = adjust([Unknown("a", 300.0, -1e9), Unknown("b", 300.0, -1e9)], observations)
    weight = np.diag(1.0 / sigmas**2)
    normal = np.linalg.inv(rows.T @ weight @ rows)
    expected = normal @ rows.T @ weight @ read
    assert [solved.values["a"], solved.values["b"]] == pytest.approx(list(expected), rel=1e-7)
    assert solved.sigmas["a"] == pytest.approx(math.sqrt(normal[0, 0]), rel=1e-6)
    assert sum(solved.redundancies.values()) == pytest.approx(3.0)


def test_what_no_reading_tells_of_is_left_out() -> None:
    solved = adjust([Unknown("a", 1.0), Unknown("b", 1.0)], [Observation("p", 5.0, 1.0, ("a",), lambda a: a)])
    assert solved.values == {"a": pytest.approx(5.0)}
    together = adjust([Unknown("a", 1.0), Unknown("b", 1.0)], [Observation("p", 5.0, 1.0, ("a", "b"), lambda a, b: a + b)])
    assert together.values == {}
    stranger = Observation("q", 9.0, 1.0, ("a", "not of this form"), lambda a, b: a + b)
    assert adjust([Unknown("a", 1.0)], [Observation("p", 5.0, 1.0, ("a",), lambda a: a), stranger]).values == solved.values


@pytest.mark.parametrize(("checked", "limit"), [(1, 3.3), (4, 3.3), (6, 3.4029), (11, 3.5671)])
def test_the_limit_grows_with_the_readings_that_check_one_another(checked: int, limit: float) -> None:
    """z(1 − 0.004/2k) from a table of the normal distribution, 3.3 at the least."""
    seen = [Observation(f"p{i}", 5.0, 1.0, ("a",), lambda a: a) for i in range(checked)] if checked > 1 else []
    seen.append(Observation("q", 5.0, 1.0, ("b",), lambda b: b))  # nothing checks it: it does not count
    solved = adjust([Unknown("a", 1.0), Unknown("b", 1.0)], seen)
    assert solved.limit == pytest.approx(limit, abs=2e-3)
    assert not solved.contradicts


def test_a_bound_holds() -> None:
    observations = [Observation("p", -3.0, 1.0, ("a",), lambda a: a), Observation("q", 7.0, 1.0, ("a", "b"), lambda a, b: a + b)]
    solved = adjust([Unknown("a", 1.0), Unknown("b", 1.0)], observations)
    assert solved.values == {"a": 0.0, "b": pytest.approx(7.0)}
    assert solved.held == {"a"}


def test_what_the_others_say_a_place_should_read() -> None:
    unknowns = [Unknown("a", 100.0), Unknown("b", 100.0)]
    others = [Observation("p", 512.0, 1.5, ("a",), lambda a: a), Observation("q", 287.0, 1.5, ("b",), lambda b: b)]
    asked = Observation("girth", 0.0, 1.5, ("a", "b"), lambda a, b: 2.0 * (a + b))
    expected, sigma = predicted(adjust(unknowns, others), others, asked) or (0.0, 0.0)
    assert expected == pytest.approx(1598.0)
    assert sigma == pytest.approx(math.sqrt((2 * 1.5) ** 2 * 2 + 1.5**2))
    assert predicted(adjust(unknowns, others[:1]), others[:1], asked) is None
