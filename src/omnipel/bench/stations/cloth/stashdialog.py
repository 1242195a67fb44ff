"""The stash: pieces of cloth with their flaws, where they lie, since when; and every booking, which can be taken back."""

from __future__ import annotations

import time
from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QDialog, QListWidget, QWidget

from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cloth.goods import GoodsList
from omnipel.core.cloth.sheets import cloth_of
from omnipel.core.cloth.stock import StashPiece
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import ClothChoice
from omnipel.core.job.laying import Flaw, Remnant
from omnipel.core.words.phrases import Name, Phrase, mm, tr


class StashDialog(QDialog):
    """Pieces of cloth that are there."""

    def __init__(self, parent: QWidget, session: Session, layer: Cloth) -> None:
        super().__init__(parent)
        self.session = session
        self.setWindowTitle(say(tr("Stash")))
        self.key = ""
        mine = cloth_of(session.open_job, layer)
        self.cloths: list[ClothChoice] = [mine, *session.cloth.stock.cloths.values()]
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Pieces of cloth")))
        self.list.currentRowChanged.connect(self._picked)
        picks = [(Name(cloth.name), i) for i, cloth in enumerate(self.cloths)]
        self.of = combo(tr("Cloth"), picks, lambda _i: self._keep())
        self.long = length_field(session, tr("Length along the warp"), lambda mm_: self._size("length", mm_), strict=True)
        self.wide = length_field(session, tr("Width"), lambda mm_: self._size("width", mm_), strict=True)
        self.where = line(tr("Where it lies"))
        self.where.editingFinished.connect(self._keep)
        self.flaws = QListWidget()
        self.flaws.setAccessibleName(say(tr("Flaws")))
        self.flaws.setMaximumHeight(LOOK.px(84))
        self.at = [length_field(session, words, partial(self._flaw_size, i)) for i, words in enumerate(_FLAW)]
        self.flaw = [0.0, 0.0, 50.0, 50.0]
        self.piece = Remnant(id="new", length=1000.0, width=500.0)
        form = QWidget()
        flaw_fields = row(*(_named(words, field) for words, field in zip(_FLAW, self.at, strict=True)), spacing=6)
        form.setLayout(
            column(
                _named(tr("cloth"), self.of),
                row(_named(tr("length, along the warp"), self.long), _named(tr("width"), self.wide)),
                _named(tr("where it lies"), self.where),
                label(tr("Flaws that nothing is cut from"), "head"),
                self.flaws,
                flaw_fields,
                row(button(tr("Add the flaw"), self._add_flaw), button(tr("Take it off"), self._drop_flaw)),
                spacing=8,
            )
        )
        self.undo = button(tr("Take the last booking back"), self._undo)
        goods = button(tr("Cord, thread, fasteners…"), self._goods)
        buttons = row(self.undo, goods, button(tr("Close"), self.accept, "main"))
        buttons.insertStretch(2, 1)
        left = QWidget()
        left.setLayout(column(self.list, row(button(tr("Add a piece"), self._add), button(tr("It is used up"), self._gone))))
        both = row(left, form, spacing=16)
        both.setStretch(0, 2)
        both.setStretch(1, 3)
        whole = column(label(tr("Pieces of cloth in the stash"), "title"), both, buttons, margins=16, spacing=12)
        whole.setStretch(1, 1)
        self.setLayout(whole)
        self.resize(LOOK.px(820), LOOK.px(520))
        self._fill("")

    def _fill(self, key: str) -> None:
        pieces = self.session.cloth.stock.pieces
        self.list.blockSignals(True)
        self.list.clear()
        for kept in pieces.values():
            self.list.addItem(self.session.tell(named(kept)))
        self.list.blockSignals(False)
        keys = list(pieces)
        if keys:
            self.list.setCurrentRow(keys.index(key) if key in keys else 0)
        self._picked(self.list.currentRow())
        self.undo.setEnabled(any(not booking.undone for booking in self.session.cloth.room.bookings()))

    def _picked(self, number: int) -> None:
        pieces = list(self.session.cloth.stock.pieces.items())
        there = 0 <= number < len(pieces)
        for widget in (self.of, self.long, self.wide, self.where, self.flaws, *self.at):
            widget.setEnabled(there)
        if not there:
            self.key = ""
            return
        self.key, kept = pieces[number]
        self.piece = kept.piece
        known = next((i for i, cloth in enumerate(self.cloths) if cloth.name == kept.cloth.name), None)
        if known is None:
            self.cloths.append(kept.cloth)
            self.of.values.append(len(self.cloths) - 1)
            self.of.addItem(kept.cloth.name)
            known = len(self.cloths) - 1
        self.of.show_value(known)
        self.long.show_length(kept.piece.length)
        self.wide.show_length(kept.piece.width)
        self.where.setText(kept.where)
        self.flaws.clear()
        for flaw in kept.piece.flaws:
            self.flaws.addItem(self.session.tell(_told(flaw)))
        for i, field in enumerate(self.at):
            field.show_length(self.flaw[i])

    def _size(self, part: str, length: float) -> None:
        self.piece = replace(self.piece, **{part: length})  # type: ignore[arg-type]
        self._keep()

    def _keep(self) -> None:
        """Book the piece as it stands in the form."""
        kept = self.session.cloth.stock.pieces.get(self.key)
        if kept is None:
            return
        made = replace(kept, cloth=self.cloths[self.of.value], piece=self.piece, where=self.where.text().strip()[:120])
        if made != kept:
            self._book(tr("stash: {piece}", piece=named(made)), self.key, made)
            self._fill(self.key)

    def _book(self, words: Phrase, key: str, made: StashPiece | None) -> None:
        from omnipel.shop.stockroom import PIECE, Change

        self.session.cloth.book(words, [Change(PIECE, key, made)])

    def _add(self) -> None:
        from omnipel.shop.stockroom import PIECE

        key = self.session.cloth.room.free_key(PIECE)
        system = self.session.open_job.cover.habits.system
        piece = Remnant(id=key, length=system.near(1000.0), width=system.near(500.0))
        made = StashPiece(cloth=self.cloths[0], piece=piece, since=time.strftime("%Y-%m-%d"))
        self._book(tr("stash: {piece} put there", piece=named(made)), key, made)
        self._fill(key)
        self.long.setFocus()

    def _gone(self) -> None:
        kept = self.session.cloth.stock.pieces.get(self.key)
        if kept is not None:
            self._book(tr("stash: {piece} used up", piece=named(kept)), self.key, None)
            self._fill("")

    def _flaw_size(self, i: int, length: float) -> None:
        self.flaw[i] = length
        self.at[i].show_length(length)

    def _add_flaw(self) -> None:
        x, y, long, wide = self.flaw
        if self.key and long > 0.0 and wide > 0.0:
            self.piece = replace(self.piece, flaws=(*self.piece.flaws, Flaw(x=x, y=y, length=long, width=wide)))
            self._keep()

    def _drop_flaw(self) -> None:
        number = self.flaws.currentRow()
        if self.key and 0 <= number < len(self.piece.flaws):
            self.piece = replace(self.piece, flaws=(*self.piece.flaws[:number], *self.piece.flaws[number + 1 :]))
            self._keep()

    def _goods(self) -> None:
        """What the stash has besides cloth, and what things cost."""
        with chosen(GoodsList(self, self.session)):
            self._fill(self.key)

    def _undo(self) -> None:
        self.session.cloth.undo_booking()
        self._fill(self.key)


_FLAW = (tr("from the left end"), tr("from the lower edge"), tr("length"), tr("width"))


def named(kept: StashPiece) -> Phrase:
    """A piece of the stash in words."""
    size = tr("{cloth}, {long} × {wide}", cloth=Name(kept.cloth.name), long=mm(kept.piece.length), wide=mm(kept.piece.width))
    return tr("{size} · {where}", size=size, where=Name(kept.where)) if kept.where else size


def _told(flaw: Flaw) -> Phrase:
    return tr(
        "{long} × {wide}, {x} from the left end, {y} from the lower edge",
        long=mm(flaw.length),
        wide=mm(flaw.width),
        x=mm(flaw.x),
        y=mm(flaw.y),
    )


def _named(words: Phrase, field: QWidget) -> QWidget:
    holder = QWidget()
    holder.setLayout(column(label(words, "soft"), field, spacing=2))
    return holder


def ask_stash(parent: QWidget, session: Session, layer: str) -> None:
    """What the stash has."""
    with chosen(StashDialog(parent.window(), session, Cloth(layer))):
        pass
