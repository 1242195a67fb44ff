"""Only what is a casing gets a cord: the ends of the strip that it runs along are hemmed."""

from dataclasses import replace

import pytest
from tests.core.sewing.lawful import broken

from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.finish import BOUND, Finish, FinishKind, double_hem, elastic_casing, single_hem
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter

CORDED = ("lay cord", "thread", "sew over cord", "finish cord")
ENDS = ("end a", "end b")


def cap(hem: Finish, order: HemOrder) -> Job:
    """A wheel cap: a boxing with a cord along its lower edge, its ends free where they lap."""
    job = starter("wheel", "wheel-cap", Unit.MM)
    options = {**job.cover.options, "overlap": 40.0, "drawn_share": 0.4, "cord": 5.0}
    return replace(job, cover=replace(job.cover, hem=hem, hem_order=order, options=options))


def sewn(job: Job) -> tuple[Drafted, Plan]:
    made = draft(job)
    assert isinstance(made, Drafted)
    return made, planned(made)


@pytest.mark.parametrize("order", HemOrder)
@pytest.mark.parametrize("hem", [double_hem(25.0, 15.0), single_hem(20.0), BOUND, elastic_casing(12.0, 8.0)])
def test_a_cord_lies_in_casings_only(hem: Finish, order: HemOrder) -> None:
    made, plan = sewn(cap(hem, order))
    corded = [step.operation for step in plan.steps if step.operation.deed in CORDED and step.operation.opening == "free edge"]
    flat = made.cover.flat
    for operation in corded:
        kinds = {flat[run.piece].edge(run.edge).finish.kind for run in operation.edges}
        assert kinds <= {FinishKind.CORD_CASING, hem.kind} if operation.deed == "thread" else kinds == {FinishKind.CORD_CASING}, (
            operation.key
        )
    assert [o.deed for o in corded].count("finish cord") == 1  # one cord, drawn once
    assert list(broken(made, [step.operation for step in plan.steps], plan.ordered.keys)) == []


@pytest.mark.parametrize("order", HemOrder)
def test_the_ends_of_the_strip_are_hemmed_and_their_minutes_are_theirs(order: HemOrder) -> None:
    made, plan = sewn(cap(double_hem(25.0, 15.0), order))
    ends = [
        step.operation for step in plan.steps if step.operation.edges and {run.edge for run in step.operation.edges} <= set(ENDS)
    ]
    assert {operation.deed for operation in ends} == {"press hem", "hem"}
    casing = next(step.operation for step in plan.steps if step.operation.deed == "casing")
    boxing = made.cover.flat["boxing"]
    assert {run.edge for run in casing.edges} == {"casing edge"}
    assert casing.work[0].amount == pytest.approx(boxing.edge("casing edge").curve.length)
    hemmed = next(operation for operation in ends if operation.deed == "hem")
    assert hemmed.work[0].amount == pytest.approx(sum(boxing.edge(end).curve.length for end in ENDS))


def test_no_hand_closes_a_casing_that_no_seam_comes_to() -> None:
    """The disc's seam ends at the ends of the strip, not at its casing."""
    _, plan = sewn(cap(double_hem(25.0, 15.0), HemOrder.HEM_FIRST))
    deeds = [step.operation.deed for step in plan.steps]
    assert "lay cord" in deeds
    assert "sew over cord" not in deeds
    assert not [note for step in plan.steps for note in step.operation.notes if "stop at the casing" in note.template]
