"""Slack over height and the chance that the cover goes on.

A cover dropped from above must at every depth pass the widest section at or above it:
`slack(z) = G_cover(z) − max over z′ ≤ z of G_object(z′)` with z the depth below the object's top. The spread of the slack follows
from the spread of the readings through each size's slopes, and from sewing: every seam sewn off by σ moves a girth by 2σ.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.forms.body import Body, Section, interpolated
from omnipel.core.tape.readings import Reading
from omnipel.core.tolerances import FLAP_CLEARANCE, TIGHT_CLEARANCE
from omnipel.core.working import READINGS, Worked, formula, worked


@dataclass(frozen=True, slots=True)
class Slack:
    """Slack of the girth at one depth, and what the cover has to pass there."""

    depth: float
    cover: Worked
    passes: Worked
    slack: Worked
    turns: float

    @property
    def clearance(self) -> float:
        """The slack as a gap on each side, mm: slack/2π when round."""
        return self.slack.value / self.turns


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether a cover goes on.

    Args:
        slacks: from the top down.
        tightest: the one that decides.
        sigma: spread of the deciding slack, mm.
        chance: that the slack is not negative, 0 … 1.
        matters_most: place of the reading whose spread counts most, "" when sewing counts more.
        shares: share of the variance of each source, largest first; "sewing" among them.
    """

    slacks: tuple[Slack, ...]
    tightest: Slack
    sigma: float
    chance: float
    matters_most: str
    shares: tuple[tuple[str, float], ...]

    @property
    def verdict(self) -> str:
        """One of: will not go on, tight, goes on, flaps."""
        if self.tightest.slack.value < 0.0:
            return "will not go on"
        if self.tightest.clearance < TIGHT_CLEARANCE:
            return "tight"
        return "flaps" if min(s.clearance for s in self.slacks) > FLAP_CLEARANCE else "goes on"


def going_on(body: Body, cover: Cover, readings: Sequence[Reading], sewing_sigma: float) -> Fit | None:
    """The fit of a cover that is dropped over a body; None for a cover that goes on in another way."""
    if not cover.profile:
        return None
    lowest = max(depth for depth, _ in cover.profile)
    depths = sorted(
        {depth for depth, _ in (*cover.profile, *cover.opens)} | {s.depth for s in body.sections if s.depth <= lowest}
    )
    slacks = tuple(_slack(depth, cover, body, lowest) for depth in depths)
    tightest = min(slacks, key=lambda slack: slack.slack.value)
    spread = {reading.place: reading.spread for reading in readings}
    parts = _variances(tightest.slack, spread)
    parts["sewing"] = cover.seams_across * (2.0 * sewing_sigma) ** 2
    variance = math.fsum(parts.values())
    sigma = math.sqrt(variance)
    # Standard normal distribution function; without any spread the answer is yes or no.
    chance = 0.5 * math.erfc(-tightest.slack.value / (sigma * math.sqrt(2.0))) if sigma else float(tightest.slack.value >= 0.0)
    ranked = tuple(
        sorted(((name, part / variance if variance else 0.0) for name, part in parts.items()), key=lambda pair: -pair[1])
    )
    by_reading = [name for name, part in ranked if name != "sewing" and part > 0.0]
    return Fit(slacks, tightest, sigma, chance, by_reading[0] if by_reading else "", ranked)


def _slack(depth: float, cover: Cover, body: Body, lowest: float) -> Slack:
    inside = interpolated([Section(d, girth) for d, girth in cover.profile], depth)
    if cover.opens:
        opened = float(np.interp(depth, [d for d, _ in cover.opens], [mm for _, mm in cover.opens]))
        inside = inside + worked("closure open", opened, "cover.closure.length") if opened else inside
    if cover.from_below:
        above = [s.girth for s in body.sections if depth - 1e-9 <= s.depth <= lowest + 1e-9]
    else:
        above = [s.girth for s in body.sections if s.depth <= depth + 1e-9]
    above.append(interpolated(body.sections, depth))
    passes = max(above, key=lambda girth: girth.value)
    # The cover was drafted from the reading; the object itself is what it is. So only the cover moves with the reading.
    slack = Worked((*inside.terms, *_truth(passes).terms))
    return Slack(depth, inside, passes, slack, cover.turns)


def _truth(girth: Worked) -> Worked:
    """The object's own girth, taken away: it does not move with the error of its reading."""
    return formula("girth of the object there", girth.value, "largest section at or above") * -1.0


def _variances(size: Worked, spread: Mapping[str, float]) -> dict[str, float]:
    """Variance that each reading brings into a size, mm²."""
    return {
        source.removeprefix(READINGS): (slope * spread.get(source.removeprefix(READINGS), 0.0)) ** 2
        for source, slope in size.slopes.items()
    }
