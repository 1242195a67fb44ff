"""Readings from a table (CSV), as `files/lists.py` writes it or as somebody made it: a letter or a place in each row, and what was read there."""

from __future__ import annotations

import csv
import io
import re
from pathlib import Path
from typing import Final

from omnipel.core.draft import letters
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job, with_reading
from omnipel.core.job.reading import MOST_REPEATS, Instrument, Reading
from omnipel.core.words.notation import TapeError, parse_length
from omnipel.core.words.phrases import Count, Name, Phrase, plain, tr
from omnipel.core.words.units import Unit
from omnipel.exchange.files.lists import BESIDE, COUNTS, INSTRUMENT, LETTER, NOTE, PLACE
from omnipel.shop.document import DocumentError
from omnipel.shop.reasons import reason_of

LARGEST: Final = 1_000_000
MOST_ROWS: Final = 500
NUMBER: Final = re.compile(r"(\d+)\s*(?:\((\w+)\))?")
UNITS: Final = {"mm": Unit.MM, "cm": Unit.CM, "in": Unit.INCH_16}


def read_readings(path: Path, job: Job) -> tuple[Reading, ...]:
    """The readings of a table, for the places of a job's form.

    Raises:
        DocumentError: the file cannot be read, is no such table, or a row of it is no reading; says which, and why.
    """
    try:
        content = path.read_bytes()[: LARGEST + 1]
    except (OSError, ValueError) as error:
        raise DocumentError(str(path), reason_of(error)) from None
    if len(content) > LARGEST:
        raise DocumentError(path.name, tr("the table is larger than {n} bytes", n=Count(LARGEST)))
    try:
        rows = list(csv.reader(io.StringIO(content.decode("utf-8-sig"), newline=""), dialect=_dialect(content)))
    except (UnicodeDecodeError, csv.Error) as error:
        raise DocumentError(path.name, tr("this is no table: {fault}", fault=Name(str(error)))) from None
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    if len(rows) < 2 or len(rows) > MOST_ROWS:
        raise DocumentError(path.name, tr("this is no table of readings"))
    heads = [cell.strip().casefold() for cell in rows[0]]
    if LETTER not in heads and PLACE not in heads:
        raise DocumentError(path.name, tr("a column named “letter” or “place” is missing"))
    made = []
    for number, row in enumerate(rows[1:], 2):
        try:
            reading = _reading(dict(zip(heads, (cell.strip() for cell in row), strict=False)), job)  # marks add places
        except (TapeError, _Wrong) as fault:
            raise DocumentError(path.name, tr("row {n}: {fault}", n=Count(number), fault=fault.phrase)) from None
        if reading is not None:
            made.append(reading)
            job = with_reading(job, reading)
    if len({reading.place for reading in made}) < len(made):
        raise DocumentError(path.name, tr("a place stands in it twice"))
    return tuple(made)


class _Wrong(ValueError):
    """A row that is no reading; `phrase` says why."""

    def __init__(self, phrase: Phrase) -> None:
        self.phrase = phrase
        super().__init__(str(phrase))


def _dialect(content: bytes) -> type[csv.Dialect]:
    """Commas, or semicolons where a comma is the decimal sign."""
    first = content.split(b"\n", 1)[0]

    class Found(csv.excel):
        delimiter = ";" if first.count(b";") > first.count(b",") else ","

    return Found


def _reading(cells: dict[str, str], job: Job) -> Reading | None:
    """A row as a reading; None where nothing was read."""
    form = FORMS.get(job.thing.form)
    if form is None:
        raise _Wrong(tr("there is no form named “{form}”", form=Name(job.thing.form)))
    places = form.places(job.readings, job.thing)
    by_name = {place.key: place for place in places} | {letters(k).casefold(): place for k, place in enumerate(places)}
    named = cells.get(PLACE) or cells.get(LETTER, "").casefold()
    place = by_name.get(named)
    if place is None:
        raise _Wrong(tr("there is no place “{place}” on this form", place=Name(named)))
    told: list[tuple[int, float]] = []
    beside: float | None = None
    for head, text in cells.items():
        found, is_beside = NUMBER.fullmatch(head), head.startswith(BESIDE)
        if not text or not (found or is_beside):
            continue
        unit = re.search(r"\((\w+)\)", head)
        length = parse_length(
            text.replace(",", ".") if re.fullmatch(r"\d+,\d+", text) else text, UNITS.get(unit.group(1) if unit else "", job.unit)
        )
        if is_beside:
            beside = length
        elif found is not None:
            told.append((int(found.group(1)), length))
    if not told:
        return None
    repeats = tuple(length for _, length in sorted(told))[:MOST_REPEATS]
    instrument = cells.get(INSTRUMENT, "").casefold()
    known = {one.value: one for one in Instrument}
    if instrument and instrument not in known:
        raise _Wrong(tr("there is no instrument “{instrument}”", instrument=plain(instrument)))
    return Reading(
        place=place.key,
        repeats=repeats,
        instrument=known.get(instrument, Instrument.TAPE),
        beside=beside,
        set_aside=cells.get(COUNTS, "") == "no",
        note=cells.get(NOTE, "").removeprefix("'")[:500],
    )
