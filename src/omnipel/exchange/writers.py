"""The writers of the registry (`exports.py`). They load libraries for documents, a tenth of the whole start: only when something is written."""

from __future__ import annotations

from typing import TYPE_CHECKING

from omnipel.core.words.phrases import NOTHING, Name, Phrase, tr
from omnipel.exchange.asked import NotExported, Order

if TYPE_CHECKING:
    from omnipel.core.draft import Draft, Drafted
    from omnipel.exchange.tables import Table


def pattern(order: Order) -> bytes:
    """The pattern."""
    from omnipel.exchange.pattern import pattern_pdf

    return pattern_pdf(_drafted(order), order.paper, order.voice)


def pattern_sheets(order: Order) -> int:
    """So many sheets it takes."""
    from omnipel.exchange.pattern import sheets

    return sheets(_drafted(order), order.paper, order.voice)


def tiles(order: Order) -> bytes:
    """The pattern with everything full size."""
    from omnipel.exchange.pattern import pattern_pdf

    return pattern_pdf(_drafted(order), order.paper, order.voice, full=True)


def tile_sheets(order: Order) -> int:
    """So many sheets that takes."""
    from omnipel.exchange.pattern import sheets

    return sheets(_drafted(order), order.paper, order.voice, full=True)


def marking(order: Order) -> bytes:
    """What is chalked."""
    from omnipel.exchange.pattern import marking_out_pdf

    return marking_out_pdf(_drafted(order), order.paper, order.voice)


def lay(order: Order) -> bytes:
    """The lay."""
    from omnipel.exchange.lay_sheet import lay_pdf

    return lay_pdf(_drafted(order), order.paper, order.voice)


def shopping(order: Order) -> bytes:
    """What is to be bought."""
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.exchange.lay_sheet import shopping_pdf

    return shopping_pdf(_drafted(order), order.paper, order.voice, order.stock or NOTHING_THERE)


def _tables(order: Order) -> tuple[Table, Table]:
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.exchange.tables import tables_of

    return tables_of(_drafted(order), order.voice, order.stock or NOTHING_THERE)


def cutting_csv(order: Order) -> bytes:
    """The cutting list as a table."""
    from omnipel.exchange.tables import as_csv

    return as_csv(_tables(order)[0])


def shopping_csv(order: Order) -> bytes:
    """The shopping list as a table."""
    from omnipel.exchange.tables import as_csv

    return as_csv(_tables(order)[1])


def spreadsheet(order: Order) -> bytes:
    """Both lists as a spreadsheet."""
    from omnipel.exchange.tables import as_spreadsheet

    return as_spreadsheet(_tables(order))


def cutting_sheet(order: Order) -> bytes:
    """The cutting sheet by itself."""
    from omnipel.exchange.pattern import cutting_sheet_pdf

    return cutting_sheet_pdf(_drafted(order), order.paper, order.voice)


def cutting_sheets(order: Order) -> int:
    """So many pages it has."""
    from omnipel.core.pictures.pens import PAPERS
    from omnipel.exchange.cutting import laid_out

    return len(laid_out(_drafted(order), PAPERS[order.paper], order.voice).pages)


def svg(order: Order) -> bytes:
    """All panels as a drawing."""
    from omnipel.exchange.svg import svg

    return svg(_drafted(order), order.voice).encode()


def obj(order: Order) -> bytes:
    """The sewn cover in space."""
    from omnipel.exchange.obj import obj

    return obj(_drafted(order)).encode()


def tape_card(order: Order) -> bytes:
    """The blank tape card."""
    from omnipel.core.forms import FORMS
    from omnipel.exchange.tape_card import tape_card
    from omnipel.shop.starter import plausible

    job = order.draft.job
    form = FORMS.get(job.thing.form)
    if form is None:
        raise NotExported(tr("there is no form named “{form}”", form=Name(job.thing.form)))
    return tape_card(job, plausible(job), form.places(job.readings, job.thing), order.paper, order.voice)


def data(order: Order) -> bytes:
    """The draft as plain data."""
    import json

    from omnipel.exchange.report import report

    return (json.dumps(report(order.draft, order.voice), indent=1, ensure_ascii=False) + "\n").encode()


def _drafted(order: Order) -> Drafted:
    from omnipel.core.draft import Drafted

    if not isinstance(order.draft, Drafted):
        raise NotExported(tr("there are no panels yet"))
    return order.draft


def work_order(order: Order) -> bytes:
    """The order of work."""
    from omnipel.exchange.order_sheet import order_pdf

    return order_pdf(_drafted(order), order.paper, order.voice, order.person)


def work_order_told(order: Order) -> bytes:
    """The same, with how everything is done."""
    from omnipel.exchange.order_sheet import order_pdf

    return order_pdf(_drafted(order), order.paper, order.voice, order.person, told=True)


def logbook(order: Order) -> bytes:
    """The logbook on paper."""
    from omnipel.exchange.log_sheet import log_pdf

    return log_pdf(order.draft, order.paper, order.voice, order.others, order.photos)


def log_data(order: Order) -> bytes:
    """The logbook as plain data."""
    from omnipel.exchange.log_sheet import log_data

    return log_data(order.draft, order.voice, order.others)


def calendar(order: Order) -> bytes:
    """What is due."""
    from omnipel.exchange.calendar import calendar

    return calendar((order.draft.job, *order.others), order.voice)


def nothing_due(draft: Draft) -> Phrase:
    """That nothing is due of a cover; nothing where something is."""
    from omnipel.core.learning.logbook import dues

    return NOTHING if dues(draft.job) else tr("nothing is due: it has not been made yet, or is no longer used")


def travel(order: Order) -> bytes:
    """The job with its photos as one file."""
    from omnipel.exchange.travel import packed

    return packed(order.draft.job, order.photos)
