"""The units a job is worked in, and how a length is written in them."""

import math
from enum import StrEnum
from fractions import Fraction
from typing import Final

MM_PER_INCH: Final = 25.4
MM_PER_FOOT: Final = 304.8

GROUP: Final = "\u202f"
"""Narrow no-break space between thousands: 1 894."""


class Unit(StrEnum):
    """The unit a person works in. A bare number is read in it; lengths are shown in it."""

    MM = "mm"
    CM = "cm"
    INCH_8 = "in/8"
    INCH_16 = "in/16"
    INCH_32 = "in/32"

    @property
    def mm(self) -> float:
        """Millimetres in a bare 1.

        >>> Unit.INCH_16.mm
        25.4
        """
        return {"mm": 1.0, "cm": 10.0}.get(self.value, MM_PER_INCH)

    @property
    def step(self) -> float:
        """The smallest step that is shown, in mm."""
        return {"mm": 1.0, "cm": 1.0}.get(self.value, MM_PER_INCH / (self.denominator or 1))

    @property
    def fine_step(self) -> float:
        """The step of a number that is shown finer: a tenth of a millimetre, a 64th of an inch."""
        return MM_PER_INCH / max(64, self.denominator) if self.denominator else 0.1

    @property
    def denominator(self) -> int:
        """The denominator inches are shown to; 0 for metric units."""
        return {"in/8": 8, "in/16": 16, "in/32": 32}.get(self.value, 0)

    @property
    def short(self) -> str:
        """What stands behind a number."""
        return "in" if self.denominator else self.value

    @property
    def label(self) -> str:
        """What a person picks in a list, as a template for translation."""
        return {
            "mm": "millimetres",
            "cm": "centimetres",
            "in/8": "inches to 1/8",
            "in/16": "inches to 1/16",
            "in/32": "inches to 1/32",
        }[self.value]


NEXT_UNIT: Final = {Unit.MM: Unit.CM, Unit.CM: Unit.INCH_16, Unit.INCH_8: Unit.MM, Unit.INCH_16: Unit.MM, Unit.INCH_32: Unit.MM}
"""What one press of the units key turns a unit into."""


def format_length(mm: float, unit: Unit, *, fine: bool = False, with_unit: bool = False) -> str:
    """Write a length in `unit`, rounded to its step (`fine`: a tenth of it; inches to 1/64).

    >>> format_length(320.675, Unit.INCH_16), format_length(1894.2, Unit.MM), format_length(318, Unit.CM)
    ('12 5/8', '1\\u202f894', '31.8')
    >>> format_length(-3.175, Unit.INCH_8, with_unit=True)
    '−1/8 in'
    """
    if unit.denominator:
        text = _inches(mm, max(64, unit.denominator) if fine else unit.denominator)
    else:
        places = (1 if unit is Unit.CM else 0) + fine
        # Half a step away from zero, as on paper; Python's own format would round half to even.
        steps = math.floor(abs(mm) / unit.mm * 10**places + 0.5 + 1e-9)
        text = f"{steps / 10**places:,.{places}f}".replace(",", GROUP)
        if "." in text and (fine or unit is Unit.CM):
            text = text.rstrip("0").rstrip(".")
        text = ("−" if mm < 0 and steps else "") + text
    return f"{text} {unit.short}" if with_unit else text


def _inches(mm: float, denominator: int) -> str:
    steps = math.floor(abs(mm) / MM_PER_INCH * denominator + 0.5 + 1e-9)
    whole, rest = divmod(steps, denominator)
    part = Fraction(rest, denominator)
    words = [f"{whole:,}".replace(",", GROUP)] if whole or not rest else []
    if rest:
        words.append(f"{part.numerator}/{part.denominator}")
    return ("−" if mm < 0 and steps else "") + " ".join(words)


def format_area(mm2: float, unit: Unit) -> str:
    """Write an area in square metres, or square feet for inch units.

    >>> format_area(1_500_000, Unit.MM)
    '1.50 m²'
    """
    return f"{mm2 / MM_PER_FOOT**2:.1f} sq ft" if unit.denominator else f"{mm2 / 1e6:.2f} m²"


def format_run(mm: float, unit: Unit) -> str:
    """Write a long run (seam, cord, cloth) in metres, or yards for inch units.

    >>> format_run(2500, Unit.CM), format_run(1828.8, Unit.INCH_8)
    ('2.50 m', '2.00 yd')
    """
    return f"{mm / (3 * MM_PER_FOOT):.2f} yd" if unit.denominator else f"{mm / 1000:.2f} m"


def rounded_up(length: float, unit: Unit, metric: float = 1.0, inches: float = 0.0) -> float:
    """The next round length of those who work in `unit`: a multiple of `metric` mm, or of `inches` (of the unit's step when 0).

    >>> rounded_up(12.2, Unit.MM), rounded_up(12.2, Unit.INCH_16) / 25.4, round(rounded_up(1510.0, Unit.INCH_8, 100.0, 6.0) / 25.4)
    (13.0, 0.5, 60)
    """
    step = (inches * MM_PER_INCH or unit.step) if unit.denominator else metric
    return math.ceil(length / step - 1e-9) * step
