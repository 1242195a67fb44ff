"""The log of minutes follows the jobs: with every change, undone step and older shop."""

import sqlite3
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from omnipel.core.finishing.operation import Pace
from omnipel.core.job.document import Job
from omnipel.core.job.sewing import Sewing, StepLog
from omnipel.core.sewing.paces import Timed
from omnipel.shop.sample import SAMPLES
from omnipel.shop.store import Store
from omnipel.shop.timelog import PACES, paces, paces_text, person, timed

KEYS = st.text(min_size=1, max_size=12).filter(lambda text: text.isprintable())
LOGS = st.builds(
    StepLog,
    done=st.booleans(),
    took=st.sampled_from((0.0, 0.5, 12.25)),
    planned=st.sampled_from((0.0, 1.0, 7.5)),
    deed=st.sampled_from(("sew", "pin", "hem")),
    day=st.just("2026-11-28"),
)
STEPS = st.dictionaries(KEYS, LOGS, max_size=5)


def with_steps(job: Job, steps: dict[str, StepLog]) -> Job:
    return replace(job, sewing=Sewing(steps=steps))


def told(*jobs: Job) -> list[Timed]:
    lines = [log for job in jobs for log in job.sewing.steps.values() if log.done and log.took > 0.0]
    return sorted((Timed(log.deed, log.planned, log.took) for log in lines), key=repr)


@given(st.lists(STEPS, min_size=1, max_size=5), st.integers(0, 6), st.integers(0, 6))
@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_the_log_is_what_the_jobs_say_as_they_stand(
    tmp_path_factory: pytest.TempPathFactory, changes: list[dict[str, StepLog]], back: int, on: int
) -> None:
    job = SAMPLES[0]()
    with Store(tmp_path_factory.mktemp("shop") / "shop.sqlite") as store:
        other = with_steps(job, {"quarters \"'·": StepLog(done=True, took=3.0, planned=2.0, deed="sew")})
        store.add(other)
        key = store.add(with_steps(job, changes[0]))
        for steps in changes[1:]:
            store.commit(key, with_steps(job, steps), "a step")
        for step, times in ((store.undo, back), (store.redo, on)):
            for _ in range(times):
                step(key)
                assert sorted(timed(store), key=repr) == told(store.job(key), other)
        store.delete(key)
        assert sorted(timed(store), key=repr) == told(store.job(key), other)  # what was sewn was sewn


def test_a_shop_of_before_gets_its_log_and_a_damaged_document_stays_out_of_it(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    job = with_steps(SAMPLES[0](), {"a": StepLog(done=True, took=3.0, planned=2.0, deed="sew", day="2026-11-01")})
    with Store(path) as store:
        store.add(job)
        broken, odd = store.add(job), store.add(job)
    before = sqlite3.connect(path, isolation_level=None)
    before.execute("UPDATE revisions SET document = '{' || document WHERE job = ?", (broken,))
    before.execute("UPDATE revisions SET document = json_set(document, '$.sewing.steps.a', 'sewn') WHERE job = ?", (odd,))
    for table in ("minutes", "lessons", "photos"):
        before.execute(f"DROP TABLE {table}")
    before.execute("ALTER TABLE kept DROP COLUMN due")
    before.execute("PRAGMA user_version = 4")
    before.close()
    with Store(path) as store:
        assert timed(store) == [Timed("sew", 2.0, 3.0)]
        assert person(store).factor("sew").n == 1
    assert (tmp_path / "shop.sqlite.v4.backup").exists()


@given(st.dictionaries(st.sampled_from(Pace), st.floats(0.0, 600.0), max_size=6))
@settings(max_examples=20, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_paces_come_back_as_they_were_kept(tmp_path_factory: pytest.TempPathFactory, changed: dict[Pace, float]) -> None:
    with Store(tmp_path_factory.mktemp("shop") / "shop.sqlite") as store:
        store.set(PACES, paces_text(changed))
        assert paces(store) == changed
        assert person(store).minutes(Pace.PIN) == changed.get(Pace.PIN, 0.25)
        for damaged in ("[]", '{"pins": 1}', '{"pin": "slow"}', "{", '{"pin": 1e9}'):
            store.set(PACES, damaged)
            assert paces(store) == {}
