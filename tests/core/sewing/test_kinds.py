"""How what is put on a cover gets there: every kind, with every choice of how it is made, says steps that name what is there and work on all of its parts."""

from collections.abc import Iterator
from dataclasses import replace

import pytest
from tests.core.sewing.jobs import changed

from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.feature import Choice, Facing, Feature
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.words.phrases import Voice
from omnipel.shop.starter import starter


def ways(kind: str) -> Iterator[dict[str, Choice]]:
    """As usual, and every choice of some picks made otherwise, one at a time."""
    yield {}
    for option in KINDS[kind].options:
        for pick in option.picks[1:]:
            yield {option.key: pick}
        if option.key in ("flap", "full", "pair"):
            yield {option.key: True}


CASES = [(kind, way) for kind in KINDS for way in ways(kind)]


def put(kind: str, way: dict[str, Choice]) -> Plan | None:
    """A table's cover with one of a kind on its front; None where it cannot be made so there."""
    feature = Feature(kind=kind, name="it", id="it", face=Facing.FRONT, from_top=250.0, width=80.0, height=60.0, options=way)
    made = draft(changed(starter("box", "wall-and-top"), features=(feature,)))
    if not isinstance(made, Drafted) or any(finding.where.id == "it" for finding in made.findings):
        return None
    return planned(made)


@pytest.mark.parametrize(("kind", "way"), CASES)
def test_every_kind_says_how_it_is_made_and_put_on(kind: str, way: dict[str, Choice]) -> None:
    plan = put(kind, way)
    if plan is None:
        return
    steps = [step for step in plan.steps if step.key.startswith("feature:it/")]
    assert steps
    known = set(plan.making.pieces)
    assert all(set(step.operation.on) <= known for step in steps)
    assert all(step.operation.feature == "it" and step.work.minutes > 0.0 for step in steps)
    sewn = {
        name
        for name, piece in plan.making.pieces.items()
        if piece.feature == "it" and plan.making.flat[name].cloth is Cloth.OUTER
    }
    worked = {name for step in steps for name in step.operation.on}
    cut_from = {name for name in sewn if name.startswith(("template of", "tie of"))}  # letters are cut after it, ties by the pair
    assert sewn - worked <= cut_from, sewn - worked
    told = [Voice().say(step.operation.words) for step in steps]
    assert len(set(told)) == len(told)
    assert not any("{" in words or "  " in words for words in told)


def test_most_kinds_can_be_put_on_a_wall() -> None:
    assert {kind for kind in KINDS if put(kind, {}) is not None} >= {
        "pocket",
        "port",
        "slit",
        "flap",
        "clear window",
        "vent",
        "letters",
        "ties",
    }


def test_corners_come_before_halves_where_snaps_run_all_along_an_edge() -> None:
    way: dict[str, Choice] = {"runs": "all along its edge", "half": "on the object", "parts": 12.0}
    plan = put("snaps", way)
    assert plan is not None
    order = [step.key.removeprefix("feature:it/") for step in plan.steps if step.key.startswith("feature:it/")]
    for action in ("ends", "halves", "rest"):
        assert order.index(f"punch {action}") < order.index(f"drill {action}") < order.index(action)
    assert order.index("ends") < order.index("halves") < order.index("rest")
    ends = plan.by_key["feature:it/ends"]
    assert ends.operation.work[0].amount == 4.0
    edge = plan.making.edges[0].name
    stitched = next(step.number for step in plan.steps if step.operation.opening == edge and step.operation.deed == "hem")
    assert stitched < ends.number  # on the finished edge


def test_inward_curves_are_staystitched_before_a_seam_pulls_at_them() -> None:
    tub = starter("tub", "tapered-tub")
    wide = {"girth_bottom": 600.0, "girth_top": 1800.0, "slant": 0.0}
    readings = tuple(replace(r, repeats=(wide[r.place],)) if wide.get(r.place) else r for r in tub.readings if r.place != "slant")
    made = draft(replace(tub, readings=readings))
    assert isinstance(made, Drafted)
    plan = planned(made)
    stay = plan.by_key["curves/staystitch"]
    assert all(plan.making.edge(run).curve.curvature < 0.0 for run in stay.operation.edges)  # type: ignore[union-attr]
    joined = [step.number for step in plan.steps if step.operation.seams and set(step.operation.on) & set(stay.operation.on)]
    assert stay.number < min(joined)
