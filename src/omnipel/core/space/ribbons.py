"""Ribbons: webbing, tape and cords of a width that hang on a sewn cover, bought by their length and not cut from a panel."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Frame, Solid

BENDS = 32
"""A bow is drawn by so many straight parts."""


@dataclass(frozen=True, eq=False)
class Ribbon:
    """A strip along a line in space.

    Args:
        name: what it is called.
        line: its middle, `(n, 3)`, mm.
        across: the direction of its width, a unit vector.
        wide: its width, mm.
    """

    name: str
    line: Solid
    across: NDArray[np.float64]
    wide: float

    @property
    def length(self) -> float:
        """Along its middle, mm."""
        return float(np.linalg.norm(np.diff(self.line, axis=0), axis=1).sum())

    @property
    def faces(self) -> list[Solid]:
        """Flat faces, one for each straight part, seen from both sides."""
        half = self.across * (self.wide / 2.0)
        parts = [np.array((a - half, b - half, b + half, a + half)) for a, b in zip(self.line, self.line[1:], strict=False)]
        return [*parts, *(part[::-1] for part in parts)]


def in_frame(name: str, frame: Frame, line: Points, wide: float) -> Ribbon:
    """A ribbon whose line lies in a frame's plane, its width square to that."""
    return Ribbon(name, frame.at(line), np.array(frame.out), wide)


def bow(span: float, length: float) -> Points:
    """A circular arc over a chord on the x axis, about the origin, bulging towards y, `(n, 2)`; straight where it is no longer than its chord.

    The half angle θ of the arc solves sin θ / θ = chord / length, by halving.
    """
    if length <= span * (1.0 + 1e-9):
        return np.array([(-span / 2.0, 0.0), (span / 2.0, 0.0)])
    low, high = 0.0, math.pi
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if math.sin(middle) * length > span * middle else (low, middle)
    radius = length / (2.0 * low)
    turns = np.linspace(-low, low, BENDS + 1)
    return np.column_stack((radius * np.sin(turns), radius * (np.cos(turns) - math.cos(low))))
