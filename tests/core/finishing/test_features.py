"""What is put on a cover: it lies where a tape on the cover says, on one piece, and adds what its kind adds."""

import itertools
import json
import math
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.core.covers.test_schemes import checked
from tests.jobs import drum
from tests.wild import tried, wild_features

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth, MarkKind, Panel
from omnipel.core.drafting.topology import surface
from omnipel.core.finishing.elsewhere import begun
from omnipel.core.finishing.ground import Ground
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.fit.sewn import sampled
from omnipel.core.forms.body import stands
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, Lining, LiningSchool, Override
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.findings import Act, Change, Severity
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.plane.lettering import lettered
from omnipel.core.remedies import advised
from omnipel.core.words import refs
from omnipel.core.words.habits import Habits
from omnipel.core.words.refs import Of
from omnipel.core.words.units import Unit
from omnipel.shop.document import dumped, lawful, loaded
from omnipel.shop.starter import starter

CASES = {case["id"]: case for case in json.loads((Path(__file__).parent / "cases.json").read_text())["cases"]}


def put(kind: str, host: Job | None = None, *, own: dict[str, Any] | None = None, **more: Any) -> Job:
    """A drum (or another job) with one feature; on its front unless it is said otherwise."""
    base = host or drum()
    feature = Feature(kind=kind, name="it", options=own or {}, **{"from_top": 300.0, **more})
    return replace(base, cover=replace(base.cover, features=(feature,)))


def made(job: Job) -> Drafted:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), drafted.findings
    return drafted


def named(drafted: Drafted, name: str) -> Panel:
    return next(panel for panel in drafted.panels if panel.name == name)


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


BOXES = [scheme for form, scheme in lawful_pairs() if form == "box" and scheme not in ("drape", "wrap", "plain-bag")]


@tried(25)
@given(st.sampled_from([Facing.FRONT, Facing.RIGHT, Facing.BACK, Facing.LEFT]), st.floats(-260.0, 260.0), st.floats(5.0, 400.0))
def test_a_place_is_the_same_place_on_the_object_whatever_the_cover_is_cut_into(face: Facing, across: float, down: float) -> None:
    """Over corner seams and folds too: it is where a tape around the box comes to."""
    places = []
    for scheme in BOXES:
        cover = made(starter("box", scheme)).cover
        spot = Ground(cover).spot(face, across, down)
        assert spot is not None, scheme
        places.append(spot.place)
        assert abs(float(np.linalg.det(np.column_stack((spot.right, spot.down))))) == pytest.approx(1.0)
    assert places == [pytest.approx(places[0], abs=0.05)] * len(places)
    top = max(facet.solid[:, 2].max() for facet in Ground(cover).facets)
    assert places[0][2] == pytest.approx(top - down, abs=0.05)


def test_a_place_on_a_drum_is_an_angle_and_a_height() -> None:
    drafted = made(put("port", from_centre=-120.0, from_top=200.0, width=80.0))
    lying, wall = drafted.cover.lying[next(iter(drafted.cover.lying))], named(drafted, "wall")
    radius = wall.length.value / (2.0 * math.pi)
    angle = -math.pi / 2.0 - 120.0 / radius
    top = next(p for p in drafted.cover.pieces if p.name == "lid").place.at(np.zeros((1, 2)))[0, 2]
    assert lying.place == pytest.approx((radius * math.cos(angle), radius * math.sin(angle), top - 200.0), abs=1e-3)
    (hole,) = (f for f in wall.figures if f.kind is MarkKind.CUT_OUT)
    middle = (hole.points.min(axis=0) + hole.points.max(axis=0)) / 2.0
    assert middle == pytest.approx((wall.length.value / 2.0 - 120.0, wall.width.value - 200.0), abs=1e-3)
    assert np.ptp(hole.points, axis=0) == pytest.approx((80.0, 80.0), abs=0.1)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_where_a_place_is_can_be_said_again(form: str, scheme: str) -> None:
    """From a spot back to side, across and down, and to the same spot; and what lies there lies on the cover, the right way up."""
    cover = made(starter(form, scheme)).cover
    ground = Ground(cover)
    found = 0
    for face, (across, down) in itertools.product(Facing, [(0.0, 20.0), (15.0, 40.0), (-25.0, 60.0)]):
        spot = ground.spot(face, across, down)
        if spot is None:
            continue
        found += 1
        ring = shapely.Polygon(spot.panel.sew_points).buffer(0.01)
        assert ring.covers(shapely.Point(spot.at)), (face, spot.piece.name)
        said = ground.said(spot)
        if said is not None:
            there = ground.spot(*said)
            assert there is not None
            assert there.place == pytest.approx(spot.place, abs=0.01)
    assert found or scheme == "wheel-cap"


@tried(12)
@given(st.data())
@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_wherever_something_is_put_it_is_drafted_or_said(form: str, scheme: str, data: st.DataObject) -> None:
    base = starter(form, scheme)
    feature = data.draw(wild_features("it", base))
    job = changed(base, Change(refs.feature(), feature, Act.ADD))
    drafted = made(job)
    cover, before = drafted.cover, {piece.name for piece in made(base).cover.pieces}
    assert surface(cover.panels, cover.pieces, cover.seams).sound
    assert loaded(dumped(job)) == job
    for finding in drafted.findings:
        if finding.where.of is Of.FEATURE and finding.severity is Severity.STOP:
            fixed = draft(changed(job, *finding.remedies[-1].changes))
            assert finding.code not in [f.code for f in fixed.findings if f.where == finding.where], finding
    for lying in cover.lying.values():
        own = [p for p in cover.pieces if p.on == lying.piece and p.name not in before]
        for piece in own:
            ring = cover.flat[piece.name].sew_points
            middle = piece.place.at(((ring.min(axis=0) + ring.max(axis=0)) / 2.0)[None, :])[0]
            reach = np.linalg.norm(np.ptp(ring, axis=0)) + feature.height + feature.width + 1000.0 * bool(feature.options)
            assert np.linalg.norm(middle - lying.place) < reach


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_what_is_new_begins_where_it_is_clear(form: str, scheme: str) -> None:
    """Every kind on the first side that the cover has: nothing that stops, unless there is no room at all."""
    job = starter(form, scheme)
    cover = made(job).cover
    ground = Ground(cover)
    face = next(face for face in Facing if ground.anchor(face) is not None)
    for kind in KINDS.values():
        feature = begun(kind, "it", face, cover, job.cover)
        drafted = made(changed(job, Change(refs.feature(), feature, Act.ADD)))
        stops = [f.code for f in drafted.findings if f.severity is Severity.STOP and f.where.of is Of.FEATURE]
        assert not stops, (kind.key, stops)


@pytest.mark.parametrize(("face", "quarter"), [(Face.FRONT, 0), (Face.RIGHT, 1), (Face.BACK, 2), (Face.LEFT, 3)])
def test_a_port_for_what_sticks_out_lies_over_it(face: Face, quarter: int) -> None:
    for form, scheme in [("drum", "wall-and-lid"), *(("box", scheme) for scheme in BOXES)]:
        tap = SticksOut(name="tap", from_top=150.0, from_centre=60.0, reach=60.0, size=30.0, treatment=Treatment.PORT, face=face)
        knob = replace(tap, name="knob", face=Face.TOP, size=20.0)
        base = starter(form, scheme)
        job = replace(base, thing=replace(base.thing, sticks_out=(tap, knob)))
        for _ in range(2):
            finding = next(f for f in draft(job).findings if f.code == "port-missing")
            job = changed(job, *finding.remedies[0].changes)
        drafted = made(job)
        assert not [
            f for f in drafted.findings if f.code == "port-missing" or (f.where.of is Of.FEATURE and f.severity is Severity.STOP)
        ]
        there, top = (drafted.cover.lying[f.id].place for f in job.cover.features)
        # As one looks at its side: turned back to the front, and on a drum by the angle of 60 mm along its wall too.
        turned = complex(there[0], there[1]) * (-1j) ** quarter
        if form == "drum":
            turned *= np.exp(-1j * 60.0 / drafted.body.radius)
        assert turned.real == pytest.approx(0.0 if form == "drum" else 60.0, abs=1.0)
        assert turned.imag < 0.0
        assert there[2] == pytest.approx(drafted.body.height.value - 150.0, abs=1.0)
        assert top[:2] == pytest.approx((0.0, 0.0), abs=1.0)


def test_a_port_across_a_seam_is_moved_or_split() -> None:
    """On the corner of a box: moved, made of two halves, or under a scheme that has no seam there."""
    job = put("port", starter("box", "five-panels"), from_centre=268.0, from_top=300.0, width=60.0)
    finding = next(f for f in draft(job).findings if f.code == "port-across-seam")
    tried = advised(draft(job), lawful)
    offered = [str(r.words) for f in tried.findings if f.code == finding.code for r in f.remedies]
    assert [words for words in offered if "two halves" in words]
    assert [words for words in offered if words.startswith("Move")]
    assert [words for words in offered if "seams lie elsewhere" in words]
    halved = changed(job, Change(refs.feature(job.cover.features[0].id, "options.split"), True))
    drafted = made(halved)
    assert finding.code not in [f.code for f in drafted.findings]
    halves = [(p, f) for p in drafted.panels for f in p.figures if f.kind is MarkKind.CUT_OUT]
    assert len({panel.name for panel, _ in halves}) == 2
    areas = [shapely.Polygon(figure.points).area for _, figure in halves]
    assert sum(areas) == pytest.approx(math.pi * 30.0**2, rel=0.01)
    for panel, figure in halves:
        on_seam = shapely.LinearRing(panel.sew_points).distance(shapely.Polygon(figure.points))
        assert on_seam < 0.01
    stops = []  # where the seam stops and goes on, on both panels at the same places
    for piece in (p for p in drafted.cover.pieces if not p.on):
        panel = drafted.cover.flat[piece.name]
        curves = [(panel.edge(n.edge).curve, n.fraction) for n in panel.notches if n.label == "stop"]
        stops += [piece.place.at(np.array([curve.at(share)]))[0] for curve, share in curves]
    assert len(stops) == 4
    assert max(min(np.linalg.norm(a - b) for j, b in enumerate(stops) if j != i) for i, a in enumerate(stops)) < 0.2
    assert 50.0 < abs(stops[0][2] - stops[1][2]) < 60.0


@pytest.mark.parametrize("unit", Unit)
def test_a_cosys_sides_stay_open_for_spout_and_handle(unit: Unit) -> None:
    """A seam that runs over what comes out is proposed to stay open there: all across it, and no further than the gap asks."""
    base = starter("drum", "gathered-halves", unit)
    spout = SticksOut(name="spout", from_top=80.0, reach=60.0, size=50.0, treatment=Treatment.PORT, face=Face.RIGHT)
    handle = replace(spout, name="handle", size=90.0, face=Face.LEFT)
    job = replace(base, thing=replace(base.thing, sticks_out=(spout, handle)))
    for thing in job.thing.sticks_out:
        finding = next(f for f in draft(job).findings if f.code == "port-missing" and f.where.id == thing.id)
        job = changed(job, *next(r for r in advised(draft(job), lawful).findings[0].remedies if "open" in str(r.words)).changes)
        assert finding.where not in [f.where for f in draft(job).findings]
    drafted = made(job)
    assert drafted.cover.slits == ("right side, left open", "left side, left open")
    pieces = {piece.name: piece for piece in drafted.cover.pieces}
    for name, thing, way in zip(drafted.cover.slits, job.thing.sticks_out, (1.0, -1.0), strict=True):
        (slit,) = [edge for edge in drafted.cover.edges if edge.name == name]
        ends = []
        for run in slit.runs:
            curve = drafted.cover.flat[run.piece].edge(run.edge).curve
            ends.append(pieces[run.piece].place.at(np.array([curve.start, curve.end])))
        heights = sorted(ends[0][:, 2])
        middle = drafted.body.height.value - thing.from_top
        assert heights[0] < middle - thing.size / 2.0 + 0.5
        assert heights[1] > middle + thing.size / 2.0 - 0.5
        assert heights[1] - heights[0] < thing.size + 2.0 * (12.7 + 3.2) + 6.0
        assert np.all(way * ends[0][:, 0] > 0.0)
    assert not [f for f in drafted.findings if f.code == "port-missing"]


HANGS: dict[str, tuple[dict[str, Any], float, int]] = {
    "webbing handle": ({"caught": "stitched on", "pair": True, "rise": 50.0}, 120.0 + 2 * 50.0, 2),
    "strap": ({"caught": "stitched on", "ends": "nothing"}, 120.0, 1),
    "loop": ({"caught": "stitched on"}, 2 * 120.0 + 3.0, 1),
    "ties": ({"caught": "stitched on", "long": 300.0, "parts": 2.0}, 300.0, 4),
}


@pytest.mark.parametrize("kind", HANGS)
@pytest.mark.parametrize("caught", ["stitched on", "the seam above"])
@pytest.mark.parametrize(("form", "scheme"), [("box", "five-panels"), ("drum", "wall-and-lid")])
def test_what_hangs_on_a_cover_has_its_own_length_in_space_and_begins_on_the_cover(
    form: str, scheme: str, kind: str, caught: str
) -> None:
    own, long, count = HANGS[kind]
    own = {**own, "caught": caught} | ({"pair": False} if kind == "webbing handle" and caught != "stitched on" else {})
    job = put(kind, starter(form, scheme), own={k: v for k, v in own.items() if k != "pair" or v}, from_top=200.0, width=120.0)
    drafted = made(job)
    (feature,) = drafted.job.cover.features
    ribbons = drafted.cover.ribbons[feature.id]
    assert len(ribbons) == (1 if kind == "webbing handle" and caught != "stitched on" else count)
    piece = next(p for p in drafted.cover.pieces if p.name == drafted.cover.lying[feature.id].piece)
    cloth = piece.place.at(sampled(drafted.cover.flat[piece.name], 160))
    for ribbon in ribbons:
        assert ribbon.length == pytest.approx(long, rel=2e-3)
        assert np.linalg.norm(cloth - ribbon.line[0], axis=1).min() < (40.0 if kind == "webbing handle" else 12.0)
        gaps = drafted.body.occupied.gaps(ribbon.line)
        assert gaps.min() > 0.0  # outside of the object
        if kind in ("webbing handle", "loop"):
            assert gaps.max() > gaps[0] + 25.0  # it stands off
        if kind in ("strap", "ties"):
            assert ribbon.line[-1][2] < ribbon.line[0][2] - 0.9 * long  # it hangs down


def test_a_boxed_pocket_stands_out_by_its_depth_and_its_corners_meet() -> None:
    for caught_on in ("box", "drum"):
        scheme = "five-panels" if caught_on == "box" else "wall-and-lid"
        drafted = made(put("pocket", starter(caught_on, scheme), own={"depth": 40.0}, from_top=250.0, width=160.0, height=120.0))
        piece, panel = next((p, drafted.cover.flat[p.name]) for p in drafted.cover.pieces if p.name == "it")
        at = {e.name: piece.place.at(np.array([e.curve.start, e.curve.end])) for e in panel.edges}
        for side in ("right", "left"):
            up, out = at[f"{side} corner up"], at[f"{side} corner out"]
            assert np.linalg.norm(up - out[::-1], axis=1).max() < 0.05
        gaps = drafted.body.occupied.gaps(piece.place.at(sampled(panel, 20)))
        assert gaps.max() - gaps.min() == pytest.approx(40.0, abs=1.0 if caught_on == "box" else 15.0)


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


def test_a_feature_of_an_old_job_lies_where_it_lay_and_is_said_by_its_side() -> None:
    old = json.loads(dumped(starter("box", "saddle-and-ends")))
    old["version"] = 4
    feature = {
        "kind": "port",
        "name": "cable",
        "panel": "end",
        "from_centre": 30.0,
        "from_top": 120.0,
        "width": 50.0,
        "shape": "slot",
        "slit_to": "lower edge",
    }
    old["job"]["cover"]["features"] = [feature]
    job = loaded(json.dumps(old))
    drafted = made(job)
    finding = next(f for f in drafted.findings if f.code == "feature-unplaced")
    after = changed(job, *finding.remedies[0].changes)
    assert (after.cover.features[0].face, after.cover.features[0].from_centre, after.cover.features[0].from_top) == (
        Facing.RIGHT,
        30.0,
        120.0,
    )
    assert after.cover.features[0].options == {"shape": "slot", "slit": "down"}
    then = made(after)
    assert "feature-unplaced" not in [f.code for f in then.findings]
    assert next(iter(then.cover.lying.values())).place == pytest.approx(next(iter(drafted.cover.lying.values())).place, abs=1e-3)
    assert Cloth.OUTER in {panel.cloth for panel in then.panels}


@tried(10)
@given(st.floats(15.0, 200.0), st.floats(-60.0, 60.0), st.sampled_from(Face))
@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_a_port_that_serves_a_thing_lies_on_its_axis(form: str, scheme: str, down: float, across: float, face: Face) -> None:
    """On every scheme that has cloth there, gathered and bent cloth too, to within a hundredth of a millimetre."""
    base = starter(form, scheme)
    thing = SticksOut(
        name="t", id="1", from_top=down, from_centre=across, reach=30.0, size=20.0, face=face, treatment=Treatment.PORT
    )
    job = put("port", replace(base, thing=replace(base.thing, sticks_out=(thing,))), serves="1", width=20.0)
    drafted = made(job)
    place = stands(drafted.body, thing)
    for lying in drafted.cover.lying.values():
        assert place is not None
        foot, out = np.array(place[0]), np.array(place[1])
        away = np.array(lying.place) - foot
        assert np.linalg.norm(away - out * (away @ out)) < 0.01
