"""Bottle: a round body with a neck, flagon, jar, gas bottle; without a neck what it stands in is a plain bag."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar, Final

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion
from omnipel.core.forms.places import DIAMETER, half_turn, round_body
from omnipel.core.forms.sections import Section
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Thing
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, closed, loft, ring
from omnipel.core.space.occupied import Occupied, TurnedBody
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

PLACES = (
    Place("girth", tr("girth"), tr("Around the belly at its widest."), 640.0, (DIAMETER,), round_body, half_turn),
    Place("height", tr("height"), tr("From the table to the very top."), 380.0, ("height",)),
    Place(
        "neck_height",
        tr("height of the neck"),
        tr("From the table to where the ribbon shall be tied; leave it out when there is no neck."),
        250.0,
        ("neck_height",),
        effort=1.2,
    ),
    Place(
        "neck",
        tr("girth of the neck"),
        tr("Around the neck where the ribbon shall be tied; leave it out when there is no neck."),
        190.0,
        ("neck",),
        round_body,
        half_turn,
        effort=1.2,
    ),
    Place(
        "across",
        tr("across"),
        tr("Straight across the bottom, with a straightedge on both sides."),
        203.0,
        (DIAMETER,),
        instrument=Instrument.STRAIGHTEDGE,
        effort=1.3,
        asked=False,
    ),
    Place(
        "neck_across",
        tr("across the neck"),
        tr("Straight across the neck where the ribbon shall be tied."),
        60.0,
        ("neck",),
        instrument=Instrument.RULE,
        effort=1.4,
        asked=False,
    ),
    Place(
        "above",
        tr("above the neck"),
        tr("From where the ribbon shall be tied up to the very top."),
        130.0,
        ("height", "neck_height"),
        lambda height, neck: height - neck,
        effort=1.2,
        asked=False,
    ),
    Place(
        "over",
        tr("up the side and across"),
        tr("From the table straight up to the level of the top, then level across it to the other side."),
        583.0,
        ("height", DIAMETER),
        lambda height, d: height + d,
        effort=1.3,
        asked=False,
    ),
)


def parts(readings: Sequence[Reading], thing: Thing) -> tuple[Part, ...]:
    """What a bottle is made of; once something of a neck was measured, the rest of it is needed, too."""
    necked = any(r.place in ("neck", "neck_height", "neck_across", "above") for r in readings)
    return (
        Part(DIAMETER, tr("diameter"), 203.0, usual=(20.0, 2000.0)),
        Part("height", tr("height"), 380.0, needed=not necked),
        Part("neck_height", tr("height of the neck"), 250.0, needed=necked),
        Part("neck", tr("diameter of the neck"), 60.0, needed=necked, usual=(5.0, 1000.0)),
    )


def places(readings: Sequence[Reading], thing: Thing) -> tuple[Place, ...]:
    """Where a tape can be laid on a bottle."""
    return PLACES


SHOULDER: Final = 5
"""A sketched shoulder has so many bands."""


@dataclass(frozen=True, slots=True)
class Bottle:
    """A measured bottle; `neck` and `neck_height` are None when it has no neck."""

    ability: ClassVar[Ability] = Ability.NECKED

    diameter: Worked
    height: Worked
    neck_height: Worked | None
    neck_across: Worked | None
    sections: tuple[Section, ...]

    @property
    def girth(self) -> Worked:
        """Around the belly."""
        return self.diameter * math.pi

    @property
    def neck(self) -> Worked | None:
        """Around the neck."""
        return self.neck_across * math.pi if self.neck_across else None

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """Radius and height from the ground up; what was not measured between belly and neck is sketched: a shoulder that is a quarter circle.

        It ends as far below the neck's height as cloth of that length, drawn in from the belly to the neck, ends below its own length.
        """
        r, h = self.diameter.value / 2.0, self.height.value
        if self.neck_across is None or self.neck_height is None:
            return (r, 0.0), (r, h)
        n, at = self.neck_across.value / 2.0, self.neck_height.value
        neck, quarter = (n, max(h, at * 1.02)), math.pi / 2.0 * (r - n)
        if quarter > at:
            return (r, 0.0), (n, math.sqrt(max(at * at - (r - n) ** 2, (0.1 * at) ** 2))), neck
        turns = np.linspace(0.0, math.pi / 2.0, SHOULDER + 1)
        shoulder = ((n + (r - n) * math.cos(turn), at - quarter + (r - n) * math.sin(turn)) for turn in turns)
        return (r, 0.0), *shoulder, neck

    @property
    def occupied(self) -> Occupied:
        """The bottle."""
        return TurnedBody(np.array(self.profile))

    def mesh(self) -> Mesh:
        """Its surface."""
        return loft([ring(r, z) for r, z in self.profile])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        r, h = self.diameter.value / 2.0, self.height.value
        at = self.neck_height.value if self.neck_height else h * 0.66
        n = self.neck_across.value / 2.0 if self.neck_across else r * 0.3
        match place:
            case "girth":
                return closed(ring(r * 1.01, at * 0.4))
            case "neck":
                return closed(ring(n * 1.03, at))
            case "height":
                return np.array([(r * 1.05, 0.0, 0.0), (r * 1.05, 0.0, h)])
            case "neck_height":
                return np.array([(-r * 1.05, 0.0, 0.0), (-r * 1.05, 0.0, at)])
            case "across":
                return np.array([(-r, 0.0, 0.0), (r, 0.0, 0.0)])
            case "neck_across":
                return np.array([(-n, 0.0, at), (n, 0.0, at)])
            case "above":
                return np.array([(n * 1.2, 0.0, at), (n * 1.2, 0.0, h)])
            case "over":
                return np.array([(r * 1.03, 0.0, 0.0), (r * 1.03, 0.0, h), (-r * 1.03, 0.0, h)])
        return np.empty((0, 3))


def build(measured: Measured) -> Bottle:
    """A bottle from its parts.

    Raises:
        Impossible: the neck is higher than the bottle or wider than its belly.
    """
    diameter, at, neck = measured[DIAMETER], measured.get("neck_height"), measured.get("neck")
    height = measured.get("height")
    if at is None or neck is None:
        at = neck = None
    if height is None:
        assert at is not None
        height = at * 1.4
    if at is not None and at.value > height.value:
        raise Impossible(tr("the neck is higher than the bottle"), refs.reading("neck_height"))
    if neck is not None and neck.value > diameter.value:
        raise Impossible(tr("the neck is wider than the belly"), refs.reading("neck"))
    girth = diameter * math.pi
    # The sleeve is pulled up from below: the bottom is what comes first.
    return Bottle(diameter, height, at, neck, (Section(0.0, girth), Section(height.value, girth)))


FORM = Form(
    "bottle",
    tr("Bottle"),
    tr("A round body, with a neck or without: flagon, jug, gas bottle."),
    frozenset({Ability.NECKED}),
    parts,
    places,
    build,
    proportions=(
        Proportion("height", DIAMETER, 0.2, 12.0),
        Proportion("neck", DIAMETER, 0.05, 1.0),
        Proportion("neck_height", DIAMETER, 0.15, 12.0),
        Proportion("height", "neck_height", 0.9, 4.0),
    ),
)
