"""What readings are taken with, and how well each reads: the one table of instruments."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from omnipel.core.job.reading import Instrument


@dataclass(frozen=True, slots=True)
class Precision:
    """How well an instrument reads: finest step in mm, typical σ of one reading in mm plus a share of the length, and its reach.

    `least` and `most` are what it can sensibly read, mm: outside of them the program asks whether the number was meant so.
    """

    resolution: float
    sigma: float
    share: float
    least: float = 5.0
    most: float = 20_000.0

    def of(self, length: float) -> float:
        """σ of one reading of a length, mm; never finer than the steps it is divided in."""
        return max(self.sigma + self.share * length, self.resolution / math.sqrt(12.0))


PRECISION: Final[Mapping[Instrument, Precision]] = {
    Instrument.TAPE: Precision(1.0, 1.5, 0.0),
    Instrument.RULE: Precision(0.5, 0.7, 0.0, 1.0, 3_000.0),
    Instrument.STRAIGHTEDGE: Precision(0.5, 0.7, 0.0, 5.0, 4_000.0),
    Instrument.STRING: Precision(1.0, 3.0, 0.0),
    Instrument.EYE: Precision(5.0, 0.0, 0.015),
    Instrument.TRACE: Precision(1.0, 2.0, 0.0),
    Instrument.PHOTO: Precision(1.0, 0.0, 0.007),
}
