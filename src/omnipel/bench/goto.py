"""Go to anything: job, reading, panel, seam, finding, command."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QWidget

from omnipel.bench.commands import COMMANDS
from omnipel.bench.look import LOOK
from omnipel.bench.parts import column, label
from omnipel.bench.session import wanted_words

if TYPE_CHECKING:
    from omnipel.bench.window import Window


class PickDialog(QDialog):
    """A line to type into and a list that narrows; Enter takes the chosen entry.

    Args:
        entries: pairs of words and what they stand for.
    """

    def __init__(self, parent: QWidget, title: str, entries: list[tuple[str, object]], *, current: int = 0) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.entries, self.picked = entries, None
        self.line = QLineEdit(accessibleName=title, placeholderText="type a part of its name")
        self.list = QListWidget(accessibleName="Matches")
        self.line.textChanged.connect(self._narrow)
        self.list.itemActivated.connect(lambda _item: self._take())
        self.line.installEventFilter(self)
        self.setLayout(
            column(
                label(title, "head"), self.line, self.list, label("↑ ↓ choose · Enter goes there · Esc stays", "soft"), margins=16
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


def goals(window: Window) -> list[tuple[str, object]]:
    """Everything that can be gone to: words, and kind with value."""
    found: list[tuple[str, object]] = []
    job, draft = window.session.job, window.session.draft
    if job is not None and draft is not None:
        found += [(f"reading: {words}", ("path", f"readings.{place}")) for place, words in wanted_words(job).items()]
        found += [(f"panel: {panel.name}", ("path", f"panels.{panel.name}")) for panel in draft.panels]
        found += [(f"seam: {trued.seam.name}", ("path", f"seams.{trued.seam.name}")) for trued in draft.seams]
        found += [(f"finding: {f.text[:90]}", ("path", f.where)) for f in draft.findings]
    found += [(f"job: {card.job.name}", ("job", card.id)) for card in window.session.store.cards()]
    found += [(f"{c.words}   {c.keys}", ("command", c.id)) for c in COMMANDS if c.id != "go-to" and c.when(window)]
    return found
