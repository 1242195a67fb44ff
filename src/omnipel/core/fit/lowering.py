"""Lowering a cover over its object, or an object into its bag: the smallest gap at every height on the way, and where it is.

At a height `h` above where it will lie, a section of the object so far below its top lies beside the cover's section `h` further down; `gap(h)` is the
least of what is left between the two, over all sections that are inside of the cover by then. The least of all these is the gap that *goes on* tells.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.fit.going_on import BOTH_SIDES, Fit, Slack, spread_of
from omnipel.core.forms.body import Body
from omnipel.core.job.reading import Reading
from omnipel.core.tape.readings import spread

Floats = NDArray[np.float64]

STEPS: Final = 96
"""So many heights are looked at."""
ALIKE: Final = 1e-6
"""Gaps that differ by less are one, mm."""
ALONG: Final = 72
"""So many sections of the object besides those that are known."""


@dataclass(frozen=True)
class Lowering:
    """The way down.

    Args:
        lowered: how far it has come, from 0 when its edge meets the object to 1 when it is on, `(n,)`.
        gaps: the smallest gap on each side at each height, mm, `(n,)`; below 0 where it jams.
        depths: how far below the object's top that is, mm, `(n,)`.
        sigmas: the spread of each gap, mm, `(n,)`.
        travel: how far it is lowered in all, mm.
        decides: how far below the object's top *goes on* says that it is tightest, mm.
    """

    lowered: Floats
    gaps: Floats
    depths: Floats
    sigmas: Floats
    travel: float
    decides: float = 0.0

    @property
    def tightest(self) -> int:
        """Where the gap is least; of several such heights where it is at the place that *goes on* tells, as far down as can be."""
        least = np.flatnonzero(self.gaps <= self.gaps.min() + ALIKE)
        far = np.abs(self.depths[least] - self.decides).round(3)
        return int(least[far == far.min()][-1])

    @property
    def jams(self) -> int | None:
        """The first height at which it does not pass; None where it passes all the way."""
        stuck = np.flatnonzero(self.gaps < 0.0)
        return int(stuck[0]) if len(stuck) else None


def lowering(body: Body, cover: Cover, fit: Fit, readings: Sequence[Reading], sewing_sigma: float) -> Lowering:
    """The way of a cover over a body that it has a fit for."""
    inside = np.array([passage.depth for passage in cover.profile])
    mouth, end = float(inside.min()), float(inside.max())
    travel = end - mouth if cover.from_below else end
    inside = np.unique(np.concatenate((inside, [depth for depth, _ in cover.opens if mouth <= depth <= end])))
    known = np.array([section.depth for section in body.sections])
    meet = (known[None, :] - inside[:, None] if cover.from_below else inside[:, None] - known[None, :]).ravel()
    heights = np.unique(np.concatenate((np.linspace(0.0, travel, STEPS + 1), meet[(meet > 0.0) & (meet < travel)])))[::-1]
    sections = np.unique(np.concatenate((known, inside, np.linspace(float(known.min()), max(float(known.max()), end), ALONG))))
    way = -1.0 if cover.from_below else 1.0
    # Beside every section of the object lies one of the cover, and beside every known one of the cover one of the object.
    sections = np.concatenate((np.tile(sections, (len(heights), 1)), inside[None, :] - way * heights[:, None]), axis=1)
    at = sections + way * heights[:, None]
    there = (at >= mouth - 1e-9) & (at <= end + 1e-9) & (sections >= float(known.min()) - 1e-9)
    best = np.full(len(heights), np.inf)
    depths, ways = np.zeros(len(heights)), np.zeros(len(heights), dtype=np.intp)
    for number, (object_, cover_, turns) in enumerate(_measures(body, cover)):
        left = (cover_(at) - object_(sections)) / turns
        left = np.where(there, left, np.inf)
        least = left.min(axis=1)
        # Of sections with as little left the one that *goes on* tells.
        k = np.where(left <= least[:, None] + ALIKE, np.abs(sections - fit.tightest.past), np.inf).argmin(axis=1)
        nearer = least < best
        best, ways = np.where(nearer, least, best), np.where(nearer, number, ways)
        depths = np.where(nearer, sections[np.arange(len(heights)), k], depths)
    met = np.isfinite(best)
    best = np.where(met, best, best[met].max() if met.any() else 0.0)
    sigmas = _sigmas(fit, cover, readings, sewing_sigma, depths, ways)
    return Lowering(1.0 - heights / (travel or 1.0), best, depths, sigmas, travel, fit.tightest.past)


def _measures(body: Body, cover: Cover):  # type: ignore[no-untyped-def]  # pairs of functions of depth
    """Around, then across in every direction: what the object measures by its depth, what the cover lets through by its own, and what a gap counts."""
    inside = np.array([passage.depth for passage in cover.profile])
    known = np.array([section.depth for section in body.sections])
    opens = np.array(cover.opens) if cover.opens else np.zeros((1, 2))

    def pair(of_object: list[float], of_cover: list[float], turns: float):  # type: ignore[no-untyped-def]
        wide, room = np.array(of_object), np.array(of_cover)
        return (
            lambda depth: np.interp(depth, known, wide),
            lambda depth: np.interp(depth, inside, room) + np.interp(depth, opens[:, 0], opens[:, 1]),
            turns,
        )

    yield pair([s.girth.value for s in body.sections], [p.girth.value for p in cover.profile], cover.turns)
    ways = min(len(cover.profile[0].spans), len(body.sections[0].spans))
    for way in range(ways):
        yield pair([s.spans[way].value for s in body.sections], [p.spans[way].value for p in cover.profile], BOTH_SIDES)


def _sigmas(
    fit: Fit, cover: Cover, readings: Sequence[Reading], sewing_sigma: float, depths: Floats, ways: NDArray[np.intp]
) -> Floats:
    """The spread of each gap: that of the slack nearest to where it is."""
    sigmas = {reading.place: spread(reading) for reading in readings}
    everything: list[Slack] = [*fit.slacks, *fit.across]
    own = np.array([math.sqrt(spread_of(slack, cover, sigmas, sewing_sigma)) / slack.turns for slack in everything])
    slack_depths, slack_ways = np.array([s.depth for s in everything]), np.array([s.way for s in everything])
    far = np.abs(slack_depths[None, :] - depths[:, None]) + np.where(slack_ways[None, :] == ways[:, None], 0.0, 1e9)
    return np.asarray(own[far.argmin(axis=1)])
