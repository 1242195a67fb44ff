"""Tapered tub: one girth at the bottom, another at the top; a frustum."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.places import half_turn, round_body
from omnipel.core.forms.sections import Section
from omnipel.core.job.reading import Instrument
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, closed, loft, ring
from omnipel.core.space.occupied import Occupied, TurnedBody
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

PARTS = (
    Part("bottom", tr("diameter of the bottom"), 376.0, usual=(40.0, 4000.0)),
    Part("top", tr("diameter of the top"), 468.0, usual=(40.0, 4000.0)),
    Part("height", tr("height"), 360.0),
)
PLACES = (
    Place(
        "girth_bottom",
        tr("girth at the bottom"),
        tr("Around, level, at the very bottom."),
        1180.0,
        ("bottom",),
        round_body,
        half_turn,
    ),
    Place("girth_top", tr("girth at the top"), tr("Around, level, at the upper edge."), 1470.0, ("top",), round_body, half_turn),
    Place("height", tr("height"), tr("Straight up from the ground to the upper edge, not along the side."), 360.0, ("height",)),
    Place(
        "slant",
        tr("along the side"),
        tr("Along the side from bottom to top."),
        363.0,
        ("height", "top", "bottom"),
        lambda height, top, bottom: math.hypot(height, (top - bottom) / 2.0),
        effort=1.1,
        asked=False,
    ),
    Place(
        "across_bottom",
        tr("across the bottom"),
        tr("Straight across the bottom, with a straightedge on both sides."),
        376.0,
        ("bottom",),
        instrument=Instrument.STRAIGHTEDGE,
        effort=1.3,
        asked=False,
    ),
    Place(
        "across_top",
        tr("across the top"),
        tr("Straight across the upper edge, outside to outside."),
        468.0,
        ("top",),
        instrument=Instrument.RULE,
        effort=1.2,
        asked=False,
    ),
)


@dataclass(frozen=True, slots=True)
class Tub:
    """A measured tub."""

    ability: ClassVar[Ability] = Ability.TAPERED

    bottom: Worked
    top: Worked
    height: Worked
    sections: tuple[Section, ...]

    @property
    def girth_bottom(self) -> Worked:
        """Around the bottom."""
        return self.bottom * math.pi

    @property
    def girth_top(self) -> Worked:
        """Around the top."""
        return self.top * math.pi

    @property
    def occupied(self) -> Occupied:
        """The tub."""
        return TurnedBody(np.array([(self.bottom.value / 2.0, 0.0), (self.top.value / 2.0, self.height.value)]))

    def mesh(self) -> Mesh:
        """Its surface."""
        h = self.height.value
        return loft([ring(self.girth_bottom.value / (2 * math.pi), 0.0), ring(self.girth_top.value / (2 * math.pi), h)])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        low, high, h = self.girth_bottom.value / (2 * math.pi), self.girth_top.value / (2 * math.pi), self.height.value
        match place:
            case "girth_bottom":
                return closed(ring(low * 1.02, h * 0.03))
            case "girth_top":
                return closed(ring(high * 1.02, h * 0.97))
            case "height":
                return np.array([(max(low, high) * 1.05, 0.0, 0.0), (max(low, high) * 1.05, 0.0, h)])
            case "across_bottom":
                return np.array([(-low, 0.0, 0.0), (low, 0.0, 0.0)])
            case "across_top":
                return np.array([(-high, 0.0, h), (high, 0.0, h)])
            case "slant":
                return np.array([(0.0, -low * 1.02, 0.0), (0.0, -high * 1.02, h)])
        return np.empty((0, 3))


def build(measured: Measured) -> Tub:
    """A tub from its parts."""
    low, high, height = measured["bottom"], measured["top"], measured["height"]
    return Tub(low, high, height, (Section(0.0, high * math.pi), Section(height.value, low * math.pi)))


FORM = Form(
    "tub",
    tr("Tapered tub"),
    tr("Round, wider at one end: tub, bucket, flower pot, lampshade."),
    frozenset({Ability.TAPERED}),
    always(*PARTS),
    always(*PLACES),
    build,
    proportions=(Proportion("bottom", "top", 0.25, 3.0), Proportion("height", "top", 0.08, 6.0)),
)
