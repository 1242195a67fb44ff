"""When something goes wrong inside the program it is written down, said, and the window goes on."""

from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job

from omnipel import __version__
from omnipel.bench.app import _last_resort
from omnipel.bench.reports import KEPT, folder, written
from omnipel.bench.window.window import Window
from omnipel.core.words.phrases import tr


@pytest.fixture(autouse=True)
def state(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    return tmp_path / "state"


def failing() -> Exception:
    try:
        raise RuntimeError("a wheel came off")
    except RuntimeError as error:
        return error


def test_it_is_said_with_where_the_report_lies_and_the_window_goes_on(
    sample_window: Window, state: Path, qtbot: QtBot, capsys: pytest.CaptureFixture[str]
) -> None:
    open_job(sample_window, "Rain butt", "cover")
    session = sample_window.session
    secret = replace(session.open_job, owner="Ida Quill")
    session.apply(secret, tr("owner"))
    error = failing()
    _last_resort(sample_window, type(error), error, error.__traceback__)
    (report,) = (state / "omnipel" / "reports").iterdir()
    text = report.read_text(encoding="utf-8")
    assert "a wheel came off" in text
    assert "test_reports.py" in text
    assert __version__ in text
    assert "Ida Quill" not in text
    said = sample_window.working.text.text()
    assert "a wheel came off" in said
    assert str(report) in said
    assert "Traceback" in capsys.readouterr().err
    sample_window.show_station("panels")
    session.undo()
    assert session.open_job.owner != "Ida Quill"


def test_only_the_newest_reports_are_kept_and_a_full_disk_is_no_second_fault(
    state: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    error, begun = failing(), datetime(2026, 11, 29).astimezone()
    made = [written(type(error), error, None, begun + timedelta(seconds=k)) for k in range(KEPT + 5)]
    left = sorted(folder().iterdir())
    assert left == made[-KEPT:]

    def full(*_given: object, **_more: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(Path, "write_text", full)
    assert written(type(error), error, None) is None
