"""Misreads by name: what a hand, an eye or a pencil makes of a number.

A number that cannot be right beside the others often becomes right when two digits change places, one is dropped or doubled, the point moves by one, or
inches and centimetres are mixed up. Naming that tells the person where to look.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from omnipel.core.words.phrases import Length, Phrase, tr
from omnipel.core.words.units import MM_PER_INCH, Unit

POINT: Final = ((10.0, tr("ten times too large")), (0.1, tr("ten times too small")))
"""What a wrong number is of the right one when the point moved (right = wrong ÷ factor), and how it is called."""

UNITS: Final = (
    (1.0 / 2.54, tr("centimetres for inches")),
    (2.54, tr("inches for centimetres")),
    (1.0 / MM_PER_INCH, tr("millimetres for inches")),
    (MM_PER_INCH, tr("inches for millimetres")),
)
FEET: Final = ((1.0 / 12.0, tr("feet for inches")), (12.0, tr("inches for feet")))
"""The same where units were mixed up; feet only where inches are read."""

UNIT_DOUBT: Final = 0.01
"""Share: who mixes units up also reads the wrong scale, to its own coarser marks."""


@dataclass(frozen=True, slots=True)
class Misread:
    """A slip that would explain a number: what it is called, and what the number should have been, mm."""

    words: Phrase
    meant: float

    @property
    def phrase(self) -> Phrase:
        """The slip with the number that was meant."""
        return tr("{slip}: {meant}", slip=self.words, meant=Length(self.meant))


def named(value: float, unit: Unit, expected: float, sigma: float) -> Misread | None:
    """The slip that turns `value` into what the others expect, within 3σ and half a step of the unit; None when none does."""
    reach = 3.0 * sigma + unit.step / 2.0
    if abs(value - expected) <= reach:
        return None
    for factor, words in POINT:
        if abs(value / factor - expected) <= reach:
            return Misread(words, value / factor)
    slips = [(words, mm, reach) for words, mm in _digits(value, unit)]
    slips += [
        (words, value / factor, reach + UNIT_DOUBT * expected) for factor, words in (*UNITS, *(FEET if unit.denominator else ()))
    ]
    found = [(abs(mm - expected), words, mm) for words, mm, near in slips if abs(mm - expected) <= near]
    if not found:
        return None
    _, words, meant = min(found, key=lambda slip: slip[0])
    return Misread(words, meant)


def _digits(value: float, unit: Unit) -> Iterator[tuple[Phrase, float]]:
    """Every number that one slip with a digit makes of a value, as it is written in a unit."""
    whole = int(value / unit.mm + 1e-9)
    rest = value - whole * unit.mm
    digits = str(whole)
    for i in range(len(digits) - 1):
        if digits[i] != digits[i + 1]:
            yield tr("two digits swapped"), _mm(digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :], rest, unit)
        else:
            yield tr("a digit doubled"), _mm(digits[:i] + digits[i + 1 :], rest, unit)
    for i in range(len(digits) + 1):
        for more in "0123456789":
            yield tr("a digit dropped"), _mm(digits[:i] + more + digits[i:], rest, unit)


def _mm(digits: str, rest: float, unit: Unit) -> float:
    return int(digits or "0") * unit.mm + rest
