"""Pieces as they lie in the middle of the work."""

from dataclasses import replace

import numpy as np
import pytest
from shapely import clip_by_rect, union_all
from shapely.geometry import LineString, Point, Polygon
from tests.core.sewing.jobs import COVERS

from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.labels import about, box_of
from omnipel.core.pictures.lying import RIGHT, WRONG, closed, parts
from omnipel.core.pictures.pens import Layer
from omnipel.core.sewing.pictured import APART, picture, section
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.words.phrases import Voice


def plan(cover: str) -> Plan:
    made = draft(COVERS[cover]())
    assert isinstance(made, Drafted)
    return planned(made)


def drawn(plan: Plan, key: str) -> Drawing:
    return picture(plan, plan.by_key[key], Voice())


def faces(drawing: Drawing) -> list[Path]:
    return [item for item in drawing.items if isinstance(item, Path) and item.layer is Layer.FACE]


def words(drawing: Drawing) -> list[str]:
    return [item.words for item in drawing.items if isinstance(item, Label)]


def test_two_flat_pieces_lie_right_sides_together_middle_on_middle() -> None:
    made = plan("saddle and ends")
    shown = drawn(made, "seam:saddle to right end/pin")
    below, above = faces(shown)
    assert (below.tone, above.tone) == (RIGHT, WRONG)
    for face, name in ((below, "saddle"), (above, "right end")):
        cut = Polygon(cut_line(made.making.flat[name]))
        assert Polygon(face.points).area == pytest.approx(cut.area)  # as large as it is cut
    assert Polygon(below.points).intersection(Polygon(above.points)).area > 0.7 * Polygon(above.points).area
    way = next(item.points for item in shown.items if isinstance(item, Path) and item.layer is Layer.LIT)
    runs = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(way, axis=0).T))))
    middle = np.array([np.interp(runs[-1] / 2.0, runs, way[:, k]) for k in (0, 1)])
    sewn = [item.points for item in shown.items if isinstance(item, Path) and item.layer is Layer.SEW]
    assert min(np.hypot(*(line.mean(axis=0) - middle)) for line in sewn) < 0.5  # the end's edge, on the saddle's
    assert {"start", "saddle, right side up", "right end, wrong side up"} <= set(words(shown))


def test_pins_stand_as_many_as_are_set_or_so_many_as_can_be_seen() -> None:
    made = plan("saddle and ends")
    few = drawn(made, "seam:saddle to right end/corners")
    pins = [item for item in few.items if isinstance(item, Path) and item.layer is Layer.MARKS]
    assert len(pins) == 6


def test_a_hem_lies_wrong_side_up_while_it_is_flat() -> None:
    made = plan("wall and lid")
    shown = drawn(made, "edge:lower edge/press")
    assert [face.tone for face in faces(shown)] == [WRONG]
    assert "wall, wrong side up" in words(shown)


def test_what_is_joined_already_stands_and_what_comes_to_it_stands_off() -> None:
    made = plan("wall and lid")
    pinned = made.by_key["seam:wall to lid/pin"]
    before = frozenset(i for step in made.steps[: pinned.number - 1] for i in step.operation.seams)
    assert "wall" in closed(made.making.drafted.cover, before)
    apart, together = drawn(made, "seam:wall to lid/pin"), drawn(made, "seam:wall to lid/topstitch")
    high = [drawing.bounds[3] - drawing.bounds[1] for drawing in (apart, together)]
    assert high[0] > high[1] * 1.02
    assert any(isinstance(item, Path) and item.layer is Layer.LIT for item in apart.items)
    assert any(isinstance(item, Path) and item.layer is Layer.LIT for item in together.items)
    grown = parts(made.making.drafted.cover, before | frozenset(made.by_key["seam:wall to lid/sew"].operation.seams))
    assert {"wall", "lid"} <= grown["wall"] == grown["lid"]


@pytest.mark.parametrize("cover", COVERS)
def test_every_step_has_a_picture_of_the_pieces_it_is_about_or_none_to_show(cover: str) -> None:
    made = plan(cover)
    for step in made.steps:
        shown = picture(made, step, Voice())
        assert bool(shown.items) is bool(step.operation.on), step.key
        cut = section(made, step)
        if step.operation.seams and step.key.startswith("seam:"):
            assert cut is not None
            assert cut.layers


@pytest.mark.parametrize("cover", COVERS)
def test_the_word_at_the_start_can_be_read_and_stands_at_the_start(cover: str) -> None:
    """No other words lie over it; lines run through it only where they would everywhere round the start."""
    made = plan(cover)
    for step in made.steps:
        shown = picture(made, step, Voice())
        starts = [item for item in shown.items if isinstance(item, Label) and item.strong]
        rings = [item for item in shown.items if isinstance(item, Path) and item.layer is Layer.TAPE and item.closed]
        assert len(starts) == len(rings), step.key
        paths = [item for item in shown.items if isinstance(item, Path) and len(item.points) > 1]
        for start, ring in zip(starts, rings, strict=True):
            at, box = ring.points.mean(axis=0), box_of(start)
            near = box.buffer(4.0 * start.size).bounds  # nothing else is asked about
            drawn_near = [
                clip_by_rect(LineString(np.vstack((p.points, p.points[:1])) if p.closed else p.points), *near) for p in paths
            ]
            lines = union_all(drawn_near)
            assert 0.3 * start.size < box.distance(Point(*at)) < 1.0 * start.size, step.key
            others = [box_of(item) for item in shown.items if isinstance(item, Label) and item is not start]
            assert not any(box.intersection(other).area > 0.02 * box.area for other in others), step.key
            tried = about(replace(start, at=(float(at[0]), float(at[1]))), 0.5 * start.size)
            free = [box_of(one) for one in tried if not any(box_of(one).intersects(other) for other in others)]
            least = min((one.intersection(lines).length for one in free), default=np.inf)
            assert box.intersection(lines).length <= least + 1e-6, step.key


@pytest.mark.parametrize("cover", ["wall and lid", "wheel, both faces", "gathered halves"])
def test_what_is_done_to_one_side_after_the_other_is_seen_side_by_side(cover: str) -> None:
    made = plan(cover)
    steps = [step for step in made.steps if step.operation.deed in APART and len(step.operation.on) == 2]
    assert steps
    for step in steps:
        shown = drawn(made, step.key)
        pieces = [Polygon(face.points) for face in faces(shown)]
        if closed(made.making.drafted.cover, frozenset(i for s in made.steps[: step.number - 1] for i in s.operation.seams)):
            continue  # stands already
        assert len(pieces) == 2
        assert {face.tone for face in faces(shown)} == {RIGHT}
        assert not pieces[0].intersects(pieces[1])
        assert set(step.operation.on) <= set(words(shown))


@pytest.mark.parametrize("letters", [0.034, 0.09])
def test_the_cloth_itself_is_shown_where_its_end_is_squared(letters: float) -> None:
    made = plan("saddle and ends")
    step = next(step for step in made.steps if step.operation.deed == "square")
    shown = picture(made, step, Voice(), letters)
    cloth, square = faces(shown)
    line = next(item.points for item in shown.items if isinstance(item, Path) and item.layer is Layer.LIT)
    wide = made.making.cloth_of(step.operation.cloth).cut_width
    assert np.ptp(cloth.points[:, 1]) == pytest.approx(wide)
    assert line.tolist() == [[line[0][0], 0.0], [line[0][0], wide]]  # from selvage to selvage
    assert all(LineString(line).buffer(1e-6).intersects(Point(p)) for p in square.points[[0, -1]])  # a leg lies along it
    assert Polygon(cloth.points).buffer(1e-6).covers(Polygon(square.points))
    assert not set(words(shown)) & {"saddle", "right end", "left end"}
    boxes = [box_of(item) for item in shown.items if isinstance(item, Label)]
    drawn_on = union_all([Polygon(face.points) for face in faces(shown)])
    assert not any(box.intersects(drawn_on) for box in boxes)
