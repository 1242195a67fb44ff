"""Reads lengths as people write them on scraps of paper.

    12 5/8    12-5/8"    3'4 1/2    3 ft 4 1/2 in    12⅝    318    31.8cm    0,318 m
    2x14 3/8    4 1/2 + 2 1/4    (12+3/8)/2    girth/2

Grammar, lowest binding first. A *bare* number carries no unit yet: times or under a length it is a count,
added to a length or left alone it is a length in the job's unit.

    sum      = product { ("+" | "-") product }
    product  = factor { ("x" | "*" | "/") factor }
    factor   = "-" factor | "(" sum ")" | quantity | name
    quantity = mixed [unit] { mixed unit }            (after feet, a bare number is inches)
    mixed    = number [fraction] | fraction           ("12 5/8", "12-5/8", "12⅝", "5/8")
"""

import math
import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, NoReturn

from omnipel.core.tape.units import GROUP, MM_PER_FOOT, MM_PER_INCH, Unit
from omnipel.core.tolerances import LONGEST

MM_OF: Final = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    '"': MM_PER_INCH,
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    "'": MM_PER_FOOT,
    "ft": MM_PER_FOOT,
    "foot": MM_PER_FOOT,
    "feet": MM_PER_FOOT,
    "yd": 3 * MM_PER_FOOT,
}
LONGEST_TEXT: Final = 200
"""No length takes more characters; a longer text was pasted by mistake."""

_SAME_SIGN: Final = str.maketrans(
    {"×": "x", "*": "x", "·": "x", "÷": "/", "⁄": "/", "−": "-", "–": "-", "′": "'", "’": "'", "″": '"', "”": '"', "“": '"'}
)
_TOKEN: Final = re.compile(
    r"""(?P<space>[ \t]+)
      | (?P<fraction>\d+/\d+(?![\d.,/]*[.,]\d))
      | (?P<number>\d+(?:[.,]\d+)?|[.,]\d+)
      | (?P<vulgar>[¼-¾⅐-⅞])
      | (?P<times>x(?![a-z_]))
      | (?P<word>[a-zµ_][a-zµ_0-9.]*)
      | (?P<sign>['"+\-/()])""",
    re.VERBOSE | re.IGNORECASE,
)
_GROUPED: Final = re.compile(r"[1-9]\d{0,2},\d{3}")


class TapeError(ValueError):
    """A length that cannot be read: where it stopped (`column`, from 1), what was there and what was expected."""

    def __init__(self, text: str, column: int, expected: str, found: str) -> None:
        self.text, self.column, self.expected, self.found = text, column, expected, found
        super().__init__(f"column {column}: {found}; expected {expected}")


@dataclass(frozen=True, slots=True)
class _Token:
    kind: str
    text: str
    column: int


@dataclass(frozen=True, slots=True)
class _Value:
    """A number, either bare or already a length in mm."""

    number: float
    is_length: bool


def parse_length(text: str, unit: Unit, names: Mapping[str, float] | None = None) -> float:
    """Read `text` as a length in mm. A bare number is in `unit`; `names` maps known readings to mm.

    >>> parse_length("2x14 3/8", Unit.INCH_16), parse_length("0,318 m", Unit.MM)
    (730.25, 318.0)
    >>> parse_length("girth/2", Unit.CM, {"girth": 942.0})
    471.0

    Raises:
        TapeError: the text is no length; says at which column and what was expected.
    """
    return _Parser(text, unit, names or {}).read()


class _Parser:
    """One pass over the tokens; no state outlives `read`."""

    def __init__(self, text: str, unit: Unit, names: Mapping[str, float]) -> None:
        self.text, self.unit, self.names = text, unit, {name.casefold(): mm for name, mm in names.items()}
        if len(text) > LONGEST_TEXT:
            self.fail(LONGEST_TEXT + 1, "a length", f"the text goes on for {len(text)} characters")
        self.tokens = self.split(text.translate(_SAME_SIGN).replace(GROUP, "").replace("\u00a0", " "))
        self.at = 0

    def fail(self, column: int, expected: str, found: str) -> NoReturn:
        raise TapeError(self.text, column, expected, found)

    def split(self, text: str) -> list[_Token]:
        tokens, place = [], 0
        while place < len(text):
            match = _TOKEN.match(text, place)
            if match is None:
                self.fail(place + 1, "a number, a fraction, a unit or + − × /", f"'{text[place]}' is not part of a length")
            tokens.append(_Token(str(match.lastgroup), match.group(), place + 1))
            place = match.end()
        # Spaces only matter inside a mixed number, where "12-5/8" and "12 - 5/8" differ.
        return [
            *(t for i, t in enumerate(tokens) if t.kind != "space" or 0 < i < len(tokens) - 1),
            _Token("end", "", len(text) + 1),
        ]

    def peek(self, ahead: int = 0) -> _Token:
        return self.tokens[min(self.at + ahead, len(self.tokens) - 1)]

    def skip_space(self) -> _Token:
        while self.peek().kind == "space":
            self.at += 1
        return self.peek()

    def take(self) -> _Token:
        token = self.peek()
        self.at += 1
        return token

    def read(self) -> float:
        if self.skip_space().kind == "end":
            self.fail(1, "a length", "nothing is written")
        value = self.sum()
        rest = self.skip_space()
        if rest.kind != "end":
            self.fail(rest.column, "the end, or + − × /", f"'{rest.text}' follows a finished length")
        mm = value.number if value.is_length else value.number * self.unit.mm
        if not math.isfinite(mm) or abs(mm) > LONGEST:
            self.fail(1, f"a length under {LONGEST / 1000:.0f} m", "the length is far too long")
        return mm

    def sum(self) -> _Value:
        left = self.product()
        while self.skip_space().text in ("+", "-"):
            sign = -1.0 if self.take().text == "-" else 1.0
            right = self.product()
            if left.is_length == right.is_length:
                left = _Value(left.number + sign * right.number, left.is_length)
            else:  # a bare number beside a length is a length in the job's unit
                left = _Value(self.as_mm(left) + sign * self.as_mm(right), True)
        return left

    def as_mm(self, value: _Value) -> float:
        return value.number if value.is_length else value.number * self.unit.mm

    def product(self) -> _Value:
        left = self.factor()
        while self.skip_space().text in ("/",) or self.peek().kind == "times":
            sign = self.take()
            right = self.factor()
            if sign.text == "/":
                if right.is_length:
                    self.fail(sign.column, "a count after /", "a length cannot be divided by a length here")
                if right.number == 0:
                    self.fail(sign.column, "a count that is not 0 after /", "division by 0")
                left = _Value(left.number / right.number, left.is_length)
            elif left.is_length and right.is_length:
                self.fail(sign.column, "a count on one side of ×", "a length times a length is an area")
            else:
                left = _Value(left.number * right.number, left.is_length or right.is_length)
        return left

    def factor(self) -> _Value:
        token = self.skip_space()
        if token.text == "-":
            self.take()
            value = self.factor()
            return _Value(-value.number, value.is_length)
        if token.text == "(":
            self.take()
            value = self.sum()
            closing = self.skip_space()
            if closing.text != ")":
                self.fail(closing.column, "')'", f"the bracket from column {token.column} is still open")
            self.take()
            return value
        if token.kind == "word" and token.text.casefold() in self.names:
            self.take()
            return _Value(self.names[token.text.casefold()], True)
        if token.kind in ("number", "fraction", "vulgar"):
            return self.quantity()
        if token.kind == "word":
            known = ", ".join(sorted(self.names)[:6])
            self.fail(
                token.column, f"a number{f' or one of {known}' if known else ''}", f"'{token.text}' is no reading of this job"
            )
        self.fail(token.column, "a number", f"'{token.text}' stands here" if token.text else "the length ends too early")

    def quantity(self) -> _Value:
        start = self.peek()
        number = self.mixed()
        unit = self.unit_ahead()
        if unit is None:
            self.refuse_grouping(start, None)
            return _Value(number, False)
        self.refuse_grouping(start, unit)
        mm, last = number * MM_OF[unit], MM_OF[unit]
        while self.mixed_ahead():
            part = self.skip_space()
            number = self.mixed()
            unit = self.unit_ahead()
            if unit is None and last == MM_PER_FOOT:
                unit = "in"  # 3'4 1/2
            if unit is None or MM_OF[unit] >= last:
                self.fail(part.column, "a smaller unit behind it", "a second number follows the first")
            mm, last = mm + number * MM_OF[unit], MM_OF[unit]
        return _Value(mm, True)

    def refuse_grouping(self, token: _Token, unit: str | None) -> None:
        if unit in (None, "mm") and token.kind == "number" and _GROUPED.fullmatch(token.text):
            plain, point = token.text.replace(",", ""), token.text.replace(",", ".")
            self.fail(token.column, f"{plain} or {point}", f"'{token.text}' can be read two ways")

    def mixed_ahead(self) -> bool:
        place = self.at
        kind = self.skip_space().kind
        self.at = place
        return kind in ("number", "fraction", "vulgar")

    def mixed(self) -> float:
        token = self.take()
        if token.kind == "fraction":
            return self.fraction(token)
        if token.kind == "vulgar":
            return unicodedata.numeric(token.text)
        value = float(token.text.replace(",", "."))
        if not token.text.isdigit():
            return value
        following, after = self.peek(), self.peek(1)
        if following.kind == "vulgar" or (following.kind == "space" and after.kind == "vulgar"):
            self.skip_space()
            return value + unicodedata.numeric(self.take().text)
        if (following.kind == "space" or following.text == "-") and after.kind == "fraction":
            part = self.fraction(after)
            if part < 1:
                self.at += 2
                return value + part
        return value

    def fraction(self, token: _Token) -> float:
        top, bottom = (int(part) for part in token.text.split("/"))
        if bottom == 0:
            self.fail(token.column, "a count that is not 0 after /", "division by 0")
        return top / bottom

    def unit_ahead(self) -> str | None:
        place = self.at
        token = self.skip_space()
        word = token.text.casefold().rstrip(".")
        if token.kind in ("word", "sign") and word in MM_OF:
            self.take()
            return word
        self.at = place
        return None
