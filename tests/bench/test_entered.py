"""Enter presses the button that has the focus, in the window and in dialogs; an ampersand in a name underlines nothing."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QApplication, QCheckBox, QRadioButton
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job, settle

from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.parts.entered import Entered, Push
from omnipel.bench.parts.widgets import button
from omnipel.bench.stations import STATIONS
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, tr
from omnipel.exchange.exports import EXPORTS

Key = Qt.Key


@pytest.mark.parametrize("job", ["Honey extractor", "Press motor"])
def test_enter_presses_every_button_of_every_station(sample_window: Window, job: str) -> None:
    """All but boxes to tick and marks of which one is picked, which Space and the arrows change everywhere."""
    other = []
    for station in ("shelf", *STATIONS):
        open_job(sample_window, job, station)
        for made in sample_window.findChildren(QAbstractButton):
            takes = made.isVisible() and made.focusPolicy().value & Qt.FocusPolicy.TabFocus.value
            if takes and not isinstance(made, Entered | QCheckBox | QRadioButton):
                other.append((station, type(made).__name__, made.accessibleName()))
    assert not other


def test_enter_does_what_the_button_does_and_space_too(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "object")
    rail = sample_window.rail.buttons
    for station, key in (("panels", Key.Key_Return), ("cover", Key.Key_Enter), ("tape", Key.Key_Space)):
        rail[station].setFocus()
        qtbot.keyClick(rail[station], key)
        settle(sample_window)
        assert sample_window.here == station
    card = next(c for c in sample_window.station("object").findChildren(Entered) if c.accessibleName().startswith("Box"))
    sample_window.show_station("object")
    card.setFocus()
    qtbot.keyClick(card, Key.Key_Return)
    assert sample_window.session.open_job.thing.form == "box"


def test_held_down_enter_presses_once(qtbot: QtBot) -> None:
    pressed: list[int] = []
    made = button(tr("Cut"), lambda: pressed.append(1))
    qtbot.addWidget(made)
    made.show()
    plain = Qt.KeyboardModifier.NoModifier
    for again in (False, True, True):
        QApplication.sendEvent(made, QKeyEvent(QKeyEvent.Type.KeyPress, Key.Key_Return, plain, "\r", again))
    assert pressed == [1]


def test_in_a_dialog_enter_on_cancel_cancels(
    sample_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """And does not press the main button, which writes."""
    monkeypatch.chdir(tmp_path)
    monkeypatch.setenv("HOME", str(tmp_path))
    open_job(sample_window, "Rain butt", "panels")
    dialog = PapersDialog(sample_window, sample_window.session, EXPORTS["sheet"])
    dialog.show()
    qtbot.waitUntil(lambda: dialog.content is not None, timeout=30_000)
    cancel = next(made for made in dialog.findChildren(Push) if made.text() == "Cancel")
    cancel.setFocus()
    qtbot.keyClick(cancel, Key.Key_Return)
    assert not dialog.isVisible()
    assert dialog.result() == PapersDialog.DialogCode.Rejected
    assert not list(tmp_path.glob("**/*.pdf"))


def test_a_name_with_an_ampersand_is_said_as_it_is(sample_window: Window, qtbot: QtBot) -> None:
    made = button(tr("Measure: {place}", place=Name("tap & knob && lever")), lambda: None)
    qtbot.addWidget(made)
    assert made.text() == "Measure: tap & knob && lever"
    assert QAbstractButton.text(made) == "Measure: tap && knob &&&& lever"  # as the toolkit wants it
    assert made.shortcut().isEmpty()
    open_job(sample_window, "Rain butt", "object")
    sample_window.session.set(refs.of_job("name"), "Tub & lid", tr("named"))
    dialog = PapersDialog(sample_window, sample_window.session, EXPORTS["book"])
    assert any("Tub & lid" in one.text() and one.shortcut().isEmpty() for one in dialog.findChildren(Push))
    dialog.reject()
