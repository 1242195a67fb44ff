"""Why: the one sentence, and how likely each cause is, as bars."""

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.parts.heard import CHART
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import column, emptied, label, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.learning.why import Why
from omnipel.core.words.phrases import NOTHING, Share, tr


class Bar(QWidget):
    """A share as a bar."""

    heard_as = CHART

    def __init__(self, share: float) -> None:
        super().__init__()
        self.share = share
        self.setAccessibleName(say(Share(share)))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(LOOK.px(10))

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return QSize(LOOK.px(120), LOOK.px(10))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(QRectF(0.0, 0.0, self.width(), self.height()), LOOK.colour("line"))
        painter.fillRect(QRectF(0.0, 0.0, self.width() * self.share, self.height()), LOOK.colour("accent"))
        painter.end()


class Because(QFrame):
    """Why it came out as it did."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("caution")
        self.sentence = label(NOTHING, "strong", wrap=True)
        self.bars = QVBoxLayout()
        self.bars.setSpacing(4)
        self.setLayout(column(self.sentence, self.bars, spacing=6, margins=10))

    def refresh(self, found: Why | None) -> None:
        """Show what is likely."""
        told = found.told if found is not None else NOTHING
        self.setVisible(bool(told))
        self.sentence.setText(self.session.sentence(told) if told else "")
        emptied(self.bars)
        causes = found.causes if found is not None and not found.classic else ()
        for cause in causes if len(causes) > 1 else ():
            words = label(NOTHING, "soft", wrap=True)
            words.setText(self.session.sentence(cause.words))
            share = label(NOTHING, "soft")
            share.setText(self.session.tell(tr("{share}", share=Share(cause.share))))
            share.setFixedWidth(LOOK.px(40))
            line = row(words, Bar(cause.share), share, spacing=8)
            line.setStretch(0, 3)
            line.setStretch(1, 2)
            self.bars.addLayout(line)
