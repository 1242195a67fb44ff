"""The meridian of a turned body's cover: radius and height along the curve from the lower edge to the crown, u outside the body."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Brief
from omnipel.core.forms.abilities import Turned
from omnipel.core.forms.sections import Station
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, through, worked

FINE = 160
"""Points along a dome: its length is then true to 1e-5."""


@dataclass(frozen=True)
class Meridian:
    """Points of the meridian: `radius` and `along` (length from the lower edge), `(n,)` each, mm; `length` is exact."""

    radius: NDArray[np.float64]
    along: NDArray[np.float64]
    length: float


def sphere_of(rim: float, rise: float) -> float:
    """Radius of the sphere whose cap has this rim radius and rise: (a² + h²)/2h."""
    return (rim * rim + rise * rise) / (2.0 * rise)


def dome_of(rim: float, rise: float) -> tuple[float, float]:
    """Radius of a dome's sphere, and the angle at its centre from the crown to the rim, radians."""
    sphere = sphere_of(rim, rise)
    return sphere, math.atan2(rim, sphere - rise)


def radius_at(brief: Brief, station: Station) -> Worked:
    """Radius of the cover at a station: G/2π + u."""
    return station.girth / (2.0 * math.pi) + brief.u(station.girth)


def walls(body: Turned, brief: Brief) -> list[tuple[Worked, Worked]]:
    """Radius and height of the cover at every station, from the lowest up; the highest lies u above a flat top."""
    made = [(radius_at(brief, s), s.height) for s in body.stations]
    if body.rise is None and len(made) > 1:
        made[-1] = (made[-1][0], made[-1][1] + brief.u(body.stations[-1].girth))
    return made


def rise_of(body: Turned, brief: Brief) -> Worked | None:
    """Rise of the cover's dome: u over the body's crown as its rim is u outside the body's, so that no part of the dome lies nearer than the rim."""
    return body.rise + brief.u(body.stations[-1].girth) if body.rise is not None else None


@dataclass(frozen=True)
class Profile:
    """What the meridian of a cover follows: its rings from the lowest up (radius and height), and the cover's dome over them."""

    rings: tuple[tuple[Worked, Worked], ...]
    rise: Worked

    @classmethod
    def over(cls, body: Turned, brief: Brief, rings: Sequence[tuple[Worked, Worked]]) -> "Profile":
        """From the lowest of some rings up to the crown, or to the highest mark when the top is flat."""
        return cls(tuple(rings), rise_of(body, brief) or worked(tr("flat top"), 0.0))

    @property
    def _inputs(self) -> tuple[Worked, ...]:
        """Radii, then heights of the rings, then the rise of the cover's dome (0 for a flat top)."""
        return (*(r for r, _ in self.rings), *(h for _, h in self.rings), self.rise)

    def meridian(self) -> Meridian:
        """The curve itself."""
        return traced(len(self.rings), *(number.value for number in self._inputs))

    def length(self) -> Worked:
        """Length of the meridian, as a number that knows its readings."""
        how = tr("along the curve from the lower edge to the top")
        return through(tr("meridian"), how, lambda *at: traced(len(self.rings), *at).length, *self._inputs)

    def petal_edge(self, gores: int) -> Worked:
        """Length of the edge of a flat petal, one of `gores`: half-width π r(σ)/n at meridian length σ."""

        def edge(*at: float) -> float:
            line = traced(len(self.rings), *at)
            return float(np.hypot(np.diff(line.radius * (math.pi / gores)), np.diff(line.along)).sum())

        return through(tr("edge of a gore"), tr("flat petal, along its edge"), edge, *self._inputs)


def traced(n: int, *values: float) -> Meridian:
    """The meridian over `n` rings from plain numbers: radii, heights, the rise of the cover's dome, mm."""
    radii, heights, (rise,) = values[:n], values[n : 2 * n], values[2 * n :]
    radius, along = [radii[0]], [0.0]
    for r0, r1, h0, h1 in zip(radii, radii[1:], heights, heights[1:], strict=False):
        radius.append(r1)
        along.append(along[-1] + math.hypot(r1 - r0, h1 - h0))
    if rise <= 0.0:
        return Meridian(np.array(radius), np.array(along), along[-1])
    sphere, half = dome_of(radii[-1], rise)
    angles = np.linspace(half, 0.0, FINE + 1)[1:]
    return Meridian(
        np.concatenate((radius, sphere * np.sin(angles))),
        np.concatenate((along, along[-1] + sphere * (half - angles))),
        along[-1] + sphere * half,
    )
