"""Tapered tub: one girth at the bottom, another at the top; a frustum."""

import math
from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, differs
from omnipel.core.forms.mesh import Mesh, Solid, closed, loft, ring
from omnipel.core.forms.thing import Thing
from omnipel.core.working import Worked

WANTED = (
    Wanted("girth_bottom", "girth at the bottom", "Around, level, at the very bottom.", 1180.0),
    Wanted("girth_top", "girth at the top", "Around, level, at the upper edge.", 1470.0),
    Wanted("height", "height", "Straight up from the ground to the upper edge, not along the side.", 360.0),
    Wanted("slant", "along the side", "Along the side from bottom to top. A check on girths and height.", 363.0, needed=False),
)


@dataclass(frozen=True, slots=True)
class Tub:
    """A measured tub."""

    girth_bottom: Worked
    girth_top: Worked
    height: Worked
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]

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
            case "slant":
                return np.array([(0.0, -low * 1.02, 0.0), (0.0, -high * 1.02, h)])
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Tub:
    """A tub from its readings.

    Raises:
        MissingReading: a girth or the height has not been taken.
    """
    low, high, height, slant = taken["girth_bottom"], taken["girth_top"], taken["height"], taken.get("slant")
    checks = []
    if slant is not None:
        expected = math.hypot(height.value, (high.value - low.value) / (2.0 * math.pi))
        if abs(slant.value - expected) > max(5.0, 0.02 * expected):
            text = f"Along the side reads {slant.value:.0f} mm, but height and girths make {expected:.0f}. Is the height taken straight up?"
            checks.append(differs(text, "slant"))
    return Tub(low, high, height, (Section(0.0, high), Section(height.value, low)), tuple(checks))


FORM = Form("tub", "Tapered tub", "Round, wider at one end: tub, bucket, flower pot, lampshade.", always(*WANTED), measure)
