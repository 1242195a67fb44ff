"""Cards that are made anew after each change: whoever works by keys stays in the field where they were."""

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QWidget


@contextmanager
def same_focus(holder: QWidget) -> Iterator[None]:
    """What is in the holder is made anew meanwhile; the field that had the focus is known again by its name."""
    before = QApplication.focusWidget()
    name = before.accessibleName() if before is not None and holder.isAncestorOf(before) else ""
    yield
    if name:
        found = [widget for widget in holder.findChildren(QWidget) if widget.accessibleName() == name]
        if found:
            QTimer.singleShot(0, found[-1], found[-1].setFocus)  # once it is shown; what is taken away comes first
