"""Readings adjusted to one another: observations of unknowns, solved by weighted least squares.

Glossary. *Unknown*: what a form is made of (a diameter, a rise). *Observation*: one reading with its σ and what it would read for given
unknowns; a form's prior knowledge of an unknown is an observation too. *Slope*: the change of an unknown for a change of 1 in a reading.
*Redundancy* of an observation: the share of its own error that shows in its residual, 0 (nothing checks it) to 1. *Normalised residual*:
|residual| / its own σ; above a limit of 3.3 (1 in 1000 on a good job), or more where many observations are checked, an observation contradicts the
others.

Source of the formulas: the Gauss–Markov model, x̂ = (AᵀPA)⁻¹AᵀPl, iterated (Gauss–Newton) because a string or a part girth is no straight line;
residual cofactors Q_vv = P⁻¹ − A(AᵀPA)⁻¹Aᵀ. The limit for k checked observations is Bonferroni's: z(1 − α/2k).
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from statistics import NormalDist
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.tolerances import CONTRADICTION, FALSE_ALARM, SAME_POINT, SLOPE_STEP

Matrix = NDArray[np.float64]

STEPS: Final = 25
"""Gauss–Newton ends long before; more steps mean that the observations cannot be met at all."""
SETTLED: Final = 1e-10
"""Share of the largest unknown by which the last step still moves it."""
CHECKED: Final = 1e-6
"""A redundancy below this is rounding: nothing checks the observation."""
RANK: Final = 1e-9
"""Singular values below this share of the largest are rounding: their direction is not observed."""


@dataclass(frozen=True, slots=True)
class Unknown:
    """One number a form is made of: where the search starts, and what it cannot fall below, mm."""

    key: str
    start: float
    low: float = 0.0


@dataclass(frozen=True, slots=True)
class Observation:
    """What was read: the place, value and σ in mm, on which unknowns it depends, and what it would read for given ones."""

    place: str
    value: float
    sigma: float
    on: tuple[str, ...]
    reads: Callable[..., float]


@dataclass(frozen=True)
class Adjusted:
    """What the observations come to.

    Args:
        values: every unknown that is determined, mm.
        sigmas: σ of each.
        slopes: unknown → place → slope.
        residuals: place → normalised residual; None where nothing checks the observation.
        redundancies: place → its redundancy.
        held: unknowns that would fall below their bound and are held there.
    """

    values: Mapping[str, float]
    sigmas: Mapping[str, float]
    slopes: Mapping[str, Mapping[str, float]]
    residuals: Mapping[str, float | None]
    redundancies: Mapping[str, float]
    held: frozenset[str]

    @property
    def worst(self) -> float:
        """The largest normalised residual; 0 when nothing is checked."""
        return max((r for r in self.residuals.values() if r is not None), default=0.0)

    @property
    def limit(self) -> float:
        """The normalised residual above which an observation contradicts the others."""
        checked = sum(r is not None for r in self.residuals.values())
        return max(CONTRADICTION, NormalDist().inv_cdf(1.0 - FALSE_ALARM / (2.0 * checked))) if checked else CONTRADICTION

    @property
    def contradicts(self) -> bool:
        """Whether an observation cannot be right beside the others."""
        return self.worst > self.limit


def adjust(unknowns: Sequence[Unknown], observations: Sequence[Observation], *, bounded: bool = True) -> Adjusted:
    """Solve for the unknowns. Those that no observation determines are left out of the result.

    Args:
        unknowns: what is looked for.
        observations: what was read, and what is known beforehand.
        bounded: whether bounds hold. Contradictions are looked for without them: a bound would push its own misfit onto good readings.
    """
    solution = _solve(unknowns, observations, {})
    return within_bounds(solution, unknowns, observations) if bounded else solution


def within_bounds(solution: Adjusted, unknowns: Sequence[Unknown], observations: Sequence[Observation]) -> Adjusted:
    """A solution as it is when no unknown falls below its bound, else solved again with those held there."""
    held: dict[str, float] = {}
    while low := [u for u in unknowns if u.key not in held and solution.values.get(u.key, u.low) < u.low - SAME_POINT]:
        held |= {u.key: u.low for u in low}
        solution = _solve([u for u in unknowns if u.key not in held], observations, held)
    return solution


def _solve(unknowns: Sequence[Unknown], observations: Sequence[Observation], held: Mapping[str, float]) -> Adjusted:
    """One adjustment with some unknowns held at their bounds."""
    keys = [u.key for u in unknowns]
    at = np.array([u.start for u in unknowns])
    seen = [o for o in observations if all(key in keys or key in held for key in o.on)]
    weights = np.array([1.0 / o.sigma for o in seen])
    design = np.zeros((len(seen), len(keys)))
    for _ in range(STEPS):
        known = {**held, **dict(zip(keys, at.tolist(), strict=True))}
        design = _design(seen, keys, known)
        misfit = np.array([o.value - o.reads(*(known[key] for key in o.on)) for o in seen])
        step = _least_squares(design * weights[:, None], misfit * weights)
        # A step never more than halves or trebles a positive unknown: far starts stay where the rules are defined.
        ahead = at + step
        at = np.where(at > 0.0, np.clip(ahead, np.minimum(at * 0.3, ahead.clip(min=0.0)), np.maximum(at * 3.0, 1.0)), ahead)
        if np.abs(step).max(initial=0.0) <= SETTLED * max(1.0, np.abs(at).max(initial=0.0)):
            break
    known = {**held, **dict(zip(keys, at.tolist(), strict=True))}
    design = _design(seen, keys, known)
    return _result(seen, keys, known, held, design, weights)


def design_at(seen: Sequence[Observation], keys: Sequence[str], known: Mapping[str, float]) -> tuple[Matrix, Matrix, Matrix]:
    """How observations move with unknowns at given values of these, `(observations, unknowns)`; what each is more than they say; and their σ, mm."""
    missed = np.array([o.value - o.reads(*(known[key] for key in o.on)) for o in seen])
    return _design(seen, keys, known), missed, np.array([o.sigma for o in seen])


def _design(seen: Sequence[Observation], keys: Sequence[str], known: Mapping[str, float]) -> Matrix:
    """∂reading/∂unknown, `(observations, unknowns)`, by central differences of the very rules that predict."""
    column = {key: i for i, key in enumerate(keys)}
    made = np.zeros((len(seen), len(keys)))
    for row, o in enumerate(seen):
        values = [known[key] for key in o.on]
        for i, key in enumerate(o.on):
            if key not in column:
                continue
            step = SLOPE_STEP * max(1.0, abs(values[i]))
            up = o.reads(*values[:i], values[i] + step, *values[i + 1 :])
            down = o.reads(*values[:i], values[i] - step, *values[i + 1 :])
            made[row, column[key]] += (up - down) / (2.0 * step)  # a rule may ask for the same unknown twice
    return made


def _least_squares(design: Matrix, misfit: Matrix) -> Matrix:
    if not design.size:
        return np.zeros(design.shape[1])
    return np.asarray(np.linalg.lstsq(design, misfit, rcond=RANK)[0])


def _result(
    seen: Sequence[Observation],
    keys: Sequence[str],
    known: Mapping[str, float],
    held: Mapping[str, float],
    design: Matrix,
    weights: Matrix,
) -> Adjusted:
    scaled = design * weights[:, None]
    if design.size:
        u, s, vt = np.linalg.svd(scaled, full_matrices=True)
        rank = int((s > RANK * s[0]).sum()) if len(s) and s[0] > 0 else 0
        unseen = vt[rank:]
        inverse = (vt[:rank].T / s[:rank]) @ u[:, :rank].T  # pseudo-inverse of the scaled design
    else:
        unseen, inverse = np.eye(len(keys)), np.zeros((len(keys), len(seen)))
    determined = [float(np.abs(unseen[:, i]).max(initial=0.0)) < 1e-6 for i in range(len(keys))]
    cofactor = inverse @ inverse.T
    slopes = inverse * weights[None, :] if len(seen) else inverse
    hat = scaled @ inverse
    residuals: dict[str, float | None] = {}
    redundancies: dict[str, float] = {}
    for row, o in enumerate(seen):
        redundancy = max(0.0, 1.0 - float(hat[row, row]))
        redundancies[o.place] = redundancy
        missing = o.value - o.reads(*(known[key] for key in o.on))
        residuals[o.place] = abs(missing) / (o.sigma * math.sqrt(redundancy)) if redundancy > CHECKED else None
    values = {key: known[key] for key, sure in zip(keys, determined, strict=True) if sure} | dict(held)
    sigmas = {
        key: math.sqrt(max(0.0, float(cofactor[i, i])))
        for i, (key, sure) in enumerate(zip(keys, determined, strict=True))
        if sure
    } | dict.fromkeys(held, 0.0)
    by_place = {
        key: {o.place: float(slopes[i, row]) for row, o in enumerate(seen) if abs(slopes[i, row]) > 1e-12}
        for i, key in enumerate(keys)
        if determined[i]
    } | {key: {} for key in held}
    return Adjusted(values, sigmas, by_place, residuals, redundancies, frozenset(held))


def predicted(solved: Adjusted, others: Sequence[Observation], asked: Observation) -> tuple[float, float] | None:
    """What the other observations, solved, say a place should read, and the σ of that against a reading taken there; None when they do not say."""
    if any(key not in solved.values for key in asked.on):
        return None
    at = [solved.values[key] for key in asked.on]
    expected = asked.reads(*at)
    keys = list(dict.fromkeys(asked.on))
    design = _design([asked], keys, dict(zip(asked.on, at, strict=True)))[0]
    moves: dict[str, float] = {}
    for key, slope in zip(keys, design, strict=True):
        for place, inner in solved.slopes[key].items():
            moves[place] = moves.get(place, 0.0) + float(slope) * inner
    sigmas = {o.place: o.sigma for o in others}
    variance = math.fsum((moves[place] * sigmas[place]) ** 2 for place in moves)
    return expected, math.sqrt(variance + asked.sigma**2)
