"""The first sheet of the booklet: the sewn cover, what it is in a few numbers, and what is on which sheet."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Final

from reportlab.lib.units import mm

from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.covers import SCHEMES
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit, fit_words
from omnipel.core.forms import FORMS
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.worn import small_picture
from omnipel.core.sewing.plan import planned
from omnipel.core.sewing.saying import covers_words, range_words
from omnipel.core.words.phrases import Count, Phrase, listed, term, tr
from omnipel.exchange.asked import Order
from omnipel.exchange.papers.book import INSIDE, Book, fitted
from omnipel.exchange.papers.pages import LEAD
from omnipel.exchange.papers.paper import wrapped_to, write
from omnipel.exchange.papers.sheets import PLAIN, STRONG

PICTURE: Final = 108.0
"""Height of the picture, mm."""
SIZE, ROOM = 10.5, 46.0
"""Type of what is told, pt; room for its names, mm."""


def title_sheet(book: Book, order: Order, paper: Paper) -> None:
    """Draw it; what is on which sheet is filled in once all are there."""
    draft = order.draft
    assert isinstance(draft, Drafted)
    canvas, left, right = book.canvas, paper.margin + INSIDE, paper.width - paper.margin - INSIDE
    y = book.headed(paper, tr("The whole job"), first=True)
    with canvas.tagged("Figure", draft.job.name):
        fitted(
            canvas,
            small_picture(draft.cover, draft.body, draft.job.thing.sticks_out),
            (left, y - PICTURE, right - left, PICTURE - 4.0),
        )
    y -= PICTURE + 10.0
    for name, words in told(draft, order):
        lines = list(wrapped_to(book.voice.sentence(words), SIZE, right - left - ROOM))
        with canvas.tagged("P"):
            write(canvas, left * mm, y * mm, book.voice.say(name), PLAIN, SIZE)
            for line in lines:
                write(canvas, (left + ROOM) * mm, y * mm, line.strip(), STRONG, SIZE)
                y -= LEAD + 0.6
    canvas.kept.later = _contents(book, (left, right, y - 4.0, book.low(paper) + 2.0))
    canvas.showPage()


def told(draft: Drafted, order: Order) -> Iterator[tuple[Phrase, Phrase]]:
    """What it is in a few numbers."""
    from omnipel.core.cloth.stock import NOTHING_THERE
    from omnipel.core.cloth.takeoff import Group, takeoff

    job = draft.job
    form, scheme = FORMS.get(job.thing.form), SCHEMES.get(job.cover.scheme)
    if form is not None and scheme is not None:
        both = tr("{form}: {scheme}", scheme=scheme.words, form=form.words)
        yield tr("cover"), scheme.words if scheme.words == form.words else both
    yield tr("cloth"), tr("{cloth}", cloth=cloth_words(job.cover.cloth.name))
    if isinstance(draft.fit, Fit):
        yield tr("goes on?"), fit_words(draft.fit)
    true = sum(seam.true for seam in draft.seams)
    if draft.seams:
        yield tr("seams true"), tr("{true} of {total}", true=Count(true), total=Count(len(draft.seams)))
    panels = [tr("{panel} × {n}", panel=term(panel.name), n=Count(panel.count)) for panel in draft.panels if panel.count]
    yield tr("cut"), tr("{panels}", panels=listed(panels))
    taken = takeoff(draft, None, order.stock or NOTHING_THERE)
    bought = [tr("{what} {amount}", what=line.words, amount=line.amount) for line in taken.lines if line.group is Group.CLOTH]
    if bought:
        yield tr("to buy"), tr("{cloths}", cloths=listed(bought))
    yield tr("to pay now"), taken.pay_words
    plan = planned(draft, order.person, job.copies, job.sewing.order)
    yield tr("to sew"), tr("{covers}, {minutes}", covers=covers_words(plan.copies), minutes=range_words(plan.span()))
    serious = [finding for finding in draft.findings if finding.severity.value in ("stop", "look")]
    for finding in serious[:3]:
        yield finding.severity.words, finding.text


def _contents(book: Book, box: tuple[float, float, float, float]) -> Callable[[], None]:
    """Draws which parts are on which sheets, in two columns."""

    def drawn() -> None:
        left, right, top, low = box
        canvas, lines = book.canvas, book.bookmarked[1:]
        if not lines:
            return
        heading = book.voice.sentence(tr("what is on which sheet"))
        with canvas.tagged("H2", heading):
            write(canvas, left * mm, top * mm, heading, STRONG, 11.0)
        rows = max(1, int((top - low) // LEAD))
        wide = (right - left) / 2.0
        for k, (words, number) in enumerate(lines[: 2 * rows]):
            x, y = left + (k // rows) * wide, top - (k % rows + 1) * LEAD
            with canvas.tagged("P"):
                write(canvas, x * mm, y * mm, str(number), STRONG, 9.5)
                write(canvas, (x + 9.0) * mm, y * mm, book.voice.sentence(words), PLAIN, 9.5)

    return drawn
