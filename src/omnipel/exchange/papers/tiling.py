"""Full size on sheets that are smaller: how a panel is spread over tiles, which are laid cross on cross."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import shapely
import shapely.affinity
from reportlab.lib.units import mm
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.labels import box_of
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.words.phrases import Voice
from omnipel.exchange.papers.paper import replay

FOOT = 12.0
"""Strip below each tile for its name, mm."""
LAP = 10.0
"""Neighbouring tiles show this much of one another, to be glued over, mm."""


@dataclass(frozen=True, slots=True)
class Tiling:
    """How one panel is spread over sheets: columns and rows, each `step_x` by `step_y` mm, from a lower left corner; `blank` are those with nothing on them.

    `paper` is what each is printed on; of a roll as much as it takes.
    """

    columns: int
    rows: int
    step_x: float
    step_y: float
    left: float
    low: float
    paper: Paper
    blank: frozenset[tuple[int, int]] = frozenset()

    @property
    def count(self) -> int:
        """So many sheets."""
        return self.columns * self.rows - len(self.blank)

    def tiles(self) -> Iterator[tuple[int, int]]:
        """Column and row of every tile that is printed, top row first, as one lays them on the floor."""
        for row in reversed(range(self.rows)):
            for column in range(self.columns):
                if (column, row) not in self.blank:
                    yield column, row

    def own(self, column: int, row: int) -> shapely.Polygon:
        """What only this tile shows, or it before its neighbours; the last ones of a row or column show what is glued over elsewhere."""
        x, y = self.left + column * self.step_x, self.low + row * self.step_y
        wide = self.step_x + (LAP if column == self.columns - 1 else 0.0)
        high = self.step_y + (LAP if row == self.rows - 1 else 0.0)
        return shapely.box(x, y, x + wide, y + high)

    def joins(self) -> BaseGeometry:
        """Where tiles are glued over one another: nothing that is to be read stands there."""
        right, top = self.left + self.columns * self.step_x + LAP, self.low + self.rows * self.step_y + LAP
        upright = [self.left + k * self.step_x for k in range(1, self.columns)]
        level = [self.low + k * self.step_y for k in range(1, self.rows)]
        return shapely.union_all(
            [
                *(shapely.box(x, self.low, x + LAP, top) for x in upright),
                *(shapely.box(self.left, y, right, y + LAP) for y in level),
            ]
        )


MOST_TILES = 2_000
"""Of more tiles nobody looks which are blank."""


def tiling(drawing: Drawing, paper: Paper) -> Tiling:
    """The tiling of a drawing on a paper: which tiles there are, and which of them are blank."""
    x0, y0, x1, y1 = drawing.bounds
    if paper.roll:
        paper = replace(paper, height=min(paper.height, math.ceil(y1 - y0 + 2.0 * paper.margin + FOOT + LAP + 1.0)))
    step_x = paper.width - 2.0 * paper.margin - LAP
    step_y = paper.height - 2.0 * paper.margin - FOOT - LAP
    columns = max(1, math.ceil((x1 - x0 - LAP) / step_x))
    rows = max(1, math.ceil((y1 - y0 - LAP) / step_y))
    spare_x, spare_y = columns * step_x + LAP - (x1 - x0), rows * step_y + LAP - (y1 - y0)
    every = Tiling(columns, rows, step_x, step_y, x0 - spare_x / 2.0, y0 - spare_y / 2.0, paper)
    if columns * rows > MOST_TILES:
        return every  # nobody prints so many
    lines = [_shape(item) for item in drawing.items]
    tree = shapely.STRtree([line for line in lines if line is not None])
    tiles = list(every.tiles())
    printed = set(tree.query([every.own(*tile) for tile in tiles], predicate="intersects")[0].tolist())
    return replace(every, blank=frozenset(tile for k, tile in enumerate(tiles) if k not in printed))


def _shape(item: Path | Label) -> BaseGeometry | None:
    """What is printed of an item: its line, or the room of its words."""
    if isinstance(item, Label):
        return box_of(item) if item.words else None
    if len(item.points) < 2:
        return None
    return shapely.LinearRing(item.points) if item.closed and len(item.points) > 2 else shapely.LineString(item.points)


def laid(panel: Panel, paper: Paper, voice: Voice) -> tuple[Drawing, Tiling]:
    """A panel's drawing and its tiling, turned along the paper where that takes fewer sheets: a strip lies along a roll. No name is cut by a join."""
    upright = panel_drawing(panel, voice, TEXT, dimensions=False)
    along = upright.turned()
    here, there = tiling(upright, paper), tiling(along, paper)
    turned = (there.count, there.count * there.paper.height) < (here.count, here.count * here.paper.height)
    spread = there if turned else here
    joins = spread.joins() if spread.columns * spread.rows <= MOST_TILES else shapely.Polygon()
    if not joins.is_empty:
        if turned:
            joins = shapely.affinity.rotate(joins, -90.0, origin=(0.0, 0.0))
        upright = panel_drawing(panel, voice, TEXT, dimensions=False, joins=joins)
        along = upright.turned()
    drawing = along if turned else upright
    return drawing, tiling(drawing, paper)


TEXT = 5.0
"""Height of the letters on a pattern, mm."""


def tile(canvas: Any, drawing: Drawing, spread: Tiling, column: int, row: int) -> None:
    """One tile, clipped to what the printer can reach, with registration crosses at its four corners."""
    wide, high, paper = spread.step_x + LAP, spread.step_y + LAP, spread.paper
    x, y = spread.left + column * spread.step_x, spread.low + row * spread.step_y
    origin_x, origin_y = paper.margin, paper.margin + FOOT
    canvas.saveState()
    frame = canvas.beginPath()
    frame.rect(origin_x * mm, origin_y * mm, wide * mm, high * mm)
    canvas.clipPath(frame, stroke=0)
    canvas.translate((origin_x - x) * mm, (origin_y - y) * mm)
    near = [item for item in drawing.items if _touches(item, x, y, wide, high)]
    replay(canvas, Drawing(tuple(near)))
    canvas.restoreState()
    canvas.setLineWidth(0.25 * mm)
    canvas.setStrokeGray(0.45)
    canvas.setDash([1.5 * mm, 1.5 * mm], 0)
    # Only where another sheet follows: elsewhere what lies beyond the step is the panel's own edge.
    if column < spread.columns - 1:
        canvas.line((origin_x + spread.step_x) * mm, origin_y * mm, (origin_x + spread.step_x) * mm, (origin_y + high) * mm)
    if row < spread.rows - 1:
        canvas.line(origin_x * mm, (origin_y + spread.step_y) * mm, (origin_x + wide) * mm, (origin_y + spread.step_y) * mm)
    canvas.setDash([], 0)
    canvas.setStrokeGray(0.0)
    for cx in (origin_x, origin_x + spread.step_x):
        for cy in (origin_y, origin_y + spread.step_y):
            canvas.line((cx - 4) * mm, cy * mm, (cx + 4) * mm, cy * mm)
            canvas.line(cx * mm, (cy - 4) * mm, cx * mm, (cy + 4) * mm)
            canvas.circle(cx * mm, cy * mm, 2 * mm, stroke=1, fill=0)


def _touches(item: Path | Label, x: float, y: float, wide: float, high: float) -> bool:
    if isinstance(item, Label):
        reach = item.size * (len(item.words) + 2)
        return x - reach < item.at[0] < x + wide + reach and y - reach < item.at[1] < y + high + reach
    low, top = item.points.min(axis=0), item.points.max(axis=0)
    return bool(low[0] <= x + wide and top[0] >= x and low[1] <= y + high and top[1] >= y)


MAP_WIDE, MAP_HIGH = 44.0, 10.0


def tile_map(canvas: Any, drawing: Drawing, spread: Tiling, here: tuple[int, int]) -> None:
    """Where every tile of this panel lies, small, at the right of the foot strip; this one is filled, those that are not printed are crossed out."""
    scale = min(MAP_HIGH / (spread.step_y * spread.rows), MAP_WIDE / (spread.step_x * spread.columns))
    wide, high = scale * spread.step_x, scale * spread.step_y
    paper = spread.paper
    left, low = paper.width - paper.margin - wide * spread.columns, paper.margin
    canvas.saveState()
    canvas.setLineWidth(0.15 * mm)
    canvas.setStrokeGray(0.5)
    canvas.setFillGray(0.75)
    for row in range(spread.rows):
        for column in range(spread.columns):
            x, y = (left + column * wide) * mm, (low + row * high) * mm
            canvas.rect(x, y, wide * mm, high * mm, stroke=1, fill=int((column, row) == here))
            if (column, row) in spread.blank:
                canvas.line(x, y, x + wide * mm, y + high * mm)
                canvas.line(x, y + high * mm, x + wide * mm, y)
    canvas.setStrokeGray(0.0)
    canvas.setLineWidth(0.3 * mm)
    outline = next(item for item in drawing.items if isinstance(item, Path) and item.closed)
    path = canvas.beginPath()
    points = [
        ((left + (x - spread.left) * scale) * mm, (low + (y - spread.low) * scale) * mm) for x, y in outline.points.tolist()
    ]
    path.moveTo(*points[0])
    for point in points[1:]:
        path.lineTo(*point)
    path.close()
    canvas.drawPath(path, stroke=1, fill=0)
    canvas.restoreState()
