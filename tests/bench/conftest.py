"""The real window on a shop of its own."""

import tempfile
from collections.abc import Callable, Iterator
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

import pytest
from PySide6.QtCore import QEvent, Qt, QTimer
from PySide6.QtWidgets import QApplication, QDialog, QRadioButton
from pytestqt.qtbot import QtBot

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.look import LIGHT, LOOK, load_type
from omnipel.bench.session import Session
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit
from omnipel.shop.sample import fill
from omnipel.shop.starter import starter
from omnipel.shop.store import Store

Asked = TypeVar("Asked", bound=QDialog)


@cache
def filled() -> bytes:
    """A shop with all samples, as it lies on disk; made once."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        fill(path).close()
        return path.read_bytes()


@pytest.fixture
def open_window(qtbot: QtBot, qapp: QApplication) -> Iterator[Callable[[Path], Window]]:
    """Opens windows on shops; they are closed after the test."""
    load_type()
    LOOK.scale, LOOK.colours = 1.0, LIGHT
    made: list[Window] = []

    def opened(path: Path, *, samples: bool = False) -> Window:
        if samples:
            path.write_bytes(filled())
        window = Window(Session(Store(path)))
        window.resize(1280, 800)
        window.show()
        settle(window)
        made.append(window)
        return window

    yield opened
    for window in made:
        window.session.unsaved = []  # a test that failed is not asked what is to become of its changes
        window.close()
        window.deleteLater()
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def sample_window(open_window: Callable[..., Window], tmp_path: Path) -> Window:
    """A window on the sample shop."""
    return open_window(tmp_path / "quillet.sqlite", samples=True)


@pytest.fixture
def inch_window(open_window: Callable[..., Window], tmp_path: Path) -> Window:
    """An empty shop with one job in inches."""
    window = open_window(tmp_path / "shop.sqlite")
    window.session.add(starter("drum", "wall-and-lid", Unit.INCH_16, name="Butt ½ & <b>west"), tr("new"))
    return window


def settle(window: Window) -> None:
    """Let the window come to rest as the active one; without a screen nobody else activates it."""
    QApplication.processEvents()
    window.activateWindow()
    QApplication.processEvents()
    assert window.isActiveWindow()


def at_rest(window: Window, qtbot: QtBot) -> None:
    """Wait for all that is drafted, laid and looked for behind the window."""
    session = window.session
    if isinstance(session.draft, Drafted):
        qtbot.waitUntil(lambda: session.cloth.current is not None, timeout=60_000)
    qtbot.waitUntil(lambda: not fitting_of(session).waiting and session.works.idle, timeout=60_000)
    for _ in range(12):  # a layout may ask for another
        QApplication.processEvents()


def in_dialog(kind: type[Asked], act: Callable[[Asked], object]) -> None:
    """Do something in the dialog that is asked next, once it has the keyboard; what goes wrong in it closes it, and no test waits for ever."""
    looks = iter(range(1000))

    def look() -> None:
        dialog, focused = QApplication.activeModalWidget(), QApplication.focusWidget()
        if not isinstance(dialog, kind) or focused is None or focused.window() is not dialog:
            if next(looks, None) is not None:
                QTimer.singleShot(10, look)
                return
            if isinstance(dialog, QDialog):
                dialog.reject()
            raise AssertionError(f"no {kind.__name__} with the keyboard, but {dialog}")
        try:
            act(dialog)
        except BaseException:
            dialog.reject()
            raise

    QTimer.singleShot(10, look)


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


@pytest.fixture
def hands(open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path) -> Any:
    window = open_window(tmp_path / "empty.sqlite")
    settle(window)
    qtbot.waitUntil(lambda: isinstance(QApplication.focusWidget(), QRadioButton))
    from tests.bench.hands import Hands  # which uses what stands here

    return Hands(window, qtbot, tmp_path)
