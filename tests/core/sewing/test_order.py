"""Orders of work: what sewists have told, every rule on wild jobs, the fewest changeovers, what a person may move."""

import itertools
import json
import random
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import networkx as nx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.sewing.jobs import COVERS, MEANT, varied
from tests.core.sewing.lawful import broken
from tests.wild import one_in, tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.sewing.order import NotLawful, Orders, Rig
from omnipel.core.sewing.plan import planned
from omnipel.core.sewing.ruling.bench import Before
from omnipel.core.words.phrases import tr
from omnipel.shop.starter import starter

TOLD = json.loads((Path(__file__).parent / "orders.json").read_text())["orders"]
PAIRS = [(order["cover"], pair["first"], pair["then"]) for order in TOLD for pair in order["pairs"]]


def drafted(cover: str) -> Drafted:
    made = draft(COVERS[cover]())
    assert isinstance(made, Drafted)
    return made


def meant(keys: list[str], first: str, then: str) -> Iterator[tuple[list[str], list[str]]]:
    """The operations of both sides; where both leave a choice open, like with like."""
    choice = next((part for part in re.findall(r"\([a-z|]+\)", first) if part in then), None)
    ways = choice[1:-1].split("|") if choice else [""]
    for way in ways:
        pair = [pattern.replace(choice, way) if choice else pattern for pattern in (first, then)]
        one, other = ([key for key in keys if re.fullmatch(pattern, key)] for pattern in pair)
        yield one, other


@pytest.mark.parametrize(("cover", "first", "then"), PAIRS)
def test_what_sewists_have_told_comes_in_that_order_however_else_it_is_arranged(cover: str, first: str, then: str) -> None:
    plan = planned(drafted(cover))
    reached = nx.transitive_closure(plan.orders.graph)
    either = "face joined" in first  # which of two faces is the first one is free
    at = {key: i for i, key in enumerate(plan.ordered.keys)}
    for one, other in meant(plan.orders.keys, MEANT[cover][first], MEANT[cover][then]):
        assert one, first
        assert other, then
        for a, b in itertools.product(one, other):
            assert a == b or reached.has_edge(a, b) or (either and at[a] != at[b]), (a, b)


@pytest.mark.parametrize("cover", COVERS)
def test_told_covers_are_ordered_lawfully_with_the_fewest_changeovers(cover: str) -> None:
    made = drafted(cover)
    plan = planned(made)
    assert plan.orders.dropped == ()
    assert plan.ordered.proven
    assert list(broken(made, [step.operation for step in plan.steps], plan.ordered.keys)) == []


@pytest.mark.parametrize("cover", list(COVERS)[:: one_in(2)])
def test_where_not_all_orders_are_looked_at_no_step_moved_by_itself_saves_a_changeover(
    cover: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("omnipel.core.sewing.order.MOST_LOOKED_AT", 0)
    monkeypatch.setattr("omnipel.core.sewing.order.WIDTH", 1)  # hardly a look to either side
    orders = planned(drafted(cover)).orders
    best = orders.best()
    for key in best.keys:
        for to in orders.room(best.keys, key):
            assert orders.cost(orders.moved(best.keys, key, to))[0] >= best.cost[0], (key, to)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_pair_with_anything_on_it_is_ordered_lawfully(form: str, scheme: str) -> None:
    @tried(12)
    @given(wild_jobs(form, scheme), st.randoms(use_true_random=False))
    def ordered(job: Any, lot: random.Random) -> None:
        made = draft(varied(job, lot) if lot.random() < 0.7 else job)
        if not isinstance(made, Drafted):
            return
        plan = planned(made)
        steps = [step.operation for step in plan.steps]
        assert plan.orders.dropped == ()
        assert list(broken(made, steps, plan.ordered.keys)) == []
        mixed = list(plan.ordered.keys)
        lot.shuffle(mixed)
        arranged = plan.orders.arranged(mixed)  # any lawful order holds, not only the best
        assert list(broken(made, steps, arranged.keys)) == []
        assert arranged.cost >= plan.ordered.cost or not plan.ordered.proven

    ordered()


def rigs_of(colours: list[int]) -> dict[str, Rig]:
    return {f"step {i}": Rig("machine", f"foot {c}", "100", c % 2) for i, c in enumerate(colours)}


@tried(120)
@given(st.lists(st.integers(0, 3), min_size=1, max_size=7), st.randoms(use_true_random=False))
def test_the_fewest_changeovers_are_found(colours: list[int], lot: random.Random) -> None:
    rigs = rigs_of(colours)
    keys = list(rigs)
    before = [Before(a, b, tr("so")) for a, b in itertools.combinations(keys, 2) if lot.random() < 0.3]
    orders = Orders(rigs, before)
    best = orders.best()
    lawful = [way for way in itertools.permutations(keys) if all(way.index(b.first) < way.index(b.then) for b in before)]
    assert best.cost == min(orders.cost(way) for way in lawful)
    assert best.proven


def test_a_long_order_ends_with_a_bound_that_holds() -> None:
    lot = random.Random(5)
    rigs = rigs_of([lot.randrange(12) for _ in range(160)])
    keys = list(rigs)
    before = [Before(a, b, tr("so")) for a, b in itertools.combinations(keys, 2) if lot.random() < 0.01]
    best = Orders(rigs, before).best()
    assert len(set(rigs.values())) <= best.least <= best.cost[0] <= 2 * best.least
    assert Orders(rigs, before).broken(best.keys) == []


def test_a_step_may_be_moved_where_it_is_lawful_and_says_why_not_elsewhere() -> None:
    plan = planned(drafted("saddle and ends"))
    keys = plan.ordered.keys
    step = "feature:pocket/baste"
    low, high = plan.orders.room(keys, step)
    for to in range(len(keys)):
        if low <= to <= high:
            assert plan.orders.moved(keys, step, to).index(step) == to
        else:
            with pytest.raises(NotLawful) as refused:
                plan.orders.moved(keys, step, to)
            assert step in (refused.value.before.first, refused.value.before.then)
            assert refused.value.before.why
    assert low < high


def test_a_chosen_order_survives_what_changes_around_it() -> None:
    made = drafted("saddle and ends")
    keys = planned(made).ordered.keys
    step = "goods/cut"
    moved = planned(made).orders.moved(keys, step, planned(made).orders.room(keys, step)[1])
    again = planned(made, wanted=moved)
    assert again.ordered.by_hand
    assert tuple(s.key for s in again.steps) == moved
    fewer = draft(starter("box", "saddle-and-ends"))
    assert isinstance(fewer, Drafted)
    kept = planned(fewer, wanted=moved)
    common = [key for key in moved if key in kept.by_key]
    assert [s.key for s in kept.steps if s.key in common] == common
    more = planned(made, wanted=[s.key for s in kept.steps])  # what is new comes where it is lawful
    assert more.orders.broken(more.ordered.keys) == []


def test_copies_are_sewn_step_by_step_and_change_over_once() -> None:
    made = drafted("gathered halves")
    one, many = planned(made), planned(made, copies=20)
    assert [step.key for step in many.steps] == [step.key for step in one.steps]
    change = sum(step.work.minutes - step.paced for step in one.steps)
    assert sum(step.work.minutes for step in many.steps) == pytest.approx(20 * sum(s.paced for s in one.steps) + change)
