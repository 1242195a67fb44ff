"""Advice that saves a buying step: small lawful changes are tried, alone and in pairs, redrafted, refitted, laid again; what lowers the price is told."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.cloth.changes import Way, ways
from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.lay import Lay, lay_of, with_nest
from omnipel.core.cloth.sheets import sheet_of
from omnipel.core.cloth.stock import NOTHING_THERE, Stock
from omnipel.core.cloth.takeoff import Group, Takeoff, takeoff
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.fit.going_on import Fit, Verdict
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change, Severity
from omnipel.core.nesting.problem import pulled_if_few
from omnipel.core.tolerances import FLAP_CLEARANCE, SURE_CHANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Money, Phrase, Run, tr

MOST: Final = 5
"""No more advices are given."""
SAVES: Final = 1.0
"""A saving of less length than this is none, mm."""
PAIRS: Final = 4
"""So many of the ways that come nearest are tried two at a time."""
NOMINAL: Final = 1.0
"""Where nobody has said a price, cloth is compared by its length, a metre as 1."""


@dataclass(frozen=True)
class Advice:
    """A change that saves cloth.

    Args:
        words: what to do.
        costs: what it costs.
        changes: to the job, the new lay among them; all of them are one step.
        layer: of which cloth it saves.
        less: how much less of that is bought, mm.
        saves: how much less is paid; 0 where prices are not known.
        before: how much was bought, mm ...
        used: ... and used.
        after: how much is bought then ...
        needs: ... and used.
    """

    words: Phrase
    costs: Phrase
    changes: tuple[Change, ...]
    layer: str
    less: float
    saves: float
    before: float
    used: float
    after: float
    needs: float

    @property
    def gain(self) -> Phrase:
        """What it saves, in words."""
        if self.saves > 0.005 and self.less > SAVES:
            return tr("{less} less, {money} saved", less=Run(self.less), money=Money(self.saves))
        return tr("{money} saved", money=Money(self.saves)) if self.saves > 0.005 else tr("{less} less", less=Run(self.less))


@dataclass(frozen=True)
class _Tried:
    """A job as it was tried: drafted, laid, taken off."""

    drafted: Drafted
    lays: tuple[Lay, ...]
    taken: Takeoff

    @property
    def price(self) -> float:
        """What it costs, as far as it is known; cloth of which it is not, by its length."""
        unknown = sum(
            line.to_buy / 1000.0
            for line in self.taken.lines
            if line.unknown and line.key in {lay.layer.value for lay in self.lays}
        )
        return self.taken.pay + NOMINAL * unknown

    def bought(self, layer: str) -> float:
        """How much of a layer's cloth is bought, mm; of cloth sold by the piece, all of these."""
        return next((lay.bought_length for lay in self.lays if lay.layer.value == layer), 0.0)

    @property
    def used(self) -> float:
        """How much of all bolts is used, mm: what shrinks before a step is saved."""
        return sum(lay.used.value for lay in self.lays)


def _goods(taken: Takeoff) -> set[str]:
    return {line.key for line in taken.lines if line.group is Group.GOODS}


class Saver:
    """Looks for advice on one job. `lawful` says whether a changed document can be kept."""

    def __init__(
        self,
        drafted: Drafted,
        lays: Sequence[Lay],
        stock: Stock = NOTHING_THERE,
        lawful: Callable[[Job], bool] = lambda _job: True,
    ) -> None:
        self.stock, self.lawful = stock, lawful
        self.now = _Tried(drafted, tuple(lays), takeoff(drafted, lays, stock))
        self.codes = {(f.code, f.severity) for f in drafted.findings if f.severity in (Severity.STOP, Severity.LOOK)}

    def look(self) -> Iterator[Advice | None]:
        """Advice as it is found: single changes, then pairs of those that come nearest without saving a step. None where one way has come to nothing, so
        that who looks may pause or stop in between.
        """
        near: list[tuple[float, Way, _Tried]] = []
        found: list[Way] = []
        for way in ways(self.now.drafted, self.now.lays, self.stock):
            yield None
            furthest = self._furthest(way)
            if furthest is None:
                continue
            k, tried = furthest
            if way.key.startswith("option") and _goods(tried.taken) != _goods(self.now.taken):
                continue  # held by something else, it is another cover
            if self._saves(tried):
                yield self._advice(way, *self._smallest(way, k, tried))
                found.append(way)
            elif self.now.used - tried.used > SAVES:
                near.append((self.now.used - tried.used, way, tried))
        near.sort(key=lambda entry: -entry[0])
        for (_, one, _), (_, other, _) in itertools.combinations(near[:PAIRS], 2):
            if one.key != other.key:
                yield self._pair(one, other)

    def _furthest(self, way: Way) -> tuple[int, _Tried] | None:
        """The furthest step of a way that is lawful, and what comes of it: tried from the end, halving."""
        last = len(way.steps) - 1
        tried = self._tried(way.steps[last][1])
        if tried is not None:
            return last, tried
        low, high, best = 0, last - 1, None
        while low <= high:
            middle = (low + high) // 2
            tried = self._tried(way.steps[middle][1])
            if tried is None:
                high = middle - 1
            else:
                best, low = (middle, tried), middle + 1
        return best

    def _smallest(self, way: Way, k: int, tried: _Tried) -> tuple[int, _Tried]:
        """The smallest step of a way that saves as much as its furthest."""
        wanted = tried.price
        low, high, best = 0, k - 1, (k, tried)
        while low <= high:
            middle = (low + high) // 2
            less = self._tried(way.steps[middle][1])
            if less is not None and less.price <= wanted + 1e-6:
                best, high = (middle, less), middle - 1
            else:
                low = middle + 1
        return best

    def _pair(self, one: Way, other: Way) -> Advice | None:
        """Two ways together, each as far as it is lawful."""
        first, second = self._furthest(one), self._furthest(other)
        if first is None or second is None:
            return None
        tried = self._tried((*one.steps[first[0]][1], *other.steps[second[0]][1]))
        if tried is None or not self._saves(tried):
            return None
        words = tr("{one}, and {other}", one=one.steps[first[0]][0], other=other.steps[second[0]][0])
        costs = tr("{one}; {other}", one=one.costs, other=other.costs)
        return self._told(words, costs, (*one.steps[first[0]][1], *other.steps[second[0]][1]), tried)

    def _advice(self, way: Way, k: int, tried: _Tried) -> Advice:
        return self._told(way.steps[k][0], way.costs, way.steps[k][1], tried)

    def _told(self, words: Phrase, costs: Phrase, changes: tuple[Change, ...], tried: _Tried) -> Advice:
        layers = [lay.layer.value for lay in self.now.lays]
        layer = max(layers, key=lambda one: self.now.bought(one) - tried.bought(one))
        lays = tuple(Change(refs.lay(lay.layer.value, "placed"), lay.placed) for lay in tried.lays)
        before = next(lay for lay in self.now.lays if lay.layer.value == layer)
        after = next((lay for lay in tried.lays if lay.layer.value == layer), None)
        return Advice(
            words,
            costs,
            (*changes, *lays),
            layer,
            self.now.bought(layer) - tried.bought(layer),
            max(0.0, self.now.taken.pay - tried.taken.pay),
            self.now.bought(layer),
            before.used.value,
            tried.bought(layer),
            after.used.value if after is not None else 0.0,
        )

    def _saves(self, tried: _Tried) -> bool:
        return tried.price < self.now.price - 0.004 and not any(lay.left for lay in tried.lays)

    def _tried(self, changes: tuple[Change, ...]) -> _Tried | None:
        """What comes of changes; None where they are unlawful, or make anything worse."""
        try:
            job = changed(self.now.drafted.job, *changes)
        except KeyError:
            return None
        if not self.lawful(job):
            return None
        drafted = draft(job)
        if not isinstance(drafted, Drafted) or not self._no_worse(drafted):
            return None
        layers = layers_of(drafted)
        if layers != [lay.layer for lay in self.now.lays]:
            return None  # another cover
        lays = tuple(_relaid(drafted, layer, self.now.lays) for layer in layers)
        return _Tried(drafted, lays, takeoff(drafted, lays, self.stock))

    def _no_worse(self, drafted: Drafted) -> bool:
        """Whether no finding is new, and it still goes on as surely."""
        fresh = {(f.code, f.severity) for f in drafted.findings if f.severity in (Severity.STOP, Severity.LOOK)}
        if fresh - self.codes:
            return False
        before, after = self.now.drafted.fit, drafted.fit
        if isinstance(before, Fit) and isinstance(after, Fit):
            sure = min(before.chance, SURE_CHANCE)
            loose = after.tightest.clearance > max(FLAP_CLEARANCE, before.tightest.clearance)
            return after.verdict in (Verdict.GOES_ON, before.verdict) and after.chance >= sure - 1e-9 and not loose
        return type(before) is type(after)


def _relaid(drafted: Drafted, layer: Cloth, before: Sequence[Lay]) -> Lay:
    """A layer laid: anew, or as its pieces lay before, pulled together; whichever is shorter."""
    made = sheet_of(drafted, layer)
    fresh = lay_of(
        replace(made, choice=replace(made.choice, placed=tuple(p for p in made.choice.placed if p.locked))), tries=3, seconds=0.15
    )
    known = next((lay for lay in before if lay.layer is layer), None)
    if known is None or {p.piece for p in known.placed} != set(made.by_key):
        return fresh
    kept = lay_of(replace(made, choice=replace(made.choice, placed=known.placed)), tries=1, seconds=0.1)
    on = kept.on(kept.bolt)
    if not kept.moved and on:
        kept = replace(kept, placed=with_nest(kept, pulled_if_few(kept.problem, made.lying(kept.bolt, on))))
    return kept if (kept.bought.value, kept.length) < (fresh.bought.value, fresh.length) else fresh


def best(found: Sequence[Advice]) -> list[Advice]:
    """The best advices, at most five: most saved first, of equals the shorter words; of two that save the same by the same means, the first."""
    order = sorted(found, key=lambda a: (-round(a.saves, 2), -round(a.less, 1), len(str(a.words))))
    kept: list[Advice] = []
    for advice in order:
        if all(advice.changes != other.changes for other in kept):
            kept.append(advice)
    return kept[:MOST]


def advised(drafted: Drafted, stock: Stock = NOTHING_THERE, lawful: Callable[[Job], bool] = lambda _job: True) -> list[Advice]:
    """The best advices for a job."""
    lays = [lay_of(sheet_of(drafted, layer)) for layer in layers_of(drafted)]
    return best([advice for advice in Saver(drafted, lays, stock, lawful).look() if advice is not None])


def sentence(advice: Advice) -> Phrase:
    """An advice in one sentence: what to do, what it saves, what it costs."""
    return tr("{what}: {gain}. Costs: {costs}.", what=advice.words, gain=advice.gain, costs=advice.costs or NOTHING)
