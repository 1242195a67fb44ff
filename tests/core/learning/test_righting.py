"""What can be done with a cover that came out wrong: drafted again with each alteration it goes on, or the program says that it does not."""

from dataclasses import replace

import pytest

from omnipel.core.cloth.cuts import cuts_of
from omnipel.core.cloth.sheets import choice_of, cloth_of
from omnipel.core.cloth.takeoff import takeoff
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.fit.going_on import Fit
from omnipel.core.job.document import Job
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.feature import Feature
from omnipel.core.job.findings import Severity
from omnipel.core.job.sewing import StepLog
from omnipel.core.job.trying import Alteration, Deed, Stage, TryOn, Went
from omnipel.core.learning.righting import Righting, righting
from omnipel.core.learning.sizes import all_sizes
from omnipel.core.learning.why import why
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.plan import planned
from omnipel.core.tolerances import SURE_CHANCE, TIGHT_CLEARANCE
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()
INCHES = Voice(Unit.INCH_16)


def of(job: Job) -> Making:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), drafted.findings
    return Making(drafted)


def came_out(job: Job, share: float, went: Went) -> Job:
    """A job whose cover came out so much (share) larger around than it was drafted."""
    made = {s.key: s.planned.value * (1.0 + share) for s in all_sizes(of(job), Stage.FINISHED) if s.key.startswith("edge:")}
    return replace(job, tries=(TryOn(stage=Stage.FINISHED, went=went, made=made),))


def asked(job: Job) -> Righting:
    making = of(job)
    return righting(making, why(making, job.tries))


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
@pytest.mark.parametrize(("share", "went"), [(-0.045, Went.NOT), (0.05, Went.FLAPS)])
def test_with_each_alteration_it_goes_on_or_it_is_said_that_it_does_not(form: str, scheme: str, share: float, went: Went) -> None:
    job = came_out(starter(form, scheme), share, went)
    fit = of(job).drafted.fit
    for option in asked(job).options:
        after = replace(job, alterations=(replace(option.what, since=job.tries[-1].id),))
        again = of(after)
        (made,) = again.drafted.cover.altered
        if option.altered.refused:
            assert made.refused == option.says
            continue
        assert not made.refused
        told = asked(after)
        assert told.to_do == 1
        if option.chance is not None:
            assert isinstance(fit, Fit)
            assert told.after == pytest.approx(option.chance, abs=0.02)
            assert option.rights is (option.chance >= SURE_CHANCE and option.gap >= TIGHT_CLEARANCE)
            assert option.rights or option.says
        assert not [f for f in again.drafted.findings if f.severity is Severity.STOP], option.altered.words
        said = INCHES.sentence(option.altered.words)
        assert said[0].isupper()
        assert "mm" not in said


@pytest.mark.parametrize(("form", "scheme"), PAIRS[::3])
def test_what_is_cut_and_bought_for_it_is_cut_laid_and_sewn(form: str, scheme: str) -> None:
    deeds = (
        Alteration(deed=Deed.STRIP, by=30.0, since="1"),
        Alteration(deed=Deed.SLIT, long=150.0, since="1"),
        Alteration(deed=Deed.HEM, by=12.0, since="1"),
    )
    job = replace(starter(form, scheme), tries=(TryOn(went=Went.STRUGGLES),), alterations=deeds)
    making, before = of(job), of(replace(job, alterations=()))
    done = [one for one in making.drafted.cover.altered if not one.refused]
    panels = [panel for one in done for panel in one.panels]
    names = {panel.name for panel in making.drafted.panels} - {panel.name for panel in before.drafted.panels}
    assert names == {panel.name for panel in panels}
    cuts = cuts_of(making.drafted, Cloth.OUTER, choice_of(job, Cloth.OUTER), cloth_of(job, Cloth.OUTER))
    for panel in panels:
        cut = next(cut for cut in cuts if cut.panel is not None and cut.panel.name == panel.name)
        assert sorted(cut.size) == pytest.approx(sorted((panel.cut_length.value, panel.cut_width.value)), rel=0.05, abs=0.5)
        for sum_ in (panel.cut_length, panel.cut_width):
            assert sum_.value == pytest.approx(sum(term.value for term in sum_.terms))
    bought = {str(line.words) for line in takeoff(making.drafted).lines}
    for name, _, _ in (goods for one in done for goods in one.goods):
        assert any(words.startswith(str(name)) for words in bought)
    plan, plain = planned(making.drafted), planned(before.drafted)
    steps = [step for step in plan.steps if step.key.startswith("alter:")]
    assert bool(steps) is bool(done)
    shown = plan.by_key.get("try/first")
    assert all(shown is None or step.number > shown.number for step in steps)
    for one in done:
        mine = [step for step in steps if step.key.startswith(f"alter:{one.what.id}/")]
        order = [f"alter:{one.what.id}/{chore.key}" for chore in one.chores]
        assert [step.key for step in mine if step.key in order] == order
        assert sum(step.paced for step in mine) >= one.minutes
    assert plan.span().likely > plain.span().likely or not done
    later = replace(job, sewing=replace(job.sewing, steps={s.key: StepLog(done=True, day="2026-11-01") for s in plain.steps}))
    at_the_end = planned(of(later).drafted)
    assert [s.key for s in at_the_end.steps if s.key not in later.sewing.done] == [
        s.key for s in at_the_end.steps if s.key.startswith("alter:")
    ]
    assert all(s.key.startswith("alter:") for s in at_the_end.steps[len(plain.steps) :])


def test_a_seam_is_let_out_no_further_than_its_allowance_goes() -> None:
    """a − 4 on each side of each seam."""
    job = replace(came_out(starter("drum", "wall-and-lid"), -0.045, Went.NOT))
    out = next(option for option in asked(job).options if option.what.deed is Deed.LET_OUT)
    assert out.what.by == pytest.approx(2.0 * (12.0 - 4.0))
    left = next(number for words, number in out.altered.facts if "left" in str(words))
    assert left.value == pytest.approx(4.0)
    more = of(replace(job, alterations=(replace(out.what, by=out.what.by + 1.0),))).drafted.cover.altered[0]
    assert "too little allowance" in str(more.refused)
    assert asked(replace(job, alterations=(replace(out.what, by=out.what.by + 1.0, since="1"),))).to_do == 0


def test_what_was_altered_counts_for_what_is_measured_after_it() -> None:
    job = starter("drum", "wall-and-lid")
    girth = next(s for s in all_sizes(of(job), Stage.FIRST) if s.key == "edge:lower edge").planned.value
    read_short = TryOn(went=Went.NOT, made={"edge:lower edge": girth, "again:girth": 1763.0 + 80.0})
    strip = Alteration(deed=Deed.STRIP, on="close wall", by=80.0, since="1")
    right = TryOn(stage=Stage.FINISHED, went=Went.RIGHT, made={"edge:lower edge": girth + 80.0})
    altered = replace(job, tries=(read_short, right), alterations=(strip,))
    making = of(altered)
    found = why(making, altered.tries)
    (size, length) = next(pair for pair in found.sizes if pair[0].key == "edge:lower edge")
    assert length == pytest.approx(size.planned.value) == pytest.approx(girth + 80.0)
    assert found.causes[0].key == "reading:girth"
    done = righting(making, found)
    assert done.to_do == 0
    assert done.now is not None
    assert done.now > SURE_CHANCE
    assert not [option for option in done.options if option.what.deed is Deed.STRIP]


def test_heights_ports_and_what_draws_an_edge_in_are_put_right() -> None:
    port = Feature(kind="port", name="cable", from_centre=-60.0, from_top=180.0, id="7")
    base = starter("drum", "wall-and-lid")
    job = replace(
        base, cover=replace(base.cover, features=(port,), edges={"lower edge": EdgeChoice(held_by=Hold.CORD, drawn_to=1500.0)})
    )
    high = of(job).drafted.panels[1].width.value
    tried = TryOn(
        stage=Stage.FINISHED,
        went=Went.STRUGGLES,
        made={"panel:wall/width": high + 18.0, "port:7/down": 195.0, "port:7/across": 52.0, "edge:lower edge": 1780.0},
    )
    options = {option.what.deed: option for option in asked(replace(job, tries=(tried,))).options}
    assert options[Deed.HEM].what.by == pytest.approx(18.0)
    assert (options[Deed.PORT].what.right, options[Deed.PORT].what.down) == (8.0, 15.0)  # it lies left of the centre line
    patch = options[Deed.PORT].altered.panels[0]
    assert patch.length.value == pytest.approx(60.0 + 2 * 20.0)
    assert options[Deed.DRAWN].what.by > 0.0
    cord = next(h for h in of(job).drafted.cover.hardware if "cord" in str(h.name)).length
    assert cord is not None
    assert options[Deed.DRAWN].altered.facts[0][1].value == pytest.approx(cord.value + options[Deed.DRAWN].what.by)
    short = replace(tried, made={"panel:wall/width": high - 18.0})
    down = {option.what.deed: option for option in asked(replace(job, tries=(short,))).options}[Deed.HEM_DOWN]
    assert down.what.by == pytest.approx(18.0)
    assert "allowance" not in str(down.says)


def test_a_strip_ends_in_a_ring_that_stays_as_wide_as_can_be_eased_into_it() -> None:
    for form, scheme in (("drum", "wall-and-lid"), ("box", "wall-and-top"), ("box", "saddle-and-ends")):
        job = starter(form, scheme)
        girth = of(job).drafted.cover.profile[0].girth.value
        for by in (20.0, 0.2 * girth):
            (made,) = of(replace(job, alterations=(Alteration(deed=Deed.STRIP, by=by, since="1"),))).drafted.cover.altered
            (strip,) = made.panels
            assert strip.width.value == pytest.approx(max(by, 25.0))
            tapers = [chore for chore in made.chores if chore.key == "taper"]
            least = min(given for _, given in made.gives)
            assert bool(tapers) == (least < by - 1.0)
            for chore in tapers:
                assert chore.length == pytest.approx(least)
                assert [c.key for c in made.chores].index("taper") < [c.key for c in made.chores].index("sew")
