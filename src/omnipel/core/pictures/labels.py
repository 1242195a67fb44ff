"""Where words stand in a drawing: inside of a shape where there is room, clear of openings, lines and one another; else outside of it."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache
from typing import Final

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.plane.curves import Points

WIDE: Final = {
    **dict.fromkeys("iljtfrI.,:;'|!()[]· \u202f\u00a0", 0.3),
    **dict.fromkeys("mwMW", 0.86),
    **dict.fromkeys("×+−=–…", 0.55),
}
USUAL, CAPITAL = 0.53, 0.64
"""How wide letters are, as shares of their height: narrow and wide ones, others, capitals."""
STRONG: Final = 1.06
"""Strong letters are wider by this."""
ASCENT, DESCENT = 0.76, 0.24
"""How far letters reach above and below the line they stand on, as shares of their height."""
LEADING: Final = 1.3
SMALLEST: Final = 0.85
"""Words are made no smaller than this to fit."""
OVER_WORDS: Final = 10.0
"""Words over words are so many times as bad as lines through them."""
PLACES: Final = 13
"""So many places across and up are tried for a block of words."""


def width_of(words: str, size: float, *, strong: bool = False) -> float:
    """About how wide words are, in the unit of `size`, the height of their letters; never less than they are."""
    return size * _shares(words) * (STRONG if strong else 1.0)


@lru_cache(maxsize=4096)
def _shares(words: str) -> float:
    return math.fsum(WIDE.get(letter, CAPITAL if letter.isupper() else USUAL) for letter in words)


def box_of(label: Label) -> BaseGeometry:
    """What a label takes up."""
    return shapely.Polygon(_corners(label))


def _corners(label: Label) -> Points:
    wide = width_of(label.words, label.size, strong=label.strong)
    left, right = -label.anchor * wide, (1.0 - label.anchor) * wide
    corners = np.array(
        [(left, -DESCENT * label.size), (right, -DESCENT * label.size), (right, ASCENT * label.size), (left, ASCENT * label.size)]
    )
    c, s = math.cos(label.angle), math.sin(label.angle)
    return np.asarray(corners @ np.array([(c, s), (-s, c)]) + label.at)


def about(label: Label, off: float) -> Iterator[Label]:
    """The label at eight places round where it is: above, below, right and left of it first, `off` between the place and its words."""
    wide = width_of(label.words, label.size, strong=label.strong)
    right = off + label.anchor * wide, -off - (1.0 - label.anchor) * wide
    up = off + DESCENT * label.size, -off - ASCENT * label.size
    middle = (label.anchor - 0.5) * wide, (DESCENT - ASCENT) * label.size / 2.0
    straight = [(middle[0], y) for y in up] + [(x, middle[1]) for x in right]
    for dx, dy in (*straight, *((x, y) for y in up for x in right)):
        yield replace(label, at=(label.at[0] + dx, label.at[1] + dy))


def clear_of(label: Label, off: float, items: Sequence[Item]) -> Label:
    """The label where it crosses least of what is drawn, at one of the places round where it is."""
    paths = [item for item in items if isinstance(item, Path) and len(item.points) > 1]
    lines = shapely.union_all(
        [shapely.LineString([*path.points, path.points[0]] if path.closed else path.points) for path in paths]
    )
    words = shapely.union_all([box_of(item) for item in items if isinstance(item, Label)])

    def crossed(one: Label) -> float:
        box = box_of(one)
        return float(box.intersection(lines).length + box.intersection(words).area / one.size * OVER_WORDS)

    return min(about(label, off), key=crossed)


def extent(drawing: Drawing) -> tuple[float, float, float, float]:
    """Least x and y, greatest x and y of all paths and of all words as wide as they are."""
    words = [_corners(item) for item in drawing.items if isinstance(item, Label) and item.words]
    points = [item.points for item in drawing.items if isinstance(item, Path) and len(item.points)]
    every = np.concatenate([*points, *words] or [np.zeros((1, 2))])
    (x0, y0), (x1, y1) = every.min(axis=0).tolist(), every.max(axis=0).tolist()
    return x0, y0, x1, y1


@dataclass
class Room:
    """Where words may stand: a shape, less what is taken already."""

    shape: BaseGeometry
    taken: list[BaseGeometry] = field(default_factory=list)
    joined: tuple[int, BaseGeometry] = field(default=(0, shapely.Polygon()), init=False)

    def take(self, *shapes: BaseGeometry) -> None:
        """Nothing else stands there."""
        self.taken += shapes

    def has(self, box: BaseGeometry, *, inside: bool = True) -> bool:
        """Whether a box is free."""
        shapely.prepare(self.shape)
        if inside and not self.shape.covers(box):
            return False
        count, whole = self.joined
        return not (shapely.intersects(whole, box) or any(box.intersects(other) for other in self.taken[count:]))

    @property
    def _together(self) -> BaseGeometry:
        """All that is taken as one shape."""
        if len(self.taken) != self.joined[0]:
            whole = shapely.union_all([self.joined[1], *self.taken[self.joined[0] :]])
            shapely.prepare(whole)
            self.joined = len(self.taken), whole
        return self.joined[1]

    @cached_property
    def _sides(self) -> tuple[Points, Points] | None:
        """Of a convex shape the directions outward of its sides, and how far it reaches in each; None for others."""
        hull = self.shape.convex_hull
        if not isinstance(hull, shapely.Polygon) or hull.area > self.shape.area * (1.0 + 1e-9):
            return None
        ring = shapely.get_coordinates(shapely.orient_polygons(hull).exterior)
        along = np.diff(ring, axis=0)
        out = np.column_stack((along[:, 1], -along[:, 0]))
        return out, (out * ring[:-1]).sum(axis=1) + 1e-12 * np.abs(out).sum(axis=1) * np.abs(ring).max()

    def block(self, lines: Sequence[str], text: float, strong: int = 1) -> list[Label] | None:
        """Lines below one another, the first `strong` ones strong, as near to the middle as they can stand; None where there is no room.

        Upright where the shape is too narrow for them lying.
        """
        for size in (text, text * SMALLEST):
            wide = max(width_of(words, size, strong=i < strong) for i, words in enumerate(lines))
            high = size * LEADING * len(lines)
            for angle in (0.0, math.pi / 2.0):
                at = self.middle(*((wide, high) if not angle else (high, wide)))
                if at is not None:
                    return list(_lines(lines, at, size, angle, strong))
        return None

    def middle(self, wide: float, high: float) -> tuple[float, float] | None:
        """The middle of a free box so large, nearest to the middle of the shape."""
        x0, y0, x1, y1 = self.shape.bounds
        if x1 - x0 < wide or y1 - y0 < high:
            return None
        xs, ys = (np.linspace(low + half, top - half, PLACES) for low, top, half in ((x0, x1, wide / 2.0), (y0, y1, high / 2.0)))
        x, y = (grid.ravel() for grid in np.meshgrid(xs, ys))
        if self._sides is not None:
            out, far = self._sides
            free = np.asarray((np.column_stack((x, y)) @ out.T + np.abs(out) @ (wide / 2.0, high / 2.0) <= far).all(axis=1))
        else:
            shapely.prepare(self.shape)
            free = np.asarray(shapely.covers(self.shape, _boxes(x, y, wide, high)))
        if self.taken and free.any():
            free[free] = ~np.asarray(shapely.intersects(self._together, _boxes(x[free], y[free], wide, high)))
        if not free.any():
            return None
        middle = self.shape.centroid
        away = np.where(free, np.hypot(x - middle.x, (y - middle.y) * 1.5), np.inf)
        k = int(away.argmin())
        return float(x[k]), float(y[k])


def _boxes(x: Points, y: Points, wide: float, high: float) -> np.ndarray:
    return np.asarray(shapely.box(x - wide / 2.0, y - high / 2.0, x + wide / 2.0, y + high / 2.0))


def _lines(lines: Sequence[str], at: tuple[float, float], size: float, angle: float, strong: int) -> Iterator[Label]:
    """Lines about a middle."""
    down = np.array((math.sin(angle), -math.cos(angle)))
    for i, words in enumerate(lines):
        off = (i - (len(lines) - 1) / 2.0) * LEADING * size + 0.27 * size
        x, y = np.array(at) + down * off
        yield Label((float(x), float(y)), words, size, angle=angle, strong=i < strong)
