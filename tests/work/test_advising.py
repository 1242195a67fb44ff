"""Advice from a process of its own: it says what it would say here, and outlives being killed."""

import io
import pickle
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import replace

import pytest
from tests.core.cloth.test_lays import drafted_of, sample

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.lay import laid
from omnipel.core.cloth.saving import Advice, Saver
from omnipel.core.cloth.stock import Stock
from omnipel.core.words.phrases import Voice
from omnipel.shop.document import lawful
from omnipel.work.adviser import Adviser, Asked, Lost

JOB = "Press motor"


@pytest.fixture
def adviser() -> Iterator[Adviser]:
    made = Adviser()
    yield made
    made.end()


def asked() -> Asked:
    drafted = drafted_of(sample(JOB))
    lays = [laid(drafted, layer) for layer in layers_of(drafted)]
    return Asked(drafted.job, {lay.layer.value: lay.placed for lay in lays}, Stock())


def all_of(adviser: Adviser, job: Asked) -> list[Advice]:
    found = []
    while True:
        try:
            advice = adviser.next(job)
        except StopIteration:
            return found
        if advice is not None:
            found.append(advice)


def told(found: list[Advice]) -> list[tuple[str, float, object]]:
    return [(Voice().say(advice.words), round(advice.less, 3), advice.changes) for advice in found]


def test_it_says_what_would_be_said_here_and_again_after_it_was_killed(adviser: Adviser) -> None:
    job = asked()
    drafted = drafted_of(sample(JOB))
    here = told([a for a in Saver(drafted, [laid(drafted, layer) for layer in layers_of(drafted)], lawful=lawful).look() if a])
    assert here
    assert told(all_of(adviser, job)) == here
    child = adviser.child
    assert child is not None
    child.kill()
    child.wait()
    other = replace(job)  # asked anew
    assert told(all_of(adviser, other)) == here
    assert adviser.child is not child


def test_who_waits_is_told_that_it_was_lost_and_the_next_question_begins_anew(adviser: Adviser) -> None:
    job = asked()
    adviser.next(job)
    child = adviser.child
    assert child is not None
    assert child.stdout is not None
    child.stdout.close()  # as if its answer never came
    with pytest.raises(Lost):
        adviser.next(job)
    assert child.poll() is not None
    adviser.next(job)
    assert adviser.child is not child
    assert not adviser.busy


def test_a_fault_of_ours_is_told_as_one_and_it_goes_on_with_the_next_job(adviser: Adviser) -> None:
    job = asked()
    with pytest.raises(RuntimeError, match="AttributeError"):
        adviser.next(replace(job, stock=None))  # type: ignore[arg-type]
    child = adviser.child
    adviser.next(job)
    assert adviser.child is child


def test_it_ends_when_nobody_is_there_to_ask() -> None:
    child = subprocess.Popen([sys.executable, "-m", "omnipel.work.adviser"], stdin=subprocess.PIPE, stdout=subprocess.PIPE)
    questions = io.BytesIO()
    for question in (asked(), None):
        pickle.dump(question, questions)
    answer, _ = child.communicate(questions.getvalue(), timeout=60)
    assert pickle.loads(answer)[0] == "found"
    assert child.returncode == 0


def test_a_process_that_cannot_be_begun_is_told_as_lost(adviser: Adviser, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sys, "executable", "/nowhere/at/all")
    adviser.ready()
    with pytest.raises(Lost):
        adviser.next(asked())
    monkeypatch.undo()
    adviser.next(asked())
