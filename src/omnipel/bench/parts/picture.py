"""Replays a drawing on screen: zoom, pan, and what lies under the pointer."""

import math
from collections.abc import Mapping
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK, Colours
from omnipel.bench.speech import say
from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.pens import FAR, PENS, Layer
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref

NEAR = 7.0
"""A line this near to the pointer counts as pointed at, px."""


def pen(layer: Layer, *, lit: bool = False, far: bool = False) -> QPen:
    """The pen of a layer on screen; cosmetic, so that it does not grow with the zoom."""
    return _pen(layer, lit, far, LOOK.colours)


@lru_cache(maxsize=256)
def _pen(layer: Layer, lit: bool, far: bool, _colours: Colours) -> QPen:
    known = FAR if far else PENS[layer]
    made = QPen(LOOK.colour("accent" if lit else known.ink), 3.2 if lit else known.px)
    if known.px_dash and not lit:
        made.setDashPattern(known.px_dash)
    made.setCosmetic(True)
    made.setCapStyle(Qt.PenCapStyle.FlatCap)
    made.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    return made


def polygons_of(drawing: Drawing) -> list[QPolygonF | None]:
    """The drawing's paths as Qt wants them, y down; None for labels."""
    return [
        QPolygonF([QPointF(x, -y) for x, y in item.points.tolist()]) if isinstance(item, Path) else None for item in drawing.items
    ]


def paint_paths(
    painter: QPainter,
    drawing: Drawing,
    polygons: list[QPolygonF | None],
    cloth: QColor,
    lit: frozenset[Ref] = frozenset(),
    tints: Mapping[str, QColor] | None = None,
) -> None:
    """Paint a drawing's paths in the painter's own frame; those whose ref is `lit` stand out."""
    for item, polygon in zip(drawing.items, polygons, strict=True):
        if not isinstance(item, Path) or polygon is None:
            continue
        if item.pairs:
            painter.setPen(pen(item.layer))
            painter.drawLines(polygon.toList())
            continue
        if item.layer is Layer.FACE:
            brush = _tinted(item, tints) if tints and item.fill in tints else _brush(item, cloth)
            # Facets are drawn hard-edged, in half the time; the lines over them are smooth. A hairline in the facet's own colour
            # closes the gaps, but where one sees through them it would draw a net.
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
            hair = QPen(brush.color(), 1.0) if brush.isOpaque() else QPen(Qt.PenStyle.NoPen)
            hair.setCosmetic(True)
            painter.setPen(hair)
            painter.setBrush(brush)
            painter.drawPolygon(polygon)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)
            continue
        shines = bool(lit) and item.ref in lit and item.layer in (Layer.SEW, Layer.CUT)
        painter.setPen(pen(item.layer, lit=shines, far=item.far))
        if item.closed:
            painter.setBrush(_brush(item, cloth))
            painter.drawPolygon(polygon)
        else:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(polygon)


def _tinted(item: Path, tints: Mapping[str, QColor]) -> QBrush:
    """A face of the cover in its own colour, seen through as much as its alpha says."""
    colour = tints[item.fill]
    shaded = _shaded(colour, item.tone)
    shaded.setAlpha(colour.alpha())
    return QBrush(shaded)


def _brush(item: Path, cloth: QColor) -> QBrush:
    if item.layer is Layer.FACE:
        kind = item.fill.partition(":")[0]
        base = {"object": LOOK.colour("body"), "sticks out": LOOK.colour("glow")}.get(kind, cloth)
        return QBrush(_shaded(base, item.tone))
    if not item.fill:
        return QBrush(Qt.BrushStyle.NoBrush)
    tint = QColor(cloth)
    tint.setAlphaF(0.30 if item.fill == "outer" else 0.14)
    return QBrush(tint)


class Thumbnail:
    """A drawing made ready once, to be painted small into any box."""

    def __init__(self, drawing: Drawing) -> None:
        self.drawing, self.polygons = drawing, polygons_of(drawing)

    def paint(self, painter: QPainter, box: QRectF) -> None:
        """Paint it fitted into a box."""
        x0, y0, x1, y1 = self.drawing.bounds
        scale = min(box.width() / max(x1 - x0, 1e-6), box.height() / max(y1 - y0, 1e-6))
        painter.save()
        painter.translate(box.center())
        painter.scale(scale, scale)
        painter.translate(-(x0 + x1) / 2.0, (y0 + y1) / 2.0)
        paint_paths(painter, self.drawing, self.polygons, LOOK.colour("line"))
        painter.restore()


class PictureView(QWidget):
    """Shows one drawing, fitted until the person zooms.

    `pointed` tells the ref under the pointer ("" for none), `clicked` the ref that was clicked.
    """

    pointed = Signal(object)
    clicked = Signal(object)

    def __init__(self, words: Phrase) -> None:
        super().__init__()
        self.setAccessibleName(say(words))
        self.drawing = Drawing(())
        self.polygons: list[QPolygonF | None] = []
        self.cloth = QColor("#9db08a")
        self.lit: frozenset[Ref] = frozenset()
        self.tints: dict[str, QColor] = {}
        self.zoom, self.middle = 1.0, QPointF(0.0, 0.0)
        self.fitted = True
        self.grabbed: QPoint | None = None
        self.moved = False
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
        self.polygons = polygons_of(drawing)
        if self.fitted:
            self.fit()
        self.update()

    def fit(self) -> None:
        """Show the whole drawing."""
        x0, y0, x1, y1 = self.drawing.bounds
        margin = 28.0 * LOOK.scale
        wide, high = max(x1 - x0, 1e-6), max(y1 - y0, 1e-6)
        self.zoom = max(1e-6, min((self.width() - 2 * margin) / wide, (self.height() - 2 * margin) / high))
        self.middle = QPointF((x0 + x1) / 2.0, -(y0 + y1) / 2.0)
        self.fitted = True
        self.update()

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
        paint_paths(painter, self.drawing, self.polygons, self.cloth, self.lit, self.tints)
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
        for item, polygon in zip(reversed(self.drawing.items), reversed(self.polygons), strict=True):
            if (
                isinstance(item, Path)
                and item.closed
                and item.ref
                and polygon is not None
                and polygon.containsPoint(at, Qt.FillRule.OddEvenFill)
            ):
                return item.ref
        return None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
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
        self.grabbed = None
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


def _shaded(colour: QColor, tone: float) -> QColor:
    """A colour in light of 0 … 1."""
    shade = 0.74 + 0.26 * tone
    return QColor.fromRgbF(colour.redF() * shade, colour.greenF() * shade, colour.blueF() * shade)


def _distance(here: np.ndarray, points: np.ndarray) -> float:
    """From a point to a polyline."""
    if len(points) < 2:
        return math.inf
    start, along = points[:-1], np.diff(points, axis=0)
    size = np.einsum("ij,ij->i", along, along)
    part = np.clip(np.einsum("ij,ij->i", here - start, along) / np.where(size > 0.0, size, 1.0), 0.0, 1.0)
    return float(np.sqrt(((start + along * part[:, None] - here) ** 2).sum(axis=1).min()))
