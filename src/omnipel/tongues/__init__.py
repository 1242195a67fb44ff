"""Languages besides English: their catalogues, how they write a number, and which one the person's desktop asks for.

A catalogue is a `*.po` file beside this module, written by translators and compiled by `make messages` to the `*.mo` that is read here.
"""

from __future__ import annotations

import gettext
import os
from collections.abc import Mapping
from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path
from typing import Final

from omnipel.core.words.phrases import ENGLISH, Tongue
from omnipel.tongues.names import Composed

NAMES: Final[Mapping[str, str]] = {"en": "English", "de": "Deutsch"}
"""What each language calls itself, by its code."""
DECIMAL: Final[Mapping[str, str]] = {"de": ","}
"""The decimal signs of those that do not write a point."""
MOST_KEPT: Final = 8192
ASKED: Final = ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG")
"""Where a desktop says which language it speaks; the first that says anything is right."""


class Spoken:
    """A language with a catalogue.

    Args:
        code: its code, as "de".
        decimal: its decimal sign.
    """

    def __init__(self, code: str) -> None:
        self.code, self.decimal = code, DECIMAL.get(code, ".")
        with (files(__name__) / f"{code}.mo").open("rb") as file:
            self._words = gettext.GNUTranslations(file)
        self._words.add_fallback(Composed(self._words))
        self._said = lru_cache(maxsize=MOST_KEPT)(self._words.gettext)  # every redraw asks for the same names again

    def gettext(self, message: str) -> str:
        """The template in this language; a name that is made of names is put together from them."""
        return self._said(message)

    def ngettext(self, one: str, many: str, n: int) -> str:
        """The template for `n` things in this language."""
        return self._words.ngettext(one, many, n)

    def __reduce__(self) -> tuple[object, tuple[str]]:
        return tongue_of, (self.code,)  # a worker reads the catalogue itself, and once


@cache
def tongue_of(code: str) -> Tongue:
    """A language by its code; English where there is no such catalogue.

    >>> from omnipel.core.words.phrases import Voice, mm, tr
    >>> Voice(tongue=tongue_of("de")).say(tr("{edge} of the {panel}", edge=mm(12.5, fine=True), panel=tr("wall")))
    '12,5 mm, Wand'
    """
    return Spoken(code) if code in NAMES and code != "en" else ENGLISH


def of_the_desktop(said: Mapping[str, str] | None = None) -> str:
    """The code of the language that the person's desktop asks for, as far as there is a catalogue.

    >>> of_the_desktop({"LANG": "de_AT.UTF-8"}), of_the_desktop({"LANG": "C"}), of_the_desktop({"LANGUAGE": "cy:de:en"})
    ('de', 'en', 'de')
    """
    said = os.environ if said is None else said
    asked = next((said[name] for name in ASKED if said.get(name)), "")
    codes = (one.partition("_")[0].partition(".")[0].lower() for one in asked.split(":"))
    return next((code for code in codes if code in NAMES), "en")


def arguments_speak() -> None:
    """Have Python's own reader of arguments speak the language of the desktop, too: *usage*, *required*, *invalid choice*."""
    if of_the_desktop() != "en":  # that one is in it already
        gettext.bindtextdomain("messages", str(Path(__file__).parent / "arguments"))
