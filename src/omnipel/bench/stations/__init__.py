"""The stations along the bench: one registry line each. They are made when they are first shown; rail, keys, menu and help follow."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING, Any, Final, Protocol

from omnipel.core.words.phrases import Name, Phrase, tr

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from omnipel.bench.session import Session
    from omnipel.core.words.refs import Ref


class AtBench(Protocol):
    """What the bench may ask of a station; it is a widget, too."""

    def enter(self) -> None:
        """A person has come to it."""

    def refresh(self) -> None:
        """The job changed."""

    def go_to(self, ref: Ref) -> None:
        """Show the place that a reference means."""

    @property
    def walks(self) -> Sequence[QWidget]:
        """Its parts in the order in which Tab walks them, that of the work; none: as they were made."""

    def field_words(self) -> Mapping[Ref, Phrase]:
        """What can be gone to here, by its reference."""


@dataclass(frozen=True, slots=True)
class Station:
    """A station.

    Args:
        words: its name on the rail.
        about: what is done there, in a sentence or two.
        made: makes its widget for a session. What it imports is loaded when the station is first shown, or in a pause before.
        module: what it imports.
    """

    words: Phrase
    about: Phrase
    made: Callable[[Session], Any]
    module: str = ""


def _of(module: str, name: str) -> tuple[Callable[[Session], Any], str]:
    """A station of ours: its module loads numbers, geometry and pictures that the first window does without."""
    whole = f"omnipel.bench.stations.{module}.station"
    return lambda session: getattr(import_module(whole), name)(session), whole


STATIONS: Final[dict[str, Station]] = {
    "object": Station(
        tr("Object"),
        tr("Say what the thing is and what sticks out; the sketch takes shape as you choose."),
        *_of("object", "ObjectStation"),
    ),
    "tape": Station(
        tr("Tape"),
        tr(
            "Take one reading after the other; repeat what matters. Lengths are written as on paper: {examples}.",
            examples=Name("12 5/8, 3'4 1/2, 31.8cm, 2x14 3/8, girth/2, 31*pi"),
        ),
        *_of("tape", "TapeStation"),
    ),
    "cover": Station(
        tr("Cover"),
        tr("Decide how the cover is cut, how much larger it is, and how its edges are finished."),
        *_of("cover", "CoverStation"),
    ),
    "panels": Station(
        tr("Panels"),
        tr("What is to be cut, and both sides of every seam. Point at a number to see its sum; click an edge to see its seam."),
        *_of("panels", "PanelsStation"),
    ),
    "cloth": Station(
        tr("Cloth"),
        tr("How the panels lie on their cloth, what is to be bought, and which small change saves some of it."),
        *_of("cloth", "ClothStation"),
    ),
    "sew": Station(
        tr("Sew"),
        tr("One step at a time, in an order that works: its picture, what to set and to mind, the clock. Space: done, next."),
        *_of("sew", "SewStation"),
    ),
    "fit": Station(
        tr("Fit"),
        tr(
            "Try it on, write down what it came out as and how it went on: why, what can be done, and what the next one does better."
        ),
        *_of("fit", "FitStation"),
    ),
}
"""In the order of the rail; their keys are Ctrl+1, Ctrl+2, …"""
