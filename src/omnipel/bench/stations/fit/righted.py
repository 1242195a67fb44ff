"""What can be done now with the cloth that is there: each way with its numbers, its minutes, and whether the cover goes on after it; chosen by a tick."""

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import Number, button, check, column, emptied, label, row
from omnipel.bench.session import Session
from omnipel.core.fit.going_on import percent
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.trying import AMISS, Deed, last_went
from omnipel.core.learning.righting import Option
from omnipel.core.tolerances import SURE_CHANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Minutes, Phrase, bare, tr

LONG = frozenset({Deed.SLIT})
"""What is told by its length, not by what it gives."""


class Righted(QWidget):
    """A card for each way."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.fitting = session, fitting_of(session)
        self.cards = QVBoxLayout()
        self.cards.setSpacing(6)
        self.none = label(tr("Nothing has to be done, as far as it was measured."), "soft", wrap=True)
        self.to_sew = button(tr("Sew it: to the steps"), self._sew)
        self.setLayout(column(label(tr("What can be done now"), "head"), self.none, self.cards, self.to_sew, spacing=6))
        self.shown: object = None
        self.ticks: dict[tuple[Deed, str], QWidget] = {}

    def refresh(self) -> None:
        """Show what can be done."""
        found = self.fitting.righting
        options = found.options if found is not None else ()
        known = tuple((o.what, o.chosen, o.chance, str(o.says)) for o in options), self.session.unit, self.session.key
        self.none.setVisible(not options)
        amiss = last_went(self.session.open_job.tries) in AMISS or (
            found is not None and found.now is not None and found.now < SURE_CHANCE
        )
        helpless = tr("None of what is known here puts this right: make it again with what was learnt.")
        self.none.setText(self.session.tell(helpless if amiss else tr("Nothing has to be done, as far as it was measured.")))
        self.to_sew.setVisible(any(option.chosen and not option.altered.refused for option in options))
        if known == self.shown:
            return
        self.shown = known
        with same_focus(self):
            emptied(self.cards)
            self.ticks = {}
            for option in options:
                self.cards.addWidget(self._card(option))

    def _card(self, option: Option) -> QFrame:
        tell = self.session.tell
        tick = check(NOTHING, partial(self._choose, option))
        tick.setAccessibleName(tell(option.altered.words))
        tick.setChecked(option.chosen)
        tick.setEnabled(option.chosen or not option.altered.refused)
        words = label(NOTHING, "strong", wrap=True)
        words.setText(self.session.sentence(option.altered.words))
        chance = label(
            NOTHING, "fine" if option.chance is not None and option.chance >= SURE_CHANCE and option.rights else "look"
        )
        if option.chance is not None:
            chance.setText(tell(tr("chance {chance}", chance=percent(option.chance))))
        head = row(tick, words, chance, spacing=6)
        head.setStretch(1, 1)
        under = label(NOTHING, "soft", wrap=True)
        time = tr("{minutes}", minutes=Minutes(option.altered.minutes))
        speaks = option.altered.refused or option.says
        under.setText(tell(tr("{time} · {says}", time=time, says=speaks) if speaks else time))
        parts = column(head, under, spacing=2, margins=6)
        if option.altered.facts and (option.chosen or option.rights):
            parts.addLayout(self._facts(option))
        if option.chosen:
            parts.addLayout(self._amount(option))
        card = QFrame()
        card.setObjectName("cost" if option.chosen else "surface")
        card.setLayout(parts)
        self.ticks[option.what.deed, option.what.on] = tick
        return card

    def _facts(self, option: Option) -> QVBoxLayout:
        """Its numbers, each with its sum."""
        lines = column(spacing=1)
        for words, number in option.altered.facts:
            name, shown = label(NOTHING, "soft", wrap=True), Number(self.session)
            name.setText(self.session.tell(words))
            shown.show_number(words, number, bare(number.value))
            line = row(name, shown, spacing=8)
            line.setStretch(0, 1)
            lines.addLayout(line)
        return lines

    def _amount(self, option: Option) -> QVBoxLayout:
        """How much of it, by a tape field."""
        made = column(spacing=2)
        asked: list[tuple[str, Phrase, float]] = []
        if option.what.deed in LONG or option.what.deed is Deed.DART:
            asked.append(("long", tr("how long"), option.what.long))
        if option.what.deed not in LONG and option.what.deed is not Deed.PORT:
            asked.append(("by", tr("by how much"), option.what.by))
        for part, words, value in asked:
            less = value < 0.0
            commit = partial(self._set, option, part, less)
            field = length_field(self.session, tr("{what}: {part}", what=option.altered.words, part=words), commit, strict=True)
            field.show_length(abs(value))
            field.setFixedWidth(LOOK.px(90))
            name = label(words, "soft")
            line = row(name, field, spacing=8)
            line.addStretch(1)
            made.addLayout(line)
        return made

    def _set(self, option: Option, part: str, less: bool, value: float) -> None:
        ref = refs.alteration(option.what.id, part)
        self.session.set(ref, -value if less else value, tr("changed: {what}", what=option.altered.words))

    def _choose(self, option: Option, on: bool) -> None:
        words = option.altered.words
        if on:
            since = self.fitting.tries[-1].id if self.fitting.tries else ""
            change = Change(refs.alteration(), replace(option.what, since=since), act=Act.ADD)
            self.session.change(tr("to be done: {what}", what=words), change)
        else:
            change = Change(refs.alteration(option.what.id), act=Act.REMOVE)
            self.session.change(tr("not to be done: {what}", what=words), change)

    def _sew(self) -> None:
        plan = sewing_step(self.session)
        self.session.go.emit(refs.step(plan))


def sewing_step(session: Session) -> str:
    """The key of the first step of what is to be altered; "" while there is none."""
    from omnipel.bench.sewing import sewing_of  # which knows of this room's own model

    plan = sewing_of(session).plan
    steps = [step.key for step in plan.steps if step.key.startswith("alter:")] if plan is not None else []
    return steps[0] if steps else ""
