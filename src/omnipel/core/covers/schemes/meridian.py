"""The meridian of a turned body's cover: radius and height along the curve from the lower edge to the crown, u outside the body."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Brief
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.shapes import sector
from omnipel.core.forms.abilities import Turned
from omnipel.core.forms.sections import Station
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, through, worked

FINE = 160
"""Points along a dome: its length is then true to 1e-5."""


@dataclass(frozen=True)
class Meridian:
    """Points of the meridian: `radius`, `along` (length from the lower edge) and `height`, `(n,)` each, mm; `length` is exact."""

    radius: NDArray[np.float64]
    along: NDArray[np.float64]
    height: NDArray[np.float64]
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
    """Radius and height of the cover at every station, from the lowest up; the highest is lifted until what lies over it is u away.

    A flat top is lifted by u. A dome's cover is the sphere u outside of the dome's own; the side goes up to where it meets that sphere. Where there is no side,
    or the dome is more than half a ball, the sphere comes down to the rim's own height instead.
    """
    made = [(radius_at(brief, s), s.height) for s in body.stations]
    radius, high = made[-1]
    if body.rise is None:
        up = brief.u(body.stations[-1].girth) if len(made) > 1 else worked(tr("flat top"), 0.0)
    else:
        bare, u, sided = body.stations[-1].girth / (2.0 * math.pi), brief.u(body.stations[-1].girth), len(made) > 1
        how = tr("where the side meets what lies over the dome")
        up = through(tr("lifted over the dome"), how, lambda a, h, gap: lifted(a, h, gap, sided), bare, body.rise, u)
        if not up.value:
            how = tr("what lies over the dome, at the height of its rim")
            radius = through(tr("radius at the rim"), how, lambda a, h, gap: rim_of(a, h, gap), bare, body.rise, u)
    if len(made) > 1 and radius.value > made[-2][0].value and up.value:
        # It widens on as far as it is lifted, or it would lie too near below.
        (below, low), how = made[-2], tr("as it widens on so far up")
        radius = radius + through(
            tr("widens on"), how, lambda r, b, h, z, more: (r - b) / (h - z) * more, radius, below, high, low, up
        )
    made[-1] = (radius, high + up if up.value else high)
    return made


def lifted(rim: float, rise: float, gap: float, sided: bool) -> float:
    """How far above the rim of a dome a side that stands `gap` outside of it meets the sphere `gap` outside of the dome; 0 where it does not."""
    sphere = sphere_of(rim, rise)
    if not sided or rise >= rim:
        return 0.0
    return math.sqrt((sphere + gap) ** 2 - (rim + gap) ** 2) - (sphere - rise)


def rim_of(rim: float, rise: float, gap: float) -> float:
    """Radius at the height of a dome's rim of the sphere `gap` outside of the dome."""
    sphere = sphere_of(rim, rise)
    return math.sqrt((sphere + gap) ** 2 - (sphere - rise) ** 2)


def clear_of(body: Turned, brief: Brief, top: tuple[Worked, Worked]) -> float:
    """How near its cover, whose highest ring is `top`, may come to the body, mm: u is measured level, the gap square to a leaning side is less."""
    steepest = 1.0
    for low, high in pairwise(body.stations):
        across = abs(high.radius - low.radius)
        up = high.height.value - low.height.value
        steepest = min(steepest, up / math.hypot(up, across))
    level = min(brief.u(s.girth).value for s in body.stations) * steepest
    rise = rise_of(body, brief, top[1])
    if rise is None:
        return level
    sphere, half = dome_of(top[0].value, rise.value)
    return level - sphere * (half / FINE) ** 2 / 8.0  # a dome is drawn in chords


def rise_of(body: Turned, brief: Brief, high: Worked) -> Worked | None:
    """Rise of the cover's dome over its ring at the height `high`: u over the body's crown."""
    if body.rise is None:
        return None
    over = body.rise + brief.u(body.stations[-1].girth)
    up = high - body.stations[-1].height
    return over - up if up.value else over


@dataclass(frozen=True)
class Profile:
    """What the meridian of a cover follows: its rings from the lowest up (radius and height), and the cover's dome over them."""

    rings: tuple[tuple[Worked, Worked], ...]
    rise: Worked

    @classmethod
    def over(cls, body: Turned, brief: Brief, rings: Sequence[tuple[Worked, Worked]]) -> "Profile":
        """From the lowest of some rings up to the crown, or to the highest mark when the top is flat."""
        return cls(tuple(rings), rise_of(body, brief, rings[-1][1]) or worked(tr("flat top"), 0.0))

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
        return Meridian(np.array(radius), np.array(along), np.array(heights), along[-1])
    sphere, half = dome_of(radii[-1], rise)
    angles = np.linspace(half, 0.0, FINE + 1)[1:]
    return Meridian(
        np.concatenate((radius, sphere * np.sin(angles))),
        np.concatenate((along, along[-1] + sphere * (half - angles))),
        np.concatenate((heights, heights[-1] + rise - sphere * (1.0 - np.cos(angles)))),
        along[-1] + sphere * half,
    )


def ring_sector(name: str, sizes: tuple[Worked, Worked, Worked], brief: Brief, *, hemmed: bool) -> Panel:
    """A band of a cone, its lower and upper arc and its slant given; sewn all round, or hemmed below."""
    sources = {"left": refs.CLOSING_ALLOWANCE, "right": refs.CLOSING_ALLOWANCE} | ({"bottom": refs.HEM} if hemmed else {})
    below = brief.choices.hem if hemmed else brief.seam
    return sector(name, *sizes, inside=below, outside=brief.seam, sides=brief.closing, sources=sources)
