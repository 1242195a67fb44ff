"""What is sewn with is what is bought: needles and threads of the order of work against those of the shopping list."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import some, tried, wild_jobs

from omnipel.core.cloth.stitches import seam_lengths, sewn_with, thread_of
from omnipel.core.cloth.takeoff import takeoff
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import ClothKind, LiningSchool
from omnipel.core.sewing.plan import planned
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


def listed(drafted: Drafted) -> tuple[set[str], set[str]]:
    """Needles and threads on the shopping list."""
    keys = [line.key for line in takeoff(drafted).lines]
    return (
        {key.removeprefix("needles ") for key in keys if key.startswith("needles ")},
        {key.removeprefix("thread Tex ") for key in keys if key.startswith("thread Tex ")},
    )


@pytest.mark.parametrize("pair", some(lawful_pairs(), of=3), ids="-".join)
def test_needles_and_threads_of_all_steps_are_bought(pair: tuple[str, str]) -> None:
    """Whatever the cloths are and say of themselves; and nothing is bought that no step is sewn with."""
    needles, threads = st.sampled_from(["", "70", "140", "ballpoint 75"]), st.sampled_from([0, 0, 30, 135])

    @tried(20)
    @given(st.data())
    def check(data: st.DataObject) -> None:
        job = data.draw(wild_jobs(*pair))
        kinds = [replace(cloth, kind=data.draw(st.sampled_from(ClothKind)), needle=data.draw(needles), thread=data.draw(threads))
                 for cloth in (job.cover.cloth, job.cover.lining.cloth)]  # fmt: skip
        cover = replace(job.cover, cloth=kinds[0], lining=replace(job.cover.lining, cloth=kinds[1]))
        made = draft(replace(job, cover=cover))
        if not isinstance(made, Drafted):
            return
        rigs = [step.rig for step in planned(made).steps if step.rig.needle]
        needed = {rig.needle for rig in rigs}, {str(rig.thread) for rig in rigs}
        bought = listed(made)
        assert needed[0] <= bought[0]
        assert needed[1] <= bought[1]
        lined = made.job.cover.lining.school in (LiningSchool.BAGGED, LiningSchool.BOUND)
        assert bought[0] | {sewn_with(kinds[0])[0]} <= {sewn_with(kind)[0] for kind in (kinds if lined else kinds[:1])}

    check()


@pytest.mark.parametrize("school", LiningSchool)
def test_thread_is_reckoned_for_each_cloth_that_is_sewn_by_itself(school: LiningSchool) -> None:
    job = starter("drum", "wall-and-lid", Unit.MM)
    fine = replace(job.cover.lining.cloth, kind=ClothKind.COTTON, needle="", thread=0, stitch=0.0)
    made = draft(replace(job, cover=replace(job.cover, lining=replace(job.cover.lining, school=school, cloth=fine))))
    assert isinstance(made, Drafted)
    outer, lining, both = (seam_lengths(made, layer) for layer in (Cloth.OUTER, Cloth.LINING, None))
    for what, length in both.items():
        assert length.value == pytest.approx(outer[what].value + lining[what].value)
    apart = school in (LiningSchool.BAGGED, LiningSchool.BOUND)
    assert (lining["seams"].value > 0.0) is apart
    assert listed(made) == (({"110", "80"}, {"90", "40"}) if apart else ({"110"}, {"90"}))
    bare = draft(job)
    assert isinstance(bare, Drafted)
    if school is LiningSchool.AS_ONE:  # one row of stitches goes through both
        assert both["hems"].value == pytest.approx(seam_lengths(bare)["hems"].value, rel=0.01)
        assert thread_of(fine, lining).value == 0.0
    amounts = {line.key: line.needed.value for line in takeoff(made).lines}
    assert amounts["thread Tex 90"] == pytest.approx(thread_of(made.job.cover.cloth, outer).value)
    if apart:
        assert amounts["thread Tex 40"] == pytest.approx(thread_of(fine, lining).value)
