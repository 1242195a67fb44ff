"""Cutting and shopping lists, read back with the standard library and another reader; the lay and the marking-out sheet as they are printed."""

import csv
import io
from dataclasses import replace

import pytest
from odf.opendocument import load
from odf.table import Table as Sheet
from odf.table import TableCell, TableRow
from odf.text import P
from pdfminer.high_level import extract_text
from tests.core.cloth.test_lays import drafted_of, sample

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.lay import laid
from omnipel.core.cloth.stock import Goods, Stock
from omnipel.core.cloth.takeoff import takeoff
from omnipel.core.drafting.panel import Cloth
from omnipel.core.pictures.pens import PAPERS
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.exchange.asked import Order
from omnipel.exchange.export import exported
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.files.tables import as_csv, tables_of
from omnipel.exchange.papers.pattern import sheets, ways

STOCK = Stock({"cord 5": Goods(key="cord 5", price=0.6), "thread Tex 90": Goods(key="thread Tex 90", price=0.012, there=1e6)})


@pytest.mark.parametrize("unit", [Unit.MM, Unit.INCH_16])
def test_lists_come_back_from_csv_as_they_were_written(unit: Unit) -> None:
    drafted = drafted_of(replace(sample("Honey extractor"), unit=unit))
    voice, taken = Voice(unit), takeoff(drafted, None, STOCK)
    cutting, shopping = tables_of(drafted, voice, STOCK)
    for table in (cutting, shopping):
        rows = list(csv.reader(io.StringIO(as_csv(table).decode("utf-8-sig"), newline="")))
        assert tuple(rows[0]) == table.heads
        assert {len(row) for row in rows} == {len(table.heads)}
    lay = laid(drafted, Cloth.OUTER)
    rows = list(csv.DictReader(io.StringIO(as_csv(cutting).decode("utf-8-sig"), newline="")))
    for row, placed in zip(rows, lay.on(lay.bolt), strict=True):
        ring = lay.outline(placed)
        assert float(row[f"from the cut end ({unit.short})"]) * unit.mm == pytest.approx(float(ring[:, 0].min()), abs=0.01)
        assert float(row[f"width ({unit.short})"]) * unit.mm == pytest.approx(
            float(ring[:, 1].max() - ring[:, 1].min()), abs=0.01
        )
    bought = list(csv.DictReader(io.StringIO(as_csv(shopping).decode("utf-8-sig"), newline="")))
    assert sum(float(row["cost"]) for row in bought[:-1] if row["cost"]) == pytest.approx(taken.pay, abs=0.02)
    assert [row["cost"] for row, line in zip(bought, taken.lines, strict=False) if line.unknown] == [""] * len(taken.unknown)


@pytest.mark.parametrize("name", ["=HYPERLINK(1)", "+1", "-2+3", "@x", "\t=1", " =1+1", 'quote " and, comma'])
def test_no_name_becomes_a_formula(name: str) -> None:
    job = sample("Fermenting crock")
    drafted = drafted_of(replace(job, cover=replace(job.cover, cloth=replace(job.cover.cloth, name=name))))
    cutting, _ = tables_of(drafted, Voice(job.unit))
    for row in csv.reader(io.StringIO(as_csv(cutting).decode("utf-8-sig"), newline="")):
        assert all(not cell.lstrip().startswith(("=", "+", "-", "@")) for cell in row)
    order = Order(drafted, Voice(job.unit), "A4", STOCK)
    document = load(io.BytesIO(exported(EXPORTS["spreadsheet"], order, "despite-stop")))
    cells = document.getElementsByType(TableCell)
    assert cells
    assert all(cell.getAttribute("formula") is None for cell in cells)


def test_the_spreadsheet_has_both_lists_with_numbers_as_numbers() -> None:
    drafted = drafted_of(sample("Honey extractor"))
    voice = Voice(drafted.job.unit)
    tables = tables_of(drafted, voice, STOCK)
    document = load(io.BytesIO(exported(EXPORTS["spreadsheet"], Order(drafted, voice, "A4", STOCK))))
    read = document.getElementsByType(Sheet)
    assert [sheet.getAttribute("name") for sheet in read] == [table.name for table in tables]
    for sheet, table in zip(read, tables, strict=True):
        rows = sheet.getElementsByType(TableRow)
        assert len(rows) == len(table.rows) + 1
        for row, wanted in zip(rows[1:], table.rows, strict=True):
            for cell, value in zip(row.getElementsByType(TableCell), wanted, strict=True):
                if isinstance(value, float):
                    assert cell.getAttribute("valuetype") == "float"
                    assert float(cell.getAttribute("value")) == pytest.approx(value, abs=1e-4)
                else:
                    assert "".join(str(p) for p in cell.getElementsByType(P)) == value


def said(order: Order, export: str) -> str:
    text: str = extract_text(io.BytesIO(exported(EXPORTS[export], order, "despite-stop")))
    return text.replace("\u202f", " ")


def test_the_lay_on_paper_tells_the_order_and_the_place_of_every_piece() -> None:
    drafted = drafted_of(sample("Sprayer pump case"))
    text = said(Order(drafted, Voice(drafted.job.unit), "A4"), "lay")
    for layer in layers_of(drafted):
        lay = laid(drafted, layer)
        for placed in lay.placed:
            assert Voice(drafted.job.unit).say(lay.sheet.by_key[placed.piece].words) in text
        assert f"{round(lay.used.value):,}".replace(",", " ") in text
    assert "from the selvage" in text


def test_the_shopping_list_on_paper_says_what_is_there_what_is_paid_and_what_is_not_known() -> None:
    drafted = drafted_of(sample("Honey extractor"))
    text = said(Order(drafted, Voice(drafted.job.unit), "A4", STOCK), "shopping")
    assert "in the stash" in text
    assert "price unknown" in text
    assert f"{takeoff(drafted, None, STOCK).pay:.2f}" in text


def test_a_sheet_a_drum_and_a_boxing_no_longer_take_a_pile_of_paper() -> None:
    assert (
        sheets(drafted_of(sample("Rain butt")), PAPERS["A4"], Voice()) <= 3
    )  # its cutting sheet, with the order of work over the page
    assert sheets(drafted_of(sample("Trestle table")), PAPERS["A4"], Voice()) <= 3
    assert sheets(drafted_of(sample("Sorting turntable")), PAPERS["A4"], Voice()) <= 3
    table = drafted_of(sample("Trestle table"))
    how = ways(table, PAPERS["A4"], Voice(table.job.unit))
    assert how.whole > 20
    full = ways(table, PAPERS["A4"], Voice(table.job.unit), full=True)
    assert full.sheets == how.whole


def test_the_marking_out_sheet_tells_string_diagonals_and_match_marks_in_the_jobs_fractions() -> None:
    drafted = drafted_of(sample("Rain butt"))
    text = said(Order(drafted, Voice(drafted.job.unit), "Letter"), "marking").casefold()
    assert "both diagonals" in text
    assert "string" in text
    assert "match marks" in text
    assert " mm" not in text
