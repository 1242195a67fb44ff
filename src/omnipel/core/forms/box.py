"""Box: length, width, height; perhaps with a lower front, rounded top edges, or a drop shorter than the height.

The over-the-top path runs from the table up the front, over and down the back; P ≤ 2H + W, and what it is shorter by is the rounding.
"""

from dataclasses import dataclass, replace

import numpy as np

from omnipel.core.drafting.curves import Points
from omnipel.core.findings import Finding, Impossible
from omnipel.core.forms.body import (
    Form,
    Section,
    Taken,
    Wanted,
    always,
    differs,
    grown,
    interpolated,
    level_path,
    on_front,
    rectangle_section,
    with_bumps,
)
from omnipel.core.forms.mesh import Mesh, Solid, block, level, loft
from omnipel.core.forms.thing import SticksOut, Thing
from omnipel.core.tape.checks import rounding_from_path
from omnipel.core.working import Worked

PATH_SPARE = 6.0
"""How much longer than up, over and down the path may read before the tape was slanted, mm."""

WANTED = (
    Wanted(
        "length", "length", "Along the front, left to right, at the widest; over everything that sticks out to the sides.", 512.0
    ),
    Wanted("width", "width", "From front to back at the deepest.", 287.0),
    Wanted("height", "height", "From the table or ground to the highest point.", 633.0),
    Wanted("drop", "drop", "From the top down to where the cover shall end, when it ends above the table.", 600.0, needed=False),
    Wanted(
        "path", "over the top", "From the table up the front, over the top and down the back to the table.", 1540.0, needed=False
    ),
    Wanted(
        "front_height",
        "height of the front",
        "From the table to the upper edge of the front, when the top slopes down to it.",
        520.0,
        needed=False,
    ),
    Wanted(
        "girth", "girth", "Around, level, over everything that sticks out. A check on length and width.", 1598.0, needed=False
    ),
)


@dataclass(frozen=True, slots=True)
class Box:
    """A measured box."""

    length: Worked
    width: Worked
    height: Worked
    drop: Worked
    path: Worked | None
    front_height: Worked | None
    rounding: float
    sections: tuple[Section, ...]
    checks: tuple[Finding, ...]
    sticks_out: tuple[SticksOut, ...] = ()

    def mesh(self) -> Mesh:
        """Its surface."""
        h = self.height.value
        low = level(rectangle_section(self.length.value, self.width.value), 0.0)
        high = level(rectangle_section(self.length.value, self.width.value), h)
        if self.front_height:
            high[:2, 2] = self.front_height.value
        body = loft([low, high])
        for thing in self.sticks_out:
            x, y, out = on_front(thing, -self.width.value / 2.0)
            body += block((x, y, h - thing.from_top), out, thing.reach, thing.size, thing.size, f"sticks out:{thing.name}")
        return body

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        x, y, h = self.length.value / 2.0, self.width.value / 2.0, self.height.value
        front = self.front_height.value if self.front_height else h
        match place:
            case "length":
                return np.array([(-x, -y, front * 1.005), (x, -y, front * 1.005)])
            case "width":
                return np.array([(x, -y, front), (x, y, h)]) + (0.0, 0.0, h * 0.01)
            case "height":
                return np.array([(-x, -y * 1.03, 0.0), (-x, -y * 1.03, front)])
            case "front_height":
                return np.array([(0.0, -y * 1.02, 0.0), (0.0, -y * 1.02, front)])
            case "drop":
                return np.array([(x * 0.6, -y * 1.02, front), (x * 0.6, -y * 1.02, max(0.0, h - self.drop.value))])
            case "path":
                return np.array([(0.0, -y * 1.02, 0.0), (0.0, -y * 1.02, front), (0.0, y, h * 1.01), (0.0, y * 1.02, 0.0)])
            case "girth":
                return level_path(rectangle_section(2 * x, 2 * y), front * 0.5)
        return np.empty((0, 3))


def measure(taken: Taken, thing: Thing) -> Box:
    """A box from its readings.

    Raises:
        MissingReading: length, width or height has not been taken.
        Impossible: the front is higher than the box.
    """
    length, width, height = taken["length"], taken["width"], taken["height"]
    front, path, girth = taken.get("front_height"), taken.get("path"), taken.get("girth")
    if front and front.value > height.value:
        raise Impossible("the front is higher than the box", "readings.front_height")
    checks, rounding = [], 0.0
    if path and not front:
        rounding = max(0.0, rounding_from_path(path.value, height.value, width.value))
        over = path.value - 2.0 * height.value - width.value
        if over > PATH_SPARE:
            text = f"Over the top reads {over:.0f} mm longer than up, over and down: a slanted tape, or something sticks out under it."
            checks.append(differs(text, "path"))
        elif rounding > min(height.value, width.value / 2.0):
            text = f"Over the top is so short that its edges would be rounded by {rounding:.0f} mm, more than there is."
            checks.append(differs(text, "path"))
    if girth:
        around = 2.0 * (length.value + width.value)
        if abs(girth.value - around) > 0.02 * around:
            text = f"The girth reads {girth.value:.0f} mm, but length and width make {around:.0f}: something sticks out, or one is misread."
            checks.append(differs(text, "girth"))
    drop = taken.get("drop") or height
    plain_girth = (length + width) * 2.0
    deepest = max(height.value, drop.value)
    sections: tuple[Section, ...] = (Section(0.0, plain_girth), Section(deepest, plain_girth))
    if front and height.value - front.value > 1.0:  # the top slopes: at its ridge there is only the length, twice
        sections = (Section(0.0, length * 2.0), Section(height.value - front.value, plain_girth), Section(deepest, plain_girth))
    plain = Box(length, width, height, drop, path, front, rounding, sections, tuple(checks), thing.sticks_out)
    outline = rectangle_section(length.value, width.value)
    front_y = -width.value / 2.0
    bumped = with_bumps(
        sections,
        thing.sticks_out,
        lambda d, there: grown(outline, interpolated(sections, d), there, lambda t: on_front(t, front_y)),
    )
    return replace(plain, sections=bumped)


def side_outline(length: float, height: float, front: float) -> Points:
    """The side of a box with a lower front, seen from the right: along x from front to back, `(4, 2)`."""
    return np.array([(0.0, 0.0), (length, 0.0), (length, height), (0.0, front)])


FORM = Form("box", "Box", "Straight sides: machine, motor, cleaner, trolley, table.", always(*WANTED), measure)
