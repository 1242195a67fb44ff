"""A plan in words: how long it takes, how often one changes over, where one stands."""

from typing import Final

from omnipel.core.sewing.order import Rig
from omnipel.core.sewing.plan import Plan, Span
from omnipel.core.words.phrases import NOTHING, Minutes, Phrase, Ratio, listed, term, tr, trn

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
        under.append(tr("your pace: {pace} of the usual time", pace=Ratio(pace)))
    return value, tr("{parts}", parts=listed(under, " · "))


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
