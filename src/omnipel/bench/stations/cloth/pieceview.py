"""A piece of cloth as it is: its outline and flaws, to scale; corners are dragged, and more of them made by a double click on an edge."""

from __future__ import annotations

import math
from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QBrush, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.heard import PICTURE
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.ruler import EDGE, paint_edge
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.cloth.remnants import Corner, corners, with_corner
from omnipel.core.job.laying import Remnant
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import tr

HIT: Final = 12.0
"""A corner is grabbed from so far, px."""
MARGIN: Final = 14.0
METRIC: Final = (1, 5, 10, 50, 100)
"""A corner is dragged by so many mm, the first that make a pixel; ..."""
INCHES: Final = (1, 2, 4, 8, 16, 32, 64)
"""... in inches by so many sixteenths."""


class PieceView(QWidget):
    """Shows a piece. Corners and flaws are numbered together, corners first: `picked` tells one, `moved` where a corner was dragged to,
    `more` where a further corner is wanted after which.
    """

    heard_as = PICTURE

    picked = Signal(int)
    moved = Signal(int, float, float)
    more = Signal(int, float, float)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.piece: Remnant | None = None
        self.chosen = -1
        self.dragged: tuple[int, Corner, Remnant] | None = None  # which corner, where to, and what comes of it
        self.setAccessibleName(say(tr("The piece, drawn")))
        self.setToolTip(say(tr("Drag a corner; double click an edge for one more")))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def show_piece(self, piece: Remnant | None, chosen: int = -1) -> None:
        """Show a piece, and which of its corners and flaws is chosen."""
        self.piece, self.chosen, self.dragged = piece, chosen, None
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(300), LOOK.px(150))

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(160), LOOK.px(80))

    def _scale(self) -> tuple[float, QPointF]:
        """Pixels to a mm, and where the lower left corner is."""
        assert self.piece is not None
        long, wide = self.width() - 2.0 * MARGIN, self.height() - 2.0 * MARGIN - EDGE
        a_mm = max(min(long / self.piece.length, wide / self.piece.width), 1e-6)
        left = (self.width() - a_mm * self.piece.length) / 2.0
        return a_mm, QPointF(left, MARGIN + (wide + a_mm * self.piece.width) / 2.0)

    def _seen(self, at: Corner) -> QPointF:
        a_mm, zero = self._scale()
        return QPointF(zero.x() + a_mm * at[0], zero.y() - a_mm * at[1])

    def _place(self, at: QPointF) -> Corner:
        """Where that is on the cloth, to a round step, mm."""
        a_mm, zero = self._scale()
        system = self.session.open_job.cover.habits.system
        steps = INCHES if system is System.INCH else METRIC
        step = next((step for many in steps if (step := many * system.step) * a_mm >= 1.0), steps[-1] * system.step)
        x, y = (round(length / a_mm / step) * step for length in (at.x() - zero.x(), zero.y() - at.y()))
        return max(x, 0.0), max(y, 0.0)

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.piece is None:
            return
        shown = self.dragged[2] if self.dragged is not None else self.piece
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink, accent, glow = LOOK.colour("ink"), LOOK.colour("accent"), LOOK.colour("glow")
        seen = [self._seen(at) for at in corners(shown)]
        painter.setPen(QPen(ink, 1.5))
        painter.setBrush(glow)
        painter.drawPolygon(QPolygonF(seen))
        for k, flaw in enumerate(shown.flaws):
            box = QRectF(self._seen((flaw.x, flaw.y + flaw.width)), self._seen((flaw.x + flaw.length, flaw.y)))
            lit = self.chosen == len(seen) + k
            painter.setPen(QPen(accent if lit else ink, 2.0 if lit else 1.0))
            painter.setBrush(QBrush(ink, Qt.BrushStyle.BDiagPattern))
            painter.drawRect(box)
        for k, at in enumerate(seen):
            lit = self.chosen == k
            painter.setPen(QPen(accent if lit else ink, 2.0 if lit else 1.2))
            painter.setBrush(accent if lit else LOOK.colour("surface"))
            painter.drawEllipse(at, 5.0 if lit else 3.5, 5.0 if lit else 3.5)
        a_mm, zero = self._scale()
        edge = QRectF(zero.x(), zero.y() + 8.0, a_mm * self.piece.length, EDGE)
        paint_edge(painter, edge, a_mm, zero.x(), self.session.unit, LOOK.colour("soft"))
        painter.end()

    def _corner_at(self, at: QPointF) -> int:
        assert self.piece is not None
        every = [math.hypot(p.x() - at.x(), p.y() - at.y()) for p in map(self._seen, corners(self.piece))]
        nearest = min(range(len(every)), key=every.__getitem__)
        return nearest if every[nearest] <= HIT else -1

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.piece is None:
            return
        at = event.position()
        k = self._corner_at(at)
        if k < 0:
            x, y = self._place(at)
            flaws = [i for i, f in enumerate(self.piece.flaws) if f.x <= x <= f.x + f.length and f.y <= y <= f.y + f.width]
            k = len(corners(self.piece)) + flaws[0] if flaws else -1
        if k >= 0:
            self.picked.emit(k)
        if 0 <= k < len(corners(self.piece)):
            self.dragged = k, corners(self.piece)[k], self.piece

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.piece is None or self.dragged is None:
            return
        k, place = self.dragged[0], self._place(event.position())
        made = with_corner(self.piece, k, place)
        if made is not None:
            self.dragged = k, place, made
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.dragged is not None:
            (k, place, made), self.dragged = self.dragged, None
            if made != self.piece:
                self.moved.emit(k, *place)
            self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.piece is None or self._corner_at(event.position()) >= 0:
            return
        every, at = corners(self.piece), event.position()
        for k, one in enumerate(every):
            begin, end = self._seen(one), self._seen(every[(k + 1) % len(every)])
            if _off(at, begin, end) <= HIT:
                self.more.emit(k, *self._place(at))
                return


def _off(at: QPointF, begin: QPointF, end: QPointF) -> float:
    """How far a point is from a line between two."""
    along, there = end - begin, at - begin
    long = QPointF.dotProduct(along, along)
    share = min(max(QPointF.dotProduct(along, there) / long, 0.0), 1.0) if long else 0.0
    rest = there - along * share
    return math.hypot(rest.x(), rest.y())
