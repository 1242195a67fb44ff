"""Make it again: a new job from the open one, each change that was learnt ticked or not, old and new sizes side by side."""

from functools import partial
from uuid import uuid4

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.asking import sized
from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.widgets import button, check, column, emptied, label, line, restyle, row, scrolled
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change
from omnipel.core.learning.again import Proposed, Side, again, beside, proposed, with_proposed
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Length, Name, Phrase, tr

LONGEST = 120


def next_name(job: Job, taken: set[str]) -> str:
    """What the new one is called: with the next number that is free.

    >>> from omnipel.shop.starter import starter
    >>> job = starter("drum", "wall-and-lid", name="Extractor drum 2")
    >>> next_name(job, {"Extractor drum 2", "Extractor drum 3"})
    'Extractor drum 4'
    """
    head, _, tail = job.name.rpartition(" ")
    base, number = (head, int(tail)) if head and tail.isdecimal() and len(tail) < 4 else (job.name, 1)
    base = base[: LONGEST - 5]
    return next(name for k in range(number + 1, number + len(taken) + 3) if (name := f"{base} {k}") not in taken)


class AgainDialog(Dialog):
    """What the new one takes over, and what it does differently."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(
            parent,
            tr("Make it again"),
            tr(
                "A new job for one more of the same, with what was learnt of this one proposed change by change. What is ticked is taken over; old "
                "and new cut sizes stand beside one another."
            ),
        )
        self.session, self.fitting = session, fitting_of(session)
        self.old: Job = session.open_job
        making, found = self.fitting.making, self.fitting.why
        self.proposed: tuple[Proposed, ...] = ()
        if making is not None and found is not None:
            self.proposed = proposed(making, found, self.fitting.experience)
        self.taken = {k for k, one in enumerate(self.proposed) if one.wants}
        taken = {card.name for card in session.store.cards(archived=True)}
        self.name = line(tr("What the new one is called"))
        self.name.setMaxLength(LONGEST)
        self.name.setText(next_name(self.old, taken))
        self.same = check(tr("for the same thing: both stand in one logbook"), lambda _on: None)
        self.same.setChecked(True)
        meaning(self.same, tr("Ticked, what happens to the old one and the new one stands in one logbook."))
        self.sizes = QGridLayout()
        self.sizes.setHorizontalSpacing(12)
        self.sizes.setVerticalSpacing(3)
        self.sizes.setColumnStretch(0, 1)
        self.made = button(tr("Make it again"), self._make, "main")
        self._lay_out()
        self._show()
        sized(self, 900, 640)

    def _lay_out(self) -> None:
        changes = QVBoxLayout()
        changes.setSpacing(10)
        for k, one in enumerate(self.proposed):
            tick = check(NOTHING, partial(self._tick, k))
            tick.setAccessibleName(self.session.tell(tr("{what}: {why}", what=one.words, why=one.reason)))
            tick.setChecked(k in self.taken)
            words, why = label(NOTHING, "strong", wrap=True), label(NOTHING, "soft", wrap=True)
            words.setText(self.session.sentence(one.words))
            why.setText(self.session.sentence(one.reason))
            told = row(tick, column(words, why, spacing=0), spacing=6)
            told.setStretch(1, 1)
            tick.setSizePolicy(tick.sizePolicy().horizontalPolicy().Fixed, tick.sizePolicy().verticalPolicy())
            changes.addLayout(told)
        if not self.proposed:
            changes.addWidget(label(tr("Nothing was learnt that it could do differently."), "soft", wrap=True))
        changes.addStretch(1)
        left, right = QWidget(), QWidget()
        left.setLayout(changes)
        sizes = column(self.sizes)
        sizes.addStretch(1)
        right.setLayout(sizes)
        both = row(
            column(label(tr("What it does differently"), "head"), scrolled(left), spacing=6),
            column(label(tr("Cut sizes, before and now"), "head"), scrolled(right), spacing=6),
            spacing=20,
        )
        both.setStretch(0, 1)
        both.setStretch(1, 1)
        foot = row(button(tr("Leave it"), self.reject), self.made, spacing=8)
        foot.insertStretch(0, 1)
        intro = tr("A new job with what was decided and measured for this one; nothing of it is sewn yet.")
        whole = column(
            label(tr("Make it again"), "title"),
            label(intro, "soft", wrap=True),
            row(self.name, self.same),
            both,
            foot,
            margins=16,
        )
        whole.setStretch(3, 1)
        self.setLayout(whole)

    @property
    def job(self) -> Job:
        """The new job with what is ticked."""
        thing = ""
        if self.same.isChecked():
            thing = self.old.kin.thing or uuid4().hex
        name = self.name.text().strip() or self.old.name
        return with_proposed(again(self.old, name, thing), [one for k, one in enumerate(self.proposed) if k in self.taken])

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._show()  # once more: only now it is known how large its type is

    def _tick(self, k: int, on: bool) -> None:
        self.taken = self.taken | {k} if on else self.taken - {k}
        self._show()

    def _show(self) -> None:
        emptied(self.sizes)
        before, now = self.session.draft, draft(self.job)
        if not isinstance(before, Drafted):
            return
        if not isinstance(now, Drafted):
            told = label(NOTHING, "look", wrap=True)
            told.setText(self.session.sentence(now.findings[0].text) if now.findings else "")
            self.sizes.addWidget(told, 0, 0, 1, 4)
            return
        for k, words in enumerate((NOTHING, tr("before"), tr("now"), tr("differs"))):
            head = label(words, "soft")
            head.setAlignment(Qt.AlignmentFlag.AlignRight)
            self.sizes.addWidget(head, 0, k)
        for k, side in enumerate(beside(before, now), 1):
            self._side(k, side)

    def _side(self, k: int, side: Side) -> None:
        tell = self.session.tell
        name = label(NOTHING, wrap=True)
        name.setText(self.session.sentence(side.words))
        self.sizes.addWidget(name, k, 0)
        shown = [tell(Length(size, bare=True)) if size is not None else tell(tr("none")) for size in (side.old, side.new)]
        by = side.differs
        much = tell(Length(abs(by), bare=True))
        shown.append("" if much == tell(Length(0.0, bare=True)) else f"{'+' if by > 0.0 else '−'} {much}")
        for at, text in enumerate(shown, 1):
            value = label(NOTHING)
            value.setText(text)
            restyle(value, "strong" if at == 3 else "")
            self.sizes.addWidget(value, k, at, Qt.AlignmentFlag.AlignRight)

    def _make(self) -> None:
        made = self.job
        if self.same.isChecked() and not self.old.kin.thing:
            kin = tr("another cover for the same thing")
            self.session.change(kin, Change(refs.of_job("kin.thing"), made.kin.thing))
        self.accept()
        reason: Phrase = tr("made again from {job}", job=Name(self.old.name))
        if self.session.add(made, reason) is not None:
            self.session.go.emit(refs.panel())


def ask_again(parent: QWidget, session: Session) -> None:
    """Ask, and make it."""
    if isinstance(session.draft, Drafted):
        AgainDialog(parent, session).exec()
    else:
        session.say("look", tr("It has to be drafted first."))
