"""Numbers that can show the sum that made them.

A `Worked` is a sum of named terms. Each term is a factor times a base quantity (a reading, a clearance, an allowance) and
knows where that quantity is decided. Adding, subtracting and scaling keep the terms, so that the sum shown to a person *is* the
computation. What is not a sum (a slant, an angle) enters as one term with its formula in words and its slopes with respect
to the readings, so that the spread of the readings can be followed into any size.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import Final

READINGS: Final = "readings."
"""Sources that start with this are readings, and carry a spread."""


@dataclass(frozen=True, slots=True)
class Term:
    """One line of a sum: `factor` × `amount`, with the amount's name, its formula in words, and where it is decided."""

    name: str
    amount: float
    factor: float = 1.0
    how: str = ""
    source: str = ""
    slopes: tuple[tuple[str, float], ...] = ()

    @property
    def value(self) -> float:
        """What this term adds to the sum, in mm."""
        return self.factor * self.amount


@dataclass(frozen=True)
class Worked:
    """A number and the terms that add up to it, exactly."""

    terms: tuple[Term, ...]

    @cached_property
    def value(self) -> float:
        """The sum of the terms."""
        return math.fsum(term.value for term in self.terms)

    def __float__(self) -> float:
        return self.value

    def __add__(self, other: "Worked") -> "Worked":
        return Worked(_merged((*self.terms, *other.terms)))

    def __sub__(self, other: "Worked") -> "Worked":
        return self + other * -1.0

    def __mul__(self, factor: float) -> "Worked":
        return Worked(tuple(replace(term, factor=term.factor * factor) for term in self.terms))

    __rmul__ = __mul__

    def __truediv__(self, divisor: float) -> "Worked":
        return self * (1.0 / divisor)

    @property
    def slopes(self) -> dict[str, float]:
        """How much the number moves when a reading moves by 1: reading source → slope."""
        total: dict[str, float] = {}
        for term in self.terms:
            for source, slope in term.slopes:
                total[source] = total.get(source, 0.0) + term.factor * slope
        return total

    def named(self, name: str, how: str = "", source: str = "") -> "Worked":
        """The same number as a single term, for when its sum would repeat what another number already shows."""
        return formula(name, self.value, how, *((self, 1.0),), source=source)


def worked(name: str, value: float, source: str = "", how: str = "") -> Worked:
    """A number that is decided rather than computed: a reading, a clearance, an allowance."""
    slopes = ((source, 1.0),) if source.startswith(READINGS) else ()
    return Worked((Term(name, value, 1.0, how, source, slopes),))


def formula(name: str, value: float, how: str, *inputs: tuple[Worked, float], source: str = "") -> Worked:
    """A number that is not a sum, with its formula in words and its slope for each input.

    Args:
        name: what the number is.
        value: the number, in mm.
        how: the formula in words.
        inputs: pairs of an input and the slope d value / d input.
        source: where it is decided.
    """
    total: dict[str, float] = {}
    for number, slope in inputs:
        for reading, inner in number.slopes.items():
            total[reading] = total.get(reading, 0.0) + slope * inner
    return Worked((Term(name, value, 1.0, how, source, tuple(total.items())),))


def _merged(terms: Iterable[Term]) -> tuple[Term, ...]:
    """Terms of the same quantity become one; a quantity that cancels out or is nothing disappears."""
    by_quantity: dict[tuple[str, str, str, float], Term] = {}
    for term in terms:
        key = (term.name, term.source, term.how, term.amount)
        known = by_quantity.get(key)
        by_quantity[key] = term if known is None else replace(known, factor=known.factor + term.factor)
    kept = tuple(term for term in by_quantity.values() if term.value != 0.0)
    return kept or tuple(by_quantity.values())[:1]


def scaled_words(factor: float, amount: str) -> str:
    """How a factor and an amount are written as on paper; empty for 1 × amount.

    >>> scaled_words(2 * math.pi, "12"), scaled_words(1 / (2 * math.pi), "1763"), scaled_words(0.5, "0.5"), scaled_words(1, "7")
    ('2π × 12', '1763 ÷ 2π', '0.5 ÷ 2', '')
    """
    size = abs(factor)
    if size == 1.0:
        return ""
    for scale, mark in ((1.0, ""), (math.pi, "π")):
        for number, sign in ((size / scale, "×"), (1.0 / (size * scale), "÷")):
            part = Fraction(number).limit_denominator(12)
            if part.denominator == 1 and part.numerator and math.isclose(part.numerator, number, rel_tol=1e-12):
                words = f"{'' if part.numerator == 1 and mark else part.numerator}{mark}"
                return f"{words} × {amount}" if sign == "×" else f"{amount} ÷ {words}"
    return f"{size:.4g} × {amount}"
