"""Choosing a cloth: the kinds that every shop begins with and its own, each with all that is known of it, to be changed and kept."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QListWidget, QWidget

from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.rows import Rows
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, label, line, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cloth.goods import per_run
from omnipel.core.cloth.kinds import KINDS, cloth_words
from omnipel.core.cloth.sheets import cloth_of
from omnipel.core.covers.starting import with_cloth
from omnipel.core.drafting.panel import Cloth
from omnipel.core.explained.cloths import CLOTHS
from omnipel.core.job.document import MOST_WIDTHS, ClothChoice, ClothKind, Iron, Job, SoldAs
from omnipel.core.job.findings import Change
from omnipel.core.tolerances import LONGEST, MOST_GATHERED, SHORTEST
from omnipel.core.words import refs
from omnipel.core.words.notation import TapeError, parse_lengths
from omnipel.core.words.phrases import NOTHING, Count, Money, Name, Phrase, Ratio, Share, Value, bare, listed, mm, term, tr
from omnipel.core.words.plain_numbers import parse_count, parse_number, parse_share


class ClothDialog(Dialog):
    """A list of cloths beside all that is known of the chosen one."""

    def __init__(self, parent: QWidget, session: Session, layer: Cloth) -> None:
        super().__init__(
            parent,
            tr("Cloth"),
            tr(
                "All cloths of this shop, and what is known of the one that is chosen. Once it is taken for a layer, the panels of that layer are "
                "drafted, laid and sewn as this cloth wants it."
            ),
        )
        self.session, self.layer = session, layer
        self.cloths: dict[str, ClothChoice] = {}
        self.key, self.used = "", False
        self.cloth = cloth_of(session.open_job, layer)
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Cloths of this shop")))
        self.list.currentRowChanged.connect(self._picked)
        self.about = label(NOTHING, "soft", wrap=True)
        page = QWidget()
        self.rows = Rows(page)
        self.shows: list[Any] = []
        self._build()
        new = button(tr("One more like it"), self._new)
        self.gone = button(tr("As it was at first"), self._forget)
        left = QWidget()
        left.setLayout(column(label(tr("Cloths"), "head"), self.list, new, self.gone, spacing=6))
        right = QWidget()
        form = column(self.about, scrolled(page), spacing=6)
        form.setStretch(1, 1)
        right.setLayout(form)
        both = row(left, right, spacing=16)
        both.setStretch(0, 2)
        both.setStretch(1, 3)
        use = button(tr("Take it for the {layer}", layer=term(layer.value)), self._use, "main")
        use.setDefault(True)
        buttons = row(button(tr("Close"), self.reject), use)
        buttons.insertStretch(0, 1)
        note = label(
            tr("What is changed here is kept for the shop; a job keeps its cloth as it was when it was taken."), "soft", wrap=True
        )
        whole = column(
            label(tr("Cloth of the {layer}", layer=term(layer.value)), "title"), both, note, buttons, margins=16, spacing=12
        )
        whole.setStretch(1, 1)
        self.setLayout(whole)
        sized(self, 820, 640)
        self._fill("job")

    # The form

    def _build(self) -> None:
        session = self.session
        self._text("name", tr("name"))
        self._text("colour", tr("colour, as #6d8a63"))
        self._pick("kind", tr("sewn as"), of_enum(ClothKind))
        self._length("thickness", tr("thickness"), fine=True)
        self._number("weight", tr("weight, g for a square metre"), parse_number, lambda n: Count(n, 1), 20_000.0)
        self._length("usable_width", tr("usable width"))
        widths, self.wrong = line(tr("All widths it is sold in")), label(NOTHING, "stop", wrap=True)
        self.wrong.hide()
        widths.editingFinished.connect(lambda: self._widths(widths.text()))
        both = QWidget()
        both.setLayout(column(meaning(widths, CLOTHS["widths"]), self.wrong, spacing=3))
        self.rows.add_row(label(tr("all widths, with commas")), both)
        self.shows.append(lambda: widths.setText(session.tell(tr("{widths}", widths=_list(self.cloth.widths)))))
        self._pick("sold_as", tr("sold"), of_enum(SoldAs))
        self._length("piece_length", tr("length of a piece"))
        words, metres = per_run(session)
        price = NumberField(
            session, tr("Price"), parse_number, _money, lambda n: self._set("price", n / self._per(metres)), 0.0, 1e6
        )
        price_words = label(tr("price {per}", per=words))
        self.rows.add_row(price_words, meaning(price, CLOTHS["price"]))
        self.shows.append(lambda: price.show_number(-1.0 if self.cloth.price is None else self.cloth.price * self._per(metres)))
        self.shows.append(
            lambda: price_words.setText(say(tr("price of a piece") if self._piece else tr("price {per}", per=words)))
        )
        self._length("sold_by", tr("sold by steps of"))
        self._length("least", tr("the least that is sold"))
        for key, shown in (("shrink_warp", tr("first wash takes up along")), ("shrink_weft", tr("first wash takes up across"))):
            self._number(key, shown, parse_share, lambda n: Share(n, 1), 0.5)
        self._tick("prewashed", tr("washed before it is cut"))
        self._number("gather_limit", tr("gathers to"), parse_number, Ratio, MOST_GATHERED, 1.0)
        for key, shown in _YES:
            self._tick(key, shown)
        self._length("repeat_along", tr("pattern repeats along after"))
        self._length("repeat_across", tr("pattern repeats across after"))
        self._pick("iron", tr("iron"), of_enum(Iron))
        self._text("needle", tr("needle"))
        self._number("thread", tr("thread, Tex"), parse_count, Count, 1000.0)
        self._length("stitch", tr("stitch"), fine=True)

    @property
    def _piece(self) -> bool:
        return self.cloth.sold_as is SoldAs.PIECE

    def _per(self, metres: float) -> float:
        return 1.0 if self._piece else metres

    def _text(self, key: str, words: Phrase) -> None:
        field = meaning(line(words), CLOTHS[key])
        field.editingFinished.connect(lambda: self._set(key, field.text().strip()))
        self.rows.add_row(label(words), field)
        self.shows.append(lambda: field.setText(getattr(self.cloth, key)))

    def _length(self, key: str, words: Phrase, *, fine: bool = False) -> None:
        field = length_field(self.session, words, partial(self._set, key), strict=key in ("usable_width",), fine=fine)
        meaning(field, CLOTHS[key])
        self.rows.add_row(label(words), field)
        self.shows.append(lambda: field.show_length(getattr(self.cloth, key)))

    def _number(self, key: str, words: Phrase, parse: Any, shown: Any, high: float, low: float = 0.0) -> None:
        whole = parse is parse_count
        field = NumberField(self.session, words, parse, shown, lambda n: self._set(key, round(n) if whole else n), low, high)
        meaning(field, CLOTHS[key])
        self.rows.add_row(label(words), field)
        self.shows.append(lambda: field.show_number(getattr(self.cloth, key)))

    def _pick(self, key: str, words: Phrase, picks: list[tuple[Value, object]]) -> None:
        field = meaning(combo(words, picks, partial(self._set, key)), CLOTHS[key])
        self.rows.add_row(label(words), field)
        self.shows.append(lambda: field.show_value(getattr(self.cloth, key)))

    def _tick(self, key: str, words: Phrase) -> None:
        box = meaning(check(words, partial(self._set, key)), CLOTHS[key])
        self.rows.addWidget(box)
        self.shows.append(lambda: box.setChecked(getattr(self.cloth, key)))

    # Showing

    def _fill(self, key: str) -> None:
        """List the cloths anew, one of them chosen: "job" for the one the job has."""
        stock = self.session.cloth.stock
        mine = cloth_of(self.session.open_job, self.layer)
        self.cloths = {"job": mine, **stock.cloths}
        self.list.blockSignals(True)
        self.list.clear()
        for known, cloth in self.cloths.items():
            words = (
                tr("{cloth} (as the job has it)", cloth=cloth_words(cloth.name)) if known == "job" else cloth_words(cloth.name)
            )
            self.list.addItem(self.session.tell(words))
        self.list.blockSignals(False)
        keys = list(self.cloths)
        self.list.setCurrentRow(keys.index(key) if key in keys else 0)
        self._picked(self.list.currentRow())

    def _picked(self, number: int) -> None:
        if 0 <= number < len(self.cloths):
            self.key, self.cloth = list(self.cloths.items())[number]
            kind = KINDS.get(self.key)
            self.about.setText(self.session.sentence(kind.about) if kind is not None else "")
            self.gone.setText(say(tr("As it was at first") if kind is not None else tr("Take it off the list")))
            self.gone.setEnabled(self.key != "job")
            self._show()

    def _show(self) -> None:
        for show in self.shows:
            show()

    def _set(self, key: str, value: object) -> None:
        """Change something about the chosen cloth: in the shop, or in the job alone."""
        if getattr(self.cloth, key) == value:
            return
        self.cloth = replace(self.cloth, **{key: value})  # type: ignore[arg-type]
        self.cloths[self.key] = self.cloth
        if self.key == "job":
            self.session.change(
                tr("{cloth} changed", cloth=cloth_words(self.cloth.name)), *taken(self.session.open_job, self.layer, self.cloth)
            )
        else:
            self._book(self.cloth)
        item = self.list.currentItem()
        if key == "name" and item is not None:
            item.setText(self.cloth.name)
        self._show()

    def _widths(self, text: str) -> None:
        try:
            found = tuple(sorted(parse_lengths(text, self.session.unit)))
        except TapeError as error:
            self._refuse_widths(error.phrase)
            return
        if len(found) > MOST_WIDTHS or not all(SHORTEST <= width <= LONGEST for width in found):
            bounds = tr(
                "“{typed}”: a width is longer than {low}, and {n} are kept at most",
                typed=Name(text),
                low=mm(SHORTEST),
                n=Count(MOST_WIDTHS),
            )
            self._refuse_widths(bounds)
            return
        self.wrong.hide()
        if self.session.tell(tr("{widths}", widths=_list(found))) != self.session.tell(
            tr("{widths}", widths=_list(self.cloth.widths))
        ):
            self._set("widths", found)

    def _refuse_widths(self, why: Phrase) -> None:
        self.wrong.setText(self.session.tell(tr("{fault}; the old value stays", fault=why)))
        self.wrong.show()
        self._show()

    def _book(self, cloth: ClothChoice | None) -> None:
        from omnipel.shop.stockroom import CLOTH
        from omnipel.shop.stockroom import Change as Booked

        words = tr("cloth {cloth}", cloth=cloth_words(cloth.name if cloth is not None else self.cloth.name))
        self.session.cloth.book(words, [Booked(CLOTH, self.key, cloth)])

    def _new(self) -> None:
        """One more cloth of the shop, like the one that is chosen."""
        from omnipel.shop.stockroom import CLOTH

        self.key = self.session.cloth.room.free_key(CLOTH)
        self.cloth = replace(self.cloth, name=self.session.tell(tr("{cloth}, another", cloth=cloth_words(self.cloth.name)))[:120])
        self._book(self.cloth)
        self._fill(self.key)

    def _forget(self) -> None:
        key = self.key
        self._book(None)
        self._fill(key)

    def _use(self) -> None:
        self.used = True
        self.accept()

    def apply(self) -> None:
        """Take the chosen cloth for the layer."""
        job = self.session.open_job
        if self.cloth == cloth_of(job, self.layer):
            return
        words = tr("{layer}: {cloth}", layer=term(self.layer.value), cloth=cloth_words(self.cloth.name))
        if self.layer is Cloth.OUTER:  # allowances that nobody has chosen otherwise go with it
            self.session.apply(replace(job, cover=with_cloth(job.cover, self.cloth)), words)
        else:
            self.session.change(words, *taken(job, self.layer, self.cloth))


_YES = (
    ("frays", tr("frays")),
    ("one_way", tr("all panels lie one way: a nap, or a print with a top")),
    ("hot_cut", tr("may be cut hot")),
    ("own_hem", tr("its own edges are hems")),
    ("waterproof", tr("waterproof")),
    ("outdoors", tr("for outdoors")),
    ("food_safe", tr("food-safe")),
    ("breathes", tr("breathes")),
    ("stiff", tr("stiff")),
)


def _list(widths: tuple[float, ...]) -> Value:
    return listed(bare(width) for width in widths)


def _money(amount: float) -> Value:
    return Money(amount) if amount >= 0.0 else NOTHING


def taken(job: Job, layer: Cloth, cloth: ClothChoice) -> tuple[Change, ...]:
    """The changes by which a layer has a cloth."""
    if layer is Cloth.OUTER:
        return (Change(refs.CLOTH, cloth),)
    if layer is Cloth.LINING:
        return (Change(refs.LINING_CLOTH, cloth),)
    thick = (Change(refs.PADDING, cloth.thickness),) if layer is Cloth.PADDING and cloth.thickness else ()
    return (Change(refs.lay(layer.value, "cloth"), cloth), *thick)


def ask_cloth(parent: QWidget, session: Session, layer: str) -> None:
    """Choose the cloth of a layer."""
    dialog = ClothDialog(parent.window(), session, Cloth(layer))
    with chosen(dialog) as yes:
        if yes and dialog.used:
            dialog.apply()
