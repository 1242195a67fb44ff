"""The ruler edge: the ticks of a tape along what is measured; the program's mark."""

from pathlib import Path
from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize
from PySide6.QtGui import QColor, QIcon, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.session import Session
from omnipel.core.pictures.ticks import ticks
from omnipel.core.words.units import Unit

EDGE: Final = 12
"""Height of the edge, px."""
REACH: Final = (4.0, 7.0, 11.0)
"""How long small, middle and large ticks are, px."""
ICONS: Final = Path(__file__).parent.parent.parent / "desktop" / "icons"
SIZES: Final = (16, 24, 32, 48, 64, 128, 256)
"""The icon's drawings, and the sizes it is there in, px."""
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
    for size in SIZES:
        made.addFile(str(ICONS / f"omnipel-{size}.png"), QSize(size, size))
    return made
