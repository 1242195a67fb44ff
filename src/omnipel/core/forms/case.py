"""Case: a box that is covered all round, with clips and a handle that stand out of it."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import level_path, rectangle_section
from omnipel.core.forms.boxplaces import UNDER_IT
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.places import lifted
from omnipel.core.forms.sections import Section
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, block, level, loft
from omnipel.core.space.occupied import Occupied, lying_box
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, through

CLIPS, HANDLE_UP = (10.0, 6.0), (25.0, 12.0)
"""Clips stand out by 10 ± 6, a folded handle stands up by 25 ± 12, until they are measured, mm."""
MOST_CLIPS, MOST_HANDLE = 45.0, 110.0
"""What no clip and no handle of a case exceeds, mm; a tape that says more was misread, or lay over something else."""
CLIP_AT = 0.25
"""Clips sit about a quarter of the length in from the edges."""

PARTS = (
    Part("length", tr("length"), 420.0),
    Part("width", tr("depth"), 180.0),
    Part("height", tr("height"), 330.0),
    Part("handle", tr("handle"), 120.0, usual=(5.0, 1000.0)),
    Part("clips", tr("clips"), 10.0, False, 0.0, CLIPS, lambda _parts: MOST_CLIPS, (0.0, 300.0)),
    Part("handle_up", tr("rise of the handle"), 25.0, False, 0.0, HANDLE_UP, lambda _parts: MOST_HANDLE, (0.0, 300.0)),
)


def over_clips(length: float, width: float, clips: float) -> float:
    """A level tape over the clips of the front."""
    return 2.0 * (length + width) + lifted(CLIP_AT * length, clips)


def over_handle(width: float, height: float, handle: float) -> float:
    """An upright tape from front to back, over the handle in the middle of the top."""
    return 2.0 * (width + height) + lifted(width / 2.0, handle)


PLACES = (
    Place("length", tr("length"), tr("Along the front, left to right."), 420.0, ("length",)),
    Place("width", tr("depth"), tr("From front to back."), 180.0, ("width",)),
    Place("height", tr("height"), tr("From the table to the top, without the handle."), 330.0, ("height",)),
    Place("handle", tr("handle"), tr("Along the handle, end to end: this much of the top seam stays open."), 120.0, ("handle",)),
    Place(
        "girth",
        tr("girth over the clips"),
        tr("Around, level, over clips and latches."),
        1202.0,
        ("length", "width", "clips"),
        over_clips,
        effort=1.1,
        too_long=UNDER_IT,
    ),
    Place(
        "girth_handle",
        tr("girth over the handle"),
        tr("Around, upright, from front to back: under the case and over its handle."),
        1027.0,
        ("width", "height", "handle_up"),
        over_handle,
        effort=1.2,
        too_long=UNDER_IT,
    ),
    Place("clips", tr("clips"), tr("How far the clips stand out of the front."), 10.0, ("clips",), effort=1.5, asked=False),
    Place(
        "handle_up",
        tr("rise of the handle"),
        tr("How far the handle stands up from the top."),
        25.0,
        ("handle_up",),
        effort=1.5,
        asked=False,
    ),
    Place(
        "diagonal",
        tr("diagonal of the front"),
        tr("Across the front from one corner to the opposite one."),
        534.0,
        ("length", "height"),
        lambda length, height: math.hypot(length, height),
        effort=1.2,
        asked=False,
    ),
    Place(
        "edges",
        tr("along three edges"),
        tr(
            "One run of the tape: up a front corner, back along the edge of the top, and along its back edge to the other corner."
        ),
        930.0,
        ("length", "width", "height"),
        lambda length, width, height: length + width + height,
        asked=False,
    ),
    Place(
        "end_to_handle",
        tr("from the end to the handle"),
        tr("Along the top from the end of the case to the near end of the handle in its middle."),
        150.0,
        ("length", "handle"),
        lambda length, handle: (length - handle) / 2.0,
        effort=1.4,
        asked=False,
    ),
)


@dataclass(frozen=True, slots=True)
class Case:
    """A measured case. `around` is the girth that counts: over the clips."""

    ability: ClassVar[Ability] = Ability.CASED

    length: Worked
    width: Worked
    height: Worked
    handle: Worked
    around: Worked
    sections: tuple[Section, ...]

    @property
    def occupied(self) -> Occupied:
        """The case without clips and handle, which are measured over."""
        return lying_box(self.length.value, self.width.value, 0.0, self.height.value)

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
        grip, up = self.handle.value / 2.0, self.handle.value * 0.2
        match place:
            case "length":
                return np.array([(-x, -y, h * 1.01), (x, -y, h * 1.01)])
            case "width":
                return np.array([(x, -y, h * 1.01), (x, y, h * 1.01)])
            case "height":
                return np.array([(-x, -y * 1.03, 0.0), (-x, -y * 1.03, h)])
            case "handle":
                return np.array([(-grip, 0.0, h * 1.02), (grip, 0.0, h * 1.02)])
            case "girth":
                return level_path(rectangle_section(2 * x, 2 * y), h * 0.5)
            case "girth_handle":
                return np.array([(0, -y, 0), (0, -y, h), (0, 0, h + up), (0, y, h), (0, y, 0), (0, -y, 0)]) * (1.0, 1.02, 1.0)
            case "clips":
                return np.array([(-x * 0.5, -y, h * 0.7), (-x * 0.5, -y * 1.15, h * 0.7)])
            case "handle_up":
                return np.array([(grip, 0.0, h), (grip, 0.0, h + up)])
            case "diagonal":
                return np.array([(-x, -y * 1.02, 0.0), (x, -y * 1.02, h)])
            case "edges":
                return np.array([(x * 1.01, -y * 1.02, 0.0), (x * 1.01, -y * 1.02, h), (x * 1.01, y, h), (-x, y, h * 1.01)])
            case "end_to_handle":
                return np.array([(-x, 0.0, h * 1.02), (-grip, 0.0, h * 1.02)])
        return np.empty((0, 3))


def build(measured: Measured) -> Case:
    """A case from its parts."""
    length, width, height = measured["length"], measured["width"], measured["height"]
    clips = measured["clips"]
    lift = through(
        tr("over the clips"), tr("a taut tape over what stands out"), lambda l_, k: lifted(CLIP_AT * l_, k), length, clips
    )
    around = (length + width) * 2.0 + lift
    sections = (Section(0.0, around), Section(height.value, around))
    return Case(length, width, height, measured["handle"], around, sections)


FORM = Form(
    "case",
    tr("Case"),
    tr("A box carried by its handle, covered all round: pump case, tool case."),
    frozenset({Ability.CASED}),
    always(*PARTS),
    always(*PLACES),
    build,
    proportions=(
        Proportion("length", "width", 0.2, 15.0),
        Proportion("height", "length", 0.08, 8.0),
        Proportion("handle", "length", 0.03, 1.0),
    ),
)
