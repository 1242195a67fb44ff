"""What the toolkit is handed to paint, and pictures that are turned."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QMouseEvent, QPainterPath, QPolygonF
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job, settle
from tests.wild import tried

from omnipel.bench.parts.picture import strokes_of
from omnipel.bench.parts.strokes import shaped
from omnipel.bench.window.window import Window
from omnipel.core.pictures.drawing import Drawing, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr

points = st.lists(st.tuples(st.floats(-900.0, 900.0), st.floats(-900.0, 900.0)), min_size=3, max_size=7)


@st.composite
def paths(draw: st.DrawFn) -> Path:
    """Separate lines, several rings, one ring, a line."""
    parts = draw(st.lists(points, min_size=1, max_size=4))
    every, layer = np.array([p for part in parts for p in part]), draw(st.sampled_from([Layer.FACE, Layer.PRINT, Layer.CUT]))
    match draw(st.integers(0, 3)):
        case 0:
            return Path(every[: len(every) // 2 * 2], Layer.SEAM, pairs=True, fill="cloth")
        case 1:
            begins = np.cumsum([0, *(len(part) for part in parts[:-1])])
            return Path(every, layer, closed=True, fill="cloth", rings=tuple(begins.tolist()))
        case 2:
            return Path(every, Layer.CUT, closed=True)
    return Path(every, Layer.SEW)


def elements(shape: QPainterPath | QPolygonF) -> np.ndarray:
    """Whether each of its points begins a part, and where it is; one after another at the same place once."""
    if isinstance(shape, QPolygonF):
        return np.array([(0.0, p.x(), p.y()) for p in shape])
    every = [(float(e.isMoveTo()), e.x, e.y) for e in (shape.elementAt(k) for k in range(shape.elementCount()))]  # type: ignore[attr-defined]
    kept = [e for k, e in enumerate(every) if e[0] or k == 0 or e[1:] != every[k - 1][1:]]
    return np.array(kept)


@tried(120)
@given(st.lists(paths(), max_size=6))
def test_shapes_that_are_handed_over_whole_are_those_made_point_by_point(items: list[Path]) -> None:
    made = strokes_of(Drawing(tuple(items)))
    assert [item for item, _ in made] == items
    for item, shape in made:
        slow = shaped(item, (item.points * (1.0, -1.0)).tolist())
        assert type(shape) is type(slow)
        assert np.allclose(elements(shape), elements(slow))
        if isinstance(shape, QPainterPath) and isinstance(slow, QPainterPath):
            assert shape.fillRule() == slow.fillRule()


def fine(window: Window) -> tuple[bool, bool, bool]:
    """Whether the picture at Cover has threads, stitches, and hatch."""
    items = [i for i in window.stations["cover"].picture.sketch.drawing.items if isinstance(i, Path)]
    return (
        any(i.layer is Layer.WEAVE for i in items),
        any(i.layer is Layer.STITCH for i in items),
        any(i.hatched for i in items),
    )


def test_a_picture_has_all_that_is_fine_again_once_it_rests(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Settling tank", "cover")
    sketch = sample_window.stations["cover"].picture.sketch
    qtbot.waitUntil(lambda: fine(sample_window) == (True, True, True))
    before, zoom, middle = sketch.view, sketch.zoom, sketch.middle
    sketch.setFocus()
    for _ in range(4):
        qtbot.keyClick(sketch, Qt.Key.Key_Left)
        assert fine(sample_window) == (False, False, False)
    assert sketch.view.yaw > before.yaw
    assert sketch.view.pitch == before.pitch
    qtbot.waitUntil(lambda: fine(sample_window) == (True, True, True))
    assert sketch.zoom <= zoom
    for _ in range(4):
        qtbot.keyClick(sketch, Qt.Key.Key_Right)
    assert sketch.view.yaw == pytest.approx(before.yaw)
    qtbot.waitUntil(lambda: fine(sample_window) == (True, True, True))
    assert (sketch.middle - middle).manhattanLength() < 1.0
    # Where one points while it is turned is told as always.
    sketch.turn(0.2, 0.0)
    found = {sketch.ref_at(QPointF(x, sketch.height() / 2.0)) for x in range(0, sketch.width(), 12)}
    assert {ref for ref in found if ref is not None}


def test_a_choice_is_made_while_the_picture_is_turned(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "cover")
    station = sample_window.stations["cover"]
    qtbot.waitUntil(lambda: fine(sample_window)[0])
    station.picture.sketch.turn(0.3, 0.1)
    view = station.picture.sketch.view
    sample_window.session.set(refs.choice("clearance.amount"), 30.0, tr("gap"))
    settle(sample_window)
    assert station.picture.sketch.view == view
    qtbot.waitUntil(lambda: fine(sample_window)[0])
    lit = refs.seam(next(iter(sample_window.session.draft.cover.joins)))
    station.choose(lit)
    assert any(i.layer is Layer.LIT for i in station.picture.sketch.drawing.items if isinstance(i, Path))


def test_where_it_jams_is_marked_while_it_is_lowered_and_the_cover_is_lifted(
    sample_window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    open_job(sample_window, "Butter churn", "cover")
    station = sample_window.stations["cover"]
    sketch, slider = station.picture.sketch, station.lowering.slider

    def height() -> float:
        """How high the cover is drawn above the object's foot."""
        scene = sketch.scene
        cloth = [ring for sheet in scene.sheets if sheet.stuff.value == "cloth" for ring in sheet.rings]
        thing = [ring for sheet in scene.sheets if sheet.stuff.value == "object" for ring in sheet.rings]
        return float(np.concatenate(cloth)[:, 2].min() - np.concatenate(thing)[:, 2].min())

    on, drawings = height(), []
    assert station.lowering.way is not None
    monkeypatch.setattr(
        sketch, "set_drawing", lambda drawing: (drawings.append(drawing), type(sketch).set_drawing(sketch, drawing))
    )
    for step, share in enumerate((0.75, 0.4, 0.0), 1):
        slider.setValue(round(share * slider.maximum()))
        assert len(drawings) == step
        assert height() - on == pytest.approx((1.0 - station.lowering.share) * station.lowering.way.travel, abs=1.0)
        assert sketch.level is not None
        (ends, _), words = sketch.level.line, sketch.level.words
        assert words
        assert len(ends)
        drawn = [i for i in sketch.drawing.items if not isinstance(i, Path) and i.words == words]
        assert len(drawn) == 1
    session = sample_window.session
    reading = next(r for r in session.open_job.readings if r.place.startswith("height"))
    session.set(refs.reading(reading.place).at("repeats"), (1.2 * reading.repeats[0],), tr("higher"))
    assert station.picture.lifted == pytest.approx(station.lowering.way.travel)
    session.undo()
    slider.setValue(slider.maximum())
    settle(sample_window)
    assert height() == pytest.approx(on, abs=1e-6)


def test_a_picture_is_dragged_round_with_the_mouse(sample_window: Window) -> None:
    open_job(sample_window, "Press motor", "object")
    sketch = sample_window.stations["object"].sketch
    before = sketch.view

    def move(kind: QEvent.Type, x: float, y: float, held: Qt.MouseButton) -> None:
        at = QPointF(x, y)
        buttons = Qt.MouseButton.NoButton if kind is QEvent.Type.MouseButtonRelease else Qt.MouseButton.LeftButton
        event = QMouseEvent(kind, at, sketch.mapToGlobal(at), held, buttons, Qt.KeyboardModifier.NoModifier)
        QApplication.sendEvent(sketch, event)

    move(QEvent.Type.MouseButtonPress, 100.0, 100.0, Qt.MouseButton.LeftButton)
    for k in range(1, 11):
        move(QEvent.Type.MouseMove, 100.0 + 8.0 * k, 100.0 + 3.0 * k, Qt.MouseButton.NoButton)
    move(QEvent.Type.MouseButtonRelease, 180.0, 130.0, Qt.MouseButton.LeftButton)
    assert sketch.view.yaw == pytest.approx(before.yaw - 80 * 0.009)
    assert sketch.view.pitch == pytest.approx(before.pitch + 30 * 0.009)
    assert sketch.grabbed is None
