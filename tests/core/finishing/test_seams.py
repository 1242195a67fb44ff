"""Constructions of seams: allowances on each side, what they take, from … to …, left open; and panels parted at a height."""

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
from tests.core.space.test_promises import strains
from tests.jobs import drum
from tests.wild import tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.topology import surface
from omnipel.core.drafting.walking import walk
from omnipel.core.finishing.constructions import CONSTRUCTIONS, schools
from omnipel.core.finishing.strips import binding_width, piping_width
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import Job, Lining, LiningSchool
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import FinishKind, single_hem, usual_finish
from omnipel.core.job.joining import Parting, SeamChoice
from omnipel.core.tolerances import CLOSES
from omnipel.core.words import refs
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.shop.document import dumped, loaded
from omnipel.shop.starter import starter

CASES = {case["id"]: case for case in json.loads((Path(__file__).parent / "cases.json").read_text())["cases"]}


def sewn(made: Job, **seams: SeamChoice) -> Drafted:
    """The draft of a job with something decided about seams, their names with underscores."""
    chosen = {name.replace("_", " "): choice for name, choice in seams.items()}
    drafted = draft(replace(made, cover=replace(made.cover, seams=chosen)))
    assert isinstance(drafted, Drafted)
    return drafted


def bought(drafted: Drafted) -> dict[str, float]:
    return {str(h.name): h.length.value for h in drafted.cover.hardware if h.length is not None}


@pytest.mark.parametrize("key", schools())
@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_construction_on_every_seam_of_every_scheme(form: str, scheme: str, key: str) -> None:
    """The cover is the same surface, closes as well, and both sides have the allowances that the trade gives."""
    made = starter(form, scheme)
    made = replace(made, cover=replace(made.cover, cloth=replace(made.cover.cloth, frays=False)))
    plain = draft(made)
    assert isinstance(plain, Drafted)
    chosen = {name: SeamChoice(kind=key) for name in plain.cover.joins}
    drafted = draft(replace(made, cover=replace(made.cover, seams=chosen)))
    assert isinstance(drafted, Drafted)
    a, wide = made.cover.seam_allowance, made.cover.habits.mm("overlap")
    sides = {"flat-felled": (a, a / 2.0), "lapped": (wide / 2.0 + 3.0, wide / 2.0)}.get(key)
    for trued in drafted.seams:
        if trued.seam.name not in chosen or trued.seam.kind == "gathered":
            continue
        assert trued.seam.kind == key
        widths = [{drafted.cover.flat[r.piece].edge(r.edge).finish.width for r in side} for side in trued.seam.sides]
        if sides is not None and not trued.seam.onto and sides[0] in widths[0]:
            assert sides[1] in widths[1]
    assert max(drafted.sewn.apart, default=0.0) <= CLOSES
    assert len(drafted.cover.edges) == len(plain.cover.edges)
    assert [p.name for p in drafted.cover.pieces] == [p.name for p in plain.cover.pieces]
    if key == "piped":  # gathered or not, the cord is as long as the sewn seam
        cords = ((t.length_b - (0.0 if t.seam.ring else 20.0)) * t.times for t in drafted.seams if t.seam.name in chosen)
        assert bought_all(drafted, "piping cord") == pytest.approx(math.fsum(cords))


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@pytest.mark.parametrize(("key", "ratio"), [("gathered", 1.5), ("eased", 1.02)])
def test_a_seam_that_is_gathered_or_eased_has_a_fuller_strip_that_is_drawn_in_evenly(
    form: str, scheme: str, key: str, ratio: float
) -> None:
    """Where a strip hangs free at its other edge; elsewhere it is said why not, and nothing changes."""
    made = starter(form, scheme)
    plain = draft(replace(made, cover=replace(made.cover, lining=Lining())))
    assert isinstance(plain, Drafted)
    for name in plain.cover.joins:
        drafted = draft(replace(plain.job, cover=replace(plain.job.cover, seams={name: SeamChoice(kind=key)})))
        assert isinstance(drafted, Drafted)
        assert "promise-broken" not in [f.code for f in drafted.findings]
        fuller = [t for t in drafted.seams if t.seam.name == name and t.seam.ratio == ratio]
        if not fuller:
            unsuited = [f for f in drafted.findings if f.code == "construction-unsuited"]
            assert unsuited or any(t.seam.onto for t in plain.seams if t.seam.name == name)
            assert [p.sew_points.tolist() for p in drafted.panels] == [p.sew_points.tolist() for p in plain.panels]
            continue
        for trued in fuller:
            assert trued.true
            assert trued.length_a == pytest.approx(ratio * trued.length_b)
            for run in trued.seam.a:
                piece = next(p for p in drafted.cover.pieces if p.name == run.piece)
                low, high = strains(piece, drafted.cover.flat[run.piece])
                drawn = 1.0 / ratio - 1.0
                assert low <= drawn + 1e-6 if scheme == "sleeve-tied" else low == pytest.approx(drawn, abs=1e-6)
                assert high < 1e-6
        assert surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams).sound
        wider = sum(e.length.value for e in drafted.cover.edges) / sum(e.length.value for e in plain.cover.edges)
        assert 1.0 < wider < ratio + 1e-6
        assert loaded(dumped(drafted.job)) == drafted.job


def test_cloth_that_cannot_gather_or_ease_so_far_says_so() -> None:
    for key, far in (("gathered", 3.0), ("eased", 1.1)):
        drafted = sewn(drum(), wall_to_lid=SeamChoice(kind=key, fuller=far))
        finding = next(f for f in drafted.findings if f.code == "construction-unsuited")
        cured = draft(changed(drafted.job, *finding.remedies[0].changes))
        assert "construction-unsuited" not in [f.code for f in cured.findings]
        assert max(t.seam.ratio for t in cured.seams) > 1.0


def bought_all(drafted: Drafted, name: str) -> float:
    return math.fsum(h.length.value for h in drafted.cover.hardware if str(h.name) == name and h.length is not None)


def test_the_worked_cases_of_the_trade() -> None:
    """A piped run that stops short of both ends, and the binding of a ring."""
    given_, expect = CASES["piped-run"]["given"], CASES["piped-run"]["expect"]
    assert piping_width(given_["d"], given_["a"]) == pytest.approx(expect["strip_width"], abs=0.01)
    ring = CASES["bound-ring"]["given"]
    assert binding_width(ring["b"], ring["t"]) == CASES["bound-ring"]["expect"]["strip_width"]
    stop = given_["stop"]
    made = starter("box", "saddle-and-ends")
    made = replace(made, cover=replace(made.cover, cloth=replace(made.cover.cloth, usable_width=5000.0)))
    whole = next(t for t in sewn(made).seams if t.seam.name == "saddle to right end").length_a
    run = whole - 2.0 * stop
    piped = SeamChoice(kind="piped", wide=given_["d"], allowance=given_["a"], start=stop, stop=whole - stop)
    drafted = sewn(made, saddle_to_right_end=piped)
    assert bought(drafted)["piping strip"] == pytest.approx(run + (expect["strip_length"] - expect["run"]))
    assert bought(drafted)["piping cord"] == pytest.approx(run - (expect["run"] - expect["cord"]))
    marks = [n for p in drafted.panels for n in p.notches if n.kind is MarkKind.POINT and n.label in ("from", "to")]
    assert len(marks) == 4  # both ends of the run on both sides
    ends = {round(n.fraction * whole, 3) for n in marks if n.edge == "right edge"}
    assert ends == {stop, round(whole - stop, 3)}


def test_a_bound_ring_takes_its_girth_and_its_joins() -> None:
    drafted = sewn(drum(usable_width=10_000.0), wall_to_lid=SeamChoice(kind="bound"))
    girth = drafted.cover.sizes["wall_sew_length"].value
    assert bought(drafted)["binding"] == pytest.approx(girth)
    narrow = sewn(drum(usable_width=700.0), wall_to_lid=SeamChoice(kind="bound"))
    strip = 4.0 * 10.0 + 4.0 * narrow.job.cover.cloth.thickness
    cut = 700.0 * math.sqrt(2.0) - strip  # on the bias: the lid's radius is under 300
    cuts = math.ceil((girth - strip) / (cut - strip))
    assert cuts > 1
    assert bought(narrow)["binding"] == pytest.approx(girth + (cuts - 1) * strip)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_a_seam_left_open_is_an_opening(form: str, scheme: str) -> None:
    """Every seam in turn, in its middle: one opening more, twice as long as what is left open, turned back, and all else closes."""
    made = starter(form, scheme)
    plain = draft(made)
    assert isinstance(plain, Drafted)
    for name in plain.cover.joins:
        group = [t for t in plain.seams if t.seam.name == name]
        n = sum(t.times for t in group)
        long = group[0].length_a / group[0].seam.ratio
        if len(group) > 1 or group[0].seam.onto:
            continue
        choice = SeamChoice(open_from=long * 0.25, open_to=long * 0.5)
        drafted = draft(
            replace(
                made, cover=replace(made.cover, seams={name: choice}, lining=replace(made.cover.lining, school=LiningSchool.NONE))
            )
        )
        assert isinstance(drafted, Drafted)
        outer = [p for p in drafted.cover.pieces if drafted.cover.flat[p.name].cloth == "outer"]
        assert surface(drafted.panels, outer, drafted.cover.seams).sound or scheme == "padded-case"
        opened = [edge for edge in drafted.cover.edges if edge.name in drafted.cover.slits]
        assert len(opened) == n, name
        short = (group[0].seam.ratio + 1.0) * long * 0.25
        for edge in opened:
            assert edge.length.value == pytest.approx(short, rel=1e-6)
            for run in edge.runs:
                finish = drafted.cover.flat[run.piece].edge(run.edge).finish
                assert finish == single_hem(finish.width)
                assert finish.width > 0.0
        assert max(drafted.sewn.apart, default=0.0) <= CLOSES
        closed = math.fsum(t.length_b * t.times for t in drafted.seams if (t.seam.whole or t.seam.name) == name)
        assert closed == pytest.approx((long * 0.75) * n, rel=1e-6)


def test_left_open_is_measured_from_the_upper_end_and_finished_as_decided() -> None:
    drafted = sewn(drum(), close_the_wall=SeamChoice(open_from=100.0, open_to=250.0))
    place = next(p for p in drafted.cover.pieces if p.name == "wall").place
    top = drafted.cover.flat["wall"].sew_points[:, 1].max()
    heights = [
        place.at(np.array([drafted.cover.flat["wall"].edge(run.edge).curve.at(f)]))[0, 2]
        for edge in drafted.cover.edges
        if edge.name in drafted.cover.slits
        for run in edge.runs
        for f in (0.0, 1.0)
    ]
    above = place.at(np.array([(0.0, top)]))[0, 2]
    assert sorted({round(float(above - h), 3) for h in heights}) == [100.0, 250.0]
    bound = changed(drafted.job, Change(refs.edge("close the wall, left open", "finish"), single_hem(20.0)))
    wall = next(p for p in draft(bound).panels if p.name == "wall")
    assert sorted(e.finish.width for e in wall.edges if e.finish.kind == "single hem") == [20.0, 20.0]
    assert [f.code for f in draft(bound).findings] == [f.code for f in drafted.findings]


def test_left_open_to_its_lower_end_it_is_part_of_the_lower_edge() -> None:
    drafted = sewn(drum(), close_the_wall=SeamChoice(open_from=500.0, open_to=5000.0))
    girth, high = (drafted.cover.sizes[key].value for key in ("wall_sew_length", "wall_finished_height"))
    assert [(e.name, round(e.length.value, 3)) for e in drafted.cover.edges] == [
        ("lower edge", round(girth + 2.0 * (high - 500.0), 3))
    ]


def test_one_of_two_ends_sewn_otherwise_is_a_pattern_of_its_own() -> None:
    drafted = sewn(starter("box", "five-panels"), corner_front_right=SeamChoice(allowance=25.0))
    cut = {p.name: (p.count, round(p.cut_length.value - p.length.value, 3)) for p in drafted.panels}
    assert sum(count for count, _ in cut.values()) == 5
    assert sorted(more for _, more in cut.values()) == [24.0, 24.0, 24.0, 37.0, 37.0]
    assert {piece.panel for piece in drafted.cover.pieces} == {p.name for p in drafted.panels}


@pytest.mark.parametrize("from_top", [False, True])
@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_a_panel_parted_at_a_height_is_the_same_cover(form: str, scheme: str, from_top: bool) -> None:
    """Every panel in turn: areas add up, the surface stays what it was, the zip closes and is as long as the line."""
    made = starter(form, scheme)
    made = replace(made, cover=replace(made.cover, lining=replace(made.cover.lining, school=LiningSchool.NONE), padding=0.0))
    plain = draft(made)
    assert isinstance(plain, Drafted)
    own = {p.panel for p in plain.cover.pieces if not p.on}
    for panel in plain.panels:
        if panel.name not in own or panel.cloth != "outer":
            continue
        parting = Parting(panel=panel.name, at=float(np.ptp(panel.sew_points[:, 1])) * 0.4, from_top=from_top)
        drafted = draft(replace(made, cover=replace(made.cover, parted=(parting,))))
        if "parting-misses" in [f.code for f in drafted.findings]:
            assert scheme in ("padded-case", "one-piece", "wheel-cap", "traced-ends", "sheet", "drape", "envelope")
            continue
        assert isinstance(drafted, Drafted)
        parts = [p for p in drafted.panels if p.name.startswith(f"{panel.name}, ")]
        assert [p.count for p in parts] == [panel.count] * 2
        area = math.fsum(shapely.Polygon(p.sew_points).area for p in parts)
        assert area == pytest.approx(shapely.Polygon(panel.sew_points).area, rel=1e-4)
        assert (
            surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams).faults
            == surface(plain.panels, plain.cover.pieces, plain.cover.seams).faults
        )
        assert [round(e.length.value, 3) for e in drafted.cover.edges] == [round(e.length.value, 3) for e in plain.cover.edges]
        assert max(drafted.sewn.apart, default=0.0) <= CLOSES
        zipped = next(t for t in drafted.seams if t.seam.name == f"parting of {panel.name}")
        ends = walk(zipped.seam.a, named(drafted.cover.pieces), drafted.cover.flat, np.array((0.0, 1.0)))
        around = bool(
            np.linalg.norm(ends[0] - ends[1]) < CLOSES
        )  # a wall closed into a ring has a zip all around, longer by its ends
        assert zipped.seam.ring is around
        more = 2 * 30.0 if around else -2 * 10.0
        assert bought_all(drafted, "zip") - bought_all(plain, "zip") == pytest.approx((zipped.length_a + more) * panel.count)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_wild_decisions_about_seams_keep_the_promises(form: str, scheme: str) -> None:
    @tried(4)
    @given(wild_jobs(form, scheme, Unit.MM), st.data())
    def run(made: Job, data: st.DataObject) -> None:
        plain = draft(replace(made, cover=replace(made.cover, overrides=())))
        if not isinstance(plain, Drafted):
            return
        chosen: dict[str, SeamChoice] = {}
        for name in tuple(plain.cover.joins)[:3]:
            begin, end = sorted(data.draw(st.tuples(st.floats(0.0, 900.0), st.floats(0.0, 900.0))))
            kinds = st.sampled_from(("", *CONSTRUCTIONS))
            chosen[name] = SeamChoice(
                kind=data.draw(kinds),
                start=data.draw(st.floats(0.0, 300.0)),
                open_from=begin,
                open_to=data.draw(st.sampled_from((begin, end))),
            )
        drafted = draft(replace(plain.job, cover=replace(plain.job.cover, seams=chosen)))
        assert isinstance(drafted, Drafted)
        assert "promise-broken" not in [f.code for f in drafted.findings]
        outer = [p for p in drafted.cover.pieces if drafted.cover.flat[p.name].cloth == "outer"]
        seams = [s for s in drafted.cover.seams if {r.piece for side in s.sides for r in side} <= {p.name for p in outer}]
        assert surface(drafted.panels, outer, seams).sound
        assert loaded(dumped(drafted.job)) == drafted.job

    run()


def test_what_speaks_against_a_construction_is_said_with_its_cure() -> None:
    made = drum(a=6.0)
    against: dict[str, dict[str, Any]] = {
        "bound": {"wide": 12.0},
        "piped": {"wide": 150.0},
        "lapped": {},
        "zipped": {"wide": 8.0},
        "flat-felled": {},
    }
    for kind, more in against.items():
        drafted = sewn(made, wall_to_lid=SeamChoice(kind=kind, **more))
        found = next(f for f in drafted.findings if f.code == "construction-unsuited")
        after = [draft(changed(drafted.job, *remedy.changes)) for remedy in found.remedies]
        assert after
        assert all("construction-unsuited" not in [f.code for f in other.findings] for other in after), kind


def test_stretches_beyond_a_seam_and_unknown_seams_are_said() -> None:
    for choice in (
        SeamChoice(kind="piped", start=9_000.0),
        SeamChoice(kind="piped", stop=9_000.0),
        SeamChoice(open_from=50.0, open_to=9e3),
    ):
        drafted = sewn(drum(), wall_to_lid=choice)
        found = next(f for f in drafted.findings if f.code == "stretch-beyond-seam")
        assert "stretch-beyond-seam" not in [f.code for f in draft(changed(drafted.job, *found.remedies[0].changes)).findings]
    lost = sewn(drum(), no_such_seam=SeamChoice(kind="bound"))
    assert "choice-unused" in [f.code for f in lost.findings]
    misses = draft(replace(drum(), cover=replace(drum().cover, parted=(Parting(panel="wall", at=5000.0),))))
    found = next(f for f in misses.findings if f.code == "parting-misses")
    assert all("parting-misses" not in [f.code for f in draft(changed(misses.job, *r.changes)).findings] for r in found.remedies)


def test_decisions_about_seams_are_changed_forgotten_and_kept_in_the_file() -> None:
    made = changed(drum(), Change(refs.seam("wall to lid", "kind"), "piped"), Change(refs.seam("wall to lid", "start"), 40.0))
    assert made.cover.seams == {"wall to lid": SeamChoice(kind="piped", start=40.0)}
    assert meant(made, refs.seam("wall to lid", "start")) == 40.0
    parted = changed(made, Change(refs.parting(), Parting(panel="wall", at=90.0), Act.ADD))
    assert loaded(dumped(parted)) == parted
    assert changed(parted, Change(refs.parting(parted.cover.parted[0].id), act=Act.REMOVE)) == made
    assert changed(made, Change(refs.seam("wall to lid"), act=Act.REMOVE)) == drum()


def test_a_stretch_is_measured_on_the_whole_seam_wherever_that_is_left_open() -> None:
    """A saddle's seam runs up, over and down: piped from 200 to 1 000, left open from 500 to 600, both from its front end."""
    made = starter("box", "saddle-and-ends")
    cloth = replace(made.cover.cloth, usable_width=5000.0)
    made = replace(made, cover=replace(made.cover, cloth=cloth))
    for name in ("saddle to right end", "saddle to left end"):
        choice = SeamChoice(kind="piped", start=200.0, stop=1000.0, open_from=500.0, open_to=600.0)
        drafted = sewn(made, **{name.replace(" ", "_"): choice})
        parts = [t.seam for t in drafted.seams if t.seam.whole == name]
        assert sorted(round(s.stretch[1] - s.stretch[0], 6) for s in parts if s.stretch) == [300.0, 400.0]
        assert bought_all(drafted, "piping cord") == pytest.approx(300.0 + 400.0 - 2 * 20.0)
        highs = [float(_place_of(drafted, s.a, at)[2]) for s in parts for at in s.stretch or ()]
        assert any(abs(h - 200.0) < 1.0 for h in highs)  # 200 up the front from its lower edge, on the ground
        assert any(abs(h - 500.0) < 1.0 for h in highs)


def _place_of(drafted: Drafted, side: Any, at: float) -> Any:
    """Where a place so far along a side lies in space."""
    flat = drafted.cover.flat
    whole = math.fsum(flat[run.piece].edge(run.edge).curve.length for run in side)
    return walk(side, named(drafted.cover.pieces), flat, np.array([at / whole]))[0]


@pytest.mark.parametrize("kind", ["lapped", "bound", "piped", "zipped", "flat-felled"])
def test_in_inches_nothing_is_told_in_millimetres(kind: str) -> None:
    """Whatever a construction adds of its own is a fraction of an inch."""
    made = starter("box", "five-panels", Unit.INCH_16)
    edge = EdgeChoice(held_by=Hold.CORD, finish=usual_finish(FinishKind.CORD_CASING, made.cover.habits, 12.7))
    made = replace(made, cover=replace(made.cover, edges={"lower edge": edge}, parted=(Parting(panel="top", at=25.4 * 4),)))
    drafted = sewn(made, corner_front_right=SeamChoice(kind=kind))
    own = [term for h in drafted.cover.hardware if h.length for term in h.length.terms if term.source is None and not term.slopes]
    own = [term for term in own if " of the " not in str(term.name) and str(term.name) != "joins"]
    assert own
    for term in own:
        assert term.amount / (25.4 / 16) == pytest.approx(round(term.amount / (25.4 / 16))), str(term.name)
    for trued in drafted.seams:
        for run in (*trued.seam.a, *trued.seam.b):
            width = drafted.cover.flat[run.piece].edge(run.edge).finish.width
            assert width / (25.4 / 16) == pytest.approx(round(width / (25.4 / 16))), (trued.seam.name, kind)
    assert any("entry gap of 1 in" in Voice(Unit.INCH_16).say(note) for p in drafted.panels for note in p.notes)
