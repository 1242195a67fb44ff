"""Bottle: a round body with a neck: flagon, jar with a neck, gas bottle."""

import math
from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding, Impossible
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, disagreement
from omnipel.core.forms.mesh import Mesh, Solid, closed, loft, ring
from omnipel.core.forms.thing import Thing
from omnipel.core.working import Worked

WANTED = (
    Wanted("girth", "girth", "Around the belly at its widest.", 640.0),
    Wanted("height", "height", "From the table to the very top.", 380.0),
    Wanted("neck_height", "height of the neck", "From the table to where the ribbon shall be tied.", 250.0),
    Wanted("neck", "girth of the neck", "Around the neck where the ribbon shall be tied.", 190.0),
    Wanted("across", "across", "Straight across the bottom. A check on the girth.", 203.0, needed=False),
)


@dataclass(frozen=True, slots=True)
class Bottle:
    """A measured bottle."""

    girth: Worked
    height: Worked
    neck_height: Worked
    neck: Worked
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]

    def mesh(self) -> Mesh:
        """Its surface."""
        r, n = self.girth.value / (2 * math.pi), self.neck.value / (2 * math.pi)
        h, at = self.height.value, self.neck_height.value
        return loft(
            [ring(r, 0.0, 36), ring(r, at * 0.72, 36), ring((r + n) / 1.9, at * 0.9, 36), ring(n, at, 36), ring(n, h, 36)]
        )

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        r, n = self.girth.value / (2 * math.pi), self.neck.value / (2 * math.pi)
        match place:
            case "girth":
                return closed(ring(r * 1.01, self.neck_height.value * 0.4))
            case "neck":
                return closed(ring(n * 1.03, self.neck_height.value))
            case "height":
                return np.array([(r * 1.05, 0.0, 0.0), (r * 1.05, 0.0, self.height.value)])
            case "neck_height":
                return np.array([(-r * 1.05, 0.0, 0.0), (-r * 1.05, 0.0, self.neck_height.value)])
            case "across":
                return np.array([(-r, 0.0, 0.0), (r, 0.0, 0.0)])
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Bottle:
    """A bottle from its readings.

    Raises:
        MissingReading: a needed one has not been taken.
        Impossible: the neck is higher than the bottle or wider than its belly.
    """
    girth, height, at, neck, across = (taken["girth"], taken["height"], taken["neck_height"], taken["neck"], taken.get("across"))
    if at.value > height.value:
        raise Impossible("the neck is higher than the bottle", "readings.neck_height")
    if neck.value > girth.value:
        raise Impossible("the neck is wider than the belly", "readings.neck")
    found = disagreement(girth, across, "across") if across else None
    # The sleeve is pulled up from below: the bottom is what comes first.
    return Bottle(girth, height, at, neck, (Section(0.0, girth), Section(height.value, girth)), (found,) if found else ())


FORM = Form("bottle", "Bottle", "A round body with a neck: flagon, jug, gas bottle.", always(*WANTED), measure)
