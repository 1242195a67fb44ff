"""The keyboard stays where it was while fields are made anew."""

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QWidget
from shiboken6 import isValid


class _Going:
    """The field that gets the focus back as soon as it is shown: until then it counts as the one that has it."""

    to: QWidget | None = None


@contextmanager
def same_focus(holder: QWidget) -> Iterator[None]:
    """What is in the holder is made anew meanwhile; the field that had the focus is known again by its name, and its place among those of that name.

    When a field that has the focus is taken away, Qt gives it to another, which may be in a holder that is made anew next: it is not that one's to keep.
    """
    focused = _Going.to if _Going.to is not None and isValid(_Going.to) else QApplication.focusWidget()
    name = focused.accessibleName() if focused is not None and holder.isAncestorOf(focused) else ""
    before = _called(holder, name)
    yield
    made = [widget for widget in _called(holder, name) if widget not in before]
    if focused in before and made:
        _Going.to = made[min(before.index(focused), len(made) - 1)]
        QTimer.singleShot(0, _Going.to, _arrive)


def _arrive() -> None:
    if _Going.to is not None and isValid(_Going.to):
        _Going.to.setFocus()
    _Going.to = None


def _called(holder: QWidget, name: str) -> list[QWidget]:
    """The widgets of a name, in the order in which they were made."""
    return [widget for widget in holder.findChildren(QWidget) if widget.accessibleName() == name] if name else []
