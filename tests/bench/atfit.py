"""At the Fit station: what its tests look at and do."""

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import QApplication, QLabel, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle

from omnipel.bench.fitting import fitting_of
from omnipel.bench.stations.fit.station import FitStation
from omnipel.bench.window.window import Window


def at_fit(window: Window, name: str = "") -> FitStation:
    """The station, on a sample job or on the one that is open."""
    if name:
        key = next(card.id for card in window.session.store.cards(archived=True) if card.name == name)
        assert window.session.open(key)
    window.show_station("fit")
    settle(window)
    station = window.stations["fit"]
    assert isinstance(station, FitStation)
    return station


def rest(window: Window, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: window.session.works.idle and not fitting_of(window.session).waiting, timeout=20_000)
    QApplication.processEvents()


def told(widget: QWidget) -> str:
    QApplication.processEvents()
    return " · ".join(label.text() for label in widget.findChildren(QLabel) if label.isVisibleTo(widget))


@contextmanager
def no_window_of_its_own() -> Iterator[None]:
    """No part is shown before it has its place: it would flash up as a window, and take the focus along."""
    flashed: list[QWidget] = []

    class Watch(QObject):
        def eventFilter(self, watched: QObject, event: QEvent) -> bool:
            if event.type() == QEvent.Type.Show and isinstance(watched, QWidget) and watched.windowType() == Qt.WindowType.Window:
                flashed.append(watched)
            return False

    watch = Watch()
    QApplication.instance().installEventFilter(watch)
    yield
    QApplication.instance().removeEventFilter(watch)
    assert flashed == []
