"""What a job can be written as: one registry line each. The menu, the command line and the dialog that asks where to follow it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from omnipel.core.pictures.pens import PAPERS, SMALL
from omnipel.core.words.phrases import Name, Phrase, Refusal, Voice, tr, trn

if TYPE_CHECKING:
    from omnipel.core.cloth.stock import Stock
    from omnipel.core.draft import Draft, Drafted
    from omnipel.exchange.tables import Table

MANY: Final = 30
"""More sheets than this are asked about before they are made."""
MOST: Final = 5000
"""More sheets than this are never made: five reams of tiles are no pattern."""


@dataclass(frozen=True, slots=True)
class Order:
    """What is to be written: a draft, in whose words, on which paper; what the shop has, where that is known."""

    draft: Draft
    voice: Voice
    paper: str
    stock: Stock | None = None


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

    def possible(self, draft: Draft | None) -> bool:
        """Whether there is what it needs."""
        return draft is not None and (not self.needs_panels or bool(draft.panels))


class NotExported(Refusal):
    """An export that is not made, and why; `asks` when it would be if a person said so."""

    def __init__(self, phrase: Phrase, asks: str = "") -> None:
        self.asks = asks
        super().__init__(phrase)


DESPITE_STOP: Final = "despite-stop"
MANY_SHEETS: Final = "many"


def exported(export: Export, order: Order, *said: str) -> bytes:
    """The content of the file. `said` are the questions that a person has answered with yes.

    Raises:
        NotExported: there are no panels yet; or a finding says do not cut, or it takes very many sheets, and nobody said so.
    """
    draft, voice = order.draft, order.voice
    first = Name(voice.sentence(draft.findings[0].text)) if draft.findings else Name("")
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


# The writers load libraries for documents, a tenth of the whole start: only when something is written.


def _pattern(order: Order) -> bytes:
    from omnipel.exchange.pattern import pattern_pdf

    return pattern_pdf(_drafted(order), order.paper, order.voice)


def _pattern_sheets(order: Order) -> int:
    from omnipel.exchange.pattern import sheets

    return sheets(_drafted(order), order.paper, order.voice)


def _tiles(order: Order) -> bytes:
    from omnipel.exchange.pattern import pattern_pdf

    return pattern_pdf(_drafted(order), order.paper, order.voice, full=True)


def _tile_sheets(order: Order) -> int:
    from omnipel.exchange.pattern import sheets

    return sheets(_drafted(order), order.paper, order.voice, full=True)


def _marking(order: Order) -> bytes:
    from omnipel.exchange.pattern import marking_out_pdf

    return marking_out_pdf(_drafted(order), order.paper, order.voice)


def _lay(order: Order) -> bytes:
    from omnipel.exchange.lay_sheet import lay_pdf

    return lay_pdf(_drafted(order), order.paper, order.voice)


def _shopping(order: Order) -> bytes:
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.exchange.lay_sheet import shopping_pdf

    return shopping_pdf(_drafted(order), order.paper, order.voice, order.stock or NOTHING_THERE)


def _tables(order: Order) -> tuple[Table, Table]:
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.exchange.tables import tables_of

    return tables_of(_drafted(order), order.voice, order.stock or NOTHING_THERE)


def _cutting_csv(order: Order) -> bytes:
    from omnipel.exchange.tables import as_csv

    return as_csv(_tables(order)[0])


def _shopping_csv(order: Order) -> bytes:
    from omnipel.exchange.tables import as_csv

    return as_csv(_tables(order)[1])


def _spreadsheet(order: Order) -> bytes:
    from omnipel.exchange.tables import as_spreadsheet

    return as_spreadsheet(_tables(order))


def _cutting_sheet(order: Order) -> bytes:
    from omnipel.exchange.pattern import cutting_sheet_pdf

    return cutting_sheet_pdf(_drafted(order), order.paper, order.voice)


def _svg(order: Order) -> bytes:
    from omnipel.exchange.svg import svg

    return svg(_drafted(order), order.voice).encode()


def _obj(order: Order) -> bytes:
    from omnipel.exchange.obj import obj

    return obj(_drafted(order)).encode()


def _tape_card(order: Order) -> bytes:
    from omnipel.core.forms import FORMS
    from omnipel.exchange.tape_card import tape_card
    from omnipel.shop.starter import plausible

    job = order.draft.job
    form = FORMS.get(job.thing.form)
    if form is None:
        raise NotExported(tr("there is no form named “{form}”", form=Name(job.thing.form)))
    return tape_card(job, plausible(job), form.places(job.readings, job.thing), order.paper, order.voice)


def _data(order: Order) -> bytes:
    import json

    from omnipel.exchange.report import report

    return (json.dumps(report(order.draft, order.voice), indent=1, ensure_ascii=False) + "\n").encode()


def _drafted(order: Order) -> Drafted:
    from omnipel.core.draft import Drafted

    if not isinstance(order.draft, Drafted):
        raise NotExported(tr("there are no panels yet"))
    return order.draft


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
        _pattern,
        tr("Print at 100 % and measure the test square first."),
        papers=tuple(PAPERS),
        sheets=_pattern_sheets,
        keys="Ctrl+P",
        menu=tr("Print the pattern"),
    ),
    Export(
        "sheet",
        tr("Cutting sheet alone"),
        tr("Every panel with its count, finished and cut sizes, and their sums, on one page."),
        PDF,
        ".pdf",
        b"%PDF",
        _cutting_sheet,
        tr("It goes to the cutting table."),
        papers=SMALL,
        sheets=lambda _order: 1,
    ),
    Export(
        "tiles",
        tr("Pattern, everything full size"),
        tr("Cutting sheet on one page, then every panel full size with a test square, tile map and registration marks."),
        PDF,
        ".pdf",
        b"%PDF",
        _tiles,
        tr("Print at 100 % and measure the test square first."),
        papers=tuple(PAPERS),
        sheets=_tile_sheets,
    ),
    Export(
        "marking",
        tr("Marking-out sheet"),
        tr("Every panel by its numbers for chalk, yardstick and string, from one baseline and one end."),
        PDF,
        ".pdf",
        b"%PDF",
        _marking,
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
        _lay,
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
        _shopping,
        tr("It goes to the shop."),
        papers=SMALL,
    ),
    Export(
        "pieces",
        tr("Cutting list as a table"),
        tr("Every piece in the order of cutting, with its place and size."),
        CSV,
        ".csv",
        b"\xef\xbb\xbf",
        _cutting_csv,
        tr("Lengths in it are in the job's unit."),
    ),
    Export(
        "purchases",
        tr("Shopping list as a table"),
        tr("Everything that is to be bought, with prices where they are known."),
        CSV,
        ".csv",
        b"\xef\xbb\xbf",
        _shopping_csv,
        tr("What has no price has an empty cell."),
    ),
    Export(
        "spreadsheet",
        tr("Cutting and shopping lists as a spreadsheet"),
        tr("Both lists as the sheets of an OpenDocument spreadsheet."),
        tr("OpenDocument spreadsheet"),
        ".ods",
        b"PK",
        _spreadsheet,
        tr("It opens in any office program."),
    ),
    Export(
        "svg",
        tr("Drawing, full size"),
        tr("All panels in millimetres for a drawing program, cut and sew lines in layers of their own."),
        tr("SVG drawing"),
        ".svg",
        b"<?xml",
        _svg,
        tr("One unit in it is one millimetre."),
    ),
    Export(
        "obj",
        tr("Sewn cover in space"),
        tr("Every piece where it lies when it is sewn, and the object beneath, for a program that shows things in space."),
        tr("Wavefront model"),
        ".obj",
        b"# ",
        _obj,
        tr("One unit in it is one millimetre; z is up."),
    ),
    Export(
        "card",
        tr("Blank tape card"),
        tr("Where each tape goes, with boxes to fill in by pencil in the yard."),
        PDF,
        ".pdf",
        b"%PDF",
        _tape_card,
        tr("A pencil and the tape are all it needs."),
        needs_panels=False,
        papers=SMALL,
        keys="Ctrl+T",
    ),
    Export(
        "json",
        tr("Draft as plain data"),
        tr("Sizes, panels, seams, fit and findings for other programs, as docs/file-format.md tells."),
        tr("Plain data"),
        ".json",
        b"{",
        _data,
        tr("Lengths in it are millimetres."),
        needs_panels=False,
    ),
)
EXPORTS: Final[dict[str, Export]] = {export.id: export for export in _ALL}
