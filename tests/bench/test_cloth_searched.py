"""What is looked for behind the Cloth station: shorter lays, advice, what goes onto a piece of the stash, several jobs together."""

import time
from dataclasses import replace

import pytest
from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QCheckBox, QLabel
from pytestqt.qtbot import QtBot
from tests.bench.atcloth import WAIT, at_cloth, laid
from tests.bench.conftest import in_dialog
from tests.core.cloth.test_lays import sound

from omnipel.bench.stations.cloth.daydialog import DayDialog
from omnipel.bench.stations.cloth.savings import AdviceCard
from omnipel.bench.window.window import Window
from omnipel.core.cloth.fitting import ground_of, onto
from omnipel.core.cloth.stock import same_cloth
from omnipel.core.job.findings import Change
from omnipel.core.job.laying import Spread
from omnipel.core.job.state import State
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.work.adviser import Adviser, Lost


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


def test_a_cutting_day_lays_several_jobs_together(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")

    def day(dialog: DayDialog) -> None:
        for box in dialog.jobs.values():
            if box.text() in ("Sorting turntable", "Seed cleaner"):
                box.click()
        assert dialog.day is not None
        assert len(dialog.day.shares) == 3
        assert dialog.lay is not None
        sound(dialog.lay)
        assert "less to buy than one by one" in dialog.told.text()
        dialog.accept()

    in_dialog(DayDialog, day)
    station.layers.wants.emit("day")  # type: ignore[attr-defined]


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
