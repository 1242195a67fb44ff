"""The logbook at the Fit station: photos, what is due, a job that travels with all of it."""

from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPoint, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot
from tests.bench.atfit import at_fit, no_window_of_its_own, told
from tests.bench.conftest import in_dialog
from tests.shop.test_photos import picture

from omnipel.bench.commands.papers import PapersDialog, write_export
from omnipel.bench.stations.fit.photos import PhotoDialog, PhotoRow
from omnipel.bench.window.window import Window
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.trying import Entry, Happened, Went
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.exchange.exports import EXPORTS


def test_photos_are_brought_in_looked_at_and_taken_away(inch_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    session, station = inch_window.session, at_fit(inch_window)
    station.strip.another.click()
    good, bad = tmp_path / "rim.jpg", tmp_path / "no.jpg"
    good.write_bytes(picture())
    bad.write_bytes(b"no picture")
    row = station.form.photos
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(QFileDialog, "getOpenFileNames", lambda *_a: ([str(good), str(bad), str(good)], ""))
        station.form.photo.click()
    assert len(session.open_job.tries[0].photos) == 1 == len(row.buttons)
    assert not row.buttons[0].icon().isNull()
    in_dialog(PhotoDialog, lambda dialog: dialog._gone())
    row.buttons[0].click()
    assert session.open_job.tries[0].photos == ()
    let_fall = QMimeData()
    let_fall.setUrls([QUrl.fromLocalFile(str(good))])
    move, left, none = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    station.form.dropEvent(QDropEvent(QPoint(9, 9), move, let_fall, left, none))
    (kept,) = session.open_job.tries[0].photos
    session.change(tr("x"), Change(refs.log(), Entry(happened=Happened.MENDED, photos=(kept,)), act=Act.ADD))
    with no_window_of_its_own():
        for photos in ((), (kept,)):
            session.set(refs.log(session.open_job.log[0].id).at("photos"), photos, tr("x"))
            QApplication.processEvents()
    (shown,) = (row for row in station.log.findChildren(PhotoRow) if row.isVisibleTo(station))
    assert len(shown.buttons) == 1


def test_the_logbook_is_written_and_shows_on_the_shelf_what_is_due(inch_window: Window, qtbot: QtBot) -> None:
    session, station = inch_window.session, at_fit(inch_window)
    log = station.log
    assert "Nothing is due" in log.due.text()
    log.what.show_value(Happened.MADE)
    for day, fine in (("soon", False), ("2020-02-01", True)):
        log.day.setText(day)
        log.words.setText("for the winter")
        log.write.click()
        assert bool(session.open_job.log) is fine
    assert log.due.text().startswith("Due since 20")
    log.what.show_value(Happened.LOOKED)
    log.look.setText("2021-06-01")
    log.day.setText("2021-03-01")
    log.write.click()
    assert session.open_job.log[-1].next_look == "2021-06-01"
    assert "2021-06-01" in log.due.text()
    assert "for the winter" in told(log)
    inch_window.show_station("shelf")
    shelf = inch_window.shelf
    card = shelf.cards[0]
    qtbot.waitUntil(lambda: (card.id, card.revision) in shelf.model.kept, timeout=20_000)
    assert shelf.model.kept[card.id, card.revision].due_on("2026-11-28") == "look at it"
    index = shelf.model.at(0)
    assert "due: look at it" in str(shelf.model.data(index, Qt.ItemDataRole.AccessibleTextRole))
    shelf.sort.setCurrentIndex(shelf.sort.values.index("due"))
    shelf._filter()
    inch_window.grab()


def test_a_job_travels_with_its_photos_and_is_the_same_on_the_other_machine(
    inch_window: Window, open_window: Callable[..., Window], tmp_path: Path
) -> None:
    session, station = inch_window.session, at_fit(inch_window)
    station.strip.another.click()
    file = tmp_path / "rim.jpg"
    file.write_bytes(picture())
    station.form.photos.bring([file])
    station.form._went(Went.RIGHT)
    dialog = PapersDialog(inch_window, session, EXPORTS["travel"])
    path = tmp_path / "sent.omnipel"
    write_export(session, EXPORTS["travel"], path, dialog.order())
    dialog.reject()
    there = open_window(tmp_path / "other.sqlite")
    for _ in range(2):  # double-clicked twice it is there once
        there.shelf.dropped.emit([str(path)])
        assert there.here == "fit"
        assert there.session.open_job == session.open_job
    assert len(there.session.store.cards()) == 1
    arrived = there.stations["fit"].form.photos
    assert len(arrived.buttons) == 1
    assert not arrived.buttons[0].icon().isNull()
    (tmp_path / "spoilt.omnipel").write_bytes(path.read_bytes()[:-30])
    there.shelf.dropped.emit([str(tmp_path / "spoilt.omnipel")])
    assert len(there.session.store.cards()) == 1
