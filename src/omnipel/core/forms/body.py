"""What every body answers: its girth at any depth, its surface, where the tape goes.

Depth is measured downward from the object's top, because a cover hangs from there.
"""

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Protocol

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.sections import Section
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.space.frames import Solid, Vector
from omnipel.core.space.mesh import Mesh, block, closed, level
from omnipel.core.space.occupied import Occupied
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, tr
from omnipel.core.words.working import Worked, through


class Body(Protocol):
    """A measured object."""

    @property
    def ability(self) -> Ability:
        """What it is drawn as when it is covered."""

    @property
    def sections(self) -> tuple[Section, ...]:
        """Girths from the top down, straight in between; what sticks out and is covered is part of them."""

    @property
    def occupied(self) -> Occupied:
        """The room that it takes up, with what stands up on top and is covered over."""

    def mesh(self) -> Mesh:
        """Its surface, for the sketch."""

    def tape(self, place: str) -> Solid:
        """Where the tape goes for a reading, `(n, 3)`; empty when the place is not of this form."""


def grown(
    section: Callable[..., NDArray[np.float64]],
    sides: Sequence[Worked],
    girth: Worked,
    things: Sequence[SticksOut],
    place: Callable[..., tuple[float, float, float]],
) -> Worked:
    """The girth of a taut tape over a section and what sticks out of it.

    Args:
        section: from the sides' values to the outline `(n, 2)` at this depth.
        sides: what the outline is made from.
        girth: its girth without anything sticking out.
        things: what sticks out at this depth and is covered over.
        place: from a thing and the sides' values to where it stands on the outline (x, y) and the direction it points in, radians.
    """
    total = girth
    for i, thing in enumerate(things):

        def more(*values: float, upto: int = i) -> float:
            return _over(section(*values), [(t, place(t, *values)) for t in things[: upto + 1]]) - _over(
                section(*values), [(t, place(t, *values)) for t in things[:upto]]
            )

        total = total + through(
            tr("over the {thing}", thing=Name(thing.name)),
            tr("taut tape over its end"),
            more,
            *sides,
            source=refs.sticks_out(thing.id).at("reach"),
        )
    return total


def _over(section: NDArray[np.float64], placed: Sequence[tuple[SticksOut, tuple[float, float, float]]]) -> float:
    """Length of a taut tape over a section and the ends of things, mm."""
    points = [section]
    for thing, (x, y, out) in placed:
        along, away = np.array([-math.sin(out), math.cos(out)]), np.array([math.cos(out), math.sin(out)])
        points.append(np.array([(x, y) + away * thing.reach + along * side * thing.size / 2.0 for side in (-1.0, 1.0)]))
    return float(shapely.MultiPoint(np.vstack(points)).convex_hull.length)


WAYS = {Face.FRONT: -math.pi / 2.0, Face.RIGHT: 0.0, Face.BACK: math.pi / 2.0, Face.LEFT: math.pi}
"""Which way each side faces, radians from x."""


def covered(things: Sequence[SticksOut], *faces: Face) -> list[SticksOut]:
    """What sticks out of some faces and is covered over."""
    return [t for t in things if t.treatment is Treatment.COVER and t.face in faces]


def over_top(things: Sequence[SticksOut], slope: float = 0.0) -> tuple[float, SticksOut | None]:
    """How far a cover's top has to be lifted over what stands up in the middle of it, mm, and for which thing; more over the edges of a `slope`."""
    found = [(thing.reach + slope * thing.size / 2.0, thing) for thing in covered(things, Face.TOP)]
    return max(found, key=lambda pair: pair[0], default=(0.0, None))


def with_bumps(
    sections: Sequence[Section], things: Sequence[SticksOut], at: Callable[[Worked, list[SticksOut]], Worked]
) -> tuple[Section, ...]:
    """Sections with those added where something covered over begins and ends.

    Args:
        sections: the plain ones.
        things: what sticks out.
        at: from the plain girth at a depth to that over the things that stick out there.
    """
    bumps = covered(things, *WAYS)
    if not bumps:
        return tuple(sections)
    deepest = max(section.depth for section in sections)
    depths = {section.depth for section in sections}
    for thing in bumps:
        for edge in (-1.0, 1.0):
            depth = thing.from_top + edge * thing.size / 2.0
            depths |= {min(max(depth + nudge, 0.0), deepest) for nudge in (-0.5 * edge, 0.5 * edge)}
    made: list[Section] = []
    before: tuple[Worked, list[SticksOut], Worked] | None = None
    for depth in sorted(depths):
        there = [t for t in bumps if abs(t.from_top - depth) <= t.size / 2.0]
        plain = section_at(sections, depth)
        if not there:
            made.append(plain)
            continue
        if before is None or before[:2] != (plain.girth, there):  # along one thing the girth is mostly the same
            before = (plain.girth, there, at(plain.girth, there))
        made.append(replace(plain, girth=before[2]))
    return tuple(made)


def section_at(sections: Sequence[Section], depth: float) -> Section:
    """The section at a depth, straight between those that are known."""
    if depth <= sections[0].depth:
        return replace(sections[0], depth=depth)
    for above, below in zip(sections, sections[1:], strict=False):
        if depth <= below.depth:
            if below.depth in (above.depth, depth) or above.girth == below.girth:
                return replace(below, depth=depth)
            part = (depth - above.depth) / (below.depth - above.depth)
            spans = tuple(a * (1.0 - part) + b * part for a, b in zip(above.spans, below.spans, strict=True))
            return Section(depth, above.girth * (1.0 - part) + below.girth * part, spans)
    return replace(sections[-1], depth=depth)


def widest(sections: Sequence[Section], down_to: float) -> Section:
    """The largest girth at or above a depth: what a cover that ends there must pass."""
    return max((s for s in sections if s.depth <= down_to + 1e-9), key=lambda s: s.girth.value, default=sections[0])


def level_path(section: NDArray[np.float64], height: float, spare: float = 1.01) -> Solid:
    """A tape laid level around an outline `(n, 2)` at a height, a little outside it."""
    return closed(level(section * spare, height))


def rectangle_section(length: float, width: float) -> NDArray[np.float64]:
    """The level outline of a box, `length` along x, `width` along y, counter-clockwise from the front left."""
    x, y = length / 2.0, width / 2.0
    return np.array([(-x, -y), (x, -y), (x, y), (-x, y)])


def stands(body: Body, thing: SticksOut) -> tuple[Vector, Vector] | None:
    """Something on its axis and which way it points: up in the middle of the top, or straight out of its side; None where the object has no sides."""
    surface = [face for face in body.mesh().faces if face.part == "object"]
    if not surface:
        return None
    top = max(float(face.points[:, 2].max()) for face in surface)
    if thing.face is Face.TOP:
        return (0.0, 0.0, top), (0.0, 0.0, 1.0)
    if not body.sections:
        return None
    there, height = section_at(body.sections, max(0.0, thing.from_top)), top - thing.from_top
    way = WAYS[thing.face]
    if there.spans:
        x, y, _ = on_side(thing, 0.0, 0.0)
        return (x, y, height), (math.cos(way), math.sin(way), 0.0)
    way += thing.from_centre * 2.0 * math.pi / max(there.girth.value, 1e-9)
    return (0.0, 0.0, height), (math.cos(way), math.sin(way), 0.0)


Standing = Mapping[str, tuple[Vector, Vector]]
"""Where what sticks out stands on the object, and which way it points, by its id."""


def standing(body: Body, things: Iterable[SticksOut]) -> Standing:
    """Where things stand, those that do."""
    found = {thing.id: stands(body, thing) for thing in things}
    return {id_: place for id_, place in found.items() if place is not None}


def on_side(thing: SticksOut, long: float, wide: float) -> tuple[float, float, float]:
    """Where a thing stands on a box so long and wide: x, y, and the direction it points in."""
    way = WAYS[thing.face]
    out = np.array((round(math.cos(way)), round(math.sin(way))))
    x, y = out * (long / 2.0, wide / 2.0) + thing.from_centre * np.array((-out[1], out[0]))
    return float(x), float(y), way


def bump(thing: SticksOut, place: tuple[float, float, float], top: float) -> Mesh:
    """What sticks out, for the sketch: out of a side at a place and in a direction, or up from a top so high."""
    if thing.face is Face.TOP:
        foot, way, (reach, high) = (0.0, -thing.size / 2.0, top + thing.reach / 2.0), math.pi / 2.0, (thing.size, thing.reach)
    else:
        foot, way, (reach, high) = (place[0], place[1], top - thing.from_top), place[2], (thing.reach, thing.size)
    return block(foot, way, reach, thing.size, high, f"sticks out:{thing.id}")
