"""Flat: a sheet to be spread over something; a rectangle, or a traced outline."""

from dataclasses import dataclass

import numpy as np

from omnipel.core.drafting.curves import Points
from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, rectangle_section
from omnipel.core.forms.mesh import Mesh, Solid, level, loft
from omnipel.core.forms.thing import Thing
from omnipel.core.forms.trace import ring_of
from omnipel.core.working import Worked

WANTED = (
    Wanted("length", "length", "Along the long side, as far as the sheet shall reach.", 1830.0),
    Wanted("width", "width", "Along the short side, as far as the sheet shall reach.", 790.0),
)


@dataclass(frozen=True)
class Flat:
    """A measured flat thing; `ring` is its traced outline if there is one."""

    length: Worked
    width: Worked
    ring: Points | None
    sections: tuple[Section, ...] = ()
    checks: tuple[Finding, ...] = ()

    def mesh(self) -> Mesh:
        """Its surface: a thin sheet."""
        outline = rectangle_section(self.length.value, self.width.value)
        if self.ring is not None:
            outline = self.ring - self.ring.max(axis=0) / 2.0
        thin = max(self.length.value, self.width.value) * 0.01
        return loft([level(outline, 0.0), level(outline, thin)])

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        x, y = self.length.value / 2.0, self.width.value / 2.0
        lift = max(x, y) * 0.03
        if place == "length":
            return np.array([(-x, -y, lift), (x, -y, lift)])
        if place == "width":
            return np.array([(x, -y, lift), (x, y, lift)])
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Flat:
    """A flat thing from its readings, or from its traced outline when there is one.

    Raises:
        MissingReading: length or width has not been taken.
        Impossible: the outline is a bad one.
    """
    return Flat(taken["length"], taken["width"], ring_of(thing.outline) if thing.outline else None)


FORM = Form("flat", "Flat sheet", "To be spread over a table, a stack, an opening.", always(*WANTED), measure)
