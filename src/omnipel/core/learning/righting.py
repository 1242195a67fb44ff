"""What can be done with a cover that was made, with the cloth that is there: each alteration put to the cover as it came out, and whether it goes on then."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from omnipel.core.covers.altered import Altered
from omnipel.core.finishing.altering.across import across, mouth
from omnipel.core.finishing.altering.deeds import altered
from omnipel.core.fit.going_on import Fit, Slack
from omnipel.core.job.trying import TIGHT, WIDE, Alteration, Deed, done_before, last_went
from omnipel.core.learning.sizes import slack_sum
from omnipel.core.learning.why import LOOSER, Why, chance
from omnipel.core.sewing.making import Making
from omnipel.core.tolerances import SURE_CHANCE, TIGHT_CLEARANCE
from omnipel.core.words.phrases import NOTHING, Phrase, Share, mm, tr

SIDES: Final = 4.0
"""What is given around is shared by so many sides, where a thing has corners."""
LEAST: Final = 3.0
"""A cover is not altered for less, mm."""
OFF: Final = 5.0
"""A height or a place that is off by more is put right, mm."""
SLIT: Final = 0.3
"""A slit begins as so much of the height (share)."""
LEAST_SLIT: Final = 120.0
DART: Final = 0.4
"""And a dart."""


@dataclass(frozen=True)
class Option:
    """Something that can be done.

    Args:
        altered: what, as it comes out on the cover.
        chance: that the cover goes on after it; None where it is not about that.
        chosen: whether it is chosen already.
        gap: what is left on each side at the tightest then, mm.
        says: what speaks against it; nothing where it puts it right.
    """

    altered: Altered
    chance: float | None
    chosen: bool
    says: Phrase = NOTHING
    gap: float = 0.0

    @property
    def rights(self) -> bool:
        """Whether it puts right what it is for, by itself."""
        return not self.altered.refused and not self.says

    @property
    def what(self) -> Alteration:
        """The alteration."""
        return self.altered.what


@dataclass(frozen=True)
class Righting:
    """Whether a cover goes on as it was made, and what can be done about it.

    Args:
        now: the chance that it goes on as it is.
        gap: what is left on each side at the tightest, as it is likely, mm.
        after: the chance with all that is chosen; as `now` where nothing is.
        options: what can be done: first what puts it right by itself, with the fewest minutes.
        to_do: how many alterations are chosen and not done yet.
    """

    now: float | None
    gap: float
    after: float | None
    options: tuple[Option, ...]
    to_do: int = 0


def righting(making: Making, found: Why) -> Righting:
    """What can be done about a cover that came out so."""
    job, fit, cover = making.drafted.job, making.drafted.fit, making.drafted.cover
    done = done_before(job.alterations, job.tries, job.tries[-1]) if job.tries else frozenset()
    there = [one for one in cover.altered if one.what.id in done and not one.refused]
    to_do = [one for one in cover.altered if one.what.id not in done]
    now = chance(found.posterior, making, _given(making, there))
    gap, wanted = _gap(making, found, there) if isinstance(fit, Fit) else (0.0, 0.0)
    chosen = {(one.what.deed, one.what.on): one for one in to_do}
    options = []
    for what in _thought_of(making, found, wanted, now):
        known = chosen.pop((what.deed, what.on), None)
        made = known or altered(making.drafted.cover, what, job.cover)
        options.append(_put(making, found, made, there, chosen=known is not None))
    options += [_put(making, found, one, there, chosen=True) for one in chosen.values()]
    options.sort(
        key=lambda option: (bool(option.altered.refused), not option.chosen and bool(option.says), -(option.chance or 0.0))
    )
    doing = [one for one in to_do if not one.refused]
    after = chance(found.posterior, making, _given(making, [*there, *doing])) if doing else now
    return Righting(now, gap, after, tuple(options), len(doing))


def _gap(making: Making, found: Why, there: Sequence[Altered]) -> tuple[float, float]:
    """The gap as it is likely, and by how much it is less around than planned, mm; below 0 where it is more."""
    fit = making.drafted.fit
    assert isinstance(fit, Fit)  # asked for only where it goes over something
    slack = fit.tightest
    given = sum(one.given(slack.depth) for one in there) / (1.0 if slack.way == 0 else SIDES)
    moved = found.posterior.of(slack_sum(slack, making)).mean + given
    return (slack.left + moved) / slack.turns, -moved * (2.0 * math.pi / slack.turns if slack.way else 1.0)


def _put(making: Making, found: Why, made: Altered, there: Sequence[Altered], *, chosen: bool) -> Option:
    """An alteration, put to the cover as it came out, with what was altered on it before."""
    if made.refused:
        return Option(made, None, chosen, made.refused)
    if not made.gives:
        return Option(made, None, chosen)
    given = _given(making, [*there, made])
    after, gap, says = chance(found.posterior, making, given), _least(making, found, given), NOTHING
    if after is not None and after < SURE_CHANCE:
        says = tr("not enough by itself: it goes on with a chance of {chance}", chance=Share(after))
    elif after is not None and gap < TIGHT_CLEARANCE:
        says = tr("tight still: {gap} left on each side", gap=mm(gap))
    return Option(made, after, chosen, says, gap)


def _least(making: Making, found: Why, given: Mapping[int, float]) -> float:
    """The gap on each side at the tightest, as it is likely, with what is given at each place, mm."""
    fit = making.drafted.fit
    slacks: tuple[Slack, ...] = (*fit.slacks, *fit.across) if isinstance(fit, Fit) else ()
    gaps = (
        (slack.left + found.posterior.of(slack_sum(slack, making)).mean + given.get(i, 0.0)) / slack.turns
        for i, slack in enumerate(slacks)
    )
    return min(gaps, default=0.0)


def _given(making: Making, done: Sequence[Altered]) -> dict[int, float]:
    """What alterations give at every place where something is left, by its number."""
    fit = making.drafted.fit
    if not isinstance(fit, Fit):
        return {}
    slacks: tuple[Slack, ...] = (*fit.slacks, *fit.across)
    return {i: sum(one.given(slack.depth) for one in done) / (1.0 if slack.way == 0 else SIDES) for i, slack in enumerate(slacks)}


def _thought_of(making: Making, found: Why, wanted: float, now: float | None) -> Iterator[Alteration]:
    """What comes to mind, with its numbers: round to who works in inches, or in millimetres."""
    job, cover, fit = making.drafted.job, making.drafted.cover, making.drafted.fit
    system, went = job.cover.habits.system, last_went(job.tries)
    if isinstance(fit, Fit):
        # Where sizes and words contradict one another the words count: nobody takes in what does not go on.
        tight = went in TIGHT or (went not in WIDE and now is not None and now < SURE_CHANCE)
        loose = went in WIDE or (went not in TIGHT and -wanted / (2.0 * math.pi) > LOOSER)
        by = system.up(max(abs(wanted), TIGHT_CLEARANCE)) if tight or loose else 0.0
        high = abs(cover.profile[-1].depth - cover.profile[0].depth)
        if tight and wanted > LEAST:
            yield from _wider(making, by, system.up(max(LEAST_SLIT, SLIT * high)), system.step)
        elif loose and wanted < -LEAST:
            yield Alteration(deed=Deed.TAKE_IN, by=by)
            yield Alteration(deed=Deed.DART, by=by, long=system.up(DART * high))
        for edge in cover.edges:
            if edge.drawn and (tight or loose) and by:
                yield Alteration(deed=Deed.DRAWN, on=edge.name, by=by if tight else -by)
    yield from _lengths(making, found)
    yield from _ports(making, found)


def _wider(making: Making, by: float, slit: float, step: float) -> Iterator[Alteration]:
    """Let out as far as the allowance goes, a strip, a slit."""
    seams = across(making.drafted.cover)
    if seams:
        most = math.floor(2.0 * len(seams) * min(one.room for one in seams) / step + 1e-9) * step
        yield Alteration(deed=Deed.LET_OUT, by=min(by, most) if most >= LEAST else by)
        longest = max(seams, key=lambda one: one.through)
        yield Alteration(deed=Deed.STRIP, on=longest.seam.name, by=by)
    if mouth(making.drafted.cover) is not None:
        yield Alteration(deed=Deed.SLIT, long=slit)


def _lengths(making: Making, found: Why) -> Iterator[Alteration]:
    """What hangs too low or too high."""
    edge, system = mouth(making.drafted.cover), making.choices.habits.system
    if edge is None:
        return
    hung = {making.drafted.cover.panel_of[run.piece] for run in edge.runs}
    off = [made - size.planned.value for size, made in found.sizes if any(size.key.startswith(f"panel:{p}/width") for p in hung)]
    mean = sum(off) / len(off) if off else 0.0
    if mean > OFF:
        yield Alteration(deed=Deed.HEM, by=system.near(mean))
    elif mean < -OFF:
        yield Alteration(deed=Deed.HEM_DOWN, by=system.near(-mean))


def _ports(making: Making, found: Why) -> Iterator[Alteration]:
    """Ports that are not where what comes out there really is."""
    moved: dict[str, dict[str, float]] = {}
    for size, made in found.sizes:
        kind, _, rest = size.key.partition(":")
        if kind == "port":
            id_, _, way = rest.partition("/")
            moved.setdefault(id_, {})[way] = made - size.planned.value
    things = {thing.id: thing for thing in making.drafted.job.thing.sticks_out}
    near = making.choices.habits.system.near
    for feature in making.choices.features:
        by = moved.get(feature.id, {})
        if max((abs(off) for off in by.values()), default=0.0) > OFF:
            at = (things.get(feature.serves) or feature).from_centre
            yield Alteration(
                deed=Deed.PORT,
                on=feature.id,
                right=near(by.get("across", 0.0)) * (1.0 if at >= 0.0 else -1.0),
                down=near(by.get("down", 0.0)),
            )


def told(option: Option) -> Phrase:
    """The numbers of an option in one line."""
    facts = [tr("{what} {much}", what=words, much=mm(number.value)) for words, number in option.altered.facts]
    return tr("{one}; {other}", one=facts[0], other=facts[1]) if len(facts) > 1 else facts[0] if facts else NOTHING
