"""The cutting sheet: every panel, its count, finished and cut sizes and the sums."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from omnipel.core.covers.dressed import Dressed
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Seam, Trued
from omnipel.core.job.edges import HemOrder, Hold
from omnipel.core.pictures.drawing import Drawing, Path
from omnipel.core.pictures.pens import Layer, Paper
from omnipel.core.pictures.sheet import by, count_words, panel_drawing, seam_title
from omnipel.core.pictures.worn import small_picture
from omnipel.core.sewing.plan import planned
from omnipel.core.sewing.saying import in_short
from omnipel.core.words.phrases import NOTHING, Length, Name, Phrase, Voice, bare, listed, term, tr, trn
from omnipel.core.words.sums import sum_words
from omnipel.core.words.typeset import held
from omnipel.core.words.working import Worked
from omnipel.exchange.papers.book import FOOT, HEAD, INSIDE, Book, fitted
from omnipel.exchange.papers.paper import BAND, SQUARE, check_square, replay, wrapped_to, write
from omnipel.exchange.papers.sheets import PLAIN, STRONG, load_type, spelt

Row = tuple[str, str, float]
"""Kind of row, words, indent in mm."""


@dataclass
class Block:
    """What belongs together on the sheet: a heading, or the panel whose miniature stands in the place of one, and its rows."""

    heading: str
    rows: list[Row]
    panel: Panel | None = None


@dataclass(frozen=True)
class Laid:
    """The sheet laid out: its blocks with their rows as they are broken, from one line to the next, mm, and which rows of which blocks stand on each page."""

    blocks: list[Block]
    rows: list[list[Row]]
    lead: float
    pages: list[list[tuple[int, list[Row]]]]


def laid_out(draft: Drafted, paper: Paper, voice: Voice) -> Laid:
    """The sheet on one page where that can be read, else on as many as it takes."""
    load_type()
    blocks, usable = [*_blocks(draft, voice), _in_short(draft, voice)], paper.width - 2.0 * (paper.margin + INSIDE)
    high = paper.height - 2.0 * paper.margin - HEAD - FOOT - FIRST_LINE - (BAND if draft.stops else 0.0)
    room, lead = high - (PICTURE_HIGH - HEAD) - SQUARE - 4.0, LARGEST
    without: tuple[list[list[Row]], list[float], float] | None = None
    while True:
        rows = [list(_wrapped(block.rows, lead, usable - COLUMN)) for block in blocks]
        tall = [max(len(part) * lead, _least(block)) + BETWEEN for block, part in zip(blocks, rows, strict=True)]
        if sum(tall) <= room and lead >= COMFORTABLE:
            break
        if without is None and sum(tall[:-1]) <= room:
            without = rows, tall, lead  # the order of work goes on over the page rather than make the rest small
        if lead <= SMALLEST + 1e-9 or (without is not None and lead < COMFORTABLE):
            rows, tall, lead = without or (rows, tall, lead)
            break
        lead = max(COMFORTABLE if lead > COMFORTABLE else SMALLEST, lead * 0.97)
    return Laid(blocks, rows, lead, list(_spread(rows, tall, lead, room, high)))


def cutting_sheet(book: Book, draft: Drafted, paper: Paper, note: Phrase = NOTHING) -> None:
    """Draw the sheet: miniatures left, sums right; a note at the foot of its first page."""
    voice, canvas = book.voice, book.canvas
    laid, left, right = laid_out(draft, paper, voice), paper.margin + INSIDE, paper.width - paper.margin - INSIDE
    for number, parts in enumerate(laid.pages):
        y = book.headed(paper, TITLE, first=number == 0, room=WIDE if number == 0 else 0.0) - FIRST_LINE
        if number == 0:
            y -= PICTURE_HIGH - HEAD
            _picture(canvas, draft, right - WIDE, y + FIRST_LINE + 2.0, WIDE, PICTURE_HIGH - 5.0)
        for k, rows in parts:
            block, begins = laid.blocks[k], rows[:1] == laid.rows[k][:1]
            deep = max(len(rows) * laid.lead, _least(block) if begins else 0.0)
            _block(canvas, block if begins else Block("", rows), rows, laid.lead, (left, right, y, deep), voice)
            y -= deep + BETWEEN
        if number == 0:
            check_square(canvas, voice, right - SQUARE, book.low(paper) + 2.0)
            with canvas.tagged("P"):
                canvas.setFont(PLAIN, 8.5)
                for k, line in enumerate(wrapped_to(voice.say(note), 8.5, right - left - SQUARE - 4.0) if note else ()):
                    canvas.drawString(left * mm, (book.low(paper) + 7.0 - 4.0 * k) * mm, line)
        canvas.showPage()


TITLE: Final = tr("Cutting sheet")
FIRST_LINE: Final = 4.0
"""From the head to the base of the first row, mm."""
PICTURE_HIGH, WIDE = 28.0, 46.0
"""How high the head with the picture in it is, and how wide that may be, mm."""
LARGEST, SMALLEST = 6.0, 4.56
"""From one line to the next, mm: nothing on the sheet is under 8 pt."""
COMFORTABLE: Final = 5.2
"""To bring all onto one page the type is made no smaller than this."""
COLUMN, BETWEEN = 34.0, 2.6
"""How wide the column of miniatures is, and the space between blocks, mm."""
MINIATURE = 20.0
"""A miniature is no higher than this, mm."""


def _least(block: Block) -> float:
    return MINIATURE * 0.6 if block.panel is not None else 0.0


def _spread(
    laid: list[list[Row]], tall: list[float], lead: float, first: float, other: float
) -> Iterator[list[tuple[int, list[Row]]]]:
    """Blocks spread over pages, whole where they fit on one."""
    page: list[tuple[int, list[Row]]] = []
    room = first
    for k, rows in enumerate(laid):
        left = rows
        if tall[k] > room and page and tall[k] <= other:
            yield page
            page, room = [], other
        while len(left) * lead + BETWEEN > room:
            fits = max(0, int((room - BETWEEN) / lead))
            if fits:
                page.append((k, left[:fits]))
            yield page
            page, room, left = [], other, left[fits:]
        page.append((k, left))
        room -= max(len(left) * lead + BETWEEN, tall[k] if left is rows else 0.0)
    yield page


def _block(canvas: Any, block: Block, rows: list[Row], lead: float, box: tuple[float, float, float, float], voice: Voice) -> None:
    """A block below a line: left the miniature or the heading, right the rows. `box`: left, right, base of the first row, height."""
    left, right, y, deep = box
    with canvas.beside():
        canvas.setLineWidth(0.2 * mm)
        canvas.setStrokeGray(0.0)
        canvas.setDash([], 0)
        canvas.line(left * mm, (y + lead * 0.78) * mm, right * mm, (y + lead * 0.78) * mm)
    if block.panel is not None:
        high = min(deep - 1.0, MINIATURE)
        with canvas.tagged("Figure", block.panel.name):
            _miniature(canvas, block.panel, voice, (left, y + lead * 0.62 - high, COLUMN - 5.0, high))
    canvas.setFillGray(0.0)
    if block.heading:
        with canvas.tagged("H2", block.heading):
            canvas.setFont(STRONG, lead * mm * 0.7)
            canvas.drawString(left * mm, y * mm, block.heading)
    for kind, words, indent in rows:
        font, size = STRONG if kind in ("head", "size") else PLAIN, lead * mm * (0.74 if kind == "head" else 0.62)
        with canvas.tagged("H2" if kind == "head" else "P", words if kind == "head" else ""):
            write(canvas, (left + COLUMN + indent) * mm, y * mm, words, font, size)
        y -= lead


def _miniature(canvas: Any, panel: Panel, voice: Voice, box: tuple[float, float, float, float]) -> None:
    """A panel as it is cut, small, fitted into a box (left, low, wide, high), mm."""
    left, low, wide, high = box
    items = panel_drawing(panel, voice, 5.0, dimensions=False, notch_labels=False).items
    drawing = Drawing(tuple(item for item in items if isinstance(item, Path) and item.layer in SMALL_LINES))
    x0, y0, x1, y1 = drawing.bounds
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    canvas.saveState()
    canvas.translate((left + wide / 2.0) * mm, (low + high) * mm)
    replay(canvas, drawing.moved(-(x0 + x1) / 2.0, -y1), scale=scale, filled=True, fine=0.4)
    canvas.restoreState()
    canvas.setDash([], 0)


SMALL_LINES: Final = (Layer.CUT, Layer.SEW, Layer.FOLD)
"""Lines that are seen on a miniature."""


def _picture(canvas: Any, draft: Drafted, x: float, y: float, wide: float, high: float) -> None:
    """The sewn cover on its object, fitted into a box, mm."""
    with canvas.tagged("Figure", draft.job.name):
        fitted(canvas, small_picture(draft.cover, draft.body, draft.job.thing.sticks_out), (x, y, wide, high))


def _blocks(draft: Drafted, voice: Voice) -> Iterator[Block]:
    say = voice.say
    for panel in draft.panels:
        yield Block("", list(_panel_rows(panel, voice)), panel)
    if draft.cover.hardware:
        rows = []
        for item in draft.cover.hardware:
            amount = sum_words(item.length, voice) if item.length else say(trn("{n} piece", "{n} pieces", item.count))
            rows.append(("sum", f"{say(item.name)}:  {amount}{f'  ({say(item.note)})' if item.note else ''}", 0.0))
        yield Block(say(tr("besides cloth")), rows)
    if draft.seams:
        yield Block(say(tr("seams")), [("sum", say(seam_words(trued)), 0.0) for trued in draft.seams])
    if draft.cover.edges:
        yield Block(say(tr("edges")), [("sum", say(edge_words(edge)), 0.0) for edge in draft.cover.edges])
    if draft.findings:
        told = [f"{say(finding.severity.words)}:  {voice.sentence(finding.text)}" for finding in draft.findings]
        yield Block(say(tr("findings")), [("sum", words, 0.0) for words in told])


def _in_short(draft: Drafted, voice: Voice) -> Block:
    """The order of work, a line or two for each rig that one goes to."""
    plan = planned(draft, None, draft.job.copies, draft.job.sewing.order)
    return Block(voice.say(tr("order of work")), [("sum", voice.sentence(words), 0.0) for words in in_short(plan)])


def _panel_rows(panel: Panel, voice: Voice) -> Iterator[Row]:
    say = voice.say
    yield "head", f"{say(term(panel.name))}     {say(count_words(panel))}", 0.0
    sizes = tr(
        "cut {cut}      finished {finished}", cut=by(panel.cut_length, panel.cut_width), finished=by(panel.length, panel.width)
    )
    yield "size", say(sizes), 0.0
    if panel.rough_cut:
        long, wide = panel.rough_cut
        rough = tr("{length} × {width}", length=bare(long), width=Length(wide))
        yield "size", say(tr("cut rough {size}, quilt or wash, then trim to the cut size", size=rough)), 0.0
    for name, size in _sums(panel):
        yield "sum", f"{say(name)}:  {sum_words(size, voice)}", 0.0
    for note in panel.notes:
        yield "sum", say(note), 0.0


def seam_words(trued: Trued) -> Phrase:
    """A seam with both its sides, whether it is true, and its marks."""
    labels = [mark.label for mark in trued.marks]
    marks = NOTHING
    if len(labels) > 1:
        marks = tr("   marks {first} to {last}", first=Name(labels[0]), last=Name(labels[-1]))
    elif labels:
        marks = tr("   mark {mark}", mark=Name(labels[0]))
    marks = tr(", {how}{marks}", how=how_words(trued.seam), marks=marks)
    if trued.true:
        return tr(
            "{seam}:  {a} to {b}, true{marks}",
            seam=seam_title(trued),
            a=bare(trued.length_a),
            b=Length(trued.length_b),
            marks=marks,
        )
    return tr(
        "{seam}:  {a} to {b}, NOT TRUE by {difference}{marks}",
        seam=seam_title(trued),
        a=bare(trued.length_a, fine=True),
        b=Length(trued.length_b, fine=True),
        difference=Length(trued.difference, fine=True),
        marks=marks,
    )


def how_words(seam: Seam) -> Phrase:
    """How a seam is sewn."""
    words = term(str(seam.kind))
    if seam.stretch is not None:
        start, stop = seam.stretch
        words = tr("{how} from {start} to {stop}", how=words, start=bare(start), stop=Length(stop))
    if seam.rows:
        words = trn("{how}, {n} row of topstitching", "{how}, {n} rows of topstitching", seam.rows, how=words)
    return tr("{how}, both ends reinforced", how=words) if seam.tacked else words


def edge_words(edge: Dressed) -> Phrase:
    """The edge of an opening: how long it is, how it is finished, what holds it."""
    finish = edge.finish
    sizes = listed((Length(size) for size in (finish.width, finish.turn_under) if size), " + ")
    made = tr("{finish} {sizes}", finish=term(finish.kind), sizes=sizes) if finish.width else term(finish.kind)
    held = NOTHING
    if edge.drawn:
        held = tr(", {what} drawn in to {drawn}", what=term(edge.held_by), drawn=Length(edge.drawn_to))
    elif edge.held_by is not Hold.NOTHING:
        held = tr(", {what}", what=term(edge.held_by))
    first = tr(", sewn first") if finish.folded and edge.order is HemOrder.HEM_FIRST else NOTHING
    return tr(
        "{edge}:  {length} around, {made}{held}{first}",
        edge=term(edge.name),
        length=Length(edge.length.value),
        made=made,
        held=held,
        first=first,
    )


def _sums(panel: Panel) -> Iterator[tuple[Phrase, Worked]]:
    shown: list[Worked] = []
    own = ((term(name), size) for name, size in panel.sizes.items())
    for name, size in (*own, (tr("cut length"), panel.cut_length), (tr("cut height"), panel.cut_width)):
        if size not in shown:
            shown.append(size)
            yield name, size


REMARK: Final = re.compile(r"\([^()]{0,48}\)")
"""A short remark in brackets, in which no row is broken; a long one is, as late as any words."""


def _wrapped(rows: list[Row], lead: float, width: float) -> Iterator[Row]:
    """Rows broken at spaces, none within a short remark, so that none is wider than the sheet; what runs on is indented once more."""
    for kind, words, indent in rows:
        size = lead * mm * (0.74 if kind == "head" else 0.62)
        font = STRONG if kind in ("head", "size") else PLAIN
        line, at, now = "", indent, kind
        for word in REMARK.sub(lambda found: found[0].replace(" ", "\u00a0"), held(spelt(words))).split(" "):
            trial = f"{line} {word}" if line else word
            if line and pdfmetrics.stringWidth(trial, font, size) > (width - at) * mm:
                yield now, line.replace("\u00a0", " "), at
                line, at, now = word, indent + 4.0, "sum" if kind == "head" else kind
            else:
                line = trial
        yield now, line.replace("\u00a0", " "), at
