"""What a job can be written as: one registry line each. The menu, the command line and the dialog that asks where to follow it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from omnipel.core.pictures.pens import PAPERS, SMALL
from omnipel.core.words.phrases import NOTHING, Name, Phrase, tr, trn
from omnipel.exchange import writers
from omnipel.exchange.asked import NotExported, Order

if TYPE_CHECKING:
    from omnipel.core.draft import Draft

MANY: Final = 30
"""More sheets than this are asked about before they are made."""
MOST: Final = 5000
"""More sheets than this are never made: five reams of tiles are no pattern."""


@dataclass(frozen=True, slots=True)
class Export:
    """One way to write a job.

    Args:
        id: stable name; the command line's option and the menu's command.
        words: what it is called.
        about: what is in it, in a sentence.
        kind: what files of its kind are called in a file dialog.
        suffix: of its file.
        begins: how a file of its kind begins: such a one may be written anew without a question on the command line.
        make: makes the file's content; only called when nothing stands in the way.
        next: what to do with it.
        needs_panels: there must be panels to write it.
        papers: which papers it can be put on; none when it knows no sheets.
        sheets: how many sheets an order takes, without making them.
        keys: its key sequence in the window, "" for none.
        menu: what the menu calls it.
        because: why a job cannot be written so yet; nothing where it can.
    """

    id: str
    words: Phrase
    about: Phrase
    kind: Phrase
    suffix: str
    begins: bytes
    make: Callable[[Order], bytes]
    next: Phrase
    needs_panels: bool = True
    papers: tuple[str, ...] = ()
    sheets: Callable[[Order], int] | None = None
    keys: str = ""
    menu: Phrase | None = None
    because: Callable[[Draft], Phrase] = lambda _draft: NOTHING

    def possible(self, draft: Draft | None) -> bool:
        """Whether there is what it needs."""
        return draft is not None and (not self.needs_panels or bool(draft.panels)) and not self.because(draft)


DESPITE_STOP: Final = "despite-stop"
MANY_SHEETS: Final = "many"


def exported(export: Export, order: Order, *said: str) -> bytes:
    """The content of the file. `said` are the questions that a person has answered with yes.

    Raises:
        NotExported: there are no panels yet; or a finding says do not cut, or it takes very many sheets, and nobody said so.
    """
    draft, voice = order.draft, order.voice
    first = Name(voice.sentence(draft.findings[0].text)) if draft.findings else Name("")
    if why := export.because(draft):
        raise NotExported(why)
    if not export.possible(draft):
        raise NotExported(tr("there are no panels yet. {finding}", finding=first))
    if export.needs_panels and draft.stops and DESPITE_STOP not in said:
        raise NotExported(tr("do not cut. {finding}", finding=first), DESPITE_STOP)
    count = export.sheets(order) if export.sheets is not None else 0
    if count > MOST:
        raise NotExported(trn("that is {n} sheet: take a larger paper", "that is {n} sheets: take a larger paper", count))
    if count > MANY and MANY_SHEETS not in said:
        raise NotExported(
            trn("that is {n} sheet; a larger paper takes fewer", "that is {n} sheets; a larger paper takes fewer", count),
            MANY_SHEETS,
        )
    return export.make(order)


PDF: Final = tr("PDF")
CSV: Final = tr("Comma-separated values")
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
        writers.pattern,
        tr("Print at 100 % and measure the test square first."),
        papers=tuple(PAPERS),
        sheets=writers.pattern_sheets,
        keys="Ctrl+P",
        menu=tr("Print the pattern"),
    ),
    Export(
        "sheet",
        tr("Cutting sheet alone"),
        tr("Every panel with its count, finished and cut sizes, and their sums; seams, edges, and the order of work in short."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.cutting_sheet,
        tr("It goes to the cutting table."),
        papers=SMALL,
        sheets=writers.cutting_sheets,
    ),
    Export(
        "tiles",
        tr("Pattern, everything full size"),
        tr("Cutting sheet on one page, then every panel full size with a test square, tile map and registration marks."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.tiles,
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
        writers.marking,
        tr("It goes to the cloth, with chalk and a yardstick."),
        papers=SMALL,
    ),
    Export(
        "lay",
        tr("Lay"),
        tr(
            "How the pieces lie on each cloth, in the order of cutting, with their distances from the squared end and the selvage."
        ),
        PDF,
        ".pdf",
        b"%PDF",
        writers.lay,
        tr("It goes to the cutting table."),
        papers=SMALL,
        keys="Ctrl+Shift+L",
    ),
    Export(
        "shopping",
        tr("Shopping list"),
        tr("Everything that is to be bought, what the stash has of it, and what it costs."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.shopping,
        tr("It goes to the shop."),
        papers=SMALL,
    ),
    Export(
        "order",
        tr("Order of work"),
        tr("Every step with a box to tick, its picture, what to set, to mind and to check, and how long it takes."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.work_order,
        tr("It goes to the machine."),
        papers=SMALL,
        keys="Ctrl+Shift+O",
    ),
    Export(
        "told",
        tr("Order of work, told in full"),
        tr("The same, and of each kind of step, where it comes first, how it is done, sentence by sentence."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.work_order_told,
        tr("It goes to whoever sews this for the first time."),
        papers=SMALL,
    ),
    Export(
        "pieces",
        tr("Cutting list as a table"),
        tr("Every piece in the order of cutting, with its place and size."),
        CSV,
        ".csv",
        b"\xef\xbb\xbf",
        writers.cutting_csv,
        tr("Lengths in it are in the job's unit."),
    ),
    Export(
        "purchases",
        tr("Shopping list as a table"),
        tr("Everything that is to be bought, with prices where they are known."),
        CSV,
        ".csv",
        b"\xef\xbb\xbf",
        writers.shopping_csv,
        tr("What has no price has an empty cell."),
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
        "card",
        tr("Blank tape card"),
        tr("Where each tape goes, with boxes to fill in by pencil in the yard."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.tape_card,
        tr("A pencil and the tape are all it needs."),
        needs_panels=False,
        papers=SMALL,
        keys="Ctrl+T",
    ),
    Export(
        "logbook",
        tr("Logbook"),
        tr("What its covers were made as and how they went on, what happened to them, with photos, and what is due."),
        PDF,
        ".pdf",
        b"%PDF",
        writers.logbook,
        tr("It goes to whoever looks after the thing."),
        needs_panels=False,
        papers=SMALL,
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
    Export(
        "json",
        tr("Draft as plain data"),
        tr("Sizes, panels, seams, fit and findings for other programs, as docs/file-format.md tells."),
        tr("Plain data"),
        ".json",
        b"{",
        writers.data,
        tr("Lengths in it are millimetres."),
        needs_panels=False,
    ),
)
EXPORTS: Final[dict[str, Export]] = {export.id: export for export in _ALL}
