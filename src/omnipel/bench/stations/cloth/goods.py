"""The price of something that is bought, and how much of it is in the stash."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from PySide6.QtWidgets import QDialog, QWidget

from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.cloth.stock import Goods
from omnipel.core.cloth.takeoff import Group, Line
from omnipel.core.job.findings import Change
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_number
from omnipel.core.words.phrases import NOTHING, Count, Money, Phrase, tr
from omnipel.core.words.units import MM_PER_INCH

YARD: Final = 36.0 * MM_PER_INCH / 1000.0
"""A yard in metres."""


def per_run(session: Session) -> tuple[Phrase, float]:
    """For what a price of cloth or cord is said, and how many metres that is."""
    return (tr("for a yard"), YARD) if session.unit.denominator else (tr("for a metre"), 1.0)


class GoodsDialog(QDialog):
    """Price and stash of one line of the shopping list."""

    def __init__(self, parent: QWidget, session: Session, bought: Line) -> None:
        super().__init__(parent)
        self.session, self.bought = session, bought
        self.setWindowTitle(say(tr("Price and stash")))
        known = session.cloth.stock.goods.get(bought.key)
        self.goods = known or Goods(key=bought.key, by_length=bought.by_length)
        self.cloth = bought.group is Group.CLOTH
        words, self.metres = per_run(session) if bought.by_length else (tr("for one"), 1.0)
        self.price = NumberField(session, tr("Price"), parse_number, self._priced, self._set_price, 0.0, 1e6)
        self.price.show_number(-1.0 if bought.price is None else bought.price * self.metres)
        fields: list[QWidget] = [label(bought.words, "title", wrap=True), _beside(tr("price {per}", per=words), self.price)]
        if not self.cloth:
            if bought.by_length:
                there = length_field(session, tr("In the stash"), self._set_there)
                there.show_length(self.goods.there)
                self.there: QWidget = there
            else:
                count = NumberField(session, tr("In the stash"), parse_number, lambda n: Count(n), self._set_there, 0.0, 1e6)
                count.show_number(self.goods.there)
                self.there = count
            self.where = line(tr("Where it lies"))
            self.where.setText(self.goods.where)
            fields += [_beside(tr("in the stash"), self.there), _beside(tr("where it lies"), self.where)]
        done = button(tr("Keep it"), self.accept, "main")
        done.setDefault(True)
        buttons = row(button(tr("No price"), self._no_price), button(tr("Cancel"), self.reject), done)
        buttons.insertStretch(1, 1)
        note = label(
            tr("A price holds for every job of this shop.") if not self.cloth else tr("Kept with the job's cloth."),
            "soft",
            wrap=True,
        )
        self.setLayout(column(*fields, note, buttons, margins=16, spacing=12))
        self.setMinimumWidth(LOOK.px(420))
        self.priced: float | None = bought.price

    def _priced(self, amount: float) -> Phrase:
        return tr("{amount}", amount=Money(amount)) if amount >= 0.0 else NOTHING

    def _set_price(self, amount: float) -> None:
        self.priced = amount / self.metres
        self.price.show_number(amount)

    def _set_there(self, amount: float) -> None:
        self.goods = replace(self.goods, there=amount)
        show = getattr(self.there, "show_length", None) or getattr(self.there, "show_number", None)
        if show is not None:
            show(amount)

    def _no_price(self) -> None:
        self.priced = None
        self.accept()

    def apply(self) -> None:
        """Keep what was entered."""
        from omnipel.shop.stockroom import GOODS
        from omnipel.shop.stockroom import Change as Booked

        if self.cloth:
            ref = refs.CLOTH if self.bought.key == "outer" else refs.LINING_CLOTH if self.bought.key == "lining" else None
            said = tr("price of {cloth}", cloth=self.bought.words)
            if ref is not None:
                self.session.change(said, Change(ref.at("price"), self.priced))
            elif (lay := self.session.cloth.lay(self.bought.key)) is not None:
                cloth = replace(lay.sheet.cloth, price=self.priced)
                self.session.change(said, Change(refs.lay(self.bought.key, "cloth"), cloth))
            return
        goods = replace(self.goods, price=self.priced, where=self.where.text().strip()[:120])
        self.session.cloth.book(tr("price and stash of {goods}", goods=self.bought.words), [Booked(GOODS, goods.key, goods)])


def _beside(words: Phrase, field: QWidget) -> QWidget:
    holder = QWidget()
    made = row(label(words), field)
    made.setStretch(0, 2)
    made.setStretch(1, 3)
    holder.setLayout(made)
    return holder


def price_of(session: Session, bought: Line, parent: QWidget) -> None:
    """Ask for a price, and how much is in the stash."""
    dialog = GoodsDialog(parent.window(), session, bought)
    with chosen(dialog) as yes:
        if yes:
            dialog.apply()
