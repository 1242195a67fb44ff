"""What every form answers: which readings it wants, its girth at any depth, its surface, where the tape goes.

Depth is measured downward from the object's top, because a cover hangs from there.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.forms.mesh import Mesh, Solid, closed, level
from omnipel.core.forms.thing import Outline, SticksOut, Thing, Treatment
from omnipel.core.tape.readings import Reading
from omnipel.core.tolerances import GIRTH_AGAINST_ACROSS
from omnipel.core.working import READINGS, Worked, worked


@dataclass(frozen=True, slots=True)
class Wanted:
    """A reading that a form asks for.

    Args:
        place: its key in the job.
        words: what it is called.
        how: where the tape starts, goes and stops, in one sentence.
        sample: a plausible value in mm, for a new job.
        needed: whether the form cannot do without.
    """

    place: str
    words: str
    how: str
    sample: float
    needed: bool = True


@dataclass(frozen=True, slots=True)
class Section:
    """The object's girth at a depth below its top."""

    depth: float
    girth: Worked


class Body(Protocol):
    """A measured object."""

    @property
    def sections(self) -> tuple[Section, ...]:
        """Girths from the top down, straight in between; what sticks out and is covered is part of them."""

    @property
    def checks(self) -> tuple[Finding, ...]:
        """Cross-checks between the readings."""

    def mesh(self) -> Mesh:
        """Its surface, for the sketch."""

    def tape(self, place: str) -> Solid:
        """Where the tape goes for a reading, `(n, 3)`; empty when the place is not of this form."""


class Taken:
    """The readings of a job by place, with the words of what the form wants."""

    def __init__(self, readings: Sequence[Reading], wanted: Sequence[Wanted]) -> None:
        self.by_place: Mapping[str, Reading] = {reading.place: reading for reading in readings}
        self.words = {want.place: want.words for want in wanted}

    def __contains__(self, place: str) -> bool:
        return place in self.by_place

    def __getitem__(self, place: str) -> Worked:
        """The value of a reading, as a number that knows its source.

        Raises:
            MissingReading: it has not been taken.
        """
        reading = self.by_place.get(place)
        if reading is None:
            raise MissingReading(place, self.words.get(place, place))
        count = len(reading.kept)
        how = f"{'median' if count >= 4 else 'mean'} of {count} readings" if count > 1 else "one reading"
        return worked(self.words.get(place, place), reading.value, READINGS + place, how)

    def get(self, place: str) -> Worked | None:
        """The value of a reading, or None when it has not been taken."""
        return self[place] if place in self.by_place else None


class MissingReading(Impossible):
    """A needed reading has not been taken."""

    def __init__(self, place: str, words: str) -> None:
        self.place = place
        super().__init__(f"{words} has not been measured yet", READINGS + place)


@dataclass(frozen=True, slots=True)
class Form:
    """A kind of object.

    Args:
        key: its name in job files and on the command line.
        words: its name on screen.
        about: one line that tells it from the others.
        wanted: the readings it asks for, given those taken so far (stations can be added).
        measure: from readings and description to a body.
        outline: a traced outline to start from, for forms that need one.
    """

    key: str
    words: str
    about: str
    wanted: Callable[[Sequence[Reading]], tuple[Wanted, ...]]
    measure: Callable[[Taken, Thing], Body]
    outline: Outline | None = None


def always(*wanted: Wanted) -> Callable[[Sequence[Reading]], tuple[Wanted, ...]]:
    """For a form that asks for the same readings whatever has been taken."""
    return lambda _readings: wanted


def grown(
    section: NDArray[np.float64],
    girth: Worked,
    things: Sequence[SticksOut],
    place: Callable[[SticksOut], tuple[float, float, float]],
) -> Worked:
    """The girth of a taut tape over a section and what sticks out of it.

    Args:
        section: the outline `(n, 2)` at this depth.
        girth: its girth without anything sticking out.
        things: what sticks out at this depth and is covered over.
        place: for each, where it stands on the outline (x, y) and the direction it points in, radians.
    """
    hull = shapely.MultiPoint(section).convex_hull
    total = girth
    for thing in things:
        x, y, out = place(thing)
        half, reach = thing.size / 2.0, thing.reach
        along, away = np.array([-math.sin(out), math.cos(out)]), np.array([math.cos(out), math.sin(out)])
        ends = [np.array([x, y]) + away * reach + along * side * half for side in (-1.0, 1.0)]
        wider = shapely.MultiPoint(np.vstack((shapely.get_coordinates(hull), *ends))).convex_hull
        more = wider.length - hull.length
        total = total + worked(f"over the {thing.name}", more, f"thing.sticks_out.{thing.name}.reach", "taut tape over its end")
        hull = wider
    return total


def covered_at(things: Sequence[SticksOut], depth: float) -> list[SticksOut]:
    """What sticks out at a depth and is covered over."""
    return [t for t in things if t.treatment is Treatment.COVER and abs(t.from_top - depth) <= t.size / 2.0]


def with_bumps(
    sections: Sequence[Section], things: Sequence[SticksOut], at: Callable[[float, list[SticksOut]], Worked]
) -> tuple[Section, ...]:
    """Sections with those added where something covered over begins and ends.

    Args:
        sections: the plain ones.
        things: what sticks out.
        at: the girth at a depth over the things that stick out there.
    """
    bumps = [t for t in things if t.treatment is Treatment.COVER]
    if not bumps:
        return tuple(sections)
    deepest = max(section.depth for section in sections)
    depths = {section.depth for section in sections}
    for thing in bumps:
        for edge in (-1.0, 1.0):
            depth = thing.from_top + edge * thing.size / 2.0
            depths |= {min(max(depth + nudge, 0.0), deepest) for nudge in (-0.5 * edge, 0.5 * edge)}
    made = []
    for depth in sorted(depths):
        there = covered_at(bumps, depth)
        made.append(Section(depth, at(depth, there) if there else interpolated(sections, depth)))
    return tuple(made)


def interpolated(sections: Sequence[Section], depth: float) -> Worked:
    """The girth at a depth, straight between the sections."""
    if depth <= sections[0].depth:
        return sections[0].girth
    for above, below in zip(sections, sections[1:], strict=False):
        if depth <= below.depth:
            if below.depth == above.depth or above.girth == below.girth:
                return below.girth
            part = (depth - above.depth) / (below.depth - above.depth)
            return above.girth * (1.0 - part) + below.girth * part
    return sections[-1].girth


def widest(sections: Sequence[Section], down_to: float) -> Section:
    """The largest girth at or above a depth: what a cover that ends there must pass."""
    return max((s for s in sections if s.depth <= down_to + 1e-9), key=lambda s: s.girth.value, default=sections[0])


def disagreement(girth: Worked, across: Worked, across_place: str) -> Finding | None:
    """Girth against across-reading of the same round body (trade practice: more than 2 % apart, use the girth)."""
    by_girth = girth.value / math.pi
    if abs(across.value - by_girth) <= GIRTH_AGAINST_ACROSS * by_girth:
        return None
    short = "short" if across.value < by_girth else "long"
    text = (
        f"Across reads {across.value:.0f} mm, but a girth of {girth.value:.0f} makes a diameter of {by_girth:.0f}: "
        f"across is {abs(across.value - by_girth):.0f} too {short}. The girth is used."
    )
    remedy = Remedy("Drop the across-reading", (Change(READINGS + across_place, act=Act.REMOVE),))
    return Finding("readings-disagree", Severity.LOOK, text, READINGS + across_place, (remedy,))


def differs(text: str, place: str) -> Finding:
    """Two readings that cannot both be right; the helpful one may be dropped."""
    remedy = Remedy("Drop this reading", (Change(READINGS + place, act=Act.REMOVE),))
    return Finding("readings-disagree", Severity.LOOK, text, READINGS + place, (remedy,))


def level_path(section: NDArray[np.float64], height: float, spare: float = 1.01) -> Solid:
    """A tape laid level around an outline `(n, 2)` at a height, a little outside it."""
    return closed(level(section * spare, height))


def rectangle_section(length: float, width: float) -> NDArray[np.float64]:
    """The level outline of a box, `length` along x, `width` along y, counter-clockwise from the front left."""
    x, y = length / 2.0, width / 2.0
    return np.array([(-x, -y), (x, -y), (x, y), (-x, y)])


def on_front(thing: SticksOut, front: float) -> tuple[float, float, float]:
    """Where a thing stands on a flat front: x, y, and the direction it points in."""
    return thing.from_centre, front, -math.pi / 2.0
