"""Odd names and odd numbers into every line of every station: nothing breaks, and the job can still be written and read."""

from collections.abc import Iterator

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLabel, QLineEdit, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job, settle
from tests.wild import some

from omnipel.bench.commands.jobs import delete
from omnipel.bench.window.window import Window
from omnipel.shop.document import dumped, loaded

ODD = (
    "0",
    "-3",
    "1e9",
    "9" * 60,
    "1/0",
    "1/2/3",
    "((((((((((1))))))))))",
    "12 5/81763",
    "2*girth",
    "girth/0",
    "pi*pi*pi*pi*pi*pi*pi*pi",
    "3'4 1/2 5/8",
    "1,763",
    "½",
    "<b>{x}</b> %s %(n)d",
    "../../etc",
    "\u202e\u0000abc",
    " " * 30,
    "40 %",
    "nan",
    "-0",
)
STATIONS = ("object", "tape", "cover", "panels", "cloth")


def lines(station: QWidget) -> Iterator[QLineEdit]:
    """Every line that can be typed into now."""
    yield from (
        line for line in station.findChildren(QLineEdit) if line.isVisible() and line.isEnabled() and not line.isReadOnly()
    )


@pytest.mark.parametrize(("station", "job"), some(STATIONS, ["Rain butt", "Sprayer pump case"], of=4))
def test_every_line_stands_every_text(sample_window: Window, qtbot: QtBot, job: str, station: str) -> None:
    open_job(sample_window, job, station)
    session, page = sample_window.session, sample_window.stations[station]
    tried = 0
    for i in range(len(list(lines(page)))):
        for text in ODD:
            now = list(lines(page))
            if i >= len(now):
                break
            line = now[i]
            line.setFocus()
            line.setText(text)
            line.setModified(True)
            qtbot.keyClick(line, Qt.Key.Key_Return)
            QApplication.processEvents()
            tried += 1
            assert loaded(dumped(session.open_job)) == session.open_job
            assert session.open_job.name.strip()
    assert tried >= (0 if station == "panels" else len(ODD))
    settle(sample_window)
    sample_window.grab()
    while session.store.history(session.key)[1] > 1:  # type: ignore[arg-type]
        before = session.open_job
        session.undo()
        assert session.open_job != before


@pytest.mark.parametrize("name", ["<h1>Big</h1>", "a" * 120, "{0} {x} %s", "Ünïcödé 馬 🐝", "1/2 barrel", "."])
def test_odd_names_are_shown_as_they_are(sample_window: Window, name: str) -> None:
    open_job(sample_window, "Rain butt", "object")
    session = sample_window.session
    sample_window.stations["object"]._named(name)
    assert session.open_job.name == name
    assert sample_window.title.whole.startswith(name)
    for station in STATIONS:
        sample_window.show_station(station)
        sample_window.grab()
        for shown in sample_window.findChildren(QLabel):
            assert shown.textFormat() is Qt.TextFormat.PlainText or shown is sample_window.working.text, shown.text()
        for shown in sample_window.findChildren(QWidget):
            assert "<h1>" not in shown.toolTip()
    delete(sample_window, session.key)  # type: ignore[arg-type]
    if "<" in name:
        assert "<h1>" not in sample_window.working.text.text()
    sample_window.show_station("shelf")
    sample_window.grab()
