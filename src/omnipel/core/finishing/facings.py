"""Facings: strips as deep as chosen that follow the edge of an opening, sewn on right sides together, turned in and turned under.

Each is drawn where it lies, on the inside of its panel. At a corner where the faced edge goes on, two strips meet in a mitre; beside a seam a strip ends in
that seam's line.
"""

import math
from dataclasses import replace
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.shapes import outline
from omnipel.core.job.findings import Change, Finding, Impossible, Remedy, Severity
from omnipel.core.job.finish import Finish, seam, single_hem
from omnipel.core.plane.curves import Arc, Curve, Trace, line
from omnipel.core.space.placements import Beside
from omnipel.core.tolerances import SAME_POINT
from omnipel.core.words import refs
from omnipel.core.words.habits import Habits
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.working import worked

MOST_TURN = math.pi
"""A facing bends no further than this in one piece, radians: a ring is made of two halves."""

SLANTEST = 0.1
"""A neighbour that runs off flatter than this (sine of the angle) is no end for a strip."""
SEWN_EDGE: Final = "sewn edge"
"""The edge of a strip that is sewn to what it faces."""


def facings(cover: Cover, edge: Dressed, habits: Habits) -> Cover:
    """The cover with the strips that face an opening's edge."""
    faced = {(run.piece, run.edge) for run in edge.runs}
    panels: list[Panel] = []
    pieces: list[Piece] = []
    made: dict[tuple[str, str], list[Panel]] = {}
    try:
        for run in edge.runs:
            host = cover.flat[run.piece]
            key = (host.name, run.edge)
            if key not in made:
                made[key] = _strips(host, run, faced, edge.finish, habits)
                panels += made[key]
            under = next(piece for piece in cover.pieces if piece.name == run.piece)
            pieces += [_inside(strip, under, host, cover.thickness) for strip in made[key]]
    except Impossible:
        text = tr(
            "A facing of {depth} is deeper than the {edge} bends: it cannot be cut.",
            depth=mm(edge.finish.width),
            edge=term(edge.name),
        )
        usual = Finish(kind=edge.finish.kind, width=habits.mm("facing") / 2.0, turn_under=edge.finish.turn_under)
        where = refs.edge(edge.name, "finish")
        remedy = Remedy(tr("Facing {depth}", depth=mm(usual.width)), (Change(where, usual),))
        return replace(cover, findings=(*cover.findings, Finding("hem-too-deep", Severity.STOP, text, where, (remedy,))))
    return replace(cover, panels=(*cover.panels, *panels), pieces=(*cover.pieces, *pieces))


def is_facing(panel: Panel) -> bool:
    """Whether a panel is a strip that faces an edge."""
    return panel.edges[0].name == SEWN_EDGE


def _inside(strip: Panel, under: Piece, host: Panel, thick: float) -> Piece:
    """A strip inside of the piece that it faces."""
    own = strip.name.removeprefix(f"facing of {host.name}")
    inward = thick if under.mirrored else -thick
    return placed(strip, Beside(under.place, inward), f"facing of {under.name}{own}", mirrored=not under.mirrored, on=under.name)


def _strips(host: Panel, run: Run, faced: set[tuple[str, str]], finish: Finish, habits: Habits) -> list[Panel]:
    """The strips along one edge of a panel.

    Raises:
        Impossible: the edge bends so tightly that none can be cut.
    """
    i = next(i for i, edge in enumerate(host.edges) if edge.name == run.edge)
    edge, depth = host.edges[i], finish.width
    before, after = host.edges[i - 1], host.edges[(i + 1) % len(host.edges)]
    parts = _parted(edge.curve)
    made = []
    for k, part in enumerate(parts):
        inner = _parallel(part, depth)
        start = _inner_end(edge, before, inner, depth, at_end=False, mitred=(run.piece, before.name) in faced) if k == 0 else None
        last = k == len(parts) - 1
        stop = _inner_end(edge, after, inner, depth, at_end=True, mitred=(run.piece, after.name) in faced) if last else None
        name = f"facing of {host.name}, {edge.name}" + (f" {k + 1}" if len(parts) > 1 else "")
        made.append(_strip(name, part, inner, (start, stop), finish, habits))
    return made


def _strip(
    name: str,
    sewn: Curve,
    inner: Curve,
    ends: tuple[tuple[float, float] | None, tuple[float, float] | None],
    finish: Finish,
    habits: Habits,
) -> Panel:
    """One strip: sewn along the edge, joined at both ends, turned under along its free edge."""
    joined, free = seam(finish.turn_under), single_hem(habits.mm("facing turn"))
    straight = isinstance(inner, Arc) and not inner.curvature
    start, stop = (ends[0] or inner.start, ends[1] or inner.end) if straight else (inner.start, inner.end)
    back: Curve = (
        line(stop, start) if straight else inner.reversed() if isinstance(inner, Arc) else Trace(inner.vertices[::-1].copy())
    )
    edges = (
        Edge(SEWN_EDGE, sewn, joined),
        Edge("end b", line(sewn.end, stop), joined),
        Edge("free edge", back, free, None),
        Edge("end a", line(start, sewn.start), joined),
    )
    level = straight and abs(sewn.start[1] - sewn.end[1]) < SAME_POINT and abs(back.length - sewn.length) < SAME_POINT
    sizes = (worked(tr("along the edge"), sewn.length), worked(tr("depth of the facing"), finish.width)) if level else ()
    return outline(name, edges, *sizes)


def _parted(curve: Curve) -> list[Curve]:
    """A curve in parts that turn no further than half around; a traced ring in two halves."""
    if isinstance(curve, Arc):
        n = max(1, math.ceil(abs(curve.curvature) * curve.length / MOST_TURN - 1e-9))
        return [Arc(curve.at(k / n), curve.heading_at(k / n), curve.curvature, curve.length / n) for k in range(n)]
    points = curve.vertices
    if math.dist(points[0], points[-1]) > 1e-6:
        return [curve]
    half = len(points) // 2
    return [Trace(points[: half + 1].copy()), Trace(points[half:].copy())]


def _parallel(curve: Curve, depth: float) -> Curve:
    """The curve `depth` to the left of travel: inside of a panel.

    Raises:
        Impossible: it bends too tightly.
    """
    if isinstance(curve, Arc):
        try:
            return curve.offset(-depth)
        except ValueError as error:
            raise Impossible(tr("it bends too tightly"), refs.HEM) from error
    moved = shapely.offset_curve(shapely.LineString(curve.vertices), depth)
    if not isinstance(moved, shapely.LineString) or moved.is_empty or moved.length < depth:
        raise Impossible(tr("it bends too tightly"), refs.HEM)
    return Trace(np.asarray(moved.coords, dtype=np.float64))


def _inner_end(edge: Edge, other: Edge, inner: Curve, depth: float, *, at_end: bool, mitred: bool) -> tuple[float, float] | None:
    """Where the free edge of a strip ends: on the neighbour, or on the line midway where that is faced too. None where there is no corner."""
    if other is edge:
        return None
    corner, along = (edge.curve.end, edge.curve.heading_at(1.0)) if at_end else (edge.curve.start, edge.curve.heading_at(0.0))
    towards = other.curve.heading_at(0.0) if at_end else other.curve.heading_at(1.0) + math.pi
    if mitred:
        first, second = (towards, along + math.pi) if at_end else (along, towards)
        towards = first + (second - first) % (2.0 * math.pi) / 2.0
    elif not isinstance(other.curve, Arc) or other.curve.curvature:
        return _met(inner, other.curve, corner)
    across = math.sin(towards - along)
    if across < SLANTEST:
        return None
    far = depth / across
    return corner[0] + far * math.cos(towards), corner[1] + far * math.sin(towards)


def _met(inner: Curve, other: Curve, corner: tuple[float, float]) -> tuple[float, float] | None:
    """Where a straight parallel, drawn on, first meets a bent neighbour."""
    (x, y), (end_x, end_y) = inner.start, inner.end
    far = 2.0 + other.length / max(math.dist(inner.start, inner.end), 1e-9)
    drawn_on = shapely.LineString(
        [(x - far * (end_x - x), y - far * (end_y - y)), (end_x + far * (end_x - x), end_y + far * (end_y - y))]
    )
    met = drawn_on.intersection(shapely.LineString(other.points()))
    if met.is_empty:
        return None
    points = shapely.get_coordinates(met)
    nearest = points[np.hypot(*(points - np.array(corner)).T).argmin()]
    return float(nearest[0]), float(nearest[1])
