"""What readings say of the instruments they were taken with: by how much each reads too long, and how far one reading scatters.

Where a thing was read in more ways than were needed, the readings check one another. With parts x of the thing, biases b of the instruments and errors ε,
`r = A x + B b + ε`; x is nobody's business here and is projected out: `P = W − W A (AᵀWA)⁻¹ AᵀW` leaves `BᵀPB b = BᵀP r`, summed over all jobs. How it
went on says by how much too long all of it was read together: one more row. Repeats, and readings taken once more, tell of the scatter alone.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.draft import Drafted
from omnipel.core.forms import FORMS
from omnipel.core.forms.form import observations
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.trying import TryOn
from omnipel.core.learning.gaussian import TENTH, Normal
from omnipel.core.tape.adjustment import SETTLED, Observation, design_at
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tape.readings import as_read, counted, one_sigma, spread

Matrix = NDArray[np.float64]
OF_SIGMA: Final = 0.6
"""By so much of what one reading scatters instruments are known to read too long or too short, one as another."""
PER_METRE: Final = 1000.0
"""What reads wrong by a share is told for a metre."""
KNOWN_FROM: Final = 8.0
"""What is said of an instrument's scatter weighs as much as so many readings."""
NO_BLUNDER: Final = 3.3
"""A reading that is off by more of its spreads was misread: that is no matter of the instrument."""


@dataclass(frozen=True)
class Checked:
    """What the readings of one job say of instruments.

    Args:
        names: of the instruments, as they stand in the rows.
        weight: `(m, m)`, what is known of their biases together, 1/mm².
        pull: `(m,)`, the same times the biases that would explain it.
        scatter: by instrument how many readings could show their scatter, and the sum of its squares, as shares of what is said of it.
    """

    names: tuple[str, ...] = ()
    weight: tuple[tuple[float, ...], ...] = ()
    pull: tuple[float, ...] = ()
    scatter: Mapping[str, tuple[float, float]] = field(default_factory=dict)


def lever(instrument: Instrument, length: float) -> float:
    """How a reading of a length moves with its instrument's bias: by 1, or so much for every metre."""
    return length / PER_METRE if PRECISION[instrument].share else 1.0


def bias_before(instrument: Instrument) -> Normal:
    """What is known of an instrument's bias before anything was read with it: mm, or mm for a metre."""
    return Normal(0.0, OF_SIGMA * PRECISION[instrument].of(PER_METRE))


def checked(drafted: Drafted, tries: Sequence[TryOn], told: Normal | None, slopes: Mapping[str, float]) -> Checked:
    """What the readings of a job say of instruments.

    `told` is by how much too large all of it was read, as it went on; `slopes` how that moves with each reading.
    """
    job, form = drafted.job, FORMS[drafted.job.thing.form]
    counting = {r.place: r for r in job.readings if not r.set_aside and r.place not in drafted.doubtful}
    names = tuple(sorted({r.instrument.value for r in counting.values()}))
    weight, pull = np.zeros((len(names), len(names))), np.zeros(len(names))
    scatter: dict[str, list[float]] = {name: [0.0, 0.0] for name in names}
    seen = [
        o
        for o in observations(form, tuple(counting.values()), job.thing, job.unit)
        if all(k in drafted.measured.settled.adjusted.values for k in o.on)
    ]
    parts = dict(drafted.measured.settled.adjusted.values)
    if seen:
        _by_one_another(seen, parts, counting, names, weight, pull, scatter)
    if told is not None:
        row = np.zeros(len(names))
        variance = told.sigma**2
        for place, slope in slopes.items():
            if (reading := counting.get(place)) is not None:
                row[names.index(reading.instrument.value)] += slope * lever(reading.instrument, as_read(reading))
                variance += (slope * spread(reading)) ** 2
        weight += np.outer(row, row) / variance
        pull += row * (told.mean / variance)
    for one in tries:
        for key, length in one.made.items():
            again = counting.get(key.removeprefix("again:")) if key.startswith("again:") else None
            if again is not None and abs(length - as_read(again)) < NO_BLUNDER * math.sqrt(2.0) * one_sigma(again):
                _scattered(scatter, again, 1.0, 0.5 * (length - as_read(again)) ** 2)
    for reading in counting.values():
        repeats = counted(reading)
        if len(repeats) > 1:
            middle = math.fsum(repeats) / len(repeats)
            _scattered(scatter, reading, len(repeats) - 1.0, math.fsum((mm - middle) ** 2 for mm in repeats))
    rows = tuple(tuple(float(v) for v in line) for line in weight)
    return Checked(names, rows, tuple(float(v) for v in pull), {name: (n, s) for name, (n, s) in scatter.items() if n})


def _by_one_another(
    seen: Sequence[Observation],
    parts: Mapping[str, float],
    counting: Mapping[str, Reading],
    names: tuple[str, ...],
    weight: Matrix,
    pull: Matrix,
    scatter: dict[str, list[float]],
) -> None:
    """Put to `weight`, `pull` and `scatter` what readings say that check one another."""
    keys = list(parts)
    design, missed, sigmas = design_at(seen, keys, parts)
    given = np.diag(sigmas**-2)
    inner = np.linalg.pinv(design.T @ given @ design, rcond=SETTLED)
    projected = given - given @ design @ inner @ design.T @ given
    lean = np.zeros((len(seen), len(names)))
    for i, o in enumerate(seen):
        reading = counting.get(o.place)
        if reading is not None:
            lean[i, names.index(reading.instrument.value)] = lever(reading.instrument, as_read(reading))
            missed[i] += reading.reads_long
    residuals = missed - design @ inner @ design.T @ given @ missed
    redundancy = np.diag(projected) * sigmas**2
    if any(
        abs(r) > NO_BLUNDER * s * math.sqrt(max(q, 1e-9))
        for r, s, q in zip(residuals, sigmas, redundancy, strict=True)
        if q > 1e-6
    ):
        return
    weight += lean.T @ projected @ lean
    pull += lean.T @ projected @ missed
    for i, o in enumerate(seen):
        reading = counting.get(o.place)
        if reading is not None and redundancy[i] > 1e-6:
            n = len(counted(reading))
            _scattered(scatter, reading, float(redundancy[i]), float(residuals[i] ** 2) * n)


def _scattered(scatter: dict[str, list[float]], reading: Reading, n: float, squares: float) -> None:
    usual = PRECISION[reading.instrument].of(as_read(reading)) ** 2
    scatter[reading.instrument.value][0] += n
    scatter[reading.instrument.value][1] += squares / usual


@dataclass(frozen=True, slots=True)
class Reads:
    """How an instrument reads: its bias, mm or mm for a metre; its scatter as a multiple of what is said of it, with its range; after how many readings."""

    bias: Normal
    times: float
    low: float
    high: float
    n: float


def reads(told: Sequence[Checked]) -> dict[Instrument, Reads]:
    """How each instrument reads that any job tells of."""
    names = sorted({name for one in told for name in one.names})
    if not names:
        return {}
    at = {name: i for i, name in enumerate(names)}
    weight = np.diag([bias_before(Instrument(name)).sigma ** -2 for name in names])
    pull = np.zeros(len(names))
    for one in told:
        rows = [at[name] for name in one.names]
        weight[np.ix_(rows, rows)] += np.array(one.weight).reshape(len(rows), len(rows))
        pull[rows] += np.array(one.pull)
    covariance = np.linalg.inv(weight)
    mean = covariance @ pull
    made = {}
    for name, i in at.items():
        n = math.fsum(one.scatter.get(name, (0.0, 0.0))[0] for one in told)
        squares = math.fsum(one.scatter.get(name, (0.0, 0.0))[1] for one in told)
        times = math.sqrt((KNOWN_FROM + squares) / (KNOWN_FROM + n))
        blur = TENTH / math.sqrt(2.0 * (KNOWN_FROM + n))
        bias = Normal(float(mean[i]), math.sqrt(float(covariance[i, i])))
        made[Instrument(name)] = Reads(bias, times, times * math.exp(-blur), times * math.exp(blur), n)
    return made
