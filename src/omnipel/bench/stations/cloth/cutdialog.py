"""After cutting: what is left is offered to the stash, what was used is taken off it; nothing is booked without a click, and all of it is one booking."""

from __future__ import annotations

import time
from dataclasses import replace

from PySide6.QtWidgets import QCheckBox, QWidget

from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, emptied, label, line, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.stations.cloth.stashdialog import named
from omnipel.core.cloth.leftover import left_over
from omnipel.core.cloth.stock import LEAST_KEPT, StashPiece
from omnipel.core.cloth.takeoff import Group, said
from omnipel.core.words.phrases import Name, tr

SETTING = "least kept"


class CutDialog(Dialog):
    """What is left, and what was used, each to be ticked."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(
            parent,
            tr("After cutting"),
            tr(
                "What the cutting leaves and what it has used up. What is ticked goes into the stash or out of it, in one booking."
            ),
        )
        self.session = session
        self.left: list[tuple[QCheckBox, StashPiece]] = []
        self.gone: list[tuple[QCheckBox, str]] = []
        self.goods: list[tuple[QCheckBox, str, float]] = []
        try:
            self.least = float(session.store.setting(SETTING, str(LEAST_KEPT)))
        except ValueError:
            self.least = LEAST_KEPT
        field = length_field(session, tr("Worth keeping from"), self._least)
        field.show_length(self.least)
        self.where = line(tr("Where they are put"))
        meaning(field, tr("What is smaller each way than this is not proposed for the stash. The shop keeps the length."))
        meaning(self.where, tr("Where the pieces are put, so that they are found again: it stands beside each in the stash."))
        self.pieces = column(spacing=4)
        self.used = column(spacing=4)
        inner = QWidget()
        heads = label(tr("Left over, for the stash"), "head"), label(tr("Used from the stash"), "head")
        lists = column(heads[0], self.pieces, heads[1], self.used, spacing=8)
        lists.addStretch(1)
        inner.setLayout(lists)
        kept = QWidget()
        kept.setLayout(row(label(tr("worth keeping from")), field, label(tr("put where")), self.where))
        done = button(tr("Book it"), self.accept, "main")
        done.setDefault(True)
        buttons = row(button(tr("Cancel"), self.reject), done)
        buttons.insertStretch(0, 1)
        note = label(tr("One booking: “Take the last booking back” in the stash brings all of it back."), "soft", wrap=True)
        whole = column(label(tr("After cutting"), "title"), kept, scrolled(inner), note, buttons, margins=16, spacing=12)
        whole.setStretch(2, 1)
        self.setLayout(whole)
        sized(self, 620, 520)
        self._fill()

    def _least(self, length: float) -> None:
        self.least = length
        self.session.keep_setting(SETTING, str(length))
        self._fill()

    def _fill(self) -> None:
        for layout in (self.pieces, self.used):
            emptied(layout)
        self.left, self.gone, self.goods = [], [], []
        now, today = self.session.cloth.current, time.strftime("%Y-%m-%d")
        if now is None:
            self.pieces.addWidget(label(tr("The pieces are still being laid."), "soft"))
            return
        for lay in now.lays.values():
            for remnant in left_over(lay, self.least):
                made = StashPiece(cloth=lay.sheet.cloth, piece=remnant, since=today)
                box = check(named(made), lambda _on: None)
                box.setChecked(True)
                self.left.append((box, made))
                self.pieces.addWidget(box)
            for piece in lay.sheet.choice.pieces:
                kept = self.session.cloth.stock.pieces.get(piece.id)
                if kept is not None and any(p.on == piece.id for p in lay.placed):
                    box = check(named(kept), lambda _on: None)
                    box.setChecked(True)
                    self.gone.append((box, piece.id))
                    self.used.addWidget(box)
        for taken in now.taken.lines:
            if taken.group in (Group.GOODS, Group.SEWING) and taken.stashed > 1e-9:
                box = check(
                    tr("{amount} {what}", amount=said(taken.stashed, taken.by_length), what=taken.words), lambda _on: None
                )
                box.setChecked(True)
                self.goods.append((box, taken.key, taken.stashed))
                self.used.addWidget(box)
        if not self.left:
            self.pieces.addWidget(label(tr("Nothing is left that is worth keeping."), "soft", wrap=True))
        if not (self.gone or self.goods):
            self.used.addWidget(label(tr("Nothing came from the stash."), "soft", wrap=True))

    def apply(self) -> None:
        """Book what is ticked."""
        from omnipel.shop.stockroom import GOODS, PIECE, Change

        cloth, where = self.session.cloth, self.where.text().strip()[:120]
        changes = [Change(PIECE, key, None) for box, key in self.gone if box.isChecked()]
        first = int(cloth.room.free_key(PIECE))
        fresh = [made for box, made in self.left if box.isChecked()]
        for number, made in enumerate(fresh, first):
            piece = replace(made.piece, id=str(number))
            changes.append(Change(PIECE, str(number), replace(made, piece=piece, where=where)))
        for box, key, amount in self.goods:
            known = cloth.stock.goods.get(key)
            if box.isChecked() and known is not None:
                changes.append(Change(GOODS, key, replace(known, there=max(0.0, known.there - amount))))
        if changes:
            cloth.book(tr("cut: {job}", job=Name(self.session.open_job.name)), changes)


def ask_cut(parent: QWidget, session: Session, _layer: str) -> None:
    """What is left after cutting, and what was used."""
    dialog = CutDialog(parent.window(), session)
    with chosen(dialog) as yes:
        if yes:
            dialog.apply()
