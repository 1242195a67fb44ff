"""A list to pick from by typing a part of a name."""

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QListWidget, QListWidgetItem, QWidget

from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import column, label, line
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Phrase, tr


class PickDialog(QDialog):
    """A line to type into and a list that narrows; Enter takes the chosen entry.

    Args:
        entries: pairs of words and what they stand for.
    """

    def __init__(self, parent: QWidget, title: Phrase, entries: list[tuple[str, object]], *, current: int = 0) -> None:
        super().__init__(parent)
        self.setWindowTitle(say(title))
        self.entries = entries
        self.picked: object = None
        self.line = line(title, tr("type a part of its name"))
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Matches")))
        self.line.textChanged.connect(self._narrow)
        self.list.itemActivated.connect(lambda _item: self._take())
        self.line.installEventFilter(self)
        self.setLayout(
            column(
                label(title, "head"),
                self.line,
                self.list,
                label(tr("↑ ↓ choose · Enter goes there · Esc stays"), "soft"),
                margins=16,
            )
        )
        self.resize(LOOK.px(560), LOOK.px(460))
        self._narrow("")
        self.list.setCurrentRow(min(current, self.list.count() - 1))

    def _narrow(self, text: str) -> None:
        words = text.casefold().split()
        self.list.clear()
        for shown, value in self.entries:
            if all(word in shown.casefold() for word in words):
                item = QListWidgetItem(shown)
                item.setData(Qt.ItemDataRole.UserRole, value)
                self.list.addItem(item)
        self.list.setCurrentRow(0)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_PageDown: 10, Qt.Key.Key_PageUp: -10}.get(
                Qt.Key(event.key()), 0
            )
            if step:
                self.list.setCurrentRow(min(max(self.list.currentRow() + step, 0), self.list.count() - 1))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take()
                return True
        return super().eventFilter(watched, event)

    def _take(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self.picked = item.data(Qt.ItemDataRole.UserRole)
            self.accept()


def picked_from(parent: QWidget, title: Phrase, entries: list[tuple[str, object]], *, current: int = 0) -> object:
    """What a person picked from a list, None for nothing."""
    dialog = PickDialog(parent, title, entries, current=current)
    with chosen(dialog) as yes:
        return dialog.picked if yes else None
