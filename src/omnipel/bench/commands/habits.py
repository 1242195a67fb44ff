"""Habits of the shop: what new jobs start from, and rounding what has been chosen."""

import json
from collections.abc import Sequence
from functools import partial

from PySide6.QtWidgets import QFormLayout, QListWidget, QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.commands.units import shop_unit
from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.finishing.rounding import Rounding, rounded, roundings
from omnipel.core.words import refs
from omnipel.core.words.habits import HABITS, Habits, System
from omnipel.core.words.phrases import term, tr
from omnipel.core.words.units import NEXT_UNIT
from omnipel.shop.store import Store


def shop_habits(store: Store, system: System) -> Habits:
    """The habits of a shop: the system's, with what the shop has changed."""
    try:
        kept = json.loads(store.setting(f"habits {system}", "{}"))
        own = {name: float(length) for name, length in kept.items() if name in HABITS}
        return Habits(system=system, own={n: mm for n, mm in own.items() if 0.0 <= mm <= HABITS[n].most(system)})
    except (ValueError, TypeError, AttributeError):  # damaged: the usual ones
        return Habits(system=system)


class RoundingDialog(Dialog):
    """What rounding would change, as a list; one button does it."""

    def __init__(self, parent: QWidget, session: Session, found: Sequence[Rounding]) -> None:
        super().__init__(
            parent,
            tr("Round everything chosen"),
            tr(
                "What is chosen and not round in this job's unit, and what it would become. What was measured stays as it is; one undo brings everything back."
            ),
        )
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("What changes")))
        self.list.addItems([session.sentence(rounding.phrase) for rounding in found])
        done = button(tr("Round them"), self.accept, "main")
        done.setDefault(True)
        buttons = row(button(tr("Leave them as they are"), self.reject), done)
        buttons.insertStretch(0, 1)
        about = label(tr("What was measured stays as it is. One undo brings everything back."), "soft", wrap=True)
        self.setLayout(column(label(tr("Round everything chosen"), "title"), about, self.list, buttons, margins=16, spacing=12))
        sized(self, 520, 460)


class HabitsDialog(Dialog):
    """Every habit with a field; what is changed counts for new jobs from now on."""

    def __init__(self, parent: QWidget, session: Session, system: System) -> None:
        super().__init__(
            parent,
            tr("Habits of this shop"),
            tr(
                "Lengths that new jobs start from: seams, hems, gaps as this shop does them. Jobs that are there already keep what they have."
            ),
        )
        self.session, self.system = session, system
        self.own = dict(shop_habits(session.store, system).own)
        form = QFormLayout()
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        self.fields = {}
        for name, habit in HABITS.items():
            field = length_field(session, habit.words, partial(self._set, name), high=habit.most(system))
            field.show_length(self.own.get(name, habit.usual(system)))
            self.fields[name] = field
            words = label(habit.words, wrap=True)
            words.setMinimumWidth(LOOK.px(300))
            form.addRow(words, field)
        inner = QWidget()
        inner.setLayout(form)
        about = label(tr("New jobs start from these. Jobs that are there already keep what they have."), "soft", wrap=True)
        buttons = row(button(tr("Back to the usual"), self._usual), button(tr("Close"), self.accept, "main"))
        buttons.insertStretch(0, 1)
        self.setLayout(column(label(tr("Habits of this shop"), "title"), about, scrolled(inner), buttons, margins=16, spacing=12))
        sized(self, 620, 620)

    def _set(self, name: str, length: float) -> None:
        self.own[name] = length
        self.fields[name].show_length(length)
        self._keep()

    def _usual(self) -> None:
        self.own = {}
        for name, habit in HABITS.items():
            self.fields[name].show_length(habit.usual(self.system))
        self._keep()

    def _keep(self) -> None:
        self.session.keep_setting(f"habits {self.system}", json.dumps(self.own))


def flip_unit(desk: Desk) -> None:
    """The next unit for this job. No size changes; what is not round in it shows an ≈ and can be rounded."""
    unit = NEXT_UNIT[desk.session.open_job.unit]
    desk.session.set(refs.of_job("unit"), unit, tr("unit: {unit}", unit=term(unit.label)))


def round_chosen(desk: Desk) -> None:
    """Show what would change, and round it as one step that can be undone."""
    job = desk.session.open_job
    found = roundings(job)
    if not found:
        desk.session.say("note", tr("Everything chosen is round already."))
        return
    with chosen(RoundingDialog(desk.widget, desk.session, found)) as yes:
        if yes:
            desk.session.apply(rounded(job), tr("everything chosen rounded"))


def edit_habits(desk: Desk) -> None:
    """What this shop starts from."""
    unit = desk.session.unit if desk.session.job else shop_unit(desk.session.store)
    with chosen(HabitsDialog(desk.widget, desk.session, System.of(unit))):
        pass
