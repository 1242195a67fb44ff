"""The Shelf: all jobs as cards with their sketch, next step and state."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from functools import partial

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
from PySide6.QtWidgets import QButtonGroup, QGridLayout, QMenu, QPushButton, QRadioButton, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import Thumbnail
from omnipel.bench.parts.widgets import button, column, combo, label, line, paint_state, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.speech import SPEECH, say
from omnipel.core.draft import Draft, draft
from omnipel.core.forms import FORMS
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.sketch import View, sketch
from omnipel.core.remedies import advised
from omnipel.core.standing import RANK, State, next_step, whole
from omnipel.core.words.phrases import Name, Phrase, term, tr
from omnipel.core.words.units import Unit
from omnipel.shop.document import lawful
from omnipel.shop.starter import plausible
from omnipel.shop.store import Card

SORTS = ((tr("last touched"), "touched"), (tr("name"), "name"), (tr("owner"), "owner"), (tr("what needs doing"), "state"))
UNITS = (Unit.INCH_16, Unit.INCH_8, Unit.CM, Unit.MM)

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
        self.search = line(tr("Search the shelf"), tr("search name, owner, place, form"))
        self.search.textChanged.connect(self._filter)
        self.sort = combo(tr("Sort by"), SORTS, lambda _v: self._filter())
        self.away = combo(tr("Which jobs"), ((tr("on the shelf"), False), (tr("with archived"), True)), lambda _v: self.refresh())
        self.new_button = button(tr("New job"), lambda: self.wants.emit("new"), "main")
        head = row(
            label(tr("Shelf"), "title"),
            self.search,
            self.sort,
            self.away,
            self.new_button,
            button(tr("Bring in…"), lambda: self.wants.emit("import")),
        )
        head.setStretch(1, 1)
        head.insertStretch(2, 0)
        for k in range(head.count()):
            item = head.itemAt(k)
            widget = item.widget() if item is not None else None
            if widget is not None and widget is not self.search:
                widget.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
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
        self.units = QButtonGroup(self)
        unit_row = Flow(gap=16)
        unit_row.addWidget(label(tr("I measure in"), "head"))
        for unit in UNITS:
            made = QRadioButton(say(term(unit.label)))
            made.setAccessibleName(say(tr("I measure in {unit}", unit=term(unit.label))))
            made.setChecked(unit is self.session.home_unit)
            made.clicked.connect(lambda _on=False, u=unit: self._measures_in(u))
            self.units.addButton(made)
            unit_row.addWidget(made)
        ways = (
            (
                "new",
                tr("Measure something now"),
                tr("Pick what it is, put the tape around it, and its cover drafts itself while you type."),
            ),
            (
                "sample",
                tr("Look round the sample shop"),
                tr("Twenty jobs of the made-up Quillet Hill, some with trouble on purpose."),
            ),
            ("card", tr("Read a tape card"), tr("All readings in one go, by their letters, in any order.")),
        )
        made_ways: list[QWidget] = []
        for kind, words, under in ways:
            made_ways += [
                button(words, partial(self.wants.emit, kind), "main" if kind == "new" else ""),
                label(under, "soft", wrap=True),
            ]
        layout = column(
            label(tr("Nothing on the shelf yet"), "title"),
            label(tr("A cover that fits begins with a tape. First: what is on yours?"), "head", wrap=True),
            unit_row,
            *made_ways,
            spacing=10,
            margins=24,
        )
        for k in range(layout.count()):
            item = layout.itemAt(k)
            widget = item.widget() if item is not None else None
            if isinstance(widget, QPushButton):
                layout.setAlignment(widget, Qt.AlignmentFlag.AlignLeft)
        layout.addStretch(1)
        box.setLayout(layout)
        box.setMaximumWidth(760)
        return box

    def _measures_in(self, unit: Unit) -> None:
        """What was asked at first start: the unit of new jobs, with its habits."""
        self.session.home_unit = unit
        if self.session.store.writable:
            self.session.store.set("unit", unit.value)

    def enter(self) -> None:
        """The shelf was opened."""
        self.refresh()
        self.take_focus()

    def take_focus(self) -> None:
        """To the first job, or to the first question of a new shop."""
        if self.cards:
            self.cards[0].setFocus()
        elif self.first.isVisibleTo(self):
            for made in self.units.buttons():
                if made.isChecked():
                    made.setFocus()
        else:
            self.search.setFocus()

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
        for widget in (self.search, self.sort, self.new_button):
            widget.setVisible(bool(rows))
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
            cards.sort(key=lambda c: -RANK[c.state])
        for card in self.known.values():
            self.grid.removeWidget(card)
            if card not in cards:  # what stays is not hidden: it keeps the focus and the shelf its place
                card.setVisible(False)
        self.columns = self._columns()
        for i, card in enumerate(cards):
            self.grid.addWidget(card, i // self.columns, i % self.columns)
            card.setVisible(True)
        self.cards = cards

    def resizeEvent(self, event: QResizeEvent) -> None:
        if self._columns() != self.columns:
            self._filter()

    def _columns(self) -> int:
        """How many cards stand beside one another."""
        return max(1, (self.width() - 40) // (LOOK.px(250) + 12))

    def _ask(self, key: int) -> None:
        """What can be done with a job, as a menu."""
        card = next(c for c in self.known.values() if c.card.id == key)
        store, menu = self.session.store, QMenu(self)
        again = not card.card.archived

        def then(run: Callable[[], object], said: Phrase) -> Callable[[], None]:
            def done() -> None:
                run()
                self.refresh()
                self.session.say("note", said)

            return done

        name = Name(card.card.job.name)
        said = tr("{job} is archived.", job=name) if again else tr("{job} is back.", job=name)
        for words, run in (
            (tr("Open"), lambda: self._open(key)),
            (tr("Duplicate"), lambda: self.wants.emit(f"duplicate:{key}")),
            (tr("Archive") if again else tr("Back on the shelf"), then(lambda: store.archive(key, again), said)),
            (tr("Delete"), lambda: self.wants.emit(f"delete:{key}")),
        ):
            action = menu.addAction(say(words))
            action.triggered.connect(lambda _checked=False, r=run: r())
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
        form = FORMS.get(card.job.thing.form)
        self.found_by = f"{card.job.name} {card.job.owner} {card.job.place} {say(form.words) if form else ''}".casefold()
        self.setAccessibleName(f"{card.job.name}, {card.job.owner}")

    @property
    def draft(self) -> Draft:
        """The draft of the job; made when the card is first seen."""
        self._draft = self._draft or advised(draft(self.card.job), lawful, most=1)  # a card says no more than the first
        return self._draft

    @property
    def state(self) -> State:
        """How the job stands."""
        return whole(self.draft)

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
            (
                " · ".join(part for part in (job.owner, job.place) if part) or say(tr("for nobody yet")),
                13,
                QFont.Weight.Normal,
                "soft",
            ),
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
            step = SPEECH.voice(job.unit).say(next_step(self.draft).words)
            painter.drawText(
                left + LOOK.px(18),
                y + LOOK.px(13),
                painter.fontMetrics().elidedText(step, Qt.TextElideMode.ElideRight, room - LOOK.px(18)),
            )
        painter.setFont(LOOK.font(12))
        painter.setPen(LOOK.colour("soft"))
        when = say(
            tr("{when}  ·  archived", when=touched(self.card.touched)) if self.card.archived else touched(self.card.touched)
        )
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


def touched(stamp: str) -> Phrase:
    """When a job was last changed, in the desktop's own time: today and yesterday by the clock, earlier by the day."""
    when = datetime.fromisoformat(stamp).replace(tzinfo=UTC).astimezone()
    today = datetime.now(UTC).astimezone().date()
    clock = Name(f"{when.hour}:{when.minute:02d}")
    if when.date() == today:
        return tr("today {time}", time=clock)
    if when.date() == today - timedelta(days=1):
        return tr("yesterday {time}", time=clock)
    return tr("on {day}", day=Name(when.date().isoformat()))
