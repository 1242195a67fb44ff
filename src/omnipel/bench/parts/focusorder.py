"""The order in which Tab walks a window: that of the work, whatever order its widgets were made in."""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QGridLayout, QLayout, QScrollArea, QWidget


def walked(window: QWidget, groups: Sequence[QWidget]) -> list[QWidget]:
    """Everything in a window that Tab stops at: by the first of the groups that it is in, in that as it was made; what is in none comes last."""
    found: list[tuple[int, QWidget]] = []
    widget = window.nextInFocusChain()
    while widget is not None and widget is not window:
        stops = widget.focusPolicy().value & Qt.FocusPolicy.TabFocus.value
        if stops and widget.focusProxy() is None and widget.isEnabled() and widget.isVisible() and widget.window() is window:
            rank = next((k for k, group in enumerate(groups) if group is widget or group.isAncestorOf(widget)), len(groups))
            found.append((rank, widget))
        widget = widget.nextInFocusChain()
    return [one for _, one in sorted(found, key=lambda each: each[0])]


def step(window: QWidget, groups: Sequence[QWidget], *, on: bool) -> bool:
    """Give the focus to what comes next, or before; False where nothing has it that Tab stops at."""
    order, here = walked(window, groups), QApplication.focusWidget()
    if here not in order:
        return False
    there = order[(order.index(here) + (1 if on else -1)) % len(order)]
    there.setFocus(Qt.FocusReason.TabFocusReason if on else Qt.FocusReason.BacktabFocusReason)
    above = there.parentWidget()
    while above is not None:
        if isinstance(above, QScrollArea):
            above.ensureWidgetVisible(there)
        above = above.parentWidget()
    return True


def as_laid(layout: QLayout) -> None:
    """Have Tab walk what is in a layout as it lies there, whenever it was put there."""
    for one, other in pairwise(_stops(layout)):
        QWidget.setTabOrder(one, other)


def _stops(layout: QLayout) -> Iterator[QWidget]:
    """What Tab stops at in a layout, row by row."""
    places = list(range(layout.count()))
    if isinstance(layout, QGridLayout):
        places.sort(key=lambda i: layout.getItemPosition(i)[:2])  # type: ignore[index]
    for i in places:
        item = layout.itemAt(i)
        widget = item.widget() if item is not None else None
        inner = widget.layout() if widget is not None else item.layout() if item is not None else None
        if inner is not None:
            yield from _stops(inner)
        elif widget is not None and widget.focusPolicy().value & Qt.FocusPolicy.TabFocus.value:
            yield widget
