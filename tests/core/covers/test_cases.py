"""The worked reference cases, read from their file: every expected number holds to 0.05 mm."""

import json
import math
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from tests.jobs import drum, hem_of, job

from omnipel.core.draft import draft
from omnipel.core.drafting.cutline import cut_size
from omnipel.core.job.document import Job

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


def box_job(scheme: str) -> Callable[[dict[str, Any]], Job]:
    def made(given: dict[str, Any]) -> Job:
        readings = {"length": given["L"], "width": given["W"], "height": given["H"]}
        options = {"rounding": given["rho"]} if "rho" in given else {}
        return job("box", scheme, readings, options=options, **common(given))

    return made


def cap_job(layers: str) -> Callable[[dict[str, Any]], Job]:
    def made(given: dict[str, Any]) -> Job:
        options: dict[str, Any] = {"layers": layers, "overhang": given["overhang"], "share": given["share"]}
        if "casing_allow" in given:
            options |= {"casing": given["casing_allow"] - 12.0, "casing_turn_under": 12.0}
        options |= {"overlap": given["overlap"]} if "overlap" in given else {}
        return job("cap-body", "cap", {"across": given["D"]}, options=options, **common(given))

    return made


def wheel_job(given: dict[str, Any]) -> Job:
    options = {"flat": given["k"], "hub_clearance": given["hub_c"]}
    return job(
        "wheel",
        "wheel-both-faces",
        {"girth": given["G"], "width": given["W"], "hub": given["hub"]},
        options=options,
        **common(given),
    )


def tub_job(given: dict[str, Any]) -> Job:
    readings = {"girth_bottom": given["Gb"], "girth_top": given["Gt"], "height": given["h"]}
    return job("tub", "tapered-tub", readings, options={"panels": given["n"]}, **common(given))


def dome_job(given: dict[str, Any]) -> Job:
    readings = {"girth.1": 2 * math.pi * given["R"], "rise": given["R"]}
    return job("turned", "gores", readings, c=0.0, t=0.0, options={"gores": given["n"]})


def cosy_job(given: dict[str, Any]) -> Job:
    readings = {"girth": math.pi * given["d_base"], "drop": given["height"]}
    return job("drum", "gathered-halves", readings, options={"ratio": given["ratio"]}, **common(given))


def sheet_job(given: dict[str, Any]) -> Job:
    options = {"along": given["nl"], "across": given["nw"]}
    return job("flat", "sheet", {"length": given["l"], "width": given["w"]}, hem=hem_of(given["hem_allow"]), options=options)


def sleeve_job(given: dict[str, Any]) -> Job:
    readings = {"length": given["L"], "width": given["W"], "thickness": given["T"]}
    return job("slab", "slip-sleeve", readings, **common(given))


JOBS: dict[str, Callable[[dict[str, Any]], Job]] = {
    "drum-plain": drum_job,
    "drum-second-skirt": drum_job,
    "drum-padded": drum_job,
    "cap-single": cap_job("single layer"),
    "cap-reversible": cap_job("reversible"),
    "wheel-both-faces": wheel_job,
    "tub-two-panels": tub_job,
    "tub-nearly-straight": tub_job,
    "dome-8": dome_job,
    "dome-16": dome_job,
    "cosy": cosy_job,
    "saddle-square": box_job("saddle-and-ends"),
    "saddle-round": box_job("saddle-and-ends"),
    "wall-top": box_job("wall-and-top"),
    "one-piece": box_job("one-piece"),
    "sheet": sheet_job,
    "sleeve": sleeve_job,
}


def test_every_case_is_tested() -> None:
    assert set(CASES) == {*JOBS, "path-rounding"}


def test_path_rounding() -> None:
    given, expect = CASES["path-rounding"]["given"], CASES["path-rounding"]["expect"]
    drafted = draft(
        job("box", "saddle-and-ends", {"length": 300.0, "width": given["W"], "height": given["H"], "path": given["P"]})
    )
    assert drafted.measured.numbers["rounding"].value == pytest.approx(expect["corner_radius"], abs=0.05)
    assert "rounding-measured" in [f.code for f in drafted.findings]


@pytest.mark.parametrize("name", JOBS)
def test_case(name: str) -> None:
    case = CASES[name]
    drafted = draft(JOBS[name](case["given"]))
    assert drafted.panels, drafted.findings
    found = {key: size.value for key, size in drafted.cover.sizes.items()}
    for key, expected in case["expect"].items():
        # Centres of a nearly straight tub lie 25 km away: there the radius is good to a millionth, the arcs to 0.05.
        near = {"rel": 1e-6} if expected > 1e6 else {"abs": 0.05}
        assert found[key] == pytest.approx(expected, **near), key


@pytest.mark.parametrize("name", JOBS)
def test_the_sizes_shown_are_those_of_the_geometry(name: str) -> None:
    drafted = draft(JOBS[name](CASES[name]["given"]))
    for panel in drafted.panels:
        assert cut_size(panel) == pytest.approx((panel.cut_length.value, panel.cut_width.value), abs=0.05), panel.name
