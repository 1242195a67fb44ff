"""A plan in words: how long it takes, how often one changes over, where one stands."""

from collections.abc import Iterator, Sequence
from typing import Final

from omnipel.core.finishing.operation import DEEDS
from omnipel.core.sewing.minutes import Part, Spent
from omnipel.core.sewing.order import Rig
from omnipel.core.sewing.plan import Plan, Span, Step
from omnipel.core.words.phrases import NOTHING, Count, Minutes, Phrase, listed, term, tr, trn

TELLING: Final = 0.04
"""Who is so near to the paces is as fast as they say."""


def times_words(plan: Plan, done: frozenset[str], gone: float) -> tuple[Phrase, Phrase]:
    """How long it takes, and what else there is to say of it: of so many covers, how long it took so far, how fast this person is."""
    left = plan.span(done)
    words = Minutes(left.likely)
    value = tr("{left} to go", left=words) if done and plan.left(done) else tr("{left}", left=words)
    if not plan.left(done):
        value = tr("{gone} in all", gone=Minutes(gone)) if gone else tr("all steps done")
        return value, NOTHING
    under = [span_words(left)]
    if done and gone:
        under.append(tr("{gone} gone", gone=Minutes(gone)))
    if plan.copies > 1:
        per = tr("{per} for each of {covers}", per=Minutes(plan.span().likely / plan.copies), covers=covers_words(plan.copies))
        under.append(per)
    pace = own_pace(plan)
    if abs(pace - 1.0) > TELLING:
        under.append(tr("your pace: {pace} of the usual time", pace=Count(pace, 2)))
    return value, tr("{parts}", parts=listed(under, " · "))


def step_sum(plan: Plan, step: Step) -> Phrase:
    """The sum that makes a step's minutes, and what this person takes over it."""
    factor = plan.person.factor(step.operation.deed)
    if not factor.n:
        return step.work.told()
    times = tr("you take {times} times as long for {deed}", times=Count(factor.times, 2), deed=DEEDS[step.operation.deed].words)
    return tr("{sum}; {times}: {likely}", sum=step.work.told(), times=times, likely=Minutes(step.likely.likely))


def time_sum(plan: Plan, done: frozenset[str]) -> Phrase:
    """The sum of all that is left, by where one stands."""
    spent: dict[str, float] = {}
    for step in plan.left(done):
        spent[step.rig.station] = spent.get(step.rig.station, 0.0) + step.likely.likely
    return Spent(tuple(Part(term(station), minutes) for station, minutes in spent.items())).told()


def own_pace(plan: Plan) -> float:
    """What this person takes for all of it over what the paces say."""
    paced = sum(step.work.minutes for step in plan.steps)
    return plan.span().likely / paced if paced > 0.0 else 1.0


def span_words(span: Span) -> Phrase:
    """From the tenth to the ninetieth of a hundred."""
    return tr("{low} to {high}", low=Minutes(span.low), high=Minutes(span.high))


def covers_words(copies: int) -> Phrase:
    """So many covers."""
    return trn("{n} cover", "{n} covers", copies)


def over_words(plan: Plan) -> Phrase:
    """How good the order is."""
    ordered = plan.ordered
    more = ordered.changeovers - ordered.least_changeovers
    if ordered.by_hand:
        return (
            trn("your order, {n} more than need be", "your order, {n} more than need be", more)
            if more
            else tr("your order, none has fewer")
        )
    return (
        tr("no order has fewer")
        if ordered.proven
        else trn("{n} more than any order has at least", "{n} more than any order has at least", more)
    )


def range_words(span: Span) -> Phrase:
    """Minutes with their range."""
    return tr("{likely} ({low} to {high})", likely=Minutes(span.likely), low=Minutes(span.low), high=Minutes(span.high))


def changeover_words(plan: Plan) -> Phrase:
    """How often one changes over, and how good that is."""
    over = trn("{n} changeover", "{n} changeovers", plan.ordered.changeovers)
    return tr("{over}: {how}", over=over, how=over_words(plan))


def rig_words(rig: Rig) -> Phrase:
    """Where one stands, and with which foot."""
    return tr("{station}, {foot}", station=term(rig.station), foot=term(rig.foot)) if rig.foot else term(rig.station)


def in_short(plan: Plan) -> Iterator[Phrase]:
    """The order of work in a few lines: one for each rig one goes to, what is done there with its numbers; what is done several times to alike pieces once."""
    panel_of = plan.making.drafted.cover.panel_of
    blocks: list[list[list[Step]]] = []
    known = None
    for step in plan.steps:
        alike = step.operation.deed, [panel_of.get(name, name) for name in step.operation.on]
        if step.changeover or not blocks:
            blocks.append([])
            known = None
        if alike != known:
            blocks[-1].append([])
        blocks[-1][-1].append(step)
        known = alike
    for runs in blocks:
        yield tr("{rig}:  {steps}", rig=rig_words(runs[0][0].rig), steps=listed((_run_words(run) for run in runs), "; "))


def _run_words(run: Sequence[Step]) -> Phrase:
    """Steps that do the same to alike pieces: their numbers, and the words of the first."""
    first, last = run[0], run[-1]
    if first is last:
        return tr("{n} {words}", n=Count(first.number), words=first.operation.words)
    return tr("{n}–{last} {words}, and so on", n=Count(first.number), last=Count(last.number), words=first.operation.words)
