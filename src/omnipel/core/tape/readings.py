"""Readings: what was measured, how often and with what; their value, spread and likely misreads.

Value and spread follow the trade: mean of the repeats (median from four on), spread
σ = max(resolution/√12, sample standard deviation); a single reading has its instrument's typical σ.
"""

import math
from dataclasses import dataclass
from enum import StrEnum
from statistics import mean, median, stdev
from typing import Annotated, Final

from annotated_types import Gt, Le, Len

from omnipel.core.tolerances import LONGEST, MISREAD_DEVIATIONS

MOST_REPEATS: Final = 5

Measured = Annotated[float, Gt(0), Le(LONGEST)]
"""A measured length in mm: positive and no longer than anything a cover is made for."""


class Instrument(StrEnum):
    """What a reading was taken with."""

    TAPE = "soft tape"
    RULE = "steel rule"
    STRING = "string then rule"
    EYE = "across by eye"
    TRACE = "traced outline"
    PHOTO = "photo"


@dataclass(frozen=True, slots=True)
class Precision:
    """How well an instrument reads: finest step in mm, and typical σ of one reading, in mm plus a share of the length."""

    resolution: float
    sigma: float
    share: float


PRECISION: Final = {
    Instrument.TAPE: Precision(1.0, 1.5, 0.0),
    Instrument.RULE: Precision(0.5, 0.7, 0.0),
    Instrument.STRING: Precision(1.0, 3.0, 0.0),
    Instrument.EYE: Precision(5.0, 0.0, 0.015),
    Instrument.TRACE: Precision(1.0, 2.0, 0.0),
    Instrument.PHOTO: Precision(1.0, 0.0, 0.007),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One number taken with one instrument at one place, repeated one to five times. All repeats are kept.

    `left_out` holds the positions of repeats that the user has declared misread.
    `sigma` replaces the instrument's typical σ when the user knows better.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    place: Annotated[str, Len(1, 80)]
    repeats: Annotated[tuple[Measured, ...], Len(1, MOST_REPEATS)]
    instrument: Instrument = Instrument.TAPE
    left_out: tuple[int, ...] = ()
    sigma: Measured | None = None
    note: Annotated[str, Len(0, 500)] = ""

    @property
    def kept(self) -> tuple[float, ...]:
        """The repeats that count. When all were left out, all count: a reading never loses its value."""
        kept = tuple(mm for i, mm in enumerate(self.repeats) if i not in self.left_out)
        return kept or self.repeats

    @property
    def value(self) -> float:
        """Mean of the repeats that count, median from four on, in mm."""
        return median(self.kept) if len(self.kept) >= 4 else mean(self.kept)

    @property
    def spread(self) -> float:
        """σ of the value, in mm."""
        precision = PRECISION[self.instrument]
        if len(self.kept) > 1:
            return max(precision.resolution / math.sqrt(12), stdev(self.kept))
        return self.sigma or max(precision.sigma + precision.share * self.value, precision.resolution / math.sqrt(12))

    @property
    def misreads(self) -> tuple[int, ...]:
        """Positions of repeats that look misread: further from the median than three scaled median deviations.

        >>> Reading(place="girth", repeats=(1763, 1762, 1673, 1764)).misreads
        (2,)
        """
        kept = [i for i in range(len(self.repeats)) if i not in self.left_out]
        if len(kept) < 3:
            return ()
        centre = median(self.repeats[i] for i in kept)
        # 1.4826 makes the median deviation agree with σ for a normal spread; the resolution is its floor,
        # or repeats that agree to the millimetre would condemn a neighbour two millimetres off.
        floor = PRECISION[self.instrument].resolution
        scale = max(1.4826 * median(abs(self.repeats[i] - centre) for i in kept), floor)
        return tuple(i for i in kept if abs(self.repeats[i] - centre) > MISREAD_DEVIATIONS * scale)
