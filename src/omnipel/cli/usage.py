"""What every command shares: the one-line fault, and how its words are said."""

import argparse
from typing import Protocol

from omnipel.core.words.phrases import Phrase, Voice


class Commands(Protocol):
    """Where a command puts its own parser."""

    def add_parser(self, name: str, *, help: str) -> argparse.ArgumentParser:
        """A parser for a command."""


class UsageError(Exception):
    """What was asked cannot be done; the message is one line."""

    def __init__(self, phrase: Phrase) -> None:
        self.phrase = phrase
        super().__init__(str(phrase))


def said(phrase: Phrase) -> str:
    """A phrase without lengths, in the language of the command line."""
    return Voice().say(phrase)
