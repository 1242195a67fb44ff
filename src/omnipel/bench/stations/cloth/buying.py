"""What is to be bought: every line with its amount, its cost or that nobody has said its price, and what the stash gives."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QWidget

from omnipel.bench.parts.widgets import Number, button, label
from omnipel.bench.session import Session
from omnipel.bench.stations.cloth.goods import price_of
from omnipel.core.cloth.takeoff import Group, Line, Takeoff
from omnipel.core.words.phrases import Count, Money, PerCovered, Phrase, Run, tr, trn


class Buying(QWidget):
    """The shopping list."""

    row_by_row = True

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(0, 0, 8, 0)
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(3)
        self.grid.setColumnStretch(0, 1)
        self.rows: list[tuple[object, tuple[QWidget, ...]]] = []

    def show_takeoff(self, taken: Takeoff) -> None:
        """Show what is to be bought: lines that are as they were stay."""
        for i, line in enumerate(taken.lines):
            told = line, self.session.unit
            if i < len(self.rows) and self.rows[i][0] == told:
                continue
            self._drop(i, i + 1)
            self.rows[i : i + 1] = [(told, self._line(line))]
            for column, widget in enumerate(self.rows[i][1]):
                self.grid.addWidget(widget, i, column)
        self.grid.setRowStretch(len(self.rows), 0)
        self._drop(len(taken.lines), len(self.rows))
        del self.rows[len(taken.lines) :]
        self.grid.setRowStretch(len(self.rows), 1)

    def _drop(self, start: int, stop: int) -> None:
        for _, widgets in self.rows[start:stop]:
            for widget in widgets:
                self.grid.removeWidget(widget)
                widget.hide()
                widget.deleteLater()

    def _line(self, line: Line) -> tuple[QWidget, ...]:
        words = label(wrap=True)
        words.setText(self.session.tell(line.words))
        words.setToolTip(self.session.tell(line.note))
        amount = Number(self.session)
        if line.by_length:
            amount.show_number(tr("{what}, needed", what=line.words), line.needed, Run(line.needed.value))
        else:
            amount.setText(self.session.tell(trn("{n}", "{n}", round(line.needed.value))))
            amount.setAccessibleName(self.session.tell(tr("{what}, {n}", what=line.words, n=Count(line.needed.value))))
        amount.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        return words, amount, self._cost(line)

    def _cost(self, line: Line) -> QWidget:
        said, style = self._said(line)
        made = button(said, partial(price_of, self.session, line, self), "link" if style == "soft" else style)
        made.setAccessibleName(
            self.session.tell(tr("{what}: {cost}; its price and what is in the stash", what=line.words, cost=said))
        )
        made.setEnabled(line.group is not Group.OWN)
        return made

    def _said(self, line: Line) -> tuple[Phrase, str]:
        """What a line costs, in words, and how it is shown."""
        if line.group is Group.OWN:
            return tr("own cloth"), "soft"
        if line.to_buy <= 1e-9:
            return tr("stash"), "soft"
        if line.unknown:
            return tr("price ?"), "lookquiet"
        return tr("{cost}", cost=Money(line.cost(line.to_buy))), "quiet"


def totals(taken: Takeoff) -> list[Phrase]:
    """What all of it comes to, in a line or two."""
    made = [tr("to pay now: {pay}", pay=taken.pay_words)]
    if taken.stashed:
        made.append(tr("{stash} from the stash", stash=Money(taken.stashed)))
    if taken.covers > 1 and taken.material:
        made.append(tr("each of {n} covers {cost}", n=Count(taken.covers), cost=Money(taken.per_cover)))
    if taken.material:
        made.append(tr("{cost}", cost=PerCovered(taken.per_area)))
    if taken.unknown:
        made.append(trn("{n} price unknown", "{n} prices unknown", len(taken.unknown)))
    return made
