"""What commands and dialogs may ask of the window, and what a command is. They know this desk, not the window."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from PySide6.QtWidgets import QWidget

from omnipel.bench.session import Session
from omnipel.core.words.phrases import NOTHING, Phrase
from omnipel.core.words.refs import Ref


class Desk(Protocol):
    """The bench as those see it who act on it.

    Args:
        session: the open shop and job.
        here: the key of the station that is shown.
        commands: everything a person can do.
    """

    session: Session
    here: str
    commands: Sequence[Command]

    @property
    def widget(self) -> QWidget:
        """What dialogs stand before."""

    def show_station(self, key: str) -> None:
        """Walk to a station."""

    def station(self, key: str) -> Any:
        """A station, made when it is first asked for."""

    def go_to(self, ref: Ref) -> None:
        """Show the place of the job that a reference means."""

    def run_command(self, key: str) -> None:
        """Run a command by its id."""

    def open_anew(self) -> None:
        """Close the window and open another at the same place."""

    def restyle(self) -> None:
        """The look changed: measure and paint everything again."""


@dataclass(frozen=True, slots=True)
class Command:
    """Something a person can do.

    Args:
        id: stable name.
        words: what it says in go-to, and in the menu itself.
        keys: its key sequence, "" for none.
        when: whether it can be done now.
        run: do it.
        group: under what it stands in the menu; nothing where it stands there itself.
        inside: what it says within its group, which has said the rest; nothing for the same.
        apart: whether a line parts it, or its group, from what stands above it.
    """

    id: str
    words: Phrase
    keys: str
    when: Callable[[Desk], bool]
    run: Callable[[Desk], object]
    group: Phrase = NOTHING
    inside: Phrase = NOTHING
    apart: bool = False
