"""The blank tape card for the yard: sketch, where each tape goes, and boxes to fill in by pencil."""

from collections.abc import Sequence
from typing import Any

from reportlab.lib.units import mm

from omnipel.core.draft import letters as letter
from omnipel.core.forms.body import Body
from omnipel.core.forms.form import Place
from omnipel.core.job.document import Job
from omnipel.core.pictures.drawing import Drawing, together
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sketch import over
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import uncovered
from omnipel.core.words.phrases import Name, Voice, listed, tr
from omnipel.exchange.papers.book import INSIDE, Book
from omnipel.exchange.papers.paper import replay, wrapped_to, write
from omnipel.exchange.papers.sheets import PLAIN, STRONG

BOXES = 3
"""Room for so many repeats of each reading."""
HIGH, LOW, GAP = 30.0, 25.5, 3.0
"""Height of a reading on the card, mm; where that saves a page, a little less; and between two."""
HEAD, FINE = 2.4, 0.45
"""Size of the arrow and the bar that a tape ends and begins with, mm; lines of the thing are so much finer than usual."""


def card_sheets(book: Book, job: Job, body: Body | None, places: Sequence[Place], paper: Paper) -> None:
    """The card, on as many pages as the readings take."""
    left, right = paper.margin + INSIDE, paper.width - paper.margin - INSIDE
    y = _head(book, job, paper, left, right, first=True)
    rows = {high: int((y - book.low(paper) + 1.0) // (high + GAP)) for high in (HIGH, LOW)}
    high = HIGH if -(-len(places) // rows[HIGH]) == -(-len(places) // rows[LOW]) else LOW
    for number, place in enumerate(places):
        if number and number % rows[high] == 0:
            book.canvas.showPage()
            y = _head(book, job, paper, left, right)
        y = _row(book.canvas, letter(number), place, body, book.voice, left, right, y, high)
    book.canvas.showPage()


def _head(book: Book, job: Job, paper: Paper, left: float, right: float, *, first: bool = False) -> float:
    y, canvas, voice = book.headed(paper, tr("Tape card"), first=first), book.canvas, book.voice
    blank = Name("______________")
    asked = [] if job.place else [tr("place: {blank}", blank=blank)]
    asked += [tr("measured by: {blank}", blank=blank), tr("date: {blank}", blank=blank)]
    advice = tr(
        "Measure over everything that sticks out. Take what matters more than once; write down every number. Not every one is needed."
    )
    lines = [voice.say(listed(asked, "     ")), *wrapped_to(voice.say(advice), 9.5, right - left)]
    for line in lines:
        with canvas.tagged("P"):
            write(canvas, left * mm, (y - 1.5) * mm, line.strip(), PLAIN, 9.5)
        y -= 4.6
    with canvas.beside():
        canvas.line(left * mm, y * mm, right * mm, y * mm)
    return y - 4.0


def taped(canvas: Any, body: Body, place: Place, box: tuple[float, float, float, float]) -> None:
    """The thing with the way of a tape on it, in a box (left, low, wide, high), mm."""
    left, low, wide, high = box
    view, path = View(), body.tape(place.key)
    thing = drawn(uncovered(body), view)
    x0, y0, x1, y1 = thing.bounds
    text = HEAD * max((x1 - x0) / wide, (y1 - y0) / high)
    tape = Drawing(tuple(over(path, view, "", text)) if len(path) else ())
    x0, y0, x1, y1 = together((thing, tape)).bounds
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    canvas.saveState()
    canvas.translate((left + wide / 2.0) * mm, (low + high / 2.0) * mm)
    shift = -(x0 + x1) / 2.0, -(y0 + y1) / 2.0
    replay(canvas, thing.moved(*shift), scale=scale, fine=FINE)  # the tape stands out from the thing
    replay(canvas, tape.moved(*shift), scale=scale)
    canvas.restoreState()


def _row(
    canvas: Any, mark: str, place: Place, body: Body | None, voice: Voice, left: float, right: float, y: float, high: float
) -> float:
    """One reading: small sketch with its path, words, boxes; where the next one begins."""
    if body is not None:
        with canvas.tagged("Figure", voice.say(place.words)):
            taped(canvas, body, place, (left + 1.0, y - high + 2.0, 28.0, high - 4.0))
    canvas.setFillGray(0.0)
    canvas.setStrokeGray(0.0)
    canvas.setDash([], 0)
    canvas.setLineWidth(0.25 * mm)
    text = left + 34.0
    words = f"{mark}   {voice.say(place.words)}{'' if place.asked else '   ' + voice.say(tr('(a check)'))}"
    with canvas.tagged("H2", words):
        canvas.setFont(STRONG, 12)
        canvas.drawString(text * mm, (y - 6.0) * mm, words)
    with canvas.tagged("P"):
        for k, line in enumerate(wrapped_to(voice.say(place.how), 9.0, right - text)):
            write(canvas, text * mm, (y - 11.0 - 4.0 * k) * mm, line.strip(), PLAIN, 9.0)
    canvas.setFont(PLAIN, 9)
    if place.beside is not None:
        canvas.drawRightString(
            right * mm, (y - 6.0) * mm, voice.say(tr("{what}: {blank}", what=place.beside.words, blank=Name("________")))
        )
    wide = (right - text - 4.0 * (BOXES - 1)) / BOXES
    for k in range(BOXES):
        canvas.rect((text + k * (wide + 4.0)) * mm, (y - high + 2.0) * mm, wide * mm, 9.0 * mm)
    canvas.setStrokeGray(0.7)
    canvas.line(left * mm, (y - high - 1.0) * mm, right * mm, (y - high - 1.0) * mm)
    canvas.setStrokeGray(0.0)
    return y - high - GAP
