"""Cap body: bowl, crock, jar, pan; what counts is its rim."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, disagreement
from omnipel.core.forms.mesh import Mesh, Solid, closed, loft, ring
from omnipel.core.forms.thing import Thing
from omnipel.core.tape.readings import Reading
from omnipel.core.working import Worked, worked

BELOW_RIM = 0.9
"""Girth under the rim as a share of the rim, where it has not been measured; for the sketch only."""


def wanted(readings: Sequence[Reading]) -> tuple[Wanted, ...]:
    """The rim by girth; straight across does where a tape cannot go around."""
    places = {reading.place for reading in readings}
    return (
        Wanted("rim", "rim girth", "Around the outside of the rim, tape flat against its edge.", 842.0, "across" not in places),
        Wanted(
            "across",
            "across the rim",
            "Straight across the rim, outer edge to outer edge, where no tape goes around.",
            268.0,
            False,
        ),
        Wanted("height", "height", "From the table to the rim.", 190.0, needed=False),
        Wanted("below", "girth below the rim", "Around, just below the rim, where the elastic shall hold.", 800.0, needed=False),
    )


@dataclass(frozen=True, slots=True)
class CapBody:
    """A measured bowl or crock."""

    rim: Worked
    height: Worked
    below: Worked | None
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]

    @property
    def diameter(self) -> Worked:
        """Across the rim."""
        return self.rim / math.pi

    def mesh(self) -> Mesh:
        """Its surface."""
        r, h = self.diameter.value / 2.0, self.height.value
        under = self.below.value / (2.0 * math.pi) if self.below else r * BELOW_RIM
        return loft([ring(under * 0.72, 0.0), ring(under, h * 0.55), ring(under, h * 0.9), ring(r, h * 0.92), ring(r, h)])

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
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> CapBody:
    """A cap body from its readings.

    Raises:
        MissingReading: neither rim girth nor across has been taken.
    """
    across = taken.get("across")
    rim = taken.get("rim") or (across * math.pi if across else taken["rim"])
    found = disagreement(rim, across, "across") if across and "rim" in taken else None
    height = taken.get("height") or worked("height, not measured", rim.value / 4.5)
    below = taken.get("below")
    return CapBody(rim, height, below, (Section(0.0, rim),), (found,) if found else ())


FORM = Form("cap-body", "Bowl or crock", "Open at the top: what counts is the rim. Bowl, crock, jar, pan.", wanted, measure)
