"""The stash: pieces of cloth with their flaws, where they lie, since when; and every booking, which can be taken back."""

from __future__ import annotations

import time
from dataclasses import replace
from functools import partial
from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QWidget

from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cloth.goods import GoodsList
from omnipel.bench.stations.cloth.pieceview import PieceView
from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.cloth.remnants import Corner, corners, squared, with_corner, with_more, without_corner
from omnipel.core.cloth.sheets import cloth_of
from omnipel.core.cloth.stock import StashPiece
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import ClothChoice
from omnipel.core.job.laying import Flaw, Remnant
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, Rule, Value, mm, tr

ADDED: Final = (Rule(1000.0, 40.0), Rule(500.0, 20.0))
"""A piece that is added, before it is said how long and wide it is."""


class StashDialog(Dialog):
    """Pieces of cloth that are there."""

    def __init__(self, parent: QWidget, session: Session, layer: Cloth) -> None:
        super().__init__(
            parent,
            tr("Stash"),
            tr(
                "Pieces of cloth that are there, with their outline and their flaws. A lay can be put onto one of them; nothing is laid over a flaw."
            ),
        )
        self.session = session
        self.key = ""
        mine = cloth_of(session.open_job, layer)
        self.cloths: list[ClothChoice] = [mine, *session.cloth.stock.cloths.values()]
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Pieces of cloth")))
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(self._picked)
        picks = [(cloth_words(cloth.name), i) for i, cloth in enumerate(self.cloths)]
        self.of = combo(tr("Cloth"), picks, lambda _i: self._keep())
        self.long = length_field(session, tr("Length along the warp"), lambda mm_: self._size("length", mm_), strict=True)
        self.wide = length_field(session, tr("Width"), lambda mm_: self._size("width", mm_), strict=True)
        self.where = line(tr("Where it lies"))
        self.where.editingFinished.connect(self._keep)
        self.square = button(tr("Make it a rectangle"), self._square)
        self.parts = QListWidget()
        self.parts.setAccessibleName(say(tr("Corners and flaws")))
        self.parts.setMinimumHeight(LOOK.px(56))
        self.parts.setMaximumHeight(LOOK.px(112))
        self.parts.currentRowChanged.connect(self._part_picked)
        self.view = PieceView(session)
        self.view.picked.connect(lambda k: self.parts.setCurrentRow(k))
        self.view.moved.connect(lambda k, x, y: self._corner(k, (x, y)))
        self.view.more.connect(lambda k, x, y: self._more(k, (x, y)))
        self.at = [length_field(session, words, partial(self._part_size, i), strict=i > 1) for i, words in enumerate(_PART)]
        self.at_named = [_named(words, field) for words, field in zip(_PART, self.at, strict=True)]
        self.told = label(wrap=True)
        self.piece = Remnant(id="new", length=1000.0, width=500.0)
        self.made = [
            button(words, run)
            for words, run in (
                (tr("A flaw more"), self._add_flaw),
                (tr("A corner more"), lambda: self._more(self.parts.currentRow())),
                (tr("Take it off"), self._drop),
            )
        ]
        self.drop = self.made[2]
        self._lay_out()
        sized(self, 860, 640)
        self._fill("")

    def _lay_out(self) -> None:
        form = QWidget()
        form.setLayout(
            column(
                row(_named(tr("cloth"), self.of), _named(tr("where it lies"), self.where)),
                row(_named(tr("length, along the warp"), self.long), _named(tr("width"), self.wide)),
                label(tr("Its corners, and flaws that nothing is cut from"), "head"),
                self.view,
                self.parts,
                row(*self.at_named, spacing=6),
                self.told,
                row(*self.made, self.square),
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
        for widget in (self.of, self.long, self.wide, self.where, self.parts, *self.at, *self.made, self.square):
            widget.setEnabled(there)
        if not there:
            self.key = ""
            self.parts.clear()
            self.view.show_piece(None)
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
        for field in (self.long, self.wide):
            field.setEnabled(not kept.piece.outline)  # its corners say that
        self.square.setVisible(bool(kept.piece.outline))
        self._show_parts(self.parts.currentRow())

    def _show_parts(self, row_: int) -> None:
        """The corners and flaws of the piece, one of them chosen."""
        self.parts.blockSignals(True)
        self.parts.clear()
        for k, (x, y) in enumerate(corners(self.piece)):
            self.parts.addItem(self.session.tell(_corner_told(k, x, y)))
        for flaw in self.piece.flaws:
            self.parts.addItem(self.session.tell(_told(flaw)))
        self.parts.blockSignals(False)
        self.parts.setCurrentRow(min(max(row_, 0), self.parts.count() - 1))
        self._part_picked(self.parts.currentRow())

    def _part_picked(self, k: int) -> None:
        """Show where a corner is, or where a flaw is and how large."""
        self.view.show_piece(self.piece, k)
        every = corners(self.piece)
        flaw = self.piece.flaws[k - len(every)] if k >= len(every) else None
        numbers = (flaw.x, flaw.y, flaw.length, flaw.width) if flaw is not None else every[max(k, 0)]
        for field, number in zip(self.at, numbers, strict=False):
            field.show_length(number)
        for holder in self.at_named[2:]:
            holder.setVisible(flaw is not None)
        self.drop.setEnabled(bool(self.key) and (flaw is not None or len(every) > 3))
        self._say(NOTHING)

    def _say(self, words: Value) -> None:
        self.told.setText(say(words))
        self.told.setVisible(words is not NOTHING)

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
        piece = Remnant(id=key, length=system.take(ADDED[0]), width=system.take(ADDED[1]))
        made = StashPiece(cloth=self.cloths[0], piece=piece, since=time.strftime("%Y-%m-%d"))
        self._book(tr("stash: {piece} put there", piece=named(made)), key, made)
        self._fill(key)
        self.long.setFocus()

    def _gone(self) -> None:
        kept = self.session.cloth.stock.pieces.get(self.key)
        if kept is not None:
            self._book(tr("stash: {piece} used up", piece=named(kept)), self.key, None)
            self._fill("")

    def _part_size(self, i: int, length: float) -> None:
        """A number of the chosen corner or flaw was typed."""
        k, every = self.parts.currentRow(), corners(self.piece)
        if k < len(every):
            x, y = every[k]
            self._corner(k, (length, y) if i == 0 else (x, length))
            return
        flaws = list(self.piece.flaws)
        flaws[k - len(every)] = replace(flaws[k - len(every)], **{("x", "y", "length", "width")[i]: length})
        self._take(replace(self.piece, flaws=tuple(flaws)), k)

    def _corner(self, k: int, at: Corner) -> None:
        self._take(with_corner(self.piece, k, at), k)

    def _more(self, k: int, at: Corner | None = None) -> None:
        """One more corner after a corner; after a flaw, on the last edge."""
        self._take(with_more(self.piece, min(max(k, 0), len(corners(self.piece)) - 1), at), k + 1)

    def _square(self) -> None:
        self._take(squared(self.piece), 0)

    def _take(self, made: Remnant | None, k: int) -> None:
        """Keep the piece as it was changed, with one of its parts chosen; a piece that is none is refused."""
        if made is None:
            self._part_picked(self.parts.currentRow())
            self._say(tr("That is no piece: its outline would cross itself, or leave where the piece begins."))
            return
        if self.key:
            self.piece = made
            self._keep()
            self._show_parts(k)

    def _add_flaw(self) -> None:
        near = self.session.open_job.cover.habits.system.near
        long, wide = self.piece.length, self.piece.width
        size = near(min(50.0, long / 4.0, wide / 4.0)) or min(long, wide) / 4.0
        made = Flaw(x=near(long / 2.0), y=near(wide / 2.0), length=size, width=size)
        self._take(replace(self.piece, flaws=(*self.piece.flaws, made)), len(corners(self.piece)) + len(self.piece.flaws))

    def _drop(self) -> None:
        """Take the chosen flaw off, or cut the chosen corner off."""
        k, every, flaws = self.parts.currentRow(), corners(self.piece), self.piece.flaws
        if k < len(every):
            self._take(without_corner(self.piece, k), k)
            return
        k -= len(every)
        self._take(replace(self.piece, flaws=(*flaws[:k], *flaws[k + 1 :])), k + len(every))

    def _goods(self) -> None:
        """What the stash has besides cloth, and what things cost."""
        with chosen(GoodsList(self, self.session)):
            self._fill(self.key)

    def _undo(self) -> None:
        self.session.cloth.undo_booking()
        self._fill(self.key)


_PART = (tr("from the left end"), tr("from the lower edge"), tr("length"), tr("width"))


def named(kept: StashPiece) -> Phrase:
    """A piece of the stash in words."""
    size = tr(
        "{cloth}, {long} × {wide}", cloth=cloth_words(kept.cloth.name), long=mm(kept.piece.length), wide=mm(kept.piece.width)
    )
    return tr("{size} · {where}", size=size, where=Name(kept.where)) if kept.where else size


def _corner_told(k: int, x: float, y: float) -> Phrase:
    return tr("corner {n}: {x} from the left end, {y} from the lower edge", n=Count(k + 1), x=mm(x), y=mm(y))


def _told(flaw: Flaw) -> Phrase:
    return tr(
        "flaw: {long} × {wide}, {x} from the left end, {y} from the lower edge",
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
