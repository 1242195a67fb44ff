"""A layout that puts widgets beside one another and goes on in the next row where the room ends."""

from PySide6.QtCore import QPoint, QRect, QSize
from PySide6.QtWidgets import QLayout, QSizePolicy, QVBoxLayout, QWidget
from shiboken6 import isValid


class Held(QVBoxLayout):
    """A layout of widgets that says in `_place` where they are, and is as high as that takes at a width.

    The toolkit keeps its items: what Python would keep of them can outlive them, and be taken for others that come to lie at the same address.
    """

    def __init__(self) -> None:
        super().__init__()
        self.put: list[QWidget] = []
        self.high: dict[int, int] = {}
        self.small: QSize | None = None
        self.lies: QRect | None = None
        self.setContentsMargins(0, 0, 0, 0)

    def addWidget(self, widget: QWidget) -> None:  # type: ignore[override]  # nothing is stretched or aligned here
        super().addWidget(widget)
        self.put = [other for other in self.put if other is not widget]  # one that is put in again stands where it is put now
        self.put.append(widget)

    @property
    def shown(self) -> list[QWidget]:
        """The widgets that are in it and not hidden."""
        self.put = [widget for widget in self.put if isValid(widget) and self.indexOf(widget) >= 0]
        return [widget for widget in self.put if not widget.isHidden()]

    def hasHeightForWidth(self) -> bool:
        return True

    def invalidate(self) -> None:
        """Something in it wants another size: what was reckoned no longer holds. The toolkit asks for the same several times each time it lays out."""
        self.high.clear()
        self.small = self.lies = None
        super().invalidate()

    def heightForWidth(self, width: int) -> int:
        if width not in self.high:
            self.high[width] = self._place(QRect(0, 0, width, 0), moving=False)
        return self.high[width]

    def minimumHeightForWidth(self, width: int) -> int:
        return self.heightForWidth(width)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        if self.small is None:
            sizes = [least(widget) for widget in self.shown]
            self.small = QSize(max((s.width() for s in sizes), default=0), max((s.height() for s in sizes), default=0))
        return self.small

    def setGeometry(self, rect: QRect) -> None:
        if rect != self.lies:
            QLayout.setGeometry(self, rect)
            self._place(rect, moving=True)
            self.lies = QRect(rect)

    def _place(self, rect: QRect, *, moving: bool) -> int:
        """Place everything (or only reckon); the height that was needed."""
        raise NotImplementedError


def least(widget: QWidget) -> QSize:
    """As small as a widget can be."""
    policy, hint, most = widget.sizePolicy(), widget.sizeHint(), widget.minimumSizeHint()
    shrinks = QSizePolicy.PolicyFlag.ShrinkFlag.value
    wide = most.width() if policy.horizontalPolicy().value & shrinks else max(hint.width(), most.width())
    high = most.height() if policy.verticalPolicy().value & shrinks else max(hint.height(), most.height())
    return QSize(max(wide, 0), max(high, 0)).boundedTo(widget.maximumSize()).expandedTo(widget.minimumSize())


def liked(widget: QWidget) -> QSize:
    """As large as a widget likes to be."""
    return widget.sizeHint().expandedTo(widget.minimumSizeHint()).boundedTo(widget.maximumSize()).expandedTo(widget.minimumSize())


class Flow(Held):
    """Rows of widgets; `even` makes all of a row equally wide."""

    def __init__(self, *, gap: int = 8, even: bool = False) -> None:
        super().__init__()
        self.gap, self.even = gap, even

    def _place(self, rect: QRect, *, moving: bool) -> int:
        rows: list[list[QWidget]] = [[]]
        used, shown = 0, self.shown
        for item in shown:
            wide = least(item).width() if self.even else liked(item).width()
            if rows[-1] and used + wide > rect.width():
                rows.append([])
                used = 0
            rows[-1].append(item)
            used += wide + self.gap
        across = max((len(row) for row in rows), default=1)
        y = rect.y()
        for row in rows:
            x, high = rect.x(), max((liked(item).height() for item in row), default=0)
            for item in row:
                wide = (rect.width() - self.gap * (across - 1)) // across if self.even else min(liked(item).width(), rect.width())
                if moving:
                    item.setGeometry(QRect(QPoint(x, y), QSize(wide, high)))
                x += wide + self.gap
            y += high + self.gap
        return y - rect.y() - (self.gap if shown else 0)


def flow(*widgets: QWidget, gap: int = 8) -> Flow:
    """Widgets beside one another, in as many rows as they need."""
    made = Flow(gap=gap)
    for widget in widgets:
        made.addWidget(widget)
    return made
