"""Places all along the edge of an opening, so far in from it: the same on each side, corners shared."""

import math
from collections.abc import Mapping, Sequence

import numpy as np

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Run
from omnipel.core.finishing.kind import Put
from omnipel.core.plane.curves import Points, turn_between
from omnipel.core.space.paths import Path
from omnipel.core.tolerances import CORNER_ANGLE
from omnipel.core.words.phrases import mm, tr

Found = list[tuple[str, Points]]
"""Places, each with the name of its piece and where it lies on the flat panel."""
LONGER = 1.05
"""A side longer than the shortest by more than this is a long one."""


def along_opening(put: Put) -> Found | None:
    """Where fasteners lie along the opening that is met going down from where the row was put; None, and a finding, where there is none."""
    opening = opening_below(put)
    if opening is None:
        text = tr("{feature} is to run along an edge, and going down from it there is none.", feature=put.name)
        put.stop("feature-off-panel", text)
        return None
    inset = put.number("inset")
    sides = _sides(opening, put.ground.flat)
    ends = inset if len(sides) > 1 else 0.0  # between corners a row begins and ends so far in
    longs = [_length(side, put.ground.flat) - 2.0 * ends for side in sides]
    shortest = min(longs)
    if shortest <= 0.0:
        text = tr("{feature}: nothing is left of the edge {inset} in from its corners.", feature=put.name, inset=mm(inset))
        put.stop("feature-off-panel", text)
        return None
    found: Found = []
    for side, long in zip(sides, longs, strict=True):
        n = _steps(put, long, shortest, closed=len(sides) == 1)
        found += [_place(side, put.ground.flat, inset, ends + long * k / n) for k in range(n)]
    return found


def has_long_sides(put: Put, opening: Sequence[Run]) -> bool:
    """Whether some sides of an opening are longer than others."""
    longs = [_length(side, put.ground.flat) for side in _sides(opening, put.ground.flat)]
    return max(longs) > LONGER * min(longs)


def _steps(put: Put, long: float, shortest: float, *, closed: bool) -> int:
    """How many steps a side is parted into."""
    if put.picked("by") == "by spacing":
        return max(1, math.ceil(long / put.number("spacing") - 1e-9))
    if closed:
        return int(put.number("parts"))
    n = put.number("long_parts") if long > LONGER * shortest else put.number("parts")
    return max(1, int(n) - 1)


def opening_below(put: Put) -> Sequence[Run] | None:
    """The runs around the opening that one comes to going down."""
    ground, spot = put.ground, put.spot
    for _ in range(len(ground.pieces) + 1):
        edge, share, _ = ground.to_edge(spot, (0.0, 1.0))
        for opening in ground.openings:
            if opening.has(spot.piece.name, edge):
                return opening.runs
        over = ground.over(spot, edge, share)
        if over is None:
            return None
        spot = over
    return None


def _sides(runs: Sequence[Run], flat: Mapping[str, Panel]) -> list[list[Run]]:
    """The edge of an opening parted at its corners."""
    turns = [_corner_before(runs, i, flat) for i in range(len(runs))]
    if not any(turns):
        return [list(runs)]
    first = turns.index(True)
    turned, corners = [*runs[first:], *runs[:first]], [*turns[first:], *turns[:first]]
    sides: list[list[Run]] = []
    for run, begins in zip(turned, corners, strict=True):
        if begins:
            sides.append([])
        sides[-1].append(run)
    return sides


def _corner_before(runs: Sequence[Run], i: int, flat: Mapping[str, Panel]) -> bool:
    """Whether the edge turns a corner of one panel before a run."""
    before, run = runs[i - 1], runs[i]
    if before.piece != run.piece:
        return False
    one, other = (flat[r.piece].edge(r.edge).curve for r in (before, run))
    if before.reversed:
        return abs(turn_between(other.heading_at(1.0), one.heading_at(0.0))) > CORNER_ANGLE
    return abs(turn_between(one.heading_at(1.0), other.heading_at(0.0))) > CORNER_ANGLE


def _length(side: Sequence[Run], flat: Mapping[str, Panel]) -> float:
    return math.fsum(flat[run.piece].edge(run.edge).curve.length for run in side)


def _place(side: Sequence[Run], flat: Mapping[str, Panel], inset: float, far: float) -> tuple[str, Points]:
    """A place so far along a side, and so far in from the edge."""
    for run in side:
        curve = flat[run.piece].edge(run.edge).curve
        if far <= curve.length + 1e-9 or run is side[-1]:
            break
        far -= curve.length
    along = min(max(curve.length - far if run.reversed else far, 0.0), curve.length)
    heading = curve.heading_at(along / (curve.length or 1.0))
    inward = np.array((-math.sin(heading), math.cos(heading)))
    return run.piece, np.asarray(Path((curve,)).at(np.array([along]))[0] + inset * inward)
