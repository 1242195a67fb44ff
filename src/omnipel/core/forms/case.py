"""Case: a box that is covered all round, with clips and a handle that stand out of it."""

from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, level_path, rectangle_section
from omnipel.core.forms.mesh import Mesh, Solid, block, level, loft
from omnipel.core.forms.thing import Thing
from omnipel.core.working import Worked

WANTED = (
    Wanted("length", "length", "Along the front, left to right.", 420.0),
    Wanted("width", "depth", "From front to back.", 180.0),
    Wanted("height", "height", "From the table to the top, without the handle.", 330.0),
    Wanted("handle", "handle", "Along the handle, end to end: this much of the top seam stays open.", 120.0),
    Wanted(
        "girth", "girth over the clips", "Around, level, over clips and latches; the largest girth wins.", 1230.0, needed=False
    ),
)


@dataclass(frozen=True, slots=True)
class Case:
    """A measured case. `around` is the girth that counts: the largest of those measured and reckoned."""

    length: Worked
    width: Worked
    height: Worked
    handle: Worked
    girth: Worked | None
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...] = ()

    @property
    def around(self) -> Worked:
        """Girth over everything."""
        plain = (self.length + self.width) * 2.0
        return self.girth if self.girth and self.girth.value > plain.value else plain

    def mesh(self) -> Mesh:
        """Its surface, with the handle."""
        outline, h = rectangle_section(self.length.value, self.width.value), self.height.value
        grip = self.handle.value
        handle = block(
            (0.0, -self.width.value * 0.04, h + grip * 0.09), 1.5707963267948966, self.width.value * 0.08, grip, grip * 0.18
        )
        return loft([level(outline, 0.0), level(outline, h)]) + handle

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        x, y, h = self.length.value / 2.0, self.width.value / 2.0, self.height.value
        match place:
            case "length":
                return np.array([(-x, -y, h * 1.01), (x, -y, h * 1.01)])
            case "width":
                return np.array([(x, -y, h * 1.01), (x, y, h * 1.01)])
            case "height":
                return np.array([(-x, -y * 1.03, 0.0), (-x, -y * 1.03, h)])
            case "handle":
                return np.array([(-self.handle.value / 2, 0.0, h * 1.02), (self.handle.value / 2, 0.0, h * 1.02)])
            case "girth":
                return level_path(rectangle_section(2 * x, 2 * y), h * 0.5)
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Case:
    """A case from its readings.

    Raises:
        MissingReading: a needed one has not been taken.
    """
    made = Case(taken["length"], taken["width"], taken["height"], taken["handle"], taken.get("girth"), ())
    sections = (Section(0.0, made.around), Section(made.height.value, made.around))
    return Case(made.length, made.width, made.height, made.handle, made.girth, sections)


FORM = Form("case", "Case", "A box carried by its handle, covered all round: pump case, tool case.", always(*WANTED), measure)
