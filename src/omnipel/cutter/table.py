"""The cutter's bed, seen from above: the cloth, what is drawn and cut so far, and the head."""

from __future__ import annotations

import math
from typing import Final

from PySide6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.ruler import EDGE, paint_edge
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Count, Length, tr
from omnipel.core.words.units import Unit
from omnipel.exchange.devices.cutter.mechanics import Cutter, Drawn

AROUND: Final = 24
"""The cloth stays so far from the border, px."""
LEAST_SHOWN: Final = 1200.0
"""At least so much of the roll is shown, mm."""
KNIFE: Final = 1


class Table(QWidget):
    """The bed; as much of the cloth is shown as has been worked on, and some more."""

    def __init__(self, cutter: Cutter, unit: Unit) -> None:
        super().__init__()
        self.cutter, self.unit = cutter, unit
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say(tr("The cloth on the cutter")))

    def sizeHint(self) -> QSize:
        return QSize(820, 560)

    def minimumSizeHint(self) -> QSize:
        return QSize(320, 240)

    @property
    def reach(self) -> float:
        """How much of the roll is shown, mm."""
        far = max((max(d.start[0], d.end[0]) for d in self.cutter.drawn), default=0.0)
        needed = max(far, self.cutter.at[0]) * 1.15 + 200.0
        step = LEAST_SHOWN / 2.0
        return max(LEAST_SHOWN, math.ceil(needed / step) * step)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide, high = self.width() - 2.0 * AROUND, self.height() - 2.0 * AROUND - EDGE
        scale = min(wide / self.reach, high / self.cutter.width)
        left, top = AROUND + (wide - self.reach * scale) / 2.0, AROUND + EDGE + (high - self.cutter.width * scale) / 2.0
        bed = QRectF(left, top, self.reach * scale, self.cutter.width * scale)

        def at(place: tuple[float, float]) -> QPointF:
            return QPointF(left + place[0] * scale, bed.bottom() - place[1] * scale)

        painter.fillRect(bed, LOOK.colour("line"))
        cloth = QRectF(bed.left(), bed.top(), min(self.cutter.length, self.reach) * scale, bed.height())
        painter.fillRect(cloth, LOOK.colour("surface"))
        if self.cutter.length < self.reach:
            painter.setPen(QPen(LOOK.colour("stop"), 2.0))
            painter.drawLine(cloth.topRight(), cloth.bottomRight())
        paint_edge(painter, QRectF(left, top - EDGE, bed.width(), EDGE), scale, left, self.unit, LOOK.colour("soft"))
        for tool, pen in ((0, self._pen("soft", 1.0)), (KNIFE, self._pen("ink", 2.4))):
            lines = [
                QLineF(at(d.start), at(d.end)) for d in self.cutter.drawn if not d.words and (d.tool == KNIFE) is (tool == KNIFE)
            ]
            painter.setPen(pen)
            painter.drawLines(lines)
        painter.setPen(LOOK.colour("soft"))
        for drawn in (d for d in self.cutter.drawn if d.words):
            self._words(painter, at(drawn.start), drawn, scale)
        self._head(painter, at(self.cutter.at), bed)
        painter.end()

    def _pen(self, colour: str, width: float) -> QPen:
        return QPen(QColor(LOOK.colour(colour)), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap)

    def _words(self, painter: QPainter, at: QPointF, drawn: Drawn, scale: float) -> None:
        size = round(drawn.high * scale / 0.7)
        if size < 6:
            painter.drawPoint(at)
            return
        font = LOOK.font()
        font.setPixelSize(size)
        painter.save()
        painter.setFont(font)
        painter.translate(at)
        painter.rotate(-math.degrees(drawn.way))
        painter.drawText(QPointF(0.0, 0.0), drawn.words)
        painter.restore()

    def _head(self, painter: QPainter, at: QPointF, bed: QRectF) -> None:
        """The carriage across the bed, and the head on it: filled while its tool is down."""
        painter.setPen(QPen(LOOK.colour("accent"), 1.0))
        painter.drawLine(QPointF(at.x(), bed.top() - 4.0), QPointF(at.x(), bed.bottom() + 4.0))
        painter.setPen(QPen(LOOK.colour("accent"), 2.0))
        painter.setBrush(LOOK.colour("accent") if self.cutter.down and self.cutter.tool else LOOK.colour("surface"))
        painter.drawEllipse(at, 7.0, 7.0)

    def told(self) -> str:
        """Where the head is, for the line below."""
        x, y = self.cutter.at
        return say(
            tr(
                "{x} along, {y} across; {n} of {all} steps done",
                x=Length(x),
                y=Length(y),
                n=Count(self.cutter.done),
                all=Count(self.cutter.last),
            ),
            self.unit,
        )
