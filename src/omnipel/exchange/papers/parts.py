"""How each part of the papers is drawn, and a file of several."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Final

from omnipel.core.cloth.stock import NOTHING_THERE
from omnipel.core.draft import Drafted
from omnipel.core.forms import FORMS
from omnipel.core.pictures.pens import PAPERS, Paper
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.exchange.asked import NotExported, Order
from omnipel.exchange.booklet import PARTS
from omnipel.exchange.papers.book import Book, booked
from omnipel.exchange.papers.cutting import cutting_sheet
from omnipel.exchange.papers.labels_sheet import label_sheets
from omnipel.exchange.papers.lay_sheet import lay_sheets, shopping_sheets
from omnipel.exchange.papers.log_sheet import log_sheets
from omnipel.exchange.papers.marking_out import marking_out
from omnipel.exchange.papers.order_sheet import order_sheets
from omnipel.exchange.papers.pattern import marking_out_sheets, pattern_sheets, small_of, template_sheets, ways
from omnipel.exchange.papers.readings_sheet import readings_sheets
from omnipel.exchange.papers.tape_card import card_sheets
from omnipel.exchange.papers.title import title_sheet
from omnipel.exchange.papers.tryon_sheet import care_sheets, tryon_sheets
from omnipel.shop.starter import plausible

Drawing = Callable[[Book, Order, Paper], object]


def drafted(order: Order) -> Drafted:
    """The draft, once it has panels.

    Raises:
        NotExported: it has none yet.
    """
    if not isinstance(order.draft, Drafted):
        raise NotExported(tr("there are no panels yet"))
    return order.draft


def _marking(book: Book, order: Order, paper: Paper) -> None:
    """What is chalked, as the pattern has it; nothing where nothing is."""
    how = ways(drafted(order), paper, book.voice)
    if how.chalked:
        marking_out(book, how.chalked, small_of(paper, book.voice), how.note)


def _templates(book: Book, order: Order, paper: Paper) -> None:
    template_sheets(book, ways(drafted(order), paper, book.voice))


def _everything(book: Book, order: Order, paper: Paper) -> None:
    pattern_sheets(book, drafted(order), paper, full=True)


def _card(book: Book, order: Order, paper: Paper) -> None:
    job = order.draft.job
    form = FORMS.get(job.thing.form)
    if form is None:
        raise NotExported(tr("there is no form named “{form}”", form=Name(job.thing.form)))
    card_sheets(book, job, plausible(job), form.places(job.readings, job.thing), paper)


def _day(order: Order) -> str:
    return f"{order.made:%Y-%m-%d}" if order.made is not None else ""


def _logbook(book: Book, order: Order, paper: Paper) -> None:
    log_sheets(book, order.draft, paper, order.others, order.photos)


DRAWS: Final[dict[str, Drawing]] = {
    "title": title_sheet,
    "readings": readings_sheets,
    "sheet": lambda book, order, paper: cutting_sheet(book, drafted(order), paper),
    "marking": _marking,
    "templates": _templates,
    "lay": lambda book, order, paper: lay_sheets(book, drafted(order), paper),
    "shopping": lambda book, order, paper: shopping_sheets(book, drafted(order), paper, order.stock or NOTHING_THERE),
    "order": lambda book, order, paper: order_sheets(book, drafted(order), paper, order.person),
    "told": lambda book, order, paper: order_sheets(book, drafted(order), paper, order.person, told=True),
    "labels": lambda book, order, paper: label_sheets(book, drafted(order), paper),
    "tryon": lambda book, order, paper: tryon_sheets(book, drafted(order), paper),
    "care": lambda book, order, paper: care_sheets(book, drafted(order), paper, _day(order)),
    "logbook": _logbook,
    "card": _card,
    "allmarking": lambda book, order, paper: marking_out_sheets(book, drafted(order), paper),
    "pattern": lambda book, order, paper: pattern_sheets(book, drafted(order), paper),
    "tiles": _everything,
}
"""How each part is drawn."""


def papers(order: Order, title: Phrase, keys: Sequence[str]) -> bytes:
    """A file of these parts, in the order of the booklet.

    Raises:
        KeyError: no such paper, or no such part.
        NotExported: there is not what a part needs.
    """
    paper = PAPERS[order.paper]
    chosen = [key for key in PARTS if key in keys]
    unknown = set(keys) - set(PARTS)
    if unknown:
        raise KeyError(sorted(unknown)[0])

    def draws(key: str) -> Callable[[Book], object]:
        def drawn(book: Book) -> None:
            book.cuts = PARTS[key].needs_panels
            DRAWS[key](book, order, small_of(paper, order.voice) if PARTS[key].small else paper)

        return drawn

    first = small_of(paper, order.voice) if chosen and PARTS[chosen[0]].small else paper
    return booked(order.draft, order.voice, title, first, order.made, *(draws(key) for key in chosen))
