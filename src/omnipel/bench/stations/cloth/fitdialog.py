"""Does it fit on a piece of cloth, what would make it fit, and how many covers come out of it."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from PySide6.QtGui import QColor
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, row
from omnipel.bench.session import Session
from omnipel.bench.stations.cloth.layview import LayView
from omnipel.core.cloth.fitting import fits, ground_of, how_many
from omnipel.core.cloth.lay import Lay
from omnipel.core.job.laying import Remnant
from omnipel.core.words.phrases import NOTHING, Phrase, Rule, listed, mm, tr, trn

TRIED: Final = (Rule(1500.0, 60.0), Rule(1000.0, 40.0))
"""A piece that is tried at first: how long and how wide."""


class FitDialog(Dialog):
    """A length and a width, and what goes onto them."""

    def __init__(self, parent: QWidget, session: Session, lay: Lay) -> None:
        super().__init__(
            parent,
            tr("Does it fit?"),
            tr(
                "Whether these panels go onto a piece of cloth that one has in hand. Type how long and how wide it is: what does not go on is said."
            ),
        )
        self.session, self.lay = session, lay
        system = session.open_job.cover.habits.system
        self.piece = Remnant(id="piece", length=system.take(TRIED[0]), width=system.take(TRIED[1]))
        self.long = length_field(session, tr("Length along the warp"), lambda long: self.try_on(length=long), strict=True)
        self.wide = length_field(session, tr("Width"), lambda wide: self.try_on(width=wide), strict=True)
        self.view = LayView(tr("What goes onto it"), session)
        colour = lay.sheet.cloth.colour
        self.view.cloth = QColor(colour if QColor.isValidColorName(colour) else "#9db08a")
        self.head, self.more = label(NOTHING, "head", wrap=True), label(NOTHING, "soft", wrap=True)
        asked = row(label(tr("length along the warp")), self.long, label(tr("width")), self.wide)
        buttons = row(button(tr("Close"), self.accept, "main"))
        buttons.insertStretch(0, 1)
        title = label(tr("Does it fit on a piece of cloth?"), "title")
        whole = column(title, asked, self.head, self.view, self.more, buttons, margins=16, spacing=12)
        whole.setStretch(3, 1)
        self.setLayout(whole)
        sized(self, 680, 560)
        self.try_on()

    def try_on(self, **sizes: float) -> None:
        """Lay on the piece, and say what comes of it."""
        self.piece = replace(self.piece, **sizes)  # type: ignore[arg-type]
        self.long.show_length(self.piece.length)
        self.wide.show_length(self.piece.width)
        sheet = self.lay.sheet
        stash = [replace(kept.piece, id=key) for key, kept in self.session.cloth.stock.pieces.items()]
        found, ground = fits(sheet, self.piece, stash), ground_of(self.piece)
        many = how_many(replace(sheet, cuts=tuple(cut for cut in sheet.cuts if cut.copy == 1)), self.piece)
        lies = sheet.placed(ground, list(found.lying), list(found.lying.values()))
        shown = replace(sheet, grounds=(ground, sheet.grounds[-1]), choice=replace(sheet.choice, pieces=(self.piece,), placed=()))
        self.view.show_lay(Lay(shown, tuple(lies)), ground, fixed=True)
        left = listed(sheet.by_key[key].words for key in found.left)
        head: Phrase = tr("All of it fits.") if found.all else tr("Left over: {pieces}.", pieces=left)
        count = trn("{n} cover comes out of it.", "{n} covers come out of it.", many)
        self.head.setText(f"{self.session.sentence(head)} {self.session.sentence(count)}")
        would = [self.session.sentence(tr("it fits if you {change}.", change=change)) for change in found.would]
        long, wide = mm(self.piece.length), mm(self.piece.width)
        none = self.session.tell(tr("No small change makes all of it fit on {long} × {wide}.", long=long, wide=wide))
        self.more.setText("\n".join(would or ([] if found.all else [none])))


def ask_fit(parent: QWidget, session: Session, layer: str) -> None:
    """Try a layer on a piece of cloth."""
    lay = session.cloth.lay(layer)
    if lay is None:
        session.say("note", tr("The pieces are still being laid."))
        return
    with chosen(FitDialog(parent.window(), session, lay)):
        pass
