"""Readings typed in one go from a tape card, by their letters and in any order: `A 1763 1762, B 655`."""

import re
from collections.abc import Mapping, Sequence

from omnipel.core.job.reading import MOST_REPEATS
from omnipel.core.tolerances import LONGEST
from omnipel.core.words.notation import APART, TapeError, parse_length
from omnipel.core.words.phrases import Count, Name, Refusal, listed, mm, tr
from omnipel.core.words.units import Unit

_ENTRY = re.compile(r"\s*([A-Za-z]{1,2})(?![A-Za-z])\s*[:=]?\s*(.*)", re.DOTALL)


class CardError(Refusal, ValueError):
    """A line of readings that cannot be taken: what is wrong, with what was typed. Nothing of it is taken."""


def read_card(text: str, letters: Sequence[str], unit: Unit) -> Mapping[int, tuple[float, ...]]:
    """Readings by their letters: number of the place → repeats in mm. Entries end with a comma, semicolon or line; repeats are parted by `/ `.

    >>> dict(read_card("B 655, A 1763 / 1762", ["A", "B"], Unit.MM))
    {1: (655.0,), 0: (1763.0, 1762.0)}

    Raises:
        CardError: a letter is not on the card or stands twice, or a length cannot be read.
    """
    found: dict[int, tuple[float, ...]] = {}
    for part in APART.split(text):
        if not part.strip():
            continue
        match = _ENTRY.fullmatch(part)
        if match is None or not match.group(2).strip():
            raise CardError(tr("“{typed}”: a letter and a length are expected", typed=Name(part.strip()[:40])))
        letter = match.group(1).upper()
        if letter not in letters:
            raise CardError(
                tr(
                    "“{letter}” is not on the card; there are {letters}",
                    letter=Name(letter),
                    letters=listed(Name(known) for known in letters),
                )
            )
        number = letters.index(letter)
        if number in found:
            raise CardError(tr("“{letter}” stands twice", letter=Name(letter)))
        found[number] = _lengths(match.group(2), letter, unit)
    if not found:
        raise CardError(tr("nothing is written"))
    return found


def _lengths(text: str, letter: str, unit: Unit) -> tuple[float, ...]:
    """The repeats of one entry."""
    parts = [part for part in re.split(r"\s/\s|\s\|\s", text) if part.strip()]
    if len(parts) > MOST_REPEATS:
        raise CardError(tr("“{letter}” has more than {n} repeats", letter=Name(letter), n=Count(MOST_REPEATS)))
    lengths = []
    for part in parts:
        try:
            length = parse_length(part, unit)
        except TapeError as error:
            raise CardError(tr("{letter}: {fault}", letter=Name(letter), fault=error.phrase)) from None
        if not 0.0 < length <= LONGEST:
            raise CardError(tr("{letter}: {length} is no reading", letter=Name(letter), length=mm(length)))
        lengths.append(length)
    return tuple(lengths)
