"""What is put on a cover lies where a tape on the cover says, on one piece, and over what it serves."""

import itertools
import json
import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.core.finishing.putting import made, named, put
from tests.wild import some, tried, wild_features

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth, MarkKind
from omnipel.core.drafting.topology import surface
from omnipel.core.finishing.elsewhere import begun
from omnipel.core.finishing.ground import Ground
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.forms.body import stands
from omnipel.core.job.changes import changed
from omnipel.core.job.feature import Facing
from omnipel.core.job.findings import Act, Change, Severity
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.remedies import advised
from omnipel.core.words import refs
from omnipel.core.words.refs import Of
from omnipel.core.words.units import Unit
from omnipel.shop.document import dumped, lawful, loaded
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

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


def test_over_a_dome_of_gores_one_goes_down_on_the_side_one_said() -> None:
    """The gores meet in one point: from there the way down is that of the side, not of the one behind."""
    made = draft(starter("turned", "gores"))
    assert isinstance(made, Drafted)
    ground = Ground(made.cover)
    for face, out in (
        (Facing.FRONT, (0.0, -1.0)),
        (Facing.RIGHT, (1.0, 0.0)),
        (Facing.BACK, (0.0, 1.0)),
        (Facing.LEFT, (-1.0, 0.0)),
    ):
        heights = []
        for down in (20.0, 150.0, 300.0):
            spot = ground.spot(face, 0.0, down)
            assert spot is not None
            x, y, z = spot.place
            assert x * out[0] + y * out[1] > 0.0
            heights.append(z)
        assert heights == sorted(heights, reverse=True)


@tried(30)
@given(
    st.sampled_from([4, 6, 8, 12]),
    st.sampled_from([Facing.FRONT, Facing.RIGHT, Facing.BACK, Facing.LEFT]),
    st.floats(0.7, 1.6),
    st.floats(1.0, 900.0),
)
def test_along_the_seam_of_two_gores_one_stays_on_it_and_goes_straight_on_below(
    gores: int, face: Facing, higher: float, down: float
) -> None:
    """The middle of a side lies on a seam that is bent on both of its pieces, or on the middle of a gore: by symmetry it is never left."""
    job = next(job for job in (sample() for sample in SAMPLES) if job.cover.scheme == "gores" and job.cover.options.get("skirt"))
    readings = tuple(
        replace(r, repeats=tuple(mm * higher for mm in r.repeats)) if r.place.startswith("height") else r for r in job.readings
    )
    options = {**job.cover.options, "gores": float(gores)}
    cover = made(replace(job, readings=readings, cover=replace(job.cover, features=(), options=options))).cover
    spot, before = (Ground(cover).spot(face, 0.0, far) for far in (down, down - min(20.0, down)))
    assert before is not None
    if spot is None:  # it ends above that
        return
    x, y, _ = spot.place
    assert abs(x if face in (Facing.FRONT, Facing.BACK) else y) < 0.02
    assert math.dist(spot.place, before.place) == pytest.approx(min(20.0, down), abs=0.5)


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


@pytest.mark.parametrize(("form", "scheme"), some(lawful_pairs(), of=2))
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
