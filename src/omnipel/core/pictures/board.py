"""The board: all panels side by side at one scale."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.drawing import Drawing, together
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Voice

MOST_FITTED = 14
FITTED = 0.03
"""A board is fitted in so many steps at most, until its letters are as high as they should be but for this share."""
SMALLER, CROWDED, FILLED = 0.79, 3.0, 7.0
"""Letters need only be so high, as a share (11 of 14 px), where the panels are so many times smaller than they were alone, and are as high as they can
be where these would be smaller still."""


@dataclass(frozen=True)
class Board:
    """Panels side by side: the drawing, the height of its letters, mm, how far each panel was moved, by its name, and the frame it was fitted into, px."""

    drawing: Drawing
    text: float
    moved: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    frame: tuple[float, float] = (0.0, 0.0)

    def at(self, panel: Panel, place: tuple[float, float]) -> tuple[float, float] | None:
        """Where a place of a panel's own frame lies on the board; of one cut on the fold in the half that is drawn. None where it is not on it."""
        if panel.name not in self.moved:
            return None
        point: Points = np.array((place,))
        if panel.fold is not None and panel.fold.side(point)[0] < 0.0:
            point = panel.fold.mirrored(point)
        dx, dy = self.moved[panel.name]
        return float(point[0, 0]) + dx, float(point[0, 1]) + dy


def board(panels: Sequence[Panel], voice: Voice, text: float, aspect: float) -> Board:
    """All panels side by side in rows, so that the whole is about `aspect` times as wide as it is high."""
    drawings = [panel_drawing(panel, voice, text, stripes=True, chord_error=text * 0.02) for panel in panels]
    boxes = [extent(drawing) for drawing in drawings]
    places = arranged([(x1 - x0, y1 - y0) for x0, y0, x1, y1 in boxes], text * 1.6, aspect)
    moved = [(x - box[0], y - box[1]) for box, (x, y) in zip(boxes, places, strict=True)]
    made = together(drawing.moved(*by) for drawing, by in zip(drawings, moved, strict=True))
    return Board(made, text, dict(zip((panel.name for panel in panels), moved, strict=True)))


def fitted_board(
    panels: Sequence[Panel], voice: Voice, letter: float, wide: float, high: float, before: Board | None = None
) -> Board:
    """The board as it fits into a frame, px, its letters so many px high there.

    Larger letters take more room, which makes the board smaller. One begins with the panels alone and lets the letters grow from there, so that the
    first that are high enough leave most room to the panels. Where panels are so many that their words would fill the frame, letters are a little
    smaller, or the largest of what was tried. Letters as they were on the board `before` are kept
    where they still do, and panels and frame are the same: only sizes were changed. What fitted elsewhere may leave the panels hardly any room here.
    """
    rings = [np.ptp(cut_line(panel), axis=0) for panel in panels]
    alone = arranged([(float(w), float(h)) for w, h in rings], 0.0, wide / high)
    reach = (np.array(rings) + alone).max(axis=0) - np.min(alone, axis=0)
    least = float(max(reach[0] / wide, reach[1] / high, 1e-6))

    def tried(text: float) -> tuple[Board, float, bool]:
        """A board with letters so high, how large a px is there, and whether its letters are high enough."""
        made = replace(board(panels, voice, text, wide / high), frame=(wide, high))
        x0, y0, x1, y1 = extent(made.drawing)
        a_px = max((x1 - x0) / max(wide, 1.0), (y1 - y0) / max(high, 1.0), 1e-6)
        return made, a_px, text / a_px >= letter * (SMALLER if a_px > CROWDED * least else 1.0 - FITTED)

    same = before is not None and before.frame == (wide, high) and set(before.moved) == {panel.name for panel in panels}
    if before is not None and same:
        made, a_px, enough = tried(before.text)
        if enough and before.text / a_px <= letter * (1.0 + FITTED):
            return made
    text, most, best = letter * least, 0.0, Board(Drawing(()), 30.0)
    for _ in range(MOST_FITTED):
        made, a_px, enough = tried(text)
        if text / a_px > most:
            most, best = text / a_px, made
        if enough or a_px > FILLED * least:
            return best
        text = letter * a_px
    return best


def arranged(sizes: Sequence[tuple[float, float]], gap: float, aspect: float) -> list[tuple[float, float]]:
    """Lower left corners for boxes in rows, in the order given, with the row width that fills the aspect best."""
    best: list[tuple[float, float]] = []
    best_scale = 0.0
    widest = max(w for w, _ in sizes)
    runs = {sum(w + gap for w, _ in sizes[i:j]) - gap for i in range(len(sizes)) for j in range(i + 1, len(sizes) + 1)}
    for width in sorted(run for run in runs if run >= widest * (1.0 - 1e-9)):
        places, wide, high = _rows(sizes, gap, width)
        scale = min(aspect / wide, 1.0 / high)
        if scale > best_scale:
            best, best_scale = places, scale
    return best


def _rows(sizes: Sequence[tuple[float, float]], gap: float, width: float) -> tuple[list[tuple[float, float]], float, float]:
    """Corners, whole width and height of boxes put in rows no wider than `width`; rows stand on their base line."""
    rows: list[list[int]] = [[]]
    x = 0.0
    for i, (w, _) in enumerate(sizes):
        if rows[-1] and x + w > width * 1.0001:
            rows.append([])
            x = 0.0
        rows[-1].append(i)
        x += w + gap
    places: dict[int, tuple[float, float]] = {}
    y = wide = 0.0
    for row in rows:
        high = max(sizes[i][1] for i in row)
        y -= high
        x = 0.0
        for i in row:
            places[i] = (x, y)
            x += sizes[i][0] + gap
        wide = max(wide, x - gap)
        y -= gap
    return [places[i] for i in range(len(sizes))], wide, -y - gap
