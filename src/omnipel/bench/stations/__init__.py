"""The stations along the bench: one registry line each. They are made when they are first shown; rail, keys, menu and help follow."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING, Final

from omnipel.core.words.phrases import Name, Phrase, tr

if TYPE_CHECKING:
    from omnipel.bench.session import Session
    from omnipel.bench.stations.atbench import AtBench


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
    made: Callable[[Session], AtBench]
    module: str = ""


def _of(module: str, name: str) -> tuple[Callable[[Session], AtBench], str]:
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
