"""Steps moved by a person: everywhere it is lawful and nowhere else, with the reason; what was chosen survives changes of the cover."""

import random
from dataclasses import replace
from typing import Any

import networkx as nx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.sewing.jobs import COVERS, changed, varied
from tests.core.sewing.lawful import broken
from tests.wild import some, tried, wild_jobs

from omnipel.core.costs import time_cost
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.joining import SeamChoice
from omnipel.core.job.sewing import Sewing, StepLog
from omnipel.core.learning.sizes import MOST, sizes
from omnipel.core.sewing.moving import because, dearer, moved, reasons, refusal, room_words
from omnipel.core.sewing.order import NotLawful
from omnipel.core.sewing.paces import Factor, Person
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.sewing.saying import in_short, over_words, step_sum, time_sum, times_words
from omnipel.core.standing import sewn_of, with_more, with_sewing
from omnipel.core.words.phrases import Voice, mm, tr
from omnipel.shop.starter import starter

VOICE = Voice()


def of(made: Any) -> Drafted:
    assert isinstance(made, Drafted)
    return made


def plan_of(cover: str) -> Plan:
    return planned(of(draft(COVERS[cover]())))


@pytest.mark.parametrize(("form", "scheme"), some(lawful_pairs(), of=6))
def test_a_step_goes_to_every_place_of_its_room_and_to_none_beside_it(form: str, scheme: str) -> None:
    @tried(6)
    @given(wild_jobs(form, scheme), st.randoms(use_true_random=False))
    def goes(job: Any, lot: random.Random) -> None:
        made = draft(varied(job, lot))
        if not isinstance(made, Drafted):
            return
        plan = planned(made)
        operations, keys = [step.operation for step in plan.steps], plan.ordered.keys
        for step in lot.sample(plan.steps, min(6, len(plan.steps))):
            low, high = plan.orders.room(keys, step.key)
            assert low <= step.number - 1 <= high
            for to in {low, high, lot.randint(low, high)}:
                other = moved(plan, step.key, to) or plan.orders.best().keys
                assert other.index(step.key) == to
                assert list(broken(made, operations, other)) == []
                assert dearer(plan, other) == plan.orders.cost(other)[0] - plan.ordered.cost[0] >= 0
            for to in {low - 1, high + 1} & set(range(len(keys))):
                with pytest.raises(NotLawful) as caught:
                    moved(plan, step.key, to)
                assert step.key in (caught.value.before.first, caught.value.before.then)
                said = VOICE.say(refusal(plan, caught.value))
                assert said.count("“") == 2
                assert VOICE.say(caught.value.before.why) in said

    goes()


@pytest.mark.parametrize("cover", COVERS)
def test_why_a_step_stands_where_it_does_is_told_of_both_sides(cover: str) -> None:
    plan = plan_of(cover)
    for step in plan.steps:
        told = [VOICE.say(line) for line in reasons(plan, step)]
        ahead, after = plan.orders.ahead(step.key), plan.orders.after(step.key)
        assert len(told) == len(ahead) + len(after)
        assert all(line.startswith("after ") for line in told[: len(ahead)])
        assert all(line.startswith("before ") for line in told[len(ahead) :])
        numbers = [int(line.split()[1].rstrip(",")) for line in told]
        assert numbers[: len(ahead)] == sorted(plan.by_key[b.first].number for b in ahead)
        assert all(n < step.number for n in numbers[: len(ahead)])
        assert all(n > step.number for n in numbers[len(ahead) :])
        if ahead:
            assert VOICE.say(because(plan, step)).startswith(f"after {max(numbers[: len(ahead)])}")
        low, high = plan.orders.room(plan.ordered.keys, step.key)
        assert (str(low + 1) in VOICE.say(room_words(plan, step))) is (low < high)


@pytest.mark.parametrize("cover", COVERS)
def test_an_order_that_was_chosen_survives_changes_of_the_cover(cover: str) -> None:
    job, lot = COVERS[cover](), random.Random(cover)
    plan = planned(of(draft(job)))
    keys = list(plan.ordered.keys)
    for _ in range(20):  # somebody moves steps about
        key = lot.choice(keys)
        low, high = plan.orders.room(keys, key)
        keys = list(plan.orders.moved(keys, key, lot.randint(low, high)))
    assert planned(of(draft(job)), wanted=keys).ordered.keys == tuple(keys)
    pocket = Feature(kind="pocket", name="a pocket more", id="more", face=Facing.FRONT)
    later = (
        replace(job, cover=replace(job.cover, features=(*job.cover.features, pocket))),
        changed(job, hem_order=HemOrder.HEM_FIRST),
        changed(job, clearance=replace(job.cover.clearance, amount=job.cover.clearance.amount + 3.0)),
        changed(job, seams={**job.cover.seams, plan.making.seams[0].name: SeamChoice(kind="piped")} if plan.making.seams else {}),
    )
    for other in later:
        made = draft(other)
        if not isinstance(made, Drafted):
            continue
        again = planned(made, wanted=keys)
        assert list(broken(made, [step.operation for step in again.steps], again.ordered.keys)) == []
        kept = [key for key in again.ordered.keys if key in keys]
        wanted = [key for key in keys if key in again.by_key]
        reached = nx.transitive_closure(again.orders.graph)
        if not any(reached.has_edge(late, early) for i, early in enumerate(wanted) for late in wanted[i + 1 :]):
            assert kept == wanted  # nothing that was chosen has become unlawful, and so nothing is turned round


@pytest.mark.parametrize("cover", COVERS)
def test_what_is_told_of_a_plan_adds_up(cover: str) -> None:
    plan = plan_of(cover)
    done: frozenset[str] = frozenset()
    for step in (*plan.steps, None):
        left = plan.left(done)
        assert plan.at(done) == (left[0] if left else None)
        assert sum(s.likely.likely for s in left) == pytest.approx(plan.span(done).likely)
        span = plan.span(done)
        assert span.low <= span.likely <= span.high
        value, under = (VOICE.say(words) for words in times_words(plan, done, 12.0))
        assert ("to go" in value) is bool(done and left)
        assert ("12 min gone" in under) is bool(done and left)
        stop = plan.next_stop(done)
        assert stop is None or (stop.stop and stop.key not in done)
        sewn = sewn_of(plan, done)
        assert (sewn.done, sewn.of) == (len(done), len(plan.steps))
        assert VOICE.say(sewn.told) == (
            "" if not done else f"step {len(done) + 1} of {len(plan.steps)}" if left else "all steps done"
        )
        assert VOICE.say(time_sum(plan, done))
        if step is not None:
            done |= {step.key}
    short = " ".join(VOICE.say(line) for line in in_short(plan))
    assert all(f"{step.number}" in short for step in plan.steps if step.changeover)
    slow = plan.by(Person(factors={step.operation.deed: Factor(0.5, 0.1, 5) for step in plan.steps}))
    assert slow.ordered is plan.ordered
    assert slow.span().likely == pytest.approx(plan.span().likely * 1.6487, rel=1e-3)
    assert "1.65" in VOICE.say(times_words(slow, frozenset(), 0.0)[1])
    assert all("1.65 times" in VOICE.say(step_sum(slow, step)) for step in slow.steps)
    assert VOICE.say(over_words(plan)) == "no order has fewer"


@pytest.mark.parametrize("cover", COVERS)
def test_sizes_to_be_measured_are_few_and_named_once(cover: str) -> None:
    plan = plan_of(cover)
    stops = [step for step in plan.steps if step.stop]
    assert stops
    for step in plan.steps:
        asked = sizes(plan.making, step.stage) if step.stage is not None else []
        assert bool(asked) is step.stop
        assert len(asked) <= MOST
        assert len({size.key for size in asked}) == len({VOICE.say(size.words) for size in asked}) == len(asked)
        for size in asked:
            at = size.planned.value
            assert VOICE.say(size.off(at + 0.2)) == "as planned"
            assert "usual" not in VOICE.say(size.off(at + max(0.6, 1.5 * size.sigma)))
            assert "usual" in VOICE.say(size.off(at - 3.0 * size.sigma - 1.0))
            assert VOICE.say(mm(3.0 * size.sigma + 1.0)) in VOICE.say(size.off(at + 3.0 * size.sigma + 1.0))


def test_findings_of_the_order_stand_among_the_others_by_their_weight() -> None:
    job = starter("drum", "wall-and-lid")
    made = of(draft(job))
    plan = planned(made)
    sewn = next(step for step in plan.steps if step.operation.seams)
    overtaken = replace(job, sewing=Sewing(steps={sewn.key: StepLog(done=True)}))
    told, far = with_sewing(of(draft(overtaken)))
    assert any(finding.code == "step-overtaken" for finding in told.findings)
    assert far is not None
    assert (far.done, far.of) == (1, len(plan.steps))
    order = [finding.severity.value for finding in told.findings]
    assert order == sorted(order, key=["stop", "open", "look", "note"].index)
    assert with_more(made, ()) is made
    assert with_sewing(draft(replace(job, readings=()))) == (draft(replace(job, readings=())), None)


def test_a_choice_says_how_many_minutes_more_it_takes() -> None:
    job = starter("box", "saddle-and-ends")
    before = of(draft(job))
    name = before.cover.seams[0].name
    piped = of(draft(changed(job, seams={name: SeamChoice(kind="piped")})))
    (more,) = time_cost(before, piped, Person())
    (less,) = time_cost(piped, before, Person())
    one, other = (planned(made).span().likely for made in (before, piped))
    assert other - one > 1.0
    assert VOICE.say(more)[:2] == "+ "
    assert VOICE.say(less)[:2] == "− "
    assert VOICE.say(more)[2:] == VOICE.say(less)[2:]
    assert list(time_cost(before, before, Person())) == []
    slow = Person(factors={step.operation.deed: Factor(0.7, 0.1, 9) for step in planned(piped).steps})
    assert VOICE.say(next(iter(time_cost(before, piped, slow)))) != VOICE.say(more)
    ten = [of(draft(replace(made.job, copies=10))) for made in (before, piped)]
    assert VOICE.say(next(iter(time_cost(*ten, Person())))) != VOICE.say(more)
    assert tr("{a}", a=more) != tr("{a}", a=less)
