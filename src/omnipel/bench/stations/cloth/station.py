"""The Cloth station: cloths and stash at the left, the lay large, below it what saves a step and what is to be bought."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QBoxLayout, QWidget

from omnipel.bench.clothing import Laid
from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import Picker, combo
from omnipel.bench.parts.signs import Vacant
from omnipel.bench.parts.widgets import button, check, column, label, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.cloth.buying import Buying, totals
from omnipel.bench.stations.cloth.dialogs import ASKS
from omnipel.bench.stations.cloth.layers import Layers
from omnipel.bench.stations.cloth.layview import LayView
from omnipel.bench.stations.cloth.savings import Savings
from omnipel.core.cloth.cuts import Cut
from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.cloth.said import off_words
from omnipel.core.cloth.sheets import BOLT
from omnipel.core.job.findings import Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, Share, listed, mm, term, tr, trn
from omnipel.core.words.refs import Of, Ref

BOTH = 560
"""So wide what saves and what is bought are beside one another, px at 100 % text."""


class ClothStation(AtBench):
    """Shows how panels lie on their cloth."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.layer, self.ground = "outer", BOLT
        self.layers = Layers(session)
        self.layers.picked.connect(self._pick_layer)
        self.layers.wants.connect(self._wants)
        self.view = LayView(tr("How the pieces lie"), session)
        self.view.changed.connect(self._moved)
        self.view.picked.connect(lambda _key: self._tell_piece())
        self.title = label(NOTHING, "title")
        self.off = label(NOTHING, "soft", wrap=True)
        self.which = self._grounds_picker([])
        self.search = button(tr("Look for a shorter lay"), self._search)
        self.push = button(tr("Push together"), self._push, tip=tr("Close the gaps, towards the squared end"))
        self.rest = button(tr("Lay the rest"), self._lay_rest, tip=tr("Lay anew what is not locked"))
        self.head = Flow(gap=8)
        for widget in (self.title, self.which, self.search, self.push, self.rest):
            self.head.addWidget(widget)
        self.piece = label(NOTHING, "soft", wrap=True)
        self.turn = button(tr("Turn (R)"), self.view.turn, "small")
        self.lock = button(tr("Lock (L)"), self.view.lock, "small")
        self.free = check(tr("any way round"), self._free, full=tr("This panel may be turned any way round"))
        self.piece_row = Flow(gap=8)
        for part in (self.turn, self.lock, self.free):
            self.piece_row.addWidget(part)
        self.empty = Vacant("cloth", tr("Go to what is to be done"), self._next)
        lay = column(self.head, self.off, self.view, self.piece, self.piece_row, self.empty, margins=8, spacing=4)
        lay.setStretch(2, 1)
        self.savings, self.buying = Savings(session), Buying(session)
        self.sum = label(NOTHING, "head")
        self.sums = label(NOTHING, "soft", wrap=True)
        saving = column(label(tr("Small changes that save cloth"), "head"), scrolled(self.savings), margins=8, spacing=4)
        saving.setStretch(1, 1)
        buying = column(label(tr("To buy"), "head"), scrolled(self.buying), self.sum, self.sums, margins=8, spacing=4)
        buying.setStretch(1, 1)
        self.below = QWidget()
        self.halves = row(surface(saving), surface(buying), spacing=10)
        for half in (0, 1):
            self.halves.setStretch(half, 1)
        self.below.setLayout(self.halves)
        self.below.setMinimumHeight(170)
        right = QWidget()
        both = column(surface(lay), self.below, spacing=10)
        both.setStretch(0, 3)
        both.setStretch(1, 2)
        right.setLayout(both)
        left = scrolled(self.layers)
        self.columns = Columns((Part(left, 200, 2, 1), Part(right, 500, 7, 0)))
        self.columns.laid.connect(self._arrange)
        self.setLayout(station(self.columns))
        session.cloth.laid.connect(self._laid)
        self.soon = QTimer(self)  # a search may tell several things at once
        self.soon.setSingleShot(True)
        self.soon.timeout.connect(self._show_searched)
        session.cloth.searching.connect(self.soon.start)
        session.cloth.stocked.connect(self.refresh)

    def _grounds_picker(self, picks: Sequence[tuple[Phrase, str]]) -> Picker:
        return combo(tr("Which cloth is seen"), list(picks), self._pick_ground)

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """In this order the keys walk it: the lay, what saves, what is bought, the cloths."""
        return (self.view, self.head.parentWidget() or self, self.savings, self.buying, self.layers)

    def enter(self) -> None:
        """The station was opened."""
        self.session.cloth.refresh()
        self.refresh()
        self.view.setFocus()
        self.savings.ask()

    def field_words(self) -> Mapping[Ref, Phrase]:
        """The layers."""
        now = self.session.cloth.current
        return {refs.lay(key): tr("cloth: {layer}", layer=term(key)) for key in now.lays} if now is not None else {}

    def meant(self) -> Ref:
        """The cloth that is looked at."""
        return Ref(Of.LAY, self.layer)

    def go_to(self, ref: Ref) -> None:
        """Show a layer, or a piece of it."""
        if ref.of is Of.LAY and ref.id:
            self._pick_layer(ref.id)
        if ref.part in ("gap", "ends"):
            getattr(self.layers, ref.part).setFocus()

    # Showing

    def _arrange(self, stacked: bool) -> None:
        """What saves and what is bought stand below one another where there is no room for both."""
        ways = QBoxLayout.Direction
        narrow = stacked and self.columns.width() < LOOK.px(BOTH)
        self.halves.setDirection(ways.TopToBottom if narrow else ways.LeftToRight)

    def refresh(self) -> None:
        """Show the cloth of the draft as it stands."""
        draft = self.session.draft
        there = bool(draft and draft.panels)
        for widget in (self.view, self.title, self.off, self.search, self.push, self.rest, self.piece, self.which):
            widget.setVisible(there)
        self.below.setVisible(there)
        self.layers.setVisible(there)
        self.empty.setVisible(not there)
        if not there:
            self.empty.say(
                self.session.sentence(draft.findings[0].text) if draft and draft.findings else say(tr("Nothing is drafted yet."))
            )
            return
        now = self.session.cloth.current
        if now is None:
            self.off.setText(say(tr("The pieces are being laid…")))
            return
        self._show(now)

    def _laid(self) -> None:
        if self.isVisible():
            self.refresh()
            self.savings.ask()

    def _show(self, now: Laid) -> None:
        if self.layer not in now.lays:
            self.layer = next(iter(now.lays), "outer")
        self.layers.show_lays(dict(now.lays), self.layer)
        lay = now.lays.get(self.layer)
        if lay is not None:
            self._show_lay(self._searched(lay), now)
        self.buying.show_takeoff(now.taken)
        first, *more = totals(now.taken)
        self.sum.setText(self.session.sentence(first))
        self.sums.setText(self.session.tell(listed(more, " · ")))

    def _searched(self, lay: Lay) -> Lay:
        cloth = self.session.cloth
        best = (
            cloth.best()
            if cloth.search is not None and cloth.searched is not None and cloth.searched.layer is lay.layer
            else None
        )
        return best or lay

    def _show_lay(self, lay: Lay, now: Laid) -> None:
        grounds = [ground for ground in lay.grounds if ground.id == BOLT or lay.on(ground)]
        if self.ground not in {ground.id for ground in grounds}:
            self.ground = BOLT
        shown = [(say(ground.name) if ground.id != BOLT else say(tr("the bolt")), ground.id) for ground in grounds]
        self.which.clear()
        self.which.values = [key for _, key in shown]
        self.which.addItems([words for words, _ in shown])
        self.which.show_value(self.ground)
        self.which.setVisible(len(grounds) > 1)
        self.view.cloth = QColor(lay.sheet.cloth.colour) if QColor.isValidColorName(lay.sheet.cloth.colour) else QColor("#9db08a")
        looking = self.session.cloth.search is not None
        self.view.show_lay(lay, next(ground for ground in grounds if ground.id == self.ground), fixed=looking)
        self.title.setText(self.session.tell(tr("Laid on {width}", width=mm(lay.bolt.width))))
        self.off.setText(self.session.tell(self._about(lay, now.least.get(lay.layer.value, 0.0))))
        self.search.setText(say(tr("Stop, and keep the best") if looking else tr("Look for a shorter lay")))
        self.search.setAccessibleName(self.search.text())
        provable = lay.length <= now.least.get(lay.layer.value, 0.0) + 0.5
        self.search.setEnabled(looking or (bool(lay.on(lay.bolt)) and not by_the_piece(lay.sheet) and not provable))
        for does in (self.push, self.rest):
            does.setEnabled(not looking)
        self._tell_piece()

    def _about(self, lay: Lay, least: float) -> Phrase:
        """How long it is, and how far from the best possible; what does not fit."""
        parts: list[Phrase] = []
        if lay.on(lay.bolt) and not by_the_piece(lay.sheet):
            parts.append(tr("{used} used, buy {buy}", used=mm(lay.used.value), buy=mm(lay.bought.value)))
            off = lay.length / least - 1.0 if least > 0.0 else 0.0
            parts.append(off_words(off))
        elif lay.on(lay.bolt):
            parts.append(
                trn("{n} piece of {long}", "{n} pieces of {long}", round(lay.bought.value), long=mm(lay.sheet.cloth.piece_length))
            )
        parts.append(tr("{share} becomes cover", share=Share(lay.share)))
        found = self.session.cloth.search
        if found is not None:
            parts.append(tr("looking for a shorter one…"))
        if lay.left:
            parts.append(tr("does not fit: {pieces}", pieces=listed(lay.sheet.by_key[key].words for key in lay.left)))
        if lay.moved:
            names = listed(lay.sheet.by_key[key].words for key in lay.moved[:4])
            parts.append(
                trn(
                    "no longer fits where it lay: {pieces}",
                    "{n} no longer fit where they lay: {pieces}",
                    len(lay.moved),
                    pieces=names,
                )
            )
        return tr("{parts}", parts=listed(parts, " · "))

    def _tell_piece(self) -> None:
        self.piece.setText(self.session.tell(self.view.about()))
        cut, placed = self._chosen(), self.view.piece
        for widget in (self.turn, self.lock):
            widget.setVisible(cut is not None)
        self.free.setVisible(cut is not None and cut.panel is not None and cut.start is None)
        if cut is not None and cut.panel is not None and placed is not None and self.view.lay is not None:
            self.free.setChecked(cut.panel.name in self.view.lay.sheet.choice.free)
            self.lock.setText(say(tr("Free it (L)") if placed.locked else tr("Lock (L)")))

    def _chosen(self) -> Cut | None:
        placed, lay = self.view.piece, self.view.lay
        return lay.sheet.by_key.get(placed.piece) if lay is not None and placed is not None else None

    def _free(self, on: bool) -> None:
        """Let the chosen piece's panel be turned anyhow, or only as the cloth has it."""
        cut, lay = self._chosen(), self.view.lay
        if cut is None or cut.panel is None or lay is None:
            return
        name = cut.panel.name
        kept = tuple(one for one in lay.sheet.choice.free if one != name)
        said = (
            tr("{panel} may lie any way round", panel=term(name)) if on else tr("{panel} lies along the grain", panel=term(name))
        )
        self.session.change(said, Change(refs.lay(self.layer, "free"), (*kept, name) if on else kept))

    # Doing

    def _next(self) -> None:
        if (step := sewing_of(self.session).next) is not None:
            self.session.go.emit(step.where)

    def _pick_layer(self, layer: str) -> None:
        self.layer, self.ground = layer, BOLT
        self.refresh()

    def _pick_ground(self, ground: str) -> None:
        self.ground = ground
        self.refresh()

    def _moved(self, lay: Lay, words: Phrase) -> None:
        self.session.cloth.commit(lay, words)

    def _now(self) -> Lay | None:
        return self.session.cloth.lay(self.layer)

    def _search(self) -> None:
        cloth, lay = self.session.cloth, self._now()
        if cloth.search is not None:
            cloth.stop()
        elif lay is not None:
            cloth.begin(lay)

    def _show_searched(self) -> None:
        """Show what a search has found so far."""
        now = self.session.cloth.current
        if self.isVisible() and now is not None and (lay := now.lays.get(self.layer)) is not None:
            self._show_lay(self._searched(lay), now)

    def _push(self) -> None:
        if (lay := self._now()) is not None:
            self.session.cloth.push_together(lay)

    def _lay_rest(self) -> None:
        """Lay anew what is not locked, and look for the best way."""
        lay = self._now()
        if lay is None:
            return
        locked = tuple(p for p in lay.placed if p.locked)
        if lay.sheet.choice.placed != locked:
            self.session.change(
                trn("laid anew", "laid anew around what is locked", 1 + bool(locked)),
                Change(refs.lay(self.layer, "placed"), locked),
            )

    def _wants(self, what: str) -> None:
        ASKS[what](self, self.session, self.layer)

    def keyPressEvent(self, event: object) -> None:
        key = getattr(event, "key", lambda: 0)()
        if key == Qt.Key.Key_P:
            self._push()
            return
        super().keyPressEvent(event)  # type: ignore[arg-type]
