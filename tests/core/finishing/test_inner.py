"""What lies between outer and lining: padding on chosen panels, fused, quilted; stiffeners between folds."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import shapely
from tests.attack.chains import shown

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.used import uses
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, Lining, LiningSchool
from omnipel.core.job.findings import Change
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


def test_padding_to_the_seams_is_as_large_as_its_panel_and_only_fused_foam_may() -> None:
    batting = made(layered("drum", "wall-and-lid", padding=6.0, padded=Padded(at_seam=True)))
    panels = {p.name: shapely.Polygon(p.sew_points) for p in batting.panels}
    assert panels["padding wall"].symmetric_difference(panels["wall"]).area < 1.0
    assert "padding-in-seam" in [f.code for f in batting.findings]
    foam = Padded(at_seam=True, material=Material.FOAM, fused=Fused.OUTER)
    fused = made(layered("drum", "wall-and-lid", padding=6.0, padded=foam))
    assert "padding-in-seam" not in [f.code for f in fused.findings]
    assert [h.count for h in fused.cover.hardware if str(h.name) == "fusible web"] == [2]
    lined = replace(fused.job.cover, lining=Lining(school=LiningSchool.BAGGED), padded=replace(foam, fused=Fused.BOTH))
    both = made(replace(fused.job, cover=lined))
    assert [h.count for h in both.cover.hardware if str(h.name) == "fusible web"] == [4]


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
    refs.PADDING_AT_SEAM: True,
    refs.FUSED: Fused.OUTER,
    refs.GRID: 45.0,
    refs.STIFFENER: 3.0,
    refs.STIFFENER_ON: ("nowhere",),
    refs.STIFFENER_SHORT: 9.0,
}


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@pytest.mark.parametrize("thick", [0.0, 5.0])
def test_what_is_asked_about_layers_changes_something(form: str, scheme: str, thick: float) -> None:
    job = layered(form, scheme, padding=thick, stiffener=Stiffener(thickness=thick))
    drafted = made(job)
    for ref, other in LAYERS.items():
        value = 0.0 if ref == refs.STIFFENER and thick else other
        after = draft(changed(job, Change(ref, value)))
        offered = uses(SCHEMES[scheme], ref, job.cover, drafted.cover)
        assert (shown(after) != shown(drafted)) is offered, ref
