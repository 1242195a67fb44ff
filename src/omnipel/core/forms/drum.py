"""Drum: a round body of one girth from top to bottom. Its diameter comes from the tape around it, G/π."""

import math
from dataclasses import dataclass, replace

import numpy as np

from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, disagreement, grown, with_bumps
from omnipel.core.forms.mesh import Mesh, Solid, block, closed, loft, ring
from omnipel.core.forms.thing import SticksOut, Thing
from omnipel.core.working import Worked

WANTED = (
    Wanted(
        "girth",
        "girth",
        "Around the body at its widest, level all the way; over hoops and seams, tape snug but not pulled.",
        1763.0,
    ),
    Wanted("drop", "drop", "From the top edge straight down to where the cover shall end.", 655.0),
    Wanted("height", "height", "From the ground to the top edge.", 720.0, needed=False),
    Wanted(
        "across", "across", "Straight across the top, rim to rim, through the middle. A check on the girth.", 560.0, needed=False
    ),
)


@dataclass(frozen=True, slots=True)
class Drum:
    """A measured drum."""

    girth: Worked
    drop: Worked
    height: Worked
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]
    sticks_out: tuple[SticksOut, ...] = ()

    @property
    def radius(self) -> float:
        """Of the bare body, mm."""
        return self.girth.value / (2.0 * math.pi)

    def mesh(self) -> Mesh:
        """Its surface."""
        height = self.height.value
        body = loft([ring(self.radius, 0.0), ring(self.radius, height)])
        for thing in self.sticks_out:
            x, y, out = self.around(thing)
            body += block(
                (x * 0.97, y * 0.97, height - thing.from_top),
                out,
                thing.reach,
                thing.size,
                thing.size,
                f"sticks out:{thing.name}",
            )
        return body

    def around(self, thing: SticksOut) -> tuple[float, float, float]:
        """Where a thing stands on the wall: x, y, and the direction it points in."""
        out = -math.pi / 2.0 + thing.from_centre / self.radius
        return self.radius * math.cos(out), self.radius * math.sin(out), out

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        r, top = self.radius, self.height.value
        match place:
            case "girth":
                return closed(ring(r * 1.01, top - self.drop.value / 2.0))
            case "drop":
                return np.array([(r * 0.5, -r * 0.87, top), (r * 0.5, -r * 0.87, top - self.drop.value)]) * (1.01, 1.01, 1.0)
            case "height":
                return np.array([(r * 1.03, 0.0, 0.0), (r * 1.03, 0.0, top)])
            case "across":
                return np.array([(-r, 0.0, top), (r, 0.0, top)])
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Drum:
    """A drum from its readings.

    Raises:
        MissingReading: girth or drop has not been taken.
    """
    girth, drop = taken["girth"], taken["drop"]
    height = taken.get("height") or drop
    checks = []
    across = taken.get("across")
    if across is not None:
        found = disagreement(girth, across, "across")
        checks += [found] if found else []
    radius = girth.value / (2.0 * math.pi)
    circle = ring(radius, 0.0, 180)[:, :2]

    plain = Drum(
        girth, drop, height, (Section(0.0, girth), Section(max(drop.value, height.value), girth)), tuple(checks), thing.sticks_out
    )
    sections = with_bumps(plain.sections, thing.sticks_out, lambda _depth, there: grown(circle, girth, there, plain.around))
    return replace(plain, sections=sections)


FORM = Form("drum", "Drum", "Round, the same girth from top to bottom: barrel, extractor, pot, bin.", always(*WANTED), measure)
