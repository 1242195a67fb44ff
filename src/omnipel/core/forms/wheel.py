"""Wheel: a tyre's girth and width, and its hub. Stands on its tread, faces to left and right."""

import math
from dataclasses import dataclass

import numpy as np

from omnipel.core.findings import Finding
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, disagreement
from omnipel.core.forms.mesh import Mesh, Solid, closed, loft, ring
from omnipel.core.forms.thing import Thing
from omnipel.core.working import Worked

WANTED = (
    Wanted("girth", "girth", "Around the tread, once about the wheel.", 1295.0),
    Wanted("width", "width", "Across the tread, from face to face at the widest.", 98.0),
    Wanted("hub", "hub", "Straight across the hub or axle that stands in the way.", 70.0, needed=False),
    Wanted("across", "across", "Straight across the face, tread to tread. A check on the girth.", 412.0, needed=False),
)


@dataclass(frozen=True, slots=True)
class Wheel:
    """A measured wheel."""

    girth: Worked
    width: Worked
    hub: Worked | None
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]

    @property
    def radius(self) -> float:
        """Of the tread, mm."""
        return self.girth.value / (2.0 * math.pi)

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
        return np.empty((0, 3))


def _upright(radius: float, x: float, middle: float) -> Solid:
    """A circle standing upright across the x axis."""
    flat = ring(radius, 0.0)
    return np.column_stack((np.full(len(flat), x), flat[:, 0], flat[:, 1] + middle))


def measure(taken: Taken, thing: Thing) -> Wheel:
    """A wheel from its readings.

    Raises:
        MissingReading: girth or width has not been taken.
    """
    girth, width, hub, across = taken["girth"], taken["width"], taken.get("hub"), taken.get("across")
    found = [disagreement(girth, across, "across")] if across else []
    return Wheel(girth, width, hub, (Section(0.0, girth),), tuple(f for f in found if f))


FORM = Form("wheel", "Wheel", "A disc with a tread: barrow wheel, spare wheel, sorting turntable.", always(*WANTED), measure)
