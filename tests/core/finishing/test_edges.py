"""Edges of openings: one decision for each; what it takes is as long as that very edge, measured on the pieces."""

import json
import math
from dataclasses import replace

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.jobs import drum
from tests.wild import HEMS, tried, wild_jobs

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.topology import surface
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import ClosureKind, Job, Lining, LiningSchool
from omnipel.core.job.edges import EdgeChoice, HemOrder, Hold
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import HEMS as KINDS
from omnipel.core.job.finish import FinishKind, double_hem, refinished_as, usual_finish
from omnipel.core.words import refs
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.units import Unit
from omnipel.shop.document import dumped, loaded
from omnipel.shop.starter import starter

DECIDED = [(form, scheme) for form, scheme in lawful_pairs() if SCHEMES[scheme].edges]


def with_edge(made: Job, **chosen: object) -> Job:
    """The job with something decided about the first of its openings."""
    name = SCHEMES[made.cover.scheme].edges[0]
    return replace(made, cover=replace(made.cover, edges={name: EdgeChoice(**chosen)}))  # type: ignore[arg-type]


def measured(drafted: Drafted) -> float:
    """How long the first opening is on the pieces that surround it, lining and all that lies on a face left out."""
    cover, name = drafted.cover, SCHEMES[drafted.job.cover.scheme].edges[0]
    edge = next(e for e in cover.edges if e.name == name)
    outer = [piece for piece in cover.pieces if cover.flat[piece.name].cloth == "outer"]
    seams = [seam for seam in cover.seams if {r.piece for side in seam.sides for r in side} <= {p.name for p in outer}]
    around = next(o for o in surface(cover.panels, outer, seams).openings if o.has(edge.runs[0].piece, edge.runs[0].edge))
    return math.fsum(shapely.LineString(cover.flat[r.piece].edge(r.edge).curve.points(1e-4)).length for r in around.runs)


@pytest.mark.parametrize(("form", "scheme"), DECIDED)
def test_every_finish_is_cut_bought_and_held_as_long_as_its_edge(form: str, scheme: str) -> None:
    for kind in KINDS:
        finish = usual_finish(kind, Habits(), 12.0)
        lining = Lining(school=LiningSchool.BAGGED) if kind is FinishKind.BAGGED else Lining()
        made = with_edge(starter(form, scheme), finish=finish, held_by=Hold.CORD)
        endless = replace(made.cover.cloth, usable_width=50_000.0)  # in which no binding has a join
        drafted = draft(replace(made, cover=replace(made.cover, lining=lining, padding=0.0, cloth=endless)))
        assert isinstance(drafted, Drafted)
        edge = next(e for e in drafted.cover.edges if e.asked)
        around = measured(drafted)
        assert edge.length.value == pytest.approx(around, rel=1e-5)
        assert {drafted.cover.flat[r.piece].edge(r.edge).finish.allowance for r in edge.runs} <= {finish.allowance, 0.0}
        bought = {str(h.name): h.length.value for h in drafted.cover.hardware if h.length is not None}
        assert bought["drawcord"] == pytest.approx(around + 300.0, rel=1e-5)
        assert ("binding" in bought) is (kind is FinishKind.BOUND) or scheme == "wheel-both-faces"
        if kind is FinishKind.BOUND and scheme != "wheel-both-faces":  # whose hub opening is bound as well
            assert bought["binding"] == pytest.approx(around + 20.0, rel=1e-5)
        tunnel = "casing-too-narrow" in [f.code for f in drafted.findings]
        assert tunnel is (finish.folded < 13.0)  # a cord of 6 needs π · 6/2 + 3, rounded up
        gaps = [n for p in drafted.panels for n in p.notches if n.label == "gap" and n.kind is MarkKind.POINT]
        outer = [n for p in drafted.panels if p.cloth == "outer" for n in p.notches if n in gaps]
        assert len(outer) == (2 if finish.folded else 0)


@pytest.mark.parametrize(("form", "scheme"), DECIDED)
def test_facings_lie_on_what_they_face_and_are_as_deep_as_chosen(form: str, scheme: str) -> None:
    drafted = draft(with_edge(starter(form, scheme), finish=usual_finish(FinishKind.FACING, Habits(), 12.0)))
    assert isinstance(drafted, Drafted)
    strips = [piece for piece in drafted.cover.pieces if piece.name.startswith("facing of ")]
    edge = next(e for e in drafted.cover.edges if e.asked)
    faced = {r.piece for r in edge.runs if drafted.cover.flat[r.piece].edge(r.edge).finish.kind is FinishKind.FACING}
    assert {piece.on for piece in strips} == faced
    sewn = math.fsum(drafted.cover.flat[piece.name].edge("sewn edge").curve.length for piece in strips)
    assert sewn == pytest.approx(
        math.fsum(drafted.cover.flat[r.piece].edge(r.edge).curve.length for r in edge.runs if r.piece in faced), rel=1e-4
    )
    for piece in strips:
        strip = shapely.Polygon(drafted.cover.flat[piece.name].sew_points)
        host = shapely.Polygon(drafted.cover.flat[piece.on].sew_points)
        assert host.buffer(0.1).covers(strip)
        edge_of = {e.name: shapely.LineString(e.curve.points()) for e in drafted.cover.flat[piece.name].edges}
        assert edge_of["free edge"].distance(edge_of["sewn edge"]) == pytest.approx(50.0, abs=0.1)
        assert piece.mirrored is not next(p for p in drafted.cover.pieces if p.name == piece.on).mirrored


@pytest.mark.parametrize(("form", "scheme"), DECIDED)
def test_a_lining_meets_each_edge_as_that_is_finished(form: str, scheme: str) -> None:
    if refs.LINING_SCHOOL in SCHEMES[scheme].without:
        return

    @tried(8)
    @given(st.sampled_from((None, *HEMS)), st.sampled_from((LiningSchool.BAGGED, LiningSchool.BOUND)))
    def run(finish, school) -> None:  # type: ignore[no-untyped-def]
        made = with_edge(starter(form, scheme), finish=finish)
        made = replace(made, cover=replace(made.cover, lining=replace(made.cover.lining, school=school)))
        drafted = draft(made)
        assert isinstance(drafted, Drafted)
        flat = drafted.cover.flat
        edge = next(e for e in drafted.cover.edges if e.asked)
        for r in edge.runs:
            outer, inner = flat[r.piece].edge(r.edge).finish, flat[f"lining {r.piece}"].edge(r.edge).finish
            if outer.kind is FinishKind.FOLD:
                continue
            usual = FinishKind.BAGGED if school is LiningSchool.BAGGED else FinishKind.BOUND
            assert outer.kind is (finish.kind if finish is not None else usual)
            expected = {FinishKind.BAGGED: made.cover.lining.seam_allowance, FinishKind.BOUND: 0.0}.get(outer.kind, 0.0)
            assert inner.allowance == expected
            assert outer.folded == 0.0 or outer.kind not in (FinishKind.BAGGED, FinishKind.BOUND)  # never hemmed and bagged
        turned = any(n.label == "gap" for p in drafted.panels if p.cloth == "lining" for n in p.notches)
        assert turned is all(flat[r.piece].edge(r.edge).finish.kind is FinishKind.BAGGED for r in edge.runs)

    run()


@pytest.mark.parametrize("order", HemOrder)
def test_an_edge_has_an_order_of_its_own(order: HemOrder) -> None:
    other = next(o for o in HemOrder if o is not order)
    drafted = draft(with_edge(drum(hem_order=other), order=order))
    wall = next(p for p in drafted.panels if p.name == "wall")
    assert ("hem it flat, before its seams" in [str(note) for note in wall.notes]) is (order is HemOrder.HEM_FIRST)


def test_the_second_skirt_keeps_its_own_cord_and_the_wall_has_another() -> None:
    made = drum(options={"skirt": True}, edges={"lower edge": EdgeChoice(held_by=Hold.CORD)})
    drafted = draft(made)
    assert isinstance(drafted, Drafted)
    girth = drafted.cover.sizes["wall_sew_length"].value
    cords = {str(h.name): h.length.value for h in drafted.cover.hardware if h.length is not None}
    assert cords == {"cord": pytest.approx(girth + 100.0), "drawcord": pytest.approx(girth + 300.0)}
    assert [(e.name, e.asked) for e in drafted.cover.edges] == [("lower edge", True), ("lower edge of the second skirt", False)]


def test_a_binding_is_as_wide_as_the_trade_says() -> None:
    """Finished 10 on cloth of 0.5: 4 · 10 + 2 · 2 · 0.5 = 42, as long as the girth and what joins it."""
    drafted = draft(with_edge(drum(t=0.5), finish=usual_finish(FinishKind.BOUND, Habits(), 0.0)))
    binding = next(h for h in drafted.cover.hardware if str(h.name) == "binding")  # type: ignore[union-attr]
    assert "42 mm wide" in str(binding.note)


def test_the_edges_of_a_wrap_are_piped_each_to_its_end_and_a_lower_edge_all_around() -> None:
    """Cord 4, allowance 12: a strip of 4π + 2 · 12; at each end of the slot on top the cord stops 10 short and the strip goes 15 on. A ring has no ends."""
    finish = usual_finish(FinishKind.PIPED, Habits(), 12.0)
    for made, edge, ends in ((starter("slab", "wrap"), "edges on top", 4), (drum(t=0.5), "lower edge", 0)):
        cloth = replace(made.cover.cloth, usable_width=50_000.0)
        drafted = draft(replace(made, cover=replace(made.cover, cloth=cloth, edges={edge: EdgeChoice(finish=finish)})))
        assert isinstance(drafted, Drafted)
        around = next(e.length.value for e in drafted.cover.edges if e.name == edge)
        strip, cord = (next(h for h in drafted.cover.hardware if str(h.name) == name) for name in ("piping strip", "piping cord"))
        assert strip.length is not None
        assert cord.length is not None
        assert strip.length.value == pytest.approx(around + 15.0 * (ends or 2))
        assert cord.length.value == pytest.approx(around - 10.0 * ends)
        assert "37 mm wide" in str(strip.note)
    tub = starter("tub", "tapered-tub")
    stiff = draft(replace(tub, cover=replace(tub.cover, hem=replace(finish, width=490.0))))
    finding = next(f for f in stiff.findings if f.code == "construction-unsuited")
    cured = draft(changed(stiff.job, *finding.remedies[0].changes))
    assert "construction-unsuited" not in [f.code for f in cured.findings]


def test_what_is_decided_for_an_opening_that_is_not_there_is_said_and_can_be_forgotten() -> None:
    made = drum(edges={"mouth": EdgeChoice(held_by=Hold.CORD)})
    finding = next(f for f in draft(made).findings if f.code == "choice-unused")
    assert draft(made).panels == draft(drum()).panels
    assert changed(made, *finding.remedies[0].changes) == drum()


@pytest.mark.parametrize("system", System)
def test_a_hem_stays_as_wide_when_it_is_turned_otherwise(system: System) -> None:
    habits = Habits(system=system)
    wide = double_hem(40.0, 12.0)
    single = refinished_as(wide, FinishKind.SINGLE_HEM, habits, 10.0)
    assert (single.width, single.turn_under) == (40.0, 0.0)
    assert refinished_as(single, FinishKind.DOUBLE_HEM, habits, 10.0).width == 40.0
    for kind in KINDS:
        usual = usual_finish(kind, habits, 10.0)
        assert usual.turn_under <= max(usual.width, 10.0)
        step = habits.system.step
        assert usual.width / step == pytest.approx(round(usual.width / step)) or usual.width == 10.0


def test_decisions_about_edges_are_changed_forgotten_and_kept_in_the_file() -> None:
    made = drum()
    wider = changed(made, Change(refs.edge("lower edge", "finish.width"), 40.0))
    assert wider.cover.edges["lower edge"].finish == replace(made.cover.hem, width=40.0)
    assert meant(wider, refs.edge("lower edge", "finish.width")) == 40.0
    assert loaded(dumped(wider)) == wider
    assert changed(wider, Change(refs.edge("lower edge", "finish"), None)) == made  # nothing decided is nothing kept
    assert changed(wider, Change(refs.edge("lower edge"), act=Act.REMOVE)) == made
    with pytest.raises(KeyError):
        meant(made, refs.edge("lower edge", "finish.width"))


@pytest.mark.parametrize(("form", "scheme"), DECIDED)
def test_what_is_cut_is_the_finished_panel_and_its_allowances(form: str, scheme: str) -> None:
    @tried(4)
    @given(wild_jobs(form, scheme, Unit.MM))
    def run(made: Job) -> None:
        drafted = draft(made)
        for panel in drafted.panels:
            spans = shapely.Polygon(cut_line(panel)).bounds
            assert panel.cut_length.value == pytest.approx(spans[2] - spans[0], abs=0.06)
            assert panel.cut_width.value == pytest.approx(spans[3] - spans[1], abs=0.06)

    run()


@pytest.mark.parametrize(
    ("scheme", "opening"), [("wall-and-lid", "lower edge"), ("sleeve-tied", "upper edge"), ("sheet", "edge")]
)
def test_old_jobs_keep_their_cord_and_their_binding(scheme: str, opening: str) -> None:
    """Version 3 had the cord as a closure, and a bound edge without its width."""
    cover = {
        "scheme": scheme,
        "closure": {"kind": "drawcord", "length": 700.0},
        "hem": {"kind": "bound", "width": 25.0, "turn_under": 15.0},
        "habits": {"system": "inch"},
    }
    old = {"format": "omnipel-job", "version": 3, "job": {"name": "old", "thing": {"form": "drum"}, "cover": cover}}
    made = loaded(json.dumps(old))
    assert made.cover.edges == {opening: EdgeChoice(held_by=Hold.CORD, drawn_to=700.0)}
    assert made.cover.closure.kind is ClosureKind.NONE
    assert (made.cover.hem.kind, made.cover.hem.width) == (FinishKind.BOUND, pytest.approx(25.4 * 3 / 8))
