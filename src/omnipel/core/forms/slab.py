"""Slab: flat and thick: a board, a cushion, a tray."""

from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, rectangle_section
from omnipel.core.forms.mesh import Mesh, Solid, level, loft
from omnipel.core.forms.thing import Thing
from omnipel.core.working import Worked

WANTED = (
    Wanted("length", "length", "Along the long side, edge to edge.", 610.0),
    Wanted("width", "width", "Along the short side, edge to edge.", 430.0),
    Wanted("thickness", "thickness", "Through the thickest place; a cushion lightly pressed.", 22.0),
)


@dataclass(frozen=True, slots=True)
class Slab:
    """A measured slab."""

    length: Worked
    width: Worked
    thickness: Worked
    sections: tuple[Section, ...] = ()
    checks: tuple[Finding, ...] = ()

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
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Slab:
    """A slab from its readings.

    Raises:
        MissingReading: one has not been taken.
    """
    length, width, thickness = taken["length"], taken["width"], taken["thickness"]
    section = Section(0.0, (width + thickness) * 2.0)
    return Slab(length, width, thickness, (section, Section(length.value, section.girth)))


FORM = Form("slab", "Slab", "Flat with some thickness: comb board, cushion, tray.", always(*WANTED), measure)
