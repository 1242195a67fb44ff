"""The cloths of the job by layer, how the chosen one is spread, and which pieces of the stash are used."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QPainter, QPixmap, QResizeEvent
from PySide6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.rows import Rows
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, emptied, label
from omnipel.bench.session import Session
from omnipel.bench.stations.cloth.goods import per_run
from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.cloth.stock import StashPiece, same_cloth
from omnipel.core.draft import Drafted
from omnipel.core.job.document import MOST_COPIES, ClothChoice
from omnipel.core.job.findings import Change
from omnipel.core.job.laying import Spread
from omnipel.core.tolerances import LARGEST_GAP
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Money, Name, Phrase, Value, bare, listed, mm, term, tr, trn
from omnipel.core.words.plain_numbers import parse_count

SWATCH = 34


class ClothCard(Entered, QPushButton):
    """A layer with its cloth."""

    def __init__(self) -> None:
        super().__init__()
        self.lines: tuple[str, str] = ("", "")
        self.setObjectName("card")
        self.setCheckable(True)
        self.setAutoDefault(False)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self.setIconSize(QSize(LOOK.px(SWATCH), LOOK.px(SWATCH)))

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(SWATCH) + 70, super().minimumSizeHint().height())  # its words are cut to the room they have

    def show_cloth(self, session: Session, layer: str, cloth: ClothChoice) -> None:
        """Show a layer's cloth."""
        details: list[Value] = [tr("{width} wide", width=mm(cloth.usable_width))]
        if cloth.price is not None:
            words, metres = per_run(session)
            details.append(tr("{price} {per}", price=Money(cloth.price * metres), per=words))
        if cloth.one_way:
            details.append(tr("one way"))
        if cloth.repeat_along or cloth.repeat_across:
            details.append(tr("with a repeat"))
        name, about = self.lines = session.tell(cloth_words(cloth.name)), session.tell(listed(details, " · "))
        self._fit()
        self.setToolTip(f"{name}\n{about}")
        self.setAccessibleName(
            session.tell(tr("{layer}: {cloth}, {about}", layer=term(layer), cloth=Name(name), about=Name(about)))
        )
        self.setIcon(swatch(cloth.colour))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        room = max(60, self.width() - LOOK.px(SWATCH) - 30)
        shown = [self.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, room) for text in self.lines]
        if self.text() != "\n".join(shown):
            self.setText("\n".join(shown))


def swatch(colour: str) -> QIcon:
    """A bit of a cloth."""
    side = LOOK.px(SWATCH)
    picture = QPixmap(side, side)
    picture.fill(QColor(colour) if QColor.isValidColorName(colour) else QColor("#9db08a"))
    painter = QPainter(picture)
    painter.setPen(LOOK.colour("soft"))
    painter.drawRect(0, 0, side - 1, side - 1)
    painter.end()
    return QIcon(picture)


class Layers(QWidget):
    """The left column. `picked` tells the layer that was chosen; `wants` what else is asked for: "cloth", "stash", "day"."""

    picked = Signal(str)
    wants = Signal(str)
    row_by_row = True

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.layer = "outer"
        self.cards: dict[str, ClothCard] = {}
        self.shelf = QVBoxLayout()
        self.shelf.setSpacing(4)
        self.stash = QVBoxLayout()
        self.stash.setSpacing(4)
        spread = QWidget()
        self.rows = Rows(spread)
        self.spread = combo(tr("Spread"), of_enum(Spread), self._spread)
        self.gap = length_field(session, tr("Gap between pieces"), partial(self._set, "gap"), high=LARGEST_GAP)
        self.ends = length_field(session, tr("Squared at each end"), partial(self._set, "ends"), high=LARGEST_GAP)
        self.copies = NumberField(session, tr("Covers"), parse_count, Count, self._copies, 1.0, float(MOST_COPIES))
        for words, field in (
            (tr("covers"), self.copies),
            (tr("spread"), self.spread),
            (tr("gap"), self.gap),
            (tr("ends squared"), self.ends),
        ):
            self.rows.add_row(label(words), field)
        self.turning = label(NOTHING, "soft", wrap=True)
        self.meets = QVBoxLayout()
        self.meets.setSpacing(2)
        self.met_for: object = None
        self.strips = check(tr("bindings are cut from it"), self._strips)
        self.layout_ = column(
            self.shelf,
            button(tr("Change the cloth…"), partial(self.wants.emit, "cloth"), "small"),
            label(tr("How it is laid"), "head"),
            spread,
            self.turning,
            self.meets,
            self.strips,
            label(tr("From the stash"), "head"),
            self.stash,
            button(tr("Does it fit on…"), partial(self.wants.emit, "fit"), "small"),
            button(tr("Stash…"), partial(self.wants.emit, "stash"), "small"),
            button(tr("After cutting…"), partial(self.wants.emit, "cut"), "small"),
            button(tr("Lay with other jobs…"), partial(self.wants.emit, "day"), "small"),
            spacing=8,
        )
        self.layout_.addStretch(1)
        self.setLayout(self.layout_)
        self.told: object = None
        session.cloth.tried.connect(self.show_stash)

    def show_lays(self, lays: dict[str, Lay], layer: str) -> None:
        """Show the layers that there are, one of them chosen."""
        self.layer = layer
        for key in [key for key in self.cards if key not in lays]:
            self.cards.pop(key).deleteLater()
        for key, lay in lays.items():
            if key not in self.cards:
                card = self.cards[key] = ClothCard()
                card.clicked.connect(lambda _on=False, k=key: self.picked.emit(k))
                name = label(term(key), "soft")
                holder = QWidget()
                holder.setLayout(column(name, card, spacing=1))
                card.destroyed.connect(holder.deleteLater)
                self.shelf.addWidget(holder)
            self.cards[key].setChecked(key == layer)
            self.cards[key].show_cloth(self.session, key, lay.sheet.cloth)
        if layer in lays:
            self._how(lays[layer])
            self._stash(lays[layer])

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        now = self.session.cloth.now
        if now is not None:
            for key, card in self.cards.items():
                if key in now.lays:
                    card.show_cloth(self.session, key, now.lays[key].sheet.cloth)

    def _how(self, lay: Lay) -> None:
        sheet = lay.sheet
        self.spread.show_value(sheet.choice.spread)
        self.gap.show_length(sheet.gap)
        self.ends.show_length(sheet.ends)
        self.copies.show_number(self.session.open_job.copies)
        self.rows.show_row(self.ends, not by_the_piece(sheet))
        ways: Phrase = (
            tr("All pieces lie the same way up: the cloth has one way.")
            if sheet.cloth.one_way
            else tr("Pieces may lie either way up.")
        )
        self.turning.setText(self.session.tell(ways))
        own = any(item.strip is not None for item in lay_hardware(self.session))
        self.strips.setVisible(self.layer == "outer" and own)
        self.strips.setChecked(sheet.choice.strips)

        self._meeting(lay)

    def _meeting(self, lay: Lay) -> None:
        """The seams along which the cloth's pattern is to meet, where it has one."""
        cloth, draft = lay.sheet.cloth, self.session.draft
        seams = [t.seam.name for t in draft.seams] if isinstance(draft, Drafted) and self.layer in ("outer", "lining") else []
        there = seams if cloth.repeat_along or cloth.repeat_across else []
        told = (there, lay.sheet.choice.match)
        if told == self.met_for:
            return
        self.met_for = told
        emptied(self.meets)
        if there:
            self.meets.addWidget(label(tr("the pattern meets along"), "soft"))
        for name in dict.fromkeys(there):
            box = check(term(name), partial(self._meet, name))
            box.setChecked(name in lay.sheet.choice.match)
            self.meets.addWidget(box)

    def _meet(self, name: str, on: bool) -> None:
        lay = self.session.cloth.lay(self.layer)
        if lay is not None:
            kept = tuple(one for one in lay.sheet.choice.match if one != name)
            yes, no = (
                tr("the pattern meets along {seam}", seam=term(name)),
                tr("the pattern need not meet along {seam}", seam=term(name)),
            )
            self.session.change(yes if on else no, Change(refs.lay(self.layer, "match"), (*kept, name) if on else kept))

    def show_stash(self) -> None:
        """Show what goes onto the pieces of the stash, as far as that has been tried."""
        now = self.session.cloth.current
        if now is not None and self.layer in now.lays and self.isVisible():
            self._stash(now.lays[self.layer])

    def _stash(self, lay: Lay) -> None:
        """Pieces of this cloth that the shop has, and what of the layer goes onto each."""
        stock = self.session.cloth.stock
        mine = {key: piece for key, piece in stock.pieces.items() if same_cloth(piece.cloth, lay.sheet.cloth)}
        takes = {key: self._takes(lay, key, piece) for key, piece in mine.items()}
        told = (mine, takes, lay, self.session.unit)
        if told == self.told:
            return
        self.told = told
        emptied(self.stash)
        for key, piece in mine.items():
            self.stash.addWidget(self._piece(lay, key, piece, takes[key]))
        if not mine:
            none = (
                tr("No piece of this cloth lies in the stash.")
                if lay.sheet.choice.spread is Spread.FLAT
                else tr("Folded cloth comes off the bolt.")
            )
            self.stash.addWidget(label(none, "soft", wrap=True))

    def _takes(self, lay: Lay, key: str, piece: StashPiece) -> int | None:
        """How many pieces of the layer lie on a piece of the stash, or would go onto it; None while that is tried."""
        there = next((ground for ground in lay.grounds if ground.id == key), None)
        return len(lay.on(there)) if there is not None else self.session.cloth.takes(lay, replace(piece.piece, id=key))

    def _piece(self, lay: Lay, key: str, piece: StashPiece, takes: int | None) -> QWidget:
        used = any(chosen.id == key for chosen in lay.sheet.choice.pieces)
        remnant, whole = replace(piece.piece, id=key), len(lay.sheet.cuts)
        size = tr("{long} × {wide}", long=bare(remnant.length), wide=bare(remnant.width))
        some = tr("takes {n} of {all}", n=Count(takes or 0), all=Count(whole))
        untold = tr("takes nothing") if takes == 0 else tr("being tried…")
        says = [tr("takes all") if takes == whole else some if takes else untold]
        says += [tr("a flaw")] if remnant.flaws else []
        says += [tr("{where}", where=Name(piece.where))] if piece.where else []
        box = check(size, partial(self._use, remnant.id))
        box.setText(self.session.tell(size))
        box.setChecked(used)
        under = label(NOTHING, "soft", wrap=True)
        under.setText(self.session.tell(listed(says, " · ")))
        box.setAccessibleDescription(under.text())
        holder = QWidget()
        holder.setLayout(column(box, under, spacing=0))
        return holder

    # Changing

    def _set(self, part: str, length: float) -> None:
        words = {
            "gap": tr("gap between pieces {length}", length=mm(length, fine=True)),
            "ends": tr("ends squared by {length}", length=mm(length)),
        }[part]
        if self.session.change(words, Change(refs.lay(self.layer, part), length)):
            {"gap": self.gap, "ends": self.ends}[part].show_length(length)  # the lay comes later

    def _spread(self, spread: Spread) -> None:
        anew = Change(refs.lay(self.layer, "placed"), ())
        self.session.change(tr("cloth spread {how}", how=term(spread)), Change(refs.lay(self.layer, "spread"), spread), anew)

    def _strips(self, on: bool) -> None:
        words = tr("bindings cut from the cloth") if on else tr("bindings bought")
        self.session.change(words, Change(refs.lay("outer", "strips"), on))

    def _copies(self, number: float) -> None:
        n = round(number)
        if self.session.change(trn("{n} cover", "{n} covers", n), Change(refs.COPIES, n)):
            self.copies.show_number(n)

    def _use(self, key: str, on: bool) -> None:
        """Lay on a piece of the stash, or no longer."""
        lay = self.session.cloth.lay(self.layer)
        piece = self.session.cloth.stock.pieces.get(key)
        if lay is None or piece is None:
            return
        kept = [p for p in lay.sheet.choice.pieces if p.id != key]
        pieces = (*kept, replace(piece.piece, id=key)) if on else tuple(kept)
        words = tr("a piece of the stash used") if on else tr("a piece of the stash left alone")
        placed = tuple(p for p in lay.sheet.choice.placed if p.locked and (p.on != key or on))
        self.session.change(words, Change(refs.lay(self.layer, "pieces"), pieces), Change(refs.lay(self.layer, "placed"), placed))


def lay_hardware(session: Session) -> tuple:  # type: ignore[type-arg]
    """What the open job's cover takes besides cloth."""
    draft = session.draft
    return getattr(getattr(draft, "cover", None), "hardware", ())
