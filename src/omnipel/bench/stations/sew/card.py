"""One step, large: what is done, the pieces as they lie, what is being made, what to set, to mind and to check."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.heard import GROUP, PICTURE
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.scrolled import Roomed, RoomedPage
from omnipel.bench.parts.sections import paint_section
from omnipel.bench.parts.ticked import Ticked
from omnipel.bench.parts.widgets import StateMark, column, emptied, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.sew.made import MadeSizes
from omnipel.core.drafting.crosssection import CrossSection
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.lying import LETTER
from omnipel.core.sewing.howto import how
from omnipel.core.sewing.pictured import picture, section
from omnipel.core.sewing.plan import Plan, Step
from omnipel.core.words.phrases import NOTHING, Phrase, Voice, mm, tr, trn

ROOMY: Final = 760, 440
"""A card that is as wide and high as this has room for larger type, px at 100 %."""
LOW: Final = 300
"""In a window that leaves it less height than this, px at 100 %, the whole card is scrolled, and nothing in it by itself."""
NARROW: Final = 440
"""... and where it is less wide than this, the picture stands below what is to be minded, not beside it."""
ANY: Final = 16777215
"""The greatest height there is in the toolkit."""
SEEN: Final = 110
PART: Final = 0.55
"""A picture is never lower than this, px, however large the text; and on a page that scrolls it takes this part of what is seen of it."""
MOST, BY = 0.08, 0.004
"""Letters take no more than this share of a picture; it changes by so much."""
SOON_MS: Final = 150
"""The next step's picture is begun after so long: first this one is painted."""
HIGH: Final = 96
"""A cross-section is so high, px at 100 %."""


@dataclass(frozen=True, eq=False)
class _Asked:
    """A picture that is wanted: of which step, in whose words, how large its letters are."""

    plan: Plan
    step: Step
    voice: Voice
    letters: float

    @property
    def of(self) -> object:
        """Of which cover, sewn in which order; how fast that is done does not count."""
        return self.plan.making, self.plan.ordered

    @property
    def known(self) -> tuple[object, ...]:
        """What tells it from others of these."""
        return self.step.key, self.letters, self.voice


def _drawn(asked: _Asked) -> tuple[_Asked, Drawing]:
    return asked, picture(asked.plan, asked.step, asked.voice, asked.letters)


class SectionPicture(QWidget):
    """A cross-section, drawn large."""

    heard_as = PICTURE

    def __init__(self) -> None:
        super().__init__()
        self.section: CrossSection | None = None
        self.cloth = QColor("#9db08a")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say(tr("What you are making, cut across")))

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(260), LOOK.px(HIGH))

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.section is not None:
            painter = QPainter(self)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_section(painter, self.section, QRectF(self.rect()).adjusted(10, 8, -10, -8), self.cloth)
            painter.end()


class StepCard(Roomed):
    """The step that is looked at."""

    heard_as = GROUP

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.number, self.words = label(NOTHING, "big"), label(NOTHING, "title", wrap=True)
        self.lead = label(NOTHING, "soft", wrap=True)
        self.picture = PictureView(tr("The pieces as they lie now"))
        self.picture.setMinimumSize(LOOK.px(220), SEEN)
        self.making = label(tr("what you are making, cut across"), "soft")
        self.section = SectionPicture()
        self.settings, self.cautions, self.checks = QVBoxLayout(), Cautions(), QVBoxLayout()
        self.steps = QVBoxLayout()
        for box in (self.settings, self.checks, self.steps):
            box.setSpacing(4)
        right = QWidget()
        self.made = MadeSizes(session)
        told = column(self.making, self.section, self.settings, self.made, self.checks, self.steps, spacing=10)
        told.addStretch(1)
        right.setLayout(told)
        self.rest = scrolled(right)
        for shrinks in (self.rest, self.picture):
            shrinks.setSizePolicy(shrinks.sizePolicy().horizontalPolicy(), QSizePolicy.Policy.Ignored)
        self.rest.setMinimumHeight(1)
        self.beside = column(self.cautions, self.rest, spacing=10)  # what is to be minded is not scrolled away
        self.beside.setStretch(1, 1)
        head = row(self.number, self.words, spacing=12)
        head.setStretch(1, 1)
        self.both = row(self.picture, self.beside, spacing=16)
        self.both.setStretch(0, 5)
        self.both.setStretch(1, 4)
        whole = column(head, self.lead, self.both, spacing=8, margins=12)
        whole.setStretch(2, 1)
        self.setLayout(whole)
        self.plan: Plan | None = None
        self.shown: Step | None = None
        self.open = False
        self.known: object = None
        self.of: object = None
        self.drawn: dict[tuple[object, ...], Drawing] = {}
        self.ahead: _Asked | None = None
        self.soon = QTimer(self)
        self.soon.setSingleShot(True)
        self.soon.setInterval(SOON_MS)
        self.soon.timeout.connect(self._look_ahead)

    def stand_in(self, wide: int, high: int) -> None:
        """Take the room that is left, px: where it is low the page scrolls."""
        low = high < LOOK.px(LOW)
        for widget in (self.rest, self.picture):
            policy = QSizePolicy.Policy.Preferred if low else QSizePolicy.Policy.Ignored
            widget.setSizePolicy(widget.sizePolicy().horizontalPolicy(), policy)
        self.rest.show_whole(low)
        narrow = low and wide < LOOK.px(NARROW)
        if narrow != (self.beside.indexOf(self.picture) >= 0):
            (self.both if narrow else self.beside).removeWidget(self.picture)
            if narrow:
                self.beside.insertWidget(1, self.picture)
            else:
                self.both.insertWidget(0, self.picture, 5)
        seen = max(SEEN, round(PART * high))
        self.picture.setMinimumHeight(seen if low else SEEN)
        self.picture.setMaximumHeight(seen if low else ANY)
        where = self.beside if narrow else self.both
        where.setAlignment(self.picture, Qt.AlignmentFlag.AlignTop if low else Qt.AlignmentFlag(0))

    def show_step(self, plan: Plan, step: Step, *, open_: bool) -> None:
        """Show a step of a plan; `open_`: with how it is done, sentence by sentence."""
        self._fit_type()
        self.made.show_step(step)
        letters = self._letters()
        known = (plan.making, plan.ordered, step.key, open_, self.session.unit, LOOK.colours, letters)
        self.plan, self.shown, self.open = plan, step, open_
        if known == self.known:
            return
        self.known = known
        tell, operation = self.session.tell, step.operation
        self.number.setText(str(step.number))
        self.words.setText(self.session.sentence(operation.words))
        sentences = how(operation.deed)
        lead = [for_all(plan.copies)] if plan.copies > 1 else []
        lead += [sentences[0]] if sentences and not open_ else []
        self.lead.setText(" ".join(tell(words) for words in lead))
        self.lead.setVisible(bool(self.lead.text()))
        self.picture.cloth = QColor(self.session.open_job.cover.cloth.colour)
        self._picture(_Asked(plan, step, self.session.voice, letters))
        self.section.section, self.section.cloth = section(plan, step), self.picture.cloth
        self.section.setVisible(self.section.section is not None)
        self.making.setVisible(self.section.section is not None)
        self.section.update()
        self._fill(step, sentences if open_ else ())
        self.setAccessibleName(f"{step.number}: {tell(operation.words)}")

    def _picture(self, asked: _Asked) -> None:
        """Show the picture of a step; one that is not there yet is made behind the window, and that of the next step after it."""
        if self.of != asked.of:
            self.of = asked.of
            self.drawn.clear()
        known = self.drawn.get(asked.known)
        self.picture.setVisible(bool(asked.step.operation.on) if known is None else bool(known.items))
        self.picture.set_drawing(known or Drawing(()))
        self.picture.fit()
        if known is None:
            self.session.painting.ask("step", _drawn, asked, while_there(self, self._came), self.session.fault)
        elif asked.step.number < len(asked.plan.steps):
            ahead = replace(asked, step=asked.plan.steps[asked.step.number])
            if ahead.known not in self.drawn:
                self.ahead = ahead
                self.soon.start()

    def _look_ahead(self) -> None:
        """Have the picture of the next step made while nobody waits for anything."""
        if self.ahead is not None and self.ahead.of == self.of:
            self.session.painting.ask("step ahead", _drawn, self.ahead, while_there(self, self._kept), self.session.fault)

    def _came(self, made: tuple[_Asked, Drawing]) -> None:
        self._kept(made)
        asked = made[0]
        if self.of == asked.of and self.shown is not None and self.shown.key == asked.step.key:
            self._picture(asked)

    def _kept(self, made: tuple[_Asked, Drawing]) -> None:
        asked, drawing = made
        if asked.of == self.of:
            self.drawn[asked.known] = drawing

    def _fit_type(self) -> None:
        """Where there is room the type is large enough to be read while one stands at the table."""
        name = "roomy" if self.width() >= LOOK.px(ROOMY[0]) and self.height() >= LOOK.px(ROOMY[1]) else ""
        if self.objectName() != name:
            self.setObjectName(name)
            for widget in self.findChildren(QWidget):
                widget.style().unpolish(widget)
                widget.style().polish(widget)
                widget.updateGeometry()
            self.cautions.fit()

    def _letters(self) -> float:
        """How high letters are in the picture, as a share of it: on a small one they stay as high as other words, in steps."""
        around = 2.0 * self.picture.around
        room = max(1.0, min(self.picture.width() - around, 1.2 * (self.picture.height() - around)))
        return min(MOST, max(LETTER, math.ceil(LOOK.px(16 if self.objectName() else 13) / room / BY) * BY))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.plan is not None:
            QTimer.singleShot(0, self, self._again)  # once the picture has its new size

    def _again(self) -> None:
        if self.plan is not None and self.shown is not None:
            self.show_step(self.plan, self.shown, open_=self.open)

    def _fill(self, step: Step, sentences: tuple[Phrase, ...]) -> None:
        tell = self.session.tell
        for box in (self.settings, self.checks, self.steps):
            emptied(box)
        for name, words in step.settings:
            self.settings.addLayout(_line(tell(name), self.session.sentence(words)))
        self.cautions.show_words([self.session.sentence(caution.words) for caution in step.cautions])
        for check in step.operation.checks:
            if step.stop and check.length:
                continue  # the form asks for it
            words = tr("{words}: {length}", words=check.words, length=mm(check.length)) if check.length else check.words
            self.checks.addLayout(_ticked(tell(words), tell(tr("check when done: {words}", words=words))))
        for n, sentence in enumerate(sentences, 1):
            self.steps.addLayout(_line(f"{n}", tell(sentence)))


class CardPage(RoomedPage):
    """The card in the room that is left for it: where that is low, the whole of it is scrolled."""

    inner: StepCard

    def turn(self, *, down: bool) -> None:
        """Show what comes after or before what is seen: of the page, or else of what is told of the step."""
        for bar in (self.verticalScrollBar(), self.inner.rest.verticalScrollBar()):
            if bar.maximum():
                bar.triggerAction(bar.SliderAction.SliderPageStepAdd if down else bar.SliderAction.SliderPageStepSub)

    def to_top(self) -> None:
        """Another step is read from its beginning."""
        for bar in (self.verticalScrollBar(), self.inner.rest.verticalScrollBar()):
            bar.setValue(0)


def for_all(copies: int) -> Phrase:
    """That a step is done for several covers before the next is begun."""
    return trn("For {n} cover.", "For all {n} covers, before the next step.", copies)


def _line(name: str, words: str) -> QVBoxLayout:
    """A name and what is said of it, beside one another."""
    left, right = label(NOTHING, "soft"), label(NOTHING, wrap=True)
    left.setText(name)
    left.setMinimumWidth(LOOK.px(72))
    right.setText(words)
    line = row(left, right, spacing=8)
    line.setStretch(1, 1)
    return column(line)


def _ticked(words: str, called: str) -> QHBoxLayout:
    """Something to check, with a box to tick beside it."""
    tick, text = Ticked(), label(NOTHING, wrap=True)
    tick.setAccessibleName(called)
    tick.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Preferred)
    text.setText(words)
    line = row(tick, text, spacing=4)
    line.setStretch(1, 1)
    return line


class CautionBox(QFrame):
    """Something to mind, before the step; it is never hidden."""

    def __init__(self, words: str) -> None:
        super().__init__()
        self.setObjectName("caution")
        text = label(NOTHING, wrap=True)
        text.setText(words)
        text.setAccessibleName(f"{say(tr('mind'))}: {words}")
        line = row(StateMark("look", 16.0), text, spacing=8, margins=8)
        line.setStretch(1, 1)
        self.setLayout(line)


class Cautions(QWidget):
    """What to mind, one below the other, as high as its words need."""

    def __init__(self) -> None:
        super().__init__()
        self.boxes = QVBoxLayout(self)
        self.boxes.setContentsMargins(0, 0, 0, 0)
        self.boxes.setSpacing(6)

    def show_words(self, words: Sequence[str]) -> None:
        """Show what to mind."""
        emptied(self.boxes)
        for one in words:
            self.boxes.addWidget(CautionBox(one))
        self.setVisible(bool(words))
        self.fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.fit()

    def fit(self) -> None:
        """Whatever else has to be squeezed, these are read whole."""
        found = [item.widget() for k in range(self.boxes.count()) if (item := self.boxes.itemAt(k)) is not None]
        high = [box.heightForWidth(self.width()) for box in found if box is not None]
        self.setFixedHeight(sum(high) + self.boxes.spacing() * max(0, len(high) - 1))
