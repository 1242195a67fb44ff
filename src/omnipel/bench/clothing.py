"""What the window knows of the open job's cloth: how its layers are laid, what is to be bought, what the shop has; worked out behind the window."""

from __future__ import annotations

import threading
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from typing import TYPE_CHECKING, Final

from PySide6.QtCore import QObject, Signal

from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Name, Phrase, Run, term, tr
from omnipel.shop.opening import StoreError
from omnipel.work.tasks import Works

if TYPE_CHECKING:
    from omnipel.bench.session import Session
    from omnipel.core.cloth.lay import Lay
    from omnipel.core.cloth.saving import Advice
    from omnipel.core.cloth.stock import Stock
    from omnipel.core.cloth.takeoff import Takeoff
    from omnipel.core.draft import Draft, Drafted
    from omnipel.core.job.laying import Remnant
    from omnipel.core.nesting.shape import Shape
    from omnipel.shop.stockroom import Change, Stockroom
    from omnipel.work.adviser import Asked
    from omnipel.work.laying import Found, Search

SECONDS: Final = 20.0
"""A search ends by itself after this, where it has not proven its lay to be the best before."""


@dataclass(frozen=True)
class Laid:
    """A job's cloth: the draft it is of, its lays by layer, what is to be bought; below which lengths no lay of each can be, mm."""

    draft: Drafted
    lays: Mapping[str, Lay]
    taken: Takeoff
    least: Mapping[str, float] = field(default_factory=dict)


@dataclass
class Advising:
    """Advice on a job's cloth while it is looked for.

    Args:
        of: the cloth as it was laid.
        asked: what is asked.
        found: as far as it has been looked for.
        done: whether all has been tried.
        wanted: whether somebody still waits for it.
        broken: what went wrong, where the search for it broke down.
    """

    of: Laid
    asked: Asked
    found: list[Advice] = field(default_factory=list)
    done: bool = False
    wanted: bool = True
    broken: str = ""


def _ready(_nothing: None) -> None:
    """Have the process that advises begun before it is asked."""
    from omnipel.work.adviser import ADVISER

    ADVISER.ready()


def _advised(advising: Advising) -> Advising:
    """One more way tried, in a process of its own; once more from the beginning where that was lost."""
    from omnipel.work.adviser import ADVISER, Lost

    for again in (True, False):
        try:
            advice = ADVISER.next(advising.asked)
        except StopIteration:
            advising.done = True
        except Lost as lost:
            if again and advising.wanted:
                advising.found.clear()
                continue
            advising.done, advising.broken = True, str(lost) or type(lost).__name__
        else:
            if advice is not None and advice not in advising.found:
                advising.found.append(advice)
        break
    return advising


@dataclass(frozen=True)
class _Asked:
    draft: Drafted
    stock: Stock


@dataclass(frozen=True)
class _Tried:
    """A piece of the stash that a layer is tried on."""

    lay: Lay
    piece: Remnant


def _takes(tried: _Tried) -> int:
    """How many of a layer's pieces go onto a piece of the stash."""
    from omnipel.core.cloth.fitting import ground_of, onto

    return len(onto(tried.lay.sheet, ground_of(tried.piece)).lying)


def _laid(asked: _Asked) -> Laid:
    """All layers of a draft laid, and taken off."""
    from omnipel.core.cloth.cuts import layers_of
    from omnipel.core.cloth.lay import laid
    from omnipel.core.cloth.takeoff import takeoff

    lays = [laid(asked.draft, layer) for layer in layers_of(asked.draft)]
    taken = takeoff(asked.draft, lays, asked.stock)
    least = {lay.layer.value: max(0.0, lay.problem.least(lay.length) - lay.sheet.gap) for lay in lays if lay.on(lay.bolt)}
    return Laid(asked.draft, {lay.layer.value: lay for lay in lays}, taken, least)


def _pushed(lay: Lay) -> Lay:
    """A lay with its pieces on the bolt pushed together, those apart that are locked."""
    from omnipel.core.cloth.lay import with_nest
    from omnipel.core.nesting.building import pulled

    on = lay.on(lay.bolt)
    fixed = frozenset(i for i, piece in enumerate(on) if piece.locked)
    return replace(lay, placed=with_nest(lay, pulled(lay.problem.ground, lay.sheet.lying(lay.bolt, on), fixed)))


class Clothing(QObject):
    """Lays, takeoff and stash of the open job.

    `laid` tells that they are there for the draft as it stands, `searching` that a search has begun, found something, or ended, `ended` after how
    many seconds it did so by itself; `stocked` that what the shop has is another; `tried` that a piece of the stash has been tried; `advised` that
    there is more advice, or no more to come.
    """

    laid = Signal()
    searching = Signal()
    ended = Signal(float)
    stocked = Signal()
    tried = Signal()
    advised = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.works = Works(session.deliverer.came.emit, session.pace.wait)
        self.trials = Works(session.deliverer.came.emit, session.pace.wait)
        self.now: Laid | None = None
        self.asked: Draft | None = None
        self.kept: Stock | None = None
        self.search: Search | None = None
        self.found: Found | None = None
        self.begun = 0.0
        self.searched: Lay | None = None
        self.advising: Advising | None = None
        self.onto: dict[tuple[tuple[Shape, ...], Remnant], int | None] = {}
        session.drafted.connect(self.refresh)
        session.advised.connect(self.refresh)
        session.opened.connect(self._opened)
        session.ending.connect(self.rest)

    # What the shop has

    @property
    def room(self) -> Stockroom:
        """Where the shop's cloths, stash and prices are kept."""
        from omnipel.shop.stockroom import Stockroom

        return Stockroom(self.session.store)

    @property
    def stock(self) -> Stock:
        """What the shop has."""
        if self.kept is None:
            job = self.session.job
            self.kept = self.room.stock(job.cover.habits.system if job is not None else System.of(self.session.home_unit))
        return self.kept

    def book(self, reason: Phrase, changes: Sequence[Change]) -> bool:
        """Change what the shop has, as one booking."""
        try:
            self.room.book(self.session.tell(reason), changes)
        except StoreError as error:
            self.session.say("stop", tr("Not kept: {fault}", fault=error.phrase))
            return False
        self._restocked()
        return True

    def undo_booking(self) -> None:
        """Take the last booking back."""
        try:
            undone = self.room.undo()
        except StoreError as error:
            self.session.say("stop", tr("Not kept: {fault}", fault=error.phrase))
            return
        self._restocked()
        self.session.say("note", tr("Taken back: {what}", what=Name(undone.reason)) if undone else tr("Nothing is booked."))

    def _restocked(self) -> None:
        self.kept = self.asked = None
        self.stocked.emit()
        self.refresh()

    # Laying

    def _opened(self) -> None:
        self.stop(keep=False)
        self.now = self.asked = self.kept = self.advising = self.searched = self.found = None
        self.onto.clear()
        self.works.forget("lay")
        self.trials.forget("advice")
        if self.session.job is not None:
            self.trials.ask("ready", _ready, None, lambda _done: None, self.session.fault)
        self.refresh()

    def refresh(self) -> None:
        """Have the draft laid as it stands, unless that is being done."""
        from omnipel.core.draft import Drafted

        draft = self.session.draft
        if not isinstance(draft, Drafted):
            self.now = self.asked = None
            self.works.forget("lay")
            return
        if isinstance(self.asked, Drafted) and self.asked.cover is draft.cover and self.asked.job == draft.job:
            return
        if self.search is not None and self.searched is not None and self.asked is not None and self.asked.job != draft.job:
            self.stop(keep=False)
        self.asked = draft
        self.works.ask("lay", _laid, _Asked(draft, self.stock), self._came, self.session.fault)

    def _came(self, made: Laid) -> None:
        self.now = made
        self.laid.emit()

    @property
    def current(self) -> Laid | None:
        """The cloth of the draft as it stands; None while it is worked out."""
        draft = self.session.draft
        return self.now if self.now is not None and draft is not None and self.now.draft.job == draft.job else None

    @property
    def left(self) -> tuple[str, ...]:
        """The layers of which a piece does not fit on its cloth, as far as that is known."""
        now = self.current
        return tuple(layer for layer, lay in now.lays.items() if lay.left) if now is not None else ()

    def lay(self, layer: str) -> Lay | None:
        """How a layer is laid; what a search has found of it so far."""
        now = self.current or self.now
        return now.lays.get(layer) if now is not None else None

    def takes(self, lay: Lay, piece: Remnant) -> int | None:
        """How many pieces of a layer go onto a piece of the stash; None while that is tried, behind the window."""
        known = tuple(lay.sheet.shapes.values()), piece  # a shape is the same as long as its outline is, and how it may lie
        if known not in self.onto:
            self.onto[known] = None
            self.works.ask(("takes", *known), _takes, _Tried(lay, piece), partial(self._have_tried, known), self.session.fault)
        return self.onto[known]

    def _have_tried(self, known: tuple[tuple[Shape, ...], Remnant], takes: int) -> None:
        self.onto[known] = takes
        self.tried.emit()

    def commit(self, lay: Lay, reason: Phrase) -> bool:
        """Keep where the pieces of a layer lie."""
        job = self.session.open_job
        kept = replace(lay.sheet.choice, placed=lay.placed)
        return self.session.apply(replace(job, lays={**job.lays, lay.layer.value: kept}), reason)

    def push_together(self, lay: Lay) -> None:
        """Have the pieces on the bolt moved towards the squared end as far as they go, behind the window."""
        self.works.ask("push", _pushed, lay, self._have_pushed, self.session.fault)

    def _have_pushed(self, lay: Lay) -> None:
        self.commit(lay, tr("{layer} pushed together", layer=term(lay.layer.value)))

    # Advice

    def advise(self) -> None:
        """Look for what saves cloth on the job as it stands, one way after the other, unless that is done or being done."""
        now = self.current
        if now is None or (self.advising is not None and self.advising.of is now):
            return
        from omnipel.work.adviser import Asked

        placed = {layer: lay.placed for layer, lay in now.lays.items()}
        self.advising = Advising(now, Asked(now.draft.job, placed, self.stock))
        self._advise_more(self.advising)
        self.advised.emit()

    def _advise_more(self, advising: Advising) -> None:
        if self.search is not None:
            return  # they would take the time from one another, and from the window; it goes on when the search has ended
        self.trials.ask("advice", _advised, advising, self._have_advised, self.session.fault)

    def _have_advised(self, advising: Advising) -> None:
        if advising is not self.advising:
            return
        if not advising.done:
            self._advise_more(advising)
        self.advised.emit()

    # Searching

    def begin(self, lay: Lay, seconds: float = SECONDS) -> None:
        """Look for a shorter lay, in processes of their own."""
        from omnipel.work.laying import Search

        self.stop(keep=False)
        on = lay.on(lay.bolt)
        if not on:
            return
        self.searched, self.found, self.begun = lay, None, time.monotonic()
        self.search = search = Search(lay.problem, seconds)
        known, now = lay.sheet.lying(lay.bolt, on), self.current
        least = now.least.get(lay.layer.value, 0.0) + lay.sheet.gap if now is not None else None

        def run() -> None:
            while not self.works.idle and not search.stopped.is_set():
                search.stopped.wait(0.01)  # one at a time beside the window
            for found in search.run(known, least):
                self.session.deliverer.came.emit(lambda found=found: self._found(search, found))

        threading.Thread(target=run, name="omnipel-search", daemon=True).start()
        self.searching.emit()

    def _found(self, search: Search, found: Found) -> None:
        if search is not self.search or self.searched is None:
            return
        self.found = found
        if not found.looking:
            self.search = None
            self._keep_found()
            self.ended.emit(time.monotonic() - self.begun)
            self._advise_on()
            if found.broken:
                text = tr("The search broke down ({fault}); the lay as it was stays.", fault=Name(found.broken))
                self.session.say("look", text)
        self.searching.emit()

    def best(self) -> Lay | None:
        """The lay that is searched, as it was found best so far."""
        from omnipel.core.cloth.lay import with_nest

        lay, found = self.searched, self.found
        if lay is None or found is None or found.nest is None:
            return lay
        return replace(lay, placed=with_nest(lay, found.nest))

    def stop(self, *, keep: bool = True) -> None:
        """End the search, with what it has found or without."""
        search, self.search = self.search, None
        if search is None:
            return
        search.stop()
        if keep:
            self._keep_found()
        self.searched = self.found = None
        self._advise_on()
        self.searching.emit()

    def _advise_on(self) -> None:
        advising = self.advising
        if advising is not None and not advising.done and advising.of is self.current:
            self._advise_more(advising)

    def _keep_found(self) -> None:
        lay, best = self.searched, self.best()
        if lay is not None and best is not None and best.length < lay.length - 1e-6:
            words = tr("{layer} laid on {length}", layer=term(lay.layer.value), length=Run(best.used.value))
            self.commit(best, words)

    def rest(self) -> None:
        """The window is being closed."""
        self.stop(keep=False)
        if self.advising is not None and not self.advising.done:
            from omnipel.work.adviser import ADVISER

            self.advising.wanted = False
            if ADVISER.busy:
                ADVISER.end()
        self.trials.close()
        self.works.close()
