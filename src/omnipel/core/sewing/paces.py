"""How long things take: starting paces of a practised hobby sewist, a shop's own, and the personal factor that a log of minutes gives each kind of step.

A factor is what a person takes, divided by what the paces say. Its logarithm is learnt: a normal prior N(0, 0.4²), and each step done an
observation N(·, 0.3²) of it; the running mean of both is the usual one for a normal of known variance.
"""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Final

from omnipel.core.finishing.operation import Pace
from omnipel.core.words.phrases import Phrase, tr

PRIOR: Final = 0.4
"""How far people differ from the starting paces: the spread of the logarithm of their factors."""
ONCE: Final = 0.3
"""How far one step done differs from what the same person usually takes."""
TENTH: Final = 1.2815515655446004
"""Of a normal, one in ten lies beyond so many of its spreads, on either side."""
LEAST_DONE: Final = 0.05
"""A step that took less than this share of its plan was ticked, not timed."""


@dataclass(frozen=True, slots=True)
class Rate:
    """A pace: what it is called, minutes, and per how many mm; 0 for each, per minute or per piece."""

    words: Phrase
    minutes: float
    per: float = 0.0


METRE: Final = 1000.0
RATES: Final[Mapping[Pace, Rate]] = {
    Pace.STRAIGHT: Rate(tr("straight seam"), 1.0, METRE),
    Pace.CURVED: Rate(tr("curved or eased seam"), 2.5, METRE),
    Pace.SMALL_RING: Rate(tr("ring on a small disc"), 5.0, METRE),
    Pace.TOPSTITCH: Rate(tr("topstitching"), 1.0, METRE),
    Pace.HEM: Rate(tr("hem"), 2.5, METRE),
    Pace.BINDING: Rate(tr("binding, straight"), 3.0, METRE),
    Pace.BINDING_INSIDE: Rate(tr("binding, inside a curve"), 8.0, METRE),
    Pace.ZIP: Rate(tr("zip"), 6.0, METRE),
    Pace.QUILTING: Rate(tr("quilting"), 1.2, METRE),
    Pace.GATHERS: Rate(tr("gathers"), 4.0, METRE),
    Pace.PIN: Rate(tr("pins"), 0.25),
    Pace.BOXED: Rate(tr("boxed corners"), 3.0),
    Pace.POCKET: Rate(tr("pocket"), 10.0),
    Pace.PORT: Rate(tr("port with binding"), 15.0),
    Pace.FASTENER: Rate(tr("fasteners"), 1.5),
    Pace.HOT_CUT: Rate(tr("hot cut"), 0.5, METRE),
    Pace.SHEARS: Rate(tr("shears"), 0.4, METRE),
    Pace.MARKING: Rate(tr("marking"), 0.6, METRE),
    Pace.PRESSING: Rate(tr("pressing"), 0.5, METRE),
    Pace.NEATENING: Rate(tr("neatening"), 0.7, METRE),
    Pace.CORNER: Rate(tr("corners"), 0.75),
    Pace.PIECE: Rate(tr("pieces handled"), 0.5),
    Pace.HAND: Rate(tr("hand stitches"), 30.0, METRE),
    Pace.FIXED: Rate(tr("as a rule"), 1.0),
}
"""Starting paces: what each takes to a practised hobby sewist."""

COTTON: Final = 0.8
"""A straight seam on cotton takes so much of one on canvas."""
FOOT, NEEDLE, TO_IRON = 1.0, 3.0, 1.0
"""Minutes to change the foot, needle and thread, to go to the iron."""


@dataclass(frozen=True, slots=True)
class Factor:
    """What a person takes over the paces, for one kind of step: the logarithm's mean and spread, after so many steps."""

    mean: float = 0.0
    spread: float = PRIOR
    n: int = 0

    @property
    def times(self) -> float:
        """As a factor."""
        return math.exp(self.mean)

    @property
    def span(self) -> tuple[float, float]:
        """The same from the tenth to the ninetieth of a hundred."""
        return math.exp(self.mean - TENTH * self.spread), math.exp(self.mean + TENTH * self.spread)

    def after(self, planned: float, took: float) -> "Factor":
        """With one more step, that was planned by the paces and took so many minutes; as it was where it was only ticked."""
        if planned <= 0.0 or took < LEAST_DONE * planned:
            return self
        known, seen = 1.0 / self.spread**2, 1.0 / ONCE**2
        mean = (self.mean * known + math.log(took / planned) * seen) / (known + seen)
        return Factor(mean, (known + seen) ** -0.5, self.n + 1)


@dataclass(frozen=True, slots=True)
class Timed:
    """A step done: of which kind, what the paces say, what it took, minutes."""

    deed: str
    planned: float
    took: float


@dataclass(frozen=True)
class Person:
    """Who sews: paces of the shop's own, and personal factors by kind of step."""

    rates: Mapping[Pace, float] = field(default_factory=dict)
    factors: Mapping[str, Factor] = field(default_factory=dict)

    def minutes(self, pace: Pace) -> float:
        """Minutes of a pace."""
        return self.rates.get(pace, RATES[pace].minutes)

    def factor(self, deed: str) -> Factor:
        """The factor of a kind of step."""
        return self.factors.get(deed, Factor())


def learnt(timed: Iterable[Timed], rates: Mapping[Pace, float] | None = None) -> Person:
    """Who has done these steps."""
    factors: dict[str, Factor] = {}
    for step in timed:
        factors[step.deed] = factors.get(step.deed, Factor()).after(step.planned, step.took)
    return Person(rates or {}, factors)


def spanned(parts: Iterable[tuple[str, float]], person: Person) -> tuple[float, float, float]:
    """What steps take together, by kind and minutes of the paces: most likely, and from the tenth to the ninetieth of a hundred.

    Steps of one kind share their factor; each varies by itself besides. What is most likely is the sum of what each step most likely takes; but times are
    skewed, a step rather takes twice as long than no time at all, and so the range of a sum lies a little higher than about that: it is that of the
    lognormal with the sum's mean and variance (Fenton and Wilkinson).
    """
    by_deed: dict[str, list[float]] = {}
    for deed, minutes in parts:
        by_deed.setdefault(deed, []).append(minutes)
    middle = mean = variance = 0.0
    for deed, told in by_deed.items():
        factor = person.factor(deed)
        mine = [factor.times * minutes for minutes in told]
        middle += math.fsum(mine)
        own, once = factor.spread**2, ONCE**2
        expected = math.fsum(mine) * math.exp((own + once) / 2.0)
        alone = math.fsum(m * m for m in mine) * math.exp(once) * math.expm1(once)
        mean += expected
        variance += math.exp(2.0 * own) * alone + expected**2 * math.expm1(own)
    if middle <= 0.0:
        return 0.0, 0.0, 0.0
    spread = math.sqrt(math.log1p(variance / mean**2))
    median = mean * math.exp(-(spread**2) / 2.0)
    return middle, median * math.exp(-TENTH * spread), median * math.exp(TENTH * spread)
