"""What the papers of a job consist of, by name, in the order of the booklet. How each is drawn stands in `papers/parts.py`, with the libraries for it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from omnipel.core.words.phrases import Phrase, tr

if TYPE_CHECKING:
    from omnipel.core.draft import Draft


@dataclass(frozen=True, slots=True)
class Part:
    """A part of the papers.

    Args:
        words: what it is called.
        usual: whether it is in the booklet as a rule; None for what never is.
        needs_panels: there must be panels.
        small: whether it is only read, so that it stands on the paper of a home printer.
    """

    words: Phrase
    usual: bool | None = True
    needs_panels: bool = True
    small: bool = True


PARTS: Final[dict[str, Part]] = {
    "title": Part(tr("title page")),
    "readings": Part(tr("readings"), needs_panels=False),
    "sheet": Part(tr("cutting sheet")),
    "marking": Part(tr("marking out")),
    "templates": Part(tr("templates, full size"), usual=False, small=False),
    "lay": Part(tr("lay")),
    "shopping": Part(tr("shopping list")),
    "order": Part(tr("order of work")),
    "told": Part(tr("order of work, told in full"), usual=False),
    "labels": Part(tr("labels to pin on")),
    "tryon": Part(tr("try-on")),
    "care": Part(tr("care label")),
    "logbook": Part(tr("logbook"), usual=False, needs_panels=False),
    "card": Part(tr("tape card"), usual=False, needs_panels=False),
    "allmarking": Part(tr("marking out"), usual=None),
    "pattern": Part(tr("pattern"), usual=None, small=False),
    "tiles": Part(tr("pattern, everything full size"), usual=None, small=False),
}
"""Every part by its name, in the order of the booklet."""
USUAL: Final = tuple(key for key, part in PARTS.items() if part.usual)
"""What is in a booklet as a rule."""
IN_BOOKLET: Final = tuple(key for key, part in PARTS.items() if part.usual is not None)
"""What can be in it."""


def part_words(key: str) -> Phrase:
    """What a part is called."""
    return PARTS[key].words


def possible(key: str, draft: Draft) -> bool:
    """Whether there is what a part needs."""
    return not PARTS[key].needs_panels or bool(draft.panels)
