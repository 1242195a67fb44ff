"""The board of panels at one scale, and the key to its lines."""

from collections.abc import Callable, Iterator

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.ruler import EDGE, paint_edge
from omnipel.bench.parts.sketchview import SPOT
from omnipel.bench.parts.strokes import pen
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.pens import LAYER_WORDS, Layer
from omnipel.core.words.phrases import Phrase, listed, tr


class BoardView(PictureView):
    """The board: all of it is fitted, with its words; `spots` are places that are walked along, in its own frame."""

    def __init__(self, words: Phrase, session: Session) -> None:
        super().__init__(words)
        self.session = session
        self.spots: tuple[tuple[float, float], ...] = ()
        self.about_to_paint: Callable[[], object] = lambda: None
        self.reach = (self.drawing, (0.0, 0.0, 0.0, 0.0))

    def frame(self) -> tuple[float, float, float, float]:
        if self.reach[0] is not self.drawing:
            self.reach = self.drawing, extent(self.drawing)
        return self.reach[1]

    def mark(self, spots: tuple[tuple[float, float], ...]) -> None:
        """Mark places."""
        if spots != self.spots:
            self.spots = spots
            self.update()

    def look_at(self, x: float, y: float) -> None:
        """Bring a place to the middle, unless all is seen anyway."""
        if not self.fitted:
            self.middle = QPointF(x, -y)
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        self.about_to_paint()
        super().paintEvent(event)
        painter = QPainter(self)
        edge = QRectF(3.0, self.height() - EDGE - 3.0, self.width() - 6.0, EDGE)
        zero = self.to_screen(self.frame()[0], 0.0).x()
        painter.setClipRect(edge)
        painter.translate(0.0, 2.0 * edge.center().y())
        painter.scale(1.0, -1.0)  # it stands on the lower side
        paint_edge(painter, edge, self.zoom, zero, self.session.unit, LOOK.colour("soft"))
        painter.resetTransform()
        painter.setClipping(False)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for x, y in self.spots:
            painter.setBrush(LOOK.colour("accent"))
            painter.setPen(QPen(LOOK.colour("surface"), 2.0))
            painter.drawEllipse(self.to_screen(x, y), LOOK.px(SPOT), LOOK.px(SPOT))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.end()


ROW, LINE, MARGIN = 24, 34.0, 12.0
"""Height of a row of the key, room for a line before its words, and room before all, px."""


class LayerKey(QWidget):
    """What each kind of line means, once."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(say(tr("Key: {lines}", lines=listed(LAYER_WORDS.values()))))
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return LOOK.px(ROW) * (1 + max(row for *_, row in self._places(width)))

    def sizeHint(self) -> QSize:
        return QSize(300, self.heightForWidth(self.width() or 300))

    def minimumSizeHint(self) -> QSize:
        return QSize(100, LOOK.px(ROW))

    def _places(self, width: int) -> Iterator[tuple[Layer, str, float, int]]:
        """Each kind of line with its words, where it begins, and in which row."""
        metrics = QFontMetrics(LOOK.font(14))
        x, row = MARGIN, 0
        for layer, phrase in LAYER_WORDS.items():
            words = say(phrase)
            wide = LINE + metrics.horizontalAdvance(words)
            if x > MARGIN and x + wide > width:
                x, row = MARGIN, row + 1
            yield layer, words, x, row
            x += wide + 20.0

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(LOOK.font(14))
        for layer, words, x, row in self._places(self.width()):
            middle = LOOK.px(ROW) * (row + 0.5)
            painter.setPen(pen(layer))
            painter.drawLine(QPointF(x, middle), QPointF(x + LINE - 6.0, middle))
            painter.setPen(LOOK.colour("ink"))
            painter.drawText(QPointF(x + LINE, middle + LOOK.px(5)), words)
        painter.end()
