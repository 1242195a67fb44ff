"""Where a job stands: the same fact has the same state everywhere, and there is one next step that can be taken."""

from dataclasses import replace

import pytest
from hypothesis import given
from tests.wild import tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.findings import CATALOGUE, Finding, Severity
from omnipel.core.standing import OF_SEVERITY, RANK, STATIONS, State, next_step, states, station_of, subject, whole
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Of, Ref, parsed
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_the_whole_is_as_its_worst_station(form: str, scheme: str) -> None:
    @tried(20)
    @given(wild_jobs(form, scheme))
    def run(job: Job) -> None:
        drafted = draft(job)
        stations, worst, step = states(drafted), whole(drafted), next_step(drafted)
        assert set(stations) == set(STATIONS)
        if isinstance(drafted, Drafted):
            assert worst is max(stations.values(), key=RANK.__getitem__)
            assert drafted.stops is (worst is State.STOP)
        assert step.state is worst
        assert str(step.words)
        for finding in drafted.findings:
            assert RANK[stations[station_of(finding.where)]] >= RANK[OF_SEVERITY[finding.severity]]
        order = [list(Severity).index(f.severity) for f in drafted.findings]
        assert order == sorted(order)
        if step.remedy is not None:
            after = changed(job, *step.remedy.changes)
            assert after != job

    run()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_a_new_job_is_to_do_and_never_do_not_cut(form: str, scheme: str) -> None:
    job = starter(form, scheme, with_readings=False)
    seen = []
    for _ in range(12):
        drafted = draft(job)
        if isinstance(drafted, Drafted):
            break
        assert whole(drafted) is State.OPEN
        assert State.STOP not in states(drafted).values()
        step = next_step(drafted)
        assert step.where.of is Of.READING or step.where == refs.OUTLINE
        assert "not cut" not in str(step.words)
        seen.append(step.where)
        full = starter(form, scheme)
        if step.where == refs.OUTLINE:
            job = replace(job, thing=full.thing)
        else:
            place = step.where.id
            reading = full.reading(place)
            assert reading is not None, place
            job = replace(job, readings=(*job.readings, reading))
    assert isinstance(draft(job), Drafted)
    assert seen
    assert next_step(draft(job)).state in (State.FINE, State.LOOK)


@pytest.mark.parametrize("code", CATALOGUE)
def test_every_finding_has_a_short_subject(code: str) -> None:
    finding = Finding(code, CATALOGUE[code].severity, tr("a long text about it"), refs.HEM)
    assert 3 <= len(str(subject(finding))) <= 45
    assert station_of(finding.where) == "cover"


@pytest.mark.parametrize(
    ("ref", "station"),
    [
        (refs.reading("girth"), "tape"),
        (refs.sticks_out("1", "reach"), "object"),
        (refs.of_job("name"), "object"),
        (refs.by_hand("wall_sew_length"), "panels"),
        (refs.option("cord"), "cover"),
        (refs.seam("wall to lid"), "panels"),
        (refs.PAPERS, "panels"),
    ],
)
def test_every_reference_has_its_station(ref: Ref, station: str) -> None:
    assert station_of(ref) == station
    assert parsed(str(ref)) == ref


def test_what_does_not_fit_on_its_cloth_stops_the_cloth_and_is_the_next_step() -> None:
    drafted = draft(starter("drum", "wall-and-lid"))
    assert states(drafted)["cloth"] is State.FINE
    assert states(drafted, ("outer",))["cloth"] is State.STOP
    step = next_step(drafted, ("outer",))
    assert (step.state, step.where) == (State.STOP, refs.lay("outer"))
    assert station_of(step.where) == "cloth"
    stopped = draft(replace(drafted.job, readings=()))
    assert next_step(stopped, ("outer",)) == next_step(stopped)
