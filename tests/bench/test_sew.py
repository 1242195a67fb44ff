"""The Sew station, driven by keys in the real window, with a clock that is made up."""

import math
import os
import re
import shutil
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QCheckBox, QLabel
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job
from tests.bench.hands import CTRL, Hands

from omnipel.bench.sewing import sewing_of
from omnipel.bench.stations.sew.card import CautionBox
from omnipel.bench.stations.sew.station import SewStation
from omnipel.bench.window.window import Window
from omnipel.core.learning.sizes import sizes
from omnipel.core.words import refs
from omnipel.core.words.units import Unit, format_length
from omnipel.shop.sample.sewn import ALL, SEWN, _factor
from omnipel.shop.timelog import person


class Time:
    """A clock that goes on when it is told to."""

    def __init__(self) -> None:
        self.at = 1_000.0

    def __call__(self) -> float:
        return self.at


def at_sew(window: Window, name: str) -> tuple[SewStation, Time]:
    """The station with a job open, and its time."""
    open_job(window, name, "object")
    time = Time()
    sewing_of(window.session).now = time
    window.show_station("sew")
    QApplication.processEvents()
    station: SewStation = window.stations["sew"]
    return station, time


def press(qtbot: QtBot, station: SewStation, key: Qt.Key) -> None:
    qtbot.keyClick(station.inner, key)
    QApplication.processEvents()


@pytest.mark.parametrize("name", ["Press motor", "Sorting turntable"])
def test_space_alone_leads_from_the_first_step_to_the_last(sample_window: Window, qtbot: QtBot, name: str) -> None:
    station, time = at_sew(sample_window, name)
    plan = station.sewing.plan
    assert plan is not None
    seen = []
    press(qtbot, station, Qt.Key.Key_Space)  # begin: the clock runs
    assert sample_window.session.open_job.sewing.steps == {}
    for step in plan.steps:
        assert station.step is not None
        seen.append(station.step.key)
        assert station.card.number.text() == str(step.number)
        shown = [box.accessibleName() for box in station.card.cautions.findChildren(CautionBox)]
        assert len(shown) == len(step.cautions)
        ticked = [check for check in step.operation.checks if not (step.stop and check.length)]  # sizes are asked for by the form
        assert len(station.card.findChildren(QCheckBox)) == len(ticked)
        assert bool(station.card.made.fields) is step.stop
        time.at += 60.0
        press(qtbot, station, Qt.Key.Key_Space)
    assert seen == [step.key for step in plan.steps]
    logs = sample_window.session.open_job.sewing.steps
    assert set(logs) == set(seen)
    assert all(log.done and log.took == pytest.approx(1.0) and log.planned > 0.0 for log in logs.values())
    assert not station.done.isEnabled()
    press(qtbot, station, Qt.Key.Key_Backspace)
    assert station.step is not None
    assert station.step.key == seen[-1]
    assert station.sewing.clock.minutes(time.at) == pytest.approx(1.0)  # it goes on where it was


def test_the_clock_is_paused_by_a_key_and_asks_about_time_away(sample_window: Window, qtbot: QtBot) -> None:
    station, time = at_sew(sample_window, "Press motor")
    press(qtbot, station, Qt.Key.Key_P)
    time.at += 120.0
    press(qtbot, station, Qt.Key.Key_P)
    time.at += 500.0
    station._tick()
    assert station.elapsed.text() == "2:00"
    press(qtbot, station, Qt.Key.Key_P)
    time.at += 1_500.0
    station._tick()
    assert station.asks.isVisible()
    assert "25 min" in station.away.text()
    qtbot.mouseClick(station.leave_out, Qt.MouseButton.LeftButton)
    assert not station.asks.isVisible()
    assert station.elapsed.text() == "2:00"


def test_a_note_is_kept_with_its_step_and_undone(sample_window: Window, qtbot: QtBot) -> None:
    station, _ = at_sew(sample_window, "Press motor")
    press(qtbot, station, Qt.Key.Key_N)
    qtbot.keyClicks(station.note, "sewed 15 instead of 12")
    qtbot.keyClick(station.note, Qt.Key.Key_Return)
    QApplication.processEvents()
    step = station.step
    assert step is not None
    assert sample_window.session.open_job.sewing.steps[step.key].note == "sewed 15 instead of 12"
    press(qtbot, station, Qt.Key.Key_Space)
    press(qtbot, station, Qt.Key.Key_Space)
    assert sample_window.session.open_job.sewing.steps[step.key].done
    assert sample_window.session.open_job.sewing.steps[step.key].note == "sewed 15 instead of 12"
    assert station.note.text() == ""
    sample_window.run_command("undo")
    sample_window.run_command("undo")
    assert sample_window.session.open_job.sewing.steps == {}


def test_it_goes_on_where_it_was_after_the_program_was_killed(open_window: Any, qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    window = open_window(path, samples=True)
    station, time = at_sew(window, "Press motor")
    press(qtbot, station, Qt.Key.Key_Space)
    press(qtbot, station, Qt.Key.Key_Space)
    here = station.step
    time.at += 90.0
    station.sewing.keep()  # what is done every quarter of a minute
    later = tmp_path / "as it was on disk"
    later.mkdir()
    for file in tmp_path.glob("shop.sqlite*"):
        shutil.copy(file, later)
    again = open_window(later / path.name)
    other, _ = at_sew(again, "Press motor")
    assert other.step is not None
    assert here is not None
    assert other.step.key == here.key
    assert other.sewing.clock.seconds(other.sewing.now()) == pytest.approx(90.0)
    assert not other.sewing.clock.runs


def test_another_step_can_be_looked_at_without_being_done(sample_window: Window, qtbot: QtBot) -> None:
    station, _ = at_sew(sample_window, "Honey extractor")
    first = station.step
    station.way.setFocus()
    for _ in range(3):
        qtbot.keyClick(station.way, Qt.Key.Key_Right)
    assert station.card.number.text() == "4"
    assert not station.done.isEnabled()
    qtbot.keyClick(station.way, Qt.Key.Key_Escape)  # back to where one is
    assert station.step == first
    station.inner.setFocus()
    assert sample_window.session.open_job.sewing.steps == {}
    plan = station.sewing.plan
    assert plan is not None
    sample_window.session.go.emit(refs.step(plan.steps[6].key))
    assert station.card.number.text() == "7"
    sewn = next(step for step in plan.steps if step.operation.seams)
    station._look(sewn.number)
    assert station.card.section.section is not None
    press(qtbot, station, Qt.Key.Key_M)
    assert station.card.steps.count() >= 3
    for step in plan.steps:  # it stays open for that kind of step, and for no other
        station._look(step.number)
        assert bool(station.card.steps.count()) is (step.operation.deed == sewn.operation.deed)
    station._look(sewn.number)
    press(qtbot, station, Qt.Key.Key_M)
    assert station.card.steps.count() == 0


def test_a_first_job_in_inches_is_sewn_by_keys_alone_and_reads_the_numbers_she_reckons(hands: Hands, qtbot: QtBot) -> None:
    hands.begin_drum("No. 5 & <b>drum", "69 7/16", "25 3/4")
    hands.press(Qt.Key.Key_6, CTRL)
    window = hands.window
    station: SewStation = window.stations["sew"]
    assert station.inner.hasFocus()
    said: dict[str, str] = {}
    plan = station.sewing.plan
    assert plan is not None
    hands.press(Qt.Key.Key_Space)
    for step in plan.steps:
        texts = [label.text() for label in station.findChildren(QLabel) if label.isVisible()]
        said[step.key] = " · ".join(texts)
        if picture := os.environ.get("SEW_PICTURES"):
            window.grab().save(f"{picture}/{step.number:02}.png")
        hands.press(Qt.Key.Key_Space)
        QApplication.processEvents()
    assert not station.done.isEnabled()
    around = 69.4375 + 2.0 * math.pi * (0.5 + 0.5 / 25.4 / 2.0)  # girth, the gap on each side and half the cloth
    assert told_inches(around) in said["seam:wall to lid/sew"]
    assert told_inches(around / 4.0) in said["seam:wall to lid/quarters"]
    assert told_inches(around + 1.0) in said["cloth:outer/measure"]  # an allowance of 1/2 at both ends
    assert told_inches(25.75 + 0.5 + 0.5 / 25.4 / 2.0) in said["seam:close the wall/sew"]
    assert not [key for key, words in said.items() if " mm" in words or "\u202fmm" in words or "{" in words]


def told_inches(length: float) -> str:
    """A length as the window writes it: sixteenths in lowest terms."""
    return format_length(round(length * 16.0) / 16.0 * 25.4, Unit.INCH_16)


def test_at_a_try_on_made_sizes_are_typed_and_told_how_far_they_are_off(sample_window: Window, qtbot: QtBot) -> None:
    station, _ = at_sew(sample_window, "Press motor")
    plan = station.sewing.plan
    assert plan is not None
    stop = next(step for step in plan.steps if step.stop)
    station._look(stop.number)
    form, session = station.card.made, sample_window.session
    assert stop.stage is not None
    asked = sizes(plan.making, stop.stage)
    assert [size.key for size in asked] == list(form.fields)
    size = next(size for size in asked if size.key.startswith("edge:"))
    field = form.fields[size.key]
    field.setFocus()
    for typed, kept, said in (
        ("1690", 1690.0, "less than planned"),
        ("2x 851", 1702.0, "more than planned"),
        (str(round(size.planned.value)), round(size.planned.value), "as planned"),
        ("169,5cm", 1695.0, "less than planned"),
        ("1500", 1500.0, "more than is usual"),
    ):
        field.line.selectAll()
        qtbot.keyClicks(field.line, typed)
        qtbot.keyClick(field.line, Qt.Key.Key_Return)
        QApplication.processEvents()
        assert session.open_job.tries[0].made[size.key] == pytest.approx(kept)
        words = [label.text() for label in form.findChildren(QLabel) if not label.isHidden()]
        assert any(said in text for text in words), words
        field = form.fields[size.key]
    for wrong in ("-5", "abc", "0", "1e9"):
        field.line.selectAll()
        qtbot.keyClicks(field.line, wrong)
        qtbot.keyClick(field.line, Qt.Key.Key_Return)
        assert session.open_job.tries[0].made[size.key] == 1500.0
    field.line.selectAll()
    qtbot.keyClick(field.line, Qt.Key.Key_Delete)
    qtbot.keyClick(field.line, Qt.Key.Key_Return)
    QApplication.processEvents()
    assert session.open_job.tries[0].made == {}
    assert session.open_job.sewing.steps == {}  # no key of the form was one of the station
    last = plan.steps[-1]
    assert last.stage is not None
    assert {size.key for size in sizes(plan.making, last.stage)} != {size.key for size in asked}


@pytest.mark.parametrize("name", [name for name, how in SEWN.items() if how.steps < ALL])
def test_a_job_in_the_middle_goes_on_where_it_was(sample_window: Window, qtbot: QtBot, name: str) -> None:
    station, _ = at_sew(sample_window, name)
    how, plan = SEWN[name], station.sewing.plan
    assert plan is not None
    assert station.card.number.text() == str(how.steps + 1)
    assert station.sewing.findings == () or all(f.code != "step-overtaken" for f in station.sewing.findings)
    assert plan.ordered.by_hand is bool(how.moved)
    assert [step.key for step in plan.steps[: how.steps]] == [step.key for step in plan.steps if step.key in station.sewing.done]
    if how.note:
        press(qtbot, station, Qt.Key.Key_Backspace)
        assert how.note in station.note.text()


def test_the_sample_shop_knows_who_sews_there(sample_window: Window) -> None:
    who = person(sample_window.session.store)
    known = {deed: factor for deed, factor in who.factors.items() if factor.n >= 3}
    assert len(known) >= 6
    assert min(f.times for f in known.values()) < 0.9
    assert max(f.times for f in known.values()) > 1.1
    for deed, factor in known.items():
        assert factor.times == pytest.approx(_factor(deed), rel=0.25)
    assert {card.name for card in sample_window.session.store.cards()} >= set(SEWN)


def test_every_step_and_the_whole_show_the_sum_of_their_minutes(sample_window: Window, qtbot: QtBot) -> None:
    station, _ = at_sew(sample_window, "Barrow wheel")
    plan, working = station.sewing.plan, sample_window.working
    assert plan is not None
    for step in plan.steps:
        station._look(step.number)
        press(qtbot, station, Qt.Key.Key_S)
        words = working.text.accessibleName()
        shown = [float(number) for number in re.findall(r"(?<![\d.])(\d+(?:\.5)?).min", words.split(";")[0].split("(")[0])]
        assert shown, words
        parts = re.sub(r"\([^)]*\)", "", words.split(";")[0].partition("=")[2])
        terms = [float(number) for number in re.findall(r"(\d+(?:\.\d)?).min", parts)]
        assert sum(terms) == pytest.approx(shown[0]) or "under half" in words
    sample_window.tally.times.time.clicked.emit()
    words = working.text.accessibleName()
    hours = re.findall(r"(?:(\d+).h.?)?(?:(\d+(?:\.5)?).min)?", words.partition("=")[0].replace("\u202f", " "))
    total = sum(60.0 * float(h or 0) + float(m or 0) for h, m in hours)
    left = plan.span(station.sewing.done).likely
    assert total == pytest.approx(left, abs=0.6)
    assert "table" in words
    assert "machine" in words
