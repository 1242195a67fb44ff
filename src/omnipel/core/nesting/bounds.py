"""Below which length nothing can be laid: proven, so that a search knows when to stop and a person how much is still to be gained."""

from __future__ import annotations

import itertools
import math
from collections import Counter
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import Final

import numpy as np
import shapely

from omnipel.core.nesting.convex import TOUCH, meeting, sides_of
from omnipel.core.nesting.placing import intervals
from omnipel.core.nesting.shape import Shape, Way
from omnipel.core.plane.curves import Points

MOST: Final = 6
"""So many of the largest shapes are looked at one by one."""
FEW: Final = 12
"""Of more pieces than these the area over the width tells nearly as much as anything: pieces that lie beside a long one are looked for no longer."""
LONG: Final = 2
"""So many of the longest are looked at as what the others lie beside."""
HEIGHTS: Final = (1.0, 0.85, 0.7, 0.5)
"""Shares of a shape's height that a rectangle in it is tried with."""
LEVELS: Final = 16
"""Rectangles are looked for at about so many heights."""
MORE: Final = 1e-6
"""Just higher than something, mm."""


def least_length(shapes: Sequence[Shape], width: float, known: float = math.inf) -> float:
    """No lay of these shapes on cloth of a width is shorter, mm; 0 for none. What is enough to prove that a `known` lay is the best is looked for no longer.

    The largest of: the longest piece; all areas over the width; two pieces that cannot lie above one another; rectangles within pieces of which no two can.
    """
    if not shapes:
        return 0.0
    several = tuple(sorted(Counter(shapes).items(), key=lambda entry: id(entry[0])))  # in one order, whatever order they lie in
    least = _at_sight(several, width)
    return least if least >= known - MORE else max(least, _looked_into(several, width))


Several = tuple[tuple[Shape, int], ...]
"""Shapes, and how many there are of each."""


@lru_cache(maxsize=64)
def _at_sight(several: Several, width: float) -> float:
    sorts = _by_size(several)
    area = math.fsum(shape.area * n for shape, n in several) / width
    longest = max(min(float(way.high[0] - way.low[0]) for way in _lawful(shape, width)) for shape in sorts)
    number = dict(several)
    twice = [shape for shape in sorts[:MOST] for _ in range(min(number[shape], 2))]
    pairs = max((_pair(one, other, width) for one, other in itertools.combinations(twice, 2)), default=0.0)
    return max(area, longest, pairs)


@lru_cache(maxsize=64)
def _looked_into(several: Several, width: float) -> float:
    return _cliques(_by_size(several), dict(several), width)


def _by_size(several: Several) -> list[Shape]:
    return sorted((shape for shape, _ in several), key=lambda shape: -shape.area)


def _lawful(shape: Shape, width: float) -> Sequence[Way]:
    """The ways that go onto the width; all, where none does."""
    return [way for way in shape.ways if way.high[1] - way.low[1] <= width + TOUCH] or shape.ways


def _cliques(sorts: Sequence[Shape], several: dict[Shape, int], width: float) -> float:
    """How long pieces are together of which no two can lie above one another: on the cloth, or on what a long one leaves of its width.

    Beside a rectangle `long` by `high` pieces that are longer than what the lay has beyond it lie in part. Of those that are too high for two
    of them to lie above one another there no two share any of its length, and one at most passes each end: so all of them together are no
    longer than the lay.
    """
    inside: dict[tuple[Shape, float], float] = {}

    def within(shape: Shape, height: float) -> float:
        key = shape, height
        if key not in inside:
            inside[key] = min(inscribed(way.ring, height) for way in _lawful(shape, width))
        return inside[key]

    found = _clique(sorts, several, width, within)[0]
    if sum(several.values()) > FEW:
        return found
    longest = sorted(sorts, key=lambda shape: -min(float(way.high[0] - way.low[0]) for way in shape.ways))[:LONG]
    for shape in longest:
        for share in HEIGHTS[:2]:
            high = share * min(float(way.high[1] - way.low[1]) for way in _lawful(shape, width)) - MORE
            long = within(shape, high)
            others = {**several, shape: several[shape] - 1}
            together, shortest = _clique([s for s in sorts if others[s]], others, width - high, within)
            found = max(found, min(together, long + shortest))
    return found


def _clique(
    sorts: Sequence[Shape], several: dict[Shape, int], width: float, within: Callable[[Shape, float], float]
) -> tuple[float, float]:
    """How long such pieces are together at most, one of them low and the others high enough for it; and how long the shortest of them is."""
    best = 0.0, 0.0
    for low in sorts[:MOST]:
        for share in HEIGHTS:
            height = share * min(float(way.high[1] - way.low[1]) for way in low.ways) - MORE
            others = max(width - height, width / 2.0) + MORE
            lengths = [(within(shape, others), several[shape] - (shape is low)) for shape in sorts]
            counted = [(long, n) for long, n in (*lengths, (within(low, height), 1)) if long > 0.0 and n > 0]
            together = math.fsum(long * n for long, n in counted)
            if together > best[0]:
                best = together, min(long for long, _ in counted)
    return best


def inscribed(ring: Points, height: float) -> float:
    """How long a rectangle of a height, lying as the cloth does, is at least found within a ring; 0 where none was found."""
    low, high = float(ring[:, 1].min()), float(ring[:, 1].max())
    if height >= high - low:
        return 0.0
    corners = ring[:, 1]
    levels = np.unique(np.concatenate((corners, corners - height, [(low + high - height) / 2.0])))
    levels = levels[(levels >= low) & (levels <= high - height)]
    after = np.roll(ring, -1, axis=0)
    y0, y1 = np.minimum(ring[:, 1], after[:, 1]), np.maximum(ring[:, 1], after[:, 1])
    best = 0.0
    for level in levels[:: max(1, len(levels) // LEVELS)]:
        met = (y1 > level) & (y0 < level + height)
        xs = _clipped(ring[met], after[met], float(level), float(level + height))
        order = np.argsort(xs[:, 0])
        reached = np.maximum.accumulate(xs[order, 1])
        gaps = xs[order, 0][1:] - reached[:-1]
        for k in np.argsort(-gaps):
            if gaps[k] <= best:
                break
            middle = shapely.Point((reached[k] + xs[order, 0][k + 1]) / 2.0, level + height / 2.0)
            if shapely.contains(shapely.Polygon(ring), middle):
                best = float(gaps[k])
                break
    return best


def _clipped(start: Points, end: Points, low: float, high: float) -> Points:
    """From where to where in x edges run between two levels, `(n, 2)`."""
    rise = end[:, 1] - start[:, 1]
    steep = np.abs(rise) > 1e-12
    slope = np.where(steep, (end[:, 0] - start[:, 0]) / np.where(steep, rise, 1.0), 0.0)
    xs = [np.where(steep, start[:, 0] + slope * (np.clip(p[:, 1], low, high) - start[:, 1]), p[:, 0]) for p in (start, end)]
    return np.column_stack((np.minimum(*xs), np.maximum(*xs)))


def _pair(one: Shape, other: Shape, width: float) -> float:
    """How long two pieces are together, at least, where they cannot lie above one another: by the largest convex part of each, which is no more than it is."""
    return min(_beside(a, b, width) for a in _lawful(one, width) for b in _lawful(other, width))


def _beside(a: Way, b: Way, width: float) -> float:
    alone = float(max(a.high[0] - a.low[0], b.high[0] - b.low[0]))
    lowest, highest = float(a.high[1] - b.low[1]) - width, width + float(a.low[1] - b.high[1])
    if highest < lowest:
        return alone
    regions = meeting([sides_of(a.largest)], [sides_of(-b.largest)])
    low, high = (found[:, 0] for found in intervals(regions, np.array((lowest, highest))))
    if np.isinf(low).any():
        return alone
    # A convex region's right border bulges outward, so that it is nearest at an end of the range; so is its left border.
    right, left = float(high.min()), float(low.max())
    ends = sorted((float(a.low[0] - b.low[0]), float(a.high[0] - b.high[0])))  # between these neither reaches beyond the other
    lengths = [
        float(max(a.high[0], b.high[0] + dx) - min(a.low[0], b.low[0] + dx)) for dx in (max(right, ends[0]), min(left, ends[1]))
    ]
    return max(alone, min(lengths))
