"""The seam ledger: both sides of every seam as bars."""

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.strokes import mixed
from omnipel.bench.parts.widgets import paint_state
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.drafting.seams import Trued
from omnipel.core.pictures.sheet import seam_title
from omnipel.core.words.phrases import Phrase, Ratio, Share, bare, listed, mm, tr


def truth(trued: Trued) -> Phrase:
    """Whether a seam is true, and if not by how much; a lining's edge is shorter than the outer's, which is eased onto it."""
    if trued.true:
        eased = abs(trued.difference) / trued.length_b if trued.seam.between and trued.length_b else 0.0
        return tr("eased by {share}", share=Share(eased, 1)) if eased > WORTH else tr("true")
    off = bare(abs(trued.difference), fine=True)
    return tr("over by {off}", off=off) if trued.difference > 0 else tr("short by {off}", off=off)


MAGNIFIED = 10.0
"""What one side is longer than the other is drawn so many times as long as it is."""
WORTH = 0.001
"""Less of a share than this is not told."""


class Ledger(QWidget):
    """Both sides of every seam as two bars, with the difference."""

    picked = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setAccessibleName(say(tr("Seam ledger")))
        self.session = session
        self.seams: tuple[Trued, ...] = ()
        self.chosen = ""
        self.narrow = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    @property
    def line(self) -> int:
        """Height of one seam, px: its lengths get a line of their own where not all of them fit beside the names."""
        return LOOK.px(64) if self.narrow else LOOK.px(46)

    def _measure(self) -> None:
        """Whether names and lengths do not fit beside one another, and how high that makes the ledger."""
        name, numbers = QFontMetrics(LOOK.font(14, QFont.Weight.DemiBold)), QFontMetrics(LOOK.font(13))
        widest = max(
            (name.horizontalAdvance(self._name(t)) + numbers.horizontalAdvance(self._numbers(t)) for t in self.seams), default=0
        )
        self.narrow = widest + LOOK.px(24) + 16 > self.width()
        self.setMinimumHeight(len(self.seams) * self.line + 4)

    def _name(self, trued: Trued) -> str:
        gathered = abs(trued.seam.ratio - 1.0) > 1e-9
        return say(seam_title(trued)) + (say(tr("  gathered {ratio}", ratio=Ratio(trued.seam.ratio))) if gathered else "")

    def _numbers(self, trued: Trued) -> str:
        return f"{self._short(trued.length_a)} : {self._short(trued.length_b)}   {self.session.tell(truth(trued))}"

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._measure()

    def show_seams(self, seams: tuple[Trued, ...]) -> None:
        """Show these seams."""
        self.seams = seams
        self._measure()
        told = listed(
            (
                tr("{seam}: {a} to {b}, {state}", seam=seam_title(t), a=mm(t.length_a), b=mm(t.length_b), state=truth(t))
                for t in seams
            ),
            "; ",
        )
        self.setAccessibleName(self.session.tell(tr("Seam ledger. {seams}", seams=told)))
        self.update()

    def pick(self, name: str) -> None:
        """Mark a seam as chosen."""
        self.chosen = name
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        longest = max((max(t.length_a, t.length_b) for t in self.seams), default=1.0)
        for i, trued in enumerate(self.seams):
            self._paint_seam(painter, QRectF(0, i * self.line, self.width(), self.line - 4), trued, longest)
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("accent"), 1.5))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()

    def _paint_seam(self, painter: QPainter, box: QRectF, trued: Trued, longest: float) -> None:
        if trued.seam.name == self.chosen:
            painter.fillRect(box, LOOK.colour("glow"))
            painter.fillRect(QRectF(box.left(), box.top(), 3, box.height()), LOOK.colour("accent"))
        state = "fine" if trued.true else "stop"
        paint_state(painter, QRectF(box.left() + 4, box.top() + 4, LOOK.px(14), LOOK.px(14)), state)
        name_left, right, narrow = box.left() + LOOK.px(24), box.right() - 6, self.narrow
        numbers = self._numbers(trued)
        painter.setFont(LOOK.font(13))
        if narrow and painter.fontMetrics().horizontalAdvance(numbers) > right - name_left:
            numbers = f"{self._short(trued.length_a)} : {self._short(trued.length_b)}"  # the mark says whether it is true
        wide = painter.fontMetrics().horizontalAdvance(numbers)
        painter.setPen(LOOK.colour("stop" if not trued.true else "soft"))
        at = (name_left, LOOK.px(34)) if narrow else (right - wide, LOOK.px(16))
        painter.drawText(int(at[0]), int(box.top() + at[1]), numbers)
        painter.setFont(LOOK.font(14, QFont.Weight.DemiBold))
        painter.setPen(LOOK.colour("ink"))
        room = right - name_left - (0 if narrow else wide + 10)
        name = painter.fontMetrics().elidedText(self._name(trued), Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(int(name_left), int(box.top() + LOOK.px(16)), name)
        top, room = box.top() + LOOK.px(41 if narrow else 23), box.width() - LOOK.px(24) - 10
        self._bars(painter, QRectF(name_left, top, room, LOOK.px(18)), trued, longest)

    def _bars(self, painter: QPainter, box: QRectF, trued: Trued, longest: float) -> None:
        """Both sides in the job's cloth, the second striped; what one is too long, ten times as long as it is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        cloth = QColor(self.session.open_job.cover.cloth.colour)
        for k, length in enumerate((trued.length_a, trued.length_b)):
            bar = QRectF(box.left(), box.top() + k * LOOK.px(9), max(2.0, box.width() * length / longest), LOOK.px(7))
            painter.fillRect(bar, cloth if k == 0 else mixed(cloth, LOOK.colour("surface"), 0.55))
            if k:
                painter.fillRect(bar, QBrush(LOOK.colour("ink"), Qt.BrushStyle.FDiagPattern))
            painter.setPen(QPen(LOOK.colour("ink"), 1.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(bar)
        if not trued.true:
            off = min(MAGNIFIED * abs(trued.difference) / longest, 0.5) * box.width()
            k = 0 if trued.difference > 0.0 else 1
            ends = box.left() + box.width() * min(1.0, (trued.length_a, trued.length_b)[k] / longest)
            painter.fillRect(QRectF(ends - off, box.top() + k * LOOK.px(9) + 1, off, LOOK.px(7) - 1), LOOK.colour("stop"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)

    def _short(self, length: float) -> str:
        return self.session.fmt(length, fine=True, with_unit=False)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() // self.line)
        if 0 <= i < len(self.seams):
            self.picked.emit(self.seams[i].seam.name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        names = [t.seam.name for t in self.seams]
        steps = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        if names and event.key() in steps:
            here = names.index(self.chosen) if self.chosen in names else -1
            self.picked.emit(names[(here + steps[Qt.Key(event.key())]) % len(names)])
        else:
            super().keyPressEvent(event)
