"""Wrong and right input in every kind of field, and the commands that have no station of their own."""

from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QLineEdit, QPushButton
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job
from tests.wild import some

from omnipel.bench.commands.explaining import HelpDialog
from omnipel.bench.commands.habits import HabitsDialog, shop_habits
from omnipel.bench.commands.registry import all_commands
from omnipel.bench.parts.look import DARK, LOOK
from omnipel.bench.window.window import Window
from omnipel.core.job.changes import meant
from omnipel.core.job.document import ClothKind, LiningSchool, Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.reading import Instrument
from omnipel.core.tape.readings import value
from omnipel.core.words import refs
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Count, mm, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.units import Unit
from omnipel.shop.document import read
from omnipel.shop.starter import starter

CTRL = Qt.KeyboardModifier.ControlModifier


def type_over(qtbot: QtBot, line: QLineEdit, words: str) -> None:
    """Replace what stands in a line and press Enter."""
    line.setFocus()
    line.selectAll()
    qtbot.keyClicks(line, words)
    qtbot.keyClick(line, Qt.Key.Key_Return)


@pytest.mark.parametrize(
    ("words", "kept"),
    [("5", 0.05), ("3,5 %", 0.035), ("40%", 0.4), ("0.4", 0.4), ("sixty", None), ("60", None), ("-1", None), ("nan", None)],
)
def test_percent_fields(sample_window: Window, qtbot: QtBot, words: str, kept: float | None) -> None:
    open_job(sample_window, "Rain butt", "cover")
    sample_window.go_to(refs.choice("cloth.shrink_warp"))
    field = sample_window.stations["cover"].decides()[refs.choice("cloth.shrink_warp")]
    before = sample_window.session.open_job.cover.cloth.shrink_warp
    type_over(qtbot, field.focusProxy(), words)
    assert sample_window.session.open_job.cover.cloth.shrink_warp == pytest.approx(before if kept is None else kept)


@pytest.mark.parametrize(("words", "kept"), [("12", 12.0), ("2.5", None), ("900", None), ("many", None), ("-2", None)])
def test_count_fields(sample_window: Window, qtbot: QtBot, words: str, kept: float | None) -> None:
    open_job(sample_window, "Settling tank", "cover")
    field = sample_window.stations["cover"].decides()[refs.option("gores")]
    type_over(qtbot, field.focusProxy(), words)
    assert sample_window.session.open_job.cover.options["gores"] == (8.0 if kept is None else kept)


def test_a_choice_that_a_size_set_by_hand_stands_in_for_is_not_asked(sample_window: Window) -> None:
    open_job(sample_window, "Fermenting crock", "cover")
    session, form = sample_window.session, sample_window.stations["cover"].whole
    share, said = refs.option("share"), "Sizes set by hand stand in for: elastic length, shorter than the rim by."
    assert form.fields[share].isVisible()
    assert not form.by_hand.isVisible()
    by_hand = Override(size="elastic_cut", value=800.0, reason="left over")
    session.change(tr("by hand"), Change(refs.by_hand(), by_hand, Act.ADD))
    assert not form.fields[share].isVisible()
    assert (form.by_hand.isVisible(), form.by_hand.text()) == (True, said)
    assert form.fields[refs.option("overlap")].isVisible()
    session.change(tr("as drafted"), Change(refs.by_hand("elastic_cut"), act=Act.REMOVE))
    assert form.fields[share].isVisible()
    assert not form.by_hand.isVisible()


@pytest.mark.parametrize(("typed", "kept"), [("30 m", None), ("-1", None), ("18", 18.0), ("0", 0.0), ("3/4 in", 19.05)])
def test_a_habit_is_kept_as_far_as_it_can_be_one(sample_window: Window, qtbot: QtBot, typed: str, kept: float | None) -> None:
    session = sample_window.session
    dialog = HabitsDialog(sample_window, session, System.METRIC)
    qtbot.addWidget(dialog)
    type_over(qtbot, dialog.fields["seam"].line, typed)
    assert shop_habits(session.store, System.METRIC).own == ({} if kept is None else {"seam": pytest.approx(kept)})
    session.keep_setting("habits metric", '{"hem": 1e9, "seam": -1, "clearance": NaN, "tail": 250, "no such": 1}')
    assert shop_habits(session.store, System.METRIC).own == {"tail": 250.0}


def test_lists_keep_their_own_kind(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "tape")
    tape = sample_window.stations["tape"]
    tape.instrument.activated.emit(tape.instrument.values.index(Instrument.RULE))
    reading = sample_window.session.open_job.reading(tape.place)
    assert reading is None or reading.instrument is Instrument.RULE
    sample_window.show_station("cover")
    lining = sample_window.stations["cover"].decides()[refs.choice("lining.school")]
    lining.activated.emit(lining.values.index(LiningSchool.BAGGED))
    assert sample_window.session.open_job.cover.lining.school is LiningSchool.BAGGED
    assert any(p.name == "lining wall" for p in sample_window.session.draft.panels)  # type: ignore[union-attr]


def test_clearance_keeps_its_gap_through_all_three_schools(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    school = sample_window.stations["cover"].decides()[refs.choice("clearance.school")]
    sizes = []
    for i in (1, 2, 0):
        school.activated.emit(i)
        sizes.append(sample_window.session.draft.cover.sizes["wall_sew_length"].value)  # type: ignore[union-attr]
    assert sizes == pytest.approx([sizes[0]] * 3, abs=0.5)


def test_arrows_choose_a_reading_until_something_is_typed(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Press motor", "tape")
    tape = sample_window.stations["tape"]
    seen = []
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_Up, Qt.Key.Key_Up):
        qtbot.keyClick(tape.field.line, key)
        seen.append(tape.place)
    assert seen == ["width", "height", "width", "length", "length"]
    qtbot.keyClicks(tape.field.line, "12")
    qtbot.keyClick(tape.field.line, Qt.Key.Key_Down)
    assert (tape.place, tape.field.line.text()) == ("length", "12")


def test_readings_are_said_to_be_enough_only_where_nothing_stops(sample_window: Window, qtbot: QtBot) -> None:
    session = sample_window.session
    session.open(session.store.add(starter("wheel", "wheel-both-faces", Unit.INCH_8, with_readings=False)))
    sample_window.show_station("tape")
    tape, told = sample_window.stations["tape"], list[str]()
    session.said.connect(lambda _severity, words: told.append(words))
    for place, words in {"girth": "40", "width": "4", "hub": "34"}.items():
        assert tape.place == place
        type_over(qtbot, tape.field.line, words)
    assert session.draft is not None
    assert session.draft.stops  # a hub larger than the wheel
    assert told[-1].startswith("These readings are enough, but something is wrong")
    tape.go_to(refs.reading("hub"))
    session.undo()
    type_over(qtbot, tape.field.line, "2")
    assert not session.draft.stops
    assert told[-1].startswith("These readings are enough. Ctrl+3")


def test_repeats_are_left_out_and_removed(sample_window: Window) -> None:
    open_job(sample_window, "Honey extractor", "tape")
    tape, session = sample_window.stations["tape"], sample_window.session
    tape.go_to(refs.reading("girth"))
    tape.repeats.leave_out(2, True)
    assert value(session.open_job.reading("girth")) == 1763.0  # type: ignore[arg-type]
    tape.repeats.remove(0)
    girth = session.open_job.reading("girth")
    assert girth is not None
    assert girth.repeats == (1764.0, 1673.0, 1763.0)
    assert girth.left_out == (1,)
    for _ in range(3):
        tape.repeats.remove(0)
    assert session.open_job.reading("girth") is None
    assert session.draft.panels  # across is enough, too
    tape.go_to(refs.reading("across"))
    tape.repeats.remove(0)
    assert "reading-missing" in [f.code for f in session.draft.findings]  # type: ignore[union-attr]


def test_no_more_repeats_than_five(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Feed bin", "tape")
    tape = sample_window.stations["tape"]
    tape.go_to(refs.reading("girth"))
    for k in range(6):
        qtbot.keyClicks(tape.field.line, str(1411 + k))
        qtbot.keyClick(tape.field.line, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    assert len(sample_window.session.open_job.reading("girth").repeats) == 5  # type: ignore[union-attr]
    assert "remove one first" in sample_window.working.text.text()


def test_a_feature_is_shaped_and_taken_off(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    session = sample_window.session
    sample_window.stations["cover"].adding.add("port")
    session.set(refs.feature("1", "options.shape"), "slot", tr("shape"))
    assert session.open_job.cover.features[0].options == {"shape": "slot"}
    session.undo()
    session.undo()
    assert session.open_job.cover.features == ()


def test_text_scale_stays_within_its_bounds_and_survives(sample_window: Window, qtbot: QtBot) -> None:
    for _ in range(12):
        sample_window.run_command("larger")
    assert LOOK.scale == 1.6
    for _ in range(12):
        sample_window.run_command("smaller")
    assert LOOK.scale == 0.9
    assert sample_window.session.store.setting("text scale", "") == "0.9"
    sample_window.run_command("dark")
    assert LOOK.colours is DARK
    assert sample_window.session.store.setting("dark", "") == "yes"


def test_every_command_runs_only_when_it_can(sample_window: Window) -> None:
    for command in all_commands():
        if not command.when(sample_window):
            sample_window.run_command(command.id)
            assert sample_window.session.job is None
    open_job(sample_window, "Rain butt", "tape")
    assert {c.id for c in all_commands() if not c.when(sample_window)} <= {"round", "export-calendar"}
    sample_window.run_command("explain")
    assert "level all the way" in sample_window.findChild(HelpDialog).told.text()


def test_history_goes_back_to_any_change(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    session = sample_window.session
    for each in (10.0, 11.0, 13.0):
        session.set(refs.SEAM_ALLOWANCE, each, tr("seam allowance {mm}", mm=Count(each)))
    revisions, position = session.store.history(session.key)  # type: ignore[arg-type]
    wanted = next(r for r in revisions if r.reason == "seam allowance 10")
    session.go_to_revision(wanted.number)
    assert session.open_job.cover.seam_allowance == 10.0
    assert len(session.store.history(session.key)[0]) == len(revisions)  # type: ignore[arg-type]
    assert position > wanted.number


def test_job_files_can_be_dropped_on_the_shelf(sample_window: Window, tmp_path: Path) -> None:
    from tests.jobs import drum

    from omnipel.shop.document import write

    path = tmp_path / "dropped.omnipel.json"
    write(drum(), path)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    copy, left, none = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    sample_window.shelf.dropEvent(QDropEvent(QPointF(5, 5), copy, data, left, none))
    assert sample_window.session.open_job == read(path)  # one alone is opened
    data.setUrls([QUrl.fromLocalFile(str(path)), QUrl.fromLocalFile(str(tmp_path / "none.omnipel.json"))])
    sample_window.shelf.dropEvent(QDropEvent(QPointF(5, 5), copy, data, left, none))
    assert sample_window.here == "shelf"
    assert "Not brought in" in sample_window.working.text.text()


def test_an_outline_is_brought_in_or_refused(sample_window: Window, tmp_path: Path) -> None:
    open_job(sample_window, "Platform scale", "object")
    station, before = sample_window.stations["object"], sample_window.session.open_job.thing.outline
    bad, good = tmp_path / "bad.svg", tmp_path / "good.svg"
    bad.write_text("nothing")
    station.bring_outline(bad)
    assert sample_window.session.open_job.thing.outline == before
    assert "old outline stays" in sample_window.working.text.text()
    good.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="400mm" height="300mm" viewBox="0 0 400 300"><path d="M0 300 H400 V50 L200 0 L0 50 Z"/></svg>'
    )
    station.bring_outline(good)
    assert sample_window.session.open_job.thing.outline != before
    assert sample_window.session.draft.panels  # type: ignore[union-attr]


LENGTHS = [
    refs.CLEARANCE,
    refs.SEAM_ALLOWANCE,
    refs.CLOSING_ALLOWANCE,
    refs.choice("hem.width"),
    refs.choice("hem.turn_under"),
    refs.choice("cloth.usable_width"),
    refs.choice("cloth.thickness"),
    refs.choice("padding"),
    refs.choice("padding_inset"),
    refs.choice("lining.seam_allowance"),
    refs.choice("lining.turning_gap"),
    refs.option("casing"),
    refs.option("cord"),
]


def test_a_fraction_is_set_as_one_while_it_is_typed(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "tape")
    tape, session = sample_window.stations["tape"], sample_window.session
    session.set(refs.of_job("unit"), Unit.INCH_16, tr("unit"))
    tape.go_to(refs.reading("girth"))
    line, seen = tape.field.line, []
    for letter in "72 13/16":
        qtbot.keyClicks(line, letter)
        seen.append(line.text())
    assert seen[-3:] == ["72 13/", "72 13/1", "72 13⁄16"]
    qtbot.keyClick(line, Qt.Key.Key_Backspace)
    assert line.text() == "72 13/1"
    qtbot.keyClicks(line, "6")
    qtbot.keyClick(line, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    if tape.field.line.text():  # it asks whether it is so
        qtbot.keyClick(line, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    taken = session.open_job.reading("girth")
    assert taken is not None
    assert taken.repeats[-1] == pytest.approx(72.8125 * 25.4)
    assert any(chip.text() == "72 13⁄16" for chip in tape.repeats.findChildren(QPushButton))


@pytest.mark.parametrize(("path", "unit"), some(LENGTHS, [Unit.INCH_8, Unit.INCH_16, Unit.CM, Unit.MM], of=9), ids=str)
def test_what_is_typed_is_taken_also_when_it_reads_the_same(sample_window: Window, qtbot: QtBot, path: Ref, unit: Unit) -> None:
    open_job(sample_window, "Rain butt", "cover")
    session = sample_window.session
    session.set(refs.of_job("unit"), unit, tr("unit"))
    session.set(refs.option("skirt"), True, tr("skirt"))
    session.set(refs.choice("padding"), 5.0, tr("padding"))
    session.set(refs.choice("lining.school"), LiningSchool.BAGGED, tr("lined"))
    step = unit.fine_step if path in (refs.choice("cloth.thickness"), refs.choice("padding")) else unit.step
    odd = step * 8.3
    session.set(path, odd, tr("from another pattern"))
    field = sample_window.stations["cover"].decides()[path]
    reads = field.line.text()
    assert reads.startswith("≈"), reads
    type_over(qtbot, field.line, reads.removeprefix("≈").strip())
    kept = meant(session.open_job, path)
    assert kept != odd
    assert kept == pytest.approx(step * 8.0, abs=1e-6)
    assert not sample_window.stations["cover"].decides()[path].line.text().startswith("≈")
    session.undo()
    assert meant(session.open_job, path) == odd


def test_an_overhang_is_typed_cut_or_finished(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Fermenting crock", "cover")
    session = sample_window.session
    session.set(refs.of_job("unit"), Unit.INCH_16, tr("unit"))
    session.set(refs.option("layers"), "single layer", tr("single"))
    session.set(refs.option("casing"), 12.7, tr("casing"))
    session.set(refs.option("casing_turn_under"), 12.7, tr("turn-under"))
    field = sample_window.stations["cover"].decides()[refs.option("overhang")]
    field.kind.setCurrentIndex(1)
    field.kind.activated.emit(1)
    type_over(qtbot, field.line, "3")  # 3 all round, cut: an inch of it is the casing
    assert session.open_job.cover.options["overhang"] == pytest.approx(2 * 25.4)
    assert field.line.text() == "3"
    assert field.both.text() == "2 finished, 3 in cut"
    field.kind.setCurrentIndex(0)
    field.kind.activated.emit(0)
    assert field.line.text() == "2"
    type_over(qtbot, field.line, "2 1/4")
    assert session.open_job.cover.options["overhang"] == pytest.approx(2.25 * 25.4)
    field.kind.activated.emit(1)
    field.kind.setCurrentIndex(1)
    field._show()
    type_over(qtbot, field.line, "1")  # nothing would hang over: refused, the old one stays
    assert session.open_job.cover.options["overhang"] == pytest.approx(2.25 * 25.4)
    least = field.least + field.beyond
    assert session.tell(tr("it has to be at least {least}", least=mm(least))) in field.field.note.text()


def test_a_size_by_hand_is_typed_as_it_is_cut(sample_window: Window) -> None:
    from omnipel.bench.stations.panels.byhand import ByHandDialog

    open_job(sample_window, "Rain butt", "panels")
    session, station = sample_window.session, sample_window.stations["panels"]
    panel = next(p for p in session.draft.panels if p.name == "wall")  # type: ignore[union-attr]
    dialog = ByHandDialog(station, session, station.size_names())
    dialog.which.show_value("wall_finished_height")
    dialog.value.kind.setCurrentIndex(1)
    dialog.show_size()
    assert dialog.value.field.stored == pytest.approx(panel.cut_width.value)
    dialog.value.field.line.setText("30")
    dialog.value.field.line.setModified(True)
    dialog.reason.setText("a remnant 30 high")
    dialog._accept()
    dialog.apply()
    after = next(p for p in session.draft.panels if p.name == "wall")  # type: ignore[union-attr]
    assert after.cut_width.value == pytest.approx(30 * 25.4)
    dialog.deleteLater()


def test_allowances_go_with_the_kind_of_cloth_until_somebody_chooses_them(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "cover")
    session, cover = sample_window.session, sample_window.stations["cover"]
    before = session.store.history(session.key)[1]  # type: ignore[arg-type]
    assert session.open_job.cover.seam_allowance == 12.7
    kind = cover.decides()[refs.choice("cloth.kind")]
    kind.setFocus()
    qtbot.keyClick(kind, Qt.Key.Key_End)
    kind.activated.emit(kind.currentIndex())
    assert session.open_job.cover.cloth.kind is ClothKind.COTTON
    assert (session.open_job.cover.seam_allowance, session.open_job.cover.closing_allowance) == (6.35, 6.35)
    assert cover.decides()[refs.SEAM_ALLOWANCE].line.text() == "1/4"
    type_over(qtbot, cover.decides()[refs.SEAM_ALLOWANCE].line, "3/8")
    qtbot.keyClick(kind, Qt.Key.Key_Home)
    kind.activated.emit(kind.currentIndex())
    assert (session.open_job.cover.seam_allowance, session.open_job.cover.closing_allowance) == (pytest.approx(9.525), 12.7)
    for _ in range(3):
        session.undo()
    assert session.store.history(session.key)[1] == before  # type: ignore[arg-type]
