"""Features, closure, lining, padding and take-up: what they add, and what they change."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.core.covers.test_schemes import checked
from tests.jobs import drum, job
from tests.wild import tried

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.used import uses
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.topology import surface
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Closure, ClosureKind, Lining, LiningSchool, TakeUp
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.findings import Change
from omnipel.core.job.joining import SeamChoice
from omnipel.core.tolerances import CLOSES
from omnipel.core.words import refs
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@pytest.mark.parametrize("school", [LiningSchool.BAGGED, LiningSchool.BOUND, LiningSchool.AS_ONE])
def test_a_lining_is_true_to_itself_and_to_its_cover(form: str, scheme: str, school: LiningSchool) -> None:
    base = starter(form, scheme)
    lined = replace(base, cover=replace(base.cover, lining=Lining(school=school)))
    drafted = draft(lined)
    checked(drafted)
    linings = {p.name: p for p in drafted.panels if p.cloth is Cloth.LINING}
    assert linings
    for panel in drafted.panels:
        match = linings.get(f"lining {panel.name}")
        if match is not None:
            if school is LiningSchool.AS_ONE:
                assert match.sew_points == pytest.approx(panel.sew_points)
            else:
                assert shapely.Polygon(cut_line(panel)).buffer(8.0).contains(shapely.Polygon(cut_line(match)))


@pytest.mark.parametrize("padding", [0.0, 6.0])
def test_layers_add_to_every_girth_and_a_lining_that_hangs_is_smaller_by_what_lies_outside_of_it(padding: float) -> None:
    plain = draft(drum()).cover.sizes["wall_sew_length"].value
    more = padding + 0.25
    for school, share in ((LiningSchool.AS_ONE, 1.0), (LiningSchool.BAGGED, 2.0), (LiningSchool.BOUND, 2.0)):
        drafted = draft(drum(lining=Lining(school=school), padding=padding))
        lined = drafted.cover.sizes["wall_sew_length"]
        assert lined.value - plain == pytest.approx(np.pi * more * share)
        assert "lining" in [str(term.name) for term in lined.terms]
        panels = {p.name: p for p in drafted.panels}
        between = padding + (0.5 + 0.25) / 2.0 if share > 1.0 else 0.0
        assert panels["wall"].length.value - panels["lining wall"].length.value == pytest.approx(2.0 * np.pi * between)
        looser = 4.0 if school is LiningSchool.BAGGED else 0.0
        assert panels["wall"].width.value - panels["lining wall"].width.value == pytest.approx(between - looser)
        if padding:
            within = panels["wall"].length.value - panels["padding wall"].length.value - 2.0 * 12.0
            assert within == pytest.approx(np.pi * (padding + 0.5) if share > 1.0 else 0.0)
        inside = sewn_radius(drafted, "lining wall") - 0.25 / 2.0
        bare = drafted.body.radius + drafted.job.cover.clearance.amount
        assert inside == pytest.approx(bare if share > 1.0 else bare + (0.5 + padding + 0.25) / 2.0 - 0.25 / 2.0)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@pytest.mark.parametrize("school", [LiningSchool.BAGGED, LiningSchool.BOUND])
def test_a_lining_wider_than_its_cloth_is_pieced_and_comes_to_the_same(form: str, scheme: str, school: LiningSchool) -> None:
    base = starter(form, scheme)
    narrow = replace(base.cover.lining, school=school, cloth=replace(base.cover.lining.cloth, usable_width=250.0))
    whole = draft(replace(base, cover=replace(base.cover, lining=narrow)))
    told = [f for f in whole.findings if f.code == "longer-than-cloth" and "lining" in f.where.id]
    if not told or refs.LINING_SCHOOL in SCHEMES[scheme].without:
        return
    drafted = draft(changed(whole.job, *told[0].remedies[0].changes))
    assert isinstance(drafted, Drafted)
    assert not [
        f
        for f in drafted.findings
        if f.code in ("longer-than-cloth", "promise-broken", "seam-not-true") and "lining" in f.where.id
    ]
    parts = [p for p in drafted.panels if p.cloth is Cloth.LINING]
    assert all(min(p.rough_cut or (p.cut_length.value, p.cut_width.value)) <= 250.0 for p in parts)
    areas = [
        sum(p.count * shapely.Polygon(p.sew_points).area for p in d.panels if p.cloth is Cloth.LINING) for d in (whole, drafted)
    ]
    assert areas[1] == pytest.approx(areas[0], rel=1e-4)
    found = surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams)
    assert found.sound
    assert len(found.openings) == len(surface(whole.panels, whole.cover.pieces, whole.cover.seams).openings)
    assert max(drafted.sewn.apart) < CLOSES


@pytest.mark.parametrize(
    ("form", "scheme"), [("drum", "wall-and-lid"), ("drum", "plain-bag"), ("box", "wall-and-top"), ("bottle", "sleeve-tied")]
)
def test_a_lining_wider_around_than_is_needed_is_pleated_evenly(form: str, scheme: str) -> None:
    """What is over lies in pleats no deeper than 25, marked above and below, and all of it closes as before."""
    base = starter(form, scheme)
    lined = replace(base, cover=replace(base.cover, lining=replace(base.cover.lining, school=LiningSchool.BAGGED)))
    plain = {p.name: p for p in draft(lined).panels}["lining wall"]
    own = plain.length.value + 430.0
    drafted = draft(changed(lined, Change(refs.LINING_AROUND, own)))
    assert isinstance(drafted, Drafted)
    panel = next(p for p in drafted.panels if p.name == "lining wall")
    assert panel.length.value == pytest.approx(own)
    marks = sorted((n.edge, n.fraction * own) for n in panel.notches if n.label == "pleat")
    edges = {edge for edge, _ in marks}
    assert len(edges) == 2
    for edge in edges:
        at = [place for name, place in marks if name == edge]
        assert len(at) == 2 * 9  # 430 in pleats that take up to 50
        assert np.diff(at)[::2] == pytest.approx([430.0 / 9.0] * 9)
    pleats = [t for t in drafted.seams if any(r.piece == "lining wall" for r in t.seam.a) and t.seam.ratio != 1.0]
    assert len(pleats) == 2
    assert all(t.true and t.seam.ratio == pytest.approx(own / plain.length.value) for t in pleats)
    assert max(drafted.sewn.apart) < CLOSES
    assert surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams).sound
    assert not [f for f in drafted.findings if f.code in ("promise-broken", "seam-not-true", "lining-narrow")]


@pytest.mark.parametrize("share", [0.3, 0.6, 0.85, 0.995])
@pytest.mark.parametrize(
    ("form", "scheme"), [("drum", "wall-and-lid"), ("drum", "plain-bag"), ("box", "wall-and-top"), ("bottle", "sleeve-tied")]
)
def test_a_lining_narrower_around_than_is_needed_is_pieced_off_the_corners(form: str, scheme: str, share: float) -> None:
    base = starter(form, scheme)
    lined = replace(base, cover=replace(base.cover, lining=replace(base.cover.lining, school=LiningSchool.BAGGED)))
    whole = draft(lined)
    plain = {p.name: p for p in whole.panels}["lining wall"]
    own = plain.length.value * share
    stopped = draft(changed(lined, Change(refs.LINING_AROUND, own)))
    told = next(f for f in stopped.findings if f.code == "lining-narrow")
    drafted = draft(changed(stopped.job, *told.remedies[0].changes))
    assert isinstance(drafted, Drafted)
    assert not {"lining-narrow", "promise-broken", "seam-not-true", "our-fault"} & {f.code for f in drafted.findings}
    parts = [p for p in drafted.panels if p.name.startswith("lining wall, ")]
    assert max(p.length.value for p in parts) <= own + 1e-6
    assert min(p.length.value for p in parts) >= 50.0 - 1e-6
    assert sum(p.length.value for p in parts) == pytest.approx(plain.length.value)
    assert sum(shapely.Polygon(p.sew_points).area for p in parts) == pytest.approx(shapely.Polygon(plain.sew_points).area)
    joins = [t for t in drafted.seams if t.seam.name.startswith("piecing of lining wall")]
    assert len(joins) == len(parts) - 1
    assert all(t.true and t.length_a == pytest.approx(plain.width.value) for t in joins)
    assert surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams).sound
    assert len(drafted.cover.openings) == len(whole.cover.openings)
    assert max(drafted.sewn.apart) < CLOSES
    assert uses(SCHEMES[scheme], refs.LINING_PIECED, drafted.job.cover, drafted.cover)
    linings = [p for p in drafted.panels if p.cloth is Cloth.LINING]
    assert sum(n.label == "gap" for p in linings for n in p.notches) == 2  # one gap, in one part, which alone says so
    assert sum("turning gap" in str(note) for p in linings for note in p.notes) == 1
    if form == "box" and len(parts) < 4:  # with four parts of little more than a side, a join may have nowhere else to lie
        pieces = {piece.name: piece for piece in drafted.cover.pieces}
        for join in joins:
            run = join.seam.a[0]
            at = pieces[run.piece].place.at(np.array([drafted.cover.flat[run.piece].edge(run.edge).curve.at(0.5)]))[0]
            outside = pieces["wall"].place.at(drafted.cover.flat["wall"].sew_points)
            off = np.sort(np.abs(np.abs(at[:2]) - np.abs(outside[:, :2]).max(axis=0)))
            assert off[1] > 45.0, (run.piece, at)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_a_lining_pieced_or_pleated_closes_beside_seams_opened_and_gathered_and_openings(form: str, scheme: str) -> None:
    base = starter(form, scheme)
    joins = dict(draft(base).cover.joins)  # type: ignore[union-attr]

    @tried(6)
    @given(st.data())
    def run(data: st.DataObject) -> None:
        lining = replace(
            base.cover.lining,
            school=data.draw(st.sampled_from((LiningSchool.BAGGED, LiningSchool.BOUND))),
            pieced=data.draw(st.booleans()),
            around=data.draw(st.sampled_from((0.0, 300.0, 900.0, 2945.0))),
            cloth=replace(base.cover.lining.cloth, usable_width=data.draw(st.sampled_from((150.0, 300.0, 1400.0)))),
        )
        seams = {}
        if joins and data.draw(st.booleans()):
            name = data.draw(st.sampled_from(sorted(joins)))
            begin = data.draw(st.floats(0.0, joins[name]))
            kind = data.draw(st.sampled_from(("", "gathered", "bound")))
            seams[name] = SeamChoice(kind=kind, open_from=begin, open_to=begin + data.draw(st.sampled_from((0.0, 1.0, 120.0))))
        port = Feature(
            kind="port", name="it", face=Facing.FRONT, width=60.0, height=60.0, from_top=data.draw(st.floats(20.0, 200.0))
        )
        features = (port,) if data.draw(st.booleans()) else ()
        padding = data.draw(st.sampled_from((0.0, 12.0)))
        drafted = draft(replace(base, cover=replace(base.cover, lining=lining, padding=padding, seams=seams, features=features)))
        assert isinstance(drafted, Drafted)
        assert not {"promise-broken", "our-fault", "seam-not-true"} & {f.code for f in drafted.findings}
        assert not surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams).faults
        assert max(drafted.sewn.apart, default=0.0) < CLOSES

    run()


def sewn_radius(drafted: Drafted, piece: str) -> float:
    """How far from the axis a piece lies, mm."""
    found = next(p for p in drafted.cover.pieces if p.name == piece)
    x, y, _ = found.place.at(np.array([[10.0, 10.0]]))[0]
    return float(np.hypot(x, y))


def test_padding_is_smaller_by_its_inset_and_quilting_is_cut_larger() -> None:
    drafted = draft(drum(padding=6.0, padding_inset=15.0, quilting=TakeUp(along=0.03, across=0.02)))
    panels = {p.name: p for p in drafted.panels}
    wall, pad = panels["wall"], panels["padding wall"]
    assert (pad.length.value, pad.width.value) == pytest.approx(
        (wall.length.value - 30.0, wall.width.value - 15.0 - (25.0 + 2.0))
    )  # not under the hem
    rough = wall.rough_cut
    assert rough == pytest.approx((wall.cut_length.value / 0.97, wall.cut_width.value / 0.98))


def test_washing_takes_its_own_share_of_warp_and_weft() -> None:
    base = drum()
    washed = replace(base, cover=replace(base.cover, cloth=replace(base.cover.cloth, shrink_warp=0.05, shrink_weft=0.02)))
    wall = next(p for p in draft(washed).panels if p.name == "wall")
    assert wall.rough_cut == pytest.approx((wall.cut_length.value / 0.95, wall.cut_width.value / 0.98))


def test_a_closure_changes_the_answer() -> None:
    """A tank narrower at the top: the cover does not pass its belly unless it opens."""
    readings = {"girth.1": 1500.0, "girth.2": 1700.0, "height.2": 300.0, "girth.3": 1400.0, "height.3": 700.0}
    shut = job("turned", "bands", readings, c=4.0)
    opened = replace(shut, cover=replace(shut.cover, closure=Closure(kind=ClosureKind.ZIP, length=680.0)))
    before, after = draft(shut).fit, draft(opened).fit
    assert before.verdict == "will not go on"
    assert after.tightest.slack.value > before.tightest.slack.value
    assert "zip" in [str(h.name) for h in draft(opened).cover.hardware]
    assert "closure open" in [str(t.name) for s in after.slacks for t in s.slack.terms]


def test_the_remedy_for_a_belly_is_a_zip_that_is_long_enough() -> None:
    readings = {"girth.1": 1310.0, "girth.2": 1495.0, "height.2": 260.0, "girth.3": 940.0, "height.3": 610.0}
    drafted = draft(job("turned", "bands", readings, c=12.0))
    finding = next(f for f in drafted.findings if f.code == "will-not-go-on")
    assert "zip" in str(finding.remedies[0].words)
    for remedy in finding.remedies:
        assert "will-not-go-on" not in [f.code for f in draft(changed(drafted.job, *remedy.changes)).findings], remedy.words


def test_a_drawcord_that_cannot_close_so_far_is_said() -> None:
    tight = drum(edges={"lower edge": EdgeChoice(held_by=Hold.CORD, drawn_to=300.0)})
    assert "cord-cannot-close" in [f.code for f in draft(tight).findings]


@pytest.mark.parametrize("unit", [Unit.MM, Unit.INCH_16])
def test_a_skirt_is_drawn_in_as_far_as_its_cloth_gathers_and_no_further(unit: Unit) -> None:
    made = starter("drum", "wall-and-lid", unit)
    made = replace(made, cover=replace(made.cover, options={"skirt": True, "draw": 300.0}))
    finding = next(f for f in draft(made).findings if f.code == "cord-cannot-close")
    after = draft(changed(made, *finding.remedies[0].changes))
    assert finding.code not in [f.code for f in after.findings]
    drawn, limit = after.job.cover.options["draw"], made.cover.cloth.gather_limit
    least = after.cover.sizes["skirt_sew_length"].value / limit
    step = 1.0 if unit is Unit.MM else 25.4 / 16
    assert least <= drawn < least + step
    assert drawn / step == pytest.approx(round(drawn / step))
    assert after.cover.sizes["gather_ratio"].value == pytest.approx(limit, rel=0.01)


def test_hem_first_is_said_on_every_hemmed_panel() -> None:
    from omnipel.core.job.document import HemOrder

    last, first = draft(drum()), draft(drum(hem_order=HemOrder.HEM_FIRST))
    assert {p.name for p in first.panels if any("hem it flat" in str(n) for n in p.notes)} == {"wall"}
    assert not [p for p in last.panels if any("hem it flat" in str(n) for n in p.notes)]
