"""The try-ons of a cover as cards in a row, and what is written down of the one that is looked at: how it went on, when, where, words."""

from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent
from PySide6.QtWidgets import QButtonGroup, QPlainTextEdit, QPushButton, QRadioButton, QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.widgets import button, column, emptied, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.fit.photos import PhotoRow
from omnipel.core.job.trying import LONGEST_WORDS, Stage, TryOn, Went
from omnipel.core.words.phrases import Name, Phrase, listed, term, tr

WENT = (Went.NOT, Went.STRUGGLES, Went.RIGHT, Went.LOOSE, Went.FLAPS)


def day_of(text: str) -> str | None:
    """A day as a person writes it, as 2026-11-28; "" for none, None where it is no day.

    >>> day_of("2026-11-28"), day_of(""), day_of("yesterday")
    ('2026-11-28', '', None)
    """
    text = text.strip()
    if not text:
        return ""
    if text.casefold() == say(tr("today")).casefold():
        return date.today().isoformat()
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError:
        return None


class TryStrip(QWidget):
    """One card for each try-on, and one to begin another."""

    chosen = Signal(str)
    """The id of that which is to be looked at."""
    begins = Signal()
    """Another one is begun."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.group = QButtonGroup(self)
        self.cards: dict[str, QPushButton] = {}
        self.flow = Flow(gap=8)
        self.another = button(tr("+ another try-on"), self.begins.emit, tip=tr("Ctrl+Shift+T"))
        self.setLayout(self.flow)
        self.shown: object = None

    def refresh(self, tries: tuple[TryOn, ...], current: str) -> None:
        """Show the try-ons."""
        known = tuple((one.id, one.stage, one.day, one.went) for one in tries), self.session.unit
        if known != self.shown:
            self.shown = known
            self.flow.removeWidget(self.another)
            emptied(self.flow)
            self.cards = {}
            for one in tries:
                self.cards[one.id] = self._card(one)
                self.flow.addWidget(self.cards[one.id])
            self.another.setText(say(tr("+ another try-on") if tries else tr("+ first try-on")))
            self.another.setAccessibleName(self.another.text())
            self.flow.addWidget(self.another)
            self.another.show()
        for id_, card in self.cards.items():
            card.setChecked(id_ == current)

    def _card(self, one: TryOn) -> QPushButton:
        words = self.session.sentence(term(one.stage))
        told = [part for part in (Name(one.day) if one.day else None, one.went.words if one.went else None) if part is not None]
        under = self.session.tell(listed(told, " · ")) or say(tr("nothing written down yet"))
        card = button(Name(f"{words}\n{under}"), partial(self.chosen.emit, one.id), "card")
        card.setCheckable(True)
        card.setAccessibleName(f"{words}, {under}")
        self.group.addButton(card)
        return card


class TryForm(QWidget):
    """What is written down of one try-on."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.fitting = session, fitting_of(session)
        self.group = QButtonGroup(self)
        self.went: dict[Went, QRadioButton] = {}
        went = Flow(gap=10)
        for how in WENT:
            made = QRadioButton(say(how.words))
            made.setAccessibleName(say(tr("how it went on: {how}", how=how.words)))
            made.clicked.connect(lambda _on=False, h=how: self._went(h))
            self.group.addButton(made)
            self.went[how] = made
            went.addWidget(made)
        self.stage = combo(tr("When it was tried on"), of_enum(Stage), self._staged)
        self.day = line(tr("The day, as 2026-11-28"), tr("2026-11-28, or today"))
        self.day.editingFinished.connect(self._dated)
        self.words = QPlainTextEdit()
        self.words.setAccessibleName(say(tr("What else there was to say")))
        self.words.setPlaceholderText(say(tr("what else there was to say: at the hinge it pulls; the cable wants out 3 lower")))
        self.words.setTabChangesFocus(True)
        self.words.installEventFilter(self)
        self.photos = PhotoRow(session, partial(self._keep, "photos"))
        self.photo = button(tr("Photo…"), self.photos.ask, tip=tr("or let files fall here"))
        self.setAcceptDrops(True)
        self.gone = button(tr("Take away"), self.fitting.take_away, "quiet", tip=tr("this try-on; Ctrl+Z brings it back"))
        top = row(self.stage, self.day, self.photo, self.gone, spacing=8)
        top.addStretch(1)
        self.setLayout(column(label(tr("How did it go on?"), "head"), went, top, self.words, self.photos, spacing=6))

    def refresh(self, one: TryOn) -> None:
        """Show a try-on."""
        self.group.setExclusive(False)
        for how, made in self.went.items():
            made.setChecked(how is one.went)
        self.group.setExclusive(True)
        self.stage.show_value(one.stage)
        self.day.setFixedWidth(LOOK.px(112))
        self.words.setFixedHeight(LOOK.px(50))
        self.photos.refresh(one.photos)
        if not self.day.hasFocus():
            self.day.setText(one.day)
        if not self.words.hasFocus() or not self.words.document().isModified():
            self.words.setPlainText(one.words)
            self.words.document().setModified(False)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.photos.bring([Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()])

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self.words and event.type() == QEvent.Type.FocusOut:
            self._said()
        if watched is self.words and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            entered = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
            if entered and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                self._said()
                return True
        return super().eventFilter(watched, event)

    def _went(self, how: Went) -> None:
        one = self.fitting.current
        if one is not None:
            self._keep("went", how, tr("how it went on: {how}", how=how.words))

    def _staged(self, stage: Stage) -> None:
        self._keep("stage", stage, tr("try-on: {stage}", stage=term(stage)))

    def _dated(self) -> None:
        one, day = self.fitting.current, day_of(self.day.text())
        if one is None:
            return
        if day is None:
            fault = tr("“{typed}” is no day: write it as 2026-11-28. The old one stays.", typed=Name(self.day.text()))
            self.session.say("look", fault)
            self.day.setText(one.day)
        elif day != one.day:
            self._keep("day", day, tr("day of the try-on: {day}", day=Name(day)))
        else:
            self.day.setText(one.day)

    def _said(self) -> None:
        one, text = self.fitting.current, self.words.toPlainText().strip()[:LONGEST_WORDS]
        self.words.document().setModified(False)
        if one is not None and text != one.words:
            self._keep("words", text, tr("words about the try-on"))

    def _keep(self, part: str, value: object, reason: Phrase) -> None:
        self.fitting.set(part, value, reason)
