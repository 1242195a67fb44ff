"""Slack over height: the gap on each side from the top of the object down, and where it is tightest."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import paint_state
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit
from omnipel.core.tolerances import TIGHT_CLEARANCE
from omnipel.core.words.phrases import listed, mm, tr


class SlackPlot(QWidget):
    """A plot of the gap by depth."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(260, LOOK.px(128))

    def refresh(self) -> None:
        """Show the fit as it stands."""
        fit = self.fit
        self.setVisible(fit is not None)
        if fit is not None:
            told = listed(tr("{gap} at {depth} down", gap=mm(s.clearance), depth=mm(s.depth)) for s in fit.slacks)
            self.setAccessibleName(self.session.tell(tr("Gap on each side: {gaps}", gaps=told)))
            self.updateGeometry()
        self.update()

    @property
    def fit(self) -> Fit | None:
        """The fit of the open job, when there is one."""
        draft = self.session.draft
        return draft.fit if isinstance(draft, Drafted) and isinstance(draft.fit, Fit) else None

    def paintEvent(self, event: QPaintEvent) -> None:
        fit = self.fit
        if fit is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(LOOK.font(13))
        painter.setPen(LOOK.colour("soft"))
        painter.drawText(QRectF(8, 4, self.width() - 16, LOOK.px(18)), Qt.AlignmentFlag.AlignLeft, say(tr("Gap on each side")))
        left, top, right, bottom = LOOK.px(62), LOOK.px(30), self.width() - LOOK.px(70), self.height() - LOOK.px(12)
        deepest = max(s.depth for s in fit.slacks) or 1.0
        widest = max(*(abs(s.clearance) for s in fit.slacks), 2.0 * TIGHT_CLEARANCE)
        least = min(0.0, *(s.clearance for s in fit.slacks))

        def place(depth: float, gap: float) -> QPointF:
            return QPointF(left + (gap - least) / (widest - least) * (right - left), top + depth / deepest * (bottom - top))

        painter.setPen(QPen(LOOK.colour("stop"), 1.2, Qt.PenStyle.DashLine))
        painter.drawLine(place(0.0, 0.0), place(deepest, 0.0))
        painter.setPen(QPen(LOOK.colour("accent"), 2.2))
        painter.drawPolyline(QPolygonF([place(s.depth, s.clearance) for s in fit.slacks]))
        painter.setPen(LOOK.colour("soft"))
        painter.drawText(
            QRectF(0, top - LOOK.px(9), left - 6, LOOK.px(18)),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            say(tr("top")),
        )
        low = self.session.fmt(deepest, with_unit=False)
        painter.drawText(
            QRectF(0, bottom - LOOK.px(9), left - 6, LOOK.px(18)),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            low,
        )
        at = place(fit.tightest.depth, fit.tightest.clearance)
        state = "stop" if fit.tightest.clearance < 0 else "look" if fit.tightest.clearance < TIGHT_CLEARANCE else "fine"
        paint_state(painter, QRectF(at.x() - 7, at.y() - 7, 14, 14), state)
        painter.setPen(LOOK.colour("ink"))
        words = self.session.fmt(fit.tightest.clearance, fine=True)
        box = QRectF(at.x() + 10, at.y() - LOOK.px(20), painter.fontMetrics().horizontalAdvance(words) + 6, LOOK.px(18))
        painter.fillRect(box, LOOK.colour("surface"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
        painter.end()
