"""Cap body: bowl, crock, jar, pan; what counts is its rim. A rim that is not round may be traced."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.places import DIAMETER, STRING_DOWN, half_turn, round_body, string_over
from omnipel.core.forms.sections import Section
from omnipel.core.job.reading import Instrument
from omnipel.core.job.thing import Thing
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import polyline_length, ring_of
from omnipel.core.space.frames import Frame, Solid
from omnipel.core.space.mesh import Mesh, closed, level, loft, ring
from omnipel.core.space.occupied import All, Occupied, Prism, TurnedBody
from omnipel.core.tape.adjustment import Observation
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, given, worked

BELOW_RIM = 0.9
"""Girth under the rim as a share of the rim, where it has not been measured; for the sketch only."""
LIP = 0.92
LIP_DEEP = 0.015
"""The lip goes down to this share of the height, and no deeper than this share of what the rim is across; for the sketch, too."""
MOST_AROUND = 60
"""No more points than this of a traced rim are drawn."""
TRACED = "outline"
TRACE_SIGMA = 4.0
"""The length of a traced rim is known to so much, mm: a pencil's width all round."""

PARTS = (
    Part(DIAMETER, tr("diameter of the rim"), 268.0, usual=(40.0, 3000.0)),
    Part("height", tr("height"), 190.0, needed=False),
    Part("below", tr("girth below the rim"), 800.0, needed=False),
)
PLACES = (
    Place(
        "rim",
        tr("rim girth"),
        tr("Around the outside of the rim, tape flat against its edge."),
        842.0,
        (DIAMETER,),
        round_body,
        half_turn,
    ),
    Place(
        "across",
        tr("across the rim"),
        tr("Straight across the rim, outer edge to outer edge, where no tape goes around."),
        268.0,
        (DIAMETER,),
        instrument=Instrument.RULE,
        effort=1.1,
    ),
    Place("height", tr("height"), tr("From the table to the rim."), 190.0, ("height",), effort=1.5),
    Place(
        "below",
        tr("girth below the rim"),
        tr("Around, just below the rim, where the elastic shall hold."),
        800.0,
        ("below",),
        effort=1.5,
    ),
    Place(
        "string",
        tr("string over the top"),
        tr("Lay a string over the lid through its middle and the same way down each side; mark both ends, then measure it."),
        368.0,
        (DIAMETER,),
        lambda down, d: d + 2.0 * down,
        string_over,
        Instrument.STRING,
        STRING_DOWN,
        effort=2.5,
        asked=False,
    ),
)


def known(thing: Thing) -> tuple[Observation, ...]:
    """A traced rim says how long it is around.

    Raises:
        Impossible: the outline is a bad one.
    """
    if thing.outline is None:
        return ()
    points = ring_of(thing.outline)
    around = polyline_length(np.vstack((points, points[:1])))
    return (Observation(TRACED, around, TRACE_SIGMA, (DIAMETER,), round_body),)


@dataclass(frozen=True)
class CapBody:
    """A measured bowl or crock. `ring` is its rim as it was traced, counter-clockwise, when it was."""

    ability: ClassVar[Ability] = Ability.RIMMED

    diameter: Worked
    height: Worked
    below: Worked | None
    ring: Points | None
    sections: tuple[Section, ...]

    @property
    def rim(self) -> Worked:
        """Around the rim."""
        return self.diameter * math.pi

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """Radius and height from the ground up, the rim at the top; what was not measured below it is as sketched."""
        r, h = self.diameter.value / 2.0, self.height.value
        under = self.below.value / (2.0 * math.pi) if self.below else r * BELOW_RIM
        lip = h - min(h * (1.0 - LIP), 2.0 * r * LIP_DEEP)
        return (under * 0.72, 0.0), (under, h * 0.55), (under, lip - 0.25 * (h - lip)), (r, lip), (r, h)

    @property
    def rim_outline(self) -> Points:
        """The rim as it was traced, about the axis; or a circle."""
        return (
            self.ring - (self.ring.min(axis=0) + self.ring.max(axis=0)) / 2.0
            if self.ring is not None
            else ring(self.profile[-1][0], 0.0)[:, :2]
        )

    @property
    def occupied(self) -> Occupied:
        """The lip and what is below it."""
        if self.ring is None:
            return TurnedBody(np.array(self.profile))
        high, scale = self.height.value, self.profile[2][0] / self.profile[-1][0]
        under = self.profile[-2][1]
        lip = Prism(self.rim_outline, under, high, Frame())
        return All((lip, Prism(self.rim_outline * scale, 0.0, under, Frame())))

    def mesh(self) -> Mesh:
        """Its surface."""
        if self.ring is None:
            return loft([ring(r, z) for r, z in self.profile])
        outline, widest = self.rim_outline, self.profile[-1][0]
        if len(outline) > MOST_AROUND:
            outline = outline[:: len(outline) // MOST_AROUND + 1]
        return loft([level(outline * (r / widest), z) for r, z in self.profile])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        r, h = self.diameter.value / 2.0, self.height.value
        match place:
            case "rim":
                return closed(ring(r * 1.01, h * 0.97))
            case "below":
                under = self.below.value / (2.0 * math.pi) if self.below else r * BELOW_RIM
                return closed(ring(under * 1.02, h * 0.8))
            case "across":
                return np.array([(-r, 0.0, h), (r, 0.0, h)])
            case "height":
                return np.array([(r * 1.05, 0.0, 0.0), (r * 1.05, 0.0, h)])
            case "string":
                return np.array([(-r * 1.02, 0.0, h * 0.8), (-r * 1.02, 0.0, h), (r * 1.02, 0.0, h), (r * 1.02, 0.0, h * 0.8)])
        return np.empty((0, 3))


def build(measured: Measured) -> CapBody:
    """A cap body from its parts."""
    diameter, outline = measured[DIAMETER], measured.thing.outline
    if not diameter.slopes:  # only traced: nothing a tape has read
        diameter = given(tr("round the traced rim"), diameter.value, (), tr("as long around as the tracing"), refs.OUTLINE)
    height = measured.get("height") or worked(tr("height, not measured"), diameter.value * 0.7)
    points = ring_of(outline) if outline is not None else None
    return CapBody(diameter, height, measured.get("below"), points, (Section(0.0, diameter * math.pi),))


FORM = Form(
    "cap-body",
    tr("Bowl or crock"),
    tr("Open at the top: what counts is the rim. Bowl, crock, jar, pan."),
    frozenset({Ability.RIMMED}),
    always(*PARTS),
    always(*PLACES),
    build,
    known,
    traced="helps",
    proportions=(Proportion("height", DIAMETER, 0.03, 6.0), Proportion("below", DIAMETER, 0.5, 4.5)),
)
