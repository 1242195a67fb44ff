"""A box to tick."""

from typing import Final

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QStyle, QStyleOptionButton

from omnipel.bench.parts.look import LOOK

TICK: Final = ((0.25, 0.53), (0.43, 0.72), (0.77, 0.3))
"""A tick in a box, as shares of its sides."""


class Ticked(QCheckBox):
    """A box to tick; what is ticked has a tick in it, not only another colour."""

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self.isChecked():
            return
        option = QStyleOptionButton()
        self.initStyleOption(option)
        box = QRectF(self.style().subElementRect(QStyle.SubElement.SE_CheckBoxIndicator, option, self))
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tint = LOOK.colour("on_accent" if self.isEnabled() else "surface")
        painter.setPen(QPen(tint, 2.0 * LOOK.scale, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
        wide, high = box.width(), box.height()
        painter.drawPolyline([box.topLeft() + QPointF(x * wide, y * high) for x, y in TICK])
        painter.end()
