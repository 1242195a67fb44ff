"""Small lawful changes that save a buying step: at most five, best first, each with one button and both lengths as bars."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.parts.heard import CHART, GROUP
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import WordButton, column, emptied, label
from omnipel.bench.session import Session
from omnipel.core.cloth.saving import Advice, best
from omnipel.core.words.phrases import Name, Phrase, Run, tr

BAR: Final = 8


class Bars(QWidget):
    """How much is bought before and after: what is used then, what was used more, what is bought and left over."""

    heard_as = CHART

    def __init__(self, session: Session, advice: Advice) -> None:
        super().__init__()
        self.session, self.advice = session, advice
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        words = tr("{before} before, {after} after", before=Run(advice.before), after=Run(advice.after))
        self.setAccessibleName(session.tell(words))

    def sizeHint(self) -> QSize:
        return QSize(80, LOOK.px(BAR) + 6)

    def paintEvent(self, event: QPaintEvent) -> None:
        advice = self.advice
        painter = QPainter(self)
        wide, high = self.width() / max(advice.before, 1.0), LOOK.px(BAR)
        painter.fillRect(QRectF(0.0, 3.0, advice.before * wide, high), LOOK.colour("line"))
        painter.fillRect(QRectF(0.0, 3.0, advice.used * wide, high), LOOK.colour("look"))
        painter.fillRect(QRectF(0.0, 3.0, min(advice.needs, advice.used) * wide, high), LOOK.colour("fine"))
        painter.setPen(LOOK.colour("ink"))
        for at in (advice.after, advice.before):
            x = min(at * wide, self.width() - 1.0)
            painter.drawLine(round(x), 0, round(x), high + 6)
        painter.end()


class AdviceCard(QFrame):
    """One advice: what to do as a button, what it saves and costs, both lengths."""

    heard_as = GROUP

    def __init__(self, session: Session, advice: Advice) -> None:
        super().__init__()
        self.session, self.advice = session, advice
        self.do = WordButton(self._take)
        self.do.show_words(session.sentence(advice.words))
        told = tr("{gain} · costs: {costs}", gain=advice.gain, costs=advice.costs)
        about = label(told, "soft", wrap=True)
        about.setText(session.tell(told))
        self.setAccessibleName(session.sentence(tr("{what}: {gain}", what=advice.words, gain=advice.gain)))
        self.setLayout(column(self.do, about, Bars(session, advice), spacing=2))

    def _take(self) -> None:
        self.session.change(tr("{what}, to save cloth", what=self.advice.words), *self.advice.changes)


class Savings(QWidget):
    """The advices."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.list = QVBoxLayout(self)
        self.list.setContentsMargins(0, 0, 8, 0)
        self.list.setSpacing(10)
        self.shown: object = None
        session.cloth.advised.connect(self.show_found)
        session.unit_flipped.connect(self.show_found)

    def ask(self) -> None:
        """Look for them, behind the window, as long as the station is seen."""
        if self.isVisible():
            self.session.cloth.advise()
            self.show_found()

    def show_found(self) -> None:
        """Show what has been found so far."""
        advising = self.session.cloth.advising
        if advising is None:
            return
        found = best(advising.found)
        told = (found, advising.done, self.session.unit)
        if told == self.shown:
            return
        self.shown = told
        emptied(self.list)
        for advice in found:
            self.list.addWidget(AdviceCard(self.session, advice))
        if not advising.done:
            self._say(tr("Looking for small changes that save a step…"))
        elif advising.broken:
            self._say(tr("The search for small changes broke down ({fault}).", fault=Name(advising.broken)))
        elif not found:
            self._say(tr("No small change saves a step: this is bought well."))
        self.list.addStretch(1)

    def _say(self, words: Phrase) -> None:
        self.list.addWidget(label(words, "soft", wrap=True))
