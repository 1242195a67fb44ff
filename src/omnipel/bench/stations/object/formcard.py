"""A form as a picture to pick."""

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import thumbnail
from omnipel.bench.parts.strokes import Thumbnail
from omnipel.bench.speech import say
from omnipel.core.covers import schemes_for
from omnipel.core.forms.form import Form
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import uncovered
from omnipel.shop.starter import plausible, starter


class FormCard(Entered, QAbstractButton):
    """A form as a drawn picture with its name."""

    def __init__(self, form: Form) -> None:
        super().__init__()
        self.form = form
        self.setCheckable(True)
        self.setAutoExclusive(True)  # one of them: told as a radio button
        self.setAccessibleName(f"{say(form.words)}. {say(form.about)}")
        self.setToolTip(say(form.about))
        self.picture: Thumbnail | None = None

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(126), LOOK.px(112))

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(104), LOOK.px(112))

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.picture is None:
            body = plausible(starter(self.form.key, schemes_for(self.form)[0].key))
            self.picture = thumbnail(drawn(uncovered(body), View()) if body else Drawing(()))
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("surface"))
        ring = LOOK.colour("accent") if self.isChecked() or self.hasFocus() else LOOK.colour("soft")
        painter.setPen(QPen(ring, 3.0 if self.isChecked() else 2.0 if self.hasFocus() else 1.0))
        painter.drawRoundedRect(self.rect().adjusted(2, 2, -2, -2), 4, 4)
        self.picture.paint(painter, QRectF(10, 8, self.width() - 20, self.height() - LOOK.px(24) - 14))
        painter.setFont(LOOK.font(14))
        painter.setPen(LOOK.colour("ink"))
        mark = "✓ " if self.isChecked() else ""
        painter.drawText(
            self.rect().adjusted(4, 0, -4, -6),
            Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom,
            mark + say(self.form.words),
        )
        painter.end()
