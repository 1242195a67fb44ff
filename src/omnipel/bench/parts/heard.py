"""What a widget is to those who hear the window instead of seeing it, where its class alone does not say so."""

from __future__ import annotations

from functools import cache
from typing import Any

from PySide6.QtCore import QObject
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAccessibleWidget, QWidget

from omnipel.bench.speech import say
from omnipel.core.words.phrases import Phrase

PICTURE = QAccessible.Role.Graphic
GROUP = QAccessible.Role.Grouping
CHART = QAccessible.Role.Chart


def _interface(_kind: str, widget: QObject | None) -> Any:
    role = getattr(widget, "heard_as", None)
    return QAccessibleWidget(widget, role) if isinstance(widget, QWidget) and role is not None else None


def hear_as(widget: QWidget, role: QAccessible.Role, words: Phrase) -> None:
    """Have a widget heard as what it is here, under a name."""
    setattr(widget, "heard_as", role)  # noqa: B010  (it may be of a class of the toolkit's)
    widget.setAccessibleName(say(words))


@cache  # once for all windows
def tell_roles() -> None:
    """From now on a widget that says what it is `heard_as`, a role of the toolkit's accessibility interface, is heard as that."""
    QAccessible.installFactory(_interface)
