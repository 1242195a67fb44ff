"""The Cloth station, driven by mouse and keys in the real window: pieces pushed about, choices, what it says."""

from dataclasses import replace
from itertools import pairwise

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QDialog, QLabel, QLineEdit
from pytestqt.qtbot import QtBot
from tests.bench.atcloth import WAIT, at_cloth, drag, laid, middle
from tests.bench.conftest import in_dialog, open_job
from tests.core.cloth.test_lays import sound

from omnipel.bench.parts.focusorder import walked
from omnipel.bench.stations.cloth.clothdialog import ClothDialog
from omnipel.bench.stations.cloth.fitdialog import FitDialog
from omnipel.bench.window.window import Window
from omnipel.core.job.findings import Change
from omnipel.core.job.laying import Spread
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit


def test_a_piece_is_dragged_stops_at_its_neighbours_and_is_undone(sample_window: Window, qtbot: QtBot) -> None:
    view = at_cloth(sample_window, qtbot, "Honey extractor").view  # type: ignore[attr-defined]
    lay = laid(sample_window, qtbot)
    before = sample_window.session.open_job
    start, wall = middle(view, "lid"), middle(view, "wall")
    drag(qtbot, view, start, wall)  # right into the wall
    after = laid(sample_window, qtbot)
    sound(after)
    assert sample_window.session.open_job != before
    moved = {p.piece for p, q in zip(sorted(after.placed, key=str), sorted(lay.placed, key=str), strict=True) if p != q}
    assert moved == {"lid"}
    assert after.kept
    sample_window.run_command("undo")
    assert sample_window.session.open_job == before


def test_keys_choose_move_turn_and_lock_a_piece(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Seed cleaner")
    view = station.view  # type: ignore[attr-defined]
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_PageDown)
    first = view.chosen
    qtbot.keyClick(view, Qt.Key.Key_PageDown)
    assert view.chosen != first
    last = laid(sample_window, qtbot).on(laid(sample_window, qtbot).bolt)[-1].piece
    view.choose(last)
    x = view.piece.x
    qtbot.keyClick(view, Qt.Key.Key_Right)
    lay = laid(sample_window, qtbot)
    sound(lay)
    qtbot.waitUntil(lambda: view.piece is not None and view.piece.x != x, timeout=WAIT)
    assert view.piece.x == pytest.approx(x + 10.0, abs=1e-6)
    qtbot.keyClick(view, Qt.Key.Key_L)
    laid(sample_window, qtbot)
    qtbot.waitUntil(lambda: view.piece is not None and view.piece.locked, timeout=WAIT)
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert "locked" in sample_window.working.text.text()
    qtbot.keyClick(view, Qt.Key.Key_L)
    qtbot.waitUntil(lambda: view.piece is not None and not view.piece.locked, timeout=WAIT)
    turn = view.piece.turn
    qtbot.keyClick(view, Qt.Key.Key_R)
    after = laid(sample_window, qtbot)
    sound(after)
    assert turn != next(p for p in after.placed if p.piece == last).turn or "no other way" in sample_window.working.text.text()
    assert station.piece.text()  # type: ignore[attr-defined]


def test_tab_goes_down_the_lists_whenever_their_lines_were_made(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    station.layers.copies.line.setText("2")  # type: ignore[attr-defined]
    station.layers.copies.line.setModified(True)  # type: ignore[attr-defined]
    qtbot.keyClick(station.layers.copies.line, Qt.Key.Key_Return)  # type: ignore[attr-defined]
    laid(sample_window, qtbot)
    qtbot.waitUntil(lambda: sample_window.session.cloth.works.idle, timeout=WAIT)
    QApplication.processEvents()
    order = walked(sample_window, station.walks)  # type: ignore[attr-defined]
    for part in (station.buying, station.layers):  # type: ignore[attr-defined]
        mine = [one for one in order if part.isAncestorOf(one)]
        heights = [one.mapTo(part, QPoint(0, one.height() // 2)).y() for one in mine]
        assert len(mine) > 8
        assert all(above <= below + 2 for above, below in pairwise(heights))


def test_choices_about_the_lay_are_kept_in_the_job(sample_window: Window, qtbot: QtBot) -> None:
    layers = at_cloth(sample_window, qtbot, "Press motor").layers  # type: ignore[attr-defined]
    layers.gap.line.setText("12")
    layers.gap.line.setModified(True)
    qtbot.keyClick(layers.gap.line, Qt.Key.Key_Return)
    assert sample_window.session.open_job.lays["outer"].gap == 12.0
    sound(laid(sample_window, qtbot))
    layers.spread.activated.emit(list(Spread).index(Spread.FOLDED))
    assert sample_window.session.open_job.lays["outer"].spread is Spread.FOLDED
    assert laid(sample_window, qtbot).sheet.folded
    layers.copies.line.setText("3")
    layers.copies.line.setModified(True)
    qtbot.keyClick(layers.copies.line, Qt.Key.Key_Return)
    assert sample_window.session.open_job.copies == 3
    sound(laid(sample_window, qtbot))


def test_the_tally_says_what_to_buy_and_leads_here(sample_window: Window, qtbot: QtBot) -> None:
    at_cloth(sample_window, qtbot, "Honey extractor")
    tally = sample_window.tally
    assert tally.cloth.value.text() == "2.70\u202fm" or "2.70" in tally.cloth.value.text()
    assert tally.pay.value.text()
    sample_window.show_station("panels")
    qtbot.mouseClick(tally.cloth, Qt.MouseButton.LeftButton)
    assert sample_window.here == "cloth"
    sample_window.go_to(refs.lay("outer", "gap"))
    assert sample_window.here == "cloth"


def test_no_cloth_is_shown_where_nothing_is_drafted(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Feed bin", "cloth")
    station = sample_window.stations["cloth"]
    assert not station.empty.isHidden()
    assert station.view.isHidden()
    assert station.empty.words.text()


def test_what_is_typed_stands_at_once_and_what_cannot_be_is_said_in_its_own_unit(sample_window: Window, qtbot: QtBot) -> None:
    session = sample_window.session
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    session.apply(replace(session.open_job, unit=Unit.INCH_16), tr("in inches"))
    laid(sample_window, qtbot)

    def typed(line: QLineEdit, words: str) -> None:
        line.setFocus()
        line.selectAll()
        qtbot.keyClicks(line, words)
        qtbot.keyClick(line, Qt.Key.Key_Return)

    gap, ends = station.layers.gap, station.layers.ends  # type: ignore[attr-defined]
    typed(gap.line, "1/2")
    assert gap.line.text() == "1/2"  # the lay comes later
    assert session.open_job.lays["outer"].gap == pytest.approx(12.7)
    typed(ends.line, "12 3/4 ft")
    assert "153 in" in ends.note.text()
    assert "at most 39 3/8 in" in ends.note.text()
    before = session.open_job
    assert not session.change(tr("far too much"), Change(refs.CLEARANCE, 5000.0))
    assert session.open_job is before
    assert "196 7/8 in is too much; at most 39 3/8 in" in sample_window.working.text.text().replace("\u202f", " ")


def test_a_dialog_says_itself_what_cannot_be(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    sample_window.session.apply(replace(sample_window.session.open_job, unit=Unit.INCH_16), tr("in inches"))
    laid(sample_window, qtbot)
    said: list[str] = []

    def wrong(dialog: QDialog, line: QLineEdit, words: str) -> None:
        line.setFocus()
        line.selectAll()
        qtbot.keyClicks(line, words)
        qtbot.keyClick(line, Qt.Key.Key_Tab)
        said.extend(one.text() for one in dialog.findChildren(QLabel) if one.isVisible() and "the old value stays" in one.text())

    def tried(dialog: FitDialog) -> None:
        wrong(dialog, dialog.long.line, "banana")
        dialog.reject()

    in_dialog(FitDialog, tried)
    station.layers.wants.emit("fit")  # type: ignore[attr-defined]

    def chosen(dialog: ClothDialog) -> None:
        line = next(one for one in dialog.findChildren(QLineEdit) if one.accessibleName() == "All widths it is sold in")
        wrong(dialog, line, "60, -3")
        assert dialog.cloth.widths == before
        dialog.reject()

    before = laid(sample_window, qtbot).sheet.cloth.widths
    in_dialog(ClothDialog, chosen)
    station.layers.wants.emit("cloth")  # type: ignore[attr-defined]
    assert "banana" in said[0]
    assert "60, -3" in said[1]
