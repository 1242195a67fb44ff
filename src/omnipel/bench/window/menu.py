"""The menu: every command that can be run now; what is written seldom stands in groups of its own."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu

from omnipel.bench.commands.desk import Desk
from omnipel.bench.commands.registry import later
from omnipel.bench.speech import say
from omnipel.core.words.phrases import tr
from omnipel.shop.store import Card

RECENT: Final = 8
"""So many jobs stand in the menu."""


def menu_of(desk: Desk) -> QMenu:
    """The menu, to be shown; it goes when it is closed."""
    menu = QMenu(desk.widget)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    groups: dict[str, QMenu] = {}
    recent = menu.addMenu(say(tr("Recent jobs")))
    for card in _recent(desk):
        action = recent.addAction(card.name.replace("&", "&&"))
        action.triggered.connect(lambda _checked=False, key=card.id: later("goto:open_at_next")(desk, key))
    recent.setEnabled(not recent.isEmpty())
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


def _recent(desk: Desk) -> list[Card]:
    """The jobs that were touched last, without the open one."""
    return [card for card in desk.session.store.cards() if card.id != desk.session.key][:RECENT]
