"""The Shelf: all jobs of the shop, searched, sorted, opened; files can be dropped on it."""

from __future__ import annotations

import sys
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QMenu, QSizePolicy, QWidget

from omnipel import __version__
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.signs import Vacant
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.bench.speech import SPEECH, say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.shelf.cards import Cards, CardView
from omnipel.bench.stations.shelf.carrying import Carried
from omnipel.bench.stations.shelf.first import FirstStart
from omnipel.core.job.state import RANK, State
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.shop.opening import StoreError
from omnipel.work.requests import Looked, stand_of

if TYPE_CHECKING:
    from omnipel.bench.session import Session
    from omnipel.core.words.refs import Ref
    from omnipel.shop.store import Card, Kept

SORTS = (
    (tr("last touched"), "touched"),
    (tr("name"), "name"),
    (tr("owner"), "owner"),
    (tr("what needs doing"), "state"),
    (tr("what is due"), "due"),
)
AT_ONCE = 25
"""So many states are kept in one go: each time waits for the disk."""
SORTED_AGAIN_MS = 400
NEVER = "9999"
"""A day that is never due."""


class Shelf(AtBench):
    """All jobs of the shop."""

    wants = Signal(str)
    """A command's id."""
    dropped = Signal(list)
    """Paths of files dropped here."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAcceptDrops(True)
        self.search = line(tr("Search the shelf"), tr("search name, owner, place, form"))
        self.search.textChanged.connect(lambda _t: self._filter())
        self.sort = combo(tr("Sort by"), SORTS, lambda _v: self._filter())
        self.away = combo(tr("Which jobs"), ((tr("on the shelf"), False), (tr("with archived"), True)), lambda _v: self.refresh())
        self.new_button = button(tr("New job"), lambda: self.wants.emit("new"), "main")
        bring = button(tr("Bring in…"), lambda: self.wants.emit("import"))
        title = label(tr("Shelf"), "title")
        self.beside = (title, self.sort, self.away, self.new_button, bring)
        for widget in self.beside:
            widget.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.head = head = row()
        search = row(title, self.search)
        search.setAlignment(title, Qt.AlignmentFlag.AlignLeft)
        head.addLayout(search, 1)
        others = row(*self.beside[1:])
        others.addStretch(1)
        head.addLayout(others)
        self.model = Cards(self._look_at)
        self.model.carried = Carried(session).file
        self.view = CardView(self.model)
        self.view.opened.connect(self._open)
        self.view.asked.connect(self._ask)
        self.view.verticalScrollBar().valueChanged.connect(lambda _v: session.pace.busy())
        self.made_first: FirstStart | None = None
        self.none = Vacant("shelf", tr("Show all jobs"), self._search_for_nothing)
        self.none.say(say(tr("No job on the shelf has these words.")))
        self.whole = layout = column(head, self.view, self.none, spacing=12)
        layout.setContentsMargins(16, 16, 16, 8)
        layout.setStretch(1, 1)
        layout.setStretch(2, 1)
        self.setLayout(layout)
        self.all: list[Card] = []
        self.looked_at: set[tuple[int, int]] = set()
        self.to_keep: list[tuple[Card, Kept]] = []
        self.unseen: list[Card] = []
        self.texts: dict[tuple[int, int], str] = {}
        self.looking, self.sorting = QTimer(self, interval=0), QTimer(self, interval=SORTED_AGAIN_MS, singleShot=True)
        self.looking.timeout.connect(self._look_on)
        self.sorting.timeout.connect(self._filter)

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """In this order the keys walk it: what is searched for comes before what is found."""
        return (self.search, *self.beside, self.view)

    @property
    def first(self) -> FirstStart:
        """What an empty shop asks; made when there is one."""
        if self.made_first is None:
            self.made_first = FirstStart(self.session, self.wants.emit)
            self.whole.insertWidget(1, self.made_first)
        return self.made_first

    @property
    def cards(self) -> list[Card]:
        """The jobs that are shown, in their order."""
        return self.model.cards

    @property
    def program(self) -> str:
        """What a kept state counts for: this version, in this language."""
        return f"{__version__} {getattr(SPEECH.tongue, 'code', '')}".strip()

    def enter(self) -> None:
        """The shelf was opened."""
        self.refresh()
        self.take_focus()

    def take_focus(self) -> None:
        """To the job that was open, or to the first question of a new shop."""
        if self.cards:
            self.view.show_card(self.session.key if self.session.key is not None else self._here())
            self.view.setFocus()
        elif not self.all:
            self.first.take_focus()
        else:
            self.search.setFocus()

    def _here(self) -> int | None:
        return self.view.current.id if self.view.current is not None else None

    def refresh(self) -> None:
        """Show the shop as it stands."""
        self.session.pace.busy()
        self.all = self.session.store.cards(archived=bool(self.away.value), program=self.program)
        self.looked_at &= {(card.id, card.revision) for card in self.all}
        if self.made_first is not None or not self.all:
            self.first.setVisible(not self.all)
        for widget in (self.search, self.sort, self.new_button):
            widget.setVisible(bool(self.all))
        self._filter()

    def go_to(self, ref: Ref) -> None:
        """Nothing in a job is decided here."""

    def rescale(self) -> None:
        """The text is larger or smaller now."""
        self.view.rescale()
        self._fold()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._fold()
        super().resizeEvent(event)

    def _fold(self) -> None:
        """The search has a line of its own with the title where it would not be as wide as its hint beside the others."""
        wide = sum(widget.sizeHint().width() for widget in self.beside if not widget.isHidden()) + LOOK.px(210) + 80
        ways = QBoxLayout.Direction
        self.head.setDirection(ways.TopToBottom if self.width() < wide else ways.LeftToRight)

    # States and pictures

    def _look_at(self, card: Card) -> None:
        """A card is painted whose state is not sure: look at its job, behind the window."""
        key = (card.id, card.revision)
        if key in self.looked_at:
            return
        self.looked_at.add(key)
        store = self.session.store
        known = store.kept(card, self.program) if card.state else None
        if known is not None:
            self.model.kept[key] = known
            if known.due and self.sort.value == "due":
                self.sorting.start()
            return
        text, version = store.text(card.id)
        mark = store.mark(text)
        looked = Looked(text, version, mark, SPEECH.tongue)
        self.session.works.ask(("card", card.id), stand_of, looked, partial(self._stands, card), self._not_looked)

    def _stands(self, card: Card, kept: Kept) -> None:
        self.model.keep(card, kept)
        self.to_keep.append((card, kept))
        if self.session.works.idle or len(self.to_keep) >= AT_ONCE:
            self.save_kept()
        if self.sort.value in ("state", "due"):
            self.sorting.start()

    def save_kept(self) -> None:
        """Keep what has become known."""
        self.session.store.keep(self.program, [(card.id, card.revision, kept) for card, kept in self.to_keep])
        self.to_keep = []

    def _not_looked(self, error: Exception) -> None:
        """A fault of ours must not hold up the shelf; the job itself, opened, will show it."""
        print(f"omnipel: a card could not be drawn: {error!r}", file=sys.stderr)

    # Searching

    def _search_for_nothing(self) -> None:
        self.search.clear()
        self.search.setFocus()

    def _filter(self) -> None:
        """Show the cards that match the search, in order."""
        words = self.search.text().casefold().split()
        here = self._here()
        cards = self._found(words) if words else list(self.all)
        by = self.sort.value
        if by == "name":
            cards.sort(key=lambda c: c.name.casefold())
        elif by == "owner":
            cards.sort(key=lambda c: (c.owner.casefold(), c.name.casefold()))
        elif by == "state":
            self.unseen = [card for card in cards if not card.state and (card.id, card.revision) not in self.looked_at]
            self.looking.start()
            cards.sort(key=self._urgency)
        elif by == "due":
            known = self.model.kept
            self.unseen = [card for card in cards if (card.id, card.revision) not in {*known, *self.looked_at}]
            self.looking.start()
            kept = [(known.get((card.id, card.revision)), card) for card in cards]
            cards = [card for _, card in sorted(kept, key=lambda told: (told[0].due if told[0] is not None else "") or NEVER)]
        self.none.setVisible(not cards and bool(self.all))
        self.view.setVisible(bool(cards))
        if cards != self.model.cards:
            self.view.show_cards(cards, here)

    def _found(self, words: list[str]) -> list[Card]:
        """The jobs that hold all words. The words of forms are only loaded when something is searched for."""
        from omnipel.core.forms import FORMS

        forms = {key: say(form.words) for key, form in FORMS.items()}
        found = []
        for card in self.all:
            key = (card.id, card.revision)
            text = self.texts.get(key)
            if text is None:
                text = self.texts[key] = f"{card.name} {card.owner} {card.place} {forms.get(card.form, card.form)}".casefold()
            if all(word in text for word in words):
                found.append(card)
        return found

    def _look_on(self) -> None:
        """What needs doing is to be known of all jobs, not only of those that are seen: some at a time."""
        for card in self.unseen[:AT_ONCE]:
            self._look_at(card)
        self.unseen = self.unseen[AT_ONCE:]
        if not self.unseen:
            self.looking.stop()

    def _urgency(self, card: Card) -> int:
        kept = self.model.kept.get((card.id, card.revision))
        state = kept.state if kept is not None else card.state
        return -RANK[State(state)] if state else 1

    # Jobs

    def _open(self, key: int) -> None:
        if self.session.open(key):
            self.wants.emit("next")

    def _ask(self, key: int, at: QPoint) -> None:
        """What can be done with a job, as a menu."""
        card = next(c for c in self.all if c.id == key)
        store, menu = self.session.store, QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        again = not card.archived

        def then(run: Callable[[], object], said: Phrase) -> Callable[[], None]:
            def done() -> None:
                try:
                    run()
                except StoreError as error:
                    self.session.say("stop", error.phrase)
                    return
                self.refresh()
                self.session.say("note", said)

            return done

        name = Name(card.name)
        said = tr("{job} is archived.", job=name) if again else tr("{job} is back.", job=name)
        for words, run in (
            (tr("Open"), lambda: self._open(key)),
            (tr("Duplicate"), lambda: self.wants.emit(f"duplicate:{key}")),
            (tr("Archive") if again else tr("Back on the shelf"), then(lambda: store.archive(key, again), said)),
            (tr("Write its document to a file…"), lambda: self.wants.emit(f"document:{key}")),
            (tr("Delete"), lambda: self.wants.emit(f"delete:{key}")),
        ):
            action = menu.addAction(say(words))
            action.triggered.connect(lambda _checked=False, r=run: r())
        menu.popup(at)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls() and event.source() is not self.view:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.dropped.emit([url.toLocalFile() for url in event.mimeData().urls()])
