"""Numbers that can show the sum that made them.

A `Worked` is a sum of named terms. Each term is a factor times a base quantity (a reading, a clearance, an allowance) and
knows where that quantity is decided. Adding, subtracting and scaling keep the terms, so that the sum shown to a person *is* the
computation. What is not a sum (a slant, an angle) enters as one term with its formula in words; its slopes with respect to the
readings are differences of the formula itself (`through`), never written by hand beside it.
"""

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property

from omnipel.core.tolerances import SLOPE_STEP
from omnipel.core.words.phrases import NOTHING, Phrase
from omnipel.core.words.refs import Of, Ref


@dataclass(frozen=True, slots=True)
class Term:
    """One line of a sum: `factor` × `amount`, with the amount's name, its formula in words, and where it is decided."""

    name: Phrase
    amount: float
    factor: float = 1.0
    how: Phrase = NOTHING
    source: Ref | None = None
    slopes: tuple[tuple[str, float], ...] = ()

    def times(self, factor: float) -> "Term":
        """So many times this term."""
        return Term(self.name, self.amount, self.factor * factor, self.how, self.source, self.slopes)

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

    def plus(self, others: Iterable["Worked"]) -> "Worked":
        """This and others in one sum; without others a number of its own, as it stands."""
        more = [term for other in others for term in other.terms]
        return Worked(_merged((*self.terms, *more)) if more else self.terms)

    def __sub__(self, other: "Worked") -> "Worked":
        return self + other * -1.0

    def __mul__(self, factor: float) -> "Worked":
        return Worked(tuple(term.times(factor) for term in self.terms))

    __rmul__ = __mul__

    def __truediv__(self, divisor: float) -> "Worked":
        return self * (1.0 / divisor)

    @cached_property
    def slopes(self) -> dict[str, float]:
        """How much the number moves when a reading moves by 1: place of the reading → slope."""
        total: dict[str, float] = {}
        for term in self.terms:
            for source, slope in term.slopes:
                total[source] = total.get(source, 0.0) + term.factor * slope
        return total

    def named(self, name: Phrase, how: Phrase = NOTHING, source: Ref | None = None) -> "Worked":
        """The same number as a single term, for when its sum would repeat what another number already shows."""
        return Worked((Term(name, self.value, 1.0, how, source, tuple(self.slopes.items())),))


def worked(name: Phrase, value: float, source: Ref | None = None, how: Phrase = NOTHING) -> Worked:
    """A number that is decided rather than computed: a reading, a clearance, an allowance."""
    slopes = ((source.id, 1.0),) if source is not None and source.of is Of.READING else ()
    return Worked((Term(name, value, 1.0, how, source, slopes),))


def given(
    name: Phrase, value: float, slopes: Iterable[tuple[str, float]], how: Phrase = NOTHING, source: Ref | None = None
) -> Worked:
    """A number whose slopes come out of the same solution as its value (an adjustment of readings)."""
    return Worked((Term(name, value, 1.0, how, source, tuple(slopes)),))


def through(name: Phrase, how: Phrase, rule: Callable[..., float], *inputs: Worked, source: Ref | None = None) -> Worked:
    """A number that is not a sum: `rule` of the inputs' values. Its slopes are central differences of that very rule.

    Args:
        name: what the number is.
        how: the formula in words, without signs a sewist would not write.
        rule: from the inputs' values in mm to the number.
        inputs: what it is made from.
        source: where it is decided.

    >>> from omnipel.core.words.phrases import tr
    >>> from omnipel.core.words.refs import reading
    >>> side = through(tr("side"), NOTHING, lambda a: a * a, worked(tr("a"), 3.0, reading("a")))
    >>> round(side.value, 6), round(side.slopes["a"], 6)
    (9.0, 6.0)
    """
    values = [number.value for number in inputs]
    total: dict[str, float] = {}
    for i, number in enumerate(inputs):
        if not number.slopes:
            continue
        step = SLOPE_STEP * max(1.0, abs(values[i]))
        slope = _difference(rule, values, i, step)
        for reading, inner in number.slopes.items():
            total[reading] = total.get(reading, 0.0) + slope * inner
    return Worked((Term(name, rule(*values), 1.0, how, source, tuple(total.items())),))


def _difference(rule: Callable[..., float], values: list[float], i: int, step: float) -> float:
    """The central difference of a rule in its input `i`; one-sided where the rule ends (an arc cosine at 1)."""
    found = []
    for sign in (1.0, -1.0):
        moved = [*values[:i], values[i] + sign * step, *values[i + 1 :]]
        try:
            found.append((sign * step, rule(*moved)))
        except ValueError:
            found.append((0.0, rule(*values)))
    (up, above), (down, below) = found
    return (above - below) / (up - down) if up != down else 0.0


def _merged(terms: Iterable[Term]) -> tuple[Term, ...]:
    """Terms of the same quantity become one; a quantity that cancels out or is nothing disappears."""
    by_quantity: dict[tuple[Phrase, Ref | None, Phrase, float], Term] = {}
    for term in terms:
        key = (term.name, term.source, term.how, term.amount)
        known = by_quantity.get(key)
        if known is not None:
            term = Term(known.name, known.amount, known.factor + term.factor, known.how, known.source, known.slopes)  # noqa: PLW2901
        by_quantity[key] = term
    kept = tuple(term for term in by_quantity.values() if abs(term.factor) > 1e-12 and term.amount != 0.0)
    return kept or tuple(by_quantity.values())[:1]
