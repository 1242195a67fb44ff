"""What each kind of feature adds to a cover, and what is cut for it."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import shapely
from tests.core.covers.test_schemes import checked
from tests.core.finishing.putting import made, named, put
from tests.jobs import drum

from omnipel.core.draft import draft
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.finishing.ground import Ground
from omnipel.core.job.document import Lining, LiningSchool, Override
from omnipel.core.job.feature import Facing
from omnipel.core.plane.lettering import lettered
from omnipel.core.words.habits import Habits
from omnipel.shop.document import dumped, loaded
from omnipel.shop.starter import starter

CASES = {case["id"]: case for case in json.loads((Path(__file__).parent / "cases.json").read_text())["cases"]}


@pytest.mark.parametrize(
    ("kind", "more", "panels", "hardware"),
    [
        ("port", {}, 0, {"binding"}),
        ("port", {"own": {"finish": "cut hot"}}, 0, set()),
        ("port", {"own": {"finish": "faced"}}, 1, set()),
        ("port", {"own": {"slit": "down", "flap": "over the slit"}}, 1, {"binding", "hook-and-loop"}),
        ("port", {"own": {"flap": "over all of it", "held": "a snap"}}, 1, {"binding", "snaps"}),
        ("vent", {"width": 100.0}, 1, {"mesh"}),
        ("clear window", {"width": 200.0, "height": 120.0, "own": {"fixed": "framed"}}, 1, {"frame"}),
        ("slit", {"height": 200.0, "own": {"flap": True}}, 1, {"binding", "hook-and-loop"}),
        ("pocket", {"width": 240.0, "height": 160.0, "own": {"parts": 3.0, "flap": True}}, 2, set()),
        ("pocket", {"width": 240.0, "height": 160.0, "own": {"mouth": "gathered by an elastic"}}, 1, {"elastic"}),
        ("pocket", {"height": 160.0, "own": {"full": True, "mouth": "bound"}}, 1, {"binding"}),
        ("flap", {"own": {"held": "hook-and-loop"}}, 1, {"hook-and-loop"}),
        ("reinforcement patch", {}, 1, set()),
        ("webbing handle", {"width": 150.0}, 0, {"webbing"}),
        ("webbing handle", {"width": 150.0, "own": {"caught": "stitched on", "pair": True}}, 4, {"webbing"}),
        ("strap", {"own": {"caught": "stitched on"}}, 1, {"webbing", "buckle"}),
        ("loop", {}, 0, {"webbing"}),
        ("D-ring", {"own": {"caught": "the seam above"}}, 0, {"webbing", "D-ring"}),
        ("ties", {"own": {"parts": 2.0, "of": "cloth"}}, 4, set()),
        ("ties", {"own": {"caught": "the seam above"}}, 0, {"tie tape"}),
        ("snaps", {"width": 400.0}, 0, {"snaps"}),
        ("grommets", {"width": 100.0, "own": {"by": "by spacing", "spacing": 30.0}}, 0, {"grommets"}),
        ("drawcord exit", {}, 0, {"grommets"}),
        ("hook-and-loop", {"width": 200.0, "height": 25.0}, 0, {"hook-and-loop"}),
        ("zip", {"width": 10.0, "height": 200.0}, 0, {"zip"}),
        ("label", {"width": 30.0, "height": 20.0}, 0, {"label"}),
        ("letters", {"own": {"text": "QH", "traced": "from the back"}}, 1, {"thread for the outline", "fusible web"}),
    ],
)
def test_each_kind_adds_its_panels_and_its_goods(kind: str, more: dict[str, Any], panels: int, hardware: set[str]) -> None:
    job = put(kind, **more)
    plain, drafted = draft(drum()), made(job)
    assert not drafted.stops, drafted.findings
    checked(drafted)
    assert sum(panel.count for panel in drafted.panels) == sum(panel.count for panel in plain.panels) + panels
    assert {str(h.name) for h in drafted.cover.hardware} == hardware
    wall = named(drafted, "wall")
    assert wall.figures or wall.notches
    assert dumped(loaded(dumped(job))) == dumped(job)


def test_the_worked_cases() -> None:
    own = {"pocket hem": 25.0, "pocket turn-under": 12.0}
    expect, given_ = (CASES["pocket-boxed"][key] for key in ("expect", "given"))
    boxed = put(
        "pocket", drum(a=given_["a"], habits=Habits(own=own)), width=given_["w"], height=given_["h"], own={"depth": given_["p"]}
    )
    panel = named(made(boxed), "it")
    assert (panel.cut_length.value, panel.cut_width.value) == pytest.approx((expect["cut_width"], expect["cut_height"]))
    assert panel.edge("right corner up").curve.length == pytest.approx(expect["corner"])
    expect, given_ = (CASES["pocket-doubled"][key] for key in ("expect", "given"))
    doubled = put("pocket", drum(a=given_["a"]), width=given_["w"], height=given_["h"], own={"made": "doubled on a fold"})
    panel = named(made(doubled), "it")
    assert (panel.cut_length.value, panel.cut_width.value) == pytest.approx((expect["cut_width"], expect["cut_height"]))
    expect, given_ = (CASES["port-bound"][key] for key in ("expect", "given"))
    port = put(
        "port", width=given_["thing_w"], height=given_["thing_h"], own={"shape": "slot", "room": given_["clearance"] + 3.0}
    )
    drafted = made(port)
    (hole,) = (f for f in named(drafted, "wall").figures if f.kind is MarkKind.CUT_OUT)
    assert np.ptp(hole.points, axis=0) == pytest.approx((expect["port_w"], expect["port_h"]), abs=0.01)
    (binding,) = drafted.cover.hardware
    assert binding.length is not None
    assert binding.length.value == pytest.approx(expect["binding"], abs=0.001)


def test_snaps_along_an_edge_share_their_corners_and_lie_as_far_apart_on_each_side() -> None:
    expect, given_ = (CASES["snaps-by-count"][key] for key in ("expect", "given"))
    sheet = starter("flat", "sheet")
    sizes = zip(("finished_length", "finished_width"), (given_["long_mm"], given_["short_mm"]), strict=True)
    by_hand = tuple(Override(size=name, value=value, reason="the case") for name, value in sizes)
    sheet = replace(sheet, cover=replace(sheet.cover, overrides=by_hand))
    own = {"runs": "all along its edge", "parts": given_["short"], "long_parts": given_["long"], "inset": given_["inset"]}
    drafted = made(put("snaps", sheet, face=Facing.TOP, from_top=0.0, own=own))
    (panel,) = drafted.panels
    points = np.array([figure.points[2] for figure in panel.figures if figure.name.startswith("it ")])
    assert len(points) == len({tuple(point.round(3)) for point in points}) == expect["total"]
    assert drafted.cover.hardware[-1].count == expect["total"]
    gaps = {round(float(np.linalg.norm(points[i] - points[i - 1])), 2) for i in range(len(points))}
    assert gaps == {expect["spacing_short"], expect["spacing_long"]}
    ring = shapely.LinearRing(panel.sew_points)
    assert [ring.distance(shapely.Point(point)) for point in points] == pytest.approx([given_["inset"]] * len(points))


def test_letters_are_as_high_as_asked_and_turned_over_from_the_back() -> None:
    rings, missing = lettered("HE", 60.0)
    assert not missing
    assert np.ptp(np.concatenate(rings)[:, 1]) == pytest.approx(60.0)
    front = named(made(put("letters", height=60.0, own={"text": "E"})), "template of it").figures[0].points
    back = (
        named(made(put("letters", height=60.0, own={"text": "E", "traced": "from the back"})), "template of it").figures[0].points
    )
    low, high = front[:, 0].min(), front[:, 0].max()
    turned = shapely.Polygon(np.column_stack((low + high - back[:, 0], back[:, 1])))
    assert turned.symmetric_difference(shapely.Polygon(front)).area < 1.0
    assert shapely.Polygon(back).symmetric_difference(shapely.Polygon(front)).area > 100.0


def test_a_boxed_pocket_with_open_corners_says_where_they_stay_open() -> None:
    panel = named(made(put("pocket", width=200.0, height=120.0, own={"depth": 40.0, "corners": "left open"})), "it")
    assert sorted(notch.edge for notch in panel.notches if notch.label == "open") == sorted(
        ["right corner up", "right corner out", "left corner out", "left corner up"]
    )
    for notch in panel.notches:
        edge = panel.edge(notch.edge).curve
        bottom = 0.0 if notch.edge in ("right corner up", "left corner out") else 1.0
        assert abs(notch.fraction - bottom) * edge.length == pytest.approx(15.0) or abs(1.0 - notch.fraction - bottom) >= 0.0


def test_a_piece_with_a_port_is_a_pattern_of_its_own_and_so_are_its_lining_and_padding() -> None:
    base = starter("box", "saddle-and-ends")
    lined = replace(base, cover=replace(base.cover, lining=Lining(school=LiningSchool.BAGGED), padding=6.0))
    drafted = made(put("port", lined, face=Facing.LEFT, from_centre=40.0, from_top=150.0, width=60.0))
    checked(drafted)
    counts = {panel.name: panel.count for panel in drafted.panels}
    assert (counts["left end"], counts["right end"]) == (1, 1)
    holes = {p.name: f for p in drafted.panels for f in p.figures if f.kind is MarkKind.CUT_OUT}
    assert set(holes) == {"left end", "lining left end", "padding left end"}
    pieces = {piece.name: piece for piece in drafted.cover.pieces}
    places = {name: pieces[name].place.at(holes[name].points).mean(axis=0) for name in ("left end", "lining left end")}
    assert places["lining left end"] - places["left end"] == pytest.approx((6.0 + (0.5 + 0.25) / 2.0, 0.0, 0.0), abs=0.01)
    assert pieces["lining left end"].mirrored is not pieces["left end"].mirrored
    assert places["left end"][1] == pytest.approx(-40.0, abs=0.01)  # right of the centre, as one looks at the left side
    assert np.ptp(holes["padding left end"].points[:, 0]) == pytest.approx(60.0 + 12.0, abs=0.1)


def test_gathered_cloth_draws_in_what_lies_on_it() -> None:
    base = starter("drum", "gathered-halves")
    cover = made(base).cover
    ground = Ground(cover)
    here, there = ground.spot(Facing.FRONT, 0.0, 300.0), ground.spot(Facing.FRONT, 50.0, 300.0)
    assert here is not None
    assert there is not None
    assert np.linalg.norm(there.at - here.at) == pytest.approx(50.0 * here.drawn_in[0], rel=0.01)
    assert here.drawn_in[0] > 1.2
