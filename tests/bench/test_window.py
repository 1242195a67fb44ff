"""A person at the window: from first start to a printed pattern, with keys only; wrong input; undo; units; recovery."""

import os
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog, open_job, type_into_focus

from omnipel.bench.commands.jobs import bring_in
from omnipel.bench.commands.papers import PapersDialog, write_export
from omnipel.bench.window.window import Window
from omnipel.core.pictures.pens import Layer
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit
from omnipel.exchange.asked import Order
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.store import Store

Opener = Callable[..., Window]
CTRL = Qt.KeyboardModifier.ControlModifier


def test_first_start_to_printed_pattern_by_keys(open_window: Opener, qtbot: QtBot, tmp_path: Path) -> None:
    window = open_window(tmp_path / "shop.sqlite")
    assert window.shelf.first.isVisible()
    assert not window.tally.isVisible()
    qtbot.keyClick(window, Qt.Key.Key_N, CTRL)
    assert window.here == "object"
    qtbot.keyClick(window, Qt.Key.Key_2, CTRL)
    tape = window.stations["tape"]
    assert tape.field.line.hasFocus()
    type_into_focus(qtbot, "girth")  # no such reading yet: refused in words
    assert "“girth” is no reading" in tape.field.note.text()
    tape.field.line.selectAll()
    type_into_focus(qtbot, "1763", Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    type_into_focus(qtbot, "176.1cm")
    assert tape.place == "drop"
    type_into_focus(qtbot, "655")
    draft = window.session.draft
    assert draft is not None
    assert window.session.open_job.reading("girth").repeats == (1763.0, 1761.0)  # type: ignore[union-attr]
    assert draft.cover.sizes["wall_finished_height"].value == pytest.approx(655 + 12 + 0.25)
    qtbot.keyClick(window, Qt.Key.Key_4, CTRL)
    assert window.here == "panels"
    assert "2 of 2" in window.tally.seams.value.text()
    target = tmp_path / "pattern.pdf"
    write_export(window.session, EXPORTS["pdf"], target, Order(draft, window.session.voice, "A4"))
    assert target.read_bytes().startswith(b"%PDF")


def test_every_change_is_there_after_a_restart_and_can_be_undone(open_window: Opener, qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    window = open_window(path, samples=True)
    open_job(window, "Rain butt", "cover")
    before = window.session.open_job
    window.session.set(refs.CLEARANCE, 20.0, tr("clearance 20"))
    window.session.set(refs.SEAM_ALLOWANCE, 10.0, tr("seam allowance 10"))
    window.close()
    again = open_window(path)
    open_job(again, "Rain butt", "cover")
    assert again.session.open_job.cover.clearance.amount == 20.0
    qtbot.keyClick(again, Qt.Key.Key_Z, CTRL)
    qtbot.keyClick(again, Qt.Key.Key_Z, CTRL)
    assert again.session.open_job == before
    qtbot.keyClick(again, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert again.session.open_job.cover.clearance.amount == 20.0


@pytest.mark.parametrize("text", ["12 5/", "", "-5", "0", "1e308", "abc", "9" * 250, "5 cm x 5 cm", "1,763"])
def test_wrong_lengths_are_refused_and_the_old_value_stays(sample_window: Window, qtbot: QtBot, text: str) -> None:
    open_job(sample_window, "Rain butt", "cover")
    job = sample_window.session.open_job
    field = sample_window.stations["cover"].decides()[refs.choice("cloth.usable_width")]
    sample_window.go_to(refs.choice("cloth.usable_width"))
    field.line.selectAll()
    if text:
        qtbot.keyClicks(field.line, text)
        qtbot.keyClick(field.line, Qt.Key.Key_Return)
        assert field.note.isVisible()
        assert field.line.property("wrong") is True
    else:
        field.line.clear()
    sample_window.stations["cover"].decides()[refs.SEAM_ALLOWANCE].setFocus()
    assert sample_window.session.open_job == job
    assert field.line.text() == field.shown != ""


def test_a_hem_deeper_than_the_wall_stops_and_says_so(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "panels")
    sample_window.session.set(refs.choice("hem.width"), 400.0, tr("hem"))
    sample_window.session.set(refs.reading("drop").at("repeats"), (300.0,), tr("drop"))
    station = sample_window.stations["panels"]
    assert station.board.isVisible()
    assert "deeper than the wall" in sample_window.tally.next.text.text()
    sample_window.session.undo()
    assert "deeper" not in sample_window.tally.next.text.text()


def test_units_flip_everywhere_and_the_lengths_stay(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "tape")
    sizes = {k: v.value for k, v in sample_window.session.draft.cover.sizes.items()}  # type: ignore[union-attr]
    seen = set()
    for _ in range(3):
        qtbot.keyClick(sample_window, Qt.Key.Key_U, CTRL)
        seen.add(sample_window.session.unit)
        assert {k: v.value for k, v in sample_window.session.draft.cover.sizes.items()} == sizes  # type: ignore[union-attr]
        assert sample_window.session.unit.label in sample_window.unit_button.text()
    assert seen == {Unit.MM, Unit.CM, Unit.INCH_16}


def test_the_working_line_shows_the_sum_of_what_is_pointed_at(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Honey extractor", "panels")
    station = sample_window.stations["panels"]
    number = next(n for n in station.sizes.numbers if str(n.words) == "wall, cut length")
    qtbot.mouseClick(number, Qt.MouseButton.LeftButton)
    text = sample_window.working.text.text()
    for words in ("Wall, cut length", "girth", "clearance", "cloth", "seam allowance", "over the crank"):
        assert words in text
    sample_window.session.go.emit(refs.CLEARANCE)
    assert sample_window.here == "cover"
    assert sample_window.stations["cover"].decides()[refs.CLEARANCE].isAncestorOf(QApplication.focusWidget())


def test_a_remedy_is_one_click(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Sorting turntable", "tape")
    sample_window.session.try_all()
    card = next(c for c in sample_window.tally.cards if c.finding.code == "readings-disagree")
    assert "in doubt" in sample_window.tally.goes_on.under.text()
    again = next(i for i, r in enumerate(card.finding.remedies) if "again" in str(r.words))
    qtbot.mouseClick(card.remedies[again].button, Qt.MouseButton.LeftButton)
    assert "readings-disagree" not in [f.code for f in sample_window.session.draft.findings]  # type: ignore[union-attr]
    assert sample_window.tally.goes_on.value.text() == "yes"
    assert sample_window.tally.goes_on.timer.isActive()  # what moved glows
    qtbot.keyClick(sample_window, Qt.Key.Key_U, CTRL)
    sample_window.tally.goes_on.timer.stop()
    qtbot.keyClick(sample_window, Qt.Key.Key_U, CTRL)
    assert not sample_window.tally.goes_on.timer.isActive()  # a flip of units moves nothing


def test_a_click_on_an_edge_lights_both_sides_of_its_seam(sample_window: Window) -> None:
    open_job(sample_window, "Honey extractor", "panels")
    station = sample_window.stations["panels"]
    station.board.clicked.emit(refs.panel("wall", "lid edge"))
    assert station.board.lit == {refs.panel("wall", "lid edge"), refs.panel("lid", "rim")}
    assert station.ledger.chosen == "wall to lid"
    assert [item for item in station.where.drawing.items if item.layer is Layer.LIT]  # a line along the object
    station.board.clicked.emit(refs.panel("lid"))
    assert station.where.shining == {refs.panel("lid")}
    station.board.clicked.emit(None)
    assert station.where.shining == frozenset()
    assert not [item for item in station.where.drawing.items if item.layer is Layer.LIT]


def test_pointing_finds_edges_on_the_board(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "panels")
    board = sample_window.stations["panels"].board
    for item in board.drawing.items:
        if getattr(item, "ref", None) == refs.panel("wall", "lower edge") and hasattr(item, "points"):
            x, y = item.points.mean(axis=0)
            assert board.ref_at(board.to_screen(float(x), float(y))).id == "wall"
            return
    pytest.fail("the lower edge is not drawn")


def test_a_second_window_looks_and_can_try_again(open_window: Opener, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    first, second = open_window(path, samples=True), open_window(path)
    assert second.banner.isVisible()
    open_job(second, "Rain butt", "cover")
    before = second.session.open_job
    second.session.set(refs.SEAM_ALLOWANCE, 20.0, tr("seam"))
    assert second.session.open_job == before
    first.close()
    second.banner.click()
    assert not second.banner.isVisible()
    second.session.set(refs.SEAM_ALLOWANCE, 20.0, tr("seam"))
    assert second.session.open_job.cover.seam_allowance == 20.0


def test_a_full_disk_keeps_the_change_in_memory(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    store = sample_window.session.store
    store.db.execute("PRAGMA query_only = ON")
    sample_window.session.set(refs.SEAM_ALLOWANCE, 20.0, tr("seam"))
    assert sample_window.session.unsaved
    assert sample_window.banner.isVisible()
    assert sample_window.session.open_job.cover.seam_allowance == 20.0
    store.db.execute("PRAGMA query_only = OFF")
    sample_window.banner.click()
    assert not sample_window.session.unsaved
    assert store.job(sample_window.session.key).cover.seam_allowance == 20.0  # type: ignore[arg-type]


def test_a_shop_that_cannot_be_written_says_so_and_keeps_changes_until_it_can(open_window: Opener, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    open_window(path, samples=True).close()
    stands_in_the_way = Path(f"{path}.lock")
    stands_in_the_way.unlink()
    stands_in_the_way.mkdir()  # as on a read-only disk, the lock cannot be made
    window = open_window(path)
    assert "cannot be written" in window.banner.text()
    open_job(window, "Rain butt", "cover")
    window.session.set(refs.SEAM_ALLOWANCE, 19.0, tr("seam"))
    window.session.set(refs.CLOSING_ALLOWANCE, 18.0, tr("closing"))
    assert window.session.open_job.cover.seam_allowance == 19.0
    assert len(window.session.unsaved) == 2
    stands_in_the_way.rmdir()
    window.banner.click()
    assert not window.session.unsaved
    kept = window.session.store.job(window.session.key).cover  # type: ignore[arg-type]
    assert (kept.seam_allowance, kept.closing_allowance) == (19.0, 18.0)
    window.session.undo()
    assert window.session.open_job.cover.closing_allowance == 12.7  # 1/2 in, as those who work in inches begin


def test_the_pattern_is_printed_by_keys_alone(sample_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    open_job(sample_window, "Rain butt", "panels")

    def in_the_dialog(dialog: PapersDialog) -> None:
        dialog.file = tmp_path / "by keys.pdf"
        dialog.choice.setFocus()
        qtbot.keyClick(dialog.choice, Qt.Key.Key_Down)
        qtbot.keyClick(dialog, Qt.Key.Key_Return)

    in_dialog(PapersDialog, in_the_dialog)
    qtbot.keyClick(sample_window, Qt.Key.Key_P, CTRL)
    assert (tmp_path / "by keys.pdf").read_bytes().startswith(b"%PDF")
    assert "Written" in sample_window.working.text.text()


def test_delete_can_be_taken_back_and_archived_jobs_are_found(sample_window: Window) -> None:
    shelf = sample_window.shelf
    count = len(shelf.cards)
    key = shelf.cards[0].id
    shelf.wants.emit(f"delete:{key}")
    assert len(shelf.cards) == count - 1
    sample_window.working.text.linkActivated.emit(f"deleted[{key}]")
    assert len(shelf.cards) == count
    shelf.search.setText("rain")
    assert [card.name for card in shelf.cards] == ["Rain butt"]


def test_job_files_come_in_and_what_is_none_is_said(sample_window: Window, tmp_path: Path) -> None:
    from tests.jobs import drum

    from omnipel.shop.document import write

    good, bad = tmp_path / "good.omnipel.json", tmp_path / "bad.omnipel.json"
    write(drum(), good)
    bad.write_text("{")
    count = len(sample_window.shelf.cards)
    bring_in(sample_window, [bad, good])
    assert len(sample_window.shelf.cards) == count + 1
    assert "bad.omnipel.json" in sample_window.working.text.text()


def test_a_size_is_set_by_hand_with_its_reason_and_dropped_again(sample_window: Window) -> None:
    from omnipel.bench.stations.panels.byhand import ByHandDialog

    open_job(sample_window, "Rain butt", "panels")
    session, station = sample_window.session, sample_window.stations["panels"]
    dialog = ByHandDialog(station, session, station.size_names())
    dialog.which.show_value("wall_sew_length")
    dialog.show_size()
    dialog.value.field.line.setText("80")
    dialog.value.field.line.setModified(True)
    dialog._accept()
    assert dialog.result() == 0  # no reason yet
    assert "why" in dialog.note.text()
    dialog.reason.setText("a remnant")
    dialog._accept()
    dialog.apply()
    assert session.open_job.cover.overrides[0].value == pytest.approx(80 * 25.4)
    assert "1 of 2" in sample_window.tally.seams.value.text()
    assert session.draft is not None
    session.try_all()
    finding = next(f for f in session.draft.findings if f.code == "seam-not-true")
    session.remedy(finding.remedies[0])
    assert session.open_job.cover.overrides == ()
    dialog.deleteLater()


def test_features_are_added_on_the_cover_station(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    cover = sample_window.stations["cover"]
    cover.adding.buttons["pocket"].click()
    assert [(f.kind, f.face) for f in sample_window.session.open_job.cover.features] == [("pocket", "front")]
    assert cover.chosen == refs.feature("1")  # it is chosen, and its card stands beside the picture
    assert cover.features.card.isVisible()


def test_another_scheme_is_one_click_and_keeps_cloth_and_readings(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Press motor", "cover")
    before = sample_window.session.open_job
    strip = sample_window.stations["cover"].strip
    assert len(strip.cards) == 8
    for card in strip.cards:
        card.click()
        job = sample_window.session.open_job
        assert job.cover.scheme == card.scheme.key
        assert (job.readings, job.cover.cloth) == (before.readings, before.cover.cloth)
        assert sample_window.session.draft.panels  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: all(card.lines and not card.why for card in strip.cards), timeout=20_000)


def test_what_sticks_out_is_dragged_to_its_place(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Press motor", "object")
    sketch = sample_window.stations["object"].sketch
    before = sample_window.session.open_job.thing.sticks_out[0]
    face = next(i for i in reversed(sketch.drawing.items) if getattr(i, "fill", "") == "sticks out" and i.rings)
    at = sketch.to_screen(*face.points.mean(axis=0)).toPoint()
    assert sketch.bump_at(at.toPointF()) == "1"
    yaw = sketch.view.yaw
    qtbot.mousePress(sketch, Qt.MouseButton.LeftButton, pos=at)
    for k in (5, 12, 20):
        qtbot.mouseMove(sketch, at + QPoint(0, k))
    qtbot.mouseRelease(sketch, Qt.MouseButton.LeftButton, pos=at + QPoint(0, 20))
    after = sample_window.session.open_job.thing.sticks_out[0]
    assert sketch.view.yaw == yaw
    assert after.from_top > before.from_top + 5.0
    assert after.from_centre == pytest.approx(before.from_centre, abs=2.0)
    sample_window.session.undo()
    assert sample_window.session.open_job.thing.sticks_out[0] == before


def test_a_proposal_is_taken_only_when_asked(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "object")
    station, before = sample_window.stations["object"], sample_window.session.open_job
    assert station.proposed[0]
    assert sample_window.session.open_job == before
    words = str(station.proposed[0][0].words)
    take = next(b for b in station.findChildren(QPushButton) if b.accessibleName() == f"Take it: {words}")
    qtbot.mouseClick(take, Qt.MouseButton.LeftButton)
    assert sample_window.session.open_job != before
    assert words not in [str(p.words) for p in station.proposed[0]]


def test_killed_and_opened_again_shows_the_last_state(open_window: Opener, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    window = open_window(path, samples=True)
    open_job(window, "Rain butt", "cover")
    window.session.set(refs.SEAM_ALLOWANCE, 17.0, tr("seam"))
    copy = tmp_path / "after-the-kill.sqlite"
    for extra in ("", "-wal"):  # what a killed process leaves on disk
        source = Path(f"{path}{extra}")
        if source.exists():
            Path(f"{copy}{extra}").write_bytes(source.read_bytes())
    with Store(copy) as store:
        assert any(store.job(card.id).cover.seam_allowance == 17.0 for card in store.cards())
    assert os.path.exists(path)


def test_the_sketch_turns_by_mouse_and_keys(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "tape")
    view = sample_window.stations["tape"].sketch
    before = view.view
    qtbot.keyClick(view, Qt.Key.Key_Left)
    assert view.view.yaw != before.yaw
    turned = view.view
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=QPoint(60, 60))
    qtbot.mouseMove(view, QPoint(90, 80))
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=QPoint(90, 80))
    assert view.view.pitch != turned.pitch
