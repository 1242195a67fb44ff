"""What lies between outer and lining: padding on chosen panels, fused, quilted; stiffeners between folds."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import shapely
from tests.attack.chains import shown
from tests.wild import some

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.used import uses
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, Lining, LiningSchool, Override
from omnipel.core.job.findings import Change
from omnipel.core.job.joining import SeamChoice
from omnipel.core.job.layers import Fused, Material, Padded, Stiffener
from omnipel.core.words import refs
from omnipel.shop.document import dumped, loaded
from omnipel.shop.starter import starter


def layered(form: str, scheme: str, **more: Any) -> Job:
    job = starter(form, scheme)
    return replace(job, cover=replace(job.cover, **more))


def made(job: Job) -> Drafted:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), drafted.findings
    assert loaded(dumped(job)) == job
    return drafted


def test_padding_lies_on_the_panels_named_and_nowhere_else() -> None:
    drafted = made(layered("box", "five-panels", padding=6.0, padded=Padded(on=("top", "long wall"))))
    assert {p.name for p in drafted.panels if p.cloth is Cloth.PADDING} == {"padding top", "padding long wall"}
    gone = made(layered("box", "five-panels", padding=6.0, padded=Padded(on=("sleeve", "top"))))
    finding = next(f for f in gone.findings if f.code == "layer-on-nothing")
    after = made(changed(gone.job, *finding.remedies[0].changes))
    assert after.job.cover.padded.on == ("top",)
    assert "layer-on-nothing" not in [f.code for f in after.findings]


def test_a_lining_sewn_as_one_lies_on_the_panels_named() -> None:
    lining = Lining(school=LiningSchool.AS_ONE, on=("lid",))
    drafted = made(layered("drum", "wall-and-lid", lining=lining))
    assert {p.name for p in drafted.panels if p.cloth is Cloth.LINING} == {"lining lid"}
    whole = made(layered("drum", "wall-and-lid", lining=replace(lining, on=())))
    assert {p.name for p in whole.panels if p.cloth is Cloth.LINING} == {"lining lid", "lining wall"}
    sizes = {p.name: (p.length.value, p.width.value) for p in whole.panels}
    assert all(sizes[p.name] == (p.length.value, p.width.value) for p in drafted.panels)  # the gap is kept where it is thickest


def test_padding_to_the_seams_is_as_large_as_its_panel_and_only_fused_foam_may() -> None:
    batting = made(layered("drum", "wall-and-lid", padding=6.0, padded=Padded(at_seam=True)))
    panels = {p.name: shapely.Polygon(p.sew_points) for p in batting.panels}
    hem = batting.job.cover.hem.width + 2.0
    short = panels["wall"].difference(shapely.box(-1.0, -1.0, 1e5, hem))  # to the seams, but not under the hem
    assert panels["padding wall"].symmetric_difference(short).area < 1.0
    assert "padding-in-seam" in [f.code for f in batting.findings]
    foam = Padded(at_seam=True, material=Material.FOAM, fused=Fused.OUTER)
    fused = made(layered("drum", "wall-and-lid", padding=6.0, padded=foam))
    assert "padding-in-seam" not in [f.code for f in fused.findings]
    assert [h.count for h in fused.cover.hardware if str(h.name) == "fusible web"] == [2]
    lined = replace(fused.job.cover, lining=Lining(school=LiningSchool.BAGGED), padded=replace(foam, fused=Fused.BOTH))
    both = made(replace(fused.job, cover=lined))
    assert [h.count for h in both.cover.hardware if str(h.name) == "fusible web"] == [4]


CASES = {case["id"]: case for case in json.loads((Path(__file__).parent / "cases.json").read_text())["cases"]}


@pytest.mark.parametrize("school", [LiningSchool.NONE, LiningSchool.BAGGED])
def test_halves_are_gathered_and_their_padding_is_not_and_one_ribbon_draws_both_in(school: LiningSchool) -> None:
    expect, given_ = (CASES["gathered-half-full"][key] for key in ("expect", "given"))
    options = {"ratio": given_["ratio"], "heading": float(given_["heading"]), "ribbon": given_["channel"] - 3.0, "drawn": 120.0}
    job = layered("drum", "gathered-halves", padding=4.0, options=options, lining=Lining(school=school))
    u = draft(job).cover.sizes["base_sew_radius"].value - job.readings[0].repeats[0] / 2.0 / np.pi  # type: ignore[union-attr]
    girth = 2.0 * np.pi * (given_["base_radius"] - u)
    readings = tuple(replace(r, repeats=(girth,)) if r.place == "girth" else r for r in job.readings)
    by_hand = Override(size="half_finished_height", value=given_["finished_height"], reason="as the pattern has it")
    drafted = made(replace(job, readings=readings, cover=replace(job.cover, overrides=(by_hand,))))
    panels, inset = {p.name: p for p in drafted.panels}, job.cover.padding_inset
    assert panels["half"].length.value == pytest.approx(expect["half_width"], abs=0.001)
    padding = panels["padding half"]
    hangs = school is LiningSchool.BAGGED  # then the padding lies inside of the outer
    nearer = (drafted.cover.sizes["half_ring"].value - 2.0 * inset - padding.length.value) / np.pi
    assert nearer == pytest.approx((4.0 + job.cover.cloth.thickness) / 2.0 if hangs else 0.0, abs=0.001)
    assert padding.width.value == pytest.approx(
        expect["padding_height"] - (nearer if hangs else 0.0), abs=4.5 if hangs else 0.001
    )
    ribbons = [h for h in drafted.cover.hardware if str(h.name) == "ribbon"]
    assert [h.length.value for h in ribbons if h.length] == [pytest.approx(expect["ribbon_drawn_to_120"])]


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_padding_lies_in_no_seam_under_no_hem_and_its_told_size_is_its_own(form: str, scheme: str) -> None:
    drafted = made(layered(form, scheme, padding=5.0))
    hosts = {p.name: p for p in drafted.panels}
    paddings = [p for p in drafted.panels if p.name.startswith("padding ")]
    assert paddings or not uses(SCHEMES[scheme], refs.PADDING, drafted.job.cover, drafted.cover)
    for padding in paddings:
        host, ring = hosts[padding.name.removeprefix("padding ")], shapely.Polygon(padding.sew_points)
        assert np.ptp(padding.sew_points, axis=0) == pytest.approx((padding.length.value, padding.width.value), abs=0.01)
        for edge in host.edges if "half" not in padding.name else ():  # that is not gathered
            if edge.padded is None:
                short = edge.finish.folded + 2.0 if edge.finish.folded else drafted.job.cover.padding_inset
                assert (
                    ring.distance(shapely.LineString(edge.curve.points())) == pytest.approx(short, abs=0.02)
                    or len(host.edges) > 4
                )
                assert ring.distance(shapely.LineString(edge.curve.points())) > short - 0.02, edge.name


def test_padding_of_a_strip_that_is_gathered_is_not() -> None:
    plain = made(layered("drum", "wall-and-lid", padding=5.0))
    for kind in ("gathered", "eased"):
        job = layered("drum", "wall-and-lid", padding=5.0, seams={"wall to lid": SeamChoice(kind=kind)})
        full = made(job)
        before, after = ({p.name: p for p in drafted.panels} for drafted in (plain, full))
        assert after["wall"].length.value > before["wall"].length.value * 1.019
        assert after["padding wall"].sew_points == pytest.approx(before["padding wall"].sew_points)


def test_quilting_lines_run_through_the_middle_and_lie_as_far_apart_as_was_said() -> None:
    drafted = made(layered("drum", "wall-and-lid", padding=6.0, padded=Padded(grid=60.0)))
    wall = next(p for p in drafted.panels if p.name == "wall")
    lines = [f.points for f in wall.figures if f.name == "quilting"]
    upright = sorted(line[0, 0] for line in lines if np.ptp(line[:, 0]) < 1e-9)
    assert np.diff(upright) == pytest.approx([60.0] * (len(upright) - 1))
    assert wall.length.value / 2.0 == pytest.approx(upright[len(upright) // 2])
    ring = shapely.Polygon(wall.sew_points).buffer(1e-6)
    assert all(ring.covers(shapely.LineString(line)) for line in lines)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_a_stiffener_has_a_part_between_all_folds_and_ends_short_of_them(form: str, scheme: str) -> None:
    job = layered(form, scheme, stiffener=Stiffener(thickness=2.0, short=4.0))
    drafted, plain = made(job), made(starter(form, scheme))
    assert "promise-broken" not in [f.code for f in drafted.findings]
    sheets = [p for p in drafted.panels if p.cloth is Cloth.STIFFENER]
    outer = {p.name: shapely.make_valid(shapely.Polygon(p.sew_points)) for p in drafted.panels if p.cloth is Cloth.OUTER}
    assert sheets
    for sheet in sheets:
        host = max((name for name in outer if sheet.name.startswith(f"stiffener {name}")), key=len)
        inside = outer[host].buffer(-3.9, join_style="mitre")
        assert inside.buffer(0.05).covers(shapely.Polygon(sheet.sew_points)), sheet.name
    for i, one in enumerate(sheets):
        for other in sheets[i + 1 :]:
            if one.name.rstrip("0123456789") == other.name.rstrip("0123456789"):
                assert shapely.Polygon(one.sew_points).distance(shapely.Polygon(other.sew_points)) > 7.9
    if drafted.cover.thickness:
        assert drafted.cover.thickness == pytest.approx(plain.cover.thickness + 2.0)


def test_a_folded_panel_has_one_sheet_for_each_face() -> None:
    drafted = made(layered("box", "saddle-and-ends", stiffener=Stiffener(thickness=2.0)))
    assert len([p for p in drafted.panels if p.name.startswith("stiffener saddle")]) == 3


LAYERS: dict[Any, Any] = {
    refs.PADDING_MATERIAL: Material.FLEECE,
    refs.PADDING_ON: ("nowhere",),
    refs.LINING_ON: ("nowhere",),
    refs.PADDING_AT_SEAM: True,
    refs.FUSED: Fused.OUTER,
    refs.GRID: 45.0,
    refs.STIFFENER: 3.0,
    refs.STIFFENER_ON: ("nowhere",),
    refs.STIFFENER_SHORT: 9.0,
}


@pytest.mark.parametrize(("form", "scheme", "thick"), some(lawful_pairs(), [0.0, 5.0], of=2))
def test_what_is_asked_about_layers_changes_something(form: str, scheme: str, thick: float) -> None:
    school = LiningSchool.AS_ONE if thick else LiningSchool.BAGGED
    job = layered(form, scheme, padding=thick, stiffener=Stiffener(thickness=thick), lining=Lining(school=school))
    drafted = made(job)
    for ref, other in LAYERS.items():
        value = 0.0 if ref == refs.STIFFENER and thick else other
        after = draft(changed(job, Change(ref, value)))
        offered = uses(SCHEMES[scheme], ref, job.cover, drafted.cover)
        assert (shown(after) != shown(drafted)) is offered, ref
