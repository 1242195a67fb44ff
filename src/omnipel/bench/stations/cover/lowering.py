"""Lower it: the cover is moved down over its object by a slider, and beside it stands the smallest gap on the way, with its spread."""

import math

import numpy as np
from numpy.typing import ArrayLike
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QSlider, QWidget

from omnipel.bench.parts.heard import CHART
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import column, label, paint_state, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cover.sectioncut import SectionCut
from omnipel.core.advice.passing import below_top
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit
from omnipel.core.fit.lowering import Lowering, lowering
from omnipel.core.space.cells import thinned
from omnipel.core.tolerances import TIGHT_CLEARANCE
from omnipel.core.words.phrases import mm, tr
from omnipel.core.words.typeset import held

STEPS = 200
LIKELY = 2.0
"""The band reaches so many times the spread to each side: nineteen of twenty."""
TICKS = 4


class LoweringPanel(QWidget):
    """The slider, the curve and the tightest place in words."""

    lifted = Signal(float, object, str)
    """How far above its place the cover is shown, mm; and how far below the object's top it is narrowest, mm, with the gap there in words: None where
    there is nothing to mark."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.way: Lowering | None = None
        self.outdated = False
        self.head = label(tr("Lower it"), "field")
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, STEPS)
        self.slider.setValue(STEPS)
        self.slider.setAccessibleName(say(tr("Lower it: how far the cover has come down")))
        self.slider.valueChanged.connect(self._moved)
        self.curve = GapCurve(session)
        self.section = SectionCut(session)
        top = row(self.head, self.slider, spacing=10)
        top.setStretch(1, 1)
        below = row(self.section, self.curve, spacing=8)
        below.setStretch(1, 1)
        self.setLayout(column(top, below, spacing=2))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def outdate(self) -> None:
        """The draft has changed: its way is drawn when its picture is."""
        self.outdated = True
        self.section.outdate()
        self.setVisible(isinstance(self.session.draft, Drafted) and isinstance(self.session.draft.fit, Fit))

    def catch_up(self) -> None:
        """Show the way as it stands, if the draft has changed."""
        if self.outdated and self.session.job is not None:
            self.refresh()

    def refresh(self) -> None:
        """Show the way as it stands; what lies on top is not lowered."""
        draft, self.outdated = self.session.draft, False
        self.way = None
        if isinstance(draft, Drafted) and isinstance(draft.fit, Fit):
            self.way = lowering(draft.body, draft.cover, draft.fit, draft.job.readings, draft.job.cover.sewing_sigma)
            self.head.setText(say(tr("Lower it into its bag")) if draft.cover.from_below else say(tr("Lower it")))
        self.setVisible(self.way is not None)
        self.curve.show_way(self.way, self.share)
        self.section.show_draft(draft if isinstance(draft, Drafted) and self.way is not None else None)
        self._raise()

    def _raise(self) -> None:
        """Show the cover as high as the slider has it, and mark where it is narrowest now, while it is on its way, or where it jams."""
        way, down = self.way, self.slider.value() == STEPS
        height = (1.0 - self.share) * way.travel if way is not None else 0.0
        if way is not None:
            self.section.show_height(height, float(way.depths[way.tightest]))
        if way is None or (down and way.jams is None):
            self.lifted.emit(height, None, "")
            return
        here = way.tightest if down else int(abs(way.lowered - self.share).argmin())
        self.lifted.emit(height, float(way.depths[here]), self.session.tell(mm(float(way.gaps[here]), fine=True)))

    @property
    def share(self) -> float:
        """How far it has come, 0 … 1."""
        return self.slider.value() / STEPS

    def _moved(self, _value: int) -> None:
        self.catch_up()
        if self.way is not None:
            self.curve.show_way(self.way, self.share)
            self._raise()


FLAT = 0.1
"""Places of the curve that lie in one line are not painted one by one, px."""


class GapCurve(QWidget):
    """The smallest gap while lowering."""

    heard_as = CHART

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.way: Lowering | None = None
        self.share, self.told = 1.0, ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(260, LOOK.px(132))

    def show_way(self, way: Lowering | None, share: float) -> None:
        """Show the curve, and how far it has come."""
        self.way, self.share = way, share
        if way is not None:
            self.told = self._told(way)
            self.setAccessibleName(f"{self.told}. {self._here(way)}")
        self.update()

    def _told(self, way: Lowering) -> str:
        """The tightest place in words."""
        at, gap = way.tightest, float(way.gaps[way.tightest])
        where = below_top(float(way.depths[at]))
        jams = way.jams
        if jams is not None:
            return self.session.tell(tr("jams: {gap} too tight on each side, {where}", where=where, gap=mm(-gap, fine=True)))
        return self.session.tell(tr("tightest: {gap} on each side, {where}", where=where, gap=mm(gap, fine=True)))

    def _here(self, way: Lowering) -> str:
        here = int(abs(way.lowered - self.share).argmin())
        return self.session.tell(tr("here {gap} on each side", gap=mm(float(way.gaps[here]), fine=True)))

    def paintEvent(self, event: QPaintEvent) -> None:
        way = self.way
        if way is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(LOOK.font(12))
        low, high = self._range(way)
        marks = self._marks(low, high)
        names = [self.session.fmt(mark, with_unit=mark == marks[-1]) for mark in marks]
        left = max(painter.fontMetrics().horizontalAdvance(name) for name in names) + 14
        wide = QFontMetrics(LOOK.font(12, QFont.Weight.DemiBold)).horizontalAdvance(self.told)
        top = LOOK.px(20 if wide <= self.width() - 8 else 37)
        box = QRectF(left, top, self.width() - left - 14, self.height() - top - LOOK.px(22))

        def line(xs: ArrayLike, ys: ArrayLike) -> list[QPointF]:
            shares = (np.clip(ys, low, high) - low) / (high - low)
            points = np.column_stack((box.left() + np.asarray(xs) * box.width(), box.bottom() - shares * box.height()))
            return [QPointF(x, y) for x, y in points[thinned(points, FLAT)].tolist()]

        def at(x: float, y: float) -> QPointF:
            share = (min(max(y, low), high) - low) / (high - low)
            return QPointF(box.left() + x * box.width(), box.bottom() - share * box.height())

        self._axes(painter, box, [(at(0.0, mark).y(), mark == 0.0, name) for mark, name in zip(marks, names, strict=True)])
        above, below = (line(way.lowered, way.gaps + sign * LIKELY * way.sigmas) for sign in (1.0, -1.0))
        tint = LOOK.colour("accent")
        tint.setAlpha(46)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tint)
        painter.drawPolygon(QPolygonF([*above, *reversed(below)]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(LOOK.colour("accent"), 2.4))
        painter.drawPolyline(QPolygonF(line(way.lowered, way.gaps)))
        here = at(self.share, float(np.interp(self.share, way.lowered, way.gaps)))
        painter.setPen(QPen(LOOK.colour("ink"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(here.x(), box.top()), QPointF(here.x(), box.bottom()))
        painter.setPen(QPen(LOOK.colour("accent"), 2.4))
        painter.setBrush(LOOK.colour("surface"))
        painter.drawEllipse(here, 5.0, 5.0)
        self._words(painter, way, at(float(way.lowered[way.tightest]), float(way.gaps[way.tightest])))
        painter.end()

    def _axes(self, painter: QPainter, box: QRectF, marks: list[tuple[float, bool, str]]) -> None:
        """Round gaps beside the curve, and where it begins and ends, in words."""
        for y, none, name in marks:
            style = Qt.PenStyle.DashLine if none else Qt.PenStyle.SolidLine
            painter.setPen(QPen(LOOK.colour("stop" if none else "line"), 1.2 if none else 1.0, style))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            painter.setPen(LOOK.colour("soft"))
            where = QRectF(0, y - 9, box.left() - 8, 18)
            painter.drawText(where, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, name)
        under = QRectF(box.left(), box.bottom() + 3, box.width(), LOOK.px(17))
        for words, flag in (
            (tr("lifted"), Qt.AlignmentFlag.AlignLeft),
            (tr("half down"), Qt.AlignmentFlag.AlignHCenter),
            (tr("on"), Qt.AlignmentFlag.AlignRight),
        ):
            painter.drawText(under, flag, say(words))

    def _words(self, painter: QPainter, way: Lowering, at: QPointF) -> None:
        """The tightest place, marked on the curve and said above it."""
        gap = float(way.gaps[way.tightest])
        state = "stop" if gap < 0.0 else "look" if gap < TIGHT_CLEARANCE else "fine"
        paint_state(painter, QRectF(at.x() - 8, at.y() - 8, 16, 16), state)
        painter.setFont(LOOK.font(12, QFont.Weight.DemiBold))
        painter.setPen(LOOK.colour("ink"))
        flags = Qt.AlignmentFlag.AlignRight.value | Qt.TextFlag.TextWordWrap.value
        painter.drawText(QRectF(4.0, 0.0, self.width() - 8.0, LOOK.px(36)), flags, held(self.told))

    def _range(self, way: Lowering) -> tuple[float, float]:
        """What the curve is drawn between: 0 and what is of use; far more room than that is cut off."""
        least, most = float((way.gaps - LIKELY * way.sigmas).min()), float((way.gaps + LIKELY * way.sigmas).max())
        useful = max(2.5 * TIGHT_CLEARANCE, 3.0 * float(way.gaps.min()))
        return min(0.0, least * 1.15), max(min(most * 1.1, useful), TIGHT_CLEARANCE)

    def _marks(self, low: float, high: float) -> list[float]:
        """Round gaps beside the axis, 0 among them."""
        inch = self.session.unit.mm if self.session.unit.denominator else 1.0
        raw = (high - low) / TICKS / inch
        steps = [2.0**k for k in range(-6, 8)] if inch != 1.0 else [m * 10.0**k for k in range(-1, 4) for m in (1.0, 2.0, 5.0)]
        step = next((s for s in steps if s >= raw), raw) * inch
        return [k * step for k in range(math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9) + 1)]
