"""The repeats of a reading as dots on a line."""

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.heard import CHART
from omnipel.bench.parts.look import LOOK
from omnipel.bench.session import Session
from omnipel.core.job.reading import Reading
from omnipel.core.tape.readings import misreads, spread, value
from omnipel.core.words.phrases import listed, mm, tr


class Dots(QWidget):
    """Repeats as dots on a line: how far they lie apart is seen before it is read."""

    heard_as = CHART

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.reading: Reading | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(200, LOOK.px(26))

    def show_reading(self, reading: Reading | None) -> None:
        """Show the repeats of a reading; one alone needs no line."""
        self.reading = reading if reading is not None and len(reading.repeats) > 1 else None
        self.setVisible(self.reading is not None)
        if self.reading is not None:
            told = listed(mm(length, fine=True) for length in self.reading.repeats)
            self.setAccessibleName(self.session.tell(tr("Repeats: {lengths}", lengths=told)))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        reading = self.reading
        if reading is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, sigma = value(reading), max(spread(reading), 1e-9)
        reach = max(4.0 * sigma, *(abs(length - middle) for length in reading.repeats)) * 1.1
        y, left, right = self.height() / 2.0, 10.0, self.width() - 10.0

        def place(length: float) -> float:
            return left + (length - middle + reach) / (2.0 * reach) * (right - left)

        painter.setPen(QPen(LOOK.colour("soft"), 1.5))
        painter.drawLine(QPointF(left, y), QPointF(right, y))
        painter.setPen(QPen(LOOK.colour("accent"), LOOK.px(6)))
        painter.drawLine(QPointF(place(middle - 2.0 * sigma), y), QPointF(place(middle + 2.0 * sigma), y))
        doubtful = misreads(reading)
        for i, length in enumerate(reading.repeats):
            out = i in reading.left_out
            painter.setPen(QPen(LOOK.colour("look" if i in doubtful else "ink"), 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush if out or i in doubtful else LOOK.colour("ink"))
            painter.drawEllipse(QPointF(place(length), y), LOOK.px(5), LOOK.px(5))
        painter.end()
