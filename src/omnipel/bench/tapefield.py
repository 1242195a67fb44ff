"""The tape field: takes lengths as people write them, says how it read them, refuses wrong text on the spot."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLabel, QLineEdit, QVBoxLayout, QWidget

from omnipel.bench.session import Session
from omnipel.core.tape.notation import TapeError, parse_length
from omnipel.core.tape.units import format_length
from omnipel.core.tolerances import LONGEST


class TapeField(QWidget):
    """A line for one length, with a line below that says how it is read.

    Args:
        session: gives unit and named readings.
        words: what is entered; also the accessible name.
        large: the big field of the Tape station.
        low: the least that is allowed, mm; `strict` when it must be more than that.
    """

    entered = Signal(float, bool)
    """A length in mm, and whether the person wants to stay (Shift+Enter)."""
    empty = Signal()
    """Enter in an empty field."""

    def __init__(
        self, session: Session, words: str, *, large: bool = False, low: float = 0.0, strict: bool = True, high: float = LONGEST
    ) -> None:
        super().__init__()
        self.session, self.low, self.strict, self.high = session, low, strict, high
        self.shown = ""
        self.line = QLineEdit(accessibleName=words)
        self.line.setObjectName("tape" if large else "length")
        self.note = QLabel()
        self.note.setObjectName("soft")
        self.note.setWordWrap(True)
        self.note.setVisible(large)
        self.large = large
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        layout.addWidget(self.line)
        layout.addWidget(self.note)
        self.setFocusProxy(self.line)
        self.line.textEdited.connect(self._edited)
        self.line.installEventFilter(self)

    def show_length(self, mm: float | None) -> None:
        """Show a value without entering it."""
        self.shown = "" if mm is None else format_length(mm, self.session.unit)
        if not self.line.isModified() or not self.line.hasFocus():
            self.line.setText(self.shown)
            self._say("", wrong=False)

    def clear(self) -> None:
        """Empty the field."""
        self.shown = ""
        self.line.clear()
        self._say("", wrong=False)

    def read(self) -> float | None:
        """The length that stands in the field, or None when it is none; the note says why."""
        text = self.line.text()
        try:
            mm = parse_length(text, self.session.unit, self.session.names())
        except TapeError as error:
            self._say(f"{error.found} (at {error.column}); expected {error.expected}", wrong=True)
            return None
        if mm < self.low or (self.strict and mm <= self.low) or mm > self.high:
            over = f"more than {self.session.fmt(self.low)}" if self.strict else f"at least {self.session.fmt(self.low)}"
            bound = over if mm <= self.low else f"at most {self.session.fmt(self.high)}"
            self._say(f"read as {self.session.fmt(mm)}; it has to be {bound}", wrong=True)
            return None
        other = "" if self.session.unit.denominator else f"  =  {mm / 25.4:.2f} in"
        metric = f"  =  {mm:.1f} mm" if self.session.unit.denominator else other
        self._say(f"read as {self.session.fmt(mm)}{metric}", wrong=False)
        return mm

    def _edited(self, text: str) -> None:
        if text.strip():
            self.read()
        else:
            self._say("", wrong=False)

    def _say(self, words: str, *, wrong: bool) -> None:
        self.note.setText(words)
        self.note.setObjectName("stop" if wrong else "soft")
        self.note.setVisible(self.large or wrong or bool(words and self.line.hasFocus()))
        if self.line.property("wrong") != wrong:
            self.line.setProperty("wrong", wrong)
            for widget in (self.line, self.note):
                widget.style().unpolish(widget)
                widget.style().polish(widget)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._enter(stay=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
                return True
            if event.key() == Qt.Key.Key_Escape and self.line.isModified():
                self._revert()
                return True
        if event.type() == QEvent.Type.FocusOut and self.line.isModified() and not self.large:
            if self.line.text().strip() == self.shown or self.read() is None:
                words, wrong = self.note.text(), self.line.property("wrong")
                self._revert()
                if wrong:
                    self.session.say("look", f"{self.line.accessibleName()}: {words}. The old value stays.")
            else:
                self._enter(stay=True)
        return super().eventFilter(watched, event)

    def _revert(self) -> None:
        self.line.setText(self.shown)
        self._say("", wrong=False)

    def _enter(self, *, stay: bool) -> None:
        if not self.line.text().strip():
            self.empty.emit()
            return
        if not self.large and self.line.text().strip() == self.shown:
            return
        mm = self.read()
        if mm is not None:
            self.line.setModified(False)
            self.entered.emit(mm, stay)


def length_field(
    session: Session,
    words: str,
    commit: Callable[[float], object],
    *,
    low: float = 0.0,
    strict: bool = False,
    high: float = LONGEST,
) -> TapeField:
    """A small tape field that hands what is entered to `commit`."""
    field = TapeField(session, words, low=low, strict=strict, high=high)
    field.entered.connect(lambda mm, _stay: commit(mm))
    return field
