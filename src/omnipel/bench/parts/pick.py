"""A list to pick from by typing a part of a name."""

from dataclasses import dataclass

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QFont, QKeyEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import column, label, line, row
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Phrase, tr


@dataclass(frozen=True, slots=True)
class Heading:
    """What stands over a group of entries, in the place of a value; it cannot be picked, and is not there when nothing below it is."""


class PickDialog(Dialog):
    """A line to type into and a list that narrows; Enter takes the chosen entry.

    Args:
        entries: pairs of words and what they stand for, or a `Heading`.
        beside: what else is shown, left of the list.
    """

    pointed = Signal(object)
    """What the entry stands for that would be taken now; None for none."""

    def __init__(
        self,
        parent: QWidget,
        title: Phrase,
        entries: list[tuple[str, object]],
        *,
        current: int = 0,
        beside: QWidget | None = None,
    ) -> None:
        super().__init__(
            parent,
            title,
            tr("Type a part of a name, and the list narrows to what has it. Enter takes what is chosen; Escape takes nothing."),
        )
        self.entries = entries
        self.picked: object = None
        self.line = line(title, tr("type a part of its name"))
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Matches")))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.line.textChanged.connect(self._narrow)
        self.list.itemActivated.connect(lambda _item: self._take())
        self.list.currentItemChanged.connect(
            lambda item, _before: self.pointed.emit(item.data(Qt.ItemDataRole.UserRole) if item is not None else None)
        )
        self.line.installEventFilter(self)
        picking = column(
            label(title, "head"), self.line, self.list, label(tr("↑ ↓ choose · Enter goes there · Esc stays"), "soft")
        )
        if beside is None:
            picking.setContentsMargins(16, 16, 16, 16)
            self.setLayout(picking)
        else:
            both = row(beside, spacing=16, margins=16)
            both.addLayout(picking)
            both.setStretch(0, 2)
            both.setStretch(1, 3)
            self.setLayout(both)
        sized(self, *((560, 460) if beside is None else (860, 540)))
        self._narrow("")
        if current:
            self.list.setCurrentRow(min(current, self.list.count() - 1))

    def _narrow(self, text: str) -> None:
        words = text.casefold().split()
        self.list.clear()
        above: QListWidgetItem | None = None
        for shown, value in self.entries:
            if isinstance(value, Heading):
                above = QListWidgetItem(shown)
                above.setFlags(Qt.ItemFlag.NoItemFlags)
                above.setFont(LOOK.font(14, QFont.Weight.DemiBold))
                above.setForeground(LOOK.colour("soft"))
            elif all(word in shown.casefold() for word in words):
                if above is not None:
                    self.list.addItem(above)
                    above = None
                item = QListWidgetItem(shown)
                item.setData(Qt.ItemDataRole.UserRole, value)
                self.list.addItem(item)
        self._step(self._best(text.casefold()), 1)

    def _best(self, text: str) -> int:
        """The row that is meant most likely: the first whose own name begins with what was typed."""
        names = [self.list.item(k).text().casefold() for k in range(self.list.count())]
        return next((k for k, name in enumerate(names) if text and name.rpartition(": ")[2].startswith(text)), 0)

    def _step(self, start: int, step: int) -> None:
        """Choose the entry at a row, or the next beyond it that is none of the headings."""
        low, high = 0, self.list.count() - 1
        at = min(max(start, low), high)
        while low <= at <= high and not self.list.item(at).flags() & Qt.ItemFlag.ItemIsSelectable:
            at += 1 if step >= 0 else -1
        if low <= at <= high:
            self.list.setCurrentRow(at)
            if at == 1 and not self.list.item(0).flags() & Qt.ItemFlag.ItemIsSelectable:
                self.list.scrollToTop()  # its heading is seen, too

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_PageDown: 10, Qt.Key.Key_PageUp: -10}.get(
                Qt.Key(event.key()), 0
            )
            if step:
                self._step(self.list.currentRow() + step, step)
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take()
                return True
        return super().eventFilter(watched, event)

    def _take(self) -> None:
        item = self.list.currentItem()
        if item is not None and item.flags() & Qt.ItemFlag.ItemIsSelectable:
            self.picked = item.data(Qt.ItemDataRole.UserRole)
            self.accept()


def picked_from(parent: QWidget, title: Phrase, entries: list[tuple[str, object]], *, current: int = 0) -> object:
    """What a person picked from a list, None for nothing."""
    dialog = PickDialog(parent, title, entries, current=current)
    with chosen(dialog) as yes:
        return dialog.picked if yes else None
