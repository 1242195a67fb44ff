"""The menu: every command; greyed where it cannot be run now; in groups, so that it is seen at one glance."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu

from omnipel.bench.commands.desk import Desk
from omnipel.bench.commands.registry import later
from omnipel.bench.speech import say
from omnipel.core.words.phrases import tr

RECENT: Final = 8
"""So many jobs stand in the menu."""


def menu_of(desk: Desk) -> QMenu:
    """The menu, to be shown; it goes when it is closed."""
    menu = QMenu(desk.widget)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    groups: dict[str, QMenu] = {}
    for command in desk.commands:
        group = say(command.group)
        if command.apart and group not in groups:
            menu.addSeparator()
        if group and group not in groups:
            groups[group] = menu.addMenu(group)
        words = say(command.inside) or say(command.words)
        action = (groups[group] if group else menu).addAction(f"{words}\t{command.keys}")
        action.triggered.connect(lambda _checked=False, c=command: c.run(desk))
        action.setEnabled(command.when(desk))
        if command.id == "new":
            _recent(desk, menu)
    for inner in groups.values():
        inner.setEnabled(any(action.isEnabled() for action in inner.actions()))
    return menu


def _recent(desk: Desk, menu: QMenu) -> None:
    """The jobs that were touched last, without the open one."""
    recent = menu.addMenu(say(tr("Recent jobs")))
    for card in [card for card in desk.session.store.cards() if card.id != desk.session.key][:RECENT]:
        action = recent.addAction(card.name.replace("&", "&&"))
        action.triggered.connect(lambda _checked=False, key=card.id: later("goto:open_at_next")(desk, key))
    recent.setEnabled(not recent.isEmpty())
