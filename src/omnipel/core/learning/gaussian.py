"""Unknown errors, normal and independent beforehand, and what has been seen of sums of them: what they are likely to be afterwards.

Glossary. *Unknown*: an error that nobody knows (a reading's, the depth of seams), with the mean and spread it has beforehand. *Sum*: how something moves
with each unknown, by its key. *Seen*: a sum that was measured, with the spread of that measuring. *Band*: a sum of which only is known that it lies between
two bounds, themselves a little blurred ("it struggles").

Source of the formulas: the linear Gaussian model, Λ = Λ₀ + Σ aaᵀ/σ², Λμ = Λ₀μ₀ + Σ a y/σ²; a band is taken in as the normal that has the mean and variance
which the sum has when it is known to lie in the band (moment matching).
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

Sum = Mapping[str, float]
TENTH: Final = 1.2815515655446004
"""Of a normal, one in ten lies beyond so many of its spreads, on either side."""
STEPS, MOST_STEPS = 400, 4000
FAR: Final = -30.0
"""So many spreads out a distribution function is as good as its asymptote."""
REACH: Final = 8.0
"""A band is integrated so many spreads beyond what is likely beforehand, and beyond its own bounds."""
NO_SPREAD: Final = 1e-9
"""A spread below this is none."""


@dataclass(frozen=True, slots=True)
class Normal:
    """A number that is not known for sure: its mean and its spread."""

    mean: float
    sigma: float

    @property
    def range(self) -> tuple[float, float]:
        """Where it lies in eighty of a hundred cases."""
        return self.mean - TENTH * self.sigma, self.mean + TENTH * self.sigma

    def without(self, prior: "Normal") -> "Normal | None":
        """What was seen of it alone, where this is what it came to from `prior`; None when nothing was.

        >>> both = Normal(0.5, 0.5 ** 0.5)
        >>> told = both.without(Normal(0.0, 1.0))
        >>> round(told.mean, 9), round(told.sigma, 9)
        (1.0, 1.0)
        """
        weight = self.sigma**-2 - prior.sigma**-2
        if weight <= NO_SPREAD * prior.sigma**-2:
            return None
        return Normal((self.mean * self.sigma**-2 - prior.mean * prior.sigma**-2) / weight, weight**-0.5)

    def and_seen(self, told: "Normal") -> "Normal":
        """With another that tells of the same number."""
        mine, its = self.sigma**-2, told.sigma**-2
        return Normal((self.mean * mine + told.mean * its) / (mine + its), (mine + its) ** -0.5)


@dataclass(frozen=True, slots=True)
class Unknown:
    """An error that nobody knows: as it is beforehand."""

    key: str
    sigma: float
    mean: float = 0.0


@dataclass(frozen=True)
class Seen:
    """A sum of unknowns that was measured."""

    sum: Sum
    value: float
    sigma: float


@dataclass(frozen=True)
class Band:
    """A sum of unknowns, and `base`, of which is known that it lies between two bounds, each blurred by `blur`."""

    sum: Sum
    base: float
    low: float
    high: float
    blur: float


@dataclass(frozen=True)
class Posterior:
    """What the unknowns are likely to be.

    Args:
        keys: of the unknowns.
        mean: `(n,)`.
        covariance: `(n, n)`.
        evidence: the logarithm of how likely all that was seen was beforehand.
    """

    keys: tuple[str, ...]
    mean: NDArray[np.float64]
    covariance: NDArray[np.float64]
    evidence: float = 0.0

    @cached_property
    def at(self) -> Mapping[str, int]:
        """Where each unknown stands."""
        return {key: i for i, key in enumerate(self.keys)}

    def row(self, of: Sum) -> NDArray[np.float64]:
        """A sum as a row; what is no unknown of this counts for nothing."""
        made = np.zeros(len(self.keys))
        for key, slope in of.items():
            if key in self.at:
                made[self.at[key]] += slope
        return made

    def of(self, sum_: Sum) -> Normal:
        """What a sum is likely to be."""
        row = self.row(sum_)
        return Normal(float(row @ self.mean), math.sqrt(max(0.0, float(row @ self.covariance @ row))))

    def parts(self, sum_: Sum) -> dict[str, float]:
        """What each unknown is likely to bring into a sum."""
        row = self.row(sum_)
        return {key: float(row[i] * self.mean[i]) for key, i in self.at.items() if row[i]}

    def after(self, seen: Seen) -> "Posterior":
        """With one more that was measured."""
        row = self.row(seen.sum)
        lean = self.covariance @ row
        variance = float(row @ lean) + seen.sigma**2
        if variance <= NO_SPREAD**2:
            return self
        missed = seen.value - float(row @ self.mean)
        likely = -0.5 * (missed**2 / variance + math.log(2.0 * math.pi * variance))
        covariance = self.covariance - np.outer(lean, lean) / variance
        return Posterior(self.keys, self.mean + lean * (missed / variance), covariance, self.evidence + likely)

    def within(self, band: Band) -> "Posterior":
        """With one more of which is known where it lies."""
        before = self.of(band.sum)
        if before.sigma < NO_SPREAD:
            return self
        after, likely = _moments(Normal(before.mean + band.base, before.sigma), band)
        row = self.row(band.sum)
        gain = self.covariance @ row / before.sigma**2
        mean = self.mean + gain * (after.mean - band.base - before.mean)
        covariance = self.covariance + np.outer(gain, gain) * (after.sigma**2 - before.sigma**2)
        return Posterior(self.keys, mean, covariance, self.evidence + likely)

    def would_tell(self, seen: Sum, sigma: float, of: Sum) -> float:
        """By how much the variance of one sum would fall if another were measured."""
        row = self.row(seen)
        variance = float(row @ self.covariance @ row) + sigma**2
        return float(self.row(of) @ self.covariance @ row) ** 2 / variance if variance > 0.0 else 0.0


def beforehand(unknowns: Sequence[Unknown]) -> Posterior:
    """The unknowns before anything was seen."""
    sigmas = np.array([unknown.sigma for unknown in unknowns])
    return Posterior(
        tuple(unknown.key for unknown in unknowns), np.array([unknown.mean for unknown in unknowns]), np.diag(sigmas**2)
    )


def mixed(those: Sequence[Posterior], weights: Sequence[float]) -> Posterior:
    """Several that may be true, each with its weight, as the one normal that has their mean and variance."""
    mean = np.sum([w * one.mean for w, one in zip(weights, those, strict=True)], axis=0)
    apart = [w * (one.covariance + np.outer(one.mean - mean, one.mean - mean)) for w, one in zip(weights, those, strict=True)]
    return Posterior(those[0].keys, mean, np.sum(apart, axis=0))


def _moments(before: Normal, band: Band) -> tuple[Normal, float]:
    """Mean and spread of a normal number that is known to lie in a band, and the logarithm of how likely that was; by a sum, in logarithms."""
    ends = [end for end in (band.low, band.high) if math.isfinite(end)]
    low = min(before.mean - REACH * before.sigma, *(end - REACH * band.blur for end in ends))
    high = max(before.mean + REACH * before.sigma, *(end + REACH * band.blur for end in ends))
    step = min(before.sigma, band.blur) / 8.0
    x = np.linspace(low, high, int(min(MOST_STEPS, max(STEPS, (high - low) / step))))
    logs = -0.5 * ((x - before.mean) / before.sigma) ** 2 + _inside(x, band)
    weights = np.exp(logs - logs.max())
    whole = float(weights.sum())
    weights /= whole
    mean = float(weights @ x)
    likely = float(logs.max()) + math.log(whole * float(x[1] - x[0]) / (before.sigma * math.sqrt(2.0 * math.pi)))
    return Normal(mean, math.sqrt(max(NO_SPREAD**2, float(weights @ (x - mean) ** 2)))), likely


def _inside(x: NDArray[np.float64], band: Band) -> NDArray[np.float64]:
    """The logarithm of the chance that each number is told as lying in the band."""
    below = _log_below((band.high - x) / band.blur) if math.isfinite(band.high) else np.zeros_like(x)
    above = _log_below((x - band.low) / band.blur) if math.isfinite(band.low) else np.zeros_like(x)
    return below + above


def _log_below(z: NDArray[np.float64]) -> NDArray[np.float64]:
    """The logarithm of the normal distribution function; far out by its asymptote."""
    root = math.sqrt(2.0)
    near = [
        math.log(0.5 * math.erfc(-at / root)) if at > FAR else -0.5 * at * at - math.log(-at * math.sqrt(2.0 * math.pi))
        for at in z.tolist()
    ]
    return np.array(near)
