"""The real window on a shop of its own."""

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from omnipel.bench.parts.look import LIGHT, LOOK, load_type
from omnipel.bench.session import Session
from omnipel.bench.window.window import Window
from omnipel.shop.sample import fill
from omnipel.shop.store import Store


@pytest.fixture
def open_window(qtbot: QtBot, qapp: QApplication) -> Iterator[Callable[[Path], Window]]:
    """Opens windows on shops; they are closed after the test."""
    load_type()
    LOOK.scale, LOOK.colours = 1.0, LIGHT
    made: list[Window] = []

    def opened(path: Path, *, samples: bool = False) -> Window:
        window = Window(Session(fill(path) if samples else Store(path)))
        window.resize(1280, 800)
        window.show()
        settle(window)
        made.append(window)
        return window

    yield opened
    for window in made:
        window.close()
        window.deleteLater()
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def sample_window(open_window: Callable[..., Window], tmp_path: Path) -> Window:
    """A window on the sample shop."""
    return open_window(tmp_path / "quillet.sqlite", samples=True)


def settle(window: Window) -> None:
    """Let the window come to rest as the active one; without a screen nobody else activates it."""
    QApplication.processEvents()
    window.activateWindow()
    QApplication.processEvents()
    assert window.isActiveWindow()


def open_job(window: Window, name: str, station: str) -> None:
    """Open a sample job at a station."""
    key = next(card.id for card in window.session.store.cards() if card.name == name)
    window.session.open(key)
    window.show_station(station)
    settle(window)


def type_into_focus(
    qtbot: QtBot, words: str, key: Qt.Key = Qt.Key.Key_Return, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier
) -> None:
    """Type into whatever has the focus."""
    widget = QApplication.focusWidget()
    assert widget is not None
    qtbot.keyClicks(widget, words)
    qtbot.keyClick(widget, key, modifier)
