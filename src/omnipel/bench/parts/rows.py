"""Rows of a form: a name and its field beside one another, or the field below its name where there is no room for both.

What goes where follows from the width alone, so that a form stands the same however it came to its width.
"""

from PySide6.QtCore import QRect
from PySide6.QtWidgets import QLayoutItem, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Held

SHARE = 0.44
"""Names take so much of the width."""
GAP, NEAR = 10, 3
"""Between a name and the field beside it, and below it, px."""


class Pair(Held):
    """A name and its field."""

    def __init__(self, name: QWidget, field: QWidget) -> None:
        super().__init__()
        self.addWidget(name)
        self.addWidget(field)

    def _place(self, rect: QRect, *, moving: bool) -> int:
        if len(self.items) < 2:
            return 0
        name, field = self.items
        left = int(rect.width() * SHARE)
        right = rect.width() - left - GAP
        if field.sizeHint().width() <= right and name.minimumSize().width() <= left:
            high = max(_height(name, left), _height(field, right))
            boxes = QRect(rect.x(), rect.y(), left, high), QRect(rect.x() + left + GAP, rect.y(), right, high)
        else:
            above, below = _height(name, rect.width()), _height(field, rect.width())
            high = above + NEAR + below
            boxes = (
                QRect(rect.x(), rect.y(), rect.width(), above),
                QRect(rect.x(), rect.y() + above + NEAR, rect.width(), below),
            )
        if moving:
            name.setGeometry(boxes[0])
            field.setGeometry(boxes[1])
        return high


def _height(item: QLayoutItem, width: int) -> int:
    """How high an item is at a width."""
    return item.heightForWidth(width) if item.hasHeightForWidth() else item.sizeHint().height()


class Rows(QVBoxLayout):
    """The rows below one another."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.holders: dict[QWidget, QWidget] = {}

    def add_row(self, name: QWidget, field: QWidget) -> None:
        """A name and its field."""
        holder = QWidget()
        holder.setLayout(Pair(name, field))
        self.addWidget(holder)
        self.holders[field] = holder

    def show_row(self, widget: QWidget, yes: bool) -> None:
        """Whether the row of a field, or a widget that is a row by itself, is there."""
        self.holders.get(widget, widget).setVisible(yes)

    def clear(self) -> None:
        """No row is left."""
        self.holders.clear()
        while (item := self.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
