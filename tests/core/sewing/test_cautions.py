"""What to mind is read off the job's own facts; traps are seen before they are sewn into."""

from dataclasses import replace
from typing import Any

import pytest
from tests.core.sewing.jobs import COVERS, changed

from omnipel.core.cloth.kinds import KINDS as CLOTHS
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import changed as with_changes
from omnipel.core.job.document import Job, Lining, LiningSchool
from omnipel.core.job.edges import EdgeChoice, HemOrder, Hold
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.findings import Finding
from omnipel.core.job.finish import cord_casing, double_hem
from omnipel.core.job.joining import SeamChoice
from omnipel.core.job.sewing import Sewing, StepLog
from omnipel.core.job.thing import Lives
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.sewing.traps import stacked, thickness, traps
from omnipel.core.words.habits import Habits
from omnipel.shop.starter import starter


def plan(job: Job) -> Plan:
    made = draft(job)
    assert isinstance(made, Drafted), [str(finding.text) for finding in made.findings]
    return planned(made, wanted=job.sewing.order)


def minded(job: Job) -> dict[str, list[str]]:
    """By caution the steps before which it is shown."""
    told: dict[str, list[str]] = {}
    for step in plan(job).steps:
        for caution in step.cautions:
            told.setdefault(caution.key, []).append(step.operation.deed)
    return told


def on(job: Job, **thing: Any) -> Job:
    return replace(job, thing=replace(job.thing, **thing))


def test_a_hot_knife_is_proposed_only_for_cloth_that_may_be_cut_so() -> None:
    drum = starter("drum", "wall-and-lid")
    acrylic, vinyl = (minded(changed(drum, cloth=CLOTHS[kind].cloth)) for kind in ("acrylic", "vinyl"))
    assert acrylic["hot knife"] == ["cut"]
    assert "never hot" not in acrylic
    assert "hot knife" not in vinyl
    assert vinyl["never hot"] == ["cut"]
    window = changed(
        drum, cloth=CLOTHS["acrylic"].cloth, features=(Feature(kind="clear window", name="gauge", face=Facing.FRONT),)
    )
    cut = {
        step.operation.cloth: {caution.key for caution in step.cautions}
        for step in plan(window).steps
        if step.operation.deed == "cut"
    }
    assert "hot knife" in cut[Cloth.OUTER]
    assert "never hot" in cut[Cloth.WINDOW]


def test_drilling_is_minded_only_where_something_goes_into_a_body() -> None:
    told = minded(COVERS["sheet"]())
    assert set(told["drilling"]) == {"drill"}
    table = changed(COVERS["sheet"](), options={"fastener": "grommets", "mitred": False})
    assert "drilling" not in minded(table)
    snaps = Feature(kind="snaps", name="row", id="row", face=Facing.FRONT, from_top=300.0, options={"half": "on the object"})
    assert "drilling" in minded(changed(starter("box", "wall-and-top"), features=(snaps,)))
    assert "drilling" not in minded(changed(starter("box", "wall-and-top"), features=(replace(snaps, options={}),)))


def test_what_gets_hot_stands_in_water_or_touches_food_is_minded_before_it_is_put_on() -> None:
    box, drum = starter("box", "wall-and-top"), starter("drum", "wall-and-lid")
    assert set(minded(on(box, gets_hot=True))["hot thing"]) == {"try on", "fit"}
    assert "hot thing" not in minded(box)
    assert minded(on(drum, lives=Lives.INDOORS))["water"] == ["fit"]
    assert "water" not in minded(on(box, lives=Lives.INDOORS))
    kitchen = on(box, lives=Lives.KITCHEN)
    assert "food" in minded(kitchen)
    assert "food" not in minded(changed(kitchen, cloth=replace(kitchen.cover.cloth, food_safe=True)))
    vinyl = on(changed(box, cloth=CLOTHS["vinyl"].cloth), lives=Lives.OUTDOORS)
    assert "vent" in minded(vinyl)
    assert "vent" not in minded(changed(vinyl, features=(Feature(kind="vent", name="vent", face=Facing.BACK, from_top=120.0),)))


def test_pins_are_counted_out_and_in() -> None:
    for cover in COVERS.values():
        made = plan(cover())
        pins = [step for step in made.steps if step.operation.deed.startswith("pin")]
        assert all(any(caution.key == "pins" for caution in step.cautions) for step in pins)
        assert made.steps[-2].operation.deed == "tidy"


def codes(job: Job) -> dict[str, Finding]:
    return {finding.code: finding for finding in traps(plan(job))}


def put_right(job: Job, code: str) -> Job:
    """The job with the first remedy of a finding applied, which it then no longer has."""
    finding = codes(job)[code]
    fixed = with_changes(job, *finding.remedies[0].changes)
    assert code not in codes(fixed)
    return fixed


def test_a_casing_whose_ends_are_closed_with_nothing_in_it_is_a_trap() -> None:
    job = changed(starter("drum", "wall-and-lid"), hem=cord_casing(6.0, 12.0), hem_order=HemOrder.HEM_FIRST)
    fixed = put_right(job, "casing-without-cord")
    keys = plan(fixed).ordered.keys
    cord, closed = keys.index("edge:lower edge/cord"), keys.index("seam:close the wall/sew")
    assert cord < closed
    last = with_changes(job, *codes(job)["casing-without-cord"].remedies[1].changes)
    assert "casing-without-cord" not in codes(last)


def test_the_turning_gap_lies_in_a_straight_seam_where_there_is_one() -> None:
    drum = changed(starter("drum", "wall-and-lid"), lining=Lining(school=LiningSchool.BAGGED))
    assert "gap-in-curve" not in codes(drum)
    made = plan(drum)
    assert made.by_key["lining/mark gap"].operation.on == ("lining wall",)
    gores = changed(starter("turned", "gores"), lining=Lining(school=LiningSchool.BAGGED))
    curved = codes(gores).get("gap-in-curve")
    assert curved is None or "gore" in str(curved.text)


def test_what_is_smaller_than_the_free_arm_cannot_be_stitched_round() -> None:
    bottle = starter("bottle", "sleeve-tied")
    small = changed(bottle, habits=Habits(own={"free arm": 1200.0}), join="semi-flat felled", hem=double_hem(12.0, 8.0))
    for _ in range(3):  # the edge, then the seam that closes the wall
        found = codes(small).get("ring-too-small")
        small = with_changes(small, *found.remedies[0].changes) if found is not None else small
    assert "ring-too-small" not in codes(small)
    assert small.cover.edges["upper edge"].order is HemOrder.HEM_FIRST
    assert "ring-too-small" not in codes(changed(bottle, habits=Habits(own={"free arm": 100.0})))


def test_layers_are_counted_where_seams_cross() -> None:
    drum = changed(starter("drum", "wall-and-lid"), join="semi-flat felled")
    made = plan(drum)
    ring = next(i for i, seam in enumerate(made.making.seams) if seam.ring)
    close = 1 - ring
    assert stacked(made.making, ring, [close]) == (3.0 + 1.0 + 1.0, 0.0)  # three felled, the lid, turned down once more
    thick = changed(drum, cloth=replace(drum.cover.cloth, thickness=1.4))
    assert thickness(plan(thick).making) == 1.4
    put_right(thick, "too-thick")
    piped = changed(drum, seams={"wall to lid": SeamChoice(kind="piped", wide=5.0)})
    assert stacked(plan(piped).making, ring, [close]) == (4.0, 5.0)
    as_one = changed(drum, lining=Lining(school=LiningSchool.AS_ONE))
    assert thickness(plan(as_one).making) == pytest.approx(0.75)
    assert "too-thick" not in codes(drum)


def test_a_pocket_that_was_added_when_its_panel_is_sewn_is_said() -> None:
    job = COVERS["saddle and ends"]()
    done = {"seam:saddle to right end/sew": StepLog(done=True, took=5.0, planned=4.0, deed="sew")}
    found = [f for f in traps(plan(replace(job, sewing=Sewing(steps=done)))) if f.code == "step-overtaken"]
    assert {f.where.id for f in found} >= {"feature:pocket/baste", "seam:saddle to right end/corners"}
    all_before = {
        step.key: StepLog(done=True)
        for step in plan(job).steps
        if step.number <= plan(job).by_key["seam:saddle to right end/sew"].number
    }
    assert "step-overtaken" not in codes(replace(job, sewing=Sewing(steps=all_before)))


def test_a_held_edge_needs_no_such_word() -> None:
    held = {"lower edge": EdgeChoice(finish=cord_casing(6.0, 12.0), held_by=Hold.CORD, order=HemOrder.HEM_FIRST)}
    assert "casing-without-cord" not in codes(changed(starter("drum", "wall-and-lid"), edges=held))
