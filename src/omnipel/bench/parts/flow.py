"""A layout that puts widgets beside one another and goes on in the next row where the room ends."""

from PySide6.QtCore import QPoint, QRect, QSize
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget


class Held(QLayout):
    """A layout that keeps its items itself and is as high as their places at a width need: what follows says in `_place` where they are."""

    def __init__(self) -> None:
        super().__init__()
        self.items: list[QLayoutItem] = []
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem) -> None:
        self.items.append(item)

    def count(self) -> int:
        return len(self.items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self.items[index] if 0 <= index < len(self.items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self.items.pop(index) if 0 <= index < len(self.items) else None

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._place(QRect(0, 0, width, 0), moving=False)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        sizes = [item.minimumSize() for item in self.items]
        return QSize(max((s.width() for s in sizes), default=0), max((s.height() for s in sizes), default=0))

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._place(rect, moving=True)

    def _place(self, rect: QRect, *, moving: bool) -> int:
        """Place everything (or only reckon); the height that was needed."""
        raise NotImplementedError


class Flow(Held):
    """Rows of widgets; `even` makes all of a row equally wide."""

    def __init__(self, *, gap: int = 8, even: bool = False) -> None:
        super().__init__()
        self.gap, self.even = gap, even

    def _place(self, rect: QRect, *, moving: bool) -> int:
        rows: list[list[QLayoutItem]] = [[]]
        used = 0
        for item in self.items:
            wide = item.minimumSize().width() if self.even else item.sizeHint().width()
            if rows[-1] and used + wide > rect.width():
                rows.append([])
                used = 0
            rows[-1].append(item)
            used += wide + self.gap
        across = max((len(row) for row in rows), default=1)
        y = rect.y()
        for row in rows:
            x, high = rect.x(), max((item.sizeHint().height() for item in row), default=0)
            for item in row:
                wide = (
                    (rect.width() - self.gap * (across - 1)) // across
                    if self.even
                    else min(item.sizeHint().width(), rect.width())
                )
                if moving:
                    item.setGeometry(QRect(QPoint(x, y), QSize(wide, high)))
                x += wide + self.gap
            y += high + self.gap
        return y - rect.y() - (self.gap if self.items else 0)


def flow(*widgets: QWidget, gap: int = 8) -> Flow:
    """Widgets beside one another, in as many rows as they need."""
    made = Flow(gap=gap)
    for widget in widgets:
        made.addWidget(widget)
    return made
