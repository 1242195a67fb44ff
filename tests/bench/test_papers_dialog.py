"""The papers in the window: looked at sheet by sheet before paper, parts ticked, printed full size by the desktop's own way."""

from collections.abc import Callable
from pathlib import Path

import numpy as np
import pypdfium2 as pdfium
import pytest
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job

from omnipel.bench.commands.papers import PRINTED, PapersDialog
from omnipel.bench.parts.pages import printed
from omnipel.bench.window.window import Window
from omnipel.exchange.booklet import USUAL
from omnipel.exchange.exports import EXPORTS


def shown(window: Window, qtbot: QtBot, export: str, name: str = "Rain butt") -> PapersDialog:
    open_job(window, name, "panels")
    dialog = PapersDialog(window, window.session, EXPORTS[export])
    dialog.show()
    if dialog.many.isVisible():
        dialog.many.click()
    qtbot.waitUntil(lambda: dialog.content is not None, timeout=30_000)
    return dialog


def image(content: bytes, page: int, dots: float = 60.0) -> np.ndarray:
    document = pdfium.PdfDocument(content)
    made = document[page].render(scale=dots / 72.0, grayscale=True).to_numpy().copy()
    document.close()
    return np.squeeze(made).astype(float)


def test_the_booklet_is_looked_at_sheet_by_sheet_and_its_parts_are_ticked(sample_window: Window, qtbot: QtBot) -> None:
    dialog = shown(sample_window, qtbot, "book")
    assert {key for key, box in dialog.ticked.items() if box.isChecked()} == set(USUAL)
    sheets = dialog.preview.sheets
    assert sheets is not None
    assert dialog.preview.small.count() == sheets.count > 8
    assert f"{sheets.count} sheets" in dialog.sheets.text()
    qtbot.waitUntil(lambda: dialog.preview.next == sheets.count, timeout=30_000)
    assert len({dialog.preview.small.item(k).icon().cacheKey() for k in range(sheets.count)}) == sheets.count
    dialog.preview.small.setCurrentRow(3)
    assert "Sheet 4 of" in dialog.preview.large.accessibleName()
    before = sheets.count
    dialog.ticked["order"].click()
    qtbot.waitUntil(lambda: dialog.content is not None and dialog.preview.small.count() < before, timeout=30_000)
    assert "order" not in dialog.order().parts
    for box in dialog.ticked.values():
        if box.isChecked():
            box.click()
    assert not dialog.write_it.isEnabled()
    assert "Tick what is to be in it" in dialog.sheets.text()
    dialog.reject()


@pytest.mark.parametrize("export", ["tiles", "lay"])
def test_what_is_printed_is_what_is_in_the_file_full_size(
    export: str, sample_window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    dialog = shown(sample_window, qtbot, export)
    content = dialog.content
    assert content is not None
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setResolution(150)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    told: list[int] = []
    printer.setFromTo(1, 2)
    count = printed(printer, content, lambda n, _all: told.append(n))
    there = (tmp_path / "printed.pdf").read_bytes()
    wanted, got = pdfium.PdfDocument(content), pdfium.PdfDocument(there)
    assert count == len(got) == min(2, len(wanted)) == told[-1]
    for k in range(count):
        assert got.get_page_size(k) == pytest.approx(wanted.get_page_size(k), abs=1.0)
        a, b = image(content, k), image(there, k)
        high, wide = min(a.shape[0], b.shape[0]), min(a.shape[1], b.shape[1])
        assert np.abs(a[:high, :wide] - b[:high, :wide]).mean() < 6.0
        ink = [np.argwhere(side < 225.0) for side in (a, b)]
        assert np.abs(ink[0].min(axis=0) - ink[1].min(axis=0)).max() <= 1
        assert np.abs(ink[0].max(axis=0) - ink[1].max(axis=0)).max() <= 1
    dialog.reject()


def test_the_desktops_own_dialog_is_asked(
    sample_window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    dialog = shown(sample_window, qtbot, "sheet")
    went: list[bytes] = []
    answer = [QDialog.DialogCode.Rejected]
    monkeypatch.setattr(QPrintDialog, "exec", lambda _self: answer[0])
    monkeypatch.setattr("omnipel.bench.commands.papers.printed", lambda _printer, content: went.append(content) or 1)
    dialog.print_it.click()
    assert not went
    assert dialog.isVisible()
    answer[0] = QDialog.DialogCode.Accepted
    content = dialog.content
    dialog.print_it.click()
    assert went == [content]
    assert dialog.result() == PRINTED
    assert "went to the printer" in sample_window.working.text.text()


def test_a_drawing_is_seen_before_it_is_written_whole_or_a_part_of_it(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "panels")
    dialog = PapersDialog(sample_window, sample_window.session, EXPORTS["dxf"])
    dialog.show()
    assert dialog.of_what.isVisible()
    assert not dialog.on_paper.isVisible()
    assert not dialog.preview.isVisible()
    whole = dialog.drawing.drawing.bounds
    dialog.of.show_value("lid")
    dialog.of.activated.emit(dialog.of.currentIndex())
    assert dialog.order().of == "lid"
    assert dialog.drawing.drawing.bounds != whole
    dialog.reject()


def test_more_sheets_than_one_wants_are_not_made_before_one_says_so(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Honey extractor", "panels")
    dialog = PapersDialog(sample_window, sample_window.session, EXPORTS["tiles"])
    dialog.show()
    assert dialog.many.isVisible()
    assert not dialog.write_it.isEnabled()
    qtbot.wait(400)
    assert dialog.content is None
    dialog.many.click()
    qtbot.waitUntil(lambda: dialog.content is not None, timeout=30_000)
    assert dialog.write_it.isEnabled()
    dialog.reject()


def test_a_dialog_that_is_gone_takes_no_sheets(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "panels")
    made: Callable[[], PapersDialog] = lambda: PapersDialog(sample_window, sample_window.session, EXPORTS["book"])  # noqa: E731
    for wait in (0, 210):
        dialog = made()
        dialog.show()
        qtbot.wait(wait)
        dialog.reject()
        dialog.deleteLater()
        qtbot.wait(50)
    qtbot.waitUntil(lambda: sample_window.session.works.idle, timeout=30_000)


def test_what_is_chosen_in_between_and_has_no_sheets_is_not_taken_for_sheets(sample_window: Window, qtbot: QtBot) -> None:
    dialog = shown(sample_window, qtbot, "sheet")
    for export in ("lay", "travel", "sheet", "json"):
        dialog.what.show_value(EXPORTS[export])
        dialog._chosen()
        qtbot.wait(20)
    qtbot.wait(500)
    assert dialog.content is None
    assert not dialog.preview.isVisible()
    assert not dialog.print_it.isVisible()
    dialog.reject()
