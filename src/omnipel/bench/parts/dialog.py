"""Dialogs of the bench: F1 says what they, and what has the focus in them, are for."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import TypeVar

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QApplication, QDialog, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import button, column, label, row
from omnipel.bench.speech import say
from omnipel.core.words.phrases import NOTHING, Name, Value, tr

W = TypeVar("W", bound=QWidget)


def ended(sentences: Iterable[str]) -> Iterator[str]:
    """Sentences without those that are empty, each with its full stop."""
    for sentence in sentences:
        words = sentence.strip()
        if words:
            yield words if words[-1] in ".!?…" else f"{words}."


class Explained(QDialog):
    """What something is for, beside where it was asked; F1 once more closes it.

    Args:
        parent: what it stands before.
        words: what it is called.
        told: its sentences.
        picture: a drawing where one helps.
        high: px at 100 % text.
    """

    def __init__(self, parent: QWidget, words: str, told: str, picture: QWidget | None = None, high: int = 230) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(words)
        self.picture = picture
        self.told = label(NOTHING, wrap=True)
        self.told.setText(told)
        close = button(tr("Close"), self.accept, "main")
        close.setDefault(True)
        close.setFocus()
        text = column(label(Name(words), "title", wrap=True), self.told, spacing=10)
        text.addStretch(1)
        buttons = row(close)
        buttons.insertStretch(0, 1)
        whole = row(picture, text, spacing=20) if picture is not None else row(text)
        whole.setStretch(whole.count() - 1, 1)
        self.setLayout(column(whole, buttons, margins=18, spacing=14))
        self.resize(LOOK.px(640 if picture is not None else 480), LOOK.px(high))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_F1:
            self.close()
        else:
            super().keyPressEvent(event)


def explained_beside(parent: QWidget, made: Callable[[QWidget | None], Explained]) -> None:
    """Say what the thing with the focus is for; asked within what says it, that is closed."""
    widget = QApplication.focusWidget()
    for told in parent.findChildren(Explained):
        told.close()
        if widget is not None and told.isAncestorOf(widget):
            return
    made(widget).show()


def meaning(widget: W, words: Value) -> W:
    """A part of a dialog, with what it is for; the toolkit tells it to those who hear the window."""
    widget.setWhatsThis(say(words))
    return widget


class Dialog(QDialog):
    """A dialog.

    Args:
        parent: what it stands before.
        title: its window's title.
        about: what it is for, in two or three sentences.
    """

    def __init__(self, parent: QWidget | None, title: Value, about: Value) -> None:
        super().__init__(parent)
        self.setWindowTitle(say(title))
        self.setWhatsThis(say(about))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_F1:
            explained_beside(self, self.explained)
        else:
            super().keyPressEvent(event)

    def explained(self, widget: QWidget | None) -> Explained:
        """What a part of it is for, and then itself."""
        name = (widget.accessibleDescription() or widget.accessibleName()) if widget is not None else ""
        if isinstance(widget, QAbstractButton) and widget.text():
            name = widget.text()
        return Explained(self, name or self.windowTitle(), "\n\n".join(ended((*self._of(widget), self.whatsThis()))))

    def _of(self, widget: QWidget | None) -> Iterator[str]:
        """What is said of a part: its own words, or those of what it lies in."""
        while widget is not None and widget is not self:
            if widget.whatsThis():
                yield widget.whatsThis()
                return
            tip = widget.toolTip()
            if len(tip) > 12 and "<" not in tip and not tip.startswith("/"):
                yield tip
                return
            widget = widget.parentWidget()
