"""The ruler edge: the ticks of a tape along what is measured; the program's mark."""

from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LIGHT, LOOK
from omnipel.bench.session import Session
from omnipel.core.pictures.ticks import ticks
from omnipel.core.words.units import Unit

EDGE: Final = 12
"""Height of the edge, px."""
REACH: Final = (4.0, 7.0, 11.0)
"""How long small, middle and large ticks are, px."""
LEAST: Final = 4.5
"""Ticks are no nearer to one another, px."""


def paint_edge(painter: QPainter, box: QRectF, a_mm: float, zero: float, unit: Unit, colour: QColor) -> None:
    """Paint ticks hanging from the upper side of a box; `a_mm` is what a mm measures there, `zero` where the tape begins, px."""
    painter.setPen(QPen(colour, 1.0))
    first, last = (box.left() - zero) / a_mm, (box.right() - zero) / a_mm
    for at, rank in ticks(first, last, LEAST / a_mm, unit):
        x = zero + at * a_mm
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.top() + REACH[rank]))


class RulerEdge(QWidget):
    """A tape's edge below a field."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(60, EDGE)

    def minimumSizeHint(self) -> QSize:
        return QSize(20, EDGE)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_edge(painter, QRectF(self.rect()), 5.0 * LOOK.scale, 1.0, self.session.unit, LOOK.colour("soft"))
        painter.end()


def icon() -> QIcon:
    """The program's icon: a cover over a tape's edge."""
    made = QIcon()
    for size in (16, 24, 32, 48, 64, 128):
        picture = QPixmap(size, size)
        picture.fill(Qt.GlobalColor.transparent)
        painter = QPainter(picture)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(size / 64.0, size / 64.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(LIGHT.accent))
        painter.drawRoundedRect(QRectF(1, 1, 62, 62), 9, 9)
        painter.setBrush(QColor(LIGHT.surface))
        painter.drawRect(QRectF(14, 17, 36, 28))
        painter.drawEllipse(QRectF(14, 37, 36, 15))
        painter.setBrush(QColor(LIGHT.ground))
        painter.setPen(QPen(QColor(LIGHT.accent), 2.5))
        painter.drawEllipse(QRectF(14, 9, 36, 15))
        painter.setPen(QPen(QColor(LIGHT.on_accent), 2.5))
        for k in range(11):
            x = 7.0 + 5.0 * k
            painter.drawLine(QPointF(x, 63.0), QPointF(x, 63.0 - (8.0 if k % 5 == 0 else 4.0)))
        painter.end()
        made.addPixmap(picture)
    return made
