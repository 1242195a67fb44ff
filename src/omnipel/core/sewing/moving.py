"""Moving a step to another place, as far as that is lawful; why it stands where it does, and why it cannot stand elsewhere."""

from collections.abc import Sequence

from omnipel.core.sewing.order import NotLawful
from omnipel.core.sewing.plan import Plan, Step
from omnipel.core.sewing.ruling.bench import Before
from omnipel.core.words.phrases import NOTHING, Count, Phrase, tr


def moved(plan: Plan, key: str, to: int) -> tuple[str, ...]:
    """The order with one step at another place, counted from 0; no keys at all where that is the proposed order.

    Raises:
        NotLawful: something has to come before or after it.
    """
    keys = plan.orders.moved(plan.ordered.keys, key, to)
    return () if keys == plan.orders.best().keys else keys


def refusal(plan: Plan, error: NotLawful) -> Phrase:
    """Why a step cannot go there."""
    before = error.before
    return tr(
        "“{first}” has to come before “{then}”: {why}",
        first=plan.by_key[before.first].operation.words,
        then=plan.by_key[before.then].operation.words,
        why=before.why,
    )


def because(plan: Plan, step: Step) -> Phrase:
    """The last of what has to come before a step, by its number, and why; nothing where it may come first."""
    ahead = plan.orders.ahead(step.key)
    if not ahead:
        return NOTHING
    last = max(ahead, key=lambda before: plan.by_key[before.first].number)
    number = Count(plan.by_key[last.first].number)
    return tr("after {n}: {why}", n=number, why=last.why) if last.rule else tr("after {n}", n=number)


def reasons(plan: Plan, step: Step) -> list[Phrase]:
    """All that has to come before a step, then all that has to come after it, each with its reason; in the order of the work."""
    number = {key: known.number for key, known in plan.by_key.items()}
    ahead = sorted(plan.orders.ahead(step.key), key=lambda before: number[before.first])
    then = sorted(plan.orders.after(step.key), key=lambda before: number[before.then])
    return [
        *(_with_why(tr("after {step}", step=plan.by_key[before.first].numbered), before) for before in ahead),
        *(_with_why(tr("before {step}", step=plan.by_key[before.then].numbered), before) for before in then),
    ]


def _with_why(words: Phrase, before: Before) -> Phrase:
    """With the reason, where that is more than that the one step is part of the other."""
    return tr("{step}: {why}", step=words, why=before.why) if before.rule else words


def room_words(plan: Plan, step: Step) -> Phrase:
    """Where a step may stand."""
    low, high = plan.orders.room(plan.ordered.keys, step.key)
    if low == high:
        return tr("It can stand nowhere else.")
    return tr("It may stand anywhere from {low} to {high}.", low=Count(low + 1), high=Count(high + 1))


def dearer(plan: Plan, keys: Sequence[str]) -> int:
    """How many changeovers more an order takes than the one that stands; none where no keys are given: the proposed one."""
    cost = plan.orders.cost(keys or plan.orders.best().keys)
    return cost[0] - plan.ordered.cost[0]
