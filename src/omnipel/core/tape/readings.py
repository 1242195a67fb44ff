"""Value, spread and misread repeats of a reading.

The value is the mean of the repeats that count, the median from four on. The spread of so few repeats says little by itself: two equal
numbers do not make a tape exact. So the repeats' own scatter is pooled with what the instrument is known for, as if that came from
`KNOWN_FROM` earlier readings: s² = (ν σ₀² + Σ(x − m)²) / (ν + n − 1); σ of the value is s/√n, and 1.2 s/√n for a median.
"""

import math
from statistics import fmean, median

from omnipel.core.job.reading import Reading
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tolerances import FINEST_SIGMA, REPEATS_APART, TWO_APART

KNOWN_FROM = 4.0
"""An instrument's typical σ weighs as much as so many repeats."""
MEDIAN_COSTS = 1.2
"""The median of four or five normal numbers scatters by so much more than their mean."""


def one_sigma(reading: Reading, length: float | None = None) -> float:
    """σ of one reading with this instrument, mm: of what was read, or of another length."""
    if reading.sigma is not None:
        return max(reading.sigma, FINEST_SIGMA)
    return PRECISION[reading.instrument].of(median(reading.kept) if length is None else length)


def misreads(reading: Reading) -> tuple[int, ...]:
    """Positions of repeats that look misread: further from the others' middle than five σ. Both, when there are only two.

    >>> misreads(Reading(place="girth", repeats=(1763, 1762, 1673, 1764)))
    (2,)
    >>> misreads(Reading(place="girth", repeats=(600, 6000)))
    (0, 1)
    """
    counting = [i for i in range(len(reading.repeats)) if i not in reading.left_out]
    if len(counting) < 2 or reading.sure:
        return ()
    sigma = one_sigma(reading)
    if len(counting) == 2:
        a, b = (reading.repeats[i] for i in counting)
        # The smaller one's σ: a number ten times too large must not widen its own doubt.
        least = one_sigma(reading, min(a, b))
        return tuple(counting) if abs(a - b) > TWO_APART * math.sqrt(2.0) * least else ()
    centre = median(reading.repeats[i] for i in counting)
    return tuple(i for i in counting if abs(reading.repeats[i] - centre) > REPEATS_APART * sigma)


def counted(reading: Reading) -> tuple[float, ...]:
    """The repeats that make the value: those that count and do not look misread. Of two that contradict, the larger one."""
    doubtful = misreads(reading)
    kept = tuple(mm for i, mm in enumerate(reading.repeats) if i not in reading.left_out and i not in doubtful)
    return kept or (max(reading.kept),)


def as_read(reading: Reading) -> float:
    """What was read, mm: the mean of the repeats that count, the median from four on."""
    used = counted(reading)
    return median(used) if len(used) >= 4 else fmean(used)


def value(reading: Reading) -> float:
    """The reading's value, mm: what was read, less by what its instrument is known to read too long.

    >>> value(Reading(place="girth", repeats=(1763, 1761), reads_long=1.5))
    1760.5
    """
    read = as_read(reading)
    return read - reading.reads_long if read > 2.0 * abs(reading.reads_long) else read


def spread(reading: Reading) -> float:
    """σ of the value, mm."""
    used = counted(reading)
    n, sigma = len(used), one_sigma(reading, value(reading))
    centre = fmean(used)
    scatter = math.fsum((mm - centre) ** 2 for mm in used)
    pooled = math.sqrt((KNOWN_FROM * sigma**2 + scatter) / (KNOWN_FROM + n - 1))
    return pooled / math.sqrt(n) * (MEDIAN_COSTS if n >= 4 else 1.0)
