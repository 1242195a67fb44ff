"""The ways a tool takes over cloth or paper: along which lines, in which order, and how a blade that trails behind its holder is led.

A **drag knife** turns freely and cuts a little behind the axis it hangs from, by its *offset*. To cut a line the axis runs ahead of it by that much, and
swings about each corner until the blade points the new way. What a blade that is let down still points the wrong way spoils is cut again by an
*over-cut*: a closed line is followed on beyond where it began.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import IntEnum
from functools import cached_property
from typing import Final

import numpy as np

from omnipel.core.pictures.drawing import Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.bows import along
from omnipel.core.plane.curves import turn_between
from omnipel.core.tolerances import CHORD_ERROR
from omnipel.exchange.files.flat import Flat

Place = tuple[float, float]
SMOOTH: Final = math.radians(12.0)
"""Where a line bends by no more than this the blade follows by itself."""


class Tool(IntEnum):
    """What a machine holds: the numbers of its places."""

    KNIFE = 1
    PEN = 2


DRAWN: Final = (Layer.SEW, Layer.FOLD, Layer.MARKS, Layer.GRAIN, Layer.FIGURE)
"""What a pen draws; the cut line is the knife's."""


@dataclass(frozen=True, slots=True)
class Step:
    """On to a place, straight, or along an arc that turns by `sweep`, radians, positive to the left."""

    to: Place
    sweep: float = 0.0


@dataclass(frozen=True)
class Route:
    """A line that a tool follows without being lifted; `piece` is what it belongs to."""

    start: Place
    steps: tuple[Step, ...]
    closed: bool = False
    piece: str = ""

    @property
    def end(self) -> Place:
        """Where the tool is lifted."""
        return self.steps[-1].to if self.steps else self.start

    @cached_property
    def length(self) -> float:
        """How far the tool goes, mm."""
        return math.fsum(_length(a, step) for a, step in self.legs())

    def legs(self) -> Iterator[tuple[Place, Step]]:
        """Every step with the place it begins at."""
        at = self.start
        for step in self.steps:
            yield at, step
            at = step.to

    def from_(self, k: int) -> Route:
        """A closed route begun at the place that its step `k` begins at."""
        return self if not k else replace(self, start=self.steps[k - 1].to, steps=(*self.steps[k:], *self.steps[:k]))

    def backwards(self) -> Route:
        """The same line followed the other way."""
        legs = [(a, step) for a, step in self.legs()]
        return replace(self, start=self.end, steps=tuple(Step(a, -step.sweep) for a, step in reversed(legs)))


def route(path: Path, piece: str = "") -> Route:
    """The way along a path, its arcs as arcs."""
    points = path.points.tolist()
    steps = tuple(Step((points[k][0], points[k][1]), sweep) for k, sweep in along(path.points, path.bows, closed=path.closed))
    return Route((points[0][0], points[0][1]), steps, path.closed, piece)


def routes(whole: Flat, tool: Tool) -> list[Route]:
    """All the ways of a tool, in a good order: a piece's openings before its outline, so that it still lies fast, and on to what is nearest."""
    if tool in whole.ways:
        return list(whole.ways[tool])
    left = [group for piece in whole.pieces for group in _of(piece.drawing.items, piece.name, tool)]
    made: list[Route] = []
    at = (0.0, 0.0)
    while left:
        k = min(range(len(left)), key=lambda n: min(math.dist(at, way.start) for way in left[n]))
        for line in _nearest_next(left.pop(k), at, inside_out=tool is Tool.KNIFE):
            made.append(line)
            at = line.end
    whole.ways[tool] = list(made)
    return made


def labels(whole: Flat) -> list[Label]:
    """All words, in the order of the pieces."""
    return [item for piece in whole.pieces for item in piece.drawing.items if isinstance(item, Label) and item.words]


def _of(items: Sequence[object], piece: str, tool: Tool) -> Iterator[list[Route]]:
    """The lines of a piece for a tool."""
    layers = (Layer.CUT,) if tool is Tool.KNIFE else DRAWN
    found = []
    for item in items:
        if isinstance(item, Path) and item.layer in layers and len(item.points) > 1:
            if item.pairs:
                found += [
                    route(replace(item, points=item.points[k : k + 2], pairs=False), piece) for k in range(0, len(item.points), 2)
                ]
            else:
                found.append(route(item, piece))
    if found:
        yield found


def _nearest_next(lines: list[Route], at: Place, *, inside_out: bool) -> Iterator[Route]:
    """Lines one after the other; of what lies inside of another the inner first. Closed ones begin at the corner that is nearest, open ones at either end."""
    outer = max(lines, key=_box) if inside_out and len(lines) > 1 else None
    left = [line for line in lines if line is not outer]
    while left or outer is not None:
        if not left:
            assert outer is not None
            left, outer = [outer], None
        begun = [_begun(line, at) for line in left]
        k = min(range(len(left)), key=lambda n: math.dist(at, begun[n].start))
        left.pop(k)
        yield begun[k]
        at = begun[k].end


def _begun(line: Route, at: Place) -> Route:
    if line.closed:
        starts = [line.start, *(step.to for step in line.steps[:-1])]
        return line.from_(min(range(len(starts)), key=lambda k: math.dist(at, starts[k])))
    return line if math.dist(at, line.start) <= math.dist(at, line.end) else line.backwards()


def _box(line: Route) -> float:
    wide, high = np.ptp(np.array((line.start, *(step.to for step in line.steps))), axis=0)
    return float(wide * high)


def over_cut(line: Route, length: float) -> Route:
    """A closed route followed on beyond where it began, by so much, mm, but no more than once around."""
    if not line.closed or length <= 0.0:
        return line
    more: list[Step] = []
    left = min(length, line.length)
    for a, step in line.legs():
        long = _length(a, step)
        if long >= left:
            more.append(_part(a, step, left / long) if long else step)
            break
        more.append(step)
        left -= long
    return replace(line, steps=(*line.steps, *more))


def trailed(line: Route, offset: float) -> Route:
    """Where the axis of a blade that trails behind it by `offset`, mm, is led so that the blade follows the line."""
    if offset <= 0.0 or not line.steps:
        return line
    made: list[Step] = []
    begun: Place | None = None
    before = 0.0
    for a, step in line.legs():
        if math.dist(a, step.to) < CHORD_ERROR * 1e-3 and not step.sweep:
            continue
        heading, leaving = _headings(a, step)
        first = _ahead(a, heading, offset)
        if begun is None:
            begun = first
        else:
            turn = turn_between(before, heading)
            if abs(turn) > SMOOTH:
                made.append(Step(first, turn))  # the axis swings about the corner
            elif math.dist(made[-1].to, first) > CHORD_ERROR * 1e-3:
                made.append(Step(first))
        made.append(Step(_ahead(step.to, leaving, offset), step.sweep))
        before = leaving
    return replace(line, start=begun if begun is not None else line.start, steps=tuple(made))


def _ahead(place: Place, heading: float, by: float) -> Place:
    return place[0] + by * math.cos(heading), place[1] + by * math.sin(heading)


def _headings(a: Place, step: Step) -> tuple[float, float]:
    """Which way one goes at the beginning of a step and at its end, radians."""
    chord = math.atan2(step.to[1] - a[1], step.to[0] - a[0])
    return chord - step.sweep / 2.0, chord + step.sweep / 2.0


def _length(a: Place, step: Step) -> float:
    chord = math.dist(a, step.to)
    return chord if not step.sweep else chord * abs(step.sweep) / 2.0 / math.sin(abs(step.sweep) / 2.0)


def _part(a: Place, step: Step, share: float) -> Step:
    """The first share of a step."""
    if not step.sweep:
        return Step((a[0] + share * (step.to[0] - a[0]), a[1] + share * (step.to[1] - a[1])))
    heading, _ = _headings(a, step)
    radius = math.dist(a, step.to) / 2.0 / math.sin(abs(step.sweep) / 2.0)
    turn = step.sweep * share
    chord = 2.0 * radius * math.sin(abs(turn) / 2.0)
    return Step(_ahead(a, heading + turn / 2.0, chord), turn)


def centre(a: Place, step: Step) -> Place:
    """The middle of the circle that an arc lies on."""
    (x0, y0), (x1, y1) = a, step.to
    up = 0.5 / math.tan(step.sweep / 2.0)
    return (x0 + x1) / 2.0 - (y1 - y0) * up, (y0 + y1) / 2.0 + (x1 - x0) * up


def points(line: Route, chord_error: float = CHORD_ERROR) -> np.ndarray:
    """A route as points `(n, 2)`, none further than `chord_error` from it."""
    made = [line.start]
    for a, step in line.legs():
        if step.sweep:
            x, y = centre(a, step)
            radius, begin = math.dist((x, y), a), math.atan2(a[1] - y, a[0] - x)
            count = max(1, math.ceil(abs(step.sweep) * math.sqrt(radius / (8.0 * chord_error))))
            for k in range(1, count):
                angle = begin + step.sweep * k / count
                made.append((x + radius * math.cos(angle), y + radius * math.sin(angle)))
        made.append(step.to)
    return np.array(made)
