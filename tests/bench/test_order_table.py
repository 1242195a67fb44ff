"""The order of work as a table: steps moved where that is lawful, refused with the reason where it is not, paces and the log."""

import re
from dataclasses import replace
from typing import Any

import pytest
from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtWidgets import QApplication, QLabel
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog
from tests.bench.test_sew import Time, at_sew, press

from omnipel.bench.sewing import sewing_of
from omnipel.bench.stations.sew.paces import PacesDialog
from omnipel.bench.stations.sew.planned import MIME, WHERE, WHY, PlanMode, StepModel
from omnipel.bench.stations.sew.station import SewStation
from omnipel.bench.window.window import Window
from omnipel.core.finishing.operation import Pace
from omnipel.core.sewing.plan import Plan
from omnipel.shop.timelog import paces, person, timed

ALT = Qt.KeyboardModifier.AltModifier


def at_table(window: Window, qtbot: QtBot, name: str) -> tuple[PlanMode, Plan, Time]:
    station, time = at_sew(window, name)
    press(qtbot, station, Qt.Key.Key_O)
    plan = station.sewing.plan
    assert plan is not None
    assert station.plan_mode.table.hasFocus()
    return station.plan_mode, plan, time


def at_rest(window: Window, qtbot: QtBot) -> None:
    """The plan of the draft as it stands has been made, and shown."""
    qtbot.waitUntil(lambda: sewing_of(window.session).there is not None and window.session.works.idle, timeout=20_000)
    QApplication.processEvents()


def told(widget: Any) -> str:
    return " · ".join(label.text() for label in widget.findChildren(QLabel) if label.isVisible())


def free_and_bound(plan: Plan) -> tuple[int, int]:
    """A step that may stand one place later, and one that may not, by their places counted from 0."""
    rooms = [plan.orders.room(plan.ordered.keys, key)[1] for key in plan.ordered.keys]
    return next(i for i, high in enumerate(rooms) if high > i), next(i for i, high in enumerate(rooms[:-1]) if high == i)


@pytest.mark.parametrize("name", ["Press motor", "Honey extractor", "Settling tank"])
def test_every_step_stands_in_the_table_and_is_moved_only_where_that_is_lawful(
    sample_window: Window, qtbot: QtBot, name: str
) -> None:
    mode, plan, _ = at_table(sample_window, qtbot, name)
    model = mode.model
    assert model.rowCount() == len(plan.steps)
    for step, after in zip(plan.steps, range(len(plan.steps)), strict=True):
        ahead = [plan.by_key[before.first].number for before in plan.orders.ahead(step.key)]
        shown = model.data(model.index(after, WHY))
        assert shown.startswith(f"After {max(ahead)}" if ahead else "")
        assert model.data(model.index(after, WHERE)).lower().startswith(step.rig.station)
    free, bound = free_and_bound(plan)
    mode.choose(plan.steps[bound].key)
    qtbot.keyClick(mode.table, Qt.Key.Key_Down, ALT)
    assert sample_window.session.open_job.sewing.order == ()
    assert "has to come before" in mode.refused.text()
    assert sample_window.session.sentence(plan.steps[bound].operation.words) in mode.refused.text()
    key = plan.steps[free].key
    mode.choose(key)
    qtbot.keyClick(mode.table, Qt.Key.Key_Down, ALT)
    kept = sample_window.session.open_job.sewing.order
    assert kept.index(key) == free + 1
    now = mode.model.plan
    assert now is not None
    assert now.ordered.keys == kept
    assert mode.key == key  # it stays chosen
    assert now.orders.broken(kept) == []
    assert mode.back.isEnabled()
    qtbot.keyClick(mode.table, Qt.Key.Key_Up, ALT)
    assert sample_window.session.open_job.sewing.order == ()  # as it was proposed: nothing is kept
    sample_window.run_command("undo")
    assert sample_window.session.open_job.sewing.order == kept
    qtbot.mouseClick(mode.back, Qt.MouseButton.LeftButton)
    assert mode.model.plan is not None
    assert mode.model.plan.ordered.keys == plan.ordered.keys


def drag(model: StepModel, row: int, to: int) -> bool:
    """What the view does when a row is let go of before another."""
    data = model.mimeData([model.index(row, 0)])
    assert data.hasFormat(MIME)
    return model.dropMimeData(data, Qt.DropAction.MoveAction, to, 0, QModelIndex())


def test_a_row_that_is_dragged_stands_where_it_is_let_go_of(sample_window: Window, qtbot: QtBot) -> None:
    mode, plan, _ = at_table(sample_window, qtbot, "Honey extractor")
    free, _ = free_and_bound(plan)
    _, high = plan.orders.room(plan.ordered.keys, plan.steps[free].key)
    assert not drag(mode.model, free, high + 1)  # the view must not take the row away
    order = sample_window.session.open_job.sewing.order
    assert order.index(plan.steps[free].key) == high
    assert not drag(mode.model, 0, len(plan.steps))
    assert sample_window.session.open_job.sewing.order == order
    assert mode.refused.isVisible()


def test_enter_looks_at_a_step_and_what_is_done_is_ticked(sample_window: Window, qtbot: QtBot) -> None:
    mode, plan, time = at_table(sample_window, qtbot, "Press motor")
    mode.choose(plan.steps[4].key)
    assert sample_window.session.sentence(plan.steps[4].operation.words) in mode.head.text()
    qtbot.keyClick(mode.table, Qt.Key.Key_Return)
    station: SewStation = sample_window.stations["sew"]
    assert station.card.number.text() == "5"
    assert not mode.isVisible()
    press(qtbot, station, Qt.Key.Key_Space)  # back to the one that is due
    press(qtbot, station, Qt.Key.Key_Space)
    time.at += 240.0
    press(qtbot, station, Qt.Key.Key_Space)
    press(qtbot, station, Qt.Key.Key_O)
    assert mode.model.data(mode.model.index(0, 0)).startswith("✓")
    assert mode.key == plan.steps[1].key


def test_what_the_clock_tells_corrects_the_plan_and_paces_are_changed_for_all_jobs(sample_window: Window, qtbot: QtBot) -> None:
    station, time = at_sew(sample_window, "Press motor")
    plan = station.sewing.plan
    assert plan is not None
    before = plan.span().likely
    press(qtbot, station, Qt.Key.Key_Space)
    for step in plan.steps:
        time.at += 120.0 * step.work.minutes
        press(qtbot, station, Qt.Key.Key_Space)
    store = sample_window.session.store
    mine = [line for line in timed(store) if line.took > 0.0]
    assert len(mine) >= len(plan.steps)
    slower = station.sewing.plan
    assert slower is not None
    assert 1.1 * before < slower.span().likely < 2.0 * before  # twice as slow, by what one cover tells
    assert person(store).factor("sew").n >= 2
    sample_window.run_command("undo")  # what is undone is not learnt from, and is learnt again with it
    undone = station.sewing.person
    assert sum(f.n for f in undone.factors.values()) == len(mine) - 1
    sample_window.run_command("redo")
    assert station.sewing.person == person(store) != undone
    station.refresh()
    press(qtbot, station, Qt.Key.Key_O)

    def changed(dialog: PacesDialog) -> None:
        assert re.search(r"pinning.*× 1\.\d+ \(", told(dialog))
        field = dialog.fields[Pace.PIN]
        field.line.setFocus()
        field.line.selectAll()
        qtbot.keyClicks(field.line, "much")
        qtbot.keyClick(field.line, Qt.Key.Key_Return)
        assert field.line.text() == "0.25"
        assert "stays" in field.note.text()
        field.line.selectAll()
        qtbot.keyClicks(field.line, "0.5")
        dialog._keep()

    in_dialog(PacesDialog, changed)
    qtbot.mouseClick(station.plan_mode.paces, Qt.MouseButton.LeftButton)
    at_rest(sample_window, qtbot)
    assert paces(store) == {Pace.PIN: 0.5}
    again = station.sewing.plan
    assert again is not None
    pins = [(one, other) for one, other in zip(slower.steps, again.steps, strict=True) if one.operation.deed == "pin"]
    assert pins
    assert all(other.work.minutes > one.work.minutes for one, other in pins)


def test_the_tally_tells_the_time_at_every_station_and_the_rail_how_far_it_is_sewn(sample_window: Window, qtbot: QtBot) -> None:
    station, time = at_sew(sample_window, "Press motor")
    at_rest(sample_window, qtbot)
    tally, plan = sample_window.tally, station.sewing.plan
    assert plan is not None
    first = next(step.number for step in plan.steps if step.stop)
    assert tally.times.stop.value.text() == f"after step {first - 1}"
    assert not tally.cloth.isVisible()
    press(qtbot, station, Qt.Key.Key_Space)
    for _, step in zip(range(3), plan.steps, strict=False):
        time.at += 60.0 * step.work.minutes
        press(qtbot, station, Qt.Key.Key_Space)
    at_rest(sample_window, qtbot)
    assert "to go" in tally.times.time.value.text()
    assert sample_window.rail.buttons["sew"].stands == f"step 4 of {len(plan.steps)}"
    sample_window.show_station("cover")
    assert tally.cloth.isVisible()
    assert tally.times.time.isVisible()
    assert not tally.times.stop.isVisible()
    tally.times.time.clicked.emit()
    QApplication.processEvents()
    assert sample_window.here == "sew"
    tally.times.over.clicked.emit()
    assert station.plan_mode.isVisible()


def test_a_step_that_was_overtaken_is_told_in_the_tally_and_put_right_from_there(sample_window: Window, qtbot: QtBot) -> None:
    station, _ = at_sew(sample_window, "Press motor")
    for _ in range(30):
        press(qtbot, station, Qt.Key.Key_Space)
    job = sample_window.session.open_job
    plan = station.sewing.plan
    assert plan is not None
    early = next(step for step in plan.steps if step.operation.deed == "sew")
    left = {key: log for key, log in job.sewing.steps.items() if key != early.key}
    sample_window.session.apply(replace(job, sewing=replace(job.sewing, steps=left)), early.operation.words)
    at_rest(sample_window, qtbot)
    cards = [card for card in sample_window.tally.cards if card.finding.code == "step-overtaken"]
    assert cards
    assert sewing_of(sample_window.session).standing[0]["sew"] == "look"
    while cards:  # each press leaves one step fewer that was done
        qtbot.mouseClick(cards[0].remedies[0].button, Qt.MouseButton.LeftButton)
        at_rest(sample_window, qtbot)
        cards = [card for card in sample_window.tally.cards if card.finding.code == "step-overtaken"]
    assert not cards


def test_the_next_try_on_is_told_by_its_step_now_and_then_no_more(sample_window: Window, qtbot: QtBot) -> None:
    """As the steps are done one by one: after which step it comes, that it is now, and that none is left."""
    station, _ = at_sew(sample_window, "Press motor")
    at_rest(sample_window, qtbot)
    plan, shown = station.sewing.plan, sample_window.tally.times.stop
    assert plan is not None
    stops = [step.number for step in plan.steps if step.stop]
    assert len(stops) == 2
    for step in plan.steps:
        following = next((n for n in stops if n >= step.number), None)
        assert following is not None
        assert shown.value.text() == ("now" if following == step.number else f"after step {following - 1}"), step.number
        if step is plan.steps[0]:
            assert station.done.text() == "begin"
            station.sewing.start()
        assert station.done.text() == "done, next"  # its clock runs on from the last one
        station.sewing.do()
    assert shown.value.text() == "none left"
    assert station.done.text() == "all is done"
    assert not station.done.isEnabled()
