"""The order in which Tab walks a window: that of the work, whatever order its widgets were made in."""

from collections.abc import Sequence
from typing import Final

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QScrollArea, QWidget

ROW: Final = 8
"""Middles that are no further apart than this in height are in one row, px."""


def walked(window: QWidget, groups: Sequence[QWidget]) -> list[QWidget]:
    """Everything in a window that Tab stops at: by the first of the groups that it is in, in that as it was made, or row by row where the
    group says that it is `row_by_row` (the order that Qt keeps is not rewritten: it does not bear it where widgets are about to go); what is
    in none comes last."""
    found: list[tuple[int, QWidget]] = []
    widget = window.nextInFocusChain()
    while widget is not None and widget is not window:
        stops = widget.focusPolicy().value & Qt.FocusPolicy.TabFocus.value
        if stops and widget.focusProxy() is None and widget.isEnabled() and widget.isVisible() and widget.window() is window:
            rank = next((k for k, group in enumerate(groups) if group is widget or group.isAncestorOf(widget)), len(groups))
            found.append((rank, widget))
        widget = widget.nextInFocusChain()
    made: list[QWidget] = []
    for rank in sorted({rank for rank, _ in found}):
        mine = [one for its, one in found if its == rank]
        by_rows = rank < len(groups) and getattr(groups[rank], "row_by_row", False)
        made += _by_rows(mine, groups[rank]) if by_rows else mine
    return made


def _by_rows(widgets: Sequence[QWidget], group: QWidget) -> list[QWidget]:
    """Widgets of a group from above, those in one row from the left."""
    at = {one: one.mapTo(group, QPoint(0, one.height() // 2)) for one in widgets}
    rows: list[list[QWidget]] = []
    for one in sorted(widgets, key=lambda each: at[each].y()):
        if rows and at[one].y() - at[rows[-1][0]].y() <= ROW:
            rows[-1].append(one)
        else:
            rows.append([one])
    return [one for row in rows for one in sorted(row, key=lambda each: at[each].x())]


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
