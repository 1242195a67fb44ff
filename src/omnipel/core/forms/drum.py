"""Drum: a round body of one girth from top to bottom. Its diameter comes from a tape around it, across it, or over it."""

import math
from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import WAYS, bump, grown, with_bumps
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.places import DIAMETER, STRING_DOWN, half_turn, round_body, string_over
from omnipel.core.forms.sections import Section
from omnipel.core.job.reading import Instrument
from omnipel.core.job.thing import SticksOut
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, closed, loft, ring
from omnipel.core.space.occupied import Occupied, cylinder
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

PARTS = (
    Part(DIAMETER, tr("diameter"), 560.0, usual=(60.0, 4000.0)),
    Part("drop", tr("drop"), 655.0, usual=(30.0, 4000.0)),
    Part("height", tr("height"), 720.0, needed=False, usual=(30.0, 4000.0)),
)
PLACES = (
    Place(
        "girth",
        tr("girth"),
        tr("Around the body at its widest, level all the way; over hoops and seams, tape snug but not pulled."),
        1763.0,
        (DIAMETER,),
        round_body,
        half_turn,
        too_long=tr("something sticks out under the tape"),
    ),
    Place("drop", tr("drop"), tr("From the top edge straight down to where the cover shall end."), 655.0, ("drop",)),
    Place("height", tr("height"), tr("From the ground to the top edge."), 720.0, ("height",), effort=1.5),
    Place(
        "across",
        tr("across"),
        tr("Straight across the top, rim to rim, through the middle, with a straightedge on both sides."),
        560.0,
        (DIAMETER,),
        instrument=Instrument.STRAIGHTEDGE,
        effort=2.0,
        asked=False,
    ),
    Place(
        "string",
        tr("string over the top"),
        tr("Lay a string over the top through its middle and the same way down each side; mark both ends, then measure it."),
        660.0,
        (DIAMETER,),
        lambda down, d: d + 2.0 * down,
        string_over,
        Instrument.STRING,
        STRING_DOWN,
        effort=2.5,
        asked=False,
    ),
    Place(
        "path",
        tr("over the top"),
        tr(
            "From where the cover shall end straight up, over the middle of the top and down to the same height on the other side."
        ),
        1870.0,
        (DIAMETER, "drop"),
        lambda diameter, drop: diameter + 2.0 * drop,
        effort=1.3,
        asked=False,
        too_long=tr("the tape runs over something that stands up on top"),
    ),
    Place(
        "below",
        tr("below the cover"),
        tr("From the ground up to where the cover shall end."),
        65.0,
        ("height", "drop"),
        lambda height, drop: height - drop,
        effort=1.2,
        asked=False,
    ),
)


@dataclass(frozen=True, slots=True)
class Drum:
    """A measured drum."""

    ability: ClassVar[Ability] = Ability.ROUND

    diameter: Worked
    drop: Worked
    height: Worked
    sections: tuple[Section, ...]
    sticks_out: tuple[SticksOut, ...] = ()

    @property
    def girth(self) -> Worked:
        """Around the bare body."""
        return self.diameter * math.pi

    @property
    def radius(self) -> float:
        """Of the bare body, mm."""
        return self.diameter.value / 2.0

    @property
    def ends(self) -> float:
        """Height at which the cover ends, mm."""
        return self.height.value - self.drop.value

    @property
    def occupied(self) -> Occupied:
        """The bare drum."""
        return cylinder(self.radius, 0.0, self.height.value)

    def mesh(self) -> Mesh:
        """Its surface."""
        height = self.height.value
        body = loft([ring(self.radius, 0.0), ring(self.radius, height)])
        for thing in self.sticks_out:
            x, y, out = self.around(thing)
            body += bump(thing, (x * 0.97, y * 0.97, out), height)
        return body

    def around(self, thing: SticksOut, diameter: float = 0.0) -> tuple[float, float, float]:
        """Where a thing stands on the wall: x, y, and the direction it points in."""
        radius = diameter / 2.0 or self.radius
        out = WAYS.get(thing.face, 0.0) + thing.from_centre / radius
        return radius * math.cos(out), radius * math.sin(out), out

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        r, top, low = self.radius, self.height.value, self.height.value - self.drop.value
        down = min(0.12 * top, 0.4 * r)
        match place:
            case "girth":
                return closed(ring(r * 1.01, top - self.drop.value / 2.0))
            case "drop":
                return np.array([(r * 0.5, -r * 0.87, top), (r * 0.5, -r * 0.87, low)]) * (1.01, 1.01, 1.0)
            case "height":
                return np.array([(r * 1.03, 0.0, 0.0), (r * 1.03, 0.0, top)])
            case "below":
                return np.array([(r * 1.03, 0.0, 0.0), (r * 1.03, 0.0, max(low, 0.02 * top))])
            case "across":
                return np.array([(-r, 0.0, top), (r, 0.0, top)])
            case "path":
                out = 1.01 * r
                return np.array([(-out, 0, low), (-out, 0, top), (out, 0, top), (out, 0, low)])
            case "string":
                return np.array([(-r * 1.01, 0, top - down), (-r * 1.01, 0, top), (r * 1.01, 0, top), (r * 1.01, 0, top - down)])
        return np.empty((0, 3))


def build(measured: Measured) -> Drum:
    """A drum from its parts."""
    diameter, drop = measured[DIAMETER], measured["drop"]
    height = measured.get("height") or drop
    girth, things = diameter * math.pi, measured.thing.sticks_out
    plain = Drum(diameter, drop, height, (Section(0.0, girth), Section(max(drop.value, height.value), girth)), things)
    sections = with_bumps(
        plain.sections,
        things,
        lambda around, there: grown(lambda d: ring(d / 2.0, 0.0, 180)[:, :2], (diameter,), around, there, plain.around),
    )
    return replace(plain, sections=sections)


FORM = Form(
    "drum",
    tr("Drum"),
    tr("Round, the same girth from top to bottom: barrel, extractor, pot, bin."),
    frozenset({Ability.ROUND}),
    always(*PARTS),
    always(*PLACES),
    build,
    grows=True,
    dropped_over=True,
    proportions=(Proportion("drop", DIAMETER, 0.08, 12.0), Proportion("height", "drop", 0.9, 6.0)),
)
