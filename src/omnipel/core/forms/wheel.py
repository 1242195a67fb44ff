"""Wheel: a tyre's girth and width, and its hub. Stands on its tread, faces to left and right."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.places import DIAMETER, MARK_UP, half_turn, part_girth, round_body
from omnipel.core.forms.sections import Section
from omnipel.core.job.reading import Instrument
from omnipel.core.job.thing import ComesOff, Thing
from omnipel.core.space.frames import Frame, Solid
from omnipel.core.space.mesh import Mesh, closed, loft, ring
from omnipel.core.space.occupied import Occupied, TurnedBody
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.working import Worked

PARTS = (
    Part(DIAMETER, tr("diameter"), 412.0, usual=(60.0, 3000.0)),
    Part("width", tr("width"), 98.0),
    Part("hub", tr("hub"), 70.0, needed=False, usual=(5.0, 1000.0)),
)
PLACES = (
    Place("girth", tr("girth"), tr("Around the tread, once about the wheel."), 1295.0, (DIAMETER,), round_body, half_turn),
    Place("width", tr("width"), tr("Across the tread, from face to face at the widest."), 98.0, ("width",)),
    Place("hub", tr("hub"), tr("Straight across the hub or axle that stands in the way."), 70.0, ("hub",), effort=1.5),
    Place(
        "across",
        tr("across"),
        tr("Straight across the face, tread to tread, with a straightedge on both sides."),
        412.0,
        (DIAMETER,),
        instrument=Instrument.STRAIGHTEDGE,
        effort=1.1,
    ),
    Place(
        "part_girth",
        tr("part girth"),
        tr(
            "For a wheel that stands: mark it at the same height in front and behind, and lay the tape over the top from mark to mark."
        ),
        1028.0,
        (DIAMETER,),
        part_girth,
        instrument=Instrument.TAPE,
        beside=MARK_UP,
        effort=1.2,
        asked=False,
    ),
    Place(
        "stands",
        tr("height of the wheel"),
        tr("From the ground to the top of the tread, a straightedge lying level on it."),
        412.0,
        (DIAMETER,),
        instrument=Instrument.STRAIGHTEDGE,
        effort=1.3,
        asked=False,
    ),
    Place(
        "over_tread",
        tr("over the tread"),
        tr("From the middle of one face out to the tread, across it, and back to the middle of the other face."),
        510.0,
        (DIAMETER, "width"),
        lambda d, width: d + width,
        effort=1.4,
        asked=False,
    ),
)


@dataclass(frozen=True, slots=True)
class Wheel:
    """A measured wheel."""

    ability: ClassVar[Ability] = Ability.WHEELED

    diameter: Worked
    width: Worked
    hub: Worked | None
    sections: tuple[Section, ...]

    @property
    def girth(self) -> Worked:
        """Around the tread."""
        return self.diameter * math.pi

    @property
    def radius(self) -> float:
        """Of the tread, mm."""
        return self.diameter.value / 2.0

    @property
    def occupied(self) -> Occupied:
        """The wheel between its faces, upright across the x axis; its hub goes through an opening."""
        frame = Frame((0.0, 0.0, self.radius), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
        return TurnedBody(np.array([(self.radius, -self.width.value / 2.0), (self.radius, self.width.value / 2.0)]), frame)

    def mesh(self) -> Mesh:
        """Its surface: tyre and hub."""
        r, w = self.radius, self.width.value
        tyre = [(0.93, -0.5), (1.0, -0.3), (1.0, 0.3), (0.93, 0.5)]
        body = loft([_upright(r * k, x * w, r) for k, x in tyre])
        hub = self.hub.value / 2.0 if self.hub else r * 0.16
        return body + loft([_upright(hub, w * 0.5, r), _upright(hub, w * 0.75, r)], bottom=False)

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        r, w = self.radius, self.width.value
        match place:
            case "girth":
                return closed(_upright(r * 1.01, 0.0, r))
            case "width":
                return np.array([(-w / 2, -0.0, 2 * r * 1.01), (w / 2, 0.0, 2 * r * 1.01)])
            case "hub":
                hub = self.hub.value / 2.0 if self.hub else r * 0.16
                return np.array([(w * 0.76, -hub, r), (w * 0.76, hub, r)])
            case "across":
                return np.array([(w * 0.51, 0.0, 0.0), (w * 0.51, 0.0, 2 * r)])
            case "stands":
                return np.array([(0.0, -r * 1.05, 0.0), (0.0, -r * 1.05, 2 * r)])
            case "over_tread":
                return np.array(
                    [(w * 0.52, 0.0, r), (w * 0.52, 0.0, 2 * r * 1.01), (-w * 0.52, 0.0, 2 * r * 1.01), (-w * 0.52, 0.0, r)]
                )
            case "part_girth":
                whole = _upright(r * 1.01, 0.0, r)
                kept = whole[whole[:, 2] > 0.4 * r]
                order = np.argsort(np.arctan2(kept[:, 2] - r, kept[:, 1]))
                low = np.arctan2(kept[:, 2] - r, kept[:, 1])[order]
                # From the front mark over the top to the back one: angles above the marks, in one run.
                start = int(np.argmax(np.diff(low, append=low[0] + 2.0 * math.pi))) + 1
                return np.roll(kept[order], -start, axis=0)
        return np.empty((0, 3))


def _upright(radius: float, x: float, middle: float) -> Solid:
    """A circle standing upright across the x axis."""
    flat = ring(radius, 0.0)
    return np.column_stack((np.full(len(flat), x), flat[:, 0], flat[:, 1] + middle))


def build(measured: Measured) -> Wheel:
    """A wheel from its parts."""
    diameter = measured[DIAMETER]
    return Wheel(diameter, measured["width"], measured.get("hub"), (Section(0.0, diameter * math.pi),))


def best_scheme(values: Mapping[str, float], thing: Thing) -> tuple[str, Phrase]:
    """What the answers about a wheel speak for."""
    if thing.comes_off is ComesOff.DAILY:
        return "wheel-cap", tr("Off every day: a cap slips over without a slit.")
    return "wheel-both-faces", tr("Stays on for long: both faces are kept from sun and dust.")


FORM = Form(
    "wheel",
    tr("Wheel"),
    tr("A disc with a tread: barrow wheel, spare wheel, sorting turntable."),
    frozenset({Ability.WHEELED}),
    always(*PARTS),
    always(*PLACES),
    build,
    dropped_over=True,
    proportions=(Proportion("width", DIAMETER, 0.03, 1.5), Proportion("hub", DIAMETER, 0.01, 0.9)),
    best_scheme=best_scheme,
)
