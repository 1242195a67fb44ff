"""Tables of panels, steps, readings and the logbook, read by another's reader; a table of readings read back, whoever made it."""

import csv
import io
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from tests.bench.conftest import open_window
from tests.jobs import drum

from omnipel.bench.commands.jobs import take_table
from omnipel.bench.window.window import Window
from omnipel.cli import main
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import with_reading
from omnipel.core.job.reading import Instrument
from omnipel.core.job.trying import Stage, TryOn
from omnipel.core.learning.logbook import timeline
from omnipel.core.sewing.plan import planned
from omnipel.core.words.phrases import Voice, tr
from omnipel.core.words.units import Unit
from omnipel.exchange.asked import Order
from omnipel.exchange.export import exported
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.reading.readings import read_readings
from omnipel.shop.document import DocumentError, read, write
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

__all__ = ["open_window"]
DRAFTS = [draft(sample()) for sample in SAMPLES]
NAMES = [drafted.job.name for drafted in DRAFTS]


def table(drafted: object, export: str) -> list[dict[str, str]]:
    assert hasattr(drafted, "job")
    content = exported(EXPORTS[export], Order(drafted, Voice(drafted.job.unit), "A4"), "despite-stop")  # type: ignore[arg-type]
    return list(csv.DictReader(io.StringIO(content.decode("utf-8-sig"), newline="")))


@pytest.mark.parametrize("drafted", DRAFTS, ids=NAMES)
def test_readings_come_back_from_their_table_as_they_were(drafted: Drafted, tmp_path: Path) -> None:
    job = drafted.job
    content = exported(EXPORTS["taken"], Order(drafted, Voice(job.unit), "A4"))
    (tmp_path / "r.csv").write_bytes(content)
    back = {reading.place: reading for reading in read_readings(tmp_path / "r.csv", replace(job, readings=()))}
    assert len(back) == len(job.readings)
    for reading in job.readings:
        assert back[reading.place].repeats == pytest.approx(reading.repeats, abs=2e-3)
        told = (back[reading.place].instrument, back[reading.place].note, back[reading.place].set_aside)
        assert told == (reading.instrument, reading.note, reading.set_aside)


@pytest.mark.parametrize("drafted", [d for d in DRAFTS if isinstance(d, Drafted)][::4], ids=lambda d: d.job.name)
def test_panels_and_steps_are_told_in_the_jobs_unit(drafted: Drafted) -> None:
    unit = drafted.job.unit
    panels = table(drafted, "panels")
    assert len(panels) == len(drafted.panels)
    for row, panel in zip(panels, drafted.panels, strict=True):
        assert float(row[f"cut length ({unit.short})"]) * unit.mm == pytest.approx(panel.cut_length.value, abs=2e-3)
        assert int(row["cut"]) == panel.count
    plan = planned(drafted, None, drafted.job.copies, drafted.job.sewing.order)
    steps = table(drafted, "steps")
    assert [int(row["step"]) for row in steps] == [step.number for step in plan.steps]
    assert sum(float(row["minutes"]) for row in steps) == pytest.approx(plan.span().likely, rel=0.02)
    assert all(float(row["at least"]) <= float(row["minutes"]) <= float(row["at most"]) for row in steps)


def test_the_logbook_is_a_table_and_no_cell_is_a_formula() -> None:
    tries = tuple(TryOn(stage=stage, day=f"2026-10-{day}") for stage, day in ((Stage.FIRST, 14), (Stage.FINISHED, 20)))
    drafted = draft(replace(drum(), tries=tries))
    rows = table(drafted, "happened")
    assert [row["day"] for row in rows] == [line.day for line in timeline((drafted.job,))]
    assert len(rows) >= 2
    assert all(row["cover"] == drafted.job.name for row in rows)
    noted = with_reading(drafted.job, replace(drafted.job.readings[0], note="=1+1"))
    assert table(draft(noted), "taken")[0]["note"] == "'=1+1"


@pytest.mark.parametrize(
    ("text", "repeats", "instrument"),
    [
        ("letter,1\nA,1763\n", (1763.0,), Instrument.TAPE),
        ("letter,1 (cm),2 (cm)\na,176.3,176.2\n", (1763.0, 1762.0), Instrument.TAPE),
        ("letter;1 (cm)\nA;176,3\n", (1763.0,), Instrument.TAPE),
        ("Place,Instrument,1 (in)\ngirth,Steel rule,69 7/16\n", (1763.7125,), Instrument.RULE),
        ("letter,place,1\n\nA,girth,2x881.5\n,,\n", (1763.0,), Instrument.TAPE),
    ],
)
def test_a_table_that_somebody_made_is_read(
    text: str, repeats: tuple[float, ...], instrument: Instrument, tmp_path: Path
) -> None:
    (tmp_path / "t.csv").write_text(text, encoding="utf-8")
    (reading,) = read_readings(tmp_path / "t.csv", drum())
    assert (reading.place, reading.instrument) == ("girth", instrument)
    assert reading.repeats == pytest.approx(repeats)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "no table"),
        (b"\xff\xfe\x00", "no table"),
        (b"a,b\n1,2\n", "letter"),
        (b"letter,1\nZZ,5\n", "row 2.*no place"),
        (b"letter,1\nA,abc\n", "row 2"),
        (b"letter,1\nA,5\nA,6\n", "twice"),
        (b"letter,1,instrument\nA,5,a stick\n", "row 2.*no instrument"),
        (b"letter,1\n" + b"A,5\n" * 600, "no table"),
        (b"x" * 1_000_001, "larger"),
    ],
)
def test_what_is_no_table_of_readings_is_refused_with_its_row(content: bytes, words: str, tmp_path: Path) -> None:
    (tmp_path / "bad.csv").write_bytes(content)
    with pytest.raises(DocumentError, match=words):
        read_readings(tmp_path / "bad.csv", drum())
    with pytest.raises(DocumentError):
        read_readings(tmp_path / "none.csv", drum())


def test_from_the_command_line_and_in_the_window(
    open_window: Callable[..., Window], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job = replace(starter("drum", "wall-and-lid", Unit.INCH_16), readings=())
    file, written = tmp_path / "job.omnipel.json", tmp_path / "r.csv"
    write(job, file)
    written.write_text("letter,1,2\nA,69 7/16,69 1/2\nB,25 3/4,\n")
    assert main(["readings", str(file), str(written)]) == 0
    assert "2 readings" in capsys.readouterr().out
    assert [r.place for r in read(file).readings] == ["girth", "drop"]
    window = open_window(tmp_path / "shop.sqlite")
    window.session.add(job, tr("new"))
    take_table(window, written)
    assert window.here == "tape"
    assert len(window.session.open_job.readings) == 2
    assert window.session.open_job.readings[0].repeats[0] == pytest.approx(69.4375 * 25.4)
    window.session.undo()
    assert not window.session.open_job.readings
    written.write_text("letter,1\nQ,5\n")
    take_table(window, written)
    assert not window.session.open_job.readings
    assert "Not brought in" in window.working.text.text()
