"""Pictures: panels beside one another, words on their panel, dimensions outside it, sketches with what they must show."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.draft import draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.pictures.board import FITTED, Board, arranged, board, fitted_board
from omnipel.core.pictures.drawing import Drawing, Label, Path, together
from omnipel.core.pictures.labels import box_of, extent
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.pictures.sketch import over
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import uncovered
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_length
from omnipel.core.words.phrases import Voice
from omnipel.shop.sample import SAMPLES

JOBS = [sample() for sample in SAMPLES]
DRAFTS = [d for d in map(draft, JOBS) if d.panels]
NAMES = [d.job.name for d in DRAFTS]


@given(st.lists(st.tuples(st.floats(1.0, 500.0), st.floats(1.0, 500.0)), min_size=1, max_size=9), st.floats(0.2, 5.0))
def test_boxes_in_rows_never_overlap(sizes: list[tuple[float, float]], aspect: float) -> None:
    places = arranged(sizes, 5.0, aspect)
    assert len(places) == len(sizes)
    boxes = [shapely.box(x, y, x + w, y + h) for (x, y), (w, h) in zip(places, sizes, strict=True)]
    for i, a in enumerate(boxes):
        for b in boxes[i + 1 :]:
            assert a.intersection(b).area < 1e-9


@pytest.mark.parametrize("drafted", DRAFTS, ids=NAMES)
def test_on_the_board_every_panel_stands_alone_and_to_scale(drafted) -> None:
    text = max(p.cut_length.value for p in drafted.panels) / 60.0
    drawing = board(drafted.panels, Voice(drafted.job.unit), text, 2.0).drawing
    cuts = {i.ref: shapely.Polygon(i.points) for i in drawing.items if isinstance(i, Path) and i.closed and i.fill}
    assert set(cuts) == {refs.panel(p.name) for p in drafted.panels}
    for name, shape in cuts.items():
        panel = next(p for p in drafted.panels if refs.panel(p.name) == name)
        assert shape.area == pytest.approx(shapely.Polygon(cut_line(panel)).area, rel=1e-6)
        for other, theirs in cuts.items():
            assert name == other or not shape.intersects(theirs)


@pytest.mark.parametrize("drafted", DRAFTS, ids=NAMES)
def test_the_name_plate_lies_on_its_panel_and_dimensions_beside_it(drafted) -> None:
    for panel in drafted.panels:
        text = min(panel.cut_length.value, panel.cut_width.value) / 18.0
        drawing = panel_drawing(panel, Voice(drafted.job.unit), text)
        cut = shapely.Polygon(cut_line(panel))
        plate = [i for i in drawing.items if isinstance(i, Label) and i.layer is Layer.TEXT]
        assert plate[0].words.startswith(panel.name)
        if len(plate) > 1:
            assert all(cut.contains(box_of(line)) for line in plate), panel.name
        else:  # below it, where there is no room
            assert cut.contains(box_of(plate[0])) or not cut.intersects(box_of(plate[0]))
        sizes = [i for i in drawing.items if isinstance(i, Label) and i.layer is Layer.DIMENSION]
        assert len(sizes) == 2
        for size in sizes:
            assert not cut.contains(shapely.Point(size.at))
        lengths = sorted(parse_length(size.words, drafted.job.unit) for size in sizes)
        assert lengths == pytest.approx(
            sorted((panel.cut_length.value, panel.cut_width.value)), abs=drafted.job.unit.step / 2 + 1e-6
        )


@pytest.mark.parametrize("drafted", DRAFTS, ids=NAMES)
def test_every_edge_can_be_pointed_at(drafted) -> None:
    for panel in drafted.panels:
        found = {i.ref for i in panel_drawing(panel, Voice(), 10.0).items if isinstance(i, Path) and i.layer is Layer.SEW}
        assert found == {refs.panel(panel.name, edge.name) for edge in panel.edges}


@tried(25)
@given(st.floats(-3.0, 3.0), st.floats(-0.3, 1.4), st.integers(0, len(DRAFTS) - 1))
def test_a_sketch_shows_only_what_looks_at_the_viewer(yaw: float, pitch: float, which: int) -> None:
    drafted = DRAFTS[which]
    drawing = drawn(uncovered(drafted.body), View(yaw, pitch))
    faces = [i for i in drawing.items if isinstance(i, Path) and i.layer is Layer.FACE]
    assert faces
    for face in faces:
        assert 0.0 <= face.tone <= 1.1
        for ring in np.split(face.points, face.rings[1:]):  # counter-clockwise on the screen: its outside is seen
            area = 0.5 * float(np.sum(ring[:, 0] * np.roll(ring[:, 1], -1) - np.roll(ring[:, 0], -1) * ring[:, 1]))
            assert area > -1e-6
    assert View(yaw, pitch).matrix() @ View(yaw, pitch).matrix().T == pytest.approx(np.eye(3), abs=1e-12)


def test_the_tape_has_a_start_a_stop_and_its_value() -> None:
    body = draft(JOBS[-1]).body
    drawn_over = over(body.tape("drop"), View(), "drop 655", 12.0)
    tape = [i for i in drawn_over if isinstance(i, Path) and i.layer is Layer.TAPE]
    assert len(tape) == 3  # the path, an arrowhead where it stops, a bar where it starts
    assert [i.words for i in drawn_over if isinstance(i, Label)] == ["drop 655"]
    around = over(body.tape("girth"), View(), "", 12.0)
    assert {i.far for i in around if isinstance(i, Path) and i.layer is Layer.TAPE} == {True, False}


def test_drawings_move_and_join() -> None:
    one = Drawing((Path(np.array([(0.0, 0.0), (10.0, 5.0)]), Layer.CUT), Label((20.0, 1.0), "x", 3.0)))
    assert one.bounds == (0.0, 0.0, 20.0, 5.0)
    assert one.moved(5.0, -1.0).bounds == (5.0, -1.0, 25.0, 4.0)
    assert together([one, one.moved(100.0, 0.0)]).bounds == (0.0, 0.0, 120.0, 5.0)
    assert Drawing(()).bounds == (0.0, 0.0, 0.0, 0.0)
    assert math.isfinite(sum(one.bounds))


@tried(24)
@given(
    st.integers(0, len(DRAFTS) - 1), st.integers(0, len(DRAFTS) - 1), st.floats(420.0, 1500.0), st.floats(240.0, 800.0), st.data()
)
def test_a_board_is_fitted_whatever_was_there_before(
    which: int, other: int, wide: float, high: float, data: st.DataObject
) -> None:
    letter, voice = 14.0, Voice()
    panels = DRAFTS[which].panels

    def px(made: Board) -> float:
        """How high its letters are where it is fitted."""
        x0, y0, x1, y1 = extent(made.drawing)
        return made.text / max((x1 - x0) / wide, (y1 - y0) / high)

    fresh = fitted_board(panels, voice, letter, wide, high)
    assert px(fresh) <= letter * 1.2
    again = fitted_board(panels, voice, letter, wide, high, fresh)
    assert px(again) == pytest.approx(px(fresh), rel=0.05)
    others = fitted_board(DRAFTS[other].panels, voice, letter, wide, high)
    flat = fitted_board(panels, voice, letter, wide, data.draw(st.floats(40.0, 120.0)))
    for before in (flat, others) if other != which else (flat,):
        assert fitted_board(panels, voice, letter, wide, high, before).text == fresh.text
    for before in (others, replace(fresh, text=fresh.text * data.draw(st.floats(0.2, 5.0)))):
        made = fitted_board(panels, voice, letter, wide, high, before)
        # Letters are no smaller than without it, and no higher than they should be: what is kept is right here, too.
        assert px(made) >= min(px(fresh), letter * (1.0 - FITTED)) - 1e-6
        assert px(made) <= letter * 1.2
        assert set(made.moved) == {panel.name for panel in panels}
    for panel in panels:
        at = fresh.at(panel, tuple(panel.sew_points[0].tolist()))
        assert at is not None
        x0, y0, x1, y1 = extent(fresh.drawing)
        assert x0 - 1.0 <= at[0] <= x1 + 1.0
        assert y0 - 1.0 <= at[1] <= y1 + 1.0
    assert fresh.at(replace(panels[0], name="no such"), (0.0, 0.0)) is None
