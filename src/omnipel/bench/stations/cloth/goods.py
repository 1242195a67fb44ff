"""The price of something that is bought, and how much of it is in the stash."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from PySide6.QtWidgets import QListWidget, QWidget

from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.cloth.stock import Goods
from omnipel.core.cloth.takeoff import Group, Line, goods_words, said
from omnipel.core.job.findings import Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Money, Phrase, tr
from omnipel.core.words.plain_numbers import parse_number
from omnipel.core.words.units import MM_PER_INCH
from omnipel.core.words.working import worked

YARD: Final = 36.0 * MM_PER_INCH / 1000.0
"""A yard in metres."""


def per_run(session: Session) -> tuple[Phrase, float]:
    """For what a price of cloth or cord is said, and how many metres that is."""
    return (tr("for a yard"), YARD) if session.unit.denominator else (tr("for a metre"), 1.0)


class GoodsDialog(Dialog):
    """Price and stash of one line of the shopping list."""

    def __init__(self, parent: QWidget, session: Session, bought: Line) -> None:
        super().__init__(
            parent,
            tr("Price and stash"),
            tr(
                "What one line of the shopping list costs, and how much of it is in the stash. What is there is not bought again."
            ),
        )
        self.session, self.bought = session, bought
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
            words = tr("price of {cloth}", cloth=self.bought.words)
            if ref is not None:
                self.session.change(words, Change(ref.at("price"), self.priced))
            elif (lay := self.session.cloth.lay(self.bought.key)) is not None:
                cloth = replace(lay.sheet.cloth, price=self.priced)
                self.session.change(words, Change(refs.lay(self.bought.key, "cloth"), cloth))
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


class GoodsList(Dialog):
    """All goods that the shop knows or this job needs: their prices, and what is there."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(
            parent,
            tr("Goods"),
            tr(
                "All goods that this shop knows or this job needs. Enter on one of them leads to its price and to what is there of it."
            ),
        )
        self.session = session
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Goods, their prices, and what is in the stash")))
        self.list.itemActivated.connect(lambda _item: self._change())
        self.lines: list[Line] = []
        buttons = row(button(tr("Price and stash…"), self._change), button(tr("Close"), self.accept, "main"))
        buttons.insertStretch(1, 1)
        whole = column(
            label(tr("Cord, thread, fasteners: prices and stash"), "title"), self.list, buttons, margins=16, spacing=12
        )
        whole.setStretch(1, 1)
        self.setLayout(whole)
        sized(self, 560, 480)
        self._fill(0)

    def _fill(self, row_: int) -> None:
        now, known = self.session.cloth.current, self.session.cloth.stock.goods
        needed = [line for line in now.taken.lines if line.group in (Group.GOODS, Group.SEWING)] if now is not None else []
        mine = {line.key for line in needed}
        others = [
            Line(
                goods.key,
                goods_words(goods.key),
                Group.GOODS,
                worked(goods_words(goods.key), 0.0),
                goods.by_length,
                goods.there,
                goods.price,
            )
            for goods in known.values()
            if goods.key not in mine
        ]
        self.lines = [*needed, *sorted(others, key=lambda line: line.key)]
        self.list.clear()
        words, metres = per_run(self.session)
        for one in self.lines:
            goods = known.get(one.key) or Goods(key=one.key, by_length=one.by_length)
            per = words if one.by_length else tr("for one")
            times = metres if one.by_length else 1.0
            price = tr("{price} {per}", price=Money(goods.price * times), per=per) if goods.price is not None else tr("no price")
            there = said(goods.there, one.by_length)
            self.list.addItem(self.session.tell(tr("{what} · {price} · {there} there", what=one.words, price=price, there=there)))
        self.list.setCurrentRow(min(row_, len(self.lines) - 1))

    def _change(self) -> None:
        number = self.list.currentRow()
        if 0 <= number < len(self.lines):
            price_of(self.session, self.lines[number], self)
            self._fill(number)
