"""How a length looks where it is set in type: a fraction as one small figure over another. Only in large type, on screen from 17 px."""

import re
from typing import Final

LEAST_PAPER: Final = 10.0
"""Type smaller than this, in points, keeps its plain fractions: the figures of a set one would be too small to read."""
STROKE: Final = "⁄"
"""The stroke of a set fraction: the shipped typeface makes small figures of the digits around it."""

_PARTED: Final = re.compile(r"(?<=\d) (?=\d+[/⁄]\d|(?:mm|cm|m|in|ft|yd|g|kg|s|min|h)\b)")
"""The spaces between a number and what belongs to it."""
_FRACTION: Final = re.compile(r"(?<![\w/.,⁄])(\d{1,2})[/⁄](2|4|8|16|32|64)(?![\w/⁄])")


def fractions(words: str) -> str:
    """Words with the fractions of an inch in them set as real ones; anything else with a stroke in it has a plain one.

    >>> fractions("12 5/8 in, 3/16 wider, 4/3, 3/100 and a 1⁄20")
    '12 5⁄8 in, 3⁄16 wider, 4/3, 3/100 and a 1/20'
    """
    plain = words.replace(STROKE, "/")
    return _FRACTION.sub(lambda found: STROKE.join(found.groups()) if int(found[1]) < int(found[2]) else found.group(), plain)


def in_parts(words: str) -> list[tuple[str, str, str]]:
    """Words cut where a set fraction is: plain words, then the figure above and the one below ("" at the end).

    >>> in_parts("cut 12 5⁄8 in")
    [('cut 12 ', '5', '8'), (' in', '', '')]
    """
    made, at = [], 0
    for found in _FRACTION.finditer(words):
        if found.group()[len(found[1])] == STROKE:
            made.append((words[at : found.start()], found[1], found[2]))
            at = found.end()
    return [*made, (words[at:], "", "")]


def held(words: str) -> str:
    """Words that may be broken into rows anywhere but between a number and its fraction or unit.

    >>> held("cut 12 5/8 in and 300 mm of 2 cords")
    'cut 12\\xa05/8\\xa0in and 300\\xa0mm of 2 cords'
    """
    return _PARTED.sub("\u00a0", words)
