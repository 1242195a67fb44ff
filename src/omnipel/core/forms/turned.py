"""Turned body: girths at several heights, and if it is domed the rise of the dome over the highest of them.

Stations are numbered from the lowest; a reading for one more is asked for as soon as the last one is there. The dome is taken as
part of a sphere: radius of the sphere R = (a² + h²)/2h for a rim of radius a and a rise h.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding, Impossible
from omnipel.core.forms.body import Form, MissingReading, Section, Taken, Wanted
from omnipel.core.forms.mesh import Mesh, Solid, closed, loft, ring
from omnipel.core.forms.thing import Thing
from omnipel.core.tape.readings import Reading
from omnipel.core.working import Worked, worked

MOST_STATIONS = 12
SAMPLE = ((0.0, 2590.0), (450.0, 2576.0))


@dataclass(frozen=True, slots=True)
class Station:
    """A girth at a height above the lower edge of the cover."""

    height: Worked
    girth: Worked

    @property
    def radius(self) -> float:
        """Of the body there, mm."""
        return self.girth.value / (2.0 * math.pi)


@dataclass(frozen=True, slots=True)
class Turned:
    """A measured turned body: stations from the lowest up, and the rise of its dome."""

    stations: tuple[Station, ...]
    rise: Worked | None
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]

    @property
    def top(self) -> float:
        """Height of the highest point above the lowest station, mm."""
        return self.stations[-1].height.value + (self.rise.value if self.rise else 0.0)

    def mesh(self) -> Mesh:
        """Its surface."""
        rings = [ring(s.radius, s.height.value, 28) for s in self.stations]
        if self.rise:
            a, h, base = self.stations[-1].radius, self.rise.value, self.stations[-1].height.value
            sphere = (a * a + h * h) / (2.0 * h)
            for k in range(1, 6):
                angle = math.asin(min(1.0, a / sphere)) if h <= a else math.pi - math.asin(min(1.0, a / sphere))
                here = angle * (1.0 - k / 5.5)
                rings.append(ring(sphere * math.sin(here), base + h - sphere * (1.0 - math.cos(here)), 28))
        if len(rings) == 1:
            rings.append(ring(self.stations[0].radius, self.stations[0].height.value + 1.0, 28))
        return loft(rings)

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        kind, _, number = place.partition(".")
        if place == "rise":
            base = self.stations[-1].height.value
            out = self.stations[-1].radius * 1.05
            return np.array([(out, 0.0, base), (out, 0.0, self.top)])
        k = int(number) - 1 if number.isdigit() else -1
        if not 0 <= k < len(self.stations):
            return np.empty((0, 3))
        station = self.stations[k]
        if kind == "girth":
            return closed(ring(station.radius * 1.01, station.height.value))
        out = station.radius * 1.05
        return np.array([(out, 0.0, self.stations[0].height.value), (out, 0.0, max(station.height.value, 1.0))])


def wanted(readings: Sequence[Reading]) -> tuple[Wanted, ...]:
    """Height and girth of each station taken, of the first two at least unless it is a dome alone, and one more as helpful."""
    places = {reading.place for reading in readings}
    count = sum(f"girth.{k}" in places for k in range(1, MOST_STATIONS + 1))
    asked: list[Wanted] = []
    for k in range(1, min(MOST_STATIONS, max(2, count + 1)) + 1):
        sample = SAMPLE[k - 1] if k <= len(SAMPLE) else (450.0 + 150.0 * (k - 2), 2300.0)
        needed = k == 1 or (k == 2 and "rise" not in places) or f"girth.{k}" in places or f"height.{k}" in places
        girth = Wanted(
            f"girth.{k}",
            f"girth at station {k}",
            "Around, level, at a marked height; stations from the lowest up.",
            sample[1],
            needed,
        )
        asked.append(girth)
        if k > 1:
            how = "From the lowest station straight up to this one."
            asked.append(Wanted(f"height.{k}", f"height of station {k}", how, sample[0], needed))
    rise = Wanted(
        "rise",
        "rise of the dome",
        "From the highest station straight up to the crown; leave it out when the top is flat.",
        320.0,
        False,
    )
    return (*asked, rise)


def measure(taken: Taken, thing: Thing) -> Turned:
    """A turned body from its readings.

    Raises:
        MissingReading: a station lacks its girth or height.
        Impossible: stations are not in order of height.
    """
    stations = [Station(worked("lowest station", 0.0), taken["girth.1"])]
    for k in range(2, MOST_STATIONS + 1):
        if f"girth.{k}" in taken or f"height.{k}" in taken:
            stations.append(Station(taken[f"height.{k}"], taken[f"girth.{k}"]))
            if stations[-1].height.value <= stations[-2].height.value:
                raise Impossible(f"station {k} is not higher than the one below it", f"readings.height.{k}")
    rise = taken.get("rise")
    if len(stations) == 1 and rise is None:
        raise MissingReading("girth.2", "girth at station 2")
    top = stations[-1].height + (rise if rise else worked("flat top", 0.0))
    sections = [Section(0.0, worked("crown", 1e-3))] if rise else []
    sections += [Section(top.value - s.height.value, s.girth) for s in reversed(stations)]
    return Turned(tuple(stations), rise, tuple(sections), ())


FORM = Form(
    "turned", "Turned body", "Round, its girth changing with height, perhaps domed: settling tank, churn, urn.", wanted, measure
)
