"""The gap as a half-section: object and cover cut through the middle, what lies between them filled, with the unit's scale below."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.coverview import PAUSE_MS
from omnipel.bench.parts.heard import PICTURE
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.ruler import EDGE, paint_edge
from omnipel.bench.parts.strokes import stuff_colour
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.draft import Drafted
from omnipel.core.pictures.halfsection import HalfSection, half_section
from omnipel.core.words.phrases import tr


def _cut(draft: Drafted) -> tuple[Drafted, HalfSection]:
    """A draft with its half-section."""
    return draft, half_section(draft.cover, draft.body)


class SectionCut(QWidget):
    """The half-section, the cover as high as the slider has it."""

    heard_as = PICTURE

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.made: tuple[Drafted | None, HalfSection | None] = (None, None)
        self.kept: tuple[HalfSection, float, HalfSection, BaseGeometry] | None = None
        self.draft: Drafted | None = None
        self.height_mm, self.deep = 0.0, 0.0
        self.cloth = QColor("#9db08a")
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(PAUSE_MS)
        self.timer.timeout.connect(self._ask)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say(tr("Object and cover cut through the middle, with the gap between them")))

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(124), LOOK.px(132))

    def show_draft(self, draft: Drafted | None) -> None:
        """Show the section of a draft; it is cut once nothing has changed for a moment."""
        self.draft = draft
        if draft is not None and self.made[0] is not draft:
            self.timer.start()
        self.cloth = QColor(self.session.open_job.cover.cloth.colour)
        self.setVisible(draft is not None)
        self.update()

    def outdate(self) -> None:
        """The draft has changed: what is about to be cut is no longer wanted."""
        self.timer.stop()
        self.session.painting.forget(self)

    def show_height(self, height: float, depth: float) -> None:
        """Show the cover so far above its place, and mark the object so far below its top, mm."""
        self.height_mm, self.deep = height, depth
        self.update()

    def _ask(self) -> None:
        """Have the section cut, behind the window."""
        if self.draft is not None and self.session.job is not None:
            self.session.painting.ask(self, _cut, self.draft, while_there(self, self._came), self.session.fault)

    def _came(self, made: tuple[Drafted, HalfSection]) -> None:
        if made[0] is self.draft:
            self.made = made
            self.update()

    def _raised(self, whole: HalfSection, *, bag: bool) -> tuple[HalfSection, BaseGeometry]:
        """The section with the cover as high as it is lifted, and what lies between; kept as long as both stay."""
        if self.kept is None or self.kept[0] is not whole or self.kept[1] != self.height_mm:
            shown = whole.raised(self.height_mm, object_too=bag)
            self.kept = whole, self.height_mm, shown, shown.gap()
        return self.kept[2], self.kept[3]

    def paintEvent(self, event: QPaintEvent) -> None:
        draft, whole = self.made
        if whole is None or draft is None or whole.object.is_empty:
            return
        shown, gap = self._raised(whole, bag=draft.cover.from_below)
        x0, y0, x1, y1 = whole.bounds
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(4.0, 6.0, self.width() - 10.0, self.height() - EDGE - 14.0)
        scale = min(box.width() / max(x1 - x0, 1e-6), box.height() / max(y1 - y0, 1e-6))
        left = box.center().x() - (x1 - x0) * scale / 2.0

        def at(x: float, y: float) -> QPointF:
            return QPointF(left + (x - x0) * scale, box.bottom() - (y - y0) * scale)

        painter.setClipRect(QRectF(0.0, 0.0, self.width(), box.bottom() + 2.0))
        tint = LOOK.colour("accent")
        tint.setAlpha(90)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.fillPath(_path(gap, at), tint)
        painter.fillPath(_path(shown.object, at), stuff_colour("sticks out", self.cloth))
        painter.strokePath(_path(shown.object, at), QPen(LOOK.colour("ink"), 1.0))
        for line in shown.cover:
            points = QPolygonF([at(x, y) for x, y in line.tolist()])
            for colour, wide in ((LOOK.colour("ink"), 4.6), (stuff_colour("cloth", self.cloth), 2.6)):
                painter.setPen(QPen(colour, wide, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap, Qt.PenJoinStyle.MiterJoin))
                painter.drawPolyline(points)
        top = float(shown.object.bounds[3])
        y = at(0.0, top - self.deep).y()
        painter.setPen(QPen(LOOK.colour("ink"), 1.0, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(left, y), QPointF(at(x1, 0.0).x() + 5.0, y))
        painter.setPen(QPen(LOOK.colour("soft"), 1.0, Qt.PenStyle.DashDotLine))
        painter.drawLine(QPointF(left, box.top()), QPointF(left, box.bottom()))
        painter.setClipping(False)
        edge = QRectF(left, box.bottom() + 5.0, (x1 - x0) * scale + 1.0, EDGE)
        paint_edge(painter, edge, scale, left, self.session.unit, LOOK.colour("soft"))
        painter.end()


def _path(shape: BaseGeometry, at: Callable[[float, float], QPointF]) -> QPainterPath:
    """A shape with its holes as Qt wants it."""
    path = QPainterPath()
    for part in getattr(shape, "geoms", [shape]):
        if isinstance(part, Polygon) and not part.is_empty:
            for ring in (part.exterior, *part.interiors):
                path.addPolygon(QPolygonF([at(x, y) for x, y in ring.coords]))
                path.closeSubpath()
    return path
