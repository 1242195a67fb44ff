"""Words in panel drawings: none lies on another or over an opening, and none is too small to read, at every size of text, for every pair."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import one_in

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Draft, draft
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.pictures.board import fitted_board
from omnipel.core.pictures.drawing import Label, Path
from omnipel.core.pictures.labels import SMALLEST, Room, about, box_of, clear_of, extent, width_of
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.words.phrases import Voice
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

WIDE, HIGH, LETTER = 590.0, 310.0, 14.0
"""The board at 1280 × 800, px, and the height of its letters at 100 %."""


def laid(drafted: Draft, scale: float) -> tuple[float, list[Label]]:
    """The words of the board as it is fitted into its frame: the height of its letters in mm, and all that stand there."""
    made = fitted_board(drafted.panels, Voice(drafted.job.unit), LETTER * scale, WIDE, HIGH)
    drawing, text = made.drawing, made.text
    x0, y0, x1, y1 = extent(drawing)
    least = 11.0 * (scale if scale <= 1.0 else max(1.0, 0.75 * scale))  # px on the screen; many panels with large words fill it
    assert SMALLEST * text / max((x1 - x0) / WIDE, (y1 - y0) / HIGH) >= least
    return text, [item for item in drawing.items if isinstance(item, Label) and item.words]


def overlapping(labels: list[Label]) -> list[tuple[str, str]]:
    """Words that lie on one another."""
    boxes = [box_of(label).buffer(-0.05 * label.size) for label in labels]
    tree = shapely.STRtree(boxes)
    first, second = tree.query(boxes, predicate="intersects")
    return [(labels[i].words, labels[k].words) for i, k in zip(first, second, strict=True) if i < k]


JOBS = [(f"{form} {scheme}", starter(form, scheme)) for form, scheme in lawful_pairs()]
JOBS += [(job.name, job) for job in (sample() for sample in SAMPLES) if draft(job).panels]


@pytest.mark.parametrize(("name", "job"), JOBS[:: one_in(4)], ids=[name for name, _ in JOBS[:: one_in(4)]])
def test_no_words_overlap_or_cover_an_opening_or_are_too_small(name: str, job: object) -> None:
    drafted = draft(job)  # type: ignore[arg-type]
    for scale in (0.8, 1.0, 1.25, 1.6):
        text, labels = laid(drafted, scale)
        assert overlapping(labels) == [], scale
        assert min(label.size for label in labels) >= SMALLEST * text * (1.0 - 1e-9)
        named = {label.words for label in labels if label.strong}
        assert len(named) >= len({panel.name for panel in drafted.panels}) or len(labels) >= len(drafted.panels)
        for panel in drafted.panels:
            drawn = [i for i in panel_drawing(panel, Voice(job.unit), text, stripes=True).items if isinstance(i, Label)]  # type: ignore[attr-defined]
            for figure in panel.figures:
                if figure.kind is MarkKind.CUT_OUT and figure.closed:
                    opening = shapely.make_valid(shapely.Polygon(figure.points))
                    assert not [label.words for label in drawn if box_of(label).intersects(opening)]


def test_a_block_of_words_finds_the_free_part_of_a_shape() -> None:
    room = Room(shapely.box(0.0, 0.0, 200.0, 100.0), [shapely.box(0.0, 0.0, 120.0, 100.0)])
    labels = room.block(["lid", "cut 1"], 10.0)
    assert labels is not None
    assert all(label.at[0] > 120.0 for label in labels)
    narrow = Room(shapely.box(0.0, 0.0, 25.0, 300.0)).block(["a long name of a strip"], 10.0)
    assert narrow is not None
    assert narrow[0].angle == pytest.approx(np.pi / 2.0)
    assert Room(shapely.box(0.0, 0.0, 9.0, 9.0)).block(["lid"], 10.0) is None
    assert width_of("lid", 10.0) < width_of("LID", 10.0) < width_of("MMM", 10.0)


STEPS = st.integers(-12, 12).map(lambda n: n / 2.0)
PLACES = st.tuples(STEPS, STEPS)


@given(
    st.lists(st.lists(PLACES, min_size=2, max_size=5, unique=True), max_size=6),
    st.lists(PLACES, max_size=2),
    st.sampled_from((0.0, 0.5, 1.0)),
    st.sampled_from(("start", "Anfang", "i")),
)
def test_a_word_is_moved_to_where_it_lies_over_least(
    ways: list[list[tuple[float, float]]], others: list[tuple[float, float]], anchor: float, words: str
) -> None:
    """Never further off than it has to be, never over other words where there is a place without, never through more lines than elsewhere."""
    off, label = 0.5, Label((0.0, 0.0), words, 1.0, anchor=anchor, strong=True)
    items = [Path(np.array(way), Layer.CONTOUR, closed=len(way) > 2) for way in ways]
    there = [Label(at, "wall", 1.0) for at in others]
    lines = shapely.union_all([shapely.LineString([*way, way[0]] if len(way) > 2 else way) for way in ways])
    taken = shapely.union_all([box_of(one) for one in there])
    places = list(about(label, off))
    assert len({place.at for place in places}) == 8
    for place in places:
        assert box_of(place).distance(shapely.Point(0.0, 0.0)) == pytest.approx(off, rel=0.5)
        assert replace(place, at=label.at) == label
    found = clear_of(label, off, [*items, *there])
    assert found in places
    over = [(box_of(place).intersection(taken).area, box_of(place).intersection(lines).length) for place in places]
    mine = over[places.index(found)]
    free = [through for area, through in over if area == 0.0]
    if not items and not there:
        assert found == places[0]  # above, where it has always stood
    if free and mine[0] > 0.0:
        assert mine[1] < min(free)  # only a whole web of lines is worse
    if free and mine[0] == 0.0:
        assert mine[1] == pytest.approx(min(free))
