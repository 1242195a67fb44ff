"""Ways over the pieces of a sewn cover: straight on each of them, and across a seam at the same angle to it, as a tape lies."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from typing import Final

import numpy as np

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Run, Seam, Way
from omnipel.core.finishing.spots import Flat, Rim, Spot, corner_in, left_of, speeds, travel, turned_by
from omnipel.core.space.frames import lengths

BESIDE, ASLANT = 0.2, 0.1
"""A way from a seam back to it is as good as beside it when it comes there at no more than this sine of an angle, and its length times that is no more
than so many mm: it rises by a quarter of it.
"""
MOST_SEAMS: Final = 80
"""No way leads over more seams than this."""


class Ways:
    """Pieces by name, the flat panel of each, and the seams that join them, to be walked over."""

    def __init__(self, pieces: Mapping[str, Piece], flat: Mapping[str, Panel], seams: Sequence[Seam]) -> None:
        self.pieces, self.flat, self.seams = pieces, flat, seams
        self._ways: dict[tuple[int, int], Way] = {}
        self._rims: dict[str, Rim] = {}

    @cached_property
    def _joined(self) -> dict[tuple[str, str], tuple[Seam, int, int]]:
        """By piece and edge: its seam, which side of it, and which run of that side. A seam of its own comes before one that is only caught."""
        found: dict[tuple[str, str], tuple[Seam, int, int]] = {}
        for seam in sorted(self.seams, key=lambda s: not s.onto):
            for k, side in enumerate(seam.sides):
                for i, run in enumerate(side):
                    found[run.piece, run.edge] = (seam, k, i)
        return found

    def _way(self, seam: Seam, side: int) -> Way:
        """A side of a seam to be walked."""
        if (id(seam), side) not in self._ways:
            self._ways[id(seam), side] = Way(seam.sides[side], self.flat)
        return self._ways[id(seam), side]

    def _rim(self, name: str) -> Rim:
        """The rim of a piece."""
        if name not in self._rims:
            self._rims[name] = Rim.of(self.flat[name])
        return self._rims[name]

    def walked(self, spot: Spot, way: tuple[float, float], far: float) -> Spot | None:
        """Where one comes to, so far in a direction (right, down), as a tape lies; None where the cover ends before."""
        sense, left = np.array(way) * math.copysign(1.0, far), abs(far)
        last: Seam | None = None
        for _ in range(MOST_SEAMS if left else 0):
            heading = sense[0] * spot.right + sense[1] * spot.down
            edge, share, reach = self.to_edge(spot, (float(sense[0]), float(sense[1])))
            flat, space = self._along(spot, heading, reach, left)
            if space >= left - 1e-9:
                return replace(spot, at=spot.at + heading * flat)
            left -= space
            seam, *_ = self._joined.get((spot.piece.name, edge), (None,))
            aslant = abs(float(left_of(travel(spot.panel, edge, share)) @ heading))
            if seam is not None and seam is last and aslant < ASLANT and reach * aslant < BESIDE:
                spot, left = self._beside(spot, heading, edge, share, left)
                if not left:
                    return spot
                seam = None
            elif (over := self.over(spot, edge, share)) is None:
                return None
            else:
                spot = over
            last = seam
        return None if left else spot

    def _beside(self, spot: Spot, heading: Flat, edge: str, share: float, left: float) -> tuple[Spot, float]:
        """Where one comes to along the edge of a seam that one would otherwise cross again and again, and how much of the way is left there."""
        curve = spot.panel.edge(edge).curve
        forth = float(travel(spot.panel, edge, share) @ heading) > 0.0
        rest = curve.length * (1.0 - share if forth else share)
        n = int(min(200, max(4, rest / 5.0)))
        ends = curve.along(np.linspace(share, float(forth), n + 1) * curve.length)
        steps = np.diff(ends, axis=0)
        long = lengths(steps)
        spaces = speeds(spot.piece, (ends[1:] + ends[:-1]) / 2.0, steps / np.maximum(long, 1e-12)[:, None]) * long
        gone = np.concatenate(([0.0], np.cumsum(spaces)))
        done = min(left, float(gone[-1]))
        share = float(np.interp(done, gone, np.linspace(share, float(forth), n + 1)))
        inward, after = left_of(travel(spot.panel, edge, share)), travel(spot.panel, edge, share) * (1.0 if forth else -1.0)
        turned = np.outer(after, heading) + np.outer(left_of(after), left_of(heading))
        at = np.array(curve.at(share)) + 1e-7 * (inward - after)
        if done < left and (opposite := self._opposite(spot.piece.name, edge, float(forth))) is not None:
            # The seam ends in a corner, and the way goes on so that there is as much cloth on both sides of it.
            _, run, there = opposite
            less = math.pi - corner_in(spot.panel, edge, last=forth) - corner_in(self.flat[run.piece], run.edge, last=there > 0.5)
            turned = turned_by(less / 2.0 if forth else -less / 2.0) @ turned
        return replace(spot, at=at, right=turned @ spot.right, down=turned @ spot.down), left - done

    def to_edge(self, spot: Spot, way: tuple[float, float]) -> tuple[str, float, float]:
        """The edge of its own piece that lies in a direction from a spot: its name, the share of it, and how far on the flat panel."""
        heading = way[0] * spot.right + way[1] * spot.down
        reach, edge, share = self._rim(spot.piece.name).left_at(spot.at, heading)
        return edge, share, reach

    def _along(self, spot: Spot, heading: Flat, reach: float, left: float) -> tuple[float, float]:
        """How far one goes on the flat panel, no further than `reach`, for no more than `left` in space: both."""
        if reach <= 0.0:
            return 0.0, 0.0
        n = int(min(200, max(4, reach / 5.0)))
        steps = (np.arange(n) + 0.5) * reach / n
        spaces = speeds(spot.piece, spot.at + steps[:, None] * heading, heading) * reach / n
        if np.all(spaces == reach / n):
            return min(reach, left), min(reach, left)
        gone = np.concatenate(([0.0], np.cumsum(spaces)))
        if gone[-1] <= left:
            return reach, float(gone[-1])
        return float(np.interp(left, gone, np.linspace(0.0, reach, n + 1))), left

    def over(self, spot: Spot, edge: str, share: float) -> Spot | None:
        """A share of an edge of the spot's piece as what is sewn there has it, and its directions there; None where nothing is sewn on."""
        opposite = self._opposite(spot.piece.name, edge, share)
        if opposite is None:
            return None
        mine, run, there = opposite
        piece, panel = self.pieces[run.piece], self.flat[run.piece]
        along, along_there = travel(spot.panel, edge, share), travel(panel, run.edge, there)
        turned = np.outer(along_there, along) * (1.0 if run.reversed == mine.reversed else -1.0) - np.outer(
            left_of(along_there), left_of(along)
        )
        at = np.array(panel.edge(run.edge).curve.at(there)) + 1e-7 * left_of(along_there)
        return Spot(piece, panel, at, turned @ spot.right, turned @ spot.down)

    def _opposite(self, name: str, edge: str, share: float) -> tuple[Run, Run, float] | None:
        """What a share of an edge of a piece is sewn to: that edge as a run of its seam, the other run, and the share of its edge."""
        found = self._joined.get((name, edge))
        if found is None:
            return None
        seam, k, i = found
        mine, way = seam.sides[k][i], self._way(seam, k)
        done = way.ends[i] - way.lengths[i] * (share if mine.reversed else 1.0 - share)
        return mine, *self._way(seam, 1 - k).locate(done / (way.ends[-1] or 1.0))
