"""Somebody at the keyboard."""

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QCheckBox, QComboBox, QLineEdit, QRadioButton, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog, settle

from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.parts.pick import PickDialog
from omnipel.bench.parts.picker import Picker
from omnipel.bench.parts.sections import SectionTiles
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.words import refs
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.units import Unit
from omnipel.shop.document import file_name

Keys = Qt.Key
CTRL = Qt.KeyboardModifier.ControlModifier


class Hands:
    """Somebody at the keyboard, who looks where the focus is."""

    def __init__(self, window: Window, qtbot: QtBot, folder: Path) -> None:
        self.window, self.qtbot, self.folder = window, qtbot, folder

    def press(self, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier, times: int = 1) -> None:
        for _ in range(times):
            self.qtbot.keyClick(QApplication.focusWidget() or self.window, key, modifier)
            QApplication.processEvents()

    def write(self, words: str) -> None:
        """Type and press Enter."""
        focused = QApplication.focusWidget()
        assert isinstance(focused, QLineEdit)
        self.qtbot.keyClicks(focused, words)
        self.press(Keys.Key_Return)

    def write_over(self, words: str) -> None:
        self.press(Keys.Key_A, CTRL)
        self.write(words)

    def first_start(self) -> None:
        """I measure in inches; measure something now."""
        asked = QApplication.focusWidget()
        assert isinstance(asked, QRadioButton)
        for _ in range(4):
            if QApplication.focusWidget().accessibleName() == "I measure in inches to 1/16":
                break
            self.press(Keys.Key_Left)
        self.press(Keys.Key_Tab)
        self.press(Keys.Key_Space)
        assert self.window.here == "object"
        assert self.window.session.unit is Unit.INCH_16

    def begin_box(self, name: str) -> None:
        """From the first start to the line of the tape card of a box."""
        self.first_start()
        self.qtbot.mouseClick(self.window.stations["object"].cards["box"], Qt.MouseButton.LeftButton)
        self.write(name)
        self.press(Keys.Key_2, CTRL)
        self.window.stations["tape"].readings.card.setFocus()

    def begin_drum(self, name: str, girth: str, drop: str) -> None:
        """From the first start to a drum that is measured."""
        self.first_start()
        self.press(Keys.Key_Space)  # it is picked
        self.write(name)
        self.press(Keys.Key_2, CTRL)
        self.write(girth)
        self.write(drop)

    def go(self, words: str) -> None:
        """Ctrl+K, a few letters, Enter."""

        def pick(dialog: PickDialog) -> None:
            self.qtbot.keyClicks(dialog.line, words)
            self.qtbot.keyClick(dialog.line, Keys.Key_Return)

        in_dialog(PickDialog, pick)
        self.press(Keys.Key_K, CTRL)
        settle(self.window)  # without a screen nobody gives the window back its place

    def print_it(self, paper: str, downs: int) -> bytes:
        """Ctrl+P, looked at and left; everything full size, the paper by the arrow keys, Enter."""
        file = self.folder / file_name(self.window.session.open_job.name, ".pdf")

        def in_the_dialog(dialog: PapersDialog) -> None:
            assert dialog.file.suffix == file.suffix
            dialog.file = file
            for _ in range(downs):
                self.qtbot.keyClick(QApplication.focusWidget(), Keys.Key_Down)
            assert dialog.paper() == paper
            self.qtbot.keyClick(dialog, Keys.Key_Return)

        in_dialog(PapersDialog, lambda dialog: self.qtbot.keyClick(dialog, Keys.Key_Escape))
        self.press(Keys.Key_P, CTRL)
        settle(self.window)
        in_dialog(PapersDialog, in_the_dialog)
        self.window.run_command("export-tiles")
        return file.read_bytes()

    def give(self, field: QWidget, value: object) -> None:
        """Type words into a field, pick from a list, tick."""
        if isinstance(field, SectionTiles):
            self.qtbot.mouseClick(next(t for t in field.tiles if t.value == value), Qt.MouseButton.LeftButton)
        elif isinstance(field, Picker):
            at = field.values.index(value)
            field.setCurrentIndex(at)
            field.activated.emit(at)
        elif isinstance(field, QCheckBox):
            if field.isChecked() is not value:
                field.click()
        else:
            field.setFocus()
            settle(self.window)
            if not isinstance(QApplication.focusWidget(), QLineEdit):
                field.findChildren(QLineEdit)[0].setFocus()
            self.write_over(str(value))
        settle(self.window)

    def sticks_out(self, name: str, face: str, does: str, **lengths: str) -> None:
        """Something that sticks out, put in the middle of the front and moved from there."""
        station = self.window.stations["object"]
        self.window.show_station("object")

        def shown(called: str) -> QWidget:
            return [w for w in station.findChildren(QWidget) if w.isVisible() and w.accessibleName() == called][-1]

        for _ in range(2):
            self.qtbot.mouseClick(station.add, Qt.MouseButton.LeftButton)
        settle(self.window)
        self.give(shown("what sticks out"), name)
        for called, value in (("which side it sticks out of", face), ("what the cover does", does)):
            picks = shown(called)
            assert isinstance(picks, QComboBox)
            picks.setFocus()
            for _ in range(picks.findText(value) - picks.currentIndex()):  # the list keeps the keys while all is made anew
                self.press(Keys.Key_Down)
                settle(self.window)
        for what, words in lengths.items():
            self.give(shown(f"{name} {what.replace('_', ' ')}"), words)

    def puts(self, kind: str, side: str, **parts: object) -> None:
        """A feature on a side of the cover."""
        cover = self.window.stations["cover"]
        cover.choose(refs.choice())
        settle(self.window)
        cover.adding.kind.show_value(kind)
        cover.adding.side.show_value(side)
        self.qtbot.mouseClick(cover.adding.add_it, Qt.MouseButton.LeftButton)
        settle(self.window)
        for part, value in parts.items():
            card = cover.features.card
            own = f"options.{part}"
            self.give(card.fields[own if own in card.fields else part], value)

    def decide(self, ref: Ref, value: object) -> None:
        """Go to the field that decides something about the cover, and give it a value."""
        cover = self.window.stations["cover"]
        cover.go_to(ref)
        settle(self.window)
        cards = {Of.SEAM: cover.seams, Of.EDGE: cover.edges, Of.FEATURE: cover.features}
        field = cards[ref.of].card.fields[ref.part] if ref.of in cards else cover.decides()[ref]
        self.give(field, value)

    @property
    def drafted(self) -> Drafted:
        """What is on the desk."""
        draft = self.window.session.draft
        assert isinstance(draft, Drafted), draft
        return draft
