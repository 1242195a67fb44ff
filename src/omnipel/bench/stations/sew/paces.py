"""How long things take here: paces that can be changed, and what the log of all jobs has told about whoever sews."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import Final

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.asking import sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.rows import Rows
from omnipel.bench.parts.widgets import button, column, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.stations.cloth.goods import YARD
from omnipel.core.finishing.operation import DEEDS, Pace
from omnipel.core.sewing.paces import METRE, RATES, Factor
from omnipel.core.words.phrases import NOTHING, Count, Phrase, term, tr, trn
from omnipel.core.words.plain_numbers import parse_number
from omnipel.shop.timelog import SLOWEST

SAME: Final = 1e-6
"""A pace that differs by less is the usual one."""


class PacesDialog(Dialog):
    """The paces of the shop, and the personal factors."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(
            parent,
            tr("Your paces"),
            tr(
                "How fast each kind of work goes for you, and what the clock has shown of it. The minutes of all jobs are planned with these paces."
            ),
        )
        self.session, self.sewing = session, sewing_of(session)
        self.changed = dict(self.sewing.person.rates)
        self.fields: dict[Pace, NumberField] = {}
        form, told = QWidget(), QWidget()
        self.rows = Rows(form)
        last = NOTHING
        for pace, rate in sorted(RATES.items(), key=lambda item: item[1].per, reverse=True):
            per = self._per(pace)
            if per != last:
                self.rows.addWidget(label(per, "soft"))
                last = per
            field = NumberField(
                session,
                tr("{what}, {per}", what=rate.words, per=per),
                parse_number,
                _written,
                partial(self._set, pace),
                0.0,
                SLOWEST,
            )
            self.fields[pace] = field
            self.rows.add_row(label(rate.words), field)
        said = column(*(label(words, wrap=True) for words in self._learnt()), spacing=4)
        said.addStretch(1)
        said.setContentsMargins(0, 0, 14, 0)
        told.setLayout(said)
        left, right = QWidget(), QWidget()
        left.setLayout(column(label(tr("Minutes that things take"), "head"), scrolled(form), spacing=6))
        right.setLayout(column(label(tr("How long you take, by the clock"), "head"), scrolled(told), spacing=6))
        both = row(left, right, spacing=16)
        both.setStretch(0, 1)
        both.setStretch(1, 1)
        done = button(tr("Keep them"), self._keep, "main")
        buttons = row(button(tr("All as at first"), self._usual), button(tr("Cancel"), self.reject), done)
        buttons.insertStretch(1, 1)
        about = label(
            tr(
                "Each step is planned by these. What you take for it, by the clock, corrects the plan by a factor of your own for that kind of step; after "
                "three covers it is mostly yours."
            ),
            "soft",
            wrap=True,
        )
        whole = column(about, both, buttons, margins=16, spacing=12)
        whole.setStretch(1, 1)
        self.setLayout(whole)
        self._show()
        sized(self, 760, 600)

    def _times(self, pace: Pace) -> float:
        """So many of the minutes that are kept are one that is shown: those who work in inches say them for a yard."""
        return YARD if RATES[pace].per == METRE and self.session.unit.denominator else 1.0

    def _per(self, pace: Pace) -> Phrase:
        if RATES[pace].per != METRE:
            return tr("minutes for each")
        return tr("minutes for a yard") if self.session.unit.denominator else tr("minutes for a metre")

    def _show(self) -> None:
        for pace, field in self.fields.items():
            field.show_number(self.changed.get(pace, RATES[pace].minutes) * self._times(pace))

    def _set(self, pace: Pace, shown: float) -> None:
        minutes = shown / self._times(pace)
        self.changed[pace] = minutes
        if abs(minutes - RATES[pace].minutes) < SAME:
            del self.changed[pace]
        self.fields[pace].show_number(shown)

    def _usual(self) -> None:
        self.changed.clear()
        self._show()

    def _keep(self) -> None:
        self.setFocus()  # what is being typed is taken
        self.sewing.keep_paces(self.changed)
        self.accept()

    def _learnt(self) -> Iterator[Phrase]:
        """The factors, of what was done most often first."""
        known = sorted(self.sewing.person.factors.items(), key=lambda item: (-item[1].n, item[0]))
        for deed, factor in known:
            if factor.n:
                yield factor_words(deed, factor)
        if not any(factor.n for factor in self.sewing.person.factors.values()):
            yield tr("Nothing yet: sew with the clock running.")


def _written(minutes: float) -> Count:
    return Count(minutes, 3)


def factor_words(deed: str, factor: Factor) -> Phrase:
    """What a person takes for a kind of step over the paces: most likely, from the tenth to the ninetieth of a hundred, after so many."""
    low, high = factor.span
    return tr(
        "{deed}: × {times} ({low} to {high}), {steps}",
        deed=DEEDS[deed].words if deed in DEEDS else term(deed),
        times=Count(factor.times, 2),
        low=Count(low, 2),
        high=Count(high, 2),
        steps=trn("{n} step", "{n} steps", factor.n),
    )
