"""The whole way at a glance: steps in groups by station, changeovers as gaps, try-ons as stops, what is done in solid."""

from collections.abc import Sequence
from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.heard import CHART
from omnipel.bench.parts.look import LOOK
from omnipel.bench.speech import say
from omnipel.core.sewing.plan import Step
from omnipel.core.words.phrases import Count, term, tr

GAP, WIDEST = 1.2, 26.0
"""Between groups as many steps' widths; a step is so wide at most, px at 100 %."""
NUMBERED: Final = 15.0
"""A step that is narrower shows no number, px at 100 %."""


class WayView(QWidget):
    """All steps in a row; a click or the arrow keys look at one, Space or Escape at the one that is due."""

    heard_as = CHART

    looked = Signal(int)
    """The number of the step that is to be looked at."""

    def __init__(self) -> None:
        super().__init__()
        self.steps: Sequence[Step] = ()
        self.done: frozenset[str] = frozenset()
        self.current = self.shown = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say(tr("The whole way")))

    def sizeHint(self) -> QSize:
        return QSize(600, LOOK.px(52))

    def show_way(self, steps: Sequence[Step], done: frozenset[str], current: int, shown: int) -> None:
        """Show the steps; `current` and `shown` are numbers from 1, 0 for none."""
        self.steps, self.done, self.current, self.shown = steps, done, current, shown
        told = tr("step {n} of {all}", n=Count(shown), all=Count(len(steps)))
        self.setAccessibleDescription(say(told))
        self.update()

    def boxes(self) -> list[QRectF]:
        """Where each step lies."""
        if not self.steps:
            return []
        gaps = sum(step.changeover for step in self.steps)
        each = min(LOOK.px(WIDEST) * 1.0, (self.width() - 16.0) / (len(self.steps) + gaps * GAP))
        x, made = 8.0, []
        for step in self.steps:
            x += GAP * each if step.changeover else 0.0
            made.append(QRectF(x, 6.0, each, LOOK.px(20)))
            x += each
        return made

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        boxes = self.boxes()
        for step, box in zip(self.steps, boxes, strict=True):
            self._paint_step(painter, step, box.adjusted(0.8, 0.0, -0.8, 0.0))
        painter.setFont(LOOK.font(12))
        painter.setPen(LOOK.colour("soft"))
        metrics, taken = QFontMetricsF(painter.font()), 0.0
        for words, span in self._groups(boxes):
            half = metrics.horizontalAdvance(words) / 2.0
            if not taken + LOOK.px(3) <= span.center().x() - half <= self.width() - 2.0 * half:
                continue  # it would stand on the one before, or end beyond the edge
            beside = GAP * boxes[0].width() * 0.85  # into the gaps on both sides
            if metrics.horizontalAdvance(words) <= span.width() + 2.0 * beside:
                taken = span.center().x() + half
                painter.drawText(
                    span.adjusted(-beside, 0, beside, 0), Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, words
                )
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("accent"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 3, 3)
        painter.end()

    def _paint_step(self, painter: QPainter, step: Step, box: QRectF) -> None:
        done, here = step.key in self.done, step.number == self.current
        accent = LOOK.colour("accent")
        painter.setPen(
            QPen(LOOK.colour("ink") if step.number == self.shown else accent, 2.4 if step.number == self.shown else 1.2)
        )
        painter.setBrush(accent if done else LOOK.colour("glow" if here else "surface"))
        if step.stop:
            c, w, h = box.center(), max(box.width(), LOOK.px(14)) / 2.0 + 1.0, box.height() / 2.0 + 2.0
            painter.drawPolygon(QPolygonF([c + QPointF(0, -h), c + QPointF(w, 0), c + QPointF(0, h), c + QPointF(-w, 0)]))
        else:
            painter.drawRoundedRect(box, 2.0, 2.0)
        if box.width() >= LOOK.px(NUMBERED):
            painter.setFont(LOOK.font(11, QFont.Weight.DemiBold))
            painter.setPen(LOOK.colour("on_accent" if done else "ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(step.number))

    def _groups(self, boxes: Sequence[QRectF]) -> list[tuple[str, QRectF]]:
        """What each group is called, and where that stands."""
        groups: list[tuple[str, QRectF]] = []
        for step, box in zip(self.steps, boxes, strict=True):
            below = QRectF(box.left(), box.bottom() + 6.0, box.width(), LOOK.px(18))
            if groups and not step.changeover:
                groups[-1] = (groups[-1][0], groups[-1][1].united(below))
            else:
                groups.append((say(term(step.rig.foot if step.rig.foot == "zip foot" else step.rig.station)), below))
        return groups

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        found = next((step.number for step, box in zip(self.steps, self.boxes(), strict=True) if box.contains(at)), 0)
        if found:
            self.looked.emit(found)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0)
        if step and self.steps:
            self.looked.emit(min(max(1, self.shown + step), len(self.steps)))
        elif event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape) and self.current:
            self.looked.emit(self.current)
        else:
            super().keyPressEvent(event)
