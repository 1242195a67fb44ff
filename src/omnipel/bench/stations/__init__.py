"""The stations along the bench: one registry line each. They are made when they are first shown."""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any, Final

if TYPE_CHECKING:
    from omnipel.bench.session import Session

STATIONS: Final = {
    "object": "object:ObjectStation",
    "tape": "tape:TapeStation",
    "cover": "cover:CoverStation",
    "panels": "panels:PanelsStation",
}
"""Key of a station → its module and class."""


def made(key: str, session: Session) -> Any:
    """A station, made now: its module loads numbers, geometry and pictures that the first window does without."""
    module, _, name = STATIONS[key].partition(":")
    return getattr(import_module(f"omnipel.bench.stations.{module}.station"), name)(session)
