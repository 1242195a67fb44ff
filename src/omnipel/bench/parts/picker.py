"""Lists to pick one thing from."""

from collections.abc import Callable, Iterable
from enum import StrEnum
from typing import Any

from PySide6.QtCore import QSize
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QComboBox, QStyle, QStyleOptionComboBox

from omnipel.bench.parts.look import LOOK
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Value, term


class Picker(QComboBox):
    """A list to pick from. Keeps its values itself, because Qt turns an enum into plain text.

    The mouse wheel does not change it by accident while the page is scrolled.
    """

    def __init__(self, picks: list[tuple[str, object]]) -> None:
        super().__init__()
        self.values = [value for _, value in picks]
        self.addItems([words for words, _ in picks])
        self.currentIndexChanged.connect(self.updateGeometry)

    @property
    def value(self) -> Any:
        """What is picked."""
        return self.values[self.currentIndex()]

    def show_value(self, value: object) -> None:
        """Show a value without picking it."""
        self.setCurrentIndex(self.values.index(value) if value in self.values else -1)

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()

    def minimumSizeHint(self) -> QSize:
        """Room for what is picked: what else could be, and is longer, does not widen the page."""
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        size = QSize(self.fontMetrics().horizontalAdvance(self.currentText()), self.fontMetrics().height())
        wide = self.style().sizeFromContents(QStyle.ContentsType.CT_ComboBox, option, size, self).width()
        return QSize(max(LOOK.px(64), wide), super().minimumSizeHint().height())


def combo(words: Value, picks: Iterable[tuple[Value, object]], picked: Callable[..., object]) -> Picker:
    """A list to pick one thing from; `picks` are pairs of words and value."""
    made = Picker([(say(shown), value) for shown, value in picks])
    made.setAccessibleName(say(words))
    made.setAccessibleDescription(say(words))  # here the toolkit tells what is picked as the name
    made.activated.connect(lambda i: picked(made.values[i]))
    return made


def of_enum(values: Iterable[StrEnum]) -> list[tuple[Value, object]]:
    """The values of a choice with their own words."""
    return [(term(value), value) for value in values]
