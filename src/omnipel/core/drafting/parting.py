"""Edges parted at places along them, and panels parted by a line across: the pieces stay where they lie, seams and openings run on over the parts.

Parting changes no shape: the parts of an edge together are the edge, the parts of a panel together are the panel.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
import shapely

from omnipel.core.drafting.panel import Edge, Figure, Notch, Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import reshaped
from omnipel.core.job.finish import Finish
from omnipel.core.plane.curves import Arc, Curve, Points, Trace, line
from omnipel.core.tolerances import SAME_POINT
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked

Names = Mapping[tuple[str, str], tuple[str, ...]]
"""The parts of an edge in its own order, by piece and edge."""


def part_of(curve: Curve, begin: float, end: float) -> Curve:
    """The part of a curve between two fractions of its length.

    >>> part_of(line((0.0, 0.0), (10.0, 0.0)), 0.2, 0.5).length
    3.0
    """
    if isinstance(curve, Arc):
        return Arc(curve.at(begin), curve.heading_at(begin), curve.curvature, curve.length * (end - begin))
    inner = (curve.runs > begin * curve.length + SAME_POINT) & (curve.runs < end * curve.length - SAME_POINT)
    return Trace(np.vstack((curve.at(begin), curve.vertices[inner], curve.at(end))))


def edges_parted(panel: Panel, cuts: Mapping[str, Sequence[float]]) -> tuple[Panel, dict[str, tuple[str, ...]]]:
    """The panel with some of its edges parted at fractions of their lengths, and what the parts are called. The first part keeps the name."""
    edges: list[Edge] = []
    names: dict[str, tuple[str, ...]] = {}
    taken = {edge.name for edge in panel.edges}
    notches = list(panel.notches)
    for edge in panel.edges:
        stops = [0.0, *sorted(cuts.get(edge.name, ())), 1.0]
        whole = edge.name.split(", part ")[0]
        free = (name for n in range(2, 1000) if (name := f"{whole}, part {n}") not in taken)
        parts = (edge.name, *(next(free) for _ in stops[2:]))
        taken.update(parts)
        for name, begin, end in zip(parts, stops, stops[1:], strict=False):
            edges.append(replace(edge, name=name, curve=part_of(edge.curve, begin, end) if len(parts) > 1 else edge.curve))
        if len(parts) > 1:
            names[edge.name] = parts
            notches = [_moved(notch, parts, stops) if notch.edge == edge.name else notch for notch in notches]
    return replace(panel, edges=tuple(edges), notches=tuple(notches)), names


def _moved(notch: Notch, parts: Sequence[str], stops: Sequence[float]) -> Notch:
    """A mark on an edge that was parted."""
    k = min(int(np.searchsorted(stops, notch.fraction, side="right")) - 1, len(parts) - 1)
    return replace(notch, edge=parts[k], fraction=(notch.fraction - stops[k]) / (stops[k + 1] - stops[k]))


def side_parted(side: Sequence[Run], names: Names) -> tuple[Run, ...]:
    """A side of a seam over the parts of its edges."""
    made: list[Run] = []
    for run in side:
        parts = names.get((run.piece, run.edge), (run.edge,))
        made += [Run(run.piece, part, run.reversed) for part in (reversed(parts) if run.reversed else parts)]
    return tuple(made)


def seams_parted(seams: Sequence[Seam], names: Names) -> tuple[Seam, ...]:
    """Seams over the parts of their edges."""
    return tuple(replace(s, a=side_parted(s.a, names), b=side_parted(s.b, names)) for s in seams)


@dataclass(frozen=True, slots=True)
class Halves:
    """A panel parted by a line across it: the part below, the part above, and the edges that now end at the line."""

    lower: Panel
    upper: Panel
    names: Mapping[str, tuple[str, ...]]
    """The parts of the edges that the line crosses, by their names in the whole panel."""
    edge: str = "parting"
    """What the new edge of both is called."""


def parted_across(
    panel: Panel, at: float, names: tuple[str, str], sizes: tuple[Worked, Worked], cut: tuple[Finish, Ref]
) -> Halves | None:
    """The panel parted by the level line `at` above its lowest point, mm; None unless that crosses its outline just twice.

    Args:
        panel: what is parted.
        at: how high above its lowest point, mm.
        names: of the lower and the upper part.
        sizes: their finished heights.
        cut: finish of both new edges, and where it is decided.
    """
    low = float(panel.sew_points[:, 1].min())
    level = low + at
    taken = {edge.name for edge in panel.edges}
    new = next(name for n in range(1, 1000) if (name := f"parting {n}" if n > 1 else "parting") not in taken)
    crossed = {edge.name: places for edge in panel.edges if (places := _crossings(edge.curve, level))}
    if sum(len(places) for places in crossed.values()) != 2:
        return None
    whole, parts = edges_parted(panel, crossed)
    above = [bool(_middle(edge.curve) > level) for edge in whole.edges]
    halves = []
    for upper, name, high in zip((False, True), names, sizes, strict=True):
        chain = _chain(whole.edges, above, upper)
        if chain is None:
            return None
        start, stop = chain[-1].curve.end, chain[0].curve.start
        edges = (*chain, Edge(new, line(start, stop), *cut))
        level_sides = abs(start[1] - stop[1]) < SAME_POINT
        wide = abs(abs(start[0] - stop[0]) - panel.length.value) < SAME_POINT * max(1.0, panel.length.value)
        figures = tuple(_clipped(panel.figures, level, upper))
        sides = panel.length if wide else None, high if level_sides else None
        halves.append(reshaped(whole, edges, *sides, name=name, figures=figures))
    return Halves(halves[0], halves[1], parts, new)


def parted_upright(
    panel: Panel, at: float, names: tuple[str, str], sizes: tuple[Worked, Worked], cut: tuple[Finish, Ref]
) -> Halves | None:
    """The panel parted by the upright line `at` to the right of its leftmost point, mm, into a left (`lower`) and a right part (`upper`).

    `sizes` are their finished lengths; all else as in `parted_across`, None likewise.
    """
    halves = parted_across(_quarter(panel, 1.0), at, names, sizes, cut)
    return halves and replace(halves, lower=_quarter(halves.lower, -1.0), upper=_quarter(halves.upper, -1.0))


def _quarter(panel: Panel, way: float) -> Panel:
    """The panel turned by a quarter, counter-clockwise where `way` is 1, clockwise where it is −1."""

    def turned(points: Points) -> Points:
        return np.column_stack((-way * points[:, 1], way * points[:, 0]))

    def curve(old: Curve) -> Curve:
        if isinstance(old, Trace):
            return Trace(turned(old.vertices))
        (x, y), *_ = turned(np.array([old.start]))
        return replace(old, start=(float(x), float(y)), heading=old.heading + way * math.pi / 2.0)

    edges = tuple(replace(edge, curve=curve(edge.curve)) for edge in panel.edges)
    figures = tuple(replace(figure, points=turned(figure.points)) for figure in panel.figures)
    grain, take_up = panel.grain + way * math.pi / 2.0, (panel.take_up[1], panel.take_up[0])
    return reshaped(panel, edges, panel.width, panel.length, figures=figures, grain=grain, take_up=take_up)


def _crossings(curve: Curve, level: float) -> list[float]:
    """Fractions of a curve at which it crosses a height."""
    if isinstance(curve, Trace):
        fractions = curve.runs / curve.length
        heights = curve.vertices[:, 1]
    else:
        fractions = np.linspace(0.0, 1.0, 2 if not curve.curvature else 257)
        heights = np.array([curve.at(f)[1] for f in fractions])
    found = []
    for k in range(len(fractions) - 1):
        before, after = heights[k] - level, heights[k + 1] - level
        if (before < 0.0) == (after < 0.0):
            continue
        begin, end = float(fractions[k]), float(fractions[k + 1])
        for _ in range(60):  # halved until nothing is left of it
            middle = (begin + end) / 2.0
            if (curve.at(middle)[1] - level < 0.0) == (before < 0.0):
                begin = middle
            else:
                end = middle
        if SAME_POINT < begin < 1.0 - SAME_POINT:
            found.append(begin)
    return found


def _middle(curve: Curve) -> float:
    return float(curve.at(0.5)[1])


def _chain(edges: Sequence[Edge], above: Sequence[bool], upper: bool) -> list[Edge] | None:
    """The edges on one side of the line, in order; None where they are not one chain."""
    n = len(edges)
    begins = [i for i in range(n) if above[i] is upper and above[i - 1] is not upper]
    if len(begins) != 1:
        return None
    chain: list[Edge] = []
    i = begins[0]
    while above[i] is upper and len(chain) < n:
        chain.append(edges[i])
        i = (i + 1) % n
    return chain


def _clipped(figures: Sequence[Figure], level: float, upper: bool) -> list[Figure]:
    """What lies on one side of the line."""
    far = 1e7
    side = shapely.box(-far, level, far, far) if upper else shapely.box(-far, -far, far, level)
    made = []
    for figure in figures:
        shape = shapely.Polygon(figure.points) if figure.closed else shapely.LineString(figure.points)
        kept = shape.intersection(side)
        for part in getattr(kept, "geoms", [kept]):
            if part.is_empty or part.geom_type not in ("Polygon", "LineString"):
                continue
            ring = np.asarray(part.exterior.coords)[:-1] if figure.closed else np.asarray(part.coords)
            made.append(replace(figure, points=ring))
    return made


ACROSS: Final = ("lower part", "upper part")
UPRIGHT: Final = ("left part", "right part")
"""What the parts of a piece are called."""


def pieces_parted(
    pieces: Sequence[Piece], panel: str, names: tuple[str, str], parts: tuple[str, str] = ACROSS
) -> tuple[Piece, ...]:
    """The pieces of a panel parted as it was: each into its two parts, where they lay."""
    made: list[Piece] = []
    for piece in pieces:
        if piece.panel != panel:
            made.append(piece)
            continue
        own = (f"{piece.name}, {part}" for part in parts)
        made += [replace(piece, name=name, panel=part) for name, part in zip(own, names, strict=True)]
    return tuple(made)
