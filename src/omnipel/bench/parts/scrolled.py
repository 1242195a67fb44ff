"""A page that scrolls up and down."""

from PySide6.QtCore import QEvent, QObject, QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QScrollArea, QWidget

BESIDE = 5
"""Between what is in a page and its scroll bar, px."""


class Scrolled(QScrollArea):
    """A page that scrolls up and down; `whole` shows all of it instead, as a part of a longer page."""

    def __init__(self, inner: QWidget) -> None:
        super().__init__()
        self.whole, self.inner = False, inner
        self.setWidget(inner)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.verticalScrollBar().installEventFilter(self)

    def _keep_room(self) -> None:
        """What is in it is as wide with a scroll bar as without: else a page that just fits could stand there either way."""
        bar = self.verticalScrollBar()
        kept = 0 if self.whole else BESIDE + (bar.sizeHint().width() if bar.isHidden() else 0)
        if kept != self.viewportMargins().right():
            self.setViewportMargins(0, 0, kept, 0)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._keep_room()

    def show_whole(self, yes: bool) -> None:
        """All of it, or as much as there is room for."""
        if yes != self.whole:
            self.whole = yes
            policy = Qt.ScrollBarPolicy.ScrollBarAlwaysOff if yes else Qt.ScrollBarPolicy.ScrollBarAsNeeded
            self.setVerticalScrollBarPolicy(policy)
            self._keep_room()
            self.updateGeometry()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self.verticalScrollBar():
            if event.type() in (QEvent.Type.Show, QEvent.Type.Hide):
                self._keep_room()
        elif self.whole and event.type() is QEvent.Type.LayoutRequest:
            self.updateGeometry()
        return super().eventFilter(watched, event)

    def viewportEvent(self, event: QEvent) -> bool:
        if self.whole and event.type() is QEvent.Type.LayoutRequest:  # of a page without a layout of its own
            self.updateGeometry()
        return super().viewportEvent(event)

    def hasHeightForWidth(self) -> bool:
        return self.whole

    def heightForWidth(self, width: int) -> int:
        inner = self.inner
        wanted = inner.heightForWidth(width) if inner.hasHeightForWidth() else -1
        return max(wanted, inner.minimumSizeHint().height(), inner.minimumHeight())

    def minimumSizeHint(self) -> QSize:
        if not self.whole:
            narrowest = self.inner.minimumSizeHint().width() + BESIDE + self.verticalScrollBar().sizeHint().width()
            return super().minimumSizeHint().expandedTo(QSize(narrowest, 0))
        return QSize(self.inner.minimumSizeHint().width(), self.heightForWidth(self.width()))

    def sizeHint(self) -> QSize:
        return self.minimumSizeHint() if self.whole else super().sizeHint()


class Roomed(QWidget):
    """What arranges itself for the room that is left for it."""

    def stand_in(self, wide: int, high: int) -> None:
        """Take the room that is left, px."""
        raise NotImplementedError


class RoomedPage(Scrolled):
    """A page that is told how much of it can be seen; it scrolls where that is not enough."""

    inner: Roomed

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.inner.stand_in(self.viewport().width(), self.height())

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() is QEvent.Type.StyleChange and self.widget() is not None:  # the text may be larger, and the page as large
            self.inner.stand_in(self.viewport().width(), self.height())
