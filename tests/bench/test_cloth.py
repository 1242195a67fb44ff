"""The Cloth station, driven by mouse and keys in the real window."""

import time
from dataclasses import replace
from itertools import pairwise

import pytest
import shapely
from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtWidgets import QApplication, QCheckBox, QLabel, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog, open_job
from tests.core.cloth.test_lays import sound

from omnipel.bench.parts.focusorder import walked
from omnipel.bench.stations.cloth.clothdialog import ClothDialog
from omnipel.bench.stations.cloth.cutdialog import CutDialog
from omnipel.bench.stations.cloth.daydialog import DayDialog
from omnipel.bench.stations.cloth.goods import GoodsDialog
from omnipel.bench.stations.cloth.savings import AdviceCard
from omnipel.bench.stations.cloth.stashdialog import StashDialog
from omnipel.bench.window.window import Window
from omnipel.core.cloth.fitting import ground_of, onto
from omnipel.core.cloth.lay import Lay
from omnipel.core.cloth.remnants import corners
from omnipel.core.cloth.stock import same_cloth
from omnipel.core.job.findings import Change
from omnipel.core.job.laying import Spread
from omnipel.core.job.state import State
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.work.adviser import Adviser, Lost

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


def work_ms() -> float:
    """How long a little work of the kind that a window does takes here and now, ms of this thread alone."""
    start = time.thread_time()
    known: dict[str, float] = {}
    for i in range(12_000):
        known[str(i % 97)] = known.get(str(i % 97), 0.0) + i
    return (time.thread_time() - start) * 1000.0


SHORT = 16.0
"""So many times that work the window may be busy at one stretch: about 50 ms where it takes 3."""


def test_a_search_improves_the_lay_while_the_window_stays_awake(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    cloth, before = sample_window.session.cloth, laid(sample_window, qtbot).length
    qtbot.waitUntil(lambda: cloth.works.idle and not sample_window.loading.isActive(), timeout=WAIT)
    busy: list[float] = []
    last = [time.thread_time()]

    def tick() -> None:  # how long this thread was busy since: it waits for others where it was not
        now = time.thread_time()
        busy.append((now - last[0]) * 1000.0)
        last[0] = now

    timer = QTimer(sample_window, interval=5)
    timer.timeout.connect(tick)
    timer.start()
    qtbot.mouseClick(station.search, Qt.MouseButton.LeftButton)  # type: ignore[attr-defined]
    qtbot.waitUntil(
        lambda: cloth.search is None or (cloth.found is not None and cloth.found.length < before - 10.0), timeout=WAIT
    )
    if cloth.search is not None:
        assert "Stop" in station.search.text()  # type: ignore[attr-defined]
        search = cloth.search
        qtbot.mouseClick(station.search, Qt.MouseButton.LeftButton)  # type: ignore[attr-defined]
        assert cloth.search is None  # at once: nothing waits for the processes
        assert search.stopped.is_set()
        qtbot.waitUntil(lambda: not search.children, timeout=WAIT)
    lay = laid(sample_window, qtbot)
    qtbot.wait(100)
    timer.stop()
    sound(lay)
    assert lay.length < before - 10.0
    assert lay.kept
    assert len(busy) > 20
    assert max(busy) < SHORT * max(work_ms() for _ in range(5))


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


def test_what_a_search_found_is_not_taken_for_the_next_job(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    cloth = sample_window.session.cloth
    cloth.begin(laid(sample_window, qtbot), 0.0)
    qtbot.waitUntil(lambda: cloth.search is None and cloth.found is not None, timeout=WAIT)
    at_cloth(sample_window, qtbot, "Butter churn")
    lay = laid(sample_window, qtbot)
    assert cloth.found is None
    cloth.begin(lay, 60.0)
    assert cloth.best() is lay  # nothing has been found yet
    cloth.stop(keep=False)
    assert station.view.lay.sheet is lay.sheet  # type: ignore[attr-defined]


def test_a_search_for_advice_that_breaks_down_says_so(
    sample_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[object] = []

    def lost(self: Adviser, job: object) -> None:
        asked.append(job)
        raise Lost("gone")

    monkeypatch.setattr(Adviser, "next", lost)
    station = at_cloth(sample_window, qtbot, "Press motor")
    words = lambda: [label.text() for label in station.savings.findChildren(QLabel)]  # type: ignore[attr-defined]  # noqa: E731
    qtbot.waitUntil(lambda: any("broke down (gone)" in text for text in words()), timeout=WAIT)
    assert len(asked) == 2  # once more than once


def test_what_goes_onto_a_piece_of_the_stash_is_tried_behind_the_window(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Fermenting crock")
    cloth, lay = sample_window.session.cloth, laid(sample_window, qtbot)
    mine = {key: piece for key, piece in cloth.stock.pieces.items() if same_cloth(piece.cloth, lay.sheet.cloth)}
    assert mine
    said = lambda: [box.accessibleDescription() for box in station.layers.findChildren(QCheckBox) if box.accessibleDescription()]  # type: ignore[attr-defined]  # noqa: E731
    qtbot.waitUntil(lambda: bool(said()) and not any("being tried" in text for text in said()), timeout=WAIT)
    for key, piece in mine.items():
        takes = len(onto(lay.sheet, ground_of(replace(piece.piece, id=key))).lying)
        assert cloth.takes(lay, replace(piece.piece, id=key)) == takes
        if 0 < takes < len(lay.sheet.cuts):
            assert any(f"takes {takes} of {len(lay.sheet.cuts)}" in text for text in said())


def test_pieces_stay_while_a_search_runs_and_a_cancelled_one_changes_nothing(sample_window: Window, qtbot: QtBot) -> None:
    view = at_cloth(sample_window, qtbot, "Honey extractor").view  # type: ignore[attr-defined]
    cloth, job = sample_window.session.cloth, sample_window.session.open_job
    lay = laid(sample_window, qtbot)
    cloth.begin(lay, 60.0)
    qtbot.waitUntil(lambda: view.fixed, timeout=WAIT)
    view.choose(lay.placed[0].piece)
    assert view.begin(lay.placed[0].piece) is None
    search = cloth.search
    assert search is not None
    cloth.stop(keep=False)
    qtbot.waitUntil(lambda: not search.children, timeout=WAIT)
    assert sample_window.session.open_job == job


def test_lay_the_rest_and_push_together(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Press motor")
    view, lay = station.view, laid(sample_window, qtbot)  # type: ignore[attr-defined]
    far = replace(lay, placed=tuple(replace(p, x=p.x + 400.0) for p in lay.placed))
    sample_window.session.cloth.commit(far, tr("moved"))
    assert laid(sample_window, qtbot).length > lay.length + 300.0
    station.push.click()  # type: ignore[attr-defined]
    qtbot.waitUntil(lambda: laid(sample_window, qtbot).length < lay.length + 1.0, timeout=WAIT)
    sound(laid(sample_window, qtbot))
    locked = replace(far, placed=tuple(replace(p, locked=p.piece == "saddle") for p in far.placed))
    sample_window.session.cloth.commit(locked, tr("moved"))
    laid(sample_window, qtbot)
    station.rest.click()  # type: ignore[attr-defined]
    after = laid(sample_window, qtbot)
    assert next(p for p in after.placed if p.piece == "saddle").x == pytest.approx(
        next(p for p in far.placed if p.piece == "saddle").x
    )
    assert next(p for p in after.placed if p.piece == "left end").x < 400.0
    assert view.lay is not None


def test_an_advice_is_one_click_and_one_undo(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Press motor")
    cloth = sample_window.session.cloth
    qtbot.waitUntil(lambda: cloth.advising is not None and cloth.advising.done, timeout=WAIT)
    cards = [station.savings.list.itemAt(i).widget() for i in range(station.savings.list.count())]  # type: ignore[attr-defined]
    cards = [card for card in cards if isinstance(card, AdviceCard)]
    assert cards
    before, job = laid(sample_window, qtbot).bought.value, sample_window.session.open_job
    less = cards[0].advice.less
    cards[0].do.button.click()
    assert laid(sample_window, qtbot).bought.value == pytest.approx(before - less)
    sample_window.run_command("undo")
    assert sample_window.session.open_job == job


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


def test_a_price_is_typed_where_it_is_missing_and_counts(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Bench cushion")
    now = sample_window.session.cloth.current
    assert now is not None
    line = next(line for line in now.taken.unknown)

    def price(dialog: GoodsDialog) -> None:
        dialog.price.line.setText("0.75")
        dialog.price.line.setModified(True)
        dialog.price.line.editingFinished.emit()
        dialog.accept()

    in_dialog(GoodsDialog, price)
    station.buying._cost(line).click()  # type: ignore[attr-defined]
    assert sample_window.session.cloth.stock.price(line.key) == 0.75

    def counted() -> bool:
        after = sample_window.session.cloth.current
        return after is not None and line.key not in [one.key for one in after.taken.unknown]

    qtbot.waitUntil(counted, timeout=WAIT)
    sample_window.session.cloth.undo_booking()
    assert sample_window.session.cloth.stock.price(line.key) is None


def test_a_cloth_is_taken_from_the_list_and_allowances_follow(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Press motor")

    def take(dialog: ClothDialog) -> None:
        rows = [dialog.list.item(i).text() for i in range(dialog.list.count())]
        assert len(rows) == 14
        dialog.list.setCurrentRow(rows.index("cotton duck"))
        dialog._set("usable_width", 1234.0)
        dialog._use()

    in_dialog(ClothDialog, take)
    station.layers.wants.emit("cloth")  # type: ignore[attr-defined]
    cloth = sample_window.session.open_job.cover.cloth
    assert (cloth.name, cloth.usable_width, cloth.shrink_warp) == ("cotton duck", 1234.0, 0.05)
    assert sample_window.session.cloth.stock.cloths["duck"].usable_width == 1234.0
    sound(laid(sample_window, qtbot))


def test_the_stash_is_added_to_used_and_booked_after_cutting(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    cloth = sample_window.session.cloth
    begun = dict(cloth.stock.pieces)

    def add(dialog: StashDialog) -> None:
        dialog._add()
        dialog._size("length", 900.0)
        dialog._size("width", 900.0)
        dialog.accept()

    in_dialog(StashDialog, add)
    station.layers.wants.emit("stash")  # type: ignore[attr-defined]
    (key,) = set(cloth.stock.pieces) - set(begun)
    laid(sample_window, qtbot)
    station.layers._use(key, True)  # type: ignore[attr-defined]
    lay = laid(sample_window, qtbot)
    sound(lay)
    assert key in {p.on for p in lay.placed}

    def book(dialog: CutDialog) -> None:
        assert dialog.gone
        dialog.where.setText("on the loft")
        dialog.accept()

    in_dialog(CutDialog, book)
    station.layers.wants.emit("cut")  # type: ignore[attr-defined]
    assert key not in cloth.stock.pieces
    assert any(piece.where == "on the loft" for piece in cloth.stock.pieces.values())
    cloth.undo_booking()
    assert key in cloth.stock.pieces
    cloth.undo_booking()
    cloth.undo_booking()
    cloth.undo_booking()
    assert dict(cloth.stock.pieces) == begun


def test_a_piece_of_an_outline_is_drawn_with_the_mouse_and_nothing_is_laid_outside_of_it(
    sample_window: Window, qtbot: QtBot
) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    cloth = sample_window.session.cloth
    begun = dict(cloth.stock.pieces)

    def draw(dialog: StashDialog) -> None:
        dialog._add()
        for part, length in (("length", 1000.0), ("width", 900.0)):
            dialog._size(part, length)
        view = dialog.view
        at = view._seen((500.0, 900.0)).toPoint()
        qtbot.mouseDClick(view, Qt.MouseButton.LeftButton, pos=at)  # one more corner on the upper edge
        assert len(corners(dialog.piece)) == 5
        begin, end = view._seen((1000.0, 900.0)).toPoint(), view._seen((1000.0, 300.0)).toPoint()
        qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=begin)
        qtbot.mouseMove(view, end)
        qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
        assert not dialog.long.isEnabled()
        assert dialog.parts.currentItem().text().startswith("corner 3: 1\u202f000 mm from the left end, 300")
        dialog._part_size(0, 0.0)  # it would meet itself
        assert "cross itself" in dialog.told.text()
        dialog._part_size(1, 250.0)
        assert not dialog.told.isVisible()
        dialog._add_flaw()
        dialog._part_size(0, 20.0)
        dialog._drop()
        assert not dialog.piece.flaws
        dialog.accept()

    in_dialog(StashDialog, draw)
    station.layers.wants.emit("stash")  # type: ignore[attr-defined]
    (key,) = set(cloth.stock.pieces) - set(begun)
    outline = cloth.stock.pieces[key].piece.outline
    assert outline[2] == (1000.0, 250.0)
    assert len(outline) == 5
    laid(sample_window, qtbot)
    station.layers._use(key, True)  # type: ignore[attr-defined]
    lay = laid(sample_window, qtbot)
    sound(lay)
    on = [shapely.Polygon(lay.outline(p)) for p in lay.placed if p.on == key]
    assert on
    assert all(piece.difference(shapely.Polygon(outline)).area < 1.0 for piece in on)


def test_a_cutting_day_lays_several_jobs_together(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")

    def day(dialog: DayDialog) -> None:
        for i in range(dialog.jobs.count()):
            if dialog.jobs.item(i).text() in ("Sorting turntable", "Seed cleaner"):
                dialog.jobs.item(i).setCheckState(Qt.CheckState.Checked)
        assert dialog.day is not None
        assert len(dialog.day.shares) == 3
        assert dialog.lay is not None
        sound(dialog.lay)
        assert "less to buy than one by one" in dialog.told.text()
        dialog.accept()

    in_dialog(DayDialog, day)
    station.layers.wants.emit("day")  # type: ignore[attr-defined]


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


def test_what_does_not_fit_on_folded_cloth_is_said_everywhere_and_is_the_next_thing_to_do(
    sample_window: Window, qtbot: QtBot
) -> None:
    at_cloth(sample_window, qtbot, "Seed cleaner")
    session, rail = sample_window.session, sample_window.rail
    before = rail.buttons["cloth"].state
    session.change(tr("folded"), Change(refs.lay("outer", "spread"), Spread.FOLDED))
    lay = laid(sample_window, qtbot)
    assert lay.left
    qtbot.waitUntil(lambda: rail.buttons["cloth"].state is State.STOP, timeout=WAIT)
    assert sample_window.tally.next.text.text() == "Look at: what does not fit on the cloth"
    sample_window.show_station("tape")
    sample_window.tally._take_step()
    assert sample_window.here == "cloth"
    session.undo()
    laid(sample_window, qtbot)
    qtbot.waitUntil(lambda: rail.buttons["cloth"].state is before, timeout=WAIT)
