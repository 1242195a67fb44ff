"""Cutting from the window: the dialog sends while one works on, shows what the cutter waits for, and goes on after the link broke."""

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog, open_job

from omnipel.bench.commands.cutting import CuttingDialog, cut_with_machine
from omnipel.bench.parts.asking import QuestionDialog
from omnipel.bench.window.window import Window
from omnipel.cutter.window import CutterWindow, started
from omnipel.exchange.devices.cutter.mechanics import Cutter, State
from omnipel.exchange.devices.cutter.speaking import socket_path
from omnipel.shop.machine import SETTING, machine_of

FAST = 400


@pytest.fixture
def machine(qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Callable[..., CutterWindow]]:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    made: list[CutterWindow] = []

    def make(cutter: Cutter | None = None, speed: int = FAST) -> CutterWindow:
        window = started(cutter or Cutter(), socket_path(), speed=speed)
        window.show()
        made.append(window)
        return window

    yield make
    for window in made:
        window.close()
        window.deleteLater()


def dialog_of(window: Window, name: str = "Rain butt") -> CuttingDialog:
    open_job(window, name, "cloth")
    made: list[CuttingDialog] = []
    cut_with_machine(window, made.append)
    return made[0]


def press(dialog: CuttingDialog | CutterWindow, words: str) -> None:
    next(b for b in dialog.findChildren(QPushButton) if b.text() == words and b.isVisible()).click()


def answer(words: str) -> None:
    in_dialog(QuestionDialog, lambda asked: next(b for b in asked.buttons if b.text() == words).click())


def test_a_lay_is_cut_and_only_again_when_one_says_so(
    sample_window: Window, machine: Callable[..., CutterWindow], qtbot: QtBot
) -> None:
    cutter = machine()
    dialog = dialog_of(sample_window)
    assert dialog.what.value == "lay:outer"
    assert "yd to cut" in dialog.effort.text()
    press(dialog, "Cut")
    qtbot.waitUntil(lambda: cutter.cutter.done > 5, timeout=20_000)
    assert dialog.isVisible()
    assert not dialog.isModal()
    sample_window.session.undo()  # one works on beside it
    press(cutter, "Break the link")
    qtbot.waitUntil(lambda: dialog.state.text() == "Done: everything is cut.", timeout=30_000)
    assert dialog.bar.value() == dialog.bar.maximum() == cutter.cutter.last
    assert cutter.state.text() == "Done"
    drawn = len(cutter.cutter.drawn)
    answer("Leave it")
    press(dialog, "Cut")
    qtbot.waitUntil(lambda: dialog.sending is None, timeout=20_000)
    assert len(cutter.cutter.drawn) == drawn
    answer("Cut it once more")
    press(dialog, "Cut")
    qtbot.waitUntil(lambda: dialog.state.text() == "Done: everything is cut.", timeout=30_000)
    assert dialog.run == 2
    dialog.close()


def test_what_the_cutter_waits_for_is_said_on_both_sides(
    sample_window: Window, machine: Callable[..., CutterWindow], qtbot: QtBot
) -> None:
    cutter = machine(Cutter(1830.0, 500.0, {1}))
    dialog = dialog_of(sample_window)
    press(dialog, "Cut")
    qtbot.waitUntil(lambda: "the pen in place 2" in dialog.state.text(), timeout=20_000)
    assert cutter.state.text() == "The wrong tool"
    assert "pen in place 2" in cutter.waits.text()
    press(cutter, "It is in")
    qtbot.waitUntil(lambda: "out of cloth" in dialog.state.text(), timeout=20_000)
    assert cutter.state.text() == "Out of cloth"
    press(cutter, "Put more cloth on")
    qtbot.waitUntil(lambda: cutter.cutter.state in (State.RUNNING, State.CLOTH, State.FINISHED), timeout=20_000)
    cutter.speed = 20
    press(dialog, "Pause")
    qtbot.waitUntil(lambda: cutter.state.text() == "Paused", timeout=20_000)
    qtbot.waitUntil(lambda: dialog.pause.text() == "Go on", timeout=20_000)
    answer("Stop")
    press(dialog, "Stop")
    qtbot.waitUntil(lambda: dialog.sending is None, timeout=20_000)
    assert "stopped after" in dialog.state.text()
    dialog.close()


def test_without_a_cutter_and_on_narrow_cloth_it_is_said(
    sample_window: Window, machine: Callable[..., CutterWindow], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    monkeypatch.setattr("omnipel.bench.commands.cutting.TRIES", 1)
    dialog = dialog_of(sample_window)
    press(dialog, "Cut")
    qtbot.waitUntil(lambda: "No cutter answers" in dialog.state.text(), timeout=20_000)
    machine(Cutter(300.0, 4000.0))
    press(dialog, "Cut")
    qtbot.waitUntil(lambda: "in wide; this takes" in dialog.state.text(), timeout=20_000)
    dialog.close()


def test_what_the_machine_is_told_holds_for_the_shop_and_a_device_gets_it(
    sample_window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    dialog = dialog_of(sample_window)
    dialog.offset.line.setText("0.25 mm")
    dialog.offset.line.setModified(True)
    qtbot.keyClick(dialog.offset.line, "\r")
    dialog.marks.click()
    dialog._sent_to("device")
    dialog.device.setText(str(tmp_path / "out.plt"))
    dialog.device.editingFinished.emit()
    kept = machine_of(sample_window.session.store.setting(SETTING, ""))
    assert (kept.knife_offset, kept.marks, kept.where) == (0.25, False, str(tmp_path / "out.plt"))
    press(dialog, "Cut")
    assert (tmp_path / "out.plt").read_bytes().startswith(b"IN;")
    assert "Handed over" in dialog.state.text()
    dialog.device.setText(str(tmp_path / "none" / "out.plt"))
    dialog.device.editingFinished.emit()
    press(dialog, "Cut")
    assert "no folder" in dialog.state.text()
    dialog.close()


@pytest.mark.parametrize("name", ["Bottling trolley", "Butter churn"])
def test_nothing_is_cut_that_must_not_be(sample_window: Window, name: str) -> None:
    dialog = dialog_of(sample_window, name)
    assert not dialog.cut.isEnabled()
    assert "do not cut" in dialog.state.text()
    dialog.close()
