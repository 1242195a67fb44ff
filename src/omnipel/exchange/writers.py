"""The writers of the registry (`exports.py`). They load libraries for documents, a tenth of the whole start: only when something is written."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from omnipel.core.words.phrases import NOTHING, Phrase, tr
from omnipel.exchange.asked import NotExported, Order

if TYPE_CHECKING:
    from omnipel.core.draft import Draft, Drafted
    from omnipel.exchange.files.tables import Table


def printed(*keys: str) -> Callable[[Order], bytes]:
    """A writer of these parts of the papers."""

    def write(order: Order) -> bytes:
        from omnipel.exchange.booklet import PARTS
        from omnipel.exchange.papers.parts import papers

        return papers(order, PARTS[keys[0]].words, keys)

    return write


def booklet(order: Order) -> bytes:
    """The whole job, or what of it is asked for."""
    from omnipel.exchange.booklet import USUAL, possible
    from omnipel.exchange.papers.parts import papers

    keys = [key for key in (order.parts or USUAL) if possible(key, order.draft)]
    return papers(order, tr("the whole job"), keys)


def pattern_sheets(order: Order) -> int:
    """So many sheets the pattern takes."""
    from omnipel.core.pictures.pens import PAPERS
    from omnipel.exchange.papers.pattern import sheets

    return sheets(_drafted(order), PAPERS[order.paper], order.voice)


def tile_sheets(order: Order) -> int:
    """So many sheets it takes with everything full size."""
    from omnipel.core.pictures.pens import PAPERS
    from omnipel.exchange.papers.pattern import sheets

    return sheets(_drafted(order), PAPERS[order.paper], order.voice, full=True)


def _tables(order: Order) -> tuple[Table, Table]:
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.exchange.files.tables import tables_of

    return tables_of(_drafted(order), order.voice, order.stock or NOTHING_THERE)


def cutting_csv(order: Order) -> bytes:
    """The cutting list as a table."""
    from omnipel.exchange.files.tables import as_csv

    return as_csv(_tables(order)[0])


def shopping_csv(order: Order) -> bytes:
    """The shopping list as a table."""
    from omnipel.exchange.files.tables import as_csv

    return as_csv(_tables(order)[1])


def table(name: str) -> Callable[[Order], bytes]:
    """A writer of one of the further tables."""

    def write(order: Order) -> bytes:
        from omnipel.exchange.files import lists
        from omnipel.exchange.files.tables import as_csv

        match name:
            case "panels":
                return as_csv(lists.panels_table(_drafted(order), order.voice))
            case "steps":
                return as_csv(lists.steps_table(_drafted(order), order.voice, order.person))
            case "readings":
                return as_csv(lists.readings_table(order.draft, order.voice))
            case _:
                return as_csv(lists.log_table(order.draft, order.voice, order.others))

    return write


def spreadsheet(order: Order) -> bytes:
    """Both lists as a spreadsheet."""
    from omnipel.exchange.files.tables import as_spreadsheet

    return as_spreadsheet(_tables(order))


def cutting_sheets(order: Order) -> int:
    """So many pages it has."""
    from omnipel.core.pictures.pens import PAPERS
    from omnipel.exchange.papers.cutting import laid_out

    return len(laid_out(_drafted(order), PAPERS[order.paper], order.voice).pages)


def svg(order: Order) -> bytes:
    """All panels as a drawing."""
    from omnipel.exchange.files.svg import svg

    return svg(_drafted(order), order.voice, order.of).encode()


def svgs(order: Order) -> bytes:
    """Each panel as a drawing of its own."""
    from omnipel.exchange.files.svg import each

    return each(_drafted(order), order.voice)


def dxf(order: Order) -> bytes:
    """A drawing for a cutting program."""
    from omnipel.exchange.files.dxf import R2000, dxf

    return dxf(_drafted(order), order.voice, R2000, order.of)


def dxf12(order: Order) -> bytes:
    """The same for an old one."""
    from omnipel.exchange.files.dxf import R12, dxf

    return dxf(_drafted(order), order.voice, R12, order.of)


def hpgl(order: Order) -> bytes:
    """What a cutter or plotter is told."""
    from omnipel.exchange.files.hpgl import hpgl

    return hpgl(_drafted(order), order.voice, order.machine, order.of)


def ply(order: Order) -> bytes:
    """The sewn cover in space, with colours."""
    from omnipel.exchange.files.obj import ply

    return ply(_drafted(order)).encode()


def obj(order: Order) -> bytes:
    """The sewn cover in space."""
    from omnipel.exchange.files.obj import obj

    return obj(_drafted(order)).encode()


def data(order: Order) -> bytes:
    """The draft as plain data."""
    import json

    from omnipel.exchange.files.report import report

    return (json.dumps(report(order.draft, order.voice), indent=1, ensure_ascii=False) + "\n").encode()


def plain(name: str) -> Callable[[Order], bytes]:
    """A writer of lays, of the shopping list or of the order of work as plain data."""

    def write(order: Order) -> bytes:
        import json

        made = {"lays": _lays_data, "takeoff": _takeoff_data, "order": _order_data}[name](order)
        return (json.dumps(made, indent=1, ensure_ascii=False, allow_nan=False) + "\n").encode()

    return write


def _lays_data(order: Order) -> object:
    from omnipel.core.cloth.cuts import layers_of
    from omnipel.core.cloth.lay import laid
    from omnipel.exchange.files.lays import lay_data

    drafted = _drafted(order)
    return {
        "format": "omnipel-lays",
        "version": 1,
        "lays": [lay_data(laid(drafted, layer), order.voice) for layer in layers_of(drafted)],
    }


def _takeoff_data(order: Order) -> object:
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.core.cloth.takeoff import takeoff
    from omnipel.exchange.files.lays import takeoff_data

    return takeoff_data(takeoff(_drafted(order), None, order.stock or NOTHING_THERE), order.voice)


def _order_data(order: Order) -> object:
    from omnipel.core.sewing.plan import planned
    from omnipel.core.sewing.traps import traps
    from omnipel.exchange.files.work_order import order_data

    drafted = _drafted(order)
    plan = planned(drafted, order.person, drafted.job.copies, drafted.job.sewing.order)
    return order_data(plan, (*drafted.findings, *traps(plan)), order.voice)


def _drafted(order: Order) -> Drafted:
    from omnipel.core.draft import Drafted

    if not isinstance(order.draft, Drafted):
        raise NotExported(tr("there are no panels yet"))
    return order.draft


def log_data(order: Order) -> bytes:
    """The logbook as plain data."""
    from omnipel.exchange.papers.log_sheet import log_data

    return log_data(order.draft, order.voice, order.others)


def calendar(order: Order) -> bytes:
    """What is due."""
    from omnipel.exchange.files.calendar import calendar

    return calendar((order.draft.job, *order.others), order.voice)


def nothing_due(draft: Draft) -> Phrase:
    """That nothing is due of a cover; nothing where something is."""
    from omnipel.core.learning.logbook import dues

    return NOTHING if dues(draft.job) else tr("nothing is due: it has not been made yet, or is no longer used")


def travel(order: Order) -> bytes:
    """The job with its photos as one file."""
    from omnipel.exchange.files.travel import packed

    return packed(order.draft.job, order.photos)
