"""Traced body: a side outline traced on paper or from a photo, and the width it is drawn out to."""

from dataclasses import dataclass

import numpy as np

from omnipel.core.drafting.curves import Points
from omnipel.core.findings import Finding, Impossible
from omnipel.core.forms.body import Form, Section, Taken, Wanted, always, differs
from omnipel.core.forms.mesh import Face, Mesh, Solid
from omnipel.core.forms.thing import Outline, Thing
from omnipel.core.forms.trace import LEVELS, chord, ring_of
from omnipel.core.working import Worked, worked

WANTED = (
    Wanted("width", "width", "Across the object from traced side to traced side, at the widest.", 480.0),
    Wanted("height", "height", "From the ground to the highest point. A check on the tracing.", 260.0, needed=False),
)
SAMPLE = Outline(
    points=((0, 0), (520, 0), (520, 90), (440, 120), (430, 230), (400, 262), (180, 262), (140, 240), (90, 110), (0, 80))
)
"""A side outline to start from: a platform scale with its column."""


@dataclass(frozen=True)
class Traced:
    """A measured traced body. `ring` is the side outline, counter-clockwise, standing on y = 0."""

    ring: Points
    width: Worked
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]

    @property
    def height(self) -> float:
        """Of the outline, mm."""
        return float(self.ring[:, 1].max())

    def mesh(self) -> Mesh:
        """The outline drawn out to its width: sides to left and right."""
        ring = self.ring
        if len(ring) > 90:
            ring = ring[:: len(ring) // 60]
        deep, half = float(ring[:, 0].max()) / 2.0, self.width.value / 2.0
        right = np.column_stack((np.full(len(ring), half), ring[:, 0] - deep, ring[:, 1]))
        left = right * (-1.0, 1.0, 1.0)
        quads = [
            Face(np.array([right[i], left[i], left[(i + 1) % len(ring)], right[(i + 1) % len(ring)]])) for i in range(len(ring))
        ]
        return Mesh((Face(right), Face(left[::-1]), *quads))

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        half, h = self.width.value / 2.0, self.height
        at = self.ring[int(self.ring[:, 1].argmax())]
        y = float(at[0] - self.ring[:, 0].max() / 2.0)
        if place == "width":
            return np.array([(-half, y, h * 1.01), (half, y, h * 1.01)])
        if place == "height":
            return np.array([(half * 1.03, y, 0.0), (half * 1.03, y, h)])
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Traced:
    """A traced body.

    Raises:
        MissingReading: the width has not been taken.
        Impossible: there is no outline, or a bad one.
    """
    width, height = taken["width"], taken.get("height")
    if thing.outline is None:
        raise Impossible("no outline has been traced yet", "thing.outline")
    ring = ring_of(thing.outline)
    checks = []
    if height is not None and abs(height.value - ring[:, 1].max()) > 0.02 * height.value:
        checks.append(
            differs(f"The height reads {height.value:.0f} mm, but the tracing is {ring[:, 1].max():.0f} high.", "height")
        )
    high = float(ring[:, 1].max())
    sections = tuple(
        Section(
            share * high,
            width * 2.0 + worked("across the tracing there", 2.0 * chord(ring, high * (1.0 - share)), "thing.outline"),
        )
        for share in LEVELS
    )
    return Traced(ring, width, sections, tuple(checks))


FORM = Form(
    "traced",
    "Traced outline",
    "Any side outline, drawn out to a width: scale, saddle, machine with a neck.",
    always(*WANTED),
    measure,
    SAMPLE,
)
