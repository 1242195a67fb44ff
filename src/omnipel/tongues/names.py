"""Names that are made of names: *padding wall*, *gore 3 of 8*, *flap of chute*. No catalogue can list them all; it lists how they are made."""

from __future__ import annotations

import gettext
import re
from functools import cached_property
from typing import Final

CONTEXT: Final = "name"
"""Under which the ways stand in a catalogue."""

WAYS: Final = (
    "{a}, {n} of {m}",
    "{a} {n} of {m}",
    "{a}, part {n}",
    "{a}, left part",
    "{a}, right part",
    "close the {a}",
    "close {a}",
    "padding {a}",
    "lining {a}",
    "patch of {a}",
    "flap of {a}",
    "template of {a}",
    "place of {a}",
    "piecing of {a}",
    "division {n} of {a}",
    "{a} to {b}",
    "{a} finished length",
    "{a} finished width",
    "{a} finished height",
    "{a} sew length",
    "{a} sew radius",
    "{a} ungathered",
    "{a} lower arc",
    "{a} upper arc",
    "{a} slant",
    "{a} {n}",
    "{a}, {b}",
)
"""How the core makes names, the narrower ways first; a letter n or m stands for a number, others for a name."""


def _read(way: str) -> re.Pattern[str]:
    """What a name of that way looks like."""
    parts = re.split(r"\{(\w)\}", way)
    return re.compile("".join(re.escape(part) if i % 2 == 0 else f"(?P<{part}>{_slot(part)})" for i, part in enumerate(parts)))


def _slot(letter: str) -> str:
    return r"\d+" if letter in "nm" else r".+"


READ: Final = tuple((way, _read(way)) for way in WAYS)


class Composed(gettext.NullTranslations):
    """What a catalogue falls back on: names put together from those it knows. A person's own words in them stay as they are."""

    def __init__(self, known: gettext.GNUTranslations) -> None:
        super().__init__()
        self.known = known

    @cached_property
    def ways(self) -> tuple[tuple[re.Pattern[str], str], ...]:
        """Each way's pattern, and how this language makes such a name."""
        return tuple((pattern, self.known.pgettext(CONTEXT, way)) for way, pattern in READ)

    def gettext(self, message: str) -> str:
        """The name in this language; the message itself where it is made in none of these ways, or has fields to be filled."""
        if re.search(r"(?<!\{)\{(?!\{)", message):
            return message
        for pattern, way in self.ways:
            if found := pattern.fullmatch(message):
                return way.format_map({letter: self.known.gettext(part) for letter, part in found.groupdict().items()})
        return message

    def pgettext(self, context: str, message: str) -> str:
        """The way itself where a catalogue says none."""
        return message
