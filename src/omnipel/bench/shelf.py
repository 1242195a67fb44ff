"""The Shelf: all jobs as cards with their sketch, next step and state."""

from collections.abc import Callable

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDropEvent,
    QFont,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QGridLayout, QLineEdit, QMenu, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, column, combo, label, paint_state, row, scrolled
from omnipel.bench.picture import Thumbnail
from omnipel.bench.session import Session, next_step
from omnipel.bench.tape_station import plausible
from omnipel.core.draft import Draft, draft
from omnipel.core.forms import FORMS
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.sketch import View, sketch
from omnipel.shop.store import Card

SORTS = (("last touched", "touched"), ("name", "name"), ("owner", "owner"), ("what needs doing", "state"))

PAUSE_MS = 30
"""Between the batches of a long shelf the window paints and listens."""
AT_ONCE = 15
"""So many cards, a screenful, are put up at once; the rest of a long shelf follows while the first can be read already."""


class Shelf(QWidget):
    """All jobs of the shop."""

    wants = Signal(str)
    """A command's id."""
    dropped = Signal(list)
    """Paths of files dropped here."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAcceptDrops(True)
        self.search = QLineEdit(accessibleName="Search the shelf", placeholderText="search name, owner, place, form")
        self.search.textChanged.connect(self._filter)
        self.sort = combo("Sort by", SORTS, lambda _v: self._filter())
        self.away = combo("Which jobs", (("on the shelf", False), ("with archived", True)), lambda _v: self.refresh())
        head = row(
            label("Shelf", "title"),
            self.search,
            self.sort,
            self.away,
            button("New job", lambda: self.wants.emit("new"), "main"),
            button("Bring in…", lambda: self.wants.emit("import")),
        )
        self.grid = QGridLayout()
        self.grid.setSpacing(12)
        inner = QWidget()
        inner_layout = QVBoxLayout(inner)
        inner_layout.setContentsMargins(0, 0, 8, 0)
        inner_layout.addLayout(self.grid)
        inner_layout.addStretch(1)
        self.area = scrolled(inner)
        self.first = self._first_start()
        layout = column(head, self.first, self.area, spacing=12)
        layout.setContentsMargins(16, 16, 16, 8)
        layout.setStretch(2, 1)
        self.setLayout(layout)
        self.cards: list[JobCard] = []
        self.known: dict[tuple[int, str], JobCard] = {}
        self.waiting: list[Card] = []
        self.columns = 3

    def _first_start(self) -> QWidget:
        box = QWidget()
        steps = (
            ("1   Say what the thing is", "A drum, a box, a wheel: pick its picture. Nothing has to be right yet."),
            ("2   Put the tape around it", "One reading at a time, drawn on the sketch. Each is checked against the others."),
            ("3   Read the panels", "Every seam true, every number with its sum, and whether the cover will go on."),
        )
        made = [
            label("Nothing on the shelf yet", "title"),
            label("Measure one thing, and its cover drafts itself while you type.", "head", wrap=True),
        ]
        for head, under in steps:
            made += [label(head, "head"), label(under, "soft", wrap=True)]
        go = row(
            button("Measure the first thing", lambda: self.wants.emit("new"), "main"),
            button("Look round the sample shop", lambda: self.wants.emit("sample")),
        )
        go.addStretch(1)
        layout = column(*made, go, spacing=10, margins=24)
        layout.addStretch(1)
        box.setLayout(layout)
        box.setMaximumWidth(720)
        return box

    def enter(self) -> None:
        """The shelf was opened."""
        self.refresh()
        (self.cards[0] if self.cards else self.search).setFocus()

    def refresh(self) -> None:
        """Show the shop as it stands; cards of jobs that were not touched are kept."""
        rows = self.session.store.cards(archived=bool(self.away.value))
        kept: dict[tuple[int, str], JobCard] = {}
        self.waiting = []
        for card in rows:
            key = (card.id, f"{card.touched}{card.archived}")
            known = self.known.pop(key, None)
            if known is None and len(kept) >= AT_ONCE:
                self.waiting.append(card)
            else:
                kept[key] = known or self._card(card)
        for old in self.known.values():
            old.hide()
            old.deleteLater()
        self.known = kept
        self.first.setVisible(not rows)
        self.area.setVisible(bool(rows))
        self._filter()
        if self.waiting:
            QTimer.singleShot(PAUSE_MS, self._more)

    def _more(self) -> None:
        """Put some more of a long shelf's cards up, and come back for the rest."""
        for card in self.waiting[: 4 * AT_ONCE]:
            self.known[(card.id, f"{card.touched}{card.archived}")] = self._card(card)
        self.waiting = self.waiting[4 * AT_ONCE :]
        self._filter()
        if self.waiting:
            QTimer.singleShot(PAUSE_MS, self._more)

    def _card(self, card: Card) -> "JobCard":
        made = JobCard(card, self.session)
        made.opened.connect(self._open)
        made.asked.connect(self._ask)
        return made

    def _open(self, key: int) -> None:
        self.session.open(key)
        self.wants.emit("next")

    def _filter(self) -> None:
        """Lay the cards out that match the search, in order."""
        words = self.search.text().casefold().split()
        cards = [c for c in self.known.values() if all(word in c.found_by for word in words)]
        by = self.sort.value
        if by == "name":
            cards.sort(key=lambda c: c.card.job.name.casefold())
        elif by == "owner":
            cards.sort(key=lambda c: (c.card.job.owner.casefold(), c.card.job.name.casefold()))
        elif by == "state":
            cards.sort(key=lambda c: {"stop": 0, "look": 1, "nothing": 2}.get(c.state, 3))
        for card in self.known.values():
            self.grid.removeWidget(card)
            card.setVisible(False)
        for i, card in enumerate(cards):
            self.grid.addWidget(card, i // self.columns, i % self.columns)
            card.setVisible(True)
        self.cards = cards

    def resizeEvent(self, event: QResizeEvent) -> None:
        columns = max(1, (self.width() - 40) // (LOOK.px(250) + 12))
        if columns != self.columns:
            self.columns = columns
            self._filter()

    def _ask(self, key: int) -> None:
        """What can be done with a job, as a menu."""
        card = next(c for c in self.known.values() if c.card.id == key)
        store, menu = self.session.store, QMenu(self)
        again = not card.card.archived

        def then(run: Callable[[], object], said: str) -> Callable[[], None]:
            def done() -> None:
                run()
                self.refresh()
                self.session.say("note", said)

            return done

        menu.addAction("Open", lambda: self._open(key))
        menu.addAction("Duplicate", lambda: self.wants.emit(f"duplicate:{key}"))
        menu.addAction(
            "Archive" if again else "Back on the shelf",
            then(lambda: store.archive(key, again), f"{card.card.job.name} is {'archived' if again else 'back'}."),
        )
        menu.addAction("Delete", lambda: self.wants.emit(f"delete:{key}"))
        menu.popup(card.mapToGlobal(card.rect().center()))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.dropped.emit([url.toLocalFile() for url in event.mimeData().urls()])


class JobCard(QWidget):
    """One job."""

    opened = Signal(int)
    asked = Signal(int)

    def __init__(self, card: Card, session: Session) -> None:
        super().__init__()
        self.card, self.session = card, session
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.picture: Thumbnail | None = None
        self.asked_for = False
        self._draft: Draft | None = None
        job = card.job
        form = FORMS.get(job.thing.form)
        self.found_by = f"{job.name} {job.owner} {job.place} {form.words if form else ''}".casefold()
        self.setAccessibleName(f"{job.name}, {job.owner}")

    @property
    def draft(self) -> Draft:
        """The draft of the job; made when the card is first seen."""
        if self._draft is None:
            self._draft = draft(self.card.job)
        return self._draft

    @property
    def state(self) -> str:
        """The worst there is to say of the job."""
        severities = [f.severity.value for f in self.draft.findings]
        if any(f.code == "reading-missing" for f in self.draft.findings):
            return "nothing"
        return next((s for s in ("stop", "look") if s in severities), "fine")

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(250), LOOK.px(232))

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(200), LOOK.px(232))

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.visibleRegion().isEmpty() or self.width() < LOOK.px(120):
            return  # below the edge of the shelf, or not laid out yet: drafting it now would only hold up the others
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("surface"))
        painter.setPen(QPen(LOOK.colour("accent" if self.hasFocus() else "line"), 2.5 if self.hasFocus() else 1.0))
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -2, -2), 4, 4)
        self._paint_sketch(painter)
        job, left, room = self.card.job, LOOK.px(12), self.width() - LOOK.px(24)
        lines = (
            (job.name, 17, QFont.Weight.DemiBold, "ink"),
            (" · ".join(part for part in (job.owner, job.place) if part) or "for nobody yet", 13, QFont.Weight.Normal, "soft"),
        )
        y = LOOK.px(142)
        for words, size, weight, colour in lines:
            painter.setFont(LOOK.font(size, weight))
            painter.setPen(LOOK.colour(colour))
            painter.drawText(left, y, painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room))
            y += LOOK.px(20)
        painter.setPen(LOOK.colour("line"))
        painter.drawLine(left, y - LOOK.px(8), self.width() - left, y - LOOK.px(8))
        if self.picture is None:
            if not self.asked_for:
                self.asked_for = True
                QTimer.singleShot(0, self, self._draw)
        else:
            paint_state(painter, QRectF(left - 2, y + LOOK.px(1), LOOK.px(15), LOOK.px(15)), self.state)
            painter.setFont(LOOK.font(14))
            painter.setPen(LOOK.colour("ink"))
            step = next_step(self.draft)[0]
            painter.drawText(
                left + LOOK.px(18),
                y + LOOK.px(13),
                painter.fontMetrics().elidedText(step, Qt.TextElideMode.ElideRight, room - LOOK.px(18)),
            )
        painter.setFont(LOOK.font(12))
        painter.setPen(LOOK.colour("soft"))
        when = f"touched {self.card.touched[:10]} {self.card.touched[11:16]}" + ("  ·  archived" if self.card.archived else "")
        painter.drawText(left, y + LOOK.px(33), when)
        painter.end()

    def _paint_sketch(self, painter: QPainter) -> None:
        if self.picture is not None:
            self.picture.paint(painter, QRectF(16, 12, self.width() - 32, LOOK.px(104)))

    def _draw(self) -> None:
        """Draft the job and draw its sketch; asked for when the card is first seen, so that the shelf itself opens at once."""
        body = self.draft.body or plausible(self.card.job)
        self.picture = Thumbnail(sketch(body.mesh(), View()) if body else Drawing(()))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() is Qt.MouseButton.LeftButton:
            self.opened.emit(self.card.id)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.asked.emit(self.card.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.opened.emit(self.card.id)
        elif event.key() == Qt.Key.Key_Menu:
            self.asked.emit(self.card.id)
        elif event.key() in (Qt.Key.Key_Right, Qt.Key.Key_Down):
            self.focusNextChild()
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Up):
            self.focusPreviousChild()
        else:
            super().keyPressEvent(event)
