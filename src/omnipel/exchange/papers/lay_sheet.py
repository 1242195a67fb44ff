"""The lay on paper: every cloth with its pieces in the order of cutting, each one's distance from the squared end and the selvage; and the shopping list."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from reportlab.lib.units import mm

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.drawn import lay_drawing, seen_length
from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.cloth.lay import Lay, laid
from omnipel.core.cloth.said import bought_words, corner_of, cut_words
from omnipel.core.cloth.sheets import Ground
from omnipel.core.cloth.stock import NOTHING_THERE, Stock
from omnipel.core.cloth.takeoff import Takeoff, takeoff
from omnipel.core.draft import Drafted
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.pens import Paper
from omnipel.core.words.phrases import Count, Money, Name, Share, bare, term, tr
from omnipel.core.words.phrases import mm as length
from omnipel.exchange.files.lays import shopping_row, unknown_words
from omnipel.exchange.papers.book import Book
from omnipel.exchange.papers.pages import LEAD, SIZE, Pages
from omnipel.exchange.papers.paper import replay, wrapped_to

LETTER: Final = 3.4
"""Height of letters in a drawing, mm on paper: where it is tight they are a seventh smaller, and still 8 pt."""


def lay_sheets(book: Book, draft: Drafted, paper: Paper, lays: Sequence[Lay] | None = None) -> None:
    """How all layers of a job are laid."""
    made = Pages(book, paper, tr("Lay"))
    for lay in [laid(draft, layer) for layer in layers_of(draft)] if lays is None else lays:
        for ground in lay.grounds:
            if lay.on(ground):
                _ground(made, lay, ground)
    made.done()


def _ground(made: Pages, lay: Lay, ground: Ground) -> None:
    """One length of cloth: its picture, and its pieces in the order of cutting."""
    voice, say = made.voice, made.voice.say
    wide = made.right - made.left
    long = seen_length(lay, ground)
    scale = min(wide / (long * 1.06), 95.0 / ground.width)
    for _ in range(3):  # its letters take room themselves
        drawing = lay_drawing(lay, ground, voice, LETTER / scale)
        x0, y0, x1, y1 = extent(drawing)
        if (x1 - x0) * scale <= wide + 0.05:
            break
        scale *= 0.995 * wide / ((x1 - x0) * scale)
    high = (y1 - y0) * scale
    made.room(high + 5.0 * LEAD)
    cloth = lay.sheet.cloth
    head = tr("{layer}: {cloth}, {width} wide, {spread}", layer=term(lay.layer.value), cloth=cloth_words(cloth.name), width=length(cloth.usable_width),
              spread=term(lay.sheet.choice.spread.value))  # fmt: skip
    made.heading(head, least=0.0)
    if ground.remnant is not None:
        size = tr(
            "on a piece of the stash, {long} × {wide}: {name}",
            long=bare(ground.length),
            wide=length(ground.width),
            name=ground.name,
        )
        made.row(((say(size), 0.0),))
    else:
        used = tr(
            "{used} used, buy {buy}; {share} becomes cover",
            used=length(lay.used.value),
            buy=bought_words(lay),
            share=Share(lay.share),
        )
        made.row(((say(used), 0.0),))
        if lay.sheet.ends:
            made.row(
                ((say(tr("square the cut end first, {ends} off; distances are from there", ends=length(lay.sheet.ends))), 0.0),)
            )
    made.canvas.saveState()
    made.canvas.translate((made.left - x0 * scale) * mm, (made.y - 2.0 - y1 * scale) * mm)
    with made.canvas.tagged("Figure", voice.sentence(head)):
        replay(made.canvas, drawing, scale=scale, filled=True, fine=0.7)
    made.canvas.restoreState()
    made.y -= high + 4.0
    _pieces(made, lay, ground)
    made.y -= 6.0


def _pieces(made: Pages, lay: Lay, ground: Ground) -> None:
    """The pieces of a length in the order of cutting."""
    say = made.voice.say
    border = tr("from the fold") if lay.sheet.folded else tr("from the selvage")
    columns = (0.0, 8.0, 96.0, 124.0, 152.0)
    heads = ("", say(tr("piece")), say(tr("from the end")), say(border), say(tr("length × width")))
    made.row(tuple(zip(heads, columns, strict=True)), strong=True)
    made.rule()
    for number, placed in enumerate(lay.on(ground), 1):
        ring, cut = lay.outline(placed), lay.sheet.by_key[placed.piece]
        (x, y), size_ = corner_of(lay, placed), (ring.max(axis=0) - ring.min(axis=0)).tolist()
        words = list(wrapped_to(say(cut_words(cut)), SIZE, 84.0))
        cells = (
            str(number),
            words[0],
            say(bare(x)),
            say(bare(y)),
            say(tr("{long} × {wide}", long=bare(size_[0]), wide=bare(size_[1]))),
        )
        made.row(tuple(zip(cells, columns, strict=True)))
        for more in words[1:]:
            made.row(((more, columns[1]),))


def shopping_sheets(book: Book, draft: Drafted, paper: Paper, stock: Stock = NOTHING_THERE, taken: Takeoff | None = None) -> None:
    """What is to be bought for a job."""
    made, voice = Pages(book, paper, tr("Shopping list")), book.voice
    say = voice.say
    taken = takeoff(draft, None, stock) if taken is None else taken
    heads = (say(tr("what")), say(tr("how much")), "", say(tr("cost")))
    places = (8.0, 96.0, 124.0, -2.0)
    made.row(tuple(zip(heads, places, strict=True)), strong=True)
    made.rule()
    for line in taken.lines:
        what, amount, source, cost = (say(part) for part in shopping_row(line))
        words = list(wrapped_to(voice.sentence(Name(what)), SIZE, 84.0))
        made.room(LEAD * (len(words) + 1))
        made.canvas.rect(made.left * mm, (made.y - LEAD + 1.2) * mm, 3.2 * mm, 3.2 * mm, stroke=1, fill=0)
        made.row(tuple(zip((words[0], amount, source, cost), places, strict=True)))
        for more in [*words[1:], *(wrapped_to(say(line.note), SIZE, 84.0) if line.note else ())]:
            made.row(((more, places[0] + 3.0),))
    made.y -= 1.5
    made.rule()
    made.row(((say(tr("to pay now")), places[0]), (say(taken.pay_words), places[3])), strong=True)
    if taken.stashed:
        made.row(((say(tr("worth of what comes from the stash")), places[0]), (say(Money(taken.stashed)), places[3])))
    if taken.covers > 1 and taken.material:
        made.row(((say(tr("each of {n} covers", n=Count(taken.covers))), places[0]), (say(Money(taken.per_cover)), places[3])))
    if taken.unknown:
        for more in wrapped_to(voice.sentence(unknown_words(taken)), SIZE, made.right - made.left - 12.0):
            made.row(((more, places[0]),))
    made.done()
