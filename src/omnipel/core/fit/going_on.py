"""Slack over height and the chance that the cover goes on.

A cover dropped from above must at every depth pass the widest section at or above it:
`slack(z) = G_cover(z) − max over z′ ≤ z of G_object(z′)` with z the depth below the object's top; where it has corners the same holds for every
direction. The object is what it is; the cover was drafted from readings, so the cover's sizes carry the readings' spread through their slopes.
Sewing adds its own: every seam sewn off by σ moves a girth by 2σ. All of it must pass together.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.fit.chance import together
from omnipel.core.forms.body import Body, section_at
from omnipel.core.forms.sections import Section
from omnipel.core.job.reading import Reading
from omnipel.core.tape.readings import spread
from omnipel.core.tolerances import AS_TYPED, FLAP_CLEARANCE, SURE_CHANCE, SURE_SPARE, TIGHT_CLEARANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, Share, mm, term, tr
from omnipel.core.words.working import Worked, worked

SEWING: Final = "sewing"
COIN: Final = 0.5
"""While a reading is in doubt nobody can say more than this."""
BOTH_SIDES: Final = 2.0


def percent(chance: float) -> Phrase:
    """A chance as far as it can be told."""
    if chance > 0.99:
        return tr("over {share}", share=Share(0.99))
    return tr("under {share}", share=Share(0.01)) if chance < 0.01 else tr("{share}", share=Share(chance))


class Verdict(StrEnum):
    """What comes of trying it on."""

    WILL_NOT = "will not go on"
    TIGHT = "tight"
    GOES_ON = "goes on"
    FLAPS = "flaps"
    NOT_SURE = "not sure"


@dataclass(frozen=True, slots=True)
class Slack:
    """What is left at one depth of the cover: around, or across in one direction (`way` 1, 2 … in the body's order; 0 around).

    `past` is how far below its own top the object is so large that this depth of the cover has to pass it.
    """

    depth: float
    cover: Worked
    passes: Worked
    slack: Worked
    turns: float
    way: int = 0
    past: float = 0.0

    @property
    def left(self) -> float:
        """The slack, mm; where nothing is left, 0 without the noise of rounding."""
        return self.slack.value if abs(self.slack.value) > AS_TYPED else 0.0

    @property
    def clearance(self) -> float:
        """The slack as a gap on each side, mm: slack/2π when round."""
        return self.left / self.turns


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether a cover goes on.

    Args:
        slacks: around, from the top down.
        across: in every direction where it has corners, from the top down.
        tightest: the one that decides.
        sigma: spread of the deciding slack, mm.
        chance: that nothing is negative anywhere, 0 … 1.
        matters_most: place of the reading whose spread counts most, "" when sewing counts more.
        shares: share of the variance of each source, largest first; sewing among them.
        doubtful: places of readings in doubt that this rests on.
        surer: how much wider a gap on each side would make it sure, mm; 0 where it is sure.
    """

    slacks: tuple[Slack, ...]
    across: tuple[Slack, ...]
    tightest: Slack
    sigma: float
    chance: float
    matters_most: str
    shares: tuple[tuple[str, float], ...]
    doubtful: tuple[str, ...] = ()
    surer: float = 0.0

    @property
    def verdict(self) -> Verdict:
        """What comes of trying it on."""
        if self.tightest.left < 0.0:
            return Verdict.WILL_NOT
        if self.doubtful:
            return Verdict.NOT_SURE
        if self.tightest.clearance < TIGHT_CLEARANCE:
            return Verdict.TIGHT
        return Verdict.FLAPS if min(s.clearance for s in self.slacks) > FLAP_CLEARANCE else Verdict.GOES_ON


@dataclass(frozen=True, slots=True)
class NoPassage:
    """A cover that passes over nothing: it is laid, spread or gathered on; no chance is stated."""

    words: Phrase = tr("lies on top")


def fit_words(fit: Fit) -> Phrase:
    """What comes of trying it on, in one line."""
    gap = mm(fit.tightest.clearance)
    return tr(
        "{verdict}, chance {chance}, gap {gap} at the tightest", verdict=term(fit.verdict), chance=percent(fit.chance), gap=gap
    )


def going_on(body: Body, cover: Cover, readings: Sequence[Reading], sewing_sigma: float) -> Fit | NoPassage:
    """The fit of a cover over a body."""
    if not cover.profile or not body.sections:
        return NoPassage()
    around, across = slacks_of(body, cover)
    everything = (*around, *across)
    tightest = min(everything, key=lambda slack: slack.clearance)
    sigmas = {reading.place: spread(reading) for reading in readings}
    parts = _variances(tightest.slack, sigmas)
    parts[SEWING] = (_sewing_slope(tightest, cover) * sewing_sigma) ** 2
    variance = spread_of(tightest, cover, sigmas, sewing_sigma)
    ranked = sorted(((name, part / variance if variance else 0.0) for name, part in parts.items()), key=lambda pair: -pair[1])
    by_reading = [name for name, part in ranked if name != SEWING and part > 0.0]
    chance = chance_of(everything, cover, sigmas, sewing_sigma)
    surer = _surer(everything, cover, sigmas, sewing_sigma) if tightest.left >= 0.0 and chance < SURE_CHANCE else 0.0
    most = by_reading[0] if by_reading else ""
    return Fit(around, across, tightest, math.sqrt(variance), chance, most, tuple(ranked), surer=surer)


def spread_of(slack: Slack, cover: Cover, sigmas: Mapping[str, float], sewing_sigma: float) -> float:
    """The variance of a slack, mm²: of the readings it rests on, by their spreads, and of the sewing."""
    sewing = (_sewing_slope(slack, cover) * sewing_sigma) ** 2
    return math.fsum((*_variances(slack.slack, sigmas).values(), sewing))


def _surer(slacks: Sequence[Slack], cover: Cover, sigmas: Mapping[str, float], sewing_sigma: float) -> float:
    """How much wider a gap on each side would make it sure that nothing is negative, mm."""
    low, high = 0.0, 1.0
    margins, slopes, spreads = _margins(slacks, cover, sigmas, sewing_sigma)
    turns = np.array([slack.turns for slack in slacks])
    while together(margins + high * turns, slopes, spreads) < SURE_CHANCE + SURE_SPARE and high < FLAP_CLEARANCE * 64.0:
        low, high = high, high * 2.0
    while high - low > 0.1:
        middle = (low + high) / 2.0
        if together(margins + middle * turns, slopes, spreads) < SURE_CHANCE + SURE_SPARE:
            low = middle
        else:
            high = middle
    return high


def doubted(
    fit: Fit, others: Sequence[tuple[Body, Cover]], places: Sequence[str], readings: Sequence[Reading], sewing: float
) -> Fit:
    """The fit while readings are in doubt: no more sure than a coin, and no surer than on any of the other bodies the thing may be."""
    sigmas = {reading.place: spread(reading) for reading in readings}
    chances = [min(fit.chance, COIN)]
    for body, cover in others:
        around, across = slacks_of(body, cover)
        chances.append(chance_of((*around, *across), cover, sigmas, sewing))
    return replace(fit, chance=min(chances), doubtful=tuple(places))


def slacks_of(body: Body, cover: Cover) -> tuple[tuple[Slack, ...], tuple[Slack, ...]]:
    """What is left around at every depth that matters, and across in every direction."""
    lowest = max(passage.depth for passage in cover.profile)
    depths = sorted(
        {p.depth for p in cover.profile} | {d for d, _ in cover.opens} | {s.depth for s in body.sections if s.depth <= lowest}
    )
    inside = [Section(p.depth, p.girth, p.spans) for p in cover.profile]
    levels = [
        Level(depth, section_at(inside, depth), _opened(cover, depth), _met(body, depth, cover, lowest)) for depth in depths
    ]
    ways = range(min(len(cover.profile[0].spans), len(body.sections[0].spans)))
    around = tuple(level.slack(lambda section: section.girth, cover.turns) for level in levels)
    across = tuple(
        level.slack(lambda section, way=way: section.spans[way], BOTH_SIDES, way + 1)  # type: ignore[misc]
        for way in ways
        for level in levels
    )
    return around, across


def chance_of(slacks: Sequence[Slack], cover: Cover, sigmas: Mapping[str, float], sewing_sigma: float) -> float:
    """The chance that none of the slacks is negative."""
    return together(*_margins(slacks, cover, sigmas, sewing_sigma))


def _margins(
    slacks: Sequence[Slack], cover: Cover, sigmas: Mapping[str, float], sewing_sigma: float
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """What is left everywhere, how it moves with each reading and with the sewing, and the spread of these."""
    names = sorted({source for s in slacks for source in s.slack.slopes if source in sigmas})
    slopes = np.array([[*(s.slack.slopes.get(name, 0.0) for name in names), _sewing_slope(s, cover)] for s in slacks])
    spreads = np.array([*(sigmas[name] for name in names), sewing_sigma])
    return np.array([s.left for s in slacks]), slopes, spreads


def _sewing_slope(slack: Slack, cover: Cover) -> float:
    """How a slack moves with the mean seam take: 2 for each seam across a girth, as independent seams; across, half of that."""
    return 2.0 * math.sqrt(cover.seams_across) / (1.0 if slack.way == 0 else BOTH_SIDES)


@dataclass(frozen=True, slots=True)
class Level:
    """A depth of the cover: what it lets through there, what an open closure adds, and every section that has to pass."""

    depth: float
    inside: Section
    opened: Worked
    met: list[Section]

    def slack(self, of: Callable[[Section], Worked], turns: float, way: int = 0) -> Slack:
        """What is left of a measure of sections: the cover moves with the readings it was drafted from, the object does not."""
        inside = of(self.inside) + self.opened if self.opened.value else of(self.inside)
        passes = max((of(section) for section in self.met), key=float)
        left = Worked((*inside.terms, *worked(tr("of the object there"), -passes.value).terms))
        widest = (section.depth for section in self.met if of(section).value >= passes.value - AS_TYPED)
        past = min(widest, key=lambda depth: abs(depth - self.depth))
        return Slack(self.depth, inside, passes, left, turns, way, past)


def _met(body: Body, depth: float, cover: Cover, lowest: float) -> list[Section]:
    """Every section that has to pass this depth of the cover."""
    if cover.from_below:
        met = [s for s in body.sections if depth - 1e-9 <= s.depth <= lowest + 1e-9]
    else:
        met = [s for s in body.sections if s.depth <= depth + 1e-9]
    return [*met, section_at(body.sections, depth)]


def _opened(cover: Cover, depth: float) -> Worked:
    """What an open closure adds at a depth."""
    opened = float(np.interp(depth, [d for d, _ in cover.opens], [mm for _, mm in cover.opens])) if cover.opens else 0.0
    return worked(tr("closure open"), opened, refs.CLOSURE_LENGTH)


def _variances(size: Worked, sigmas: Mapping[str, float]) -> dict[str, float]:
    """Variance that each reading brings into a size, mm²."""
    return {place: (slope * sigmas.get(place, 0.0)) ** 2 for place, slope in size.slopes.items()}
