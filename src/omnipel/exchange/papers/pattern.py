"""The full-size pattern: cutting sheet, what is chalked, and the tiles of every panel that is printed, with test square and tile map."""

from dataclasses import dataclass
from typing import Any, Final

import numpy as np
import shapely
from reportlab.lib.units import mm

from omnipel.core.cloth.marking import rounded_corner, way_of
from omnipel.core.draft import Drafted
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.document import Marking
from omnipel.core.pictures.drawing import Drawing, Path
from omnipel.core.pictures.pens import PAPERS, SMALL, Layer, Paper, at_home
from omnipel.core.pictures.sheet import count_words, panel_drawing
from omnipel.core.words.phrases import Count, Phrase, Voice, term, tr, trn
from omnipel.exchange.papers.book import Book
from omnipel.exchange.papers.cutting import cutting_sheet, laid_out
from omnipel.exchange.papers.marking_out import Block, blocks, marking_out, pages
from omnipel.exchange.papers.paper import SQUARE, check_square, do_not_cut, write_within
from omnipel.exchange.papers.sheets import STRONG, load_type
from omnipel.exchange.papers.tiling import FOOT, MAP_WIDE, TEXT, Tiling, laid, tile, tile_map, tiling


@dataclass(frozen=True)
class Ways:
    """How the patterns of a job get onto cloth: what is chalked, and what is printed full size, whole or a corner of it.

    Args:
        chalked: their blocks on the marking-out sheet.
        pages: how many pages that takes.
        printed: panels with their drawings and tilings, in their order.
        whole: how many sheets all panels would take full size.
    """

    chalked: list[Block]
    pages: int
    printed: list[tuple[Panel, Drawing, Tiling]]
    whole: int

    @property
    def sheets(self) -> int:
        """How many sheets they take."""
        return self.pages + sum(spread.count for _, _, spread in self.printed)

    @property
    def note(self) -> Phrase:
        """What each way costs, in sheets."""
        return trn(
            "As it is {n} sheet besides the cutting sheet; everything full size would be {all}.",
            "As it is {n} sheets besides the cutting sheet; everything full size would be {all}.",
            self.sheets,
            all=Count(self.whole),
        )


def ways(draft: Drafted, paper: Paper, voice: Voice, *, full: bool = False) -> Ways:
    """How the patterns of a job get onto cloth, on a paper; everything full size where that is wanted, and on a roll, where sheets are not counted."""
    load_type()
    choices, small = draft.job.cover, small_of(paper, voice)
    kinds = {panel.name: Marking.TEMPLATE if full else way_of(choices, panel) for panel in draft.panels}
    chalked = [panel for panel in draft.panels if kinds[panel.name] in (Marking.CHALK, Marking.CORNER)]
    made = blocks(chalked, small, voice)
    everything = {panel.name: laid(panel, paper, voice) for panel in draft.panels}
    printed = []
    for panel in draft.panels:
        drawing, spread = everything[panel.name]
        if kinds[panel.name] is Marking.CORNER:
            drawing = panel_drawing(panel, voice, TEXT, dimensions=False, whole=True)
            printed.append((panel, drawing, _corner(panel, paper)))
        elif kinds[panel.name] is not Marking.CHALK:
            printed.append((panel, drawing, spread))
    whole = sum(spread.count for _, spread in everything.values())
    return Ways(made, len(pages(made, small, stops=draft.stops)), printed, whole)


def small_of(paper: Paper, voice: Voice) -> Paper:
    """The paper for what is only read."""
    return paper if paper in (PAPERS[name] for name in SMALL) else PAPERS[at_home(voice.unit)]


AROUND: Final = 30.0
"""A template of a corner reaches so far beyond it, mm."""


def _corner(panel: Panel, paper: Paper) -> Tiling:
    """The tiles of the first rounded corner of a panel alone."""
    ring = cut_line(panel)
    low, high = ring.min(axis=0), ring.max(axis=0)
    deep = rounded_corner(panel) + AROUND
    corners = [(low[0], low[1], 1, 1), (high[0], low[1], -1, 1), (high[0], high[1], -1, -1), (low[0], high[1], 1, -1)]
    x, y, sx, sy = max(corners, key=lambda c: float(np.hypot(*(ring - c[:2]).T).min()))
    points = np.array(((x - sx * 8.0, y - sy * 8.0), (x + sx * deep, y + sy * deep)))
    return tiling(Drawing((Path(points, Layer.CUT),)), paper)


def pattern_sheets(book: Book, draft: Drafted, paper: Paper, *, full: bool = False) -> None:
    """The pattern of a job: cutting sheet, what is chalked, then every panel that is printed with its tile map and tiles, full size."""
    how, small = ways(draft, paper, book.voice, full=full), small_of(paper, book.voice)
    cutting_sheet(book, draft, small, how.note)
    if how.chalked:
        marking_out(book, how.chalked, small, how.note)
    template_sheets(book, how)


def template_sheets(book: Book, how: Ways) -> None:
    """Every panel that is printed full size, tile by tile."""
    for number, (panel, drawing, spread) in enumerate(how.printed):
        if number == 0:
            book.mark(tr("Templates, full size"))
        book.mark(term(panel.name), 1)
        _panel_pages(book, panel, drawing, spread)


def marking_out_sheets(book: Book, draft: Drafted, paper: Paper) -> None:
    """What of a job can be chalked, everything."""
    marking_out(book, blocks(draft.panels, paper, book.voice), paper, tr("Every pattern by its numbers."))


def sheets(draft: Drafted, paper: Paper, voice: Voice, *, full: bool = False) -> int:
    """How many sheets the pattern takes, its cutting sheet counted."""
    return len(laid_out(draft, small_of(paper, voice), voice).pages) + ways(draft, paper, voice, full=full).sheets


def _panel_pages(book: Book, panel: Panel, drawing: Drawing, spread: Tiling) -> None:
    paper, canvas = spread.paper, book.canvas
    for count, place in enumerate(spread.tiles()):
        many = spread.columns * spread.rows > 1
        book.begin(paper, term(panel.name))
        right = paper.width - paper.margin - (MAP_WIDE + 4.0 if many else 0.0)
        canvas.has_foot(canvas.kept.foot.words, paper.margin, right, paper.margin)
        with canvas.tagged("Figure", panel.name):
            tile(canvas, drawing, spread, *place)
        _foot(book, panel, spread, *place, right)
        with canvas.beside():
            if book.draft.stops:
                do_not_cut(canvas, book.voice, paper)
            if many:
                tile_map(canvas, drawing, spread, place)
            if count == 0:
                _test_square_where_free(canvas, book.voice, drawing, spread, *place)
        canvas.showPage()


def _foot(book: Book, panel: Panel, spread: Tiling, column: int, row: int, right: float) -> None:
    from_top, paper = spread.rows - row, spread.paper
    told = tr(
        "{panel}, {count} · row {row} of {rows}, column {column} of {columns} · print at 100 %, lay cross on cross",
        panel=term(panel.name),
        count=count_words(panel),
        row=Count(from_top),
        rows=Count(spread.rows),
        column=Count(column + 1),
        columns=Count(spread.columns),
    )
    if spread.columns * spread.rows == 1:
        told = tr("{panel}, {count} · print at 100 %", panel=term(panel.name), count=count_words(panel))
    book.canvas.setFillGray(0.0)
    with book.canvas.tagged("P"):
        words = book.voice.sentence(told)
        write_within(book.canvas, paper.margin * mm, (paper.margin + 4.5) * mm, words, STRONG, 10.0, (right - paper.margin) * mm)


def _test_square_where_free(canvas: Any, voice: Voice, drawing: Drawing, spread: Tiling, column: int, row: int) -> None:
    """A test square on the first tile too, where nothing of the panel lies under it."""
    paper = spread.paper
    x, y = spread.left + column * spread.step_x + 12.0, spread.low + row * spread.step_y + 12.0
    outline = next(item for item in drawing.items if isinstance(item, Path) and item.closed)
    if not shapely.Polygon(outline.points).intersects(shapely.box(x, y, x + SQUARE, y + SQUARE)):
        check_square(canvas, voice, paper.margin + 12.0, paper.margin + FOOT + 12.0)
