"""Telling those who listen what has changed without their asking."""

from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QWidget


def announce(widget: QWidget, words: str, *, now: bool = False) -> None:
    """Let a screen reader say something; `now` interrupts what it is saying."""
    if not words or not QAccessible.isActive():
        return
    event = QAccessibleAnnouncementEvent(widget, words)
    event.setPoliteness(QAccessible.AnnouncementPoliteness.Assertive if now else QAccessible.AnnouncementPoliteness.Polite)
    QAccessible.updateAccessibility(event)
