"""Where a tape has its ticks, in both systems, as fine as can be told apart."""

import math
from collections.abc import Iterator
from typing import Final

from omnipel.core.words.habits import System
from omnipel.core.words.units import MM_PER_INCH, Unit

METRIC: Final = (1.0, 10.0, 100.0, 1000.0, 10_000.0, 100_000.0)
"""From one small tick to the next, mm: every fifth is a middle one, every tenth a large one."""
INCH: Final = ((1 / 16, 4, 16), (1 / 8, 4, 8), (1 / 4, 2, 4), (1.0, 6, 12), (12.0, 5, 10), (120.0, 5, 10), (1200.0, 5, 10))
"""From one small tick to the next, inches, and which of them are middle and large ones."""


def ticks(first: float, last: float, least: float, unit: Unit) -> Iterator[tuple[float, int]]:
    """Places between two, mm, no nearer to one another than `least`; each with 0 for a small, 1 for a middle, 2 for a large tick.

    >>> [rank for _, rank in ticks(0.0, 10.0, 0.5, Unit.MM)]
    [2, 0, 0, 0, 0, 1, 0, 0, 0, 0, 2]
    """
    if System.of(unit) is System.INCH:
        inches = next((kind for kind in INCH if kind[0] * MM_PER_INCH >= least), INCH[-1])
        step, middle, large = inches[0] * MM_PER_INCH, inches[1], inches[2]
    else:
        step, middle, large = next((step for step in METRIC if step >= least), METRIC[-1]), 5, 10
    for k in range(math.ceil(first / step - 1e-9), math.floor(last / step + 1e-9) + 1):
        yield k * step, 2 if k % large == 0 else 1 if k % middle == 0 else 0
