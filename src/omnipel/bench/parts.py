"""Small parts that the stations are put together from."""

from collections.abc import Callable, Iterable
from typing import Any, TypeVar

from PySide6.QtCore import QEvent, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QEnterEvent, QFocusEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from omnipel.bench.look import LOOK
from omnipel.bench.session import Session
from omnipel.core.working import Worked

L = TypeVar("L", QVBoxLayout, QHBoxLayout)


def label(words: str, name: str = "", *, wrap: bool = False) -> QLabel:
    """A label in one of the styles of the look."""
    made = QLabel(words)
    made.setObjectName(name)
    made.setWordWrap(wrap)
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def button(words: str, run: Callable[[], object], name: str = "", *, tip: str = "") -> QPushButton:
    """A button that is a word."""
    made = QPushButton(words)
    made.setAccessibleName(words)
    made.setObjectName(name)
    made.setToolTip(tip)
    made.setAutoDefault(False)
    made.clicked.connect(lambda _checked=False: run())
    return made


def combo(words: str, picks: Iterable[tuple[str, object]], picked: Callable[..., object]) -> "Picker":
    """A list to pick one thing from; `picks` are pairs of words and value."""
    made = Picker(list(picks))
    made.setAccessibleName(words)
    made.activated.connect(lambda i: picked(made.values[i]))
    return made


class Picker(QComboBox):
    """A list to pick from. Keeps its values itself, because Qt turns an enum into plain text.

    The mouse wheel does not change it by accident while the page is scrolled.
    """

    def __init__(self, picks: list[tuple[str, object]]) -> None:
        super().__init__()
        self.values = [value for _, value in picks]
        self.addItems([words for words, _ in picks])

    @property
    def value(self) -> Any:
        """What is picked."""
        return self.values[self.currentIndex()]

    def show_value(self, value: object) -> None:
        """Show a value without picking it."""
        self.setCurrentIndex(self.values.index(value) if value in self.values else -1)

    def wheelEvent(self, event: QEvent) -> None:
        event.ignore()

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(64), super().minimumSizeHint().height())


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


def scrolled(inner: QWidget) -> QScrollArea:
    """The widget in a scroll area that only scrolls up and down."""
    area = QScrollArea()
    area.setWidget(inner)
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    return area


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
        self.session, self.words = session, ""
        self.number: Worked | None = None
        self.setObjectName(name)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Minimum, QSizePolicy.Policy.Preferred)

    def show_number(self, words: str, number: Worked, text: str) -> None:
        """Show a number under its name."""
        self.words, self.number = words, number
        self.setText(text)
        self.setAccessibleName(f"{words} {text}")

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
    """The shape of a state: ring (nothing yet), tick (fine), diamond (look), square (stop), dot (note)."""

    def __init__(self, state: str = "nothing", size: float = 14.0) -> None:
        super().__init__()
        self.state, self.size_px = state, size
        self.setFixedSize(LOOK.px(size), LOOK.px(size))

    def set_state(self, state: str) -> None:
        """Show another state."""
        self.state = state
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_state(painter, QRectF(self.rect()), self.state)
        painter.end()


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


class Glow(QFrame):
    """A line of the tally; glows for a second when what it shows has changed, and leads to its place when clicked."""

    clicked = Signal()

    def __init__(self, words: str) -> None:
        super().__init__(accessibleName=words)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.head, self.value, self.mark = label(words, "soft"), label("", "head", wrap=True), StateMark()
        self.under = label("", "soft", wrap=True)
        self.words = words
        self.setLayout(column(row(self.head, self.mark, spacing=4), self.value, self.under, spacing=1, margins=6))
        self.timer = QTimer(self, singleShot=True, interval=1000)
        self.timer.timeout.connect(self.update)
        self.seen = ""

    def forget(self) -> None:
        """What is shown next is not compared with what was shown before."""
        self.seen = ""
        self.timer.stop()

    def show_value(self, value: str, under: str, state: str) -> None:
        """Show a value; glow when it is another one than before."""
        told = f"{value}|{under}"
        if self.seen and told != self.seen:
            self.timer.start()
            self.update()
        self.seen = told
        self.value.setText(value)
        self.under.setText(under)
        self.under.setVisible(bool(under))
        self.mark.set_state(state)
        self.setAccessibleName(f"{self.words}: {value}. {under}")

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.timer.isActive():
            painter.fillRect(self.rect(), LOOK.colour("glow"))
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("accent"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))
        painter.end()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.clicked.emit()

    def keyPressEvent(self, event: QEvent) -> None:
        from PySide6.QtGui import QKeyEvent

        if isinstance(event, QKeyEvent) and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space, Qt.Key.Key_Enter):
            self.clicked.emit()
        else:
            super().keyPressEvent(event)  # type: ignore[arg-type]
