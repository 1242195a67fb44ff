"""The shelf's cards: a model of what the shop says, and a view that paints what is seen of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from typing import TYPE_CHECKING

from PySide6.QtCore import (
    QAbstractTableModel,
    QMimeData,
    QModelIndex,
    QPersistentModelIndex,
    QPoint,
    QRect,
    QRectF,
    QSize,
    Qt,
    QUrl,
    Signal,
)
from PySide6.QtGui import QContextMenuEvent, QFont, QKeyEvent, QPainter, QPen, QPixmap, QResizeEvent
from PySide6.QtWidgets import QHeaderView, QStyledItemDelegate, QTableView

from omnipel.bench.parts.look import LOOK, Colours
from omnipel.bench.parts.strokes import unpacked
from omnipel.bench.parts.widgets import paint_state
from omnipel.bench.speech import say
from omnipel.core.job.state import State
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.shop.store import Card, Kept

if TYPE_CHECKING:  # the first of these costs as much as half the shelf
    from pathlib import Path

    from PySide6.QtWidgets import QStyleOptionViewItem

Index = QModelIndex | QPersistentModelIndex
NO_INDEX = QModelIndex()
GAP = 12
HIGH = 232


class Cards(QAbstractTableModel):
    """The jobs that are shown, in their order, some beside one another. `asked` is told of a card that is painted without its state being known."""

    def __init__(self, asked: Callable[[Card], object]) -> None:
        super().__init__()
        self.cards: list[Card] = []
        self.places: dict[int, int] = {}
        self.kept: dict[tuple[int, int], Kept] = {}
        self.columns = 1
        self.asked = asked
        self.carried: Callable[[Card], Path | None] = lambda _card: None
        """The file that a card is dragged out as."""

    def show(self, cards: Iterable[Card], columns: int) -> None:
        """Show these, so many beside one another."""
        self.beginResetModel()
        self.cards, self.columns = list(cards), columns
        self.places = {card.id: place for place, card in enumerate(self.cards)}
        self.endResetModel()

    def card(self, index: Index) -> Card | None:
        """The card at an index; None behind the last."""
        place = index.row() * self.columns + index.column()
        return self.cards[place] if index.isValid() and place < len(self.cards) else None

    def at(self, place: int) -> QModelIndex:
        """Where the card at a place in the order stands."""
        return self.index(place // self.columns, place % self.columns)

    def kept_of(self, card: Card) -> Kept | None:
        """How a job stands; asked for when it is not known."""
        if (card.id, card.revision) not in self.kept:
            self.asked(card)
        return self.kept.get((card.id, card.revision))

    def keep(self, card: Card, kept: Kept) -> None:
        """A job's state has become known."""
        self.kept[(card.id, card.revision)] = kept
        place = self.places.get(card.id)
        if place is not None:
            self.dataChanged.emit(self.at(place), self.at(place))

    def rowCount(self, parent: Index = NO_INDEX) -> int:
        return 0 if parent.isValid() else -(-len(self.cards) // self.columns)

    def columnCount(self, parent: Index = NO_INDEX) -> int:
        return 0 if parent.isValid() else self.columns

    def flags(self, index: Index) -> Qt.ItemFlag:
        on = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsDragEnabled
        return on if self.card(index) is not None else Qt.ItemFlag.NoItemFlags

    def mimeTypes(self) -> list[str]:
        return ["text/uri-list"]

    def mimeData(self, indexes: Iterable[QModelIndex]) -> QMimeData:
        """A job as a file that travels, to be dropped on a folder."""
        made = QMimeData()
        cards = [card for index in indexes if (card := self.card(index)) is not None]
        made.setUrls([QUrl.fromLocalFile(str(path)) for card in cards if (path := self.carried(card)) is not None])
        return made

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        card = self.card(index)
        if card is None:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            return card.name
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            kept = self.kept.get((card.id, card.revision))
            state = f"{say(State(kept.state).words)}: {kept.step}" if kept is not None else ""
            due = kept.due_on(date.today().isoformat()) if kept is not None else ""
            told = say(tr("due: {what}", what=Name(due))) if due else ""
            return ", ".join(part for part in (card.name, card.owner, card.place, state, told) if part)
        return None


class CardView(QTableView):
    """The cards side by side. Enter or a click opens one, the menu key or the right button asks what to do with it."""

    opened = Signal(int)
    asked = Signal(int, QPoint)

    def __init__(self, model: Cards) -> None:
        super().__init__()
        self.model_ = model
        self.setAccessibleName(say(tr("Jobs")))
        self.setModel(model)
        self.setItemDelegate(CardDelegate(self))
        for header in (self.horizontalHeader(), self.verticalHeader()):
            header.hide()
            header.setMinimumSectionSize(1)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.setShowGrid(False)
        self.setCornerButtonEnabled(False)
        self.setTabKeyNavigation(False)
        self.setSelectionMode(QTableView.SelectionMode.SingleSelection)
        self.setVerticalScrollMode(QTableView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QTableView.Shape.NoFrame)
        self.setObjectName("shelf")
        self.setDragEnabled(True)
        self.setDragDropMode(QTableView.DragDropMode.DragOnly)
        self.viewport().setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(self._clicked)
        self.rescale()

    def fitting(self) -> int:
        """How many cards have room beside one another."""
        return max(1, self.viewport().width() // (LOOK.px(250) + GAP))

    def resizeEvent(self, event: QResizeEvent) -> None:
        if self.fitting() != self.model_.columns:
            here = self.current
            self.show_cards(self.model_.cards, here.id if here is not None else None)
        super().resizeEvent(event)

    def rescale(self) -> None:
        """The text is larger or smaller now."""
        self.verticalHeader().setDefaultSectionSize(LOOK.px(HIGH) + GAP)
        self.verticalScrollBar().setSingleStep(LOOK.px(60))

    def show_cards(self, cards: Iterable[Card], key: int | None) -> None:
        """Show these, with the focus on a job's card."""
        at = self.verticalScrollBar().value()
        self.model_.show(cards, self.fitting())
        self.show_card(key)
        self.verticalScrollBar().setValue(at)

    @property
    def current(self) -> Card | None:
        """The card that has the focus."""
        return self.model_.card(self.currentIndex())

    def show_card(self, key: int | None) -> None:
        """Put the focus on a job's card, or on the first; scroll no further than that takes."""
        if self.model_.cards:
            self.setCurrentIndex(self.model_.at(self.model_.places.get(key, 0) if key is not None else 0))

    def _clicked(self, index: QModelIndex) -> None:
        card = self.model_.card(index)
        if card is not None:
            self.opened.emit(card.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        card = self.current
        if card is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.opened.emit(card.id)
        elif card is not None and event.key() == Qt.Key.Key_Menu:
            self._ask(card, self.visualRect(self.currentIndex()).center())
        elif card is not None and event.key() in (Qt.Key.Key_Right, Qt.Key.Key_Left):
            step = 1 if event.key() == Qt.Key.Key_Right else -1  # on to the next row, as one reads
            place = min(max(self.model_.places[card.id] + step, 0), len(self.model_.cards) - 1)
            self.setCurrentIndex(self.model_.at(place))
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        card = self.model_.card(self.indexAt(event.pos()))
        if card is not None:
            self._ask(card, event.pos())

    def _ask(self, card: Card, at: QPoint) -> None:
        self.asked.emit(card.id, self.viewport().mapToGlobal(at))


class CardDelegate(QStyledItemDelegate):
    """Paints a card."""

    def __init__(self, view: CardView) -> None:
        super().__init__(view)
        self.view = view

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        card = self.view.model_.card(index)
        if card is None:
            return
        rect = QRect(option.rect)
        focused = index == self.view.currentIndex() and self.view.hasFocus()
        painter.save()
        painter.translate(rect.topLeft())
        _paint(painter, QSize(rect.width() - GAP, LOOK.px(HIGH)), card, self.view.model_.kept_of(card), focused)
        painter.restore()


def _paint(painter: QPainter, size: QSize, card: Card, kept: Kept | None, focused: bool) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(LOOK.colour("surface"))
    painter.setPen(QPen(LOOK.colour("accent" if focused else "soft"), 2.5 if focused else 1.0))
    painter.drawRoundedRect(QRect(1, 1, size.width() - 3, size.height() - 3), 4, 4)
    left, room = LOOK.px(12), size.width() - LOOK.px(24)
    if kept is not None and kept.picture:
        box = QSize(size.width() - 32, LOOK.px(104))
        painter.drawPixmap(
            16, 12, _picture(kept.picture, box.width(), box.height(), painter.device().devicePixelRatioF(), LOOK.colours)
        )
    for_whom = " · ".join(part for part in (card.owner, card.place) if part) or say(tr("for nobody yet"))
    y = LOOK.px(142)
    _line(painter, left, y, room, card.name, 17, "ink", QFont.Weight.DemiBold)
    _line(painter, left, y + LOOK.px(20), room, for_whom, 14, "soft")
    y += LOOK.px(40)
    painter.setPen(LOOK.colour("line"))
    painter.drawLine(left, y - LOOK.px(8), size.width() - left, y - LOOK.px(8))
    if kept is not None:
        paint_state(painter, QRectF(left - 2, y + LOOK.px(1), LOOK.px(15), LOOK.px(15)), kept.state)
        _line(painter, left + LOOK.px(18), y + LOOK.px(13), room - LOOK.px(18), kept.step, 14, "ink")
    when = touched(card.touched)
    due = kept.due_on(date.today().isoformat()) if kept is not None else ""
    if kept is not None and due:
        words = say(tr("due: {what}, since {day}", what=Name(due), day=Name(kept.due[:10])))
        _line(painter, left, y + LOOK.px(33), room, words, 12, "look")
        return
    _line(painter, left, y + LOOK.px(33), room, say(tr("{when}  ·  archived", when=when) if card.archived else when), 12, "soft")


def _line(
    painter: QPainter, x: int, y: int, room: int, words: str, size: float, colour: str, weight: QFont.Weight = QFont.Weight.Normal
) -> None:
    painter.setFont(LOOK.font(size, weight))
    painter.setPen(LOOK.colour(colour))
    painter.drawText(x, y, painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room))


@lru_cache(maxsize=150)
def _picture(packed: bytes, wide: int, high: int, fineness: float, _colours: Colours) -> QPixmap:
    """A kept picture painted once for a size and a look."""
    return unpacked(packed).pixmap(wide, high, fineness)


def touched(stamp: str) -> Phrase:
    """When a job was last changed, in the desktop's own time: today and yesterday by the clock, earlier by the day."""
    try:
        when = datetime.fromisoformat(stamp).replace(tzinfo=UTC).astimezone()
    except ValueError:
        return tr("at a time unknown")
    today = datetime.now(UTC).astimezone().date()
    clock = Name(f"{when.hour}:{when.minute:02d}")
    if when.date() == today:
        return tr("today {time}", time=clock)
    if when.date() == today - timedelta(days=1):
        return tr("yesterday {time}", time=clock)
    return tr("on {day}", day=Name(when.date().isoformat()))
