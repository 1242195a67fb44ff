"""The chance that several things go well together: that every one of some linear combinations of normal errors stays in its margin."""

import math
from functools import cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

PAIRS: Final = 4096
"""Draws, each with its mirror image; the chance is then good to about 0.005."""
SEED: Final = 20_261
"""Always the same draws, so that the same job always has the same chance."""
ONE_LINE: Final = 1e-9
"""Second singular value below this share of the first: all combinations are multiples of one."""

NEVER: Final = 6.0
"""So many σ are never used up: 1 in 1 000 000 000."""


def together(margins: NDArray[np.float64], slopes: NDArray[np.float64], sigmas: NDArray[np.float64]) -> float:
    """The chance that `margins + slopes · errors` is nowhere negative.

    Args:
        margins: `(k,)`, what is left at each place.
        slopes: `(k, m)`, how each place moves with each error.
        sigmas: `(m,)`, σ of the errors, normal and independent.

    >>> together(np.array([1.0]), np.array([[1.0]]), np.array([1.0])) - 0.8413447 < 1e-6
    True
    """
    spread = slopes * sigmas
    strength = np.linalg.norm(spread, axis=1)
    if (margins[strength == 0.0] < 0.0).any():
        return 0.0
    counts = (strength > 0.0) & (margins < NEVER * strength)
    margins, spread = margins[counts], spread[counts]
    if not len(margins):
        return 1.0
    _, strength, direction = np.linalg.svd(spread, full_matrices=False)
    if len(strength) == 1 or strength[1] <= ONE_LINE * strength[0]:
        return _along(margins, spread @ direction[0])
    return float(((margins + _draws(spread.shape[1]) @ spread.T) >= 0.0).all(axis=1).mean())


def _along(margins: NDArray[np.float64], moves: NDArray[np.float64]) -> float:
    """The chance when everything moves with one standard normal number: between the nearest bounds on both sides."""
    bounds = -margins / moves
    low = float(bounds[moves > 0.0].max(initial=-math.inf))
    high = float(bounds[moves < 0.0].min(initial=math.inf))
    return max(0.0, _below(high) - _below(low))


def _below(z: float) -> float:
    """The standard normal distribution function."""
    return 0.5 * math.erfc(-z / math.sqrt(2.0))


@cache
def _draws(m: int) -> NDArray[np.float64]:
    """Standard normal numbers `(2 · PAIRS, m)`, in mirrored pairs."""
    half = np.random.default_rng(SEED).standard_normal((PAIRS, m))
    made = np.concatenate((half, -half))
    made.setflags(write=False)
    return made
