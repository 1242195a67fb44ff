"""The tape field: takes lengths as people write them, says how it read them, refuses wrong text on the spot.

What is typed is compared with the value that is stored, never with what is shown of it: 1/2 typed over a 12 mm that shows as "≈ 1/2" is taken.
"""

from collections.abc import Callable, Mapping

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QValidator
from PySide6.QtWidgets import QDialog, QLineEdit, QVBoxLayout, QWidget

from omnipel.bench.parts.ruler import RulerEdge
from omnipel.bench.parts.wrapped import Wrapped
from omnipel.bench.session import Session
from omnipel.bench.speech import SPEECH, say
from omnipel.core.draft import letters
from omnipel.core.tape.readings import value
from omnipel.core.tolerances import AS_TYPED, LONGEST
from omnipel.core.words.notation import TapeError, parse_length
from omnipel.core.words.phrases import NOTHING, Length, Name, Phrase, Value, mm, tr
from omnipel.core.words.typeset import STROKE, fractions
from omnipel.core.words.units import Unit

Doubts = Callable[[float], Phrase]
"""What makes a length hardly the one that was meant; nothing when it may well be."""


def names_of(session: Session) -> dict[str, float]:
    """What may be written in a tape field besides numbers: the readings taken, by their words and by their letter on the card."""
    if session.job is None:
        return {}
    taken = {reading.place: value(reading) for reading in session.job.readings}
    named: dict[str, float] = {}
    for i, place in enumerate(session.places):
        if place.key in taken:
            named[session.tell(place.words)] = taken[place.key]
            named[letters(i)] = taken[place.key]
    return named


class SetInType(QValidator):
    """Takes whatever is typed; a fraction becomes a real one while it is."""

    def validate(self, text: str, cursor: int) -> object:
        return QValidator.State.Acceptable, fractions(text), cursor


class TapeField(QWidget):
    """A line for one length, with a line below that says how it is read.

    Args:
        session: gives unit and named readings.
        words: what is entered; also the accessible name.
        large: the big field of the Tape station.
        low: the least that is allowed, mm; `strict` when it must be more than that.
        fine: whether it is shown finer than the unit's step (a cloth's thickness).
    """

    entered = Signal(float, bool)
    """A length in mm, and whether the person wants to stay (Shift+Enter)."""
    empty = Signal()
    """Enter in an empty field."""
    stepped = Signal(int)
    """An arrow key up (-1) or down (1) in the empty large field."""

    def __init__(
        self,
        session: Session,
        words: Value,
        *,
        large: bool = False,
        low: float = 0.0,
        strict: bool = True,
        high: float = LONGEST,
        fine: bool = False,
    ) -> None:
        super().__init__()
        self.session, self.low, self.strict, self.high, self.fine = session, low, strict, high, fine
        self.large = large
        self.stored: float | None = None
        self.doubts: Doubts = lambda _length: NOTHING
        self.asked = ""
        self.line = QLineEdit()
        self.line.setAccessibleName(say(words))
        self.line.setObjectName("tape" if large else "length")
        self.note = Wrapped()
        self.note.setObjectName("soft")
        self.note.setTextFormat(Qt.TextFormat.PlainText)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        layout.addWidget(self.line)
        if large:
            self.line.setValidator(SetInType(self.line))
            layout.addWidget(RulerEdge(session))
        layout.addWidget(self.note)
        # Only now that it has a parent: a label made visible before that is a window of its own and takes the keys.
        self.note.setVisible(large)
        self.setFocusProxy(self.line)
        self.line.textEdited.connect(self._edited)
        self.line.installEventFilter(self)
        session.opened.connect(self.clear)

    def rename(self, words: Value) -> None:
        """What is entered now."""
        self.line.setAccessibleName(say(words))

    @property
    def shown(self) -> str:
        """What stands in the field for the stored value."""
        if self.stored is None:
            return ""
        return self.session.tell(Length(self.stored, fine=self.fine, bare=True, chosen=True))

    def show_length(self, length: float | None) -> None:
        """Show a value without entering it; what is just being typed stays."""
        self.stored = length
        if not self.line.isModified() or not self.line.hasFocus():
            self._revert()

    def clear(self) -> None:
        """Empty the field; what was typed into it belonged to another reading or job."""
        self.stored = None
        self._revert()

    def _parsed(self) -> float | None:
        """The length that stands in the field, or None when it is none; the note says why."""
        try:
            length = parse_length(self._typed(), self.session.unit, names_of(self.session))
        except TapeError as error:
            self._say(self.session.sentence(error.phrase), wrong=True)
            return None
        if length < self.low or (self.strict and length <= self.low) or length > self.high:
            if length <= self.low:
                bound = tr("more than {low}", low=mm(self.low)) if self.strict else tr("at least {low}", low=mm(self.low))
            else:
                bound = tr("at most {high}", high=mm(self.high))
            self._say(
                self.session.tell(
                    tr(
                        "“{typed}” read as {length}; it has to be {bound}",
                        typed=Name(self._typed()),
                        length=mm(length),
                        bound=bound,
                    )
                ),
                wrong=True,
            )
            return None
        return length

    def _typed(self) -> str:
        return self.line.text().replace(STROKE, "/").strip()

    def read(self) -> float | None:
        """The length that stands in the field, with how it was read in the note; None when it is none."""
        length = self._parsed()
        if length is not None:
            other = Unit.MM if self.session.unit.denominator else Unit.INCH_16
            same = Name(SPEECH.voice(other).length(length, fine=other is Unit.MM, with_unit=True))
            doubt = self.doubts(length)
            text = tr("read as {length}  =  {same}", length=mm(length, fine=True), same=same)
            if doubt:
                text = tr("read as {length}: {doubt}. Enter once more if it is so.", length=mm(length, fine=True), doubt=doubt)
            self._say(self.session.tell(text), wrong=bool(doubt))
        return length

    def _edited(self, text: str) -> None:
        self.asked = ""
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
            step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()), 0)
            if step and self.large and not self._typed():
                self.stepped.emit(step)
                return True
            if event.key() == Qt.Key.Key_Escape and self.line.isModified():
                self._revert()
                return True
        if event.type() == QEvent.Type.FocusOut and self.line.isModified() and not self.large:
            self._leave()
        return super().eventFilter(watched, event)

    def _leave(self) -> None:
        """The field is left: what stands in it is taken, or the old value comes back and it is said why."""
        if not self._typed() or self._parsed() is None:
            words, wrong = self.note.text(), self.line.property("wrong")
            self._revert()
            if wrong:
                name = self.line.accessibleName()
                self.session.say("look", tr("{field}: {fault}. The old value stays.", field=Name(name), fault=Name(words)))
                if isinstance(self.window(), QDialog):  # which lies over the line where that is said
                    self._say(self.session.tell(tr("{fault}; the old value stays", fault=Name(words))), wrong=True)
        else:
            self._enter(stay=True)

    def _revert(self) -> None:
        self.asked = ""
        self.line.setText(self.shown)  # also forgets what could be undone in the line: the next undo is the job's
        self.line.setModified(False)
        self._say("", wrong=False)

    def _enter(self, *, stay: bool) -> None:
        if not self._typed():
            self.empty.emit()
            return
        if not self.large and not self.line.isModified():
            return
        length = self.read()
        if length is None:
            return
        if self.doubts(length) and self.asked != self._typed():
            self.asked = self._typed()
            return
        if not self.large and self.stored is not None and abs(length - self.stored) <= AS_TYPED:
            self._revert()
            return
        self.line.setModified(False)
        self.entered.emit(length, stay)
        if not self.large:
            self._revert()


def length_field(
    session: Session,
    words: Value,
    commit: Callable[[float], object],
    *,
    low: float = 0.0,
    strict: bool = False,
    high: float = LONGEST,
    fine: bool = False,
) -> TapeField:
    """A small tape field that hands what is entered to `commit`."""
    field = TapeField(session, words, low=low, strict=strict, high=high, fine=fine)
    field.entered.connect(lambda length, _stay: commit(length))
    return field


def moves_on(field: TapeField, key: str, fields: Callable[[], Mapping[str, TapeField]]) -> None:
    """Enter in one of several fields goes on to the next, Shift+Enter stays; `fields` are those that there are by then."""

    def entered(_length: float, stay: bool) -> None:
        there = list(fields())
        if not stay and key in there[:-1]:
            after = fields()[there[there.index(key) + 1]]
            after.line.setFocus()
            after.line.selectAll()

    field.entered.connect(entered)
