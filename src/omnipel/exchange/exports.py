"""What a job can be written as: one registry line each. The menu, the command line and the dialog that asks where to follow it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from omnipel.core.pictures.pens import PAPERS, SMALL
from omnipel.core.words.phrases import Phrase, tr
from omnipel.exchange import writers
from omnipel.exchange.asked import Order
from omnipel.exchange.data_exports import DATA
from omnipel.exchange.export import Export

PDF: Final = tr("PDF")
CSV: Final = tr("Comma-separated values")


def paper(
    key: str,
    words: Phrase,
    about: Phrase,
    then: Phrase,
    *,
    needs_panels: bool = True,
    sheets: Callable[[Order], int] | None = None,
    keys: str = "",
) -> Export:
    """A part of the booklet, printed by itself on any small paper."""
    made = writers.printed(key)
    return Export(
        key, words, about, PDF, ".pdf", b"%PDF", made, then, needs_panels=needs_panels, papers=SMALL, sheets=sheets, keys=keys
    )


def table(
    key: str, words: Phrase, about: Phrase, made: Callable[[Order], bytes], then: Phrase, *, needs_panels: bool = True
) -> Export:
    """A table for any office program."""
    return Export(key, words, about, CSV, ".csv", b"\xef\xbb\xbf", made, then, needs_panels=needs_panels)


_ALL: Final = (
    Export(
        "pdf",
        tr("Pattern"),
        tr(
            "Cutting sheet, then what is chalked by its numbers, and full size, with test square and tile map, what needs a template."
        ),
        PDF,
        ".pdf",
        b"%PDF",
        writers.printed("pattern"),
        tr("Print at 100 % and measure the test square first."),
        papers=tuple(PAPERS),
        sheets=writers.pattern_sheets,
        keys="Ctrl+P",
        menu=tr("Print the pattern"),
    ),
    Export(
        "book",
        tr("The whole job as a booklet"),
        tr(
            "Title page, readings, cutting sheet, marking out, lay, shopping list, order of work, labels, try-on, care: or what of it is wanted."
        ),
        PDF,
        ".pdf",
        b"%PDF",
        writers.booklet,
        tr("It goes into the folder, and with the job to the bench."),
        papers=tuple(PAPERS),
        in_booklet=True,
        keys="Ctrl+Shift+P",
    ),
    paper(
        "sheet",
        tr("Cutting sheet alone"),
        tr("Every panel with its count, finished and cut sizes, and their sums; seams, edges, and the order of work in short."),
        tr("It goes to the cutting table."),
        sheets=writers.cutting_sheets,
    ),
    Export(
        "tiles",
        tr("Pattern, everything full size"),
        tr("Cutting sheet on one page, then every panel full size with a test square, tile map and registration marks."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.printed("tiles"),
        tr("Print at 100 % and measure the test square first."),
        papers=tuple(PAPERS),
        sheets=writers.tile_sheets,
    ),
    Export(
        "marking",
        tr("Marking-out sheet"),
        tr("Every panel by its numbers for chalk, yardstick and string, from one baseline and one end."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.printed("allmarking"),
        tr("It goes to the cloth, with chalk and a yardstick."),
        papers=SMALL,
    ),
    paper(
        "lay",
        tr("Lay"),
        tr(
            "How the pieces lie on each cloth, in the order of cutting, with their distances from the squared end and the selvage."
        ),
        tr("It goes to the cutting table."),
        keys="Ctrl+Shift+L",
    ),
    paper(
        "shopping",
        tr("Shopping list"),
        tr("Everything that is to be bought, what the stash has of it, and what it costs."),
        tr("It goes to the shop."),
    ),
    paper(
        "order",
        tr("Order of work"),
        tr("Every step with a box to tick, its picture, what to set, to mind and to check, and how long it takes."),
        tr("It goes to the machine."),
        keys="Ctrl+Shift+O",
    ),
    paper(
        "told",
        tr("Order of work, told in full"),
        tr("The same, and of each kind of step, where it comes first, how it is done, sentence by sentence."),
        tr("It goes to whoever sews this for the first time."),
    ),
    table(
        "pieces",
        tr("Cutting list as a table"),
        tr("Every piece in the order of cutting, with its place and size."),
        writers.cutting_csv,
        tr("Lengths in it are in the job's unit."),
    ),
    table(
        "purchases",
        tr("Shopping list as a table"),
        tr("Everything that is to be bought, with prices where they are known."),
        writers.shopping_csv,
        tr("What has no price has an empty cell."),
    ),
    table(
        "panels",
        tr("Panels as a table"),
        tr("Every panel with its count, its cloth, finished and cut sizes."),
        writers.table("panels"),
        tr("Lengths in it are in the job's unit."),
    ),
    table(
        "steps",
        tr("Order of work as a table"),
        tr("Every step with where, how long and what to mind."),
        writers.table("steps"),
        tr("Minutes in it are of one cover, or of the batch."),
    ),
    table(
        "taken",
        tr("Readings as a table"),
        tr("What was read at each place; what is empty can be filled in and the table brought in again."),
        writers.table("readings"),
        tr("Fill in what is missing, then bring it in at Tape."),
        needs_panels=False,
    ),
    table(
        "happened",
        tr("Logbook as a table"),
        tr("What happened to the covers of the thing, the latest first."),
        writers.table("log"),
        tr("It opens in any office program."),
        needs_panels=False,
    ),
    Export(
        "spreadsheet",
        tr("Cutting and shopping lists as a spreadsheet"),
        tr("Both lists as the sheets of an OpenDocument spreadsheet."),
        tr("OpenDocument spreadsheet"),
        ".ods",
        b"PK",
        writers.spreadsheet,
        tr("It opens in any office program."),
    ),
    Export(
        "svg",
        tr("Drawing, full size"),
        tr("All panels in millimetres for a drawing program, cut and sew lines in layers of their own."),
        tr("SVG drawing"),
        ".svg",
        b"<?xml",
        writers.svg,
        tr("One unit in it is one millimetre."),
        in_parts=True,
    ),
    Export(
        "svgs",
        tr("Drawings, one for each panel"),
        tr("The same, each panel in a file of its own, together in an archive."),
        tr("Archive of drawings"),
        ".zip",
        b"PK",
        writers.svgs,
        tr("One unit in it is one millimetre."),
    ),
    Export(
        "dxf",
        tr("Drawing for a cutting program"),
        tr("Closed outlines, true arcs and a layer for each kind of line, in millimetres: all panels, one of them, or a lay."),
        tr("DXF drawing, R2000"),
        ".dxf",
        b"  0\r\nSECTION",
        writers.dxf,
        tr("One unit in it is one millimetre; what is cut is on the layer CUT."),
        in_parts=True,
    ),
    Export(
        "dxf12",
        tr("Drawing for an old cutting program"),
        tr("The same as programs read it since 1992. It says no unit: one is a millimetre."),
        tr("DXF drawing, R12"),
        ".dxf",
        b"  0\r\nSECTION",
        writers.dxf12,
        tr("One unit in it is one millimetre; what is cut is on the layer CUT."),
        in_parts=True,
    ),
    Export(
        "hpgl",
        tr("Instructions for a cutter or plotter"),
        tr("A pen draws the marks, then a knife cuts openings and outlines, one after the other on the shortest way."),
        tr("HPGL file"),
        ".plt",
        b"IN;",
        writers.hpgl,
        tr("It goes to the machine as it is."),
        in_parts=True,
        machine=True,
    ),
    Export(
        "obj",
        tr("Sewn cover in space"),
        tr("Every piece where it lies when it is sewn, and the object beneath, for a program that shows things in space."),
        tr("Wavefront model"),
        ".obj",
        b"# ",
        writers.obj,
        tr("One unit in it is one millimetre; z is up."),
    ),
    Export(
        "ply",
        tr("Sewn cover in space, with colours"),
        tr("The same as a list of faces, each with its colour and the number of its piece."),
        tr("PLY model"),
        ".ply",
        b"ply\n",
        writers.ply,
        tr("One unit in it is one millimetre; z is up."),
    ),
    paper(
        "readings",
        tr("Readings"),
        tr("Every reading with the way of its tape, its numbers and the instrument; what sticks out."),
        tr("It shows what the cover was made to."),
        needs_panels=False,
    ),
    paper(
        "labels",
        tr("Labels to pin on"),
        tr("One for each piece: what it is, how large, which cloth, the grain, this side up."),
        tr("Cut them apart and pin one on each piece as it is cut."),
    ),
    paper(
        "tryon",
        tr("Try-on sheet"),
        tr("How it goes on, sizes to measure beside what was planned, a picture to mark where it pulls."),
        tr("It goes to the thing, with the cover and a tape."),
    ),
    paper(
        "care",
        tr("Care label"),
        tr("How the cover is washed, dried and kept, to read, and as a label for each cover."),
        tr("It goes with the cover."),
    ),
    paper(
        "card",
        tr("Blank tape card"),
        tr("Where each tape goes, with boxes to fill in by pencil in the yard."),
        tr("A pencil and the tape are all it needs."),
        needs_panels=False,
        keys="Ctrl+T",
    ),
    paper(
        "logbook",
        tr("Logbook"),
        tr("What its covers were made as and how they went on, what happened to them, with photos, and what is due."),
        tr("It goes to whoever looks after the thing."),
        needs_panels=False,
    ),
    Export(
        "log",
        tr("Logbook as plain data"),
        tr("Try-ons, alterations, what happened and what is due, for other programs, as docs/file-format.md tells."),
        tr("Plain data"),
        ".json",
        b"{",
        writers.log_data,
        tr("Lengths in it are millimetres."),
        needs_panels=False,
    ),
    Export(
        "calendar",
        tr("Due dates for a calendar"),
        tr("When to look at the cover, to re-proof it, to make it anew: a day for each, with why."),
        tr("Calendar"),
        ".ics",
        b"BEGIN:VCALENDAR",
        writers.calendar,
        tr("It opens in any calendar program."),
        needs_panels=False,
        because=writers.nothing_due,
    ),
    Export(
        "travel",
        tr("Job with its photos, to travel"),
        tr("Everything of this job in one file, its photos too; another Omnipel brings it in."),
        tr("Omnipel job"),
        ".omnipel",
        b"PK",
        writers.travel,
        tr("Open it on the other machine, or drag it onto the shelf."),
        needs_panels=False,
        keys="Ctrl+Shift+E",
    ),
    *DATA,
)
EXPORTS: Final[dict[str, Export]] = {export.id: export for export in _ALL}
