"""Traced body: any side outline, drawn out to a width: a scale with a column, a saddle, a machine with a neck."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.sections import Section
from omnipel.core.job.findings import Impossible
from omnipel.core.job.thing import Outline, Thing
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import LEVELS, chord, ring_of
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Face, Mesh
from omnipel.core.space.occupied import Occupied, drawn_across
from omnipel.core.tape.adjustment import Observation
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, worked

TRACE_SIGMA = 2.8
"""Both ends of a traced length are off by a pencil's width, mm."""

PARTS = (
    Part("width", tr("width"), 480.0),
    Part("height", tr("height"), 260.0, needed=False),
    Part("deep", tr("length of the outline"), 520.0, needed=False),
)
PLACES = (
    Place("width", tr("width"), tr("Across the object from traced side to traced side, at the widest."), 480.0, ("width",)),
    Place(
        "height",
        tr("height"),
        tr("From the ground to the highest point; it checks the tracing."),
        260.0,
        ("height",),
        effort=1.2,
        asked=False,
    ),
    Place(
        "deep",
        tr("length of the side"),
        tr("Along the ground from end to end of what was traced; it checks the tracing."),
        520.0,
        ("deep",),
        effort=1.2,
        asked=False,
    ),
    Place(
        "around",
        tr("girth at the foot"),
        tr("Around, level, where the traced side is longest."),
        2000.0,
        ("width", "deep"),
        lambda width, deep: 2.0 * (width + deep),
        effort=1.3,
        asked=False,
    ),
)
SAMPLE = Outline(
    points=((0, 0), (520, 0), (520, 90), (440, 120), (430, 230), (400, 262), (180, 262), (140, 240), (90, 110), (0, 80))
)
"""A side outline to start from: a platform scale with its column."""


def known(thing: Thing) -> tuple[Observation, ...]:
    """The tracing says how high and how long the side is.

    Raises:
        Impossible: nothing has been traced yet, or the outline is a bad one.
    """
    if thing.outline is None:
        raise Impossible(tr("to trace: the outline of its side"), refs.OUTLINE, code="outline-missing")
    ring = ring_of(thing.outline)
    return tuple(
        Observation(f"outline.{key}", float(np.ptp(ring[:, axis])), TRACE_SIGMA, (key,), lambda mm: mm)
        for key, axis in (("deep", 0), ("height", 1))
    )


@dataclass(frozen=True)
class Traced:
    """A measured traced body. `ring` is the side outline, counter-clockwise, standing on y = 0."""

    ability: ClassVar[Ability] = Ability.OUTLINED
    left_to_right: ClassVar[str] = "width"

    ring: Points
    width: Worked
    sections: tuple[Section, ...]

    @property
    def sides(self) -> tuple[Worked, ...]:
        """A tracing is what it is."""
        return ()

    def outline(self, *sides: float) -> Points:
        """The tracing."""
        return self.ring

    @property
    def across(self) -> Worked:
        """How far the outline is drawn out."""
        return self.width

    @property
    def height(self) -> float:
        """Of the outline, mm."""
        return float(self.ring[:, 1].max())

    @property
    def occupied(self) -> Occupied:
        """The outline drawn out to its width."""
        return drawn_across(self.ring, self.width.value)

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
        half, h, deep = self.width.value / 2.0, self.height, float(self.ring[:, 0].max()) / 2.0
        at = self.ring[int(self.ring[:, 1].argmax())]
        y = float(at[0] - deep)
        match place:
            case "width":
                return np.array([(-half, y, h * 1.01), (half, y, h * 1.01)])
            case "height":
                return np.array([(half * 1.03, y, 0.0), (half * 1.03, y, h)])
            case "deep":
                return np.array([(half * 1.03, -deep, 0.02 * h), (half * 1.03, deep, 0.02 * h)])
            case "around":
                ring = np.array([(-half, -deep), (half, -deep), (half, deep), (-half, deep), (-half, -deep)]) * 1.02
                return np.column_stack((ring, np.full(5, 0.03 * h)))
        return np.empty((0, 3))


def build(measured: Measured) -> Traced:
    """A traced body."""
    outline = measured.thing.outline
    ring = ring_of(outline) if outline is not None else np.empty((0, 2))
    width, high = measured["width"], float(ring[:, 1].max())
    sections = []
    for share in LEVELS:
        across = worked(tr("across the tracing there"), chord(ring, high * (1.0 - share)), refs.OUTLINE)
        sections.append(Section(share * high, width * 2.0 + across * 2.0, (width, across)))
    return Traced(ring, width, tuple(sections))


FORM = Form(
    "traced",
    tr("Traced outline"),
    tr("Any side outline, drawn out to a width: scale, saddle, machine with a neck."),
    frozenset({Ability.OUTLINED}),
    always(*PARTS),
    always(*PLACES),
    build,
    known,
    SAMPLE,
    traced="needed",
    dropped_over=True,
    proportions=(Proportion("width", "deep", 0.03, 30.0),),
)
