"""The menu: every command that can be run now; what is written seldom stands in groups of its own."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu

from omnipel.bench.commands.desk import Desk
from omnipel.bench.speech import say


def menu_of(desk: Desk) -> QMenu:
    """The menu, to be shown; it goes when it is closed."""
    menu = QMenu(desk.widget)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    groups: dict[str, QMenu] = {}
    for command in desk.commands:
        group = say(command.group)
        if group and group not in groups:
            groups[group] = menu.addMenu(group)
        action = (groups[group] if group else menu).addAction(f"{say(command.words)}\t{command.keys}")
        action.triggered.connect(lambda _checked=False, c=command: c.run(desk))
        action.setEnabled(command.when(desk))
    for inner in groups.values():
        inner.setEnabled(any(action.isEnabled() for action in inner.actions()))
    return menu
