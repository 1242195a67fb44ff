"""Replays a drawing on screen: zoom, pan, and what lies under the pointer."""

import math
import struct
from collections.abc import Iterator

import numpy as np
from PySide6.QtCore import QByteArray, QDataStream, QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.heard import PICTURE
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.strokes import Shape, Stroke, Thumbnail, fill_rule, paint_strokes, pen, shaped
from omnipel.bench.speech import say
from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref

NEAR = 7.0
"""A line this near to the pointer counts as pointed at, px."""


ELEMENT = np.dtype([("kind", ">i4"), ("x", ">f8"), ("y", ">f8")])
"""An element of a path as Qt streams it: 0 moves, 1 draws a line."""


def strokes_of(drawing: Drawing) -> list[tuple[Stroke, Shape]]:
    """The drawing's paths as Qt wants them, without its labels; what consists of many parts is streamed, far quicker than point by point."""
    paths = [item for item in drawing.items if isinstance(item, Path)]
    streamed = iter(_streamed([item for item in paths if item.pairs or item.rings]))
    return [
        (item, next(streamed) if item.pairs or item.rings else shaped(item, (item.points * (1.0, -1.0)).tolist()))
        for item in paths
    ]


def _streamed(items: list[Path]) -> Iterator[QPainterPath]:
    """Separate lines, and rings, each of which ends where it begins; y down."""
    counts = [len(item.points) for item in items]
    firsts = (np.cumsum(counts) - counts).tolist()
    begins = [
        first + (np.arange(0, count, 2) if item.pairs else np.array(item.rings, dtype=np.intp))
        for item, first, count in zip(items, firsts, counts, strict=True)
    ]
    closed = np.repeat([not item.pairs for item in items], [len(one) for one in begins]).astype(bool)
    start = np.concatenate((*begins, np.empty(0, dtype=np.intp)))
    end = np.append(start[1:], sum(counts))
    index = np.insert(np.arange(sum(counts)), end[closed], start[closed])
    shift = np.cumsum(closed) - closed  # so many points more lie before each part
    made = np.empty(len(index), dtype=ELEMENT)
    points = np.concatenate((*(item.points for item in items), np.empty((0, 2))))[index]
    made["kind"], made["x"], made["y"] = 1, points[:, 0], -points[:, 1]
    made["kind"][start + shift] = 0
    lasts = (end + np.cumsum(closed)).tolist()
    moved = (start + shift).tolist()
    raw: list[bytes] = []
    at = here = 0
    for item, parts in zip(items, begins, strict=True):
        stop = at + len(parts)
        there = lasts[stop - 1] if len(parts) else here
        first = moved[stop - 1] - here if len(parts) else 0
        raw += (struct.pack(">i", there - here), made[here:there].tobytes(), struct.pack(">ii", first, fill_rule(item).value))
        at, here = stop, there
    stream = QDataStream(QByteArray(b"".join(raw)))
    for _ in items:
        path = QPainterPath()
        stream >> path
        yield path


def thumbnail(drawing: Drawing) -> Thumbnail:
    """A drawing made ready to be painted small."""
    x0, y0, x1, y1 = drawing.bounds
    return Thumbnail(strokes_of(drawing), QRectF(x0, -y1, x1 - x0, y1 - y0))


class PictureView(QWidget):
    """Shows one drawing, fitted until the person zooms.

    `pointed` tells the ref under the pointer ("" for none), `clicked` the ref that was clicked.
    """

    heard_as = PICTURE

    pointed = Signal(object)
    clicked = Signal(object)
    margin = 28.0
    """Around what is fitted, px at 100 % text."""

    def __init__(self, words: Phrase) -> None:
        super().__init__()
        self.setAccessibleName(say(words))
        self.drawing = Drawing(())
        self.strokes: list[tuple[Stroke, Shape]] = []
        self.cloth = QColor("#9db08a")
        self.lit: frozenset[Ref] = frozenset()
        self.zoom, self.middle = 1.0, QPointF(0.0, 0.0)
        self.fitted = True
        self.grabbed: QPoint | None = None
        self.moved = False
        self.here = QPointF()
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(120, 120)
        self.hint = QSize(480, 360)

    def sizeHint(self) -> QSize:
        return self.hint

    def set_drawing(self, drawing: Drawing) -> None:
        """Show another drawing, at the same zoom unless it is still fitted."""
        self.drawing = drawing
        self.strokes = strokes_of(drawing)
        if self.fitted:
            self.fit()
        self.update()

    def fit(self) -> None:
        """Show the whole drawing."""
        x0, y0, x1, y1 = self.frame()
        margin = self.around
        wide, high = max(x1 - x0, 1e-6), max(y1 - y0, 1e-6)
        self.zoom = max(1e-6, min((self.width() - 2 * margin) / wide, (self.height() - 2 * margin) / high))
        self.middle = QPointF((x0 + x1) / 2.0, -(y0 + y1) / 2.0)
        self.fitted = True
        self.update()

    @property
    def around(self) -> float:
        """How much is left free at each side, px: little of what is little."""
        return min(self.margin * LOOK.scale, 0.12 * min(self.width(), self.height()))

    def frame(self) -> tuple[float, float, float, float]:
        """What is fitted into the view: least and greatest x and y."""
        return self.drawing.bounds

    def resizeEvent(self, event: QResizeEvent) -> None:
        if self.fitted:
            self.fit()

    def to_screen(self, x: float, y: float) -> QPointF:
        """Where a point of the drawing (y up) stands on screen."""
        return QPointF(
            (x - self.middle.x()) * self.zoom + self.width() / 2.0, (-y - self.middle.y()) * self.zoom + self.height() / 2.0
        )

    def from_screen(self, point: QPointF) -> tuple[float, float]:
        """The point of the drawing under a point of the screen."""
        x = (point.x() - self.width() / 2.0) / self.zoom + self.middle.x()
        return x, -((point.y() - self.height() / 2.0) / self.zoom + self.middle.y())

    def zoom_by(self, factor: float, about: QPointF | None = None) -> None:
        """Zoom about a point of the screen."""
        about = about or QPointF(self.width() / 2.0, self.height() / 2.0)
        x, y = self.from_screen(about)
        self.zoom = min(max(self.zoom * factor, 0.002), 200.0)
        self.middle = QPointF(
            x - (about.x() - self.width() / 2.0) / self.zoom, -y - (about.y() - self.height() / 2.0) / self.zoom
        )
        self.fitted = False
        self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.save()
        painter.translate(self.width() / 2.0, self.height() / 2.0)
        painter.scale(self.zoom, self.zoom)
        painter.translate(-self.middle.x(), -self.middle.y())
        paint_strokes(painter, self.strokes, self.cloth, self.lit)
        painter.restore()
        for item in self.drawing.items:
            if isinstance(item, Label) and item.words:
                self._paint_label(painter, item)
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("accent"), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 3, 3)
        painter.end()

    def _paint_label(self, painter: QPainter, item: Label) -> None:
        font = LOOK.font(1.0, QFont.Weight.DemiBold if item.strong else QFont.Weight.Normal)
        size = round(item.size * self.zoom)
        if size < 5:
            return
        font.setPixelSize(size)
        painter.save()
        painter.setFont(font)
        painter.translate(self.to_screen(*item.at))
        if item.angle:
            painter.rotate(-math.degrees(item.angle))
        width = painter.fontMetrics().horizontalAdvance(item.words)
        at = QPointF(-item.anchor * width, 0.0)
        if item.layer is Layer.TAPE:
            back = LOOK.colour("surface")
            back.setAlpha(225)
            box = QRectF(at.x() - 6, -size, width + 12, size * 1.35)
            # The words stay inside the picture wherever the path runs.
            here = self.to_screen(*item.at)
            shift = min(0.0, self.width() - 4.0 - (here.x() + box.right())) + max(0.0, 4.0 - (here.x() + box.left()))
            sink = min(0.0, self.height() - 4.0 - (here.y() + box.bottom())) + max(0.0, 4.0 - (here.y() + box.top()))
            box.translate(shift, sink)
            at += QPointF(shift, sink)
            painter.fillRect(box, back)
        painter.setPen(pen(item.layer).color())
        painter.drawText(at, item.words)
        painter.restore()

    # Pointing

    def ref_at(self, point: QPointF) -> Ref | None:
        """What was drawn under a point of the screen: the nearest line within reach, or the face that holds it."""
        here = np.array(self.from_screen(point))
        reach = NEAR / self.zoom
        best, found = reach, None
        for item in self.drawing.items:
            if item.ref is None:
                continue
            if isinstance(item, Label):
                half = item.size * 0.3 * len(item.words)
                dx, dy = (half, item.size) if not item.angle else (item.size, half)
                if abs(here[0] - item.at[0]) <= dx and -item.size * 0.4 <= here[1] - item.at[1] <= dy:
                    return item.ref
                continue
            distance = _distance(here, item.points)
            if distance < best:
                best, found = distance, item.ref
        if found is not None:
            return found
        at = QPointF(float(here[0]), -float(here[1]))
        for stroke, shape in reversed(self.strokes):
            if stroke.closed and stroke.ref and isinstance(shape, QPolygonF) and shape.containsPoint(at, Qt.FillRule.OddEvenFill):
                return stroke.ref
        return None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self.here = event.position()
        if self.grabbed is not None:
            step = event.position().toPoint() - self.grabbed
            self.moved = self.moved or step.manhattanLength() > 3
            self.grabbed = event.position().toPoint()
            self.drag(step)
            return
        self.pointed.emit(self.ref_at(event.position()))

    def drag(self, step: QPoint) -> None:
        """The pointer was dragged by so many px: pan."""
        self.middle -= QPointF(step.x() / self.zoom, step.y() / self.zoom)
        self.fitted = False
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.grabbed, self.moved = event.position().toPoint(), False

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.grabbed, self.here = None, event.position()
        if not self.moved:
            self.clicked.emit(self.ref_at(event.position()))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.fit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom_by(1.0015 ** event.angleDelta().y(), event.position())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        match event.key():
            case Qt.Key.Key_Plus | Qt.Key.Key_Equal:
                self.zoom_by(1.25)
            case Qt.Key.Key_Minus:
                self.zoom_by(0.8)
            case Qt.Key.Key_0:
                self.fit()
            case Qt.Key.Key_Left | Qt.Key.Key_Right | Qt.Key.Key_Up | Qt.Key.Key_Down:
                step = {Qt.Key.Key_Left: (24, 0), Qt.Key.Key_Right: (-24, 0), Qt.Key.Key_Up: (0, 24), Qt.Key.Key_Down: (0, -24)}
                self.drag(QPoint(*step[Qt.Key(event.key())]))
            case _:
                super().keyPressEvent(event)


def _distance(here: np.ndarray, points: np.ndarray) -> float:
    """From a point to a polyline."""
    if len(points) < 2:
        return math.inf
    start, along = points[:-1], np.diff(points, axis=0)
    size = np.einsum("ij,ij->i", along, along)
    part = np.clip(np.einsum("ij,ij->i", here - start, along) / np.where(size > 0.0, size, 1.0), 0.0, 1.0)
    return float(np.sqrt(((start + along * part[:, None] - here) ** 2).sum(axis=1).min()))
