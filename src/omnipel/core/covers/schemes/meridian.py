"""The meridian of a turned body's cover: radius and height along the curve from the lower edge to the crown, u outside the body."""

import math
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


def radius_at(brief: Brief, station: Station) -> Worked:
    """Radius of the cover at a station: G/2π + u."""
    return station.girth / (2.0 * math.pi) + brief.u(station.girth)


def walls(body: Turned, brief: Brief) -> list[tuple[Worked, Worked]]:
    """Radius and height of the cover at every station, from the lowest up; the highest lies u above a flat top."""
    made = [(radius_at(brief, s), s.height) for s in body.stations]
    if body.rise is None and len(made) > 1:
        made[-1] = (made[-1][0], made[-1][1] + brief.u(body.stations[-1].girth))
    return made


def meridian(body: Turned, brief: Brief, start: int = 0) -> Meridian:
    """The meridian from a station up to the crown, or to the highest station when the top is flat."""
    rings = [(r.value, h.value) for r, h in walls(body, brief)][start:]
    radius, along = [rings[0][0]], [0.0]
    for (r0, h0), (r1, h1) in zip(rings, rings[1:], strict=False):
        radius.append(r1)
        along.append(along[-1] + math.hypot(r1 - r0, h1 - h0))
    if body.rise is None:
        return Meridian(np.array(radius), np.array(along), along[-1])
    # The dome grows by u with the radius, so that it stays a part of a sphere about the same centre.
    rim, grow = rings[-1][0], rings[-1][0] / body.stations[-1].radius
    rise = body.rise.value * grow
    sphere = sphere_of(rim, rise)
    half = math.atan2(rim, sphere - rise)
    angles = np.linspace(half, 0.0, FINE + 1)[1:]
    dome = sphere * half
    return Meridian(
        np.concatenate((radius, sphere * np.sin(angles))),
        np.concatenate((along, along[-1] + sphere * (half - angles))),
        along[-1] + dome,
    )


def meridian_length(body: Turned, brief: Brief, start: int = 0) -> Worked:
    """Length of the meridian from a mark up to the top, as a number that knows its readings."""
    rings = walls(body, brief)[start:]
    rim_body = body.stations[-1].girth / (2.0 * math.pi)
    rise = body.rise or worked(tr("flat top"), 0.0)

    def along(*values: float) -> float:
        radii, heights, (bare, up) = values[: len(rings)], values[len(rings) : 2 * len(rings)], values[2 * len(rings) :]
        straight = math.fsum(
            math.hypot(r1 - r0, h1 - h0) for r0, r1, h0, h1 in zip(radii, radii[1:], heights, heights[1:], strict=False)
        )
        if up <= 0.0:
            return straight
        lifted = up * radii[-1] / bare
        sphere = sphere_of(radii[-1], lifted)
        return straight + sphere * math.atan2(radii[-1], sphere - lifted)

    inputs = (*(r for r, _ in rings), *(h for _, h in rings), rim_body, rise)
    return through(tr("meridian"), tr("along the curve from the lower edge to the top"), along, *inputs)
