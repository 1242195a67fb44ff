"""The shelf's cards: a model of what the shop says, and a view that paints what is seen of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import UTC, datetime, timedelta
from functools import lru_cache

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, QPoint, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QFont, QKeyEvent, QPainter, QPen, QResizeEvent
from PySide6.QtWidgets import QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.strokes import Thumbnail, unpacked
from omnipel.bench.parts.widgets import paint_state
from omnipel.bench.speech import say
from omnipel.core.job.state import State
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.shop.store import Card, Kept

Index = QModelIndex | QPersistentModelIndex
NO_INDEX = QModelIndex()
GAP = 12
HIGH = 232


class Cards(QAbstractListModel):
    """The jobs that are shown, in their order. `asked` is told of a card that is painted without its state being known."""

    def __init__(self, asked: Callable[[Card], object]) -> None:
        super().__init__()
        self.cards: list[Card] = []
        self.rows: dict[int, int] = {}
        self.kept: dict[tuple[int, int], Kept] = {}
        self.asked = asked

    def show(self, cards: Iterable[Card]) -> None:
        """Show these."""
        self.beginResetModel()
        self.cards = list(cards)
        self.rows = {card.id: row for row, card in enumerate(self.cards)}
        self.endResetModel()

    def kept_of(self, card: Card) -> Kept | None:
        """How a job stands; asked for when it is not known."""
        found = self.kept.get((card.id, card.revision))
        if found is None:
            self.asked(card)
        return found or card.kept

    def keep(self, card: Card, kept: Kept) -> None:
        """A job's state has become known."""
        self.kept[(card.id, card.revision)] = kept
        row = self.rows.get(card.id)
        if row is not None:
            self.dataChanged.emit(self.index(row), self.index(row))

    def rowCount(self, parent: Index = NO_INDEX) -> int:
        return 0 if parent.isValid() else len(self.cards)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid():
            return None
        card = self.cards[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return card.name
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            kept = self.kept.get((card.id, card.revision)) or card.kept
            state = f"{say(State(kept.state).words)}: {kept.step}" if kept is not None else ""
            return ", ".join(part for part in (card.name, card.owner, card.place, state) if part)
        return None


class CardView(QListView):
    """The cards side by side. Enter or a click opens one, the menu key or the right button asks what to do with it."""

    opened = Signal(int)
    asked = Signal(int, QPoint)

    def __init__(self, model: Cards) -> None:
        super().__init__()
        self.model_ = model
        self.setAccessibleName(say(tr("Jobs")))
        self.setModel(model)
        self.setItemDelegate(CardDelegate(self))
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setMovement(QListView.Movement.Static)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setUniformItemSizes(True)
        self.setWordWrap(False)
        self.setSelectionMode(QListView.SelectionMode.SingleSelection)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QListView.Shape.NoFrame)
        self.setObjectName("shelf")
        self.setMouseTracking(True)
        self.viewport().setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda index: self.opened.emit(self.model_.cards[index.row()].id))

    def columns(self) -> int:
        """How many cards stand beside one another."""
        return max(1, (self.viewport().width() - 2) // (LOOK.px(250) + GAP))

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.rescale()
        super().resizeEvent(event)

    def rescale(self) -> None:
        """Share the width out."""
        self.setGridSize(QSize((self.viewport().width() - 2) // self.columns(), LOOK.px(HIGH) + GAP))
        self.verticalScrollBar().setSingleStep(LOOK.px(60))

    @property
    def current(self) -> Card | None:
        """The card that has the focus."""
        index = self.currentIndex()
        return self.model_.cards[index.row()] if index.isValid() else None

    def show_card(self, key: int | None) -> None:
        """Put the focus on a job's card, or on the first; scroll no further than that takes."""
        if self.model_.cards:
            self.setCurrentIndex(self.model_.index(self.model_.rows.get(key, 0) if key is not None else 0))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        card = self.current
        if card is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.opened.emit(card.id)
        elif card is not None and event.key() == Qt.Key.Key_Menu:
            self._ask(card, self.visualRect(self.currentIndex()).center())
        elif event.key() in (Qt.Key.Key_Right, Qt.Key.Key_Left):
            step = 1 if event.key() == Qt.Key.Key_Right else -1  # on to the next row, as one reads
            row = min(max(self.currentIndex().row() + step, 0), len(self.model_.cards) - 1)
            self.setCurrentIndex(self.model_.index(row))
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        index = self.indexAt(event.pos())
        if index.isValid():
            self._ask(self.model_.cards[index.row()], event.pos())

    def _ask(self, card: Card, at: QPoint) -> None:
        self.asked.emit(card.id, self.viewport().mapToGlobal(at))


class CardDelegate(QStyledItemDelegate):
    """Paints a card."""

    def __init__(self, view: CardView) -> None:
        super().__init__(view)
        self.view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return self.view.gridSize()

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        card = self.view.model_.cards[index.row()]
        rect, state = QRect(option.rect), option.state
        focused = bool(state & QStyle.StateFlag.State_HasFocus)
        painter.save()
        painter.translate(rect.topLeft())
        _paint(painter, QSize(rect.width() - GAP, LOOK.px(HIGH)), card, self.view.model_.kept_of(card), focused)
        painter.restore()


def _paint(painter: QPainter, size: QSize, card: Card, kept: Kept | None, focused: bool) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(LOOK.colour("surface"))
    painter.setPen(QPen(LOOK.colour("accent" if focused else "line"), 2.5 if focused else 1.0))
    painter.drawRoundedRect(QRect(1, 1, size.width() - 3, size.height() - 3), 4, 4)
    left, room = LOOK.px(12), size.width() - LOOK.px(24)
    if kept is not None and kept.picture:
        _picture(kept.picture).paint(painter, QRectF(16, 12, size.width() - 32, LOOK.px(104)))
    for_whom = " · ".join(part for part in (card.owner, card.place) if part) or say(tr("for nobody yet"))
    y = LOOK.px(142)
    _line(painter, left, y, room, card.name, 17, "ink", QFont.Weight.DemiBold)
    _line(painter, left, y + LOOK.px(20), room, for_whom, 13, "soft")
    y += LOOK.px(40)
    painter.setPen(LOOK.colour("line"))
    painter.drawLine(left, y - LOOK.px(8), size.width() - left, y - LOOK.px(8))
    if kept is not None:
        paint_state(painter, QRectF(left - 2, y + LOOK.px(1), LOOK.px(15), LOOK.px(15)), kept.state)
        _line(painter, left + LOOK.px(18), y + LOOK.px(13), room - LOOK.px(18), kept.step, 14, "ink")
    when = touched(card.touched)
    _line(painter, left, y + LOOK.px(33), room, say(tr("{when}  ·  archived", when=when) if card.archived else when), 12, "soft")


def _line(
    painter: QPainter, x: int, y: int, room: int, words: str, size: float, colour: str, weight: QFont.Weight = QFont.Weight.Normal
) -> None:
    painter.setFont(LOOK.font(size, weight))
    painter.setPen(LOOK.colour(colour))
    painter.drawText(x, y, painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room))


@lru_cache(maxsize=200)
def _picture(packed: bytes) -> Thumbnail:
    return unpacked(packed)


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
