"""The readings as they were taken: each with the way of its tape on the thing, its numbers, and what sticks out."""

from __future__ import annotations

from collections.abc import Iterator

from omnipel.core.draft import letters
from omnipel.core.forms import FORMS
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Face
from omnipel.core.pictures.pens import Paper
from omnipel.core.tape.readings import value
from omnipel.core.words.phrases import Length, Name, Phrase, bare, listed, term, tr
from omnipel.core.words.phrases import mm as length
from omnipel.exchange.asked import Order
from omnipel.exchange.papers.book import Book
from omnipel.exchange.papers.pages import LEAD, Pages
from omnipel.exchange.papers.tape_card import taped
from omnipel.shop.starter import plausible

HIGH = 25.0
"""Height of a reading with its picture, mm."""
PICTURED = 34.0
"""Room for the picture, mm."""


def readings_sheets(book: Book, order: Order, paper: Paper) -> None:
    """Draw them."""
    job, made = order.draft.job, Pages(book, paper, tr("Readings"))
    made.begin()
    form = FORMS.get(job.thing.form)
    places = form.places(job.readings, job.thing) if form is not None else ()
    body = getattr(order.draft, "body", None) or plausible(job)
    taken = {reading.place: reading for reading in job.readings}
    for number, place in enumerate(places):
        reading = taken.get(place.key)
        if reading is None:
            continue
        made.room(HIGH)
        top = made.y
        made.y -= 1.0
        if body is not None:
            with made.canvas.tagged("Figure", made.voice.say(place.words)):
                taped(made.canvas, body, place, (made.left, top - HIGH + 2.0, 28.0, HIGH - 4.0))
        head = tr("{letter}   {place}: {value}", letter=Name(letters(number)), place=place.words, value=length(value(reading)))
        made.lines(head, PICTURED, strong=True)
        for words in told(reading, place.beside.words if place.beside is not None else None):
            made.lines(words, PICTURED)
        made.y = min(made.y, top - HIGH)
        made.rule()
    if not taken:
        made.lines(tr("Nothing was measured yet."))
    if job.thing.sticks_out:
        made.heading(tr("what sticks out"))
        for thing in job.thing.sticks_out:
            size = tr(
                "{name}: {size} across, stands out {reach}",
                name=Name(thing.name),
                size=length(thing.size),
                reach=length(thing.reach),
            )
            where = term(thing.face)
            if thing.face is not Face.TOP:
                down, across = length(thing.from_top), length(thing.from_centre)
                where = tr(
                    "{face}, {down} below the top edge, {across} from the centre line", face=where, down=down, across=across
                )
            made.lines(tr("{size}; {where}", size=size, where=where))
    made.y -= LEAD * 0.5
    made.done()


def told(reading: Reading, beside: Phrase | None) -> Iterator[Phrase]:
    """How a reading was taken, line by line."""
    if len(reading.repeats) > 1:
        numbers = listed(bare(one) for one in reading.repeats)
        yield tr("{instrument}: {numbers}", instrument=term(reading.instrument), numbers=numbers)
    else:
        yield tr("{instrument}", instrument=term(reading.instrument))
    if beside is not None and reading.beside is not None:
        yield tr("{what}: {length}", what=beside, length=Length(reading.beside))
    if reading.set_aside:
        yield tr("left out: it is to be taken again")
    elif reading.sure:
        yield tr("looked at again: it stands, whatever the others say")
    if reading.reads_long:
        yield tr("counts {by} less: this instrument reads long", by=length(reading.reads_long))
    if reading.note:
        yield tr("noted: {note}", note=Name(reading.note))
