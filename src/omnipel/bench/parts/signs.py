"""Line drawings of the stations, made with the pens of the pictures: contour, crease and stitches; small on the rail, large where there is nothing yet."""

from collections.abc import Callable
from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import button, column, label
from omnipel.core.words.phrases import NOTHING, Phrase

SIDE: Final = 32.0
"""Signs are drawn in a square of so many units."""

Marks = tuple[QPainterPath, QPainterPath, QPainterPath]
"""Contours, creases, and stitches."""


def _drum(path: QPainterPath, left: float, top: float, wide: float, high: float, flat: float) -> None:
    """An upright cylinder."""
    path.addEllipse(QRectF(left, top, wide, flat))
    path.moveTo(left, top + flat / 2.0)
    path.lineTo(left, top + high - flat / 2.0)
    path.arcTo(QRectF(left, top + high - flat, wide, flat), 180.0, 180.0)
    path.lineTo(left + wide, top + flat / 2.0)


def _polyline(path: QPainterPath, *points: tuple[float, float]) -> None:
    path.moveTo(*points[0])
    for point in points[1:]:
        path.lineTo(*point)


def _shelf(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """Covers on a board."""
    _polyline(contour, (2.0, 26.0), (30.0, 26.0))
    _polyline(contour, (5.0, 26.0), (5.0, 12.0))
    contour.arcTo(QRectF(5.0, 7.0, 10.0, 10.0), 180.0, -180.0)
    contour.lineTo(15.0, 26.0)
    contour.addRect(QRectF(19.0, 14.0, 8.0, 12.0))
    _polyline(stitch, (5.0, 23.0), (15.0, 23.0))
    _polyline(stitch, (19.0, 23.0), (27.0, 23.0))
    _polyline(crease, (5.0, 12.0), (15.0, 12.0))


def _object(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A thing with something that sticks out."""
    _drum(contour, 7.0, 5.0, 14.0, 22.0, 6.0)
    _polyline(contour, (21.0, 13.0), (28.0, 13.0), (28.0, 17.0), (21.0, 17.0))
    crease.moveTo(7.0, 20.0)
    crease.arcTo(QRectF(7.0, 17.0, 14.0, 6.0), 180.0, 180.0)


def _tape(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A rolled tape, its end drawn out."""
    contour.addEllipse(QRectF(3.0, 4.0, 20.0, 20.0))
    contour.addEllipse(QRectF(10.0, 11.0, 6.0, 6.0))
    _polyline(contour, (13.0, 24.0), (30.0, 24.0), (30.0, 29.0), (3.0, 29.0), (3.0, 14.0))
    for k, x in enumerate((7.0, 11.0, 15.0, 19.0, 23.0, 27.0)):
        _polyline(crease, (x, 29.0), (x, 26.2 if k % 2 else 27.4))


def _cover(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A cover with its rim seam and its hem."""
    contour.moveTo(4.0, 13.0)
    contour.arcTo(QRectF(4.0, 3.0, 24.0, 14.0), 200.0, -220.0)
    _polyline(contour, (4.5, 12.0), (4.5, 26.0))
    contour.arcTo(QRectF(4.5, 22.0, 23.0, 7.0), 180.0, 180.0)
    contour.lineTo(27.5, 12.0)
    crease.moveTo(4.5, 12.0)
    crease.arcTo(QRectF(4.5, 8.5, 23.0, 7.0), 180.0, 180.0)
    stitch.moveTo(4.5, 22.6)
    stitch.arcTo(QRectF(4.5, 19.1, 23.0, 7.0), 180.0, 180.0)


def _panels(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A lid and its wall, flat, their sew lines inside."""
    contour.addEllipse(QRectF(8.0, 3.0, 16.0, 16.0))
    stitch.addEllipse(QRectF(10.2, 5.2, 11.6, 11.6))
    contour.addRect(QRectF(3.0, 21.5, 26.0, 7.5))
    stitch.addRect(QRectF(5.0, 23.5, 22.0, 3.5))


def _cloth(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A bolt of cloth with a length drawn off it, a panel marked on that."""
    contour.addEllipse(QRectF(3.0, 4.0, 6.0, 24.0))
    crease.addEllipse(QRectF(5.0, 12.0, 2.0, 8.0))
    _polyline(contour, (6.0, 4.0), (29.0, 4.0), (29.0, 28.0), (6.0, 28.0))
    stitch.addRect(QRectF(13.0, 8.0, 12.0, 9.0))
    _polyline(crease, (13.0, 21.5), (25.0, 21.5), (25.0, 24.5), (13.0, 24.5), (13.0, 21.5))


def _sew(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A needle with its thread over a seam."""
    _polyline(contour, (23.0, 3.0), (11.0, 20.0), (9.0, 24.0), (13.0, 21.5), (25.0, 4.5), (23.0, 3.0))
    crease.addEllipse(QRectF(21.0, 5.0, 2.5, 3.5))
    crease.moveTo(23.0, 7.0)
    crease.cubicTo(30.0, 10.0, 31.0, 16.0, 27.0, 20.0)
    _polyline(stitch, (3.0, 27.5), (29.0, 27.5))


def _fit(contour: QPainterPath, crease: QPainterPath, stitch: QPainterPath) -> None:
    """A cover lowered over a drum."""
    _drum(crease, 9.0, 12.0, 14.0, 17.0, 5.0)
    contour.moveTo(6.0, 8.0)
    contour.arcTo(QRectF(6.0, 4.0, 20.0, 8.0), 180.0, -180.0)
    _polyline(contour, (6.0, 8.0), (6.0, 19.0))
    contour.arcTo(QRectF(6.0, 15.0, 20.0, 8.0), 180.0, 180.0)
    contour.lineTo(26.0, 8.0)
    stitch.moveTo(6.0, 8.0)
    stitch.arcTo(QRectF(6.0, 4.0, 20.0, 8.0), 180.0, 180.0)


SIGNS: Final[dict[str, Callable[[QPainterPath, QPainterPath, QPainterPath], None]]] = {
    "shelf": _shelf,
    "object": _object,
    "tape": _tape,
    "cover": _cover,
    "panels": _panels,
    "cloth": _cloth,
    "sew": _sew,
    "fit": _fit,
}
"""By station."""


def paint_sign(painter: QPainter, box: QRectF, name: str, ink: QColor) -> None:
    """Paint a station's sign into a box; lines are as thin as those of the pictures, however large the sign. A station from outside may have none."""
    if name not in SIGNS:
        return
    marks: Marks = QPainterPath(), QPainterPath(), QPainterPath()
    SIGNS[name](*marks)
    side = min(box.width(), box.height())
    large = side > LOOK.px(48)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(box.center() - QPointF(side, side) / 2.0)
    painter.scale(side / SIDE, side / SIDE)
    for path, width in zip(marks, (2.0, 1.0, 1.2) if large else (1.6, 1.0, 1.0), strict=True):
        pen = QPen(ink, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
        pen.setCosmetic(True)
        if path is marks[2]:
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
            pen.setDashPattern([4.0, 2.6] if large else [2.0, 1.6])
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
    painter.restore()


class Sign(QWidget):
    """A station's sign, large."""

    def __init__(self, name: str, size: float = 112.0) -> None:
        super().__init__()
        self.name, self.size_px = name, size
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(self.size_px), LOOK.px(self.size_px))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_sign(painter, QRectF(self.rect()).adjusted(4, 4, -4, -4), self.name, LOOK.colour("soft"))
        painter.end()


class Vacant(QWidget):
    """What stands where there is nothing yet: a drawing, a sentence, and a button that leads on."""

    def __init__(self, name: str, act: Phrase, done: Callable[[], object]) -> None:
        super().__init__()
        self.sign = Sign(name)
        self.words = label(NOTHING, "head", wrap=True)
        self.words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.button = button(act, done)
        layout = column(self.sign, self.words, self.button, spacing=12, margins=24)
        for widget in (self.sign, self.button):
            layout.setAlignment(widget, Qt.AlignmentFlag.AlignHCenter)
        layout.insertStretch(0, 1)
        layout.addStretch(1)
        self.setLayout(layout)

    def say(self, words: str) -> None:
        """The sentence."""
        self.words.setText(words)
