"""The cut line of a panel: the sew line moved outward by each edge's own allowance.

At an outward corner the two parallels are extended until they meet. Beside a hem or casing the neighbour's cut line is
*reflected in the fold*, so that the folded hem lies exactly inside the panel; beyond the turn-under's fold it is reflected once
more. At an inward corner the parallels cross, and the outline is the union of the panel with the strip along each edge.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.job.finish import FinishKind
from omnipel.core.plane.curves import Arc, Points, Trace, turn_between
from omnipel.core.tolerances import CHORD_ERROR, MITRE_ALLOWANCE, MITRE_REACH, SAME_POINT, STRAIGHT_ANGLE

LOST = 0.5
"""A cut line nearer to the sew line than the allowance by this has lost it, mm."""
MOST_PLACES = 400
"""No more places along an edge than this are looked at."""
MOST_DRIFT = 2.0
"""A side that drifts by more than this per mm of depth is no end of a hem but its continuation: nothing is reflected there."""

Point = tuple[float, float]


def cut_line(panel: Panel) -> Points:
    """The outline to cut, a closed counter-clockwise ring without repeated end, `(n, 2)`.

    Raises:
        ValueError: the sew line crosses itself.
    """
    kept = panel.kept
    if kept.edges is not panel.edges or kept.mitred is not panel.mitred:
        ring, joined = _outline(panel.edges)
        if panel.mitred:
            ring = _without_mitres(ring, panel.edges)
        ring.setflags(write=False)
        kept.edges, kept.mitred, kept.ring, kept.joined = panel.edges, panel.mitred, ring, joined
    return kept.ring


@dataclass(frozen=True, slots=True)
class Crowded:
    """Two places far apart along a sew line that face each other with less between them than their allowances take."""

    edge: Edge
    facing: Edge
    apart: float


def crowded(panel: Panel) -> Crowded | None:
    """Where the cut line of a panel loses an allowance, as across a slit; None when every point of every edge has its own.

    At an inward corner two allowances share their cloth for a little way, and a clip parts them: that is none.
    """
    if _convex(panel.sew_points):  # its parallels move away from one another
        return None
    ring = cut_line(panel)
    if not panel.kept.joined:
        return None
    deep = np.array([edge.finish.allowance for edge in panel.edges])
    if not deep.any():
        return None
    lines = [edge.curve.points(0.5) for edge in panel.edges]
    starts, of, runs, at, out = _spread(lines, deep)
    far = at + deep[of, None] * out
    whole = shapely.Polygon(ring)
    shapely.prepare(whole)
    lost = np.flatnonzero(shapely.contains_xy(whole, far))
    lost = lost[shapely.distance(whole.exterior, shapely.points(far[lost])) > LOST]
    if not len(lost):
        return None
    around = shapely.LinearRing(np.concatenate([line[:-1] for line in lines]))
    beyond = far[lost] + LOST * out[lost]  # half-way across, either side would be as near
    faces = np.asarray(shapely.line_locate_point(around, shapely.points(beyond)))
    runs = runs[lost]
    reach = 2.0 * MITRE_REACH * float(deep.max())
    slit = np.flatnonzero((np.abs(faces - runs) > reach) & (np.abs(faces - runs) < starts[-1] - reach))
    if not len(slit):
        return None
    away = shapely.get_coordinates(shapely.line_interpolate_point(around, faces[slit])) - at[lost[slit]]
    apart = np.hypot(away[:, 0], away[:, 1])
    nearest = int(apart.argmin())
    facing = min(int(np.searchsorted(starts, faces[slit[nearest]], side="right")) - 1, len(lines) - 1)
    return Crowded(panel.edges[of[lost[slit[nearest]]]], panel.edges[facing], float(apart[nearest]))


Floats = NDArray[np.float64]


def _spread(lines: Sequence[Points], deep: Floats) -> tuple[Floats, NDArray[np.intp], Floats, Points, Points]:
    """Places along lines end to end, no further apart than the allowance of each.

    Returns:
        How far along each line begins, and the last ends; for each place its line, how far along it lies, where, and which way is outward.
    """
    begins, steps = np.concatenate([line[:-1] for line in lines]), np.concatenate([np.diff(line, axis=0) for line in lines])
    gone = np.concatenate(([0.0], np.cumsum(np.hypot(*steps.T))))
    starts = gone[np.cumsum([0, *(len(line) - 1 for line in lines)])]
    long = np.diff(starts)
    counts = np.where(deep > 0.0, np.clip(long / np.where(deep > 0.0, deep, 1.0), 3, MOST_PLACES).astype(int), 0)
    of = np.repeat(np.arange(len(lines)), counts)
    nth = np.arange(len(of)) - np.repeat(np.cumsum(counts) - counts, counts)
    runs = starts[of] + (nth + 0.5) / counts[of] * long[of]
    segment = np.clip(np.searchsorted(gone, runs, side="right") - 1, 0, len(steps) - 1)
    ways = steps[segment] / (gone[segment + 1] - gone[segment])[:, None]
    at, out = begins[segment] + ways * (runs - gone[segment])[:, None], np.column_stack((ways[:, 1], -ways[:, 0]))
    return starts, of, runs, at, out


def _convex(ring: Points) -> bool:
    """Whether a counter-clockwise ring nowhere turns to the right."""
    steps = np.concatenate((ring[1:], ring[:1])) - ring
    after = np.concatenate((steps[1:], steps[:1]))
    return bool((steps[:, 0] * after[:, 1] >= steps[:, 1] * after[:, 0]).all())


def _outline(edges: Sequence[Edge]) -> tuple[Points, bool]:
    sew = np.concatenate([edge.curve.points(CHORD_ERROR)[:-1] for edge in edges])
    corners = [_corner(edge, edges[(i + 1) % len(edges)]) for i, edge in enumerate(edges)]
    parallels = [None if any(inward for _, inward in corners) else _parallel(edge) for edge in edges]
    if all(points is not None for points in parallels):
        ring = np.concatenate(
            [
                part
                for points, (corner, _) in zip(parallels, corners, strict=True)
                for part in (points, corner)
                if part is not None and len(part)
            ]
        )
        ring = _without_doubles(ring)
        if len(ring) > 2 and shapely.Polygon(ring).is_valid:
            return ring, False
    return _union(edges, corners, sew), True


def _parallel(edge: Edge) -> Points | None:
    """The edge moved outward, or None where that is not a simple parallel."""
    allowance = edge.finish.allowance
    if allowance == 0.0:
        return edge.curve.points()
    if isinstance(edge.curve, Trace):
        return edge.curve.offset(allowance).points() if edge.curve.gentle else None
    if 1.0 + edge.curve.curvature * allowance <= 0.0:
        return None
    return edge.curve.offset(allowance).points()


def _ends(edge: Edge, at_end: bool, distance: float) -> Point:
    """The end of the edge moved outward by `distance`."""
    x, y = edge.curve.end if at_end else edge.curve.start
    heading = edge.curve.heading_at(1.0 if at_end else 0.0)
    return x + distance * math.sin(heading), y - distance * math.cos(heading)


def _corner(before: Edge, after: Edge) -> tuple[Points, bool]:
    """Points of the cut line between two parallels, and whether the corner turns inward (the parallels cross)."""
    leave, enter = before.curve.heading_at(1.0), after.curve.heading_at(0.0)
    turn = turn_between(leave, enter)
    if turn < -STRAIGHT_ANGLE:
        return np.empty((0, 2)), True
    if abs(turn) <= STRAIGHT_ANGLE:
        return np.empty((0, 2)), False
    first_folds, second_folds = before.finish.folded > 0, after.finish.folded > 0
    if first_folds and second_folds:
        return _square(before, after, turn), False
    if second_folds:
        return _reflected(after, before, False), False
    if first_folds:
        return _reflected(before, after, True)[::-1], False
    return _square(before, after, turn), False


def _square(before: Edge, after: Edge, turn: float) -> Points:
    """The meeting point of the two parallels, blunted when the corner is very sharp."""
    a, b = before.finish.allowance, after.finish.allowance
    p, q = _ends(before, True, a), _ends(after, False, b)
    meeting = _meet(p, before.curve.heading_at(1.0), q, after.curve.heading_at(0.0))
    vertex = before.curve.end
    reach = MITRE_REACH * max(a, b)
    h, k = before.curve.heading_at(1.0), after.curve.heading_at(0.0)
    if meeting is not None:
        ahead = (meeting[0] - p[0]) * math.cos(h) + (meeting[1] - p[1]) * math.sin(h)
        behind = (q[0] - meeting[0]) * math.cos(k) + (q[1] - meeting[1]) * math.sin(k)
        if min(ahead, behind) < -SAME_POINT:
            return np.empty((0, 2))  # a slight turn between unequal allowances: a step keeps both exact to their ends
    if meeting is not None and math.dist(meeting, vertex) <= reach + SAME_POINT:
        return np.array([meeting])
    run = max(a, b)
    return np.array([(p[0] + run * math.cos(h), p[1] + run * math.sin(h)), (q[0] - run * math.cos(k), q[1] - run * math.sin(k))])


def _without_mitres(ring: Points, edges: Sequence[Edge]) -> Points:
    """The outline with the corners between two hems cut off: straight across, one seam allowance outside the fold's corner."""
    whole: BaseGeometry = shapely.Polygon(ring)
    for i, before in enumerate(edges):
        after = edges[(i + 1) % len(edges)]
        leave, enter = before.curve.heading_at(1.0), after.curve.heading_at(0.0)
        turn = turn_between(leave, enter)
        if turn <= STRAIGHT_ANGLE or not (before.finish.folded and after.finish.folded):
            continue
        vertex, out = before.curve.end, leave + turn / 2.0 - math.pi / 2.0
        spare = min(MITRE_ALLOWANCE, before.finish.folded, after.finish.folded)
        reach = 2.0 * MITRE_REACH * max(before.finish.allowance, after.finish.allowance)
        away, across = np.array([math.cos(out), math.sin(out)]), np.array([-math.sin(out), math.cos(out)])
        on_cut = np.array(vertex) + spare * away
        whole = whole.difference(shapely.Polygon([on_cut - reach * across, on_cut + reach * across, on_cut + reach * away]))
    return _ring(whole)


def _reflected(hem: Edge, neighbour: Edge, hem_first: bool) -> Points:
    """The neighbour's cut line beyond the fold of `hem`, from the fold outward, ending on the hem's parallel.

    The neighbour's parallel meets the fold at X. Inside the panel it drifts sideways by `drift` per mm of depth; reflected in
    the fold it drifts the same way outward, and back again beyond the fold of the turn-under.
    """
    fold_heading = hem.curve.heading_at(1.0 if hem_first else 0.0)
    fold_point = hem.curve.end if hem_first else hem.curve.start
    side_heading = neighbour.curve.heading_at(0.0 if hem_first else 1.0)
    side_point = _ends(neighbour, not hem_first, neighbour.finish.allowance)
    crossing = _meet(side_point, side_heading, fold_point, fold_heading)
    turn = turn_between(fold_heading, side_heading) if hem_first else turn_between(side_heading, fold_heading)
    if crossing is None or abs(math.cos(turn)) > MOST_DRIFT * abs(math.sin(turn)):
        return _square(hem, neighbour, turn) if hem_first else _square(neighbour, hem, turn)
    # Along the fold, per mm of depth into the panel: where the neighbour's parallel goes.
    inward = 1.0 if hem_first else -1.0
    drift = inward * math.cos(turn) / math.sin(turn)
    along = math.cos(fold_heading), math.sin(fold_heading)
    out = math.sin(fold_heading), -math.cos(fold_heading)
    folded, deep = hem.finish.folded, hem.finish.allowance

    def beyond(depth: float) -> Point:
        shift = drift * (depth if depth <= folded else 2.0 * folded - depth)
        return (crossing[0] + shift * along[0] + depth * out[0], crossing[1] + shift * along[1] + depth * out[1])

    depths = [0.0, folded] if deep <= folded else [0.0, folded, deep]
    return np.array([beyond(depth) for depth in depths])


def _meet(p: Point, p_heading: float, q: Point, q_heading: float) -> Point | None:
    """Where two lines meet; None when they are parallel."""
    across = math.sin(q_heading - p_heading)
    if abs(across) < STRAIGHT_ANGLE:
        return None
    run = ((q[0] - p[0]) * math.sin(q_heading) - (q[1] - p[1]) * math.cos(q_heading)) / across
    return p[0] + run * math.cos(p_heading), p[1] + run * math.sin(p_heading)


def _union(edges: Sequence[Edge], corners: Sequence[tuple[Points, bool]], sew: Points) -> Points:
    """Panel and what is beyond its edges, as one outline."""
    panel = shapely.Polygon(sew)
    if not panel.is_valid:
        raise ValueError("the sew line crosses itself")
    pieces: list[BaseGeometry] = [panel]
    for chain in _chains([inward for _, inward in corners]):
        beyond = _beyond(edges, corners, chain)
        pieces += [beyond] if beyond is not None else [piece for i in chain for piece in _one_by_one(edges, corners, i)]
    whole = shapely.union_all(pieces, grid_size=SAME_POINT)
    if isinstance(whole, shapely.MultiPolygon):  # a strip that misses its panel by a rounding is brought back to it
        closer = 100.0 * SAME_POINT
        grown = [piece.buffer(closer, join_style="mitre") for piece in pieces]
        whole = shapely.union_all(grown).buffer(-closer, join_style="mitre")
    parts = [part for part in getattr(whole, "geoms", [whole]) if isinstance(part, shapely.Polygon)]
    largest = max(parts, key=lambda part: part.area)
    # Where two allowances meet across a narrow inlet, the sliver between them falls away with the cut.
    return _without_doubles(_ring(shapely.Polygon(largest.exterior)))


def _chains(inward: Sequence[bool]) -> list[list[int]]:
    """Edges that follow one another, parted at the corners that turn inward."""
    last = [i for i, turns in enumerate(inward) if turns]
    if not last:
        return [list(range(len(inward)))]
    ends = zip([last[-1] - len(inward), *last[:-1]], last, strict=True)
    return [[i % len(inward) for i in range(before + 1, end + 1)] for before, end in ends]


def _beyond(edges: Sequence[Edge], corners: Sequence[tuple[Points, bool]], chain: Sequence[int]) -> BaseGeometry | None:
    """Everything beyond edges that follow one another, from the first to the last; None where their parallels make no simple outline."""
    parallels = [_parallel(edges[i]) for i in chain]
    if len(chain) == len(edges) or any(line is None for line in parallels):
        return None
    out = [
        part for i, line in zip(chain, parallels, strict=True) for part in (line, corners[i][0]) if part is not None and len(part)
    ]
    strip = shapely.Polygon(np.concatenate((*(edges[i].curve.points() for i in chain), np.concatenate(out)[::-1])))
    return strip if strip.is_valid else None


def _one_by_one(edges: Sequence[Edge], corners: Sequence[tuple[Points, bool]], i: int) -> Iterator[BaseGeometry]:
    """The strip beyond an edge, and the piece beyond the corner after it."""
    edge, following, (corner, _) = edges[i], edges[(i + 1) % len(edges)], corners[i]
    allowance = edge.finish.allowance
    if allowance:
        yield _strip(edge, allowance)
    if len(corner) and (allowance or following.finish.allowance):
        ends = _ends(edge, True, allowance), _ends(following, False, following.finish.allowance)
        yield shapely.Polygon([edge.curve.end, ends[0], *corner, ends[1]]).buffer(0)


def _ring(polygon: BaseGeometry) -> Points:
    """The outer ring of a polygon, counter-clockwise, without repeated end."""
    outer = shapely.get_exterior_ring(shapely.normalize(polygon))  # normalised rings run clockwise
    return np.asarray(shapely.get_coordinates(outer), dtype=np.float64)[-2::-1].copy()


def _strip(edge: Edge, allowance: float) -> BaseGeometry:
    """Everything within `allowance` outside the edge."""
    parallel, points = _parallel(edge), edge.curve.points()
    if parallel is not None:
        strip = shapely.Polygon(np.concatenate((points, parallel[::-1])))
        if strip.is_valid or isinstance(edge.curve, Arc):
            return strip if strip.is_valid else strip.buffer(0)
    # Negative: to the right of travel. Mitred joins keep a traced corner sharp on the cut line.
    return shapely.LineString(points).buffer(-allowance, single_sided=True, join_style="mitre", mitre_limit=MITRE_REACH)


def _without_doubles(ring: Points) -> Points:
    keep = np.hypot(*(ring - np.roll(ring, 1, axis=0)).T) > SAME_POINT
    return np.ascontiguousarray(ring[keep])


def cut_size(panel: Panel) -> tuple[float, float]:
    """Length and width of the cut line's bounding box, mm."""
    spans = np.ptp(cut_line(panel), axis=0)
    return float(spans[0]), float(spans[1])


def fold_lines(panel: Panel) -> list[tuple[str, Points]]:
    """The folds of hems and casings: the sew line itself, and the fold of the turn-under beyond it."""
    lines = []
    for edge in panel.edges:
        if edge.finish.folded or edge.finish.kind is FinishKind.FOLD:
            lines.append((edge.name, edge.curve.points()))
        if edge.finish.turn_under and isinstance(edge.curve, Arc):
            lines.append((edge.name, edge.curve.offset(edge.finish.folded).points()))
    return lines
