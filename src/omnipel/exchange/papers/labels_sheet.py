"""Labels to cut out and pin on: one for each piece, so that nobody has to guess which it is, which way up, and which side out."""

from __future__ import annotations

import math
from typing import Any, Final

from reportlab.lib.units import mm

from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.sheet import by
from omnipel.core.words.phrases import Count, Length, Name, Phrase, Value, bare, term, tr
from omnipel.exchange.papers.book import INSIDE, Book
from omnipel.exchange.papers.paper import write, write_within
from omnipel.exchange.papers.sheets import PLAIN, STRONG

WIDE, HIGH, GAP = 58.0, 33.0, 3.0
"""A label, and between two, mm."""
TITLE: Final = tr("Labels to pin on")
MOST: Final = 600
"""No more labels than this are printed: of so many copies each need not have its own."""


def label_sheets(book: Book, draft: Drafted, paper: Paper) -> None:
    """Draw them, as many beside one another as the paper takes."""
    left, top = paper.margin + INSIDE, 0.0
    columns = max(1, int((paper.width - 2.0 * left + GAP) // (WIDE + GAP)))
    rows = 0
    at = 0
    for panel, piece, copy in wanted(draft):
        if at == 0:
            top = book.headed(paper, TITLE, first=book.canvas.kept.foot is None and not _begun(book)) - 2.0
            rows = max(1, int((top - book.low(paper) + GAP) // (HIGH + GAP)))
        column, row = at % columns, at // columns
        _label(book, draft, panel, piece, copy, (left + column * (WIDE + GAP), top - HIGH - row * (HIGH + GAP)))
        at += 1
        if at == columns * rows:
            book.canvas.showPage()
            at = 0
    if at:
        book.canvas.showPage()


def _begun(book: Book) -> bool:
    return any(words == TITLE for words, _ in book.bookmarked)


def wanted(draft: Drafted) -> list[tuple[Panel, Piece, int]]:
    """Every piece that is cut, of every copy as long as they are not too many."""
    panels = {panel.name: panel for panel in draft.panels}
    pieces = [(panels[piece.panel], piece) for piece in draft.cover.pieces if piece.panel in panels]
    copies = draft.job.copies if len(pieces) * draft.job.copies <= MOST else 1
    return [(panel, piece, copy) for copy in range(1, copies + 1) for panel, piece in pieces][:MOST]


def _label(book: Book, draft: Drafted, panel: Panel, piece: Piece, copy: int, at: tuple[float, float]) -> None:
    canvas, voice, (x, y) = book.canvas, book.voice, at
    with canvas.beside():
        canvas.setLineWidth(0.15 * mm)
        canvas.setStrokeGray(0.5)
        canvas.setDash([2.0 * mm, 1.5 * mm], 0)
        canvas.rect(x * mm, y * mm, WIDE * mm, HIGH * mm)
        canvas.setDash([], 0)
        canvas.setStrokeGray(0.0)
        _arrow(canvas, x + WIDE - 6.5, y + HIGH - 8.0, panel.grain)
    room = (WIDE - 6.0) * mm
    lines: list[tuple[Value, str, float, float]] = [
        (term(piece.name), STRONG, 13.0, room - 9.0 * mm),
        (_cut_size(panel), PLAIN, 9.0, room - 9.0 * mm),
        (_cloth(draft, panel, piece), PLAIN, 9.0, room),
        (_whose(draft, copy), PLAIN, 8.2, room),
    ]
    high = y + HIGH - 6.5
    with canvas.tagged("P"):
        for words, font, size, wide in lines:
            write_within(canvas, (x + 3.0) * mm, high * mm, voice.sentence(words), font, size, wide, 8.2)
            high -= 5.6
        write(canvas, (x + 3.0) * mm, (y + 2.6) * mm, voice.say(tr("right side, this way up")), PLAIN, 8.2)


def _cut_size(panel: Panel) -> Phrase:
    """As it is cut off the cloth: larger than the cut size where something is still taken up."""
    if panel.rough_cut is not None:
        long, wide = panel.rough_cut
        return tr("cut rough {size}", size=tr("{length} × {width}", length=bare(long), width=Length(wide)))
    return tr("cut {size}", size=by(panel.cut_length, panel.cut_width))


def _cloth(draft: Drafted, panel: Panel, piece: Piece) -> Phrase:
    alike = [one.name for one in draft.cover.pieces if one.panel == panel.name]
    words = tr("{cloth}", cloth=term(panel.cloth))
    if len(alike) > 1:
        words = tr("{cloth} · {n} of {all}", cloth=term(panel.cloth), n=Count(alike.index(piece.name) + 1), all=Count(len(alike)))
    return tr("{words} · pattern turned over", words=words) if piece.mirrored else words


def _whose(draft: Drafted, copy: int) -> Phrase:
    if draft.job.copies > 1:
        return tr("{job}, cover {n} of {all}", job=Name(draft.job.name), n=Count(copy), all=Count(draft.job.copies))
    return tr("{job}", job=Name(draft.job.name))


def _arrow(canvas: Any, x: float, y: float, grain: float) -> None:
    """The grain as it lies on the piece held upright."""
    along, across = (math.cos(grain), math.sin(grain)), (-math.sin(grain), math.cos(grain))
    canvas.setLineWidth(0.35 * mm)
    ends = [(x + sign * 5.0 * along[0], y + sign * 5.0 * along[1]) for sign in (-1.0, 1.0)]
    canvas.line(*(part * mm for end in ends for part in end))
    for (ex, ey), sign in zip(ends, (1.0, -1.0), strict=True):
        for side in (-1.0, 1.0):
            tip = ex + sign * 1.8 * along[0] + side * 1.0 * across[0], ey + sign * 1.8 * along[1] + side * 1.0 * across[1]
            canvas.line(ex * mm, ey * mm, tip[0] * mm, tip[1] * mm)
