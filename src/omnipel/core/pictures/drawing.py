"""The display list that every picture is made of: paths and labels on named layers, millimetres, y up."""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.bows import Bow, bows
from omnipel.core.plane.curves import Points
from omnipel.core.words.refs import Ref


@dataclass(frozen=True)
class Path:
    """A polyline, or separate segments when `pairs`, or several rings that are filled as one where `rings` tells at which point each begins.

    `tone` 0 … 1 shades a filled face, which lies in the shade if `hatched`; `ref` says what was drawn; `far` that it lies behind.
    """

    points: Points
    layer: Layer
    closed: bool = False
    fill: str = ""
    tone: float = 1.0
    ref: Ref | None = None
    pairs: bool = False
    far: bool = False
    rings: tuple[int, ...] = ()
    hatched: bool = False

    @cached_property
    def bows(self) -> tuple[Bow, ...]:
        """The arcs in it, which files keep as arcs."""
        return () if self.pairs or self.rings else bows(self.points, closed=self.closed)


@dataclass(frozen=True, slots=True)
class Label:
    """Words at a point. `size` is the height of the text in mm; `anchor` 0 left, 0.5 middle, 1 right; `angle` radians."""

    at: tuple[float, float]
    words: str
    size: float
    layer: Layer = Layer.TEXT
    anchor: float = 0.5
    angle: float = 0.0
    strong: bool = False
    ref: Ref | None = None


Item = Path | Label


@dataclass(frozen=True)
class Drawing:
    """A picture."""

    items: tuple[Item, ...]

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """xmin, ymin, xmax, ymax of all paths and labels' anchors; zeros when empty."""
        points = [item.points if isinstance(item, Path) else np.array((item.at,)) for item in self.items]
        every = np.concatenate([part for part in points if len(part)] or [np.zeros((1, 2))])
        low, high = every.min(axis=0), every.max(axis=0)
        return float(low[0]), float(low[1]), float(high[0]), float(high[1])

    def moved(self, dx: float, dy: float) -> "Drawing":
        """The same picture elsewhere."""
        return Drawing(tuple(_moved(item, dx, dy) for item in self.items))

    def turned(self) -> "Drawing":
        """The same picture a quarter turn to the left."""
        return Drawing(tuple(_turned(item) for item in self.items))


def together(drawings: Iterable[Drawing]) -> Drawing:
    """Several pictures as one."""
    return Drawing(tuple(item for drawing in drawings for item in drawing.items))


def _turned(item: Item) -> Item:
    if isinstance(item, Path):
        points = np.column_stack((-item.points[:, 1], item.points[:, 0]))
        return replace(item, points=points)
    (x, y), angle, anchor = (-item.at[1], item.at[0]), item.angle + math.pi / 2.0, item.anchor
    if math.cos(angle) < -0.5:  # they would stand on their heads
        x, y = x - CAPITALS * item.size * math.sin(angle), y + CAPITALS * item.size * math.cos(angle)
        angle, anchor = angle - math.pi, 1.0 - anchor
    return Label((x, y), item.words, item.size, item.layer, anchor, angle, item.strong, item.ref)


CAPITALS = 0.68
"""So high are capitals, as a share of the height of letters."""


def _moved(item: Item, dx: float, dy: float) -> Item:
    if isinstance(item, Path):
        return replace(item, points=item.points + (dx, dy))
    return Label(
        (item.at[0] + dx, item.at[1] + dy), item.words, item.size, item.layer, item.anchor, item.angle, item.strong, item.ref
    )
