"""Buttons that Enter presses."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QPushButton


class Entered:
    """Mixed into a button: Enter presses it, as Space does, wherever it stands. Else a dialog would press its main button instead, and a window none."""

    def keyPressEvent(self, event: QKeyEvent) -> None:
        assert isinstance(self, QAbstractButton)
        if event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)  # type: ignore[misc]
        elif not event.isAutoRepeat():
            self.click()


class Push(Entered, QPushButton):
    """A button that is a word. What looks like a mark for a key in it belongs to a name, and underlines nothing."""

    def __init__(self, words: str) -> None:
        super().__init__()
        self.setText(words)

    def setText(self, text: str) -> None:
        super().setText(text.replace("&", "&&"))

    def text(self) -> str:
        return super().text().replace("&&", "&")
