"""Turned body: girths at several heights, and if it is domed the rise of the dome over the highest of them.

Marks are numbered from the lowest; a reading for one more is asked for as soon as the last one is there. The dome is taken as
part of a sphere: radius of the sphere R = (a² + h²)/2h for a rim of radius a and a rise h.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import ClassVar, Final

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion
from omnipel.core.forms.places import half_turn, round_body
from omnipel.core.forms.sections import Section, Station
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Thing
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, closed, loft, ring
from omnipel.core.space.occupied import Occupied, TurnedBody
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Phrase, tr
from omnipel.core.words.working import Worked, worked

MOST_MARKS = 12
SAMPLE = ((0.0, 2590.0), (450.0, 2576.0))
NEXT: Final = 0.15
"""A mark above the highest is sketched so far above it, as a share of the height."""
FLAT_RISE = 1e-3
"""A dome that rises by less is flat to any tape, mm."""


def dome_arc(diameter: float, rise: float) -> float:
    """Over a dome from edge to edge: 2R asin(D/2R), R = (D²/4 + m²)/2m; beyond a half sphere the longer arc.

    >>> round(dome_arc(200.0, 100.0) / 100.0, 6) == round(math.pi, 6)
    True
    """
    if rise <= FLAT_RISE:
        return diameter
    sphere = (diameter * diameter / 4.0 + rise * rise) / (2.0 * rise)
    half = math.asin(min(1.0, diameter / (2.0 * sphere)))
    return 2.0 * sphere * (half if rise <= diameter / 2.0 else math.pi - half)


def along_side(low: float, high: float, below: float, above: float) -> float:
    """Along the side between two marks of those diameters and heights: √(Δh² + Δr²)."""
    return math.hypot(above - below, (high - low) / 2.0)


@dataclass(frozen=True, slots=True)
class Turned:
    """A measured turned body: marks from the lowest up, and the rise of its dome."""

    ability: ClassVar[Ability] = Ability.TURNED

    stations: tuple[Station, ...]
    rise: Worked | None
    sections: tuple[Section, ...]

    @property
    def top(self) -> float:
        """Height of the highest point above the lowest mark, mm."""
        return self.stations[-1].height.value + (self.rise.value if self.rise else 0.0)

    def profile(self, steps: int) -> tuple[tuple[float, float], ...]:
        """Radius and height from the lowest mark up, the dome in so many steps to its crown."""
        made = [(s.radius, s.height.value) for s in self.stations]
        if not self.rise:
            return tuple(made) if len(made) > 1 else (*made, (made[0][0], made[0][1] + 1.0))
        a, h = self.stations[-1].radius, self.rise.value
        sphere = (a * a + h * h) / (2.0 * h)
        middle, half = self.top - sphere, math.atan2(a, sphere - h)
        angles = (half * (1.0 - k / steps) for k in range(1, steps + 1))
        return (*made, *((sphere * math.sin(angle), middle + sphere * math.cos(angle)) for angle in angles))

    @property
    def occupied(self) -> Occupied:
        """The body from its lowest mark up."""
        return TurnedBody(np.array(self.profile(96)))

    def mesh(self) -> Mesh:
        """Its surface."""
        return loft([ring(max(r, 0.02 * self.stations[-1].radius), z, 36) for r, z in self.profile(8)])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        kind, _, number = place.partition(".")
        last = self.stations[-1]
        out = last.radius * 1.05
        if place == "rise":
            crown = self.top if self.rise else self._at(len(self.stations))[1]
            return np.array([(out, 0.0, last.height.value), (out, 0.0, crown)])
        if place == "whole":
            return np.array([(out, 0.0, 0.0), (out, 0.0, self.top)])
        if place == "over":
            across = np.linspace(-1.0, 1.0, 25)
            rise = self.rise.value if self.rise else 0.0
            high = last.height.value + rise * np.sqrt(np.clip(1.0 - across**2, 0.0, 1.0)) * 1.01
            return np.column_stack((across * last.radius * 1.01, np.zeros(25), high))
        k = int(number) - 1 if number.isdigit() else -1
        if k < 0:
            return np.empty((0, 3))
        (r, z), (under, below) = self._at(k), self._at(max(0, k - 1))
        if kind == "girth":
            return closed(ring(r * 1.01, z))
        if kind == "across":
            return np.array([(-r, 0.0, z), (r, 0.0, z)])
        if kind == "side":
            return np.array([(under * 1.02, 0.0, below), (r * 1.02, 0.0, z)])
        out = max(r, under) * 1.05
        return np.array([(out, 0.0, self.stations[0].height.value), (out, 0.0, max(z, 1.0))])

    def _at(self, k: int) -> tuple[float, float]:
        """Radius and height of a mark; one that has not been measured yet would lie above the highest: half way up the dome, or where the body goes on."""
        if k < len(self.stations):
            return self.stations[k].radius, self.stations[k].height.value
        last = self.stations[-1]
        if not self.rise:
            return last.radius, last.height.value + NEXT * max(last.height.value, last.radius)
        r, z = np.array(self.profile(16)).T
        half = (last.height.value + self.top) / 2.0
        return float(np.interp(half, z[len(self.stations) - 1 :], r[len(self.stations) - 1 :])), half


def marks_of(readings: Sequence[Reading]) -> int:
    """How many marks have been measured at, at least one."""
    numbers = [
        int(n)
        for r in readings
        for kind, _, n in [r.place.partition(".")]
        if kind in ("girth", "across", "height") and n.isdigit()
    ]
    return min(MOST_MARKS, max(numbers, default=1))


def domed(readings: Sequence[Reading]) -> bool:
    """Whether a dome has been measured."""
    return any(r.place in ("rise", "whole", "over") for r in readings)


def sample_of(k: int) -> tuple[float, float]:
    """A plausible height and girth at mark `k`."""
    return SAMPLE[k - 1] if k <= len(SAMPLE) else (450.0 + 150.0 * (k - 2), 2300.0)


def parts(readings: Sequence[Reading], thing: Thing) -> tuple[Part, ...]:
    """Diameter and height of every mark; of the first two at least unless it is a dome alone."""
    count = max(marks_of(readings), 1 if domed(readings) else 2)
    made = []
    for k in range(1, count + 1):
        height, girth = sample_of(k)
        made.append(Part(f"diameter.{k}", tr("diameter at mark {k}", k=Count(k)), girth / math.pi, usual=(40.0, 12_000.0)))
        if k > 1:
            made.append(Part(f"height.{k}", tr("height of mark {k}", k=Count(k)), height))
    return (*made, Part("rise", tr("rise of the dome"), 320.0, needed=False))


def places(readings: Sequence[Reading], thing: Thing) -> tuple[Place, ...]:
    """Girth and height of every mark, and of one more; the dome; then other ways and checks."""
    count = max(marks_of(readings), 1 if domed(readings) else 2)
    made = [place for k in range(1, min(MOST_MARKS, count + 1) + 1) for place in _at_mark(k, further=k > count)]
    made.append(RISE)
    made += [_across(k) for k in range(1, count + 1)]
    made += [_along(k) for k in range(2, count + 1)]
    made += _dome(count)
    return tuple(made)


RISE = Place(
    "rise",
    tr("rise of the dome"),
    tr("From the highest mark straight up to the crown; leave it out when the top is flat."),
    320.0,
    ("rise",),
    effort=1.5,
)


def _at_mark(k: int, *, further: bool) -> Iterator[Place]:
    """Girth and height of a mark; a `further` one is more trouble, so that it is not asked for."""
    height, girth = sample_of(k)
    number, effort = Count(k), 2.0 if further else 1.0
    around = tr("Around, level, at a marked height; marks from the lowest up.")
    on = (f"diameter.{k}",)
    yield Place(f"girth.{k}", tr("girth at mark {k}", k=number), around, girth, on, round_body, half_turn, effort=effort)
    if k > 1:
        up = tr("From the lowest mark straight up to this one.")
        yield Place(f"height.{k}", tr("height of mark {k}", k=number), up, height, (f"height.{k}",), effort=effort)


def _across(k: int) -> Place:
    """Straight across at a mark."""
    return Place(
        f"across.{k}",
        tr("across at mark {k}", k=Count(k)),
        tr("Straight across at that mark, with a straightedge on both sides."),
        sample_of(k)[1] / math.pi,
        (f"diameter.{k}",),
        instrument=Instrument.STRAIGHTEDGE,
        effort=2.0,
        asked=False,
    )


def _along(k: int) -> Place:
    """Along the side from the mark below up to a mark."""
    return Place(
        f"side.{k}",
        tr("along the side up to mark {k}", k=Count(k)),
        tr("Flat on the side from the mark below straight up to this one, as the cloth will lie."),
        sample_of(k)[0] - sample_of(k - 1)[0],
        (f"diameter.{k - 1}", f"diameter.{k}", *((f"height.{k - 1}",) if k > 2 else ()), f"height.{k}"),
        along_side if k > 2 else (lambda low, high, up: along_side(low, high, 0.0, up)),
        effort=1.3,
        asked=False,
    )


def _dome(count: int) -> Iterator[Place]:
    """Other ways to measure a dome over the highest of so many marks."""
    yield Place(
        "whole",
        tr("height up to the crown"),
        tr("From the lowest mark straight up to the level of the crown, a straightedge lying on it."),
        770.0,
        (f"height.{count}", "rise") if count > 1 else ("rise",),
        (lambda height, rise: height + rise) if count > 1 else (lambda rise: rise),
        effort=1.6,
        asked=False,
    )
    yield Place(
        "over",
        tr("over the dome"),
        tr("From the highest mark over the crown to the same mark on the other side."),
        1120.0,
        (f"diameter.{count}", "rise"),
        dome_arc,
        effort=1.4,
        asked=False,
    )


def build(measured: Measured) -> Turned:
    """A turned body from its parts.

    Raises:
        Impossible: marks are not in order of height.
    """
    stations = [Station(worked(tr("lowest mark"), 0.0), measured["diameter.1"] * math.pi)]
    k = 2
    while f"diameter.{k}" in measured.numbers:
        stations.append(Station(measured[f"height.{k}"], measured[f"diameter.{k}"] * math.pi))
        if stations[-1].height.value <= stations[-2].height.value:
            raise Impossible(tr("mark {k} is not higher than the one below it", k=Count(k)), refs.reading(f"height.{k}"))
        k += 1
    rise = measured.get("rise")
    rise = rise if rise is not None and rise.value > FLAT_RISE else None
    top = stations[-1].height + (rise if rise else worked(tr("flat top"), 0.0))
    sections = [Section(0.0, worked(tr("crown"), FLAT_RISE))] if rise else []
    sections += [Section(top.value - s.height.value, s.girth) for s in reversed(stations)]
    return Turned(tuple(stations), rise, tuple(sections))


def best_scheme(values: Mapping[str, float], thing: Thing) -> tuple[str, Phrase]:
    """What the answers about a turned body speak for."""
    if "rise" in values:
        return "gores", tr("Domed: petals follow a dome, bands only come near.")
    return "bands", tr("No dome: bands follow the marks exactly.")


FORM = Form(
    "turned",
    tr("Turned body"),
    tr("Round, its girth changing with height, perhaps domed: settling tank, churn, urn."),
    frozenset({Ability.TURNED}),
    parts,
    places,
    build,
    dropped_over=True,
    proportions=(
        *(Proportion(f"diameter.{k + 1}", f"diameter.{k}", 0.12, 6.0) for k in range(1, MOST_MARKS)),
        *(Proportion(f"height.{k}", "diameter.1", 0.005, 8.0) for k in range(2, MOST_MARKS + 1)),
        Proportion("rise", "diameter.1", 0.01, 2.0),
    ),
    best_scheme=best_scheme,
)
