"""Panels cut on the fold: which can be, the half that is drawn and printed, its marks, and what is said where it cannot be."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.core.finishing.test_extras import drum

from omnipel.core.draft import draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.onfold import fold_of
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.pictures.drawing import Label, Path
from omnipel.core.pictures.labels import box_of
from omnipel.core.pictures.pens import PAPERS, Layer
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.words.phrases import Voice
from omnipel.exchange.files.svg import svg
from omnipel.exchange.papers.pattern import sheets
from omnipel.shop.sample import SAMPLES


def panels(job: Job) -> dict[str, Panel]:
    return {panel.name: panel for panel in draft(job).panels}


def drawn(panel: Panel, *, whole: bool = False) -> tuple[list[Path], list[Label]]:
    items = panel_drawing(panel, Voice(draft(drum()).job.unit), 5.0, whole=whole).items
    return [i for i in items if isinstance(i, Path)], [i for i in items if isinstance(i, Label)]


@pytest.mark.parametrize("name", [sample().name for sample in SAMPLES])
def test_a_half_and_its_mirror_image_are_the_panel(name: str) -> None:
    job = next(job for job in (sample() for sample in SAMPLES) if job.name == name)
    for panel in draft(job).panels:
        fold = fold_of(panel)
        if fold is None:
            continue
        half = replace(panel, fold=fold)
        paths, labels = drawn(half)
        ring = next(path for path in paths if path.closed).points
        assert (fold.side(ring) >= -1e-6).all()
        one = shapely.make_valid(shapely.Polygon(ring))
        other = shapely.make_valid(shapely.Polygon(fold.mirrored(ring)))
        whole = shapely.make_valid(shapely.Polygon(cut_line(panel)))
        off = one.union(other).symmetric_difference(whole).area
        assert off < 0.25 * whole.length, panel.name  # a quarter of a mm all around
        # Every line that is cut or sewn is there as often as in the whole, halved; the fold itself is no cut line.
        for layer in (Layer.CUT, Layer.SEW):
            long = [shapely.LineString(p.points).length for p in paths if p.layer is layer and not p.closed and len(p.points) > 1]
            rings = [shapely.LinearRing(p.points).length for p in paths if p.layer is layer and p.closed and len(p.points) > 2]
            every = [
                (shapely.LinearRing if p.closed else shapely.LineString)(p.points).length
                for p in drawn(panel, whole=True)[0]
                if p.layer is layer and len(p.points) > 2 - (not p.closed)
            ]
            assert 2.0 * (sum(long) + sum(rings)) == pytest.approx(sum(every), rel=0.01, abs=3.0) or any(
                np.allclose(fold.side(f.points), 0.0, atol=1.0) for f in panel.figures
            ), (panel.name, layer)
        boxes = [box_of(label) for label in labels if label.words]
        assert not [1 for i, a in enumerate(boxes) for b in boxes[:i] if a.intersection(b).area > 0.5]


@given(st.floats(200.0, 3000.0), st.floats(20.0, 1200.0))
def test_a_drum_is_folded_along_the_grain_where_its_halves_are_alike(girth: float, height: float) -> None:
    job = drum()
    readings = tuple(
        replace(r, repeats=(girth if r.place == "girth" else height if r.place == "height" else r.repeats[0],))
        for r in job.readings
    )
    made = panels(replace(job, readings=readings))
    lid, wall = fold_of(made["lid"]), fold_of(made["wall"])
    assert lid is not None
    assert lid.heading == made["lid"].grain
    assert wall is not None  # hemmed below, sewn above: only left and right are alike
    assert abs(np.cos(wall.heading)) < 1e-9
    assert wall.at[0] == pytest.approx(made["wall"].length.value / 2.0)


def test_marks_of_the_half_below_stand_in_brackets_over_those_above() -> None:
    wall = panels(drum(on_fold=("wall",)))["wall"]
    assert wall.fold is not None
    words = {label.words for label in drawn(wall)[1] if label.layer is Layer.MARKS}
    letters = {notch.label for notch in wall.notches if notch.label}
    seen = {part.strip("()") for word in words for part in word.split(" ")}
    assert seen == letters
    middle = [notch.label for notch in wall.notches if notch.label[:1] == "A" and notch.fraction == pytest.approx(0.5)]
    assert middle
    assert middle[0] in words  # on the fold itself it is one mark
    assert {word for word in words if "(" in word}
    assert not any("(" in label.words for label in drawn(wall, whole=True)[1] if label.layer is Layer.MARKS)


def test_what_differs_left_and_right_is_cut_whole_and_says_so() -> None:
    port = Feature(kind="port", name="tap", face=Facing.FRONT, from_centre=160.0, from_top=200.0, id="p")
    job = drum(on_fold=("wall", "sail"), features=(port,))
    drafted = draft(job)
    assert {p.name: p.fold for p in drafted.panels}["wall"] is None
    finding = next(f for f in drafted.findings if f.code == "not-on-fold")
    after = draft(changed(job, *finding.remedies[0].changes))
    assert after.job.cover.on_fold == ()
    assert "not-on-fold" not in [f.code for f in after.findings]
    alone = draft(drum(on_fold=("sail",)))
    assert "does not have one" in str(next(f for f in alone.findings if f.code == "not-on-fold").text)


def test_half_takes_fewer_sheets_and_a_cutter_gets_the_whole() -> None:
    whole, half = draft(drum()), draft(drum(on_fold=("wall", "lid")))
    paper, voice = PAPERS["A4"], Voice()
    assert sheets(half, paper, voice, full=True) < 0.75 * sheets(whole, paper, voice, full=True)
    cut = [line for line in svg(half).splitlines() if "<path" in line]
    assert len(cut) >= len([line for line in svg(whole).splitlines() if "<path" in line])
    assert "on the fold of the cloth" not in svg(half)
