"""Box: length, width, height; perhaps with a lower front, rounded top edges, or a drop shorter than the height.

The over-the-top path runs from the ground up the front, over and down the back; P ≤ 2H + W, and what it is shorter by is the rounding.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Final

import numpy as np
import shapely

from omnipel.core.forms import taper
from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import WAYS, bump, covered, grown, level_path, on_side, over_top, with_bumps
from omnipel.core.forms.boxplaces import (
    BELOW,
    DIAGONAL,
    DROP,
    EDGES,
    FRONT_HEIGHT,
    HEIGHT,
    LENGTH,
    OVER_SIDES,
    STANDS_UP,
    UNDER_IT,
    WIDTH,
)
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion
from omnipel.core.forms.places import path_over
from omnipel.core.forms.sections import Section
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Face, Lives, SticksOut, Thing
from omnipel.core.plane.curves import Points, quarter_chords
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh, loft
from omnipel.core.space.occupied import All, Occupied, drawn_across, lying_box
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.core.words.working import Worked, through, worked

LOOKS_SQUARE = (0.0, 4.0)
"""An upper edge that looks square is rounded by 0 ± 4 mm."""


def parts(readings: Sequence[Reading], thing: Thing) -> tuple[Part, ...]:
    """What a box is made of; a front of its own only when it was measured."""
    sloped = any(r.place == "front_height" for r in readings)
    made = [
        Part("length", tr("length"), 512.0),
        Part("width", tr("width"), 287.0),
        Part("height", tr("height"), 633.0),
        Part("drop", tr("drop"), 600.0, needed=False),
    ]
    if sloped:
        made.append(Part("front_height", tr("height of the front"), 520.0, needed=False))
    made += [part for key, part in taper.PARTS.items() if any(r.place == key for r in readings)]
    rounding = Part("rounding", tr("rounding of the upper edges"), 0.0, False, 0.0, LOOKS_SQUARE, roundest)
    return (*made, rounding)


def roundest(values: Mapping[str, float]) -> float:
    """No edge is rounded by more than there is: half the width, and the height."""
    return min(values.get("width", math.inf) / 2.0, values.get("height", math.inf))


def places(readings: Sequence[Reading], thing: Thing) -> tuple[Place, ...]:
    """Where a tape can be laid on a box."""
    front = "front_height" if any(r.place == "front_height" for r in readings) else "height"
    left = "left_width" if any(r.place == "left_width" for r in readings) else "width"
    bumps, knobs = covered(thing.sticks_out, *WAYS), covered(thing.sticks_out, Face.TOP)

    def over(height: float, front_height: float, width: float, rounding: float) -> float:
        plain = path_over(height, front_height, width, rounding)
        return max([plain, *(over_knob(height, front_height, width, knob) for knob in knobs)])

    def around(length: float, width: float, left: float) -> float:
        return _around(length, width, left, bumps)

    return (
        LENGTH,
        WIDTH,
        HEIGHT,
        DROP,
        Place(
            "path",
            tr("over the top"),
            tr("From the ground up the front, over the top and down the back to the ground."),
            1540.0,
            ("height", front, "width", "rounding"),
            over,
            effort=1.2,
            too_long=STANDS_UP,
        ),
        FRONT_HEIGHT,
        Place(
            "girth",
            tr("girth"),
            tr("Around, level, over everything that sticks out."),
            1598.0,
            ("length", "width", left),
            around,
            effort=1.2,
            too_long=UNDER_IT,
        ),
        DIAGONAL,
        EDGES,
        BELOW,
        OVER_SIDES,
        taper.LEFT_WIDTH,
        taper.LEFT_HEIGHT,
    )


def over_knob(height: float, front: float, width: float, knob: SticksOut) -> float:
    """A taut tape over something that stands up in the middle of the top: 2H + q + 2√(((W − q)/2)² + k²)."""
    beside = max(0.0, (width - knob.size) / 2.0)
    return height + front + knob.size + 2.0 * math.hypot(beside, knob.reach)


def _around(length: float, width: float, left: float, bumps: Sequence[SticksOut]) -> float:
    plain = taper.girth_of(length, width, left)
    if not bumps:
        return plain
    sides = tuple(worked(tr("size"), size) for size in (length, width, left))
    return max(grown(taper.plan, sides, worked(tr("girth"), plain), [t], _stands).value for t in bumps)


def _stands(thing: SticksOut, length: float, width: float, _left: float) -> tuple[float, float, float]:
    return on_side(thing, length, width)


@dataclass(frozen=True, slots=True)
class Box:
    """A measured box."""

    ability: ClassVar[Ability] = Ability.BOXY

    length: Worked
    width: Worked
    height: Worked
    drop: Worked
    front_height: Worked
    rounding: Worked | None
    sections: tuple[Section, ...]
    sticks_out: tuple[SticksOut, ...] = ()
    left: taper.LeftEnd | None = None

    @property
    def tilted(self) -> taper.Tilted:
        """Its walls and its top as planes."""
        left = self.left or taper.LeftEnd(self.width, self.height)
        sizes = (self.length, self.width, self.height, self.front_height, left.width, left.height)
        return taper.Tilted(*(size.value for size in sizes))

    @property
    def ends(self) -> float:
        """Height at which the cover ends, mm."""
        return self.height.value - (self.drop.value - over_top(self.sticks_out)[0])

    @property
    def occupied(self) -> Occupied:
        """The box, and what stands up in the middle of its top and is covered over."""
        body: Occupied = drawn_across(self.ring, self.length.value) if self.left is None else self.tilted.occupied
        middle = self.tilted.top[0]  # it stands in the middle, also of a top that slopes
        up = [lying_box(t.size, t.size, middle, middle + t.reach) for t in covered(self.sticks_out, Face.TOP)]
        return All((body, *up)) if up else body

    @property
    def path(self) -> Worked:
        """From the ground up the front, over the top and down the back; over what stands up on top."""
        rounding = self.rounding or worked(tr("rounding"), 0.0)
        knobs = covered(self.sticks_out, Face.TOP)
        if not knobs and self.front_height == self.height:
            return self.height * 2.0 + self.width - rounding * (4.0 - math.pi)

        def over(height: float, front: float, width: float, rho: float) -> float:
            return max([path_over(height, front, width, rho), *(over_knob(height, front, width, knob) for knob in knobs)])

        return through(
            tr("over the top"),
            tr("up the front, over, down the back"),
            over,
            self.height,
            self.front_height,
            self.width,
            rounding,
        )

    @property
    def ring(self) -> Points:
        """Its side, seen from the right, its upper corners rounded as far as a path over them has told."""
        ring = side_outline(self.width.value, self.height.value, self.front_height.value)
        rho = self.rounding.value if self.rounding is not None else 0.0
        if rho <= 0.0:
            return ring
        floor = [(self.width.value, -3.0 * rho), (0.0, -3.0 * rho)]  # only what is above it is rounded
        side = shapely.Polygon([*floor[::-1], *ring[2:]]).buffer(-rho).buffer(rho, quad_segs=quarter_chords(rho))
        above = shapely.normalize(side.intersection(shapely.box(-1.0, 0.0, self.width.value + 1.0, self.height.value * 2.0)))
        return np.ascontiguousarray(shapely.get_coordinates(above)[-2::-1]) if above.area else ring

    @property
    def over_it(self) -> Points:
        """Its side, seen from the right, and what stands up in the middle of its top and is covered over."""
        middle, top = self.width.value / 2.0, self.height.value
        up = [(middle + s * t.size / 2.0, top + t.reach) for t in covered(self.sticks_out, Face.TOP) for s in (-1.0, 1.0)]
        return np.vstack((self.ring, np.array(up).reshape(-1, 2)))

    @property
    def sides(self) -> tuple[Worked, ...]:
        """What its side is made from; over what stands up on top and is covered over, all of the top is lifted."""
        slope = (self.height.value - self.front_height.value) / self.width.value
        _, t = over_top(self.sticks_out, slope)
        if t is None:
            return self.width, self.height, self.front_height
        over = worked(tr("over the {thing}", thing=Name(t.name)), t.reach, refs.sticks_out(t.id).at("reach"))
        if slope:
            words, on = (tr("as the top slopes"), tr("from its middle to its edge")), (self.height, self.front_height, self.width)
            over = over + through(*words, lambda high, low, wide: (high - low) / wide * t.size / 2.0, *on)
        return self.width, self.height + over, self.front_height + over

    def outline(self, *sides: float) -> Points:
        """Its side for other values of width, height and front, mm."""
        return side_outline(*sides)

    @property
    def across(self) -> Worked:
        """How far its side is drawn out."""
        return self.length

    def mesh(self) -> Mesh:
        """Its surface."""
        h = self.height.value
        corners = self.tilted.corners(0.0, 0.0)
        body = loft([corners[4:], corners[:4]])
        for thing in self.sticks_out:
            place = (0.0, 0.0, 0.0) if thing.face is Face.TOP else on_side(thing, self.length.value, self.width.value)
            body += bump(thing, place, h)
        return body

    def tape(self, place: str) -> Solid:
        """Where the tape goes."""
        upper, ground = np.split(self.tilted.corners(0.0, 0.0), 2)
        front_left, front_right, back_right, back_left = upper
        out, up = np.array((1.02, 1.02, 1.0)), np.array((1.0, 1.0, 1.01))
        before, behind = (front_left + front_right) / 2.0, (back_left + back_right) / 2.0
        down, low = front_left * 0.2 + front_right * 0.8, max(0.0, self.height.value - self.drop.value)
        on_the_left, on_the_right = (front_left + back_left) / 2.0, (front_right + back_right) / 2.0
        match place:
            case "length":
                return _laid(front_left, front_right, by=up)
            case "width":
                return _laid(front_right, back_right, by=up)
            case "height":
                return _upright(back_right if self.left or taper.slopes(self) else front_left, out)
            case "front_height":
                return _upright(before, out)
            case "drop":
                return _upright(down, out, low)
            case "below":
                return _upright((*down[:2], max(low, 0.02 * self.height.value)), out)
            case "path":
                return _laid(before * LEVEL, before, behind * up, behind * LEVEL)
            case "string":
                return _laid(on_the_left * LEVEL, on_the_left, on_the_right * up, on_the_right * LEVEL)
            case "girth":
                return level_path(ground[:, :2], self.front_height.value * 0.5)
            case "diagonal":
                return _laid(front_left, back_right, by=up)
            case "left_width":
                return _laid(front_left, back_left, by=(1.01, 1.0, 0.5))
            case "left_height":
                return _upright(back_left, out)
            case "edges":
                return _laid(front_right * LEVEL, front_right, back_right, back_left * up, by=out)
        return np.empty((0, 3))


LEVEL: Final = (1.0, 1.0, 0.0)
"""What brings a point down to the ground."""


def _laid(*points: Any, by: Any = 1.0) -> Solid:
    """A tape from point to point, a little outside of the box."""
    return np.asarray(np.array(points) * by)


def _upright(top: Any, out: Any, low: float = 0.0) -> Solid:
    """A tape from a height up to a point."""
    return _laid((*top[:2], low), top, by=out)


def build(measured: Measured) -> Box:
    """A box from its parts.

    Raises:
        Impossible: the front is higher than the box.
    """
    length, width, height = measured["length"], measured["width"], measured["height"]
    front, things = measured.get("front_height") or height, measured.thing.sticks_out
    if front.value > height.value:
        raise Impossible(tr("the front is higher than the box"), refs.reading("front_height"))
    rounding = measured.get("rounding")
    drop = measured.get("drop") or height
    for knob in sorted(covered(things, Face.TOP), key=lambda t: t.reach)[-1:]:
        drop = drop + worked(tr("over the {thing}", thing=Name(knob.name)), knob.reach, refs.sticks_out(knob.id).at("reach"))
    left = _left_end(measured, width, height)
    around, spans = (length + width) * 2.0, (length, width)
    if left is not None:
        around = through(tr("girth"), tr("around both ends and both sides"), taper.girth_of, length, width, left.width)
    deepest = max(height.value, drop.value)
    sections: tuple[Section, ...] = (Section(0.0, around, spans), Section(deepest, around, spans))
    plain = Box(length, width, height, drop, front, None, sections, things, left)
    level = left is None and front.value >= height.value
    low = 0.0 if level else height.value - float(plain.tilted.corners(0.0, 0.0)[:4, 2].min())
    if low > 1.0:  # at the ridge there is only the one side that is as high, twice; where it falls to the left too only a corner
        falls = height.value - front.value > 1.0, left is not None and height.value - left.height.value > 1.0
        along, across = length * float(not falls[1]), width * float(not falls[0])
        ridge = Section(0.0, (along if falls[0] else across) * 2.0, (along, across))
        sections = (ridge, Section(low, around, spans), Section(deepest, around, spans))
    plain = replace(plain, rounding=rounding if rounding and rounding.slopes else None)
    sides = (length, width, left.width if left is not None else width)
    bumped = with_bumps(sections, things, lambda girth, there: grown(taper.plan, sides, girth, there, _stands))
    return replace(plain, sections=bumped)


def _left_end(measured: Measured, width: Worked, height: Worked) -> taper.LeftEnd | None:
    """The left end as it was measured, where it was; one that differs only by what a tape can tell is like the right one.

    Raises:
        Impossible: it is wider or higher than the right end.
    """
    wide, high = measured.get("left_width"), measured.get("left_height")
    if wide is None and high is None:
        return None
    if high is not None and high.value > height.value + taper.TELLS:
        raise Impossible(tr("the left end is higher than the box: look at it from its other side"), refs.reading("left_height"))
    if wide is not None and wide.value > width.value + taper.TELLS:
        raise Impossible(
            tr("the left end is wider than the right one: look at it from its other side"), refs.reading("left_width")
        )
    wide = wide if wide is not None and wide.value < width.value else width
    high = high if high is not None and high.value < height.value else height
    alike = max(width.value - wide.value, height.value - high.value) <= taper.TELLS
    return None if alike else taper.LeftEnd(wide, high)


def side_outline(length: float, height: float, front: float) -> Points:
    """The side of a box with a lower front, seen from the right: along x from front to back, `(4, 2)`."""
    return np.array([(0.0, 0.0), (length, 0.0), (length, height), (0.0, front)])


TALL, LOW = 1.4, 0.45
"""A box this much higher than it is long is lifted into its cover rather than draped; one this low has the least seam in one sheet."""


def best_scheme(values: Mapping[str, float], thing: Thing) -> tuple[str, Phrase]:
    """What the answers about a box speak for."""
    if "left_width" in values or "left_height" in values:
        return "five-panels", tr("Its ends differ: five panels follow every side of it.")
    if "front_height" in values:
        return "traced-ends", tr("The top slopes: shaped ends follow it, and one strip covers the rest.")
    if thing.lives is Lives.KITCHEN:
        return "drape", tr("In a kitchen it comes off with one hand and washes flat.")
    high, long = values.get("height", 0.0), max(values.get("length", 0.0), values.get("width", 0.0), 1.0)
    if high > TALL * long:
        return "wall-and-top", tr("Tall and narrow: one strip around has a single upright seam.")
    if 0.0 < high < LOW * long:
        return "one-piece", tr("Low and flat: one sheet with four corners has the least seam.")
    return "saddle-and-ends", tr("No seam across the top, where rain stands.")


FORM = Form(
    "box",
    tr("Box"),
    tr("Straight sides: machine, motor, cleaner, trolley, table."),
    frozenset({Ability.BOXY, Ability.OUTLINED}),
    parts,
    places,
    build,
    grows=True,
    tops=True,
    dropped_over=True,
    proportions=(
        Proportion("length", "width", 0.15, 25.0),
        Proportion("height", "length", 0.02, 15.0),
        Proportion("height", "drop", 0.9, 8.0),
    ),
    best_scheme=best_scheme,
)
