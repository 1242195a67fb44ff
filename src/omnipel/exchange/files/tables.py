"""Cutting and shopping lists as tables: for CSV (RFC 4180) and for a spreadsheet. Lengths stand in their column's unit, with a decimal point.

A cell that a spreadsheet would take for a formula is written as text: a job may come from somebody else, and its names are theirs.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.lay import Lay, laid
from omnipel.core.cloth.said import corner_of
from omnipel.core.cloth.stock import NOTHING_THERE, Stock
from omnipel.core.cloth.takeoff import Group, Takeoff, takeoff
from omnipel.core.draft import Drafted
from omnipel.core.words.phrases import Voice, term, tr
from omnipel.core.words.units import MM_PER_INCH

FORMULA: Final = ("=", "+", "-", "@", "\t", "\r", "\n")
"""How a cell begins that a spreadsheet would reckon out."""
METRE: Final = 1000.0
YARD: Final = 36.0 * MM_PER_INCH

Cell = str | float
Row = tuple[Cell, ...]


@dataclass(frozen=True)
class Table:
    """A table: what it is called, the heads of its columns, its rows."""

    name: str
    heads: tuple[str, ...]
    rows: tuple[Row, ...]


def harmless(text: str) -> str:
    """A text that no spreadsheet takes for a formula.

    >>> harmless("=1+1"), harmless("wall"), harmless(" -2")
    ("'=1+1", 'wall', "' -2")
    """
    return f"'{text}" if text.lstrip(" \u00a0").startswith(FORMULA) or text.startswith(FORMULA) else text


def cutting_table(lays: Sequence[Lay], voice: Voice) -> Table:
    """Every piece in the order in which it is cut: what, on what, where it begins, how large."""
    unit = voice.unit
    measured = (tr("from the cut end"), tr("from the selvage"), tr("length"), tr("width"))
    heads = (
        *(voice.say(words) for words in (tr("cloth"), tr("on"), tr("order"), tr("piece"), tr("cut mirrored"))),
        *(f"{voice.say(words)} ({unit.short})" for words in measured),
    )
    rows: list[Row] = []
    for lay in lays:
        layer = voice.say(term(lay.layer.value))
        for ground in lay.grounds:
            for number, placed in enumerate(lay.on(ground), 1):
                ring, cut = lay.outline(placed), lay.sheet.by_key[placed.piece]
                low, size = corner_of(lay, placed), ring.max(axis=0) - ring.min(axis=0)
                numbers = (round(float(value) / unit.mm, 4) for value in (*low, *size))
                turned = voice.say(tr("yes")) if cut.mirrored else voice.say(tr("no"))
                rows.append((layer, voice.say(ground.name), float(number), voice.say(cut.words), turned, *numbers))
    return Table(voice.say(tr("cutting list")), heads, tuple(rows))


def shopping_table(taken: Takeoff, voice: Voice) -> Table:
    """Everything that is bought: how much, what of it is there, price and cost; what has no price has an empty cell."""
    run, short = (YARD, "yd") if voice.unit.denominator else (METRE, "m")
    columns = (tr("what"), tr("needed"), tr("unit"), tr("in the stash"), tr("to buy"), tr("price"), tr("cost"), tr("remark"))
    rows: list[Row] = []
    for line in taken.lines:
        per = run if line.by_length else 1.0
        amounts = [round(value / per, 4) for value in (line.needed.value, line.stashed, line.to_buy)]
        own = line.group is Group.OWN
        price: Cell = "" if line.price is None or own else round(line.price * (per / METRE if line.by_length else 1.0), 4)
        cost: Cell = "" if line.unknown or own else round(line.cost(line.to_buy), 2)
        remark = tr("cut from the cloth") if own else tr("price unknown") if line.unknown else line.note
        unit = short if line.by_length else voice.say(tr("pieces"))
        rows.append((voice.say(line.words), amounts[0], unit, amounts[1], amounts[2], price, cost, voice.say(remark)))
    rest = voice.say(tr("without what has no price")) if taken.unknown else ""
    rows.append((voice.say(tr("to pay now")), "", "", "", "", "", round(taken.pay, 2), rest))
    return Table(voice.say(tr("shopping list")), tuple(voice.say(words) for words in columns), tuple(rows))


def tables_of(drafted: Drafted, voice: Voice, stock: Stock = NOTHING_THERE) -> tuple[Table, Table]:
    """The cutting list and the shopping list of a job."""
    lays = [laid(drafted, layer) for layer in layers_of(drafted)]
    return cutting_table(lays, voice), shopping_table(takeoff(drafted, lays, stock), voice)


def as_csv(table: Table) -> bytes:
    """A table as comma-separated values."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([harmless(head) for head in table.heads])
    writer.writerows([[harmless(cell) if isinstance(cell, str) else _plain(cell) for cell in row] for row in table.rows])
    return out.getvalue().encode("utf-8-sig")


def _plain(number: float) -> str:
    return f"{number:.4f}".rstrip("0").rstrip(".") or "0"


def as_spreadsheet(tables: Sequence[Table]) -> bytes:
    """Tables as the sheets of an OpenDocument spreadsheet; every text is a text, whatever it begins with."""
    from odf.opendocument import OpenDocumentSpreadsheet  # loaded when a spreadsheet is written
    from odf.style import Style, TableColumnProperties, TextProperties
    from odf.table import Table as Sheet
    from odf.table import TableCell, TableColumn, TableRow
    from odf.text import P

    document = OpenDocumentSpreadsheet()
    bold, wide = Style(name="head", family="table-cell"), Style(name="wide", family="table-column")
    bold.addElement(TextProperties(fontweight="bold"))
    wide.addElement(TableColumnProperties(columnwidth="40mm"))
    document.automaticstyles.addElement(bold)
    document.automaticstyles.addElement(wide)
    for table in tables:
        sheet = Sheet(name=table.name)
        sheet.addElement(TableColumn(numbercolumnsrepeated=len(table.heads), stylename=wide))
        for number, row in enumerate((table.heads, *table.rows)):
            made = TableRow()
            for value in row:
                text = _printable(value) if isinstance(value, str) else _plain(value)
                kind = {"valuetype": "string"} if isinstance(value, str) else {"valuetype": "float", "value": text}
                cell = TableCell(**kind, **({"stylename": bold} if number == 0 else {}))
                cell.addElement(P(text=text))
                made.addElement(cell)
            sheet.addElement(made)
        document.spreadsheet.addElement(sheet)
    out = io.BytesIO()
    document.write(out)
    return out.getvalue()


def _printable(text: str) -> str:
    """A text without what no document of this kind may hold."""
    return "".join(
        " " if sign < " " or "\ud800" <= sign <= "\udfff" or sign in "\ufffe\uffff" else sign for sign in harmless(text)
    )
