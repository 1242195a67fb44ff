"""A cutting day: several jobs that use the same cloth, laid and bought together."""

from __future__ import annotations

import html
import threading
from dataclasses import replace
from typing import Final

from PySide6.QtGui import QColor
from PySide6.QtWidgets import QCheckBox, QWidget

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.widgets import button, check, column, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cloth.layview import LayView
from omnipel.core.cloth.day import Together, cloths_of, together
from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.cloth.lay import Lay, by_the_piece, with_nest
from omnipel.core.cloth.said import bought_words, off_words
from omnipel.core.draft import Drafted
from omnipel.core.job.document import ClothChoice
from omnipel.core.words.phrases import NOTHING, Money, Name, Phrase, Run, Share, listed, mm, tr
from omnipel.work.laying import Found, Search

SECONDS = 20.0
LONGEST_NAME: Final = 30
"""Of a longer name only so many letters are shown."""


class DayDialog(Dialog):
    """Jobs to tick, the cloth they share, how all of it lies, and what each bears."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(
            parent,
            tr("Cutting day"),
            tr(
                "Several jobs cut from one cloth on one day. It is told how they lie together, and how much of the cloth each of them bears."
            ),
        )
        self.session = session
        self.drafts: dict[int, Drafted] = {}
        self.day: Together | None = None
        self.lay: Lay | None = None
        self.search: Search | None = None
        self.jobs: dict[int, QCheckBox] = {}
        for card in session.store.cards():
            shown = card.name if len(card.name) <= LONGEST_NAME else f"{card.name[:LONGEST_NAME]}…"
            box = self.jobs[card.id] = check(Name(shown), lambda _on: self._again(), full=Name(card.name))
            box.setToolTip(html.escape(card.name))
            box.setChecked(card.id == session.key)
        listed_jobs = QWidget()
        listed_jobs.setLayout(column(*self.jobs.values(), spacing=4))
        listed_jobs.layout().addStretch(1)  # type: ignore[union-attr]
        self.cloths: list[ClothChoice] = []
        self.which = combo(tr("Cloth"), [], lambda _i: self._lay())
        self.view = LayView(tr("How all of them lie"), session)
        self.told, self.shares = label(NOTHING, "head", wrap=True), label(NOTHING, "soft", wrap=True)
        self.look = button(tr("Look for a shorter lay"), self._search)
        done = button(tr("Close"), self.accept, "main")
        buttons = row(self.look, done)
        buttons.insertStretch(1, 1)
        left, right = QWidget(), QWidget()
        picks = column(label(tr("Jobs that are cut together"), "head"), scrolled(listed_jobs))
        picks.setStretch(1, 1)
        left.setLayout(picks)
        lay = column(self.which, self.told, self.view, self.shares)
        lay.setStretch(2, 1)
        right.setLayout(lay)
        both = row(left, right, spacing=16)
        both.setStretch(0, 1)
        both.setStretch(1, 3)
        whole = column(label(tr("Cut several jobs from one length"), "title"), both, buttons, margins=16, spacing=12)
        whole.setStretch(1, 1)
        self.setLayout(whole)
        sized(self, 1000, 640)
        self.finished.connect(lambda _r: self._stop())
        self._again()

    def _again(self) -> None:
        """Other jobs are ticked: draft those that are new, and lay them."""
        self._stop()
        picked = [key for key, box in self.jobs.items() if box.isChecked()]
        jobs = [drafted for key in picked if (drafted := self._draft(key)) is not None]
        before = self.cloths[self.which.value] if self.which.currentIndex() >= 0 else None
        self.cloths = cloths_of(jobs)
        self.ticked = jobs
        self.which.clear()
        self.which.values = list(range(len(self.cloths)))
        shown = [
            tr("{cloth}, {width} wide", cloth=cloth_words(cloth.name), width=mm(cloth.usable_width)) for cloth in self.cloths
        ]
        self.which.addItems([self.session.tell(words) for words in shown])
        if before in self.cloths:
            self.which.show_value(self.cloths.index(before))
        self._lay()

    def _draft(self, key: int) -> Drafted | None:
        if key not in self.drafts:
            job = self.session.read(key, silent=True)
            drafted = self.session.drafts.of(job) if job is not None else None
            if not isinstance(drafted, Drafted):
                self.told.setText(say(tr("A job that has no panels yet is left out.")))
                return None
            self.drafts[key] = drafted
        return self.drafts[key]

    def _lay(self) -> None:
        self._stop()
        if not self.cloths or not self.ticked:
            self.told.setText(say(tr("Tick the jobs that are cut together.")))
            self.day = self.lay = None
            self.look.setEnabled(False)
            return
        cloth = self.cloths[max(0, self.which.currentIndex())]
        self.day = together(self.ticked, cloth)
        self._show(self.day.laid(), None)

    def _show(self, lay: Lay, off: float | None) -> None:
        self.lay = lay
        cloth = lay.sheet.cloth
        self.view.cloth = QColor(cloth.colour) if QColor.isValidColorName(cloth.colour) else QColor("#9db08a")
        self.view.show_lay(lay, lay.bolt, fixed=True)
        parts: list[Phrase] = [tr("buy {amount}", amount=bought_words(lay)), tr("{used} used", used=mm(lay.used.value))]
        if off is not None:
            parts.append(off_words(off))
        day = self.day
        if day is not None and day.alone - lay.bought_length > 1.0:
            parts.append(tr("{less} less to buy than one by one", less=Run(day.alone - lay.bought_length)))
        if lay.left:
            parts.append(tr("does not fit: {pieces}", pieces=listed(lay.sheet.by_key[key].words for key in lay.left)))
        self.told.setText(self.session.tell(listed(parts, " · ")))
        if day is not None:
            self.shares.setText(self.session.tell(listed((self._share(day, lay, k) for k in range(len(day.shares))), " · ")))
        self.look.setText(say(tr("Look for a shorter lay") if self.search is None else tr("Stop, and keep the best")))
        self.look.setEnabled(self.search is not None or (bool(lay.on(lay.bolt)) and not by_the_piece(lay.sheet)))

    def _share(self, day: Together, lay: Lay, k: int) -> Phrase:
        share, price = day.shares[k], lay.sheet.cloth.price
        words = tr("{job}: {share}", job=Name(share.name), share=Share(day.share(share.job)))
        cost = (price or 0.0) * lay.bought.value / 1000.0 * day.share(share.job)
        return tr("{words}, {cost}", words=words, cost=Money(cost)) if price is not None else words

    def _search(self) -> None:
        if self.search is not None:
            self._stop()
            if self.lay is not None:
                self._show(self.lay, None)
            return
        lay = self.lay
        if lay is None:
            return
        self.search = search = Search(lay.problem, SECONDS)
        known, came = lay.sheet.lying(lay.bolt, lay.on(lay.bolt)), self.session.deliverer.came

        def have(found: Found) -> None:
            self._found(search, lay, found)

        taken = while_there(self, have)

        def run() -> None:
            for found in search.run(known):
                came.emit(lambda found=found: taken(found))

        threading.Thread(target=run, name="omnipel-day", daemon=True).start()
        self._show(lay, None)

    def _found(self, search: Search, lay: Lay, found: Found) -> None:
        if search is not self.search:
            return
        if not found.looking:
            self.search = None
        better = replace(lay, placed=with_nest(lay, found.nest)) if found.nest is not None else lay
        self._show(better, found.off)

    def _stop(self) -> None:
        search, self.search = self.search, None
        if search is not None:
            search.stop()


def ask_day(parent: QWidget, session: Session, _layer: str) -> None:
    """Lay with other jobs."""
    with chosen(DayDialog(parent.window(), session)):
        pass
