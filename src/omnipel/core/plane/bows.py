"""Arcs in a line that is kept as points: which runs of its points lie on a circle, so that a file can hold the arc itself.

Curves are flattened onto their own points, so that what was an arc still is one to the last digit, wherever it was moved to, cut off or
laid; only cloth that is cut larger along than across turns it into something else, and then nothing is found. Nothing is fitted: three
points make the circle, all others lie on it.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

import numpy as np

from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import CHORD_ERROR, ON_CIRCLE

LEAST_CHORDS: Final = 4
"""Any four points of a rectangle lie on a circle; of fewer chords nothing is said."""
FLATTENED: Final = 1.2
"""A chord leaves its arc by the chord error, by this much more where the panel is cut larger than finished."""
FINE_STEP: Final = math.radians(6.0)
"""Or it turns by no more than this: no thing that is measured has sixty equal sides."""
MOST_TURN: Final = math.radians(122.0)
"""An arc of the lines that are found turns by no more; parts of a circle of few points are not quite even."""
LARGEST: Final = 1e6
"""An arc of a larger radius, mm, is a line: over a metre it rises by an eighth of a mm."""


@dataclass(frozen=True, slots=True)
class Bow:
    """Points `first` … `last` of a line lie on an arc that turns by `sweep`, radians, positive to the left, no more than a third of a turn:
    of half a turn the least rounding of an end would move the middle far.

    In a closed line `last` may be the number of its points: the first one again.
    """

    first: int
    last: int
    sweep: float


def bulge(sweep: float) -> float:
    """Rise over half the chord of an arc that turns by `sweep`, radians: how drawings exchanged between programs tell it.

    >>> bulge(math.pi)
    1.0
    """
    return round(math.tan(sweep / 4.0), 15)


def bows(points: Points, *, closed: bool = False) -> tuple[Bow, ...]:
    """The arcs in a line of points `(n, 2)`, one after the other; closed lines have no repeated end.

    >>> from omnipel.core.plane.curves import arc_about
    >>> [round(math.degrees(bow.sweep)) for bow in bows(arc_about((0, 0), 100, 0, 2 * math.pi).points()[:-1], closed=True)]
    [121, 119, 121]
    """
    line = np.concatenate((points, points[:1])) if closed else points
    if len(line) <= LEAST_CHORDS:
        return ()
    return tuple(bow for first, last in _runs(line) for bow in _parted(line, first, last))


def _runs(line: Points) -> Iterator[tuple[int, int]]:
    """Where points lie on one circle, each run as long as it goes."""
    steps = np.diff(line, axis=0)
    long = np.hypot(*steps.T)
    turns = steps[:-1, 0] * steps[1:, 1] - steps[:-1, 1] * steps[1:, 0]
    at, end = 0, len(line) - 1
    while at + LEAST_CHORDS <= end:
        sense = np.sign(turns[at])
        same = turns[at:] * sense > 0.0
        most = at + 1 + (int(np.argmin(same)) if not same.all() else len(same))
        least = at + LEAST_CHORDS
        if sense == 0.0 or most < least or not _on_circle(line, long, at, least):
            at += 1
            continue
        low, step = least, LEAST_CHORDS
        while low < most and step:  # further and further, then back by halves
            further = min(most, low + step)
            if _on_circle(line, long, at, further):
                low, step = further, step * 2
            else:
                step //= 2
        yield at, low
        at = low


def _on_circle(line: Points, long: Points, first: int, last: int) -> bool:
    """Whether points lie on one circle, and no further apart than a flattened arc's."""
    part, within = line[first : last + 1], long[first + 1 : last - 1]
    if len(within) > 1 and within.max() - within.min() > ON_CIRCLE:
        return False  # a flattened arc has even steps, but for the first and last where something is cut off
    found = circle(part[0], part[len(part) // 2], part[-1])
    if found is None:
        found = circle(part[0], part[len(part) // 3], part[2 * len(part) // 3])  # all the way around: its ends meet
    if found is None:
        return False
    centre, radius = found
    chord = float(long[first:last].max())
    if radius > LARGEST or chord >= radius:
        return False
    if chord > FINE_STEP * radius and radius - math.sqrt(radius * radius - chord * chord / 4.0) > FLATTENED * CHORD_ERROR:
        return False
    return bool(np.abs(np.hypot(*(part - centre).T) - radius).max() <= ON_CIRCLE)


def circle(a: Points, b: Points, c: Points) -> tuple[Points, float] | None:
    """Centre `(2,)` and radius of the circle through three points; None where they lie on a line, or two of them are one."""
    u, v = b - a, c - a
    across = 2.0 * float(u[0] * v[1] - u[1] * v[0])
    uu, vv = float(u @ u), float(v @ v)
    if abs(across) <= 1e-12 * (uu + vv):
        return None
    off = np.array((v[1] * uu - u[1] * vv, u[0] * vv - v[0] * uu)) / across
    return a + off, float(np.hypot(*off))


def _parted(line: Points, first: int, last: int) -> Iterator[Bow]:
    """A run as arcs of no more than a third of a turn each."""
    part = line[first : last + 1]
    third = len(part) // 3
    found = circle(part[0], part[third], part[2 * third])
    assert found is not None
    seen = np.unwrap(np.arctan2(*(part - found[0]).T[::-1]))
    parts = math.ceil(abs(float(seen[-1] - seen[0])) / MOST_TURN)
    cuts = [round(k * (len(part) - 1) / parts) for k in range(parts + 1)]
    for a, b in pairwise(cuts):
        yield Bow(first + a, first + b, float(seen[b] - seen[a]))


def along(points: Points, found: tuple[Bow, ...], *, closed: bool = False) -> Iterator[tuple[int, float]]:
    """A line as steps from its first point on: to which point one goes next, and by how much the way there turns, 0 where it is straight."""
    last, starts = len(points) if closed else len(points) - 1, {bow.first: bow for bow in found}
    at = 0
    while at < last:
        bow = starts.get(at)
        at = bow.last if bow is not None else at + 1
        yield at % len(points), bow.sweep if bow is not None else 0.0
