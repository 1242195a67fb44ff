"""Rows of a form: a name and its field beside one another, or the field below its name where there is no room for both.

What goes where follows from the width alone, so that a form stands the same however it came to its width.
"""

from PySide6.QtCore import QRect, Qt
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Held, least, liked

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
        if len(self.shown) < 2:
            return 0
        name, field = self.shown
        left = int(rect.width() * SHARE)
        right = rect.width() - left - GAP
        if liked(field).width() <= right and least(name).width() <= left:
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


def _height(widget: QWidget, width: int) -> int:
    """How high a widget is at a width."""
    return widget.heightForWidth(width) if widget.hasHeightForWidth() else liked(widget).height()


def _stop(field: QWidget) -> QWidget:
    """What of a field takes the keys: itself, or the first of the fields it is put together from."""
    while (proxy := field.focusProxy()) is not None:
        field = proxy
    if field.focusPolicy() is not Qt.FocusPolicy.NoFocus:
        return field
    within = field.findChildren(QWidget)
    return next((one for one in within if one.focusPolicy().value & Qt.FocusPolicy.TabFocus.value), field)


def with_key(words: str, taken: set[str]) -> str:
    """Words with the letter marked that leads to their field with Alt: the first of a word that is not taken, else any; as they are where none is left."""
    plain = words.replace("&", "&&")
    starts = [i for i in range(len(plain)) if i == 0 or plain[i - 1] == " "]
    for i in (*starts, *range(len(plain))):
        letter = plain[i].lower()
        if letter.isascii() and letter.isalpha() and letter not in taken:
            taken.add(letter)
            return f"{plain[:i]}&{plain[i:]}"
    return plain


class Rows(QVBoxLayout):
    """The rows below one another; a letter of each name leads to its field."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.holders: dict[QWidget, QWidget] = {}
        self.taken: set[str] = set()

    def add_row(self, name: QLabel, field: QWidget) -> None:
        """A name and its field."""
        name.setBuddy(_stop(field))
        name.setText(with_key(name.text(), self.taken))
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
        self.taken.clear()
        while (item := self.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
