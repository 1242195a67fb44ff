"""The worked reference cases, read from their file: every expected number holds to 0.05 mm."""

import json
from pathlib import Path
from typing import Any

import pytest
from tests.jobs import drum, hem_of

from omnipel.core.draft import draft
from omnipel.core.drafting.cutline import cut_size
from omnipel.core.job import Job

CASES = {case["id"]: case for case in json.loads((Path(__file__).parent / "cases.json").read_text())["cases"]}


def common(given: dict[str, Any]) -> dict[str, Any]:
    """What the cases say in the same symbols."""
    return {k: given[k] for k in ("c", "t", "a", "a_close") if k in given} | {"hem": hem_of(given.get("e", 0.0))}


def drum_job(given: dict[str, Any]) -> Job:
    options = {}
    if "skirt" in given:
        turn_under = 12.0
        options = {
            "skirt": True,
            "skirt_share": given["skirt"]["share"],
            "casing": given["skirt"]["allow"] - turn_under,
            "casing_turn_under": turn_under,
            "draw": given["draw"],
        }
    return drum(given["G"], given["drop"], options=options, **common(given))


JOBS = {"drum-plain": drum_job, "drum-second-skirt": drum_job, "drum-padded": drum_job}


@pytest.mark.parametrize("name", JOBS)
def test_case(name: str) -> None:
    case = CASES[name]
    drafted = draft(JOBS[name](case["given"]))
    assert not drafted.stops, drafted.findings
    found = {key: size.value for key, size in drafted.cover.sizes.items()}
    for key, expected in case["expect"].items():
        assert found[key] == pytest.approx(expected, abs=0.05), key


@pytest.mark.parametrize("name", JOBS)
def test_the_sizes_shown_are_those_of_the_geometry(name: str) -> None:
    drafted = draft(JOBS[name](CASES[name]["given"]))
    for panel in drafted.panels:
        assert cut_size(panel) == pytest.approx((panel.cut_length.value, panel.cut_width.value), abs=0.05), panel.name
