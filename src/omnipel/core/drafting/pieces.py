"""Pieces: every cut copy of a panel, and where it lies when the cover is sewn.

A panel is a pattern: what is drawn once and cut so many times. A piece is one of these, with a name of its own ("left end"); seams join
edges of pieces. A mirrored piece is cut from the pattern turned over.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.panel import MarkKind, Panel
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import ring_around
from omnipel.core.space.faces import begins_of
from omnipel.core.space.frames import Solid, Vector
from omnipel.core.space.placements import Placement


@dataclass(frozen=True, slots=True)
class Piece:
    """One cut copy of a panel.

    Args:
        name: what it is called; the panel's own name when it is the only one.
        panel: name of the panel that it is cut from.
        place: where it lies: from the panel's flat frame, as it is drawn, to space.
        mirrored: whether it is cut with the pattern turned over, so that its right side is the back of the drawing.
        clear: how far from the object it is promised to lie at least, mm; None where nothing is promised.
        on: the piece on whose face it lies; "" for a piece of the surface itself.
        behind: whether others hang before it, so that it is not seen from outside.
        feature: the id of what was put on the cover that it belongs to; "" for a piece of the cover itself.
        inside: whether it lies on the wrong side of the piece that it is on.
    """

    name: str
    panel: str
    place: Placement
    mirrored: bool = False
    clear: float | None = None
    on: str = ""
    behind: bool = False
    feature: str = ""
    inside: bool = False


def placed(
    panel: Panel,
    place: Placement,
    name: str = "",
    *,
    mirrored: bool = False,
    clear: float | None = None,
    on: str = "",
    behind: bool = False,
    feature: str = "",
    inside: bool = False,
) -> Piece:
    """A piece cut from a panel; without a name of its own it is called like the panel."""
    return Piece(name or panel.name, panel.name, place, mirrored, clear, on, behind, feature, inside)


def counted(panels: Iterable[Panel], pieces: Sequence[Piece]) -> tuple[Panel, ...]:
    """The panels with how many are cut of each, and whether some of them mirrored; one without a piece is not cut at all."""
    made = []
    for panel in panels:
        mine = [piece for piece in pieces if piece.panel == panel.name]
        turned = any(piece.mirrored for piece in mine) and not all(piece.mirrored for piece in mine)
        if (panel.count, panel.mirrored) != (len(mine), turned):
            panel = replace(panel, count=len(mine), mirrored=turned)  # noqa: PLW2901
        made.append(panel)
    return tuple(made)


def by_piece(panels: Iterable[Panel], pieces: Iterable[Piece]) -> dict[str, Panel]:
    """The panel that each piece is cut from, by the name of the piece."""
    known = {panel.name: panel for panel in panels}
    return {piece.name: known[piece.panel] for piece in pieces}


def facets(piece: Piece, panel: Panel, chord_error: float) -> list[Solid]:
    """The placed piece as flat polygons `(k, 3)`, counter-clockwise seen from its right side, openings left out.

    No facet leaves the cloth by more than about the chord error, mm.
    """
    made = [piece.place.at(ring) for ring in flat_facets(piece.place, panel, chord_error)]
    return [points[::-1] for points in made] if piece.mirrored else made


@dataclass(frozen=True, slots=True)
class FlatParts:
    """A flat panel, cut-outs and what is boxed off left out, parted so that each part is flat in space.

    Args:
        rings: the parts, without repeated end, counter-clockwise.
        cells: convex polygons that cover the panel; each ring lies in one of them.
        cell: which cell each ring lies in.
        outline: what is there of the panel.
    """

    rings: list[Points]
    cells: list[Points]
    cell: list[int]
    outline: BaseGeometry


Parted = dict[tuple[str, bytes], FlatParts]
"""What panels were parted into, by the panel's name and the cells."""


def cells_of(place: Placement, panel: Panel, chord_error: float) -> list[Points]:
    """Convex polygons that cover a flat panel, each of it bent in space by no more than the chord error, mm."""
    low, high = panel.sew_points.min(axis=0), panel.sew_points.max(axis=0)
    return place.cells((float(low[0]), float(low[1]), float(high[0]), float(high[1])), chord_error)


def met_by_plane(place: Placement, cells: list[Points], normal: Vector, offset: float, slack: float) -> list[Points]:
    """Of cells of a flat panel those that a plane in space may cut, which they may leave by so much, mm: far fewer than all."""
    begins = begins_of(cells)
    off = place.at(np.concatenate(cells)) @ np.asarray(normal) - offset
    low, high = np.minimum.reduceat(off, begins), np.maximum.reduceat(off, begins)
    return [cells[k] for k in np.flatnonzero((low <= slack) & (high >= -slack)).tolist()]


def flat_parts(
    place: Placement, panel: Panel, chord_error: float, *, thinned: float = 0.0, known: Parted | None = None
) -> FlatParts:
    """A flat panel parted where it is bent in space; its outline may be `thinned` to one that stays so near to it, mm.

    What is `known` of pieces of the same pattern that are bent alike is not made again.
    """
    cells = cells_of(place, panel, chord_error)
    key = panel.name, np.concatenate(cells).tobytes()
    if known is not None and key in known:
        return known[key]
    made = parted(panel, cells, thinned=thinned)
    if known is not None:
        known[key] = made
    return made


def parted(panel: Panel, cells: list[Points], *, thinned: float = 0.0) -> FlatParts:
    """What there is of a flat panel in cells of it."""
    corners = np.concatenate(cells)
    owner = np.repeat(np.arange(len(cells)), [len(cell) for cell in cells])
    outline: BaseGeometry = shapely.Polygon(panel.sew_points)
    for figure in panel.figures:
        if figure.kind in (MarkKind.CUT_OUT, MarkKind.BOXED) and figure.closed:
            outline = outline.difference(shapely.make_valid(shapely.Polygon(figure.points)))
    if thinned:
        outline = outline.simplify(thinned)
    shapely.prepare(outline)
    polygons = np.asarray(shapely.polygons(shapely.linearrings(corners, indices=owner)))
    whole = np.asarray(shapely.covers(outline, polygons))
    left = iter(shapely.intersection(outline, polygons[~whole]))
    rings: list[Points] = []
    of: list[int] = []
    for i, (cell, all_of_it) in enumerate(zip(cells, whole, strict=True)):
        found = [cell] if all_of_it else [ring for part in _polygons(next(left)) for ring in _without_holes(part)]
        rings += found
        of += [i] * len(found)
    return FlatParts(rings, cells, of, outline)


def flat_facets(place: Placement, panel: Panel, chord_error: float, known: Parted | None = None) -> list[Points]:
    """The parts of a flat panel, cut-outs and what is boxed off left out, that are flat in space; rings without repeated end, counter-clockwise."""
    return flat_parts(place, panel, chord_error, known=known).rings


def _polygons(shape: shapely.Geometry) -> list[shapely.Polygon]:
    """The polygons in a shape."""
    return [part for part in getattr(shape, "geoms", [shape]) if isinstance(part, shapely.Polygon) and part.area > 1e-9]


def _without_holes(polygon: shapely.Polygon) -> list[Points]:
    """A polygon as rings: one with a hole is parted through the hole."""
    if not polygon.interiors:
        return [ring_around(polygon)]
    low_x, low_y, high_x, high_y = polygon.bounds
    x, _ = shapely.Polygon(polygon.interiors[0]).centroid.coords[0]
    halves = (shapely.box(low_x - 1.0, low_y - 1.0, x, high_y + 1.0), shapely.box(x, low_y - 1.0, high_x + 1.0, high_y + 1.0))
    return [ring for half in halves for part in _polygons(polygon.intersection(half)) for ring in _without_holes(part)]


def named(pieces: Iterable[Piece]) -> Mapping[str, Piece]:
    """Pieces by name."""
    return {piece.name: piece for piece in pieces}
