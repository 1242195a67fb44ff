"""Slab: flat and thick: a board, a cushion, a tray."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import rectangle_section
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.sections import Section
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, level, loft
from omnipel.core.space.occupied import Occupied, lying_box
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked

PARTS = (
    Part("length", tr("length"), 610.0),
    Part("width", tr("width"), 430.0),
    Part("thickness", tr("thickness"), 22.0, usual=(2.0, 1000.0)),
)
PLACES = (
    Place("length", tr("length"), tr("Along the long side, edge to edge."), 610.0, ("length",)),
    Place("width", tr("width"), tr("Along the short side, edge to edge."), 430.0, ("width",)),
    Place("thickness", tr("thickness"), tr("Through the thickest place; a cushion lightly pressed."), 22.0, ("thickness",)),
    Place(
        "girth",
        tr("around its width"),
        tr("Around the middle, the short way, tape snug but not pulled."),
        904.0,
        ("width", "thickness"),
        lambda width, thickness: 2.0 * (width + thickness),
        effort=1.1,
        asked=False,
    ),
    Place(
        "girth_long",
        tr("around its length"),
        tr("Around the middle, the long way, tape snug but not pulled."),
        1264.0,
        ("length", "thickness"),
        lambda length, thickness: 2.0 * (length + thickness),
        effort=1.2,
        asked=False,
    ),
    Place(
        "diagonal",
        tr("diagonal"),
        tr("From one corner to the opposite one."),
        746.0,
        ("length", "width"),
        lambda length, width: math.hypot(length, width),
        effort=1.2,
        asked=False,
    ),
    Place(
        "edges",
        tr("along three edges"),
        tr("One run of the tape: along a long side, on along a short side, and down the corner."),
        1062.0,
        ("length", "width", "thickness"),
        lambda length, width, thickness: length + width + thickness,
        asked=False,
    ),
)


@dataclass(frozen=True, slots=True)
class Slab:
    """A measured slab."""

    ability: ClassVar[Ability] = Ability.SLAB

    length: Worked
    width: Worked
    thickness: Worked
    sections: tuple[Section, ...] = ()

    @property
    def occupied(self) -> Occupied:
        """The slab, lying."""
        return lying_box(self.length.value, self.width.value, 0.0, self.thickness.value)

    def mesh(self) -> Mesh:
        """Its surface, lying."""
        outline = rectangle_section(self.length.value, self.width.value)
        return loft([level(outline, 0.0), level(outline, self.thickness.value)])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        x, y, t = self.length.value / 2.0, self.width.value / 2.0, self.thickness.value
        match place:
            case "length":
                return np.array([(-x, -y, t * 1.1), (x, -y, t * 1.1)])
            case "width":
                return np.array([(x, -y, t * 1.1), (x, y, t * 1.1)])
            case "thickness":
                return np.array([(-x, -y * 1.02, 0.0), (-x, -y * 1.02, t)])
            case "girth":
                return np.array([(0, -y, 0), (0, -y, t), (0, y, t), (0, y, 0), (0, -y, 0)]) * (1.0, 1.02, 1.05)
            case "girth_long":
                return np.array([(-x, 0, 0), (-x, 0, t), (x, 0, t), (x, 0, 0), (-x, 0, 0)]) * (1.02, 1.0, 1.05)
            case "diagonal":
                return np.array([(-x, -y, t * 1.1), (x, y, t * 1.1)])
            case "edges":
                return np.array([(-x, -y, t * 1.1), (x, -y, t * 1.1), (x, y, t * 1.1), (x * 1.01, y * 1.01, 0.0)])
        return np.empty((0, 3))


def build(measured: Measured) -> Slab:
    """A slab from its parts."""
    length, width, thickness = measured["length"], measured["width"], measured["thickness"]
    around = (width + thickness) * 2.0
    return Slab(length, width, thickness, (Section(0.0, around), Section(length.value, around)))


FORM = Form(
    "slab",
    tr("Slab"),
    tr("Flat with some thickness: comb board, cushion, tray."),
    frozenset({Ability.SLAB}),
    always(*PARTS),
    always(*PLACES),
    build,
    proportions=(Proportion("length", "width", 0.1, 30.0), Proportion("thickness", "width", 0.004, 1.5)),
)
