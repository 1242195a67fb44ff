"""Getting about: where one may go, what is there when one comes, what leads on where there is nothing yet."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.bench.conftest import in_dialog, open_job, settle

from omnipel.bench.commands.dress import set_scale
from omnipel.bench.commands.goto import JobPlace, goals
from omnipel.bench.commands.registry import all_commands
from omnipel.bench.parts.columns import Columns
from omnipel.bench.parts.pick import PickDialog
from omnipel.bench.window.window import Window
from omnipel.core.pictures.pens import Layer
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Ref
from omnipel.shop.sample import SAMPLES


def test_the_pick_dialog_narrows_and_takes(sample_window: Window, qtbot: QtBot) -> None:
    dialog = PickDialog(sample_window, tr("Go"), [("girth", 1), ("drop", 2), ("hem and drop", 3)])
    dialog.show()
    qtbot.keyClicks(dialog.line, "drop")
    assert dialog.list.count() == 2
    qtbot.keyClick(dialog.line, Qt.Key.Key_Down)
    qtbot.keyClick(dialog.line, Qt.Key.Key_Return)
    assert dialog.picked == 3
    dialog.deleteLater()


def test_where_to_lies_in_the_order_of_work_and_on_the_jobs_own_picture(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Honey extractor", "cover")
    seen = {}

    def look(dialog: PickDialog) -> None:
        listed = [dialog.list.item(k) for k in range(dialog.list.count())]
        heads = [item.text() for item in listed if not item.flags() & Qt.ItemFlag.ItemIsSelectable]
        assert heads == ["to be seen to", "Object", "Tape", "Cover", "Panels", "Sew", "Fit", "jobs", "what can be done"]
        place = dialog.findChild(JobPlace)
        for _ in range(dialog.list.count()):  # a heading is never chosen
            assert dialog.list.currentItem().flags() & Qt.ItemFlag.ItemIsSelectable
            qtbot.keyClick(dialog.line, Qt.Key.Key_Down)
        for words, layer in (("girth", Layer.TAPE), ("wall to lid", Layer.LIT)):
            dialog.line.setText(words)
            seen[words] = [item for item in place.picture.drawing.items if item.layer is layer]
        dialog.line.setText("lid")
        assert place.told.text()
        dialog.line.setText("girth")
        assert dialog.list.currentItem().text() == "reading: girth"
        qtbot.keyClick(dialog.line, Qt.Key.Key_Return)

    in_dialog(PickDialog, look)
    qtbot.keyClick(sample_window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    assert all(seen.values())
    assert sample_window.here == "tape"


def test_the_shelf_opens_at_its_first_job(sample_window: Window, qtbot: QtBot) -> None:
    shelf = sample_window.shelf
    assert len(shelf.cards) == len(SAMPLES)
    assert QApplication.focusWidget() is shelf.view
    assert shelf.view.current == shelf.cards[0]
    assert shelf.view.verticalScrollBar().value() == 0
    shelf.search.setText("drum")
    shelf.search.setText("")
    assert len(shelf.cards) == len(SAMPLES)


@pytest.mark.parametrize("scale", [1.0, 1.5])
@pytest.mark.parametrize("path", [refs.option("overhang"), refs.PADDING, refs.SHRINK_WEFT])
def test_going_to_a_field_scrolls_to_it(sample_window: Window, qtbot: QtBot, path: Ref, scale: float) -> None:
    sample_window.resize(1024, 720)
    set_scale(sample_window, scale)
    open_job(sample_window, "Fermenting crock", "tape")
    sample_window.go_to(path)
    field = sample_window.stations["cover"].decides()[path]
    qtbot.waitUntil(
        lambda: field.visibleRegion().boundingRect().width() == field.width()
    )  # nothing of it is out of reach at its side
    columns = sample_window.stations["cover"].findChild(Columns)
    assert columns.stacked is (scale > 1.0)
    assert field is QApplication.focusWidget() or field.isAncestorOf(QApplication.focusWidget())


def test_go_to_knows_readings_panels_seams_findings_jobs_and_commands(sample_window: Window) -> None:
    open_job(sample_window, "Honey extractor", "tape")
    found = goals(sample_window)
    kinds = {words.split(":")[0] for words, _ in found}
    assert {"reading", "panel", "seam", "finding", "job"} <= kinds
    for words, (kind, value) in found:
        if kind == "path":
            sample_window.go_to(value)
            assert sample_window.here in ("object", "tape", "cover", "panels"), words
            if value.startswith("tape."):
                assert sample_window.here == "tape"
                focused = QApplication.focusWidget()
                assert focused is not sample_window.stations["tape"].field.line, words
                assert sample_window.stations["tape"].isAncestorOf(focused), words
    keys = [c.keys for c in all_commands() if c.keys]
    assert len(keys) == len(set(keys))


def test_what_is_empty_says_what_is_missing_and_leads_on(sample_window: Window, qtbot: QtBot) -> None:
    shelf = sample_window.shelf
    shelf.search.setFocus()
    qtbot.keyClicks(shelf.search, "zeppelin")
    assert shelf.none.isVisible()
    assert not shelf.view.isVisible()
    qtbot.mouseClick(shelf.none.button, Qt.MouseButton.LeftButton)
    assert (shelf.search.text(), len(shelf.cards)) == ("", len(shelf.all))
    assert shelf.view.isVisible()
    assert shelf.search.hasFocus()
    sample_window.run_command("new")
    sample_window.show_station("panels")
    settle(sample_window)
    panels = sample_window.stations["panels"]
    assert panels.empty.isVisible()
    assert "girth" in panels.empty.words.text().lower()
    assert not panels.board.isVisible()
    sign = panels.empty.sign.grab().toImage()
    inks = {sign.pixel(x, y) for x in range(0, sign.width(), 2) for y in range(0, sign.height(), 2)}
    assert len(inks) > 8  # something is drawn
    qtbot.mouseClick(panels.empty.button, Qt.MouseButton.LeftButton)
    assert sample_window.here == "tape"
