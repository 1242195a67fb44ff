"""Reads numbers that are no lengths, as people write them: shares, ratios, counts."""

import math

from omnipel.core.words.notation import TapeError
from omnipel.core.words.phrases import Name, tr


def parse_share(text: str) -> float:
    """Read a part of a whole: "40 %", "40%", "0.4" or "0,4"; a bare number of 1 or more is percent.

    >>> parse_share("40 %"), parse_share("0,4"), parse_share("12.5")
    (0.4, 0.4, 0.125)

    Raises:
        TapeError: the text is no share.
    """
    plain = text.strip().replace("\u202f", "").replace("\u00a0", "")
    number = plain.removesuffix("%").strip().replace(",", ".")
    try:
        value = float(number)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise TapeError(
            text, 1, tr("a share like {percent} or {share}", percent=Name("40 %"), share=Name("0.4")), tr("no share stands here")
        )
    return value / 100.0 if plain.endswith("%") or value >= 1.0 else value


def parse_number(text: str, *, whole: bool = False) -> float:
    """Read a plain number or a ratio: "12", "2,4", "2.4 : 1".

    >>> parse_number("2.4 : 1"), parse_number("12", whole=True)
    (2.4, 12.0)

    Raises:
        TapeError: the text is no number, or not a whole one.
    """
    plain = text.replace("\u202f", "").replace(" ", "").removesuffix(":1").replace(",", ".")
    try:
        value = float(plain)
    except ValueError:
        value = math.nan
    if not math.isfinite(value) or (whole and value != round(value)):
        raise TapeError(text, 1, tr("a whole number") if whole else tr("a number"), tr("no number stands here"))
    return value


def parse_count(text: str) -> float:
    """A whole number."""
    return parse_number(text, whole=True)
