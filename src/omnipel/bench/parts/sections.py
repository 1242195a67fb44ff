"""Seams and edges cut across: as tiles to pick one from, and large with their lengths as fields in the drawing."""

from collections.abc import Callable, Iterable, Mapping
from functools import partial
from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QEnterEvent,
    QFocusEvent,
    QFont,
    QFontMetrics,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
)
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QLabel, QSizePolicy, QWidget

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.heard import GROUP
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.strokes import luminance, mixed
from omnipel.bench.parts.tapefield import TapeField
from omnipel.bench.parts.widgets import label
from omnipel.bench.speech import say
from omnipel.core.drafting.crosssection import CrossSection, Side
from omnipel.core.words.phrases import Name, Value

WIDE: Final = 76
"""A field in the drawing is so wide, px at 100 %."""


def layer_colour(side: Side, cloth: QColor) -> QColor:
    """The colour of a layer: both sides of a seam are cloth of the job, told apart by their lightness and by an edge line."""
    dark = luminance(cloth) < 0.14
    match side:
        case Side.FIRST:
            return cloth
        case Side.SECOND:
            return mixed(cloth, QColor("#ffffff"), 0.45)
        case _:
            return mixed(cloth, QColor("#ffffff" if dark else "#17130c"), 0.6)


def paint_section(painter: QPainter, section: CrossSection, box: QRectF, cloth: QColor) -> tuple[float, QPointF]:
    """Paint a cross-section into a box; its scale, px a mm, and where its origin came to lie."""
    x0, y0, x1, y1 = section.bounds
    scale = min(box.width() / max(x1 - x0, 1e-6), box.height() / max(y1 - y0, 1e-6))
    origin = QPointF(box.center().x() - (x0 + x1) / 2.0 * scale, box.center().y() + (y0 + y1) / 2.0 * scale)

    def at(x: float, y: float) -> QPointF:
        return QPointF(origin.x() + x * scale, origin.y() - y * scale)

    painter.setBrush(Qt.BrushStyle.NoBrush)
    wide = max(3.0, section.t * scale)
    for line in section.layers:
        shape = QPolygonF([at(x, y) for x, y in line.points.tolist()])
        for colour, width in ((LOOK.colour("ink"), wide + 1.6), (layer_colour(line.side, cloth), wide)):
            pen = QPen(colour, width)
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
            pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
            painter.setPen(pen)
            painter.drawPolyline(shape)
    painter.setPen(QPen(LOOK.colour("ink"), 1.6))
    painter.setBrush(LOOK.colour("surface"))
    for x, y, r in section.cords:
        painter.drawEllipse(at(x, y), r * scale, r * scale)
    for x, low, high in section.stitches:
        half = 3.0 * section.t if low == high else 0.0
        painter.setPen(QPen(LOOK.colour("surface"), 3.4))
        painter.drawLine(at(x - half, low), at(x + half, high))
        painter.setPen(QPen(LOOK.colour("ink"), 1.8))
        painter.drawLine(at(x - half, low), at(x + half, high))
    return scale, origin


class SectionTile(Entered, QAbstractButton):
    """One way to sew a seam or finish an edge: its cross-section and its word; one of a group of which one is chosen."""

    pointed = Signal(object)
    """Somebody looks at it, by pointer or by key; None when no longer."""
    walked = Signal(int)
    """An arrow key goes to the next tile (1) or to the one before (−1)."""

    def __init__(self, words: str, about: str, section: CrossSection, value: object) -> None:
        super().__init__()
        self.section, self.value, self.cloth = section, value, QColor("#9db08a")
        self.setText(words)
        self.setCheckable(True)
        self.setAutoExclusive(True)  # one of them: told as a radio button
        self.setAccessibleName(words)
        self.setAccessibleDescription(about)
        self.setToolTip(about)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        font = LOOK.font(12, QFont.Weight.DemiBold)
        wide = max(LOOK.px(74), QFontMetrics(font).horizontalAdvance(self.text()) + 8)
        return QSize(wide, LOOK.px(50))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = self.isChecked()
        painter.setBrush(LOOK.colour("surface"))
        painter.setPen(
            QPen(
                LOOK.colour("accent" if chosen or self.hasFocus() else "soft"), 2.4 if chosen else 2.0 if self.hasFocus() else 1.0
            )
        )
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5), 3, 3)
        words = LOOK.px(17)
        paint_section(painter, self.section, QRectF(6, 5, self.width() - 12, self.height() - words - 8), self.cloth)
        painter.setFont(LOOK.font(12, QFont.Weight.DemiBold if chosen else QFont.Weight.Normal))
        painter.setPen(LOOK.colour("ink"))
        painter.drawText(QRectF(2, self.height() - words - 3, self.width() - 4, words), Qt.AlignmentFlag.AlignCenter, self.text())
        painter.end()

    def enterEvent(self, event: QEnterEvent) -> None:
        self.pointed.emit(self.value)

    def leaveEvent(self, event: object) -> None:
        self.pointed.emit(None)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.pointed.emit(self.value)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        walks = {Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1}
        if event.key() in walks:
            self.walked.emit(walks[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)


class SectionTiles(QWidget):
    """Tiles of which one is chosen. Arrow keys walk them; Tab goes on to what comes after."""

    heard_as = GROUP

    picked = Signal(object)
    pointed = Signal(object)

    def __init__(self, words: Value, tiles: Iterable[SectionTile], cloth: QColor) -> None:
        super().__init__()
        self.setAccessibleName(say(words))
        self.group = QButtonGroup(self)
        self.tiles = list(tiles)
        flow = Flow(gap=5)
        for tile in self.tiles:
            tile.cloth = cloth
            tile.clicked.connect(lambda _on=False, t=tile: self.picked.emit(t.value))
            tile.pointed.connect(self.pointed.emit)
            tile.walked.connect(partial(self._walk, tile))
            self.group.addButton(tile)
            flow.addWidget(tile)
        self.setLayout(flow)

    def show_value(self, value: object) -> None:
        """Show which is chosen."""
        for tile in self.tiles:
            chosen = tile.value == value
            tile.setChecked(chosen)
            if chosen:
                self.setFocusProxy(tile)

    def _walk(self, tile: SectionTile, step: int) -> None:
        """Put the focus on a neighbour, all around."""
        self.tiles[(self.tiles.index(tile) + step) % len(self.tiles)].setFocus(Qt.FocusReason.TabFocusReason)

    @property
    def values(self) -> list[object]:
        """What can be picked."""
        return [tile.value for tile in self.tiles]


class SectionView(QWidget):
    """A cross-section, large, with the lengths that are decided as fields in the drawing."""

    def __init__(
        self, section: CrossSection, cloth: QColor, fields: Mapping[str, tuple[str, TapeField]], names: Callable[[Side], str]
    ) -> None:
        super().__init__()
        self.section, self.cloth, self.names = section, cloth, names
        self.fields = {part: field for part, (_, field) in fields.items()}
        self.captions: dict[str, QLabel] = {}
        for part, (words, field) in fields.items():
            field.setParent(self)
            caption = label(Name(words), "soft")
            caption.setParent(self)
            caption.setBuddy(field)
            self.captions[part] = caption
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.scale, self.origin = 1.0, QPointF()

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(280), self.minimumSizeHint().height())

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(196), LOOK.px(144 if self.across else 190))

    @property
    def field_wide(self) -> int:
        """How wide a field is: less where there is little room."""
        return min(LOOK.px(WIDE), max(LOOK.px(52), self.width() // 4))

    @property
    def across(self) -> bool:
        """Whether lengths stand upright in the drawing: their fields are beside it."""
        return any(abs(m.a[0] - m.b[0]) < 1e-9 for m in self.section.measures)

    @property
    def box(self) -> QRectF:
        """Where the drawing lies: beside it and above and below are the fields."""
        side = self.field_wide + LOOK.px(14) if self.across else LOOK.px(24)
        top, low = (LOOK.px(26), LOOK.px(26)) if self.across else (LOOK.px(58), LOOK.px(72))
        return QRectF(side, top, max(40.0, self.width() - 2 * side), max(30.0, self.height() - top - low))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("ground"))
        painter.setPen(QPen(LOOK.colour("line"), 1.0))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3)
        self.scale, self.origin = paint_section(painter, self.section, self.box, self.cloth)
        painter.setPen(QPen(LOOK.colour("accent"), 1.2))
        for measure in self.section.measures:
            if measure.part in self.fields:
                self._dimension(painter, self._at(*measure.a), self._at(*measure.b), measure.part)
        self._named(painter)
        painter.end()

    def _dimension(self, painter: QPainter, a: QPointF, b: QPointF, part: str) -> None:
        """The line of a length, with a bar at each end, and a thread to its field."""
        painter.drawLine(a, b)
        upright = abs(a.x() - b.x()) < 0.5
        bar = QPointF(4.0, 0.0) if upright else QPointF(0.0, 4.0)
        for end in (a, b):
            painter.drawLine(end - bar, end + bar)
        field = QRectF(self.fields[part].geometry())
        middle = (a + b) / 2.0
        to = QPointF(field.left() if field.center().x() > middle.x() else field.right(), field.center().y())
        if not upright:
            to = QPointF(
                min(max(middle.x(), field.left()), field.right()),
                field.bottom() if field.center().y() < middle.y() else field.top(),
            )
        painter.drawLine(middle, to)

    def _named(self, painter: QPainter) -> None:
        """What each side of a seam is."""
        painter.setFont(LOOK.font(12))
        painter.setPen(LOOK.colour("soft"))
        sides = {line.side for line in self.section.layers}
        high = QRectF(8, self.height() - LOOK.px(20), self.width() - 16, LOOK.px(17))
        for side, where in ((Side.FIRST, Qt.AlignmentFlag.AlignLeft), (Side.SECOND, Qt.AlignmentFlag.AlignRight)):
            words = self.names(side) if side in sides else ""
            if words:
                room = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(high.width() / 2.0))
                painter.drawText(high, where, room)

    def _at(self, x: float, y: float) -> QPointF:
        return QPointF(self.origin.x() + x * self.scale, self.origin.y() - y * self.scale)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.rescale()

    def rescale(self) -> None:
        """Put the fields beside their lengths."""
        x0, y0, x1, y1 = self.section.bounds
        box = self.box
        self.scale = min(box.width() / max(x1 - x0, 1e-6), box.height() / max(y1 - y0, 1e-6))
        self.origin = QPointF(box.center().x() - (x0 + x1) / 2.0 * self.scale, box.center().y() + (y0 + y1) / 2.0 * self.scale)
        wide, high = self.field_wide, LOOK.px(28)
        taken: dict[str, float] = {}
        for measure in self.section.measures:
            field = self.fields.get(measure.part)
            if field is None:
                continue
            a, b = self._at(*measure.a), self._at(*measure.b)
            middle, caption = (a + b) / 2.0, self.captions[measure.part]
            caption.setFont(LOOK.font(12))
            said = caption.sizeHint().width()
            if abs(a.x() - b.x()) < 0.5:
                left = 8.0 if middle.x() < self.width() / 2.0 else self.width() - 8.0 - wide
                field.setGeometry(
                    int(left), int(min(max(middle.y() - high / 2.0, 26.0), self.height() - high - 22.0)), wide, high
                )
                caption.setGeometry(int(left), field.y() - LOOK.px(17), max(wide, said), LOOK.px(16))
                continue
            row = "above" if middle.y() < box.center().y() else "below"
            least = taken.get(row, 6.0)
            x = min(max(middle.x() - wide / 2.0 - said / 2.0, least), self.width() - wide - said - 10.0)
            y = 6.0 if row == "above" else self.height() - high - 22.0
            caption.setGeometry(int(x), int(y), said, high)
            field.setGeometry(int(x + said + 4), int(y), wide, high)
            taken[row] = x + said + wide + 12.0
