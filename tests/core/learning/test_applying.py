"""What was learnt is proposed with its evidence, seen in the sums where it is taken, and never done by itself; a cover made again; the logbook."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from omnipel.core.draft import Drafted, draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import ClearanceSchool, ClothChoice, Job
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.sewing import Sewing, StepLog
from omnipel.core.job.thing import Lives
from omnipel.core.job.trying import Alteration, Deed, Entry, Happened, Stage, TryOn, Went
from omnipel.core.learning.again import again, beside, in_size, proposed, with_proposed
from omnipel.core.learning.applying import applied, finding_of
from omnipel.core.learning.errors import HEM, SEAM
from omnipel.core.learning.estimates import Experience, experience
from omnipel.core.learning.evidence import Lesson, lesson
from omnipel.core.learning.logbook import after, dues, next_due, timeline
from omnipel.core.learning.why import why
from omnipel.core.sewing.making import Making
from omnipel.core.tape.readings import as_read, value
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter

DRUM, BOX = ("drum", "wall-and-lid"), ("box", "saddle-and-ends")
METRIC = Voice(Unit.MM)


def of(job: Job) -> Drafted:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), drafted.findings
    return drafted


def told(**lines: tuple[float, float]) -> Experience:
    """A shop that five covers told of each line."""
    keys = {key.replace("__", ":").replace("_", " "): normal for key, normal in lines.items()}
    return experience([(n, Lesson(f"cover {n}", "2026-10-01", keys)) for n in range(5)])


def test_seams_and_hems_are_cut_wider_by_what_was_learnt_and_the_sums_say_so() -> None:
    job = starter(*DRUM)
    learnt = told(seam__canvas=(0.8, 0.5), hem__canvas=(1.2, 0.5))
    seam, hem = applied(job, learnt)
    assert "deeper (5 covers, " in METRIC.say(seam.reason)
    assert METRIC.say(seam.words) == "Cut seams 0.8 mm wider"
    note = finding_of((seam, hem))
    assert note.code == "learnt"
    assert [remedy.changes for remedy in note.remedies] == [seam.changes, hem.changes]
    before, now = of(job), of(changed(job, *seam.changes, *hem.changes))
    for old, new in zip(before.panels, now.panels, strict=True):
        assert new.length == old.length
        assert new.width == old.width
        sums = {METRIC.say(t.name): t.value for t in (*new.cut_length.terms, *new.cut_width.terms)}
        assert sums["your seams on canvas"] in (pytest.approx(0.8), pytest.approx(1.6))
    lid, wall = (next(p for p in now.panels if p.name == name) for name in ("lid", "wall"))
    taken = changed(job, *seam.changes, *hem.changes).cover
    assert wall.cut_width.value == pytest.approx(before.panels[1].cut_width.value + taken.seam_take + taken.hem_take)
    assert lid.cut_length.value == pytest.approx(before.panels[0].cut_length.value + 2.0 * taken.seam_take)
    assert not applied(changed(job, *seam.changes, *hem.changes), learnt)  # and is not proposed twice
    assert all(seam.true for seam in now.seams)


def test_readings_count_less_by_what_their_instrument_reads_too_long() -> None:
    job = starter(*DRUM)
    lessons = []
    for n in range(12):
        girth = 1700.0 + 10.0 * n
        job_ = replace(
            job,
            readings=(
                Reading(place="girth", repeats=(girth + 5.0,)),
                Reading(place="across", repeats=(girth / 3.141592653589793,), instrument=Instrument.STRAIGHTEDGE),
                Reading(place="drop", repeats=(600.0,)),
            ),
        )
        lessons.append((n, lesson(Making(of(job_)))))
    learnt = experience(lessons)
    line = learnt.lines["tape:soft tape"]
    assert 0.8 < line.now.mean < 5.0  # the rule may read too short as well
    (one,) = [a for a in applied(job, learnt) if a.line is line]
    made = changed(job, *one.changes)
    off = made.readings[0].reads_long
    assert value(made.readings[0]) == pytest.approx(as_read(job.readings[0]) - off)
    girth_sum = of(made).measured.sums["diameter"]
    assert "your soft tape reads long" in [METRIC.say(term.name) for term in girth_sum.terms]
    assert girth_sum.value == pytest.approx(of(made).measured["diameter"].value)
    assert of(made).measured["diameter"].slopes == pytest.approx(of(job).measured["diameter"].slopes)


@given(st.floats(-3.0, 3.0), st.floats(0.2, 2.0), st.integers(1, 12))
@settings(max_examples=40)
def test_a_line_lies_between_what_was_known_and_what_was_seen(seen: float, noise: float, n: int) -> None:
    learnt = experience([(k, Lesson(f"{k}", "", {"seam:canvas": (seen, noise)})) for k in range(n)])
    line = learnt.lines["seam:canvas"]
    assert min(0.0, seen) <= line.now.mean <= max(0.0, seen)
    assert line.now.sigma < line.prior.sigma
    more = experience([(k, Lesson(f"{k}", "", {"seam:canvas": (seen, noise)})) for k in range(n + 1)]).lines["seam:canvas"]
    assert more.now.sigma < line.now.sigma
    assert abs(more.now.mean) >= abs(line.now.mean)
    off = experience([(0, Lesson("a", "", {"seam:canvas": (seen, noise)}))], off={"seam:canvas"})
    assert off.line("seam:canvas") is None
    assert not off.lines["seam:canvas"].on
    gone = experience([(0, Lesson("a", "", {"seam:canvas": (seen, noise)}))], forgotten={"seam:canvas": [0]})
    assert "seam:canvas" not in gone.lines


def test_cloth_quilting_and_the_gap_are_proposed_as_choices_and_a_made_cover_is_left_alone() -> None:
    base = starter(*DRUM)
    cotton = ClothChoice(name="washable cotton", shrink_warp=0.02, shrink_weft=0.02)
    job = replace(base, cover=replace(base.cover, cloth=cotton, padding=6.0))
    learnt = told(**{
        "cloth_warp__washable_cotton": (0.05, 0.004),
        "quilt_along__batting": (0.05, 0.004),
        "clearance__drum:canvas": (20.0, 1.0),
    })  # fmt: skip
    changes = {change.ref.part: change.value for one in applied(job, learnt) for change in one.changes}
    assert changes["cloth.shrink_warp"] == pytest.approx(0.048, abs=0.004)
    assert changes["quilting.along"] == pytest.approx(0.048, abs=0.004)
    assert changes["clearance.amount"] == pytest.approx(20.0, abs=1.0)
    eased = replace(job, cover=replace(job.cover, clearance=replace(job.cover.clearance, school=ClearanceSchool.DIMENSION)))
    assert {c.ref.part: c.value for a in applied(eased, learnt) for c in a.changes}["clearance.amount"] == pytest.approx(
        40.0, abs=2
    )


def test_a_cover_made_again_takes_over_what_was_decided_and_nothing_of_what_was_done() -> None:
    job = starter(*DRUM)
    girth = next(p for p in of(job).panels if p.name == "wall").length.value
    tried = TryOn(went=Went.NOT, made={"edge:lower edge": girth, "again:girth": 1843.0})
    old = replace(
        job,
        tries=(tried,),
        alterations=(Alteration(deed=Deed.HEM, by=20.0, since="1"),),
        log=(Entry(happened=Happened.WASHED),),
        sewing=Sewing(steps={"a": StepLog(done=True)}),
    )
    making = Making(of(old))
    those = proposed(making, why(making, old.tries), told(seam__canvas=(0.8, 0.5)))
    new = with_proposed(again(old, "Drum 2", "thing"), those)
    assert (new.tries, new.alterations, new.log, new.sewing) == ((), (), (), Sewing())
    assert (new.name, new.kin.thing, new.kin.again_of) == ("Drum 2", "thing", old.name)
    read = {r.place: as_read(r) for r in new.readings}
    assert read == {"girth": 1843.0, "drop": as_read(old.readings[1]) - 20.0}
    assert new.cover.seam_take == pytest.approx(0.8, abs=0.1)
    sides = {METRIC.say(side.words): side for side in beside(of(old), of(new))}
    assert sides["wall, cut long"].differs == pytest.approx(80.0 + 2.0 * new.cover.seam_take)
    assert sides["lid, cut long"].differs == pytest.approx(80.0 / 3.14159265 + 2.0 * new.cover.seam_take)
    assert with_proposed(again(old, "x"), ()).readings == old.readings
    seen = [why_.words for why_ in those]
    assert len(seen) == len(set(seen))


def test_one_thing_in_another_size_grows_with_the_reading_that_is_given() -> None:
    job = starter(*BOX)
    large = in_size(job, "Large", "length", 1024.0, "boxes")
    for old, new in zip(job.readings, large.readings, strict=True):
        assert as_read(new) == pytest.approx(2.0 * as_read(old), abs=0.5)
    assert (large.kin.family, large.name) == ("boxes", "Large")
    small = in_size(replace(job, unit=Unit.INCH_16), "Small", "length", 300.0, "boxes")
    assert as_read(small.readings[0]) == 300.0
    with pytest.raises(KeyError):
        in_size(job, "Odd", "no such place", 10.0, "boxes")


def test_what_is_due_follows_where_it_is_kept_and_what_was_done() -> None:
    job = replace(starter(*DRUM), tries=(TryOn(stage=Stage.FINISHED, day="2024-02-29", went=Went.RIGHT),))
    outdoors = replace(
        job, thing=replace(job.thing, lives=Lives.OUTDOORS), cover=replace(job.cover, cloth=ClothChoice(outdoors=True))
    )
    days = {METRIC.say(due.words): due.day for due in dues(outdoors)}
    assert days == {
        "look at it": "2025-02-28",
        "re-proof it": "2027-02-28",
        "look at its seams": "2029-02-28",
        "make it anew": "2032-02-29",
    }
    first = next_due(outdoors)
    assert first is not None
    assert first.over("2025-02-28")
    assert not first.over("2025-02-27")
    washed = replace(outdoors, log=(Entry(happened=Happened.WASHED, day="2026-05-01"),))
    assert next_due(washed) is not None
    assert dues(washed)[0].day == "2027-02-28"
    said = replace(outdoors, log=(Entry(happened=Happened.LOOKED, day="2026-05-01", next_look="2026-06-01"),))
    assert dues(said)[0].day == "2026-06-01"
    assert dues(replace(outdoors, log=(Entry(happened=Happened.RETIRED, day="2026-01-01"),))) == []
    assert dues(starter(*DRUM)) == []
    indoors = replace(job, thing=replace(job.thing, lives=Lives.INDOORS))
    assert dues(indoors)[0].day == "2027-02-28"
    begun = {"pin/1": StepLog(done=True, deed="pin", day="2026-04-01")}
    ended = begun | {"try/finished": StepLog(done=True, deed="fit", day="2026-04-03")}
    for steps, told in ((begun, "being sewn"), (ended, "sewn")):
        bare = replace(job, tries=(), log=(), sewing=replace(job.sewing, steps=steps))
        (line,) = timeline((bare,))
        assert METRIC.say(line.words) == told
        assert line.day == max(step.day for step in steps.values())
    lines = timeline((said, replace(job, name="Other")))
    assert [line.day for line in lines] == sorted((line.day for line in lines), reverse=True)
    assert {line.job for line in lines} == {job.name, "Other"}
    assert all((line.where is None) == (line.job == "Other") for line in lines)


@given(st.dates(date(1990, 1, 1), date(2100, 1, 1)), st.integers(1, 40))
def test_years_later_is_the_same_day_or_the_one_before(day: date, years: int) -> None:
    later = date.fromisoformat(after(day.isoformat(), years))
    assert later.year == day.year + years
    assert (later.month, later.day) in ((day.month, day.day), (2, 28), (3, 1))


def test_every_line_has_words_and_a_range_and_known_errors_go_into_the_model() -> None:
    learnt = told(seam__canvas=(0.8, 0.5), hem__thin_cotton=(-1.2, 0.3), used__moss=(0.04, 0.02))
    for line in learnt.lines.values():
        assert METRIC.say(line.words)
        assert METRIC.say(line.says)
        assert "5 covers" in METRIC.say(line.evidence)
    assert "shallower" in METRIC.say(learnt.lines["hem:thin cotton"].says)
    known = learnt.known(starter(*DRUM)).means
    assert known[SEAM].mean == learnt.lines["seam:canvas"].now.mean
    assert HEM not in known
