"""The blank tape card for the yard: sketch, where each tape goes, and boxes to fill in by pencil."""

import io
from collections.abc import Sequence
from typing import Any

from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit

from omnipel.core.draft import letters as letter
from omnipel.core.forms.body import Body
from omnipel.core.forms.form import Place
from omnipel.core.job.document import Job
from omnipel.core.pictures.drawing import Drawing, together
from omnipel.core.pictures.pens import PAPERS
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sketch import over
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import uncovered
from omnipel.core.words.phrases import Name, Voice, plain, term, tr
from omnipel.exchange.paper import PLAIN, STRONG, Sheets, load_type, replay, write_within

BOXES = 3
"""Room for so many repeats of each reading."""
HIGH, LOW, GAP = 30.0, 25.5, 3.0
"""Height of a reading on the card, mm; where that saves a page, a little less; and between two."""
HEAD, FINE = 2.4, 0.45
"""Size of the arrow and the bar that a tape ends and begins with, mm; lines of the thing are so much finer than usual."""


def tape_card(job: Job, body: Body | None, places: Sequence[Place], paper_name: str, voice: Voice | None = None) -> bytes:
    """The card as PDF, on as many pages as the readings take."""
    paper, voice = PAPERS[paper_name], voice or Voice(job.unit)
    load_type()
    target = io.BytesIO()
    canvas = Sheets(target, pagesize=(paper.width * mm, paper.height * mm), invariant=1)
    canvas.setTitle(voice.say(tr("{job} · tape card", job=Name(job.name))))
    left, right, top = paper.margin + 5.0, paper.width - paper.margin - 5.0, paper.height - paper.margin - 8.0
    y = _head(canvas, job, voice, left, right, top)
    rows = {high: int((y - paper.margin - 1.0) // (high + GAP)) for high in (HIGH, LOW)}
    high = HIGH if -(-len(places) // rows[HIGH]) == -(-len(places) // rows[LOW]) else LOW
    for number, place in enumerate(places):
        if number and number % rows[high] == 0:
            canvas.showPage()
            y = _head(canvas, job, voice, left, right, top)
        y = _row(canvas, letter(number), place, body, voice, left, right, y, high)
    canvas.showPage()
    canvas.save()
    return target.getvalue()


def _head(canvas: Any, job: Job, voice: Voice, left: float, right: float, top: float) -> float:
    canvas.setFillGray(0.0)
    title = voice.say(tr("Tape card: {job}", job=Name(job.name)))
    write_within(canvas, left * mm, top * mm, title, STRONG, 18, (right - left) * mm)
    canvas.setFont(PLAIN, 10)
    blank = Name("______________")
    about = tr(
        "{place}     measured by: {blank}     date: {blank}     lengths in {unit}",
        place=plain(job.place) if job.place else tr("place: {blank}", blank=blank),
        blank=blank,
        unit=term(job.unit.label),
    )
    canvas.drawString(left * mm, (top - 6.0) * mm, voice.say(about))
    advice = tr(
        "Measure over everything that sticks out. Take what matters more than once; write down every number. Not every one is needed."
    )
    lines = simpleSplit(voice.say(advice), PLAIN, 10, (right - left) * mm)
    for k, line in enumerate(lines):
        canvas.drawString(left * mm, (top - 11.0 - 4.5 * k) * mm, line)
    low = top - 9.5 - 4.5 * len(lines)
    canvas.line(left * mm, low * mm, right * mm, low * mm)
    return low - 4.0


def _row(
    canvas: Any, mark: str, place: Place, body: Body | None, voice: Voice, left: float, right: float, y: float, high: float
) -> float:
    """One reading: small sketch with its path, words, boxes; where the next one begins."""
    if body is not None:
        view, path = View(), body.tape(place.key)
        thing = drawn(uncovered(body), view)
        x0, y0, x1, y1 = thing.bounds
        text = HEAD * max((x1 - x0) / 28.0, (y1 - y0) / (high - 4.0))
        tape = Drawing(tuple(over(path, view, "", text)) if len(path) else ())
        x0, y0, x1, y1 = together((thing, tape)).bounds
        scale = min(28.0 / max(x1 - x0, 1e-6), (high - 4.0) / max(y1 - y0, 1e-6))
        canvas.saveState()
        canvas.translate((left + 15.0) * mm, (y - high / 2.0) * mm)
        shift = -(x0 + x1) / 2.0, -(y0 + y1) / 2.0
        replay(canvas, thing.moved(*shift), scale=scale, fine=FINE)  # the tape stands out from the thing
        replay(canvas, tape.moved(*shift), scale=scale)
        canvas.restoreState()
    canvas.setFillGray(0.0)
    canvas.setStrokeGray(0.0)
    canvas.setDash([], 0)
    canvas.setLineWidth(0.25 * mm)
    text = left + 34.0
    canvas.setFont(STRONG, 12)
    canvas.drawString(
        text * mm, (y - 6.0) * mm, f"{mark}   {voice.say(place.words)}{'' if place.asked else '   ' + voice.say(tr('(a check)'))}"
    )
    canvas.setFont(PLAIN, 9)
    for k, line in enumerate(simpleSplit(voice.say(place.how), PLAIN, 9, (right - text) * mm)):
        canvas.drawString(text * mm, (y - 11.0 - 4.0 * k) * mm, line)
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
