"""The board of panels at one scale, and the key to its lines."""

from collections.abc import Callable, Iterator

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.heard import PICTURE
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.ruler import EDGE, paint_edge
from omnipel.bench.parts.sketchview import SPOT
from omnipel.bench.parts.strokes import pen
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.pictures.drawing import Path
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.pens import LAYER_WORDS, Layer
from omnipel.core.words.phrases import Phrase, listed, tr
from omnipel.core.words.refs import Ref

STEPS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1}
"""Arrow keys lead to the panel before and to the next."""


class PanelSpot(Entered, QAbstractButton):
    """A panel of the board as an object of its own, for who cannot see it: its name, where it lies, and that it can be chosen."""

    def __init__(self, board: QWidget) -> None:
        super().__init__(board)
        self.box = QRectF()
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # the board has the keys
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)  # its edges can be pointed at
        self.show()

    def paintEvent(self, event: QPaintEvent) -> None:
        """It is drawn by the board."""


class BoardView(PictureView):
    """The board: all of it is fitted, with its words; `spots` are places that are walked along, in its own frame.

    Arrow keys step from panel to panel, and move the board where not all of it is seen. `stepped` tells how far.
    """

    stepped = Signal(int)

    def __init__(self, words: Phrase, session: Session) -> None:
        super().__init__(words)
        self.session = session
        self.spots: tuple[tuple[float, float], ...] = ()
        self.about_to_paint: Callable[[], object] = lambda: None
        self.reach = (self.drawing, (0.0, 0.0, 0.0, 0.0))
        self.panels: dict[Ref, PanelSpot] = {}

    def name_panels(self, words: dict[Ref, str]) -> None:
        """Make every panel that is drawn an object of its own."""
        before, self.panels = self.panels, {}
        for item in self.drawing.items:
            if isinstance(item, Path) and item.closed and item.ref in words and item.ref not in self.panels:
                spot = self.panels[item.ref] = before.pop(item.ref) if item.ref in before else self._spot(item.ref)
                (x0, y0), (x1, y1) = item.points.min(axis=0).tolist(), item.points.max(axis=0).tolist()
                spot.box = QRectF(x0, y0, x1 - x0, y1 - y0)
                spot.setAccessibleName(words[item.ref])
        for spot in before.values():
            spot.hide()
            spot.deleteLater()
        self._place()

    def _spot(self, ref: Ref) -> PanelSpot:
        spot = PanelSpot(self)
        spot.clicked.connect(lambda: self.clicked.emit(ref))
        return spot

    def check(self, chosen: frozenset[Ref]) -> None:
        """Say which panels are chosen."""
        for ref, spot in self.panels.items():
            spot.setChecked(ref in chosen)

    def _place(self) -> None:
        """Put the panels' objects where they are drawn."""
        least = LOOK.px(ROW)
        for spot in self.panels.values():
            a, b = self.to_screen(spot.box.left(), spot.box.bottom()), self.to_screen(spot.box.right(), spot.box.top())
            box = QRectF(a, b).toAlignedRect()
            more = max(0, least - box.width()), max(0, least - box.height())
            spot.setGeometry(box.adjusted(-more[0] // 2, -more[1] // 2, more[0] // 2 + 1, more[1] // 2 + 1))

    def fit(self) -> None:
        super().fit()
        self._place()

    def zoom_by(self, factor: float, about: QPointF | None = None) -> None:
        super().zoom_by(factor, about)
        self._place()

    def drag(self, step: QPoint) -> None:
        super().drag(step)
        self._place()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = STEPS.get(Qt.Key(event.key()), 0) if self.fitted else 0
        if step:
            self.stepped.emit(step)
        else:
            super().keyPressEvent(event)

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
            self._place()
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

    heard_as = PICTURE

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
