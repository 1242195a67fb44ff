"""The sheet for trying on: how it went on, sizes to measure, where it is amiss; and the care label."""

from __future__ import annotations

from typing import Any

from reportlab.lib.units import mm

from omnipel.core.cloth.care import care, label_words
from omnipel.core.draft import Drafted
from omnipel.core.job.trying import Stage, Went
from omnipel.core.learning.why import asked_at
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.worn import small_picture
from omnipel.core.sewing.making import Making
from omnipel.core.words.phrases import Name, bare, term, tr
from omnipel.exchange.papers.book import Book, fitted
from omnipel.exchange.papers.pages import LEAD, SIZE, Pages
from omnipel.exchange.papers.paper import breadth, wrapped_to, write
from omnipel.exchange.papers.sheets import PLAIN, STRONG

STAGES = (Stage.FIRST, Stage.FINISHED)
BOX = 3.6
PICTURE = 52.0
"""Height of the picture to mark places in, mm."""
LINE = 7.0
"""From one line to write on to the next, mm."""


def tryon_sheets(book: Book, draft: Drafted, paper: Paper) -> None:
    """Draw it: first as sewn so far, then finished; with the picture to mark where it is amiss."""
    made, making, say = Pages(book, paper, tr("Try-on")), Making(draft), book.voice.say
    for number, stage in enumerate(STAGES):
        made.heading(tr("{stage}: how does it go on?", stage=term(stage)), least=40.0)
        made.y -= 6.0
        _ticks(made, [say(went.words) for went in Went if went])
        made.y -= 2.0
        sizes = asked_at(making, stage)
        made.row(((say(tr("to measure")), 0.0), (say(tr("planned")), -84.0), (say(tr("made")), made.wide - 76.0)), strong=True)
        for size in sizes:
            words = list(wrapped_to(book.voice.sentence(size.words), SIZE, made.wide - 112.0))
            made.room(LINE + LEAD * (len(words) - 1))
            made.y -= LINE - LEAD
            made.row(((words[0], 0.0), (say(bare(size.planned.value)), -84.0)))
            _blank(made, made.right - 76.0, made.right - 36.0)
            for more in words[1:]:
                made.row(((more, 2.0),))
        if not sizes:
            made.lines(tr("nothing to measure"))
        made.y -= 3.0
        if number == 0:
            _picture(made, draft)
    made.room(5.0 * LINE)
    for asked in (tr("day, and who"), tr("what to do now"), tr("what to do otherwise next time")):
        made.y -= LINE
        with made.canvas.tagged("P"):
            write(made.canvas, made.left * mm, made.y * mm, say(asked), PLAIN, SIZE)
        _blank(made, made.left + 58.0, made.right)
    made.done()


def _ticks(made: Pages, words: list[str]) -> None:
    x, canvas = made.left, made.canvas
    canvas.setLineWidth(0.25 * mm)
    with canvas.tagged("P"):
        for word in words:
            wide = breadth(word, PLAIN, 10.5) / mm + BOX + 9.0
            if x + wide > made.right:
                x, made.y = made.left, made.y - LINE
            canvas.rect(x * mm, (made.y - 0.6) * mm, BOX * mm, BOX * mm)
            write(canvas, (x + BOX + 1.6) * mm, made.y * mm, word, PLAIN, 10.5)
            x += wide


def _blank(made: Pages, left: float, right: float) -> None:
    """A line to write on."""
    with made.canvas.beside():
        made.canvas.setLineWidth(0.2 * mm)
        made.canvas.setStrokeGray(0.4)
        made.canvas.line(left * mm, (made.y + 0.4) * mm, right * mm, (made.y + 0.4) * mm)
        made.canvas.setStrokeGray(0.0)


def _picture(made: Pages, draft: Drafted) -> None:
    made.room(PICTURE + LEAD)
    made.y -= PICTURE
    with made.canvas.tagged("Figure", draft.job.name):
        fitted(
            made.canvas,
            small_picture(draft.cover, draft.body, draft.job.thing.sticks_out),
            (made.left, made.y, made.wide, PICTURE - 2.0),
        )
    made.lines(tr("Mark where it pulls or gapes."))
    made.y -= 2.0


CARE_WIDE, CARE_GAP = 85.0, 6.0
"""A care label, and between two, mm."""


def care_sheets(book: Book, draft: Drafted, paper: Paper, day: str) -> None:
    """The care label: once to read, then as labels to be copied onto tape or card, one for each cover."""
    made, say = Pages(book, paper, tr("Care")), book.voice
    lines = [say.sentence(words) for words in care(draft)]
    for line in lines:
        made.lines(tr("{line}", line=Name(line)))
    made.y -= 4.0
    made.heading(tr("as a label, one for each cover"), least=60.0)
    made.y -= 3.0
    whose = [say.say(words) for words in label_words(draft, day)]
    rows = [
        (row, STRONG if k == 0 else PLAIN)
        for k, one in enumerate([*whose, *lines])
        for row in wrapped_to(one, 8.2, CARE_WIDE - 8.0)
    ]
    high = 4.2 * len(rows) + 6.0
    x = made.left
    for _ in range(min(draft.job.copies, MOST_LABELS)):
        if x + CARE_WIDE > made.right:
            x = made.left
            made.y -= high + CARE_GAP
        if made.y - high < book.low(paper):
            made.begin()
            x = made.left
        _care_label(made.canvas, rows, (x, made.y - high, CARE_WIDE, high))
        x += CARE_WIDE + CARE_GAP
    made.done()


MOST_LABELS = 60


def _care_label(canvas: Any, rows: list[tuple[str, str]], box: tuple[float, float, float, float]) -> None:
    x, y, wide, high = box
    with canvas.beside():
        canvas.setLineWidth(0.3 * mm)
        canvas.setStrokeGray(0.0)
        canvas.rect(x * mm, y * mm, wide * mm, high * mm)
    at = y + high - 5.4
    with canvas.tagged("P"):
        for words, font in rows:
            write(canvas, (x + 4.0) * mm, at * mm, words.strip(), font, 8.2)
            at -= 4.2
