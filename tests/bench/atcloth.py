"""At the Cloth station: what its tests look at and do."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job

from omnipel.bench.window.window import Window
from omnipel.core.cloth.lay import Lay

WAIT = 30_000


def at_cloth(window: Window, qtbot: QtBot, name: str) -> object:
    open_job(window, name, "cloth")
    station = window.stations["cloth"]
    qtbot.waitUntil(lambda: window.session.cloth.current is not None and station.view.lay is not None, timeout=WAIT)
    return station


def laid(window: Window, qtbot: QtBot, layer: str = "outer") -> Lay:
    qtbot.waitUntil(lambda: window.session.cloth.current is not None, timeout=WAIT)
    lay = window.session.cloth.lay(layer)
    assert lay is not None
    return lay


def middle(view: object, key: str) -> QPoint:
    """Where the middle of a piece is on screen."""
    lay = view.lay  # type: ignore[attr-defined]
    ring = lay.outline(next(p for p in lay.placed if p.piece == key))
    x, y = (ring.min(axis=0) + ring.max(axis=0)) / 2.0
    return view.to_screen(float(x), float(y)).toPoint()  # type: ignore[attr-defined]


def drag(qtbot: QtBot, view: QWidget, start: QPoint, end: QPoint) -> None:
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for k in range(1, 5):
        qtbot.mouseMove(view, start + (end - start) * k / 4)
        QApplication.processEvents()
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
