"""What the Cloth station asks: which cloth, what the stash has, which other jobs are cut on the same day."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from omnipel.bench.session import Session
from omnipel.core.words.phrases import tr


def ask_cloth(parent: QWidget, session: Session, layer: str) -> None:
    """Choose the cloth of a layer."""
    session.say("note", tr("not yet"))


def ask_stash(parent: QWidget, session: Session, layer: str) -> None:
    """What the stash has."""
    session.say("note", tr("not yet"))


def ask_day(parent: QWidget, session: Session, layer: str) -> None:
    """Lay with other jobs."""
    session.say("note", tr("not yet"))
