"""What every command shares: the one-line fault, how its words are said, and what may be written over."""

import argparse
import codecs
from pathlib import Path
from typing import Final, Protocol

from omnipel.core.words.phrases import Name, Phrase, Refusal, Voice, tr
from omnipel.core.words.units import Unit
from omnipel.tongues import of_the_desktop, tongue_of


class Commands(Protocol):
    """Where a command puts its own parser."""

    def add_parser(self, name: str, *, help: str) -> argparse.ArgumentParser:
        """A parser for a command."""


class UsageError(Refusal):
    """What was asked cannot be done; the message is one line."""


def said(phrase: Phrase) -> str:
    """A phrase without lengths, in the language of the command line."""
    return voiced().say(phrase)


def voiced(unit: Unit = Unit.MM) -> Voice:
    """How the command line speaks: the desktop's language, and a job's unit."""
    return Voice(unit, tongue_of(of_the_desktop()))


def may_replace(path: Path, replace: bool, begins: bytes | None = None) -> None:
    """Check that nothing is lost: what is there already may be written over when that is said, or when it is an earlier one of its kind.

    Raises:
        UsageError: something else is there.
    """
    if replace or not path.is_file():
        return
    try:
        with open(path, "rb") as file:
            same = begins is not None and file.read(len(begins)) in (begins, b"")
    except OSError:
        same = False
    if not same:
        raise UsageError(tr("{path} is there already; --replace writes over it", path=Name(str(path))))


PLAIN_SIGNS: Final = {
    "×": "x", "−": "-", "–": "-", "—": "-", "…": "...", "≈": "~", "°": " deg", "π": "pi", "Δ": "d", "σ": "sigma", "√": "sqrt",
    "·": "-", "“": '"', "”": '"', "‘": "'", "’": "'", "≤": "<=", "≥": ">=", "→": "->", "←": "<-", "↔": "<->", "±": "+-", "²": "2",
    "\u00a0": " ", "\u2009": " ", "\u202f": " ", "½": "1/2", "¼": "1/4", "¾": "3/4", "✓": "ok", "▸": ">", "¹": "1",
}  # fmt: skip


def _plainly(error: UnicodeError) -> tuple[str, int]:
    """Signs for a terminal that cannot show the trade's own."""
    if not isinstance(error, UnicodeEncodeError):
        raise error
    signs = error.object[error.start : error.end]
    return "".join(PLAIN_SIGNS.get(sign, "?") for sign in signs), error.end


codecs.register_error("plainly", _plainly)
