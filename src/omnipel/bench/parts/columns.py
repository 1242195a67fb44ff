"""Columns that stand beside one another, and below one another on one page that scrolls where the window has no room for that."""

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QScrollArea, QVBoxLayout, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.scrolled import Scrolled

GAP = 16


def station(columns: "Columns") -> QVBoxLayout:
    """The layout of a station: its columns with room around them."""
    layout = QVBoxLayout()
    layout.setContentsMargins(16, 16, 16, 8)
    layout.addWidget(columns)
    return layout


@dataclass(frozen=True)
class Part:
    """A column: how wide it wants to be beside the others (in px at 100 % text), its share of the room, and its turn when below them."""

    widget: QWidget
    wants: int
    share: int = 1
    turn: int = 0


class Columns(QScrollArea):
    """Columns beside one another, `head` above them; below one another where not all of them have the room they want.

    `laid` tells, whenever they may have been laid anew, whether they stand below one another.
    """

    laid = Signal(bool)

    def __init__(self, parts: Sequence[Part], head: QWidget | None = None, *, shares: tuple[int, int] = (0, 1)) -> None:
        super().__init__()
        self.parts = parts
        self.stacked: bool | None = None
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.inner = inner = QWidget()
        self.beside = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self.beside.setSpacing(GAP)
        whole = QVBoxLayout(inner)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(12)
        if head is not None:
            whole.addWidget(head, shares[0])
        whole.addLayout(self.beside, shares[1])
        self.setWidget(inner)
        self._stack(False)

    @property
    def wants(self) -> int:
        """So wide they would be beside one another, px."""
        return sum(LOOK.px(part.wants) for part in self.parts) + GAP * (len(self.parts) - 1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.rescale()
        super().resizeEvent(event)

    def rescale(self) -> None:
        """The window or its text is larger or smaller now."""
        self._stack(self.width() < self.wants)
        self._fit()
        self.laid.emit(self.stacked)

    def lead_to(self, widget: QWidget) -> None:
        """Bring a column to the top, where they stand below one another."""
        if self.stacked:
            self.verticalScrollBar().setValue(widget.mapTo(self.inner, QPoint(0, 0)).y())

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        done = super().eventFilter(watched, event)
        if watched is self.inner and event.type() is QEvent.Type.LayoutRequest:
            self._fit()
        return done

    def _fit(self) -> None:
        """Beside one another they share the window's height; only where that is less than they can do with, the page scrolls."""
        if not self.stacked:
            room = self.viewport().size()
            self.inner.resize(room.width(), max(room.height(), self.inner.minimumSizeHint().height()))

    def _stack(self, stacked: bool) -> None:
        if stacked == self.stacked:
            return
        self.stacked = stacked
        self.setWidgetResizable(stacked)
        ways = QBoxLayout.Direction
        self.beside.setDirection(ways.TopToBottom if stacked else ways.LeftToRight)
        for part in sorted(self.parts, key=lambda p: p.turn) if stacked else self.parts:
            self.beside.removeWidget(part.widget)
            self.beside.addWidget(part.widget, 0 if stacked else part.share)
        for page in self.inner.findChildren(Scrolled):
            page.show_whole(stacked)
        if stacked:
            self.ensureVisible(0, 0)
