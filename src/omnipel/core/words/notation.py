"""Reads lengths as people write them on scraps of paper.

    12 5/8    12-5/8"    3'4 1/2    3 ft 4 1/2 in    12⅝    318    31.8cm    0,318 m    1 763
    2x14 3/8    4 1/2 + 2 1/4    (12+3/8)/2    girth/2    2*girth    31*pi    A/2

Grammar, lowest binding first. A *bare* number carries no unit yet: times or under a length it is a count,
added to a length or left alone it is a length in the job's unit.

    sum      = product { ("+" | "-") product }
    product  = factor { ("x" | "*" | "/") factor }
    factor   = "-" factor | "(" sum ")" | quantity | name          (a name may have several words)
    quantity = mixed [unit] { mixed unit }            (after feet, a bare number is inches)
    mixed    = number [fraction] | fraction           ("12 5/8", "12-5/8", "12⅝", "5/8")
"""

import math
import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, NoReturn

from omnipel.core.tolerances import LONGEST
from omnipel.core.words.phrases import Count, Name, Phrase, listed, mm, tr
from omnipel.core.words.units import GROUP, MM_PER_FOOT, MM_PER_INCH, Unit

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
QUOTED: Final = 40
"""A refusal quotes no more of what was typed."""
LONGEST_TEXT: Final = 200
"""No length takes more characters; a longer text was pasted by mistake."""

MOST_PARTS: Final = 128
"""No tape is divided finer than this; a larger denominator is two texts run together."""
COUNTS: Final = {"pi": math.pi, "π": math.pi}
"""Names that stand for a plain number."""

_SAME_SIGN: Final = str.maketrans(
    {"*": "×", "·": "×", "÷": "/", "⁄": "/", "−": "-", "–": "-", "′": "'", "’": "'", "″": '"', "”": '"', "“": '"', "≈": " "}
)
_TOKEN: Final = re.compile(
    r"""(?P<space>[ \t]+)
      | (?P<fraction>\d+/\d+(?![\d.,/]*[.,]\d))
      | (?P<number>[1-9]\d{0,2}(?:[ ]\d{3})+(?![\d./,]|[ ]?\d)|\d+(?:[.,]\d+)?|[.,]\d+)
      | (?P<vulgar>[¼-¾⅐-⅞])
      | (?P<times>×)
      | (?P<word>[^\W\d_]+\.?)
      | (?P<sign>['"+\-/()])""",
    re.VERBOSE | re.IGNORECASE,
)
APART: Final = re.compile(r"[;\n]|,(?!\d{1,3}(?!\d))|,(?=\s)")
"""What parts one entry of a line from the next: no decimal comma does."""
_GROUPED: Final = re.compile(r"[1-9]\d{0,2}[.,]\d{3}")


class TapeError(ValueError):
    """A length that cannot be read: where it stopped (`column`, from 1), what was there and what was expected."""

    def __init__(self, text: str, column: int, expected: Phrase, found: Phrase) -> None:
        self.text, self.column, self.expected, self.found = text, column, expected, found
        super().__init__(text)

    def __str__(self) -> str:
        return str(self.phrase)

    @property
    def phrase(self) -> Phrase:
        """What is wrong, with what was typed."""
        if not self.text.strip():
            return tr("{found}; expected {expected}", found=self.found, expected=self.expected)
        typed = self.text.strip() if len(self.text.strip()) <= QUOTED else f"{self.text.strip()[:QUOTED]}…"
        return tr("“{typed}”: {found}; expected {expected}", typed=Name(typed), found=self.found, expected=self.expected)


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
        self.text, self.unit = text, unit
        self.told = [name for name in names if len(name.split()) == 1 and len(name) > 1][:6]
        self.names = {tuple(name.casefold().split()): mm for name, mm in names.items() if name.split()}
        if len(text) > LONGEST_TEXT:
            self.fail(LONGEST_TEXT + 1, tr("a length"), tr("the text goes on for {n} characters", n=Count(len(text))))
        self.tokens = self.split(text.translate(_SAME_SIGN).replace(GROUP, "").replace("\u2009", "").replace("\u00a0", " "))
        self.at = 0

    def fail(self, column: int, expected: Phrase, found: Phrase) -> NoReturn:
        raise TapeError(self.text, column, expected, found)

    def split(self, text: str) -> list[_Token]:
        tokens: list[_Token] = []
        place = 0
        while place < len(text):
            before = next((t for t in reversed(tokens) if t.kind != "space"), None)
            number_before = before is not None and (
                before.kind in ("number", "fraction", "vulgar") or before.text in (")", "'", '"')
            )
            if number_before and text[place] in "xX":  # 2x14, 2xgirth: behind a number an x says times
                tokens.append(_Token("times", "×", place + 1))
                place += 1
                continue
            match = _TOKEN.match(text, place)
            if match is None:
                self.fail(
                    place + 1,
                    tr("a number, a fraction, a unit or + − × /"),
                    tr("“{sign}” is not part of a length", sign=Name(text[place])),
                )
            kind = str(match.lastgroup)
            # Behind an x between words ("girth x 2") the x is a sign of its own, too.
            if kind == "word" and match.group().casefold() == "x" and before is not None:
                kind = "times"
            tokens.append(_Token(kind, match.group(), place + 1))
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
            self.fail(1, tr("a length"), tr("nothing is written"))
        value = self.sum()
        rest = self.skip_space()
        if rest.kind != "end":
            self.fail(rest.column, tr("the end, or + − × /"), tr("“{text}” follows a finished length", text=Name(rest.text)))
        length = value.number if value.is_length else value.number * self.unit.mm
        if not math.isfinite(length) or abs(length) > LONGEST:
            self.fail(1, tr("a length under {most}", most=mm(LONGEST)), tr("the length is far too long"))
        return length

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
                    self.fail(sign.column, tr("a count after /"), tr("a length cannot be divided by a length here"))
                if right.number == 0:
                    self.fail(sign.column, tr("a count that is not 0 after /"), tr("division by 0"))
                left = _Value(left.number / right.number, left.is_length)
            elif left.is_length and right.is_length:
                self.fail(sign.column, tr("a count on one side of ×"), tr("a length times a length is an area"))
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
                self.fail(closing.column, tr("“)”"), tr("a bracket is still open"))
            self.take()
            return value
        if token.kind == "word":
            named = self.named()
            if named is not None:
                return named
        if token.kind in ("number", "fraction", "vulgar"):
            return self.quantity()
        if token.kind == "word":
            known = tr("a number or one of {known}", known=listed(Name(name) for name in self.told))
            self.fail(
                token.column,
                known if self.told else tr("a number"),
                tr("“{word}” is no reading of this job", word=Name(token.text)),
            )
        self.fail(
            token.column,
            tr("a number"),
            tr("“{text}” stands here", text=Name(token.text)) if token.text else tr("the length ends too early"),
        )

    def named(self) -> _Value | None:
        """The longest name that stands here ("girth at the top"), as the length or count it means."""
        place = self.at
        words: list[str] = []
        best: tuple[int, _Value] | None = None
        while self.peek().kind == "word" or (words and self.peek().kind == "number"):
            words.append(self.take().text.casefold())
            if len(words) == 1 and words[0] in COUNTS:
                best = (self.at, _Value(COUNTS[words[0]], False))
            if tuple(words) in self.names:
                best = (self.at, _Value(self.names[tuple(words)], True))
            if self.peek().kind == "space" and self.peek(1).kind in ("word", "number"):
                self.take()
        self.at = best[0] if best else place
        return best[1] if best else None

    def quantity(self) -> _Value:
        start = self.peek()
        number = self.mixed()
        unit = self.unit_ahead()
        self.refuse_grouping(start, unit)
        if unit is None:
            return _Value(number, False)
        total, last = number * MM_OF[unit], MM_OF[unit]
        while self.mixed_ahead():
            part = self.skip_space()
            number = self.mixed()
            unit = self.unit_ahead()
            if unit is None and last == MM_PER_FOOT:
                unit = "in"  # 3'4 1/2
                if number >= 12.0:
                    self.fail(
                        part.column,
                        tr("{plain} without a mark, or the feet and inches apart", plain=Name(f"{start.text}{part.text}")),
                        tr("feet and {inches} inches, or a mark between thousands?", inches=Name(part.text)),
                    )
            if unit is None or MM_OF[unit] >= last:
                self.fail(part.column, tr("a smaller unit behind it"), tr("a second number follows the first"))
            total, last = total + number * MM_OF[unit], MM_OF[unit]
        return _Value(total, True)

    def refuse_grouping(self, token: _Token, unit: str | None) -> None:
        """A mark before just three digits may part thousands or decimals; in inches a point is a decimal point."""
        if token.kind != "number" or not _GROUPED.fullmatch(token.text):
            return
        metric = unit in ("mm", "cm") or (unit is None and not self.unit.denominator)
        if metric or ("," in token.text and unit is None):
            whole, _, rest = token.text.replace(",", ".").partition(".")
            both = tr("{thousand} or {decimal}", thousand=Name(whole + rest), decimal=Name(f"{whole}.{rest[:2]}"))
            self.fail(token.column, both, tr("it can be read two ways"))

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
        value = float(token.text.replace(",", ".").replace(" ", ""))
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
            self.fail(token.column, tr("a count that is not 0 after /"), tr("division by 0"))
        if bottom > MOST_PARTS:
            self.fail(
                token.column,
                tr("halves to {most}ths, as a tape is divided", most=Count(MOST_PARTS)),
                tr("“{text}” is no fraction of a tape", text=Name(token.text)),
            )
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


def parse_lengths(text: str, unit: Unit) -> list[float]:
    """Read several lengths, in mm, in the order they are written in: parted by semicolons, by a comma and a space, or by a comma that is no
    decimal one. Those who measure in inches write no decimal commas.

    >>> parse_lengths("137,5, 150; 160", Unit.CM), parse_lengths("1400,1500", Unit.MM), parse_lengths("54,60", Unit.INCH_8)
    ([1375.0, 1500.0, 1600.0], [1400.0, 1500.0], [1371.6, 1524.0])

    Raises:
        TapeError: one of them is no length.
    """
    apart = re.split(r"[;,\n]" if unit.denominator else APART, text)
    return [parse_length(part, unit) for part in apart if part.strip()]
