"""Where a piece may lie beside those that lie already, as far to the left as can be.

At a height (a *level*) of its origin each region that it may not enter is an interval of x; the gaps between them are where it may lie. Levels that are
looked at are the corners of all regions, where the best place nearly always is, and then ever finer ones around the best.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Final

import numpy as np

from omnipel.core.nesting.convex import TOUCH, Floats, Regions, stacked
from omnipel.core.nesting.shape import Meetings, Way

FINER: Final = 17
"""So many levels between two, each time it is looked closer."""
CLOSER: Final = 4
"""So often it is looked closer."""
FINEST: Final = 1e-6
"""Levels nearer to one another than this are one, mm."""
MOST_LEVELS: Final = 400
"""More of them are not looked at, at once."""


@dataclass(frozen=True)
class Placed:
    """A way at a place: its origin, `(2,)`."""

    way: Way
    at: Floats

    @property
    def low(self) -> Floats:
        """The left lower corner of its box."""
        corner: Floats = self.way.low + self.at
        return corner

    @property
    def high(self) -> Floats:
        """The right upper corner of its box."""
        corner: Floats = self.way.high + self.at
        return corner

    @property
    def ring(self) -> Floats:
        """Its outline where it lies."""
        ring: Floats = self.way.ring + self.at
        return ring


@dataclass
class Ground:
    """What pieces are laid on: from 0 up to a width, from 0 on along, as far as `length`; with what they may not cover.

    Args:
        width: the usable width, mm.
        length: how long it is, infinite for a bolt.
        avoid: pieces of it that nothing may lie on, as fixed ways.
        meetings: what is known of pairs.
        closer: how often it is looked closer at the best height.
        most_levels: more heights than this are not looked at, at once.
    """

    width: float
    length: float = np.inf
    avoid: tuple[Placed, ...] = ()
    meetings: Meetings = field(default_factory=lambda: Meetings({}))
    closer: int = CLOSER
    most_levels: int = MOST_LEVELS

    def leftmost(
        self,
        way: Way,
        placed: list[Placed],
        *,
        near: float | None = None,
        reach: float = np.inf,
        least: float = -np.inf,
        most: float = np.inf,
    ) -> Placed | None:
        """A way as far to the left as it may lie; of places equally far the lowest. None where it fits nowhere.

        Args:
            way: what is to be laid.
            placed: what lies already.
            near: the height of its origin that it may not leave by more than `reach`, mm.
            reach: see near.
            least: it is looked for from here on, mm ...
            most: ... to there, mm.
        """
        bottom, top = -float(way.low[1]), self.width - float(way.high[1])
        if top < bottom - TOUCH:
            return None
        top = max(top, bottom)
        if way.level is not None:
            near, reach = way.level, 0.0
        if near is not None:
            bottom, top = max(bottom, near - reach), min(top, near + reach)
            if top < bottom - TOUCH:
                return None
        first = max(-float(way.low[0]), least)
        last = self.length - float(way.high[0])
        every = self.around(way, placed)
        regions = every.near(bottom, top, first, most) if every is not None else None
        levels = _levels(way, regions, bottom, top, near, self.most_levels)
        if not len(levels):
            return None
        best = _best(regions, levels, way, first)
        if regions is not None and not way.pitch[1] and not regions.upright:
            for _ in range(self.closer):
                below, above = levels[max(best[1] - 1, 0)], levels[min(best[1] + 1, len(levels) - 1)]
                if above - below < FINEST:
                    break
                levels = np.unique(np.concatenate((np.linspace(below, above, FINER), levels[best[1] : best[1] + 1])))
                best = _best(regions, levels, way, first)
        x, k = best
        return Placed(way, np.array((x, levels[k]))) if x <= min(last, most) + TOUCH else None

    def around(self, way: Way, placed: list[Placed]) -> Regions | None:
        """Where a way may not lie beside what lies already; None where it may lie anywhere."""
        found = [self.meetings.of(other.way, way).moved(other.at) for other in (*self.avoid, *placed)]
        return stacked(found) if found else None


def _levels(way: Way, regions: Regions | None, bottom: float, top: float, near: float | None, most: int) -> Floats:
    """The heights of a way's origin that are looked at."""
    if way.pitch[1]:
        step, start = way.pitch[1], way.start[1]
        first, last = math.ceil((bottom + start - TOUCH) / step), math.floor((top + start + TOUCH) / step)
        lawful: Floats = np.clip(np.arange(first, last + 1) * step - start, bottom, top)
        return lawful
    ends = [bottom, top] if near is None else [bottom, top, min(max(near, bottom), top)]
    inner = regions.corners[(regions.corners > bottom) & (regions.corners < top)] if regions is not None else np.empty(0)
    levels = np.unique(np.concatenate((ends, inner)))
    if len(levels) > most:
        levels = levels[np.linspace(0, len(levels) - 1, most).astype(int)]
    return levels


def _best(regions: Regions | None, levels: Floats, way: Way, first: float) -> tuple[float, int]:
    """The x as far left as can be, and the index of its level."""
    if regions is None:
        return float(_on_pitch(np.array(first), way)), 0
    found = _gaps(regions, levels, first, way)
    k = int(np.argmin(found))
    return float(found[k]), k


def _on_pitch(x: Floats, way: Way) -> Floats:
    """The next x that is not to the left and lies on the way's multiples."""
    step, start = way.pitch[0], way.start[0]
    return np.ceil((x + start - TOUCH) / step) * step - start if step else x


def _gaps(regions: Regions, levels: Floats, first: float, way: Way) -> Floats:
    """At each level the x from `first` on, as far left as can be, that lies in no region, `(n,)`."""
    low, high = intervals(regions, levels)
    order = np.argsort(low, axis=1)
    low, high = np.take_along_axis(low, order, 1), np.take_along_axis(high, order, 1)
    reached = np.maximum(np.maximum.accumulate(high, axis=1), first)
    before = _on_pitch(np.concatenate((np.full((len(levels), 1), first), reached), axis=1), way)
    free = np.concatenate((low, np.full((len(levels), 1), np.inf)), axis=1) >= before - TOUCH
    left: Floats = before[np.arange(len(levels)), np.argmax(free, axis=1)]
    return left


def intervals(regions: Regions, levels: Floats) -> tuple[Floats, Floats]:
    """From where to where each region lies at each level, `(n, m)` twice; beyond everything where it is not met."""
    nx, ny = regions.normals[..., 0], regions.normals[..., 1]
    room = regions.offsets - TOUCH - ny * levels[:, None, None]
    with np.errstate(divide="ignore", invalid="ignore"):
        bound = room / nx
    low = np.where(nx < -1e-12, bound, -np.inf).max(axis=2)
    high = np.where(nx > 1e-12, bound, np.inf).min(axis=2)
    missed = ((np.abs(nx) <= 1e-12) & (room <= 0.0)).any(axis=2) | (low >= high)
    return np.where(missed, np.inf, low), np.where(missed, -np.inf, high)


TURNS: Final = 16
"""A piece that is pushed along others goes around no more corners of them at once."""


def slid(ground: Ground, piece: Placed, by: Floats, placed: list[Placed]) -> Placed:
    """A piece moved as far as it goes: straight, until it meets another or the border, then along what it has met.

    It passes through nothing, so that no overlap can be made.
    """
    regions = ground.around(piece.way, placed)
    at, left = piece.at, np.asarray(by, dtype=np.float64)
    for _ in range(TURNS):
        if not np.hypot(*left) > TOUCH:
            break
        share, met = _share(ground, Placed(piece.way, at), left, regions)
        at = at + left * share
        if met is None:
            break
        left = left * (1.0 - share)
        left = left - met * min(0.0, float(left @ met))
    return Placed(piece.way, at)


def _share(ground: Ground, piece: Placed, step: Floats, regions: Regions | None) -> tuple[float, Floats | None]:
    """Which share of a step a piece can make, 0 to 1, and the outward normal of what it meets then; None where it meets nothing."""
    share, met = 1.0, None
    for axis, end in enumerate((ground.length, ground.width)):
        along = float(step[axis])
        room = end - float(piece.high[axis]) if along > 0.0 else float(piece.low[axis])
        if abs(along) > 0.0 and max(0.0, room) < share * abs(along):
            share, met = max(0.0, room) / abs(along), np.eye(2)[axis] * (-1.0 if along > 0.0 else 1.0)
    if regions is None:
        return share, met
    toward = regions.normals @ step
    room_ = regions.offsets - TOUCH - regions.normals @ piece.at
    with np.errstate(divide="ignore", invalid="ignore"):
        when = room_ / toward
    enters = np.where(toward < 0.0, when, -np.inf)
    leaves = np.where(toward > 0.0, when, np.inf).min(axis=1)
    begins = enters.max(axis=1)
    never = ((toward == 0.0) & (room_ <= 0.0)).any(axis=1) | (begins >= leaves) | (leaves <= 0.0)
    meets = np.where(never, np.inf, begins)
    first = int(np.argmin(meets))
    if max(0.0, float(meets[first])) < share:
        share, met = max(0.0, float(meets[first])), regions.normals[first, int(np.argmax(enters[first]))]
    return share, met
