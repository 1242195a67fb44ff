"""Small parts that the stations are put together from."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from html import escape
from typing import TYPE_CHECKING, TypeVar

from PySide6.QtCore import QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QEnterEvent,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from omnipel.bench.parts.announce import announce
from omnipel.bench.parts.entered import Push
from omnipel.bench.parts.heard import GROUP, PICTURE
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.scrolled import Scrolled
from omnipel.bench.parts.ticked import Ticked
from omnipel.bench.parts.wrapped import Wrapped
from omnipel.bench.speech import say
from omnipel.core.job.state import State
from omnipel.core.words.phrases import NOTHING, Phrase, Value, tr
from omnipel.core.words.typeset import fractions

if TYPE_CHECKING:
    from omnipel.bench.session import Session
    from omnipel.core.words.working import Worked

L = TypeVar("L", QVBoxLayout, QHBoxLayout)


def label(words: Value = NOTHING, name: str = "", *, wrap: bool = False) -> QLabel:
    """A label in one of the styles of the look."""
    made = Wrapped(say(words)) if wrap else QLabel(say(words))
    made.setObjectName(name)
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def button(words: Value, run: Callable[[], object], name: str = "", *, tip: Value = NOTHING) -> QPushButton:
    """A button that is a word."""
    made = Push(say(words))
    made.setAccessibleName(say(words))
    made.setObjectName(name)
    made.setToolTip(say(tip))
    made.setAutoDefault(False)
    made.clicked.connect(lambda _checked=False: run())
    return made


class Line(QLineEdit):
    """A line to type into; a text that is longer is shown from its beginning, where the names of things differ."""

    def setText(self, text: str | None, /) -> None:
        super().setText(text)
        self.setCursorPosition(0)


def line(words: Value, hint: Value = NOTHING) -> QLineEdit:
    """A line to type into, with its name for those who cannot see it."""
    made = Line()
    made.setAccessibleName(say(words))
    made.setPlaceholderText(say(hint))
    return made


def check(words: Value, clicked: Callable[[bool], object], *, full: Value = NOTHING) -> QCheckBox:
    """A box to tick; `full` is its name where its words alone say too little."""
    made = Ticked(say(words).replace("&", "&&"))  # a name may have one: it underlines nothing
    made.setAccessibleName(say(full) or say(words))
    made.clicked.connect(lambda on: clicked(bool(on)))
    return made


def column(*widgets: QWidget | QLayout, spacing: int = 8, margins: int = 0) -> QVBoxLayout:
    """Widgets below one another."""
    return _fill(QVBoxLayout(), widgets, spacing, margins)


def row(*widgets: QWidget | QLayout, spacing: int = 8, margins: int = 0) -> QHBoxLayout:
    """Widgets beside one another."""
    return _fill(QHBoxLayout(), widgets, spacing, margins)


def _fill(layout: L, widgets: Iterable[QWidget | QLayout], spacing: int, margins: int) -> L:
    layout.setSpacing(spacing)
    layout.setContentsMargins(margins, margins, margins, margins)
    for widget in widgets:
        if isinstance(widget, QWidget):
            layout.addWidget(widget)
        else:
            layout.addLayout(widget)
    return layout


def surface(layout: QLayout) -> QFrame:
    """A sheet of paper on the ground."""
    frame = QFrame()
    frame.setObjectName("surface")
    frame.setLayout(layout)
    return frame


def scrolled(inner: QWidget) -> Scrolled:
    """The widget in a scroll area that only scrolls up and down."""
    return Scrolled(inner)


def emptied(layout: QLayout) -> None:
    """Take everything out of a layout."""
    while (item := layout.takeAt(0)) is not None:
        if (widget := item.widget()) is not None:
            widget.hide()
            widget.deleteLater()
        elif (inner := item.layout()) is not None:
            emptied(inner)


def restyle(widget: QWidget, name: str) -> None:
    """Give a widget another style of the look."""
    if widget.objectName() != name:
        widget.setObjectName(name)
        widget.style().unpolish(widget)
        widget.style().polish(widget)


class Number(QLabel):
    """A number that shows its sum in the working line when it is pointed at or has the focus."""

    def __init__(self, session: Session, name: str = "") -> None:
        super().__init__()
        self.session, self.words = session, NOTHING
        self.number: Worked | None = None
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setObjectName(name)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Minimum, QSizePolicy.Policy.Preferred)

    def show_number(self, words: Phrase, number: Worked, shown: Value) -> None:
        """Show a number under its name."""
        self.words, self.number = words, number
        text = self.session.tell(shown)
        self.setText(text)
        self.setAccessibleName(f"{self.session.tell(words)} {text}")

    def _point(self) -> None:
        if self.number is not None:
            self.session.point(self.words, self.number)

    def enterEvent(self, event: QEnterEvent) -> None:
        self._point()

    def focusInEvent(self, event: QFocusEvent) -> None:
        self._point()
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._point()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.hasFocus():
            painter = QPainter(self)
            painter.setPen(QPen(LOOK.colour("accent"), 1.5))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
            painter.end()


class StateMark(QWidget):
    """The shape of a state: ring (to do), tick (fine), diamond (look), square (stop), dot (note)."""

    heard_as = PICTURE

    def __init__(self, state: str = "open", size: float = 14.0) -> None:
        super().__init__()
        self.size_px = size
        self.set_state(state)
        self.rescale()

    def rescale(self) -> None:
        """Take the size that the text scale asks for."""
        self.setFixedSize(LOOK.px(self.size_px), LOOK.px(self.size_px))

    def set_state(self, state: str) -> None:
        """Show another state."""
        self.state = state
        self.setAccessibleName(state_words(state))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_state(painter, QRectF(self.rect()), self.state)
        painter.end()


def state_words(state: str) -> str:
    """What a state's shape says."""
    return say(State(state).words if state in set(State) else tr("good to know"))


def paint_state(painter: QPainter, box: QRectF, state: str, colour: QColor | None = None) -> None:
    """Paint the shape of a state into a box."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    tint = colour or QColor(LOOK.colours.of(state))
    side = min(box.width(), box.height()) - 3.0
    inner = QRectF(box.center().x() - side / 2, box.center().y() - side / 2, side, side)
    painter.setPen(QPen(tint, 1.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    shape = QPainterPath()
    match state:
        case "stop":
            painter.fillRect(inner.adjusted(1, 1, -1, -1), tint)
        case "look":
            shape.moveTo(inner.center().x(), inner.top())
            shape.lineTo(inner.right(), inner.center().y())
            shape.lineTo(inner.center().x(), inner.bottom())
            shape.lineTo(inner.left(), inner.center().y())
            shape.closeSubpath()
            painter.fillPath(shape, tint)
        case "fine":
            painter.setPen(QPen(tint, 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
            shape.moveTo(inner.left() + 1, inner.center().y())
            shape.lineTo(inner.center().x() - 1, inner.bottom() - 1.5)
            shape.lineTo(inner.right(), inner.top() + 1.5)
            painter.drawPath(shape)
        case "note":
            painter.setBrush(tint)
            painter.drawEllipse(inner.adjusted(side * 0.25, side * 0.25, -side * 0.25, -side * 0.25))
        case _:
            painter.drawEllipse(inner.adjusted(1, 1, -1, -1))


SHORT = 12
"""A verdict of so many letters stands in the largest type."""


class Glow(QFrame):
    """A line of the tally; glows for a second when what it shows has changed, and leads to its place when clicked."""

    heard_as = GROUP
    clicked = Signal()

    def __init__(self, words: Phrase, *, large: bool = False) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.large = large
        self.head, self.value, self.mark = label(words, "soft"), label(NOTHING, "head", wrap=True), StateMark()
        self.under = label(NOTHING, "soft", wrap=True)
        self.words = say(words)
        self.setAccessibleName(self.words)
        self.setLayout(column(row(self.head, self.mark, spacing=4), self.value, self.under, spacing=1, margins=6))
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(1000)
        self.timer.timeout.connect(self.update)
        self.seen: object = None

    def forget(self) -> None:
        """What is shown next is not compared with what was shown before."""
        self.seen = None
        self.timer.stop()

    def show_value(self, value: str, under: str, state: str, known_by: object = None) -> None:
        """Show a value; glow when it is another one than before. What it is known by does not change with the unit it is written in."""
        told = known_by if known_by is not None else f"{value}|{under}"
        if self.seen is not None and told != self.seen:
            announce(self, f"{self.words}: {value}. {under}")
            self.timer.start()
            self.update()
        self.seen = told
        if self.large:
            restyle(self.value, "big" if len(value) <= SHORT else "title")
        self.value.setText(fractions(value))
        self.under.setText(under)
        self.under.setVisible(bool(under))
        self.mark.set_state(state)
        self.setAccessibleName(f"{self.words}: {value}. {under}")

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.timer.isActive():
            painter.fillRect(self.rect(), LOOK.colour("glow"))
            painter.fillRect(0, 0, 3, self.height(), LOOK.colour("accent"))
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("accent"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))
        painter.end()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space, Qt.Key.Key_Enter):
            self.clicked.emit()
        else:
            super().keyPressEvent(event)


class WordButton(QWidget):
    """A remedy as a button whose words may take several lines."""

    def __init__(self, run: Callable[[], object], name: str = "remedy") -> None:
        super().__init__()
        self.button = button(NOTHING, run, name)
        self.text = label(NOTHING, "onmain" if name == "main" else "", wrap=True)
        self.text.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        inner = row(self.text)
        inner.setContentsMargins(9, 5, 9, 5)
        self.button.setLayout(inner)
        self.button.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self.setLayout(column(self.button))

    def show_words(self, words: str) -> None:
        """What the remedy does."""
        self.text.setText(words)
        self.button.setAccessibleName(words)
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._fit()

    def _fit(self) -> None:
        room = max(40, self.width() - 18)
        self.button.setMinimumHeight(self.text.heightForWidth(room) + 12)


class Elided(QLabel):
    """A label that gives up the end of its words where the room ends; the whole stands in its tooltip."""

    def __init__(self, name: str = "") -> None:
        super().__init__()
        self.setObjectName(name)
        self.whole = ""
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def show_words(self, words: str) -> None:
        """Show other words."""
        self.whole = words
        self.setToolTip(f"<qt>{escape(words)}</qt>")
        self.setAccessibleName(words)
        self._fit()

    def _fit(self) -> None:
        self.setText(self.fontMetrics().elidedText(self.whole, Qt.TextElideMode.ElideRight, max(20, self.width() - 4)))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()


def reveal(widget: QWidget) -> None:
    """Put the focus on a field and scroll to it, once what stands around it is laid out."""
    widget.setFocus(Qt.FocusReason.OtherFocusReason)

    def scroll() -> None:
        above = widget.parentWidget()
        while above is not None:
            if isinstance(above, QScrollArea):
                above.ensureWidgetVisible(widget)
            above = above.parentWidget()

    QTimer.singleShot(0, widget, scroll)
