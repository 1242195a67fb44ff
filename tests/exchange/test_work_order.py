"""The order of work as data and as text, and from the command line."""

import json
import re
from pathlib import Path
from typing import Any

import pytest
from tests.core.advice.test_findings import PROVOKED
from tests.core.sewing.jobs import COVERS
from tests.wild import some

from omnipel.cli import main
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.sewing.plan import planned
from omnipel.core.sewing.traps import traps
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.exchange.files.work_order import order_data, order_text
from omnipel.shop.document import write
from omnipel.shop.starter import starter

FOREIGN = {Unit.INCH_16: r"\d\s*(mm|cm|m)\b|metre", Unit.MM: r"\d\s*(in|yd|cm)\b|yard"}


@pytest.mark.parametrize(("form", "scheme", "unit"), some(lawful_pairs(), (Unit.INCH_16, Unit.MM), of=3))
def test_everything_is_told_in_the_unit_of_the_job(form: str, scheme: str, unit: Unit) -> None:
    drafted = draft(starter(form, scheme, unit))
    if not isinstance(drafted, Drafted):
        return
    plan, voice = planned(drafted), Voice(unit)
    text = order_text(plan, traps(plan), voice)
    told = [*re.findall(r'"((?:[^"\\]|\\.)*)"', json.dumps(order_data(plan, traps(plan), voice), ensure_ascii=False)), text]
    assert [words for words in told if re.search(FOREIGN[unit], words)] == []
    assert "{" not in text
    assert all(re.search(rf"\[ \] +{step.number} ", text) for step in plan.steps)


def ordered(capsys: pytest.CaptureFixture[str], *arguments: object) -> tuple[int, dict[str, Any]]:
    code = main(["order", *map(str, arguments), "--json"])
    told: dict[str, Any] = json.loads(capsys.readouterr().out)
    return code, told


def test_the_command_line_tells_the_order_its_minutes_and_its_reasons(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "motor.omnipel.json"
    write(COVERS["saddle and ends"](), file)
    code, told = ordered(capsys, file)
    assert code == 0
    keys = [step["key"] for step in told["steps"]]
    assert [step["number"] for step in told["steps"]] == list(range(1, len(keys) + 1))
    assert all(
        keys.index(before["key"]) < i and before["why"] for i, step in enumerate(told["steps"]) for before in step["after"]
    )
    for step in told["steps"]:
        assert sum(term["minutes"] for term in step["minutes"]["terms"]) == pytest.approx(step["minutes"]["planned"])
        assert step["minutes"]["low"] <= step["minutes"]["likely"] <= step["minutes"]["high"]
        assert 3 <= len(step["how"]) <= 6
    assert told["least_changeovers"] == told["changeovers"] == sum(step["changeover"] for step in told["steps"])
    _, five = ordered(capsys, file, "--batch", 5)
    assert five["covers"] == 5
    assert 4.0 < five["minutes"]["likely"] / told["minutes"]["likely"] < 5.0


def test_a_stop_is_an_exit_code_and_nonsense_is_refused(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "drum.omnipel.json"
    write(PROVOKED["seam-not-true"], file)
    code, told = ordered(capsys, file)
    assert code == 1
    assert any(finding["severity"] == "stop" for finding in told["findings"])
    assert main(["order", str(file), "--batch", "0"]) == 2
    assert "--batch" in capsys.readouterr().err


def test_what_is_done_is_ticked_and_taken_off_what_is_left(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    from omnipel.core.job.changes import changed as with_changes
    from omnipel.core.job.findings import Change
    from omnipel.core.job.sewing import StepLog
    from omnipel.core.words import refs

    job = COVERS["cap"]()
    job = with_changes(job, Change(refs.step("cloth:outer/prewash"), StepLog(done=True, took=20.0, planned=15.0, deed="prewash")))
    file = tmp_path / "cap.omnipel.json"
    write(job, file)
    _, told = ordered(capsys, file)
    assert [step["key"] for step in told["steps"] if step["done"]] == ["cloth:outer/prewash"]
    assert told["left"]["likely"] < told["minutes"]["likely"]
    main(["order", str(file)])
    assert "[x]" in capsys.readouterr().out
