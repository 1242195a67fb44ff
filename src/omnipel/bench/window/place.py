"""Where the window stands and how large it is: as it was left, and never larger than the screen. The desktop places it."""

from __future__ import annotations

import json

from PySide6.QtCore import QSize
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QMainWindow

USUAL = QSize(1280, 800)
ANEW = 64
"""How Qt's loop ends where another window is to be opened at once."""
SETTING = "window"


def take_place(window: QMainWindow, kept: str) -> None:
    """Give a window that has not been shown yet the size it was left with, fitted to the screen; maximized when it was."""
    size, whole = USUAL, False
    try:
        wide, high, whole = json.loads(kept or "[]")
        size = QSize(int(wide), int(high)) if 200 < int(wide) < 20_000 and 200 < int(high) < 20_000 else USUAL
    except (ValueError, TypeError):
        pass
    screen = window.screen() or QGuiApplication.primaryScreen()
    if screen is not None:  # room for the frame that the desktop will put around it
        free = screen.availableSize()
        size = size.boundedTo(QSize(max(320, free.width() - 8), max(240, free.height() - 40)))
        window.setMinimumSize(window.minimumSize().boundedTo(size))
    window.resize(size)
    if whole:
        window.showMaximized()


def place_of(window: QMainWindow) -> str:
    """What is kept of a window's size."""
    size = window.normalGeometry().size() if window.isMaximized() else window.size()
    return json.dumps([size.width(), size.height(), window.isMaximized()])
