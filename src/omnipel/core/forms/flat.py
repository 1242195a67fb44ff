"""Flat: a sheet to be spread over something; a rectangle, or a traced outline."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import rectangle_section
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.sections import Section
from omnipel.core.job.thing import Thing
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import ring_of
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, level, loft
from omnipel.core.space.occupied import All, Occupied
from omnipel.core.tape.adjustment import Observation
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

TRACE_SIGMA = 2.8
"""Both ends of a traced length are off by a pencil's width, mm."""

PARTS = (Part("length", tr("length"), 1830.0), Part("width", tr("width"), 790.0))
PLACES = (
    Place("length", tr("length"), tr("Along the long side, as far as the sheet shall reach."), 1830.0, ("length",)),
    Place("width", tr("width"), tr("Along the short side, as far as the sheet shall reach."), 790.0, ("width",)),
    Place(
        "diagonal",
        tr("diagonal"),
        tr("From one corner to the opposite one; both diagonals alike mean that it is square."),
        1993.0,
        ("length", "width"),
        lambda length, width: math.hypot(length, width),
        effort=1.1,
        asked=False,
    ),
    Place(
        "half_round",
        tr("half way round"),
        tr("One run of the tape along a long side and on along a short side."),
        2620.0,
        ("length", "width"),
        lambda length, width: length + width,
        asked=False,
    ),
)


def known(thing: Thing) -> tuple[Observation, ...]:
    """A traced outline says how long and wide the sheet is.

    Raises:
        Impossible: the outline is a bad one.
    """
    if thing.outline is None:
        return ()
    ring = ring_of(thing.outline)
    return tuple(
        Observation(f"outline.{key}", float(np.ptp(ring[:, axis])), TRACE_SIGMA, (key,), lambda mm: mm)
        for key, axis in (("length", 0), ("width", 1))
    )


@dataclass(frozen=True)
class Flat:
    """A measured flat thing; `ring` is its traced outline if there is one."""

    ability: ClassVar[Ability] = Ability.SPREAD

    length: Worked
    width: Worked
    ring: Points | None
    sections: tuple[Section, ...] = ()

    @property
    def occupied(self) -> Occupied:
        """What it is spread over is not known: nothing."""
        return All(())

    def mesh(self) -> Mesh:
        """Its surface: a thin sheet."""
        outline = rectangle_section(self.length.value, self.width.value)
        if self.ring is not None:
            outline = self.ring - self.ring.max(axis=0) / 2.0
        thin = max(self.length.value, self.width.value) * 0.01
        return loft([level(outline, -thin), level(outline, 0.0)])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        x, y = self.length.value / 2.0, self.width.value / 2.0
        lift = max(x, y) * 0.03
        match place:
            case "length":
                return np.array([(-x, -y, lift), (x, -y, lift)])
            case "width":
                return np.array([(x, -y, lift), (x, y, lift)])
            case "diagonal":
                return np.array([(-x, -y, lift), (x, y, lift)])
            case "half_round":
                return np.array([(-x, -y, lift), (x, -y, lift), (x, y, lift)])
        return np.empty((0, 3))


def build(measured: Measured) -> Flat:
    """A flat thing from its parts, or from its traced outline when there is one."""
    outline = measured.thing.outline
    return Flat(measured["length"], measured["width"], ring_of(outline) if outline is not None else None)


FORM = Form(
    "flat",
    tr("Flat sheet"),
    tr("To be spread over a table, a stack, an opening."),
    frozenset({Ability.SPREAD}),
    always(*PARTS),
    always(*PLACES),
    build,
    known,
    traced="helps",
    proportions=(Proportion("length", "width", 0.1, 40.0),),
)
