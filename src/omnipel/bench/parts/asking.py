"""Dialogs: shown, answered, and freed again; and short questions with named answers."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QDialog, QWidget

from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.core.words.phrases import NOTHING, Phrase, tr


@contextmanager
def chosen(dialog: QDialog) -> Iterator[bool]:
    """Show a dialog until it is answered: whether with yes. It can be read within, and is freed afterwards."""
    try:
        yield dialog.exec() == QDialog.DialogCode.Accepted
    finally:
        dialog.deleteLater()


def sized(dialog: QDialog, wide: int, high: int) -> None:
    """Make a dialog so large, in px of plain text, but no larger than the window that it is asked from."""
    size = QSize(LOOK.px(wide), LOOK.px(high))
    parent = dialog.parentWidget()
    dialog.resize(size.boundedTo(parent.window().size()) if parent is not None else size)


@dataclass(frozen=True, slots=True)
class Question:
    """A question with answers that say what they do; the first is the one that Enter gives, Escape gives none."""

    words: Phrase
    first: Phrase
    second: Phrase = NOTHING
    third: Phrase = NOTHING
    more: str = ""


class QuestionDialog(Dialog):
    """A question; `answer` is the number of the button, -1 while none was pressed."""

    def __init__(self, parent: QWidget | None, question: Question) -> None:
        super().__init__(
            parent, tr("A question"), tr("Answer with one of the buttons: each says what it does. Escape changes nothing.")
        )
        self.answer = -1
        answers = [words for words in (question.first, question.second, question.third) if words != NOTHING]
        self.buttons = [
            button(words, lambda k=i: self._take(k), "main" if i == 0 else "")  # type: ignore[misc]
            for i, words in enumerate(answers)
        ]
        self.buttons[0].setDefault(True)
        line = row(*self.buttons)
        line.insertStretch(0, 1)
        more = label(wrap=True, name="soft")
        more.setText(question.more)
        more.setVisible(bool(question.more))
        self.setLayout(column(label(question.words, "head", wrap=True), more, line, margins=16, spacing=12))
        self.setMinimumWidth(420)

    def _take(self, answer: int) -> None:
        self.answer = answer
        self.accept()


def answered(parent: QWidget, question: Question) -> int:
    """Ask; the number of the answer, from 0, or -1 for none."""
    dialog = QuestionDialog(parent, question)
    with chosen(dialog):
        return dialog.answer


def typed(parent: QWidget, title: Phrase, words: Phrase, text: str) -> str | None:
    """Ask for a line of text; None when nobody wants to."""
    dialog = Dialog(parent, title, tr("Type it, and Enter takes it. Escape leaves everything as it was."))
    field = line(words)
    field.setText(text)
    field.selectAll()
    done = button(title, dialog.accept, "main")
    done.setDefault(True)
    buttons = row(button(tr("Cancel"), dialog.reject), done)
    buttons.insertStretch(0, 1)
    dialog.setLayout(column(label(words, "head"), field, buttons, margins=16, spacing=12))
    dialog.setMinimumWidth(420)
    with chosen(dialog) as yes:
        return field.text() if yes else None
