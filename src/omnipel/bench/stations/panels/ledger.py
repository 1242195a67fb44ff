"""The seam ledger: both sides of every seam as bars."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.heard import GROUP
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.strokes import mixed
from omnipel.bench.parts.widgets import paint_state
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.drafting.seams import Trued
from omnipel.core.pictures.sheet import seam_title
from omnipel.core.words.phrases import Count, Phrase, Ratio, Share, bare, mm, tr


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
    """Both sides of every seam as two bars, with the difference; one of them can be chosen."""

    heard_as = GROUP

    picked = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setAccessibleName(say(tr("Seam ledger")))
        self.session = session
        self.rows: list[SeamRow] = []
        self.chosen = ""
        self.narrow = False
        self.area = QVBoxLayout(self)
        self.area.setContentsMargins(0, 0, 0, 0)
        self.area.setSpacing(4)
        self.area.addStretch(1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._measure()

    def _measure(self) -> None:
        """Whether names and lengths do not fit beside one another: then the lengths get a line of their own."""
        name, numbers = QFontMetrics(LOOK.font(14, QFont.Weight.DemiBold)), QFontMetrics(LOOK.font(12))
        widest = max((name.horizontalAdvance(r.name) + numbers.horizontalAdvance(r.numbers) for r in self.rows), default=0)
        narrow = widest + LOOK.px(24) + 16 > self.width()
        if narrow != self.narrow:
            self.narrow = narrow
            for made in self.rows:
                made.updateGeometry()

    def show_seams(self, seams: tuple[Trued, ...]) -> None:
        """Show these seams."""
        longest = max((max(t.length_a, t.length_b) for t in seams), default=1.0)
        if len(seams) != len(self.rows):
            with same_focus(self):
                for made in self.rows:
                    self.area.removeWidget(made)
                    made.hide()
                    made.deleteLater()
                self.rows = [SeamRow(self) for _ in seams]
                for k, made in enumerate(self.rows):
                    self.area.insertWidget(k, made)
        for k, (made, trued) in enumerate(zip(self.rows, seams, strict=True)):
            made.show_seam(trued, longest, (k + 1, len(seams)))
            made.setChecked(trued.seam.name == self.chosen)
        self._measure()

    def pick(self, name: str) -> None:
        """Mark a seam as chosen, or none."""
        self.chosen = name
        for made in self.rows:
            made.setChecked(made.trued is not None and made.trued.seam.name == name)

    def step(self, row: "SeamRow", by: int) -> None:
        """Choose a neighbour, all around."""
        other = self.rows[(self.rows.index(row) + by) % len(self.rows)]
        other.setFocus(Qt.FocusReason.TabFocusReason)
        other.click()


class SeamRow(Entered, QAbstractButton):
    """One seam of the ledger."""

    def __init__(self, ledger: Ledger) -> None:
        super().__init__(ledger)
        self.ledger, self.session = ledger, ledger.session
        self.trued: Trued | None = None
        self.name = self.numbers = ""
        self.longest = 1.0
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.clicked.connect(self._clicked)

    def sizeHint(self) -> QSize:
        return QSize(180, LOOK.px(60 if self.ledger.narrow else 42))

    def minimumSizeHint(self) -> QSize:
        return QSize(120, self.sizeHint().height())

    def show_seam(self, trued: Trued, longest: float, place: tuple[int, int]) -> None:
        """Show a seam; `longest` is the longest side of all, `place` which one of how many it is."""
        self.trued, self.longest = trued, longest
        gathered = abs(trued.seam.ratio - 1.0) > 1e-9
        more = say(tr("  gathered {ratio}", ratio=Ratio(trued.seam.ratio))) if gathered else ""
        self.name = say(seam_title(trued)) + more
        self.numbers = f"{self._short(trued.length_a)} : {self._short(trued.length_b)}   {self.session.tell(truth(trued))}"
        told = tr(
            "seam {n} of {all}, {seam}, {state}, {a} to {b}",
            n=Count(place[0]),
            all=Count(place[1]),
            seam=seam_title(trued),
            state=truth(trued),
            a=mm(trued.length_a),
            b=mm(trued.length_b),
        )
        self.setAccessibleName(self.session.tell(told) + more)
        self.update()

    def _clicked(self) -> None:
        if self.trued is not None:
            self.ledger.picked.emit(self.trued.seam.name)
            self.setChecked(True)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        if event.key() in steps:
            self.ledger.step(self, steps[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        trued, box = self.trued, QRectF(self.rect())
        if trued is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.isChecked():
            painter.fillRect(box, LOOK.colour("glow"))
            painter.fillRect(QRectF(0.0, 0.0, 3.0, box.height()), LOOK.colour("accent"))
        paint_state(painter, QRectF(4.0, 4.0, LOOK.px(14), LOOK.px(14)), "fine" if trued.true else "stop")
        left, right, narrow = LOOK.px(24), box.right() - 6, self.ledger.narrow
        numbers = self.numbers
        painter.setFont(LOOK.font(12))
        if narrow and painter.fontMetrics().horizontalAdvance(numbers) > right - left:
            numbers = f"{self._short(trued.length_a)} : {self._short(trued.length_b)}"  # the mark says whether it is true
        wide = painter.fontMetrics().horizontalAdvance(numbers)
        painter.setPen(LOOK.colour("stop" if not trued.true else "soft"))
        at = (left, LOOK.px(34)) if narrow else (right - wide, LOOK.px(16))
        painter.drawText(int(at[0]), int(at[1]), numbers)
        painter.setFont(LOOK.font(14, QFont.Weight.DemiBold))
        painter.setPen(LOOK.colour("ink"))
        room = right - left - (0 if narrow else wide + 10)
        name = painter.fontMetrics().elidedText(self.name, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(int(left), int(LOOK.px(16)), name)
        self._bars(painter, QRectF(left, LOOK.px(41 if narrow else 23), box.width() - LOOK.px(24) - 10, LOOK.px(18)), trued)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(LOOK.colour("accent"), 2.0))
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        painter.end()

    def _bars(self, painter: QPainter, box: QRectF, trued: Trued) -> None:
        """Both sides in the job's cloth, the second striped; what one is too long, ten times as long as it is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        cloth = QColor(self.session.open_job.cover.cloth.colour)
        for k, length in enumerate((trued.length_a, trued.length_b)):
            bar = QRectF(box.left(), box.top() + k * LOOK.px(9), max(2.0, box.width() * length / self.longest), LOOK.px(7))
            painter.fillRect(bar, cloth if k == 0 else second_side(cloth))
            if k:
                painter.fillRect(bar, QBrush(LOOK.colour("ink"), Qt.BrushStyle.FDiagPattern))
            painter.setPen(QPen(LOOK.colour("ink"), 1.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(bar)
        if not trued.true:
            off = min(MAGNIFIED * abs(trued.difference) / self.longest, 0.5) * box.width()
            k = 0 if trued.difference > 0.0 else 1
            ends = box.left() + box.width() * min(1.0, (trued.length_a, trued.length_b)[k] / self.longest)
            painter.fillRect(QRectF(ends - off, box.top() + k * LOOK.px(9) + 1, off, LOOK.px(7) - 1), LOOK.colour("stop"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)

    def _short(self, length: float) -> str:
        return self.session.fmt(length, fine=True, with_unit=False)


def second_side(cloth: QColor) -> QColor:
    """The ground of the second side's bar: stripes in ink stand out from it, whatever the cloth."""
    return mixed(cloth, LOOK.colour("surface"), 0.75)
