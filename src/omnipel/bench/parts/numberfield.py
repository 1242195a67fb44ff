"""A line for a share, a ratio or a count: takes what people write, refuses wrong text with what was typed."""

from collections.abc import Callable

from PySide6.QtWidgets import QVBoxLayout, QWidget

from omnipel.bench.parts.widgets import label, line
from omnipel.bench.session import Session
from omnipel.core.words.notation import TapeError
from omnipel.core.words.phrases import NOTHING, Name, Value, tr


class NumberField(QWidget):
    """A line for a number that is no length.

    Args:
        session: gives language and unit.
        words: what is entered.
        parse: from text to the number; raises TapeError.
        shown: from the number to how it is written.
        commit: takes the number.
        low, high: bounds.
    """

    def __init__(
        self,
        session: Session,
        words: Value,
        parse: Callable[[str], float],
        shown: Callable[[float], Value],
        commit: Callable[[float], object],
        low: float,
        high: float,
    ) -> None:
        super().__init__()
        self.session, self.parse, self.shown, self.commit = session, parse, shown, commit
        self.low, self.high = low, high
        self.stored = 0.0
        self.line, self.note = line(words), label(NOTHING, "stop", wrap=True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(2)
        layout.addWidget(self.line)
        layout.addWidget(self.note)
        self.note.hide()
        self.setFocusProxy(self.line)
        self.line.editingFinished.connect(self._done)
        session.opened.connect(self._forget)

    def show_number(self, number: float) -> None:
        """Show a value without entering it; what is just being typed stays."""
        self.stored = number
        if not self.line.isModified() or not self.line.hasFocus():
            self._revert()

    def _forget(self) -> None:
        """Another job: what was typed belonged to the one before."""
        self._revert()
        self._refuse("")

    def _revert(self) -> None:
        self.line.setText(self.session.tell(self.shown(self.stored)))
        self.line.setModified(False)

    def _refuse(self, words: str) -> None:
        self.note.setText(words)
        self.note.setVisible(bool(words))

    def _done(self) -> None:
        if not self.line.isModified():
            return
        typed = self.line.text().strip()
        try:
            number = self.parse(typed)
        except TapeError as error:
            self._revert()
            self._refuse(self.session.tell(tr("{fault}; the old value stays", fault=error.phrase)))
            return
        if not self.low - 1e-12 <= number <= self.high + 1e-12:
            bounds = tr(
                "“{typed}” is not {low} to {high}; the old value stays",
                typed=Name(typed),
                low=self.shown(self.low),
                high=self.shown(self.high),
            )
            self._revert()
            self._refuse(self.session.tell(bounds))
            return
        self._refuse("")
        self.line.setModified(False)
        if abs(number - self.stored) > 1e-12:
            self.commit(number)
        self._revert()
