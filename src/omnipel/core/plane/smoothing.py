"""The shake of a hand taken out of a traced line: the smoothest line that stays as near to its points as asked."""

import math
from typing import Final

import numpy as np

from omnipel.core.plane.curves import Points

APART: Final = 5.0
"""Points of a smoothed line are so far apart, mm."""
FEWEST: Final = 8
STIFFEST: Final = math.log(1e15)
"""A line that is stiffer than this does not bend; the logarithm of it."""
TRIES: Final = 20
"""So often the range in which the stiffness lies is halved."""
POWERS: Final = 4
"""Between its ends an open line follows so many powers of its length unhindered: arcs are not made flatter."""


def smooth(line: Points, reach: float, *, closed: bool = False) -> Points:
    """The smoothest line that leaves points `(n, 2)` by `reach`, mm, as the root of the mean square: points at even steps, ends included.

    Its ends stay where they are; those of one that is `closed` are one point, and it goes on there without a corner. Of all lines so near it is
    the one of which what leaves a simple line (a polynomial; closed: an ellipse) has the least sum of squared second differences (graduation
    after Whittaker, 1923). At even steps that is a factor for every frequency, 1 / (1 + stiffness (2 - 2 cos w)^2).
    """
    runs = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))))
    steps = max(FEWEST, int(runs[-1] / APART)) - 1
    each = max(2, math.ceil(len(line) / steps))
    n = steps * each
    at = np.linspace(0.0, runs[-1], n + 1)
    even = np.column_stack((np.interp(at, runs, line[:, 0]), np.interp(at, runs, line[:, 1])))
    simple = np.zeros_like(even) if closed else _polynomial(even)
    # What is odd about both ends has a sine series only: it is nothing there, however much of it is taken.
    around = even[:-1] if closed else np.concatenate((even - simple, (simple - even)[-2:0:-1]))
    parts = np.fft.rfft(around, axis=0)
    bend = (2.0 - 2.0 * np.cos(2.0 * math.pi * np.arange(len(parts)) / len(around))) ** 2
    if closed:
        bend[:2] = 0.0

    def stiff(log: float) -> Points:
        made = np.fft.irfft(parts / (1.0 + math.exp(log) * bend)[:, None], len(around), axis=0)
        return np.asarray(simple + np.vstack((made, made[:1]))[: n + 1])

    low, high = 0.0, STIFFEST
    for _ in range(TRIES):
        middle = (low + high) / 2.0
        made = stiff(middle)
        off = [np.interp(runs, at, made[:, k]) - line[:, k] for k in (0, 1)]
        low, high = (middle, high) if float(np.mean(off[0] ** 2 + off[1] ** 2)) < reach**2 else (low, middle)
    return stiff(low)[::each]


def _polynomial(line: Points) -> Points:
    """The polynomial between the ends of a line at even steps that comes nearest to it."""
    share = np.linspace(0.0, 1.0, len(line))[:, None]
    straight = line[0] + share * (line[-1] - line[0])
    shapes = share * (1.0 - share) * (2.0 * share - 1.0) ** np.arange(POWERS)
    return np.asarray(straight + shapes @ np.linalg.lstsq(shapes, line - straight, rcond=None)[0])
