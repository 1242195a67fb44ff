"""Nothing that was done in the window is lost: full disk, damaged documents, closing, deleting, the tape after a restart."""

import contextlib
import os
import socket
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication, QDialog
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog, open_job, settle

from omnipel.bench.commands import jobs
from omnipel.bench.parts.asking import QuestionDialog
from omnipel.bench.stations.tape.wireless import Taken, WirelessTape
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.exchange.devices.tape_device import LONGEST_LINE
from omnipel.shop.document import SUFFIX, read
from omnipel.shop.sample import SAMPLES
from omnipel.shop.store import Store

Opener = Callable[..., Window]


def full(window: Window, yes: bool) -> None:
    """The disk takes nothing more, or again."""
    window.session.store.db.execute(f"PRAGMA query_only = {'ON' if yes else 'OFF'}")


def answer(which: int, seen: list[str]) -> None:
    """Press a button of the question that will be asked."""

    def press(dialog: QuestionDialog) -> None:
        seen.append(dialog.buttons[which].text())
        dialog.buttons[which].click()

    in_dialog(QuestionDialog, press)


def test_unsaved_changes_stay_in_sight_and_come_first_when_there_is_room(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    session, rain = sample_window.session, sample_window.session.key
    full(sample_window, True)
    session.set(refs.SEAM_ALLOWANCE, 20.0, tr("seam"))
    open_job(sample_window, "Feed bin", "cover")
    session.set(refs.SEAM_ALLOWANCE, 21.0, tr("seam"))
    open_job(sample_window, "Rain butt", "cover")
    assert session.open_job.cover.seam_allowance == 20.0  # not what is on disk
    session.set(refs.CLOSING_ALLOWANCE, 30.0, tr("closing"))
    session.set(refs.CLOSING_ALLOWANCE, 31.0, tr("closing"))
    session.undo()
    assert (session.open_job.cover.seam_allowance, session.open_job.cover.closing_allowance) == (20.0, 30.0)
    session.redo()
    assert session.open_job.cover.closing_allowance == 31.0
    session.undo()
    session.undo()
    assert session.open_job.cover.seam_allowance == 20.0
    session.set(refs.CLOSING_ALLOWANCE, 32.0, tr("closing"))
    assert len(session.unsaved) == 3
    full(sample_window, False)
    session.set(refs.SEAM_ALLOWANCE, 22.0, tr("seam"))
    assert session.unsaved == []
    kept = session.store.job(rain).cover  # type: ignore[arg-type]
    assert (kept.seam_allowance, kept.closing_allowance) == (22.0, 32.0)
    other = next(card.id for card in session.store.cards() if card.name == "Feed bin")
    assert session.store.job(other).cover.seam_allowance == 21.0


@pytest.mark.parametrize("which", [0, 1, 2])
def test_closing_asks_about_what_is_on_no_disk(
    sample_window: Window, which: int, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    open_job(sample_window, "Rain butt", "cover")
    full(sample_window, True)
    sample_window.session.set(refs.SEAM_ALLOWANCE, 20.0, tr("seam"))
    monkeypatch.setattr("omnipel.bench.commands.jobs.QFileDialog.getExistingDirectory", lambda *_a: str(tmp_path))
    seen: list[str] = []
    answer(which, seen)
    closed = sample_window.close()
    assert closed is (which != 0)
    assert len(seen) == 1
    written = list(tmp_path.glob(f"*{SUFFIX}"))
    assert len(written) == (which == 1)
    if which == 1:
        assert read(written[0]).cover.seam_allowance == 20.0
    if which == 0:
        full(sample_window, False)
        assert sample_window.close()


def test_two_jobs_deleted_in_a_row_both_come_back(sample_window: Window, qtbot: QtBot) -> None:
    shelf, session = sample_window.shelf, sample_window.session
    first, second = shelf.cards[0], shelf.cards[1]
    for card in (first, second):
        shelf.wants.emit(f"delete:{card.id}")
    assert len(shelf.cards) == len(SAMPLES) - 2
    sample_window.working.text.linkActivated.emit(f"deleted[{second.id}]")
    gone = session.store.cards(deleted=True)
    assert [card.id for card in gone] == [first.id]
    jobs.bring_back(sample_window, gone[0].id)
    assert {card.id for card in shelf.cards} >= {first.id, second.id}


def test_words_of_a_person_are_never_read_as_markup(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "object")
    session = sample_window.session
    session.set(refs.of_job("name"), "<h1>Big</h1> & <a href='x'>small</a>", tr("named"))
    key = session.key
    sample_window.show_station("shelf")
    sample_window.shelf.wants.emit(f"delete:{key}")
    shown = sample_window.working.text.text()
    assert "<h1>" not in shown
    assert "&lt;h1&gt;Big&lt;/h1&gt; &amp;" in shown
    sample_window.working.refresh()
    assert "<h1>" not in sample_window.working.text.text()


def test_a_damaged_job_is_a_card_that_says_so_and_can_go_back(open_window: Opener, qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    window = open_window(path, samples=True)
    key = next(card.id for card in window.session.store.cards() if card.name == "Rain butt")
    window.session.open(key)
    window.session.set(refs.SEAM_ALLOWANCE, 20.0, tr("seam"))
    window.close()
    with Store(path) as store:
        store.db.execute(
            "UPDATE revisions SET document = replace(document, 'seam_allowance', 'seam_alowance') WHERE job = ? AND number = ?",
            (key, store.history(key)[1]),
        )
    window = open_window(path)
    shelf = window.shelf
    assert len(shelf.cards) == len(SAMPLES)
    card = next(card for card in shelf.cards if card.id == key)
    window.grab()
    qtbot.waitUntil(lambda: (card.id, card.revision) in shelf.model.kept, timeout=30_000)
    kept = shelf.model.kept[(card.id, card.revision)]
    assert kept.state == "stop"
    assert "seam_alowance" in kept.step
    shelf.view.opened.emit(key)
    assert window.here == "shelf"
    assert "cannot be read" in window.working.text.text()
    window.working.text.linkActivated.emit(f"readable[{key}]")
    assert window.here == "object"
    assert window.session.open_job.cover.seam_allowance != 20.0


def test_dialogs_are_freed(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "panels")

    def once(command: str) -> None:
        in_dialog(QDialog, QDialog.close)
        sample_window.run_command(command)
        settle(sample_window)
        qtbot.wait(1)

    dialogs = ("go-to", "history", "habits", "rename", "about", "export-pdf")
    for command in dialogs:
        once(command)
    before = len(sample_window.findChildren(QDialog))
    for command in dialogs * 3:
        once(command)
    assert len(sample_window.findChildren(QDialog)) == before == 0


def test_a_number_is_taken_once_also_after_a_restart(
    open_window: Opener, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    path = tmp_path / "shop.sqlite"
    for round_ in range(3):
        window = open_window(path, samples=round_ == 0)
        open_job(window, "Feed bin", "tape")
        listening = window.stations["tape"].listening
        listening.box.click()
        assert listening.tape is not None
        before = window.session.open_job
        assert listening.tape.answer(f"READ tape 7 {500 + round_} mm").startswith("OK")
        assert (window.session.open_job == before) is (round_ > 0)
        listening.box.click()
        listening.box.click()  # off and on again
        assert listening.tape.answer("READ tape 7 900 mm").startswith("OK")
        assert listening.tape.answer("READ tape 8 no length").startswith("NO")
        assert (window.session.open_job == before) is (round_ > 0)
        window.close()


def test_an_endless_line_ends_the_connection_and_nobody_elses_socket_is_touched(qtbot: QtBot, tmp_path: Path) -> None:
    path, said = tmp_path / "tape", []
    tape = WirelessTape(path, lambda _text, _taken: "", Taken(), said.append)
    path.write_text("a file")
    assert "not ours" in str(tape.start())
    assert path.read_text() == "a file"
    path.unlink()
    left = socket.socket(socket.AF_UNIX)
    left.bind(str(path))  # a bench that was killed
    left.close()
    assert tape.start() is None
    rival = WirelessTape(path, lambda _text, _taken: "", Taken())
    assert "another window" in str(rival.start())
    with socket.socket(socket.AF_UNIX) as device:
        device.connect(str(path))
        device.setblocking(False)
        sent = 0
        for _ in range(200):
            with contextlib.suppress(BlockingIOError, BrokenPipeError, ConnectionResetError):
                sent += device.send(b"x" * 1000)
            QApplication.processEvents()
            if said:
                break
        assert said
        assert sent < 400 * LONGEST_LINE
    tape.stop()
    assert not os.path.exists(path)
