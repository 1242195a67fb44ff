"""The logbook of a thing on paper, and as plain data: its covers, what they were made as, how they went on, what happened to them, what is due."""

from __future__ import annotations

import io
import json
from collections.abc import Mapping, Sequence
from typing import Any, Final

from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader

from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.draft import Draft, Drafted
from omnipel.core.job.document import Job
from omnipel.core.job.trying import Photo
from omnipel.core.learning.logbook import dues, made_on, timeline
from omnipel.core.learning.sizes import by_key
from omnipel.core.learning.why import altered_by, as_altered, why
from omnipel.core.pictures.pens import Paper
from omnipel.core.sewing.making import Making
from omnipel.core.words.phrases import Name, Voice, bare, term, tr
from omnipel.exchange.papers.book import Book
from omnipel.exchange.papers.pages import LEAD, SIZE, Pages
from omnipel.exchange.papers.paper import wrapped_to
from omnipel.shop.document import adapter

PHOTO: Final = 38.0
"""Height of a photo, mm."""
DAY, WHAT = 0.0, 26.0
"""Where the day and what happened stand, from the left, mm."""
FORMAT: Final = "omnipel-log"


def log_sheets(
    book: Book, draft: Draft, paper: Paper, others: Sequence[Job] = (), photos: Mapping[str, bytes] | None = None
) -> None:
    """The logbook of the open job's thing: of its cover, and of others for the same thing."""
    made, voice = Pages(book, paper, tr("Logbook")), book.voice
    made.begin()
    _head(made, draft.job)
    _sizes(made, draft)
    made.y -= 3.0
    made.heading(tr("What happened"))
    lines = timeline((draft.job, *others))
    if not lines:
        made.lines(tr("Nothing is written down yet."), DAY)
    for line in lines:
        of = tr("{what} ({cover})", what=line.words, cover=Name(line.job)) if others else line.words
        made.room(2.0 * LEAD)
        made.row(((line.day or "—", DAY), *(((next(iter(wrapped_to(voice.sentence(of), SIZE, _wide(made))))), WHAT),)))
        if line.said:
            made.lines(tr("{words}", words=Name(line.said)), WHAT)
        _photos(made, line.photos, photos or {})
    _due(made, draft.job)
    made.done()


def _wide(made: Pages) -> float:
    return made.right - made.left - WHAT


def _head(made: Pages, job: Job) -> None:
    """Whose it is and where it stands, of what it is made."""
    told = [
        *([tr("for {name}", name=Name(job.owner))] if job.owner else []),
        *([tr("stands: {place}", place=Name(job.place))] if job.place else []),
        tr("of {cloth}", cloth=cloth_words(job.cover.cloth.name)),
        *([tr("made again from {job}", job=Name(job.kin.again_of))] if job.kin.again_of else []),
    ]
    for words in told:
        made.lines(words, 0.0)


def _sizes(made: Pages, draft: Draft) -> None:
    """What was measured, try-on by try-on, and why it is off."""
    if not isinstance(draft, Drafted) or not draft.job.tries:
        return
    making, voice = Making(draft), made.voice
    known = by_key(making)
    for one in draft.job.tries:
        made.y -= 2.0
        title = tr("{stage}, {day}", stage=term(one.stage), day=Name(one.day)) if one.day else term(one.stage)
        made.heading(tr("{title}: {went}", title=title, went=one.went.words) if one.went else title)
        done = altered_by(making, draft.job.tries, one)
        rows = [(as_altered(known[key], done) or known[key], length) for key, length in one.made.items() if key in known]
        if rows:
            heads = ((voice.say(tr("planned")), -56.0), (voice.say(tr("made")), -28.0), (voice.say(tr("differs")), 0.0 - 0.01))
            made.row(heads)
        for size, length in rows:
            words = list(wrapped_to(voice.sentence(size.words), SIZE, made.right - made.left - 82.0))
            by = length - size.planned.value
            shown = voice.say(bare(abs(by)))
            sign = "" if shown == voice.say(bare(0.0)) else "+ " if by > 0.0 else "− "
            made.row(
                (
                    (words[0], 0.0),
                    (voice.say(bare(size.planned.value)), -56.0),
                    (voice.say(bare(length)), -28.0),
                    (f"{sign}{shown}", -0.01),
                )
            )
        for altered in making.drafted.cover.altered:
            if altered.what.since == one.id:
                made.lines(tr("to be done: {what}", what=altered.words), 0.0)
    if told := why(making, draft.job.tries).told:
        made.y -= 1.5
        made.lines(told, 0.0)


def _photos(made: Pages, photos: Sequence[Photo], there: Mapping[str, bytes]) -> None:
    """Photos beside one another, each as wide as it is."""
    x, right = made.left + WHAT, made.right
    images = [ImageReader(io.BytesIO(there[one.digest])) for one in photos if one.digest in there]
    begun = False
    for image in images:
        wide, high = image.getSize()
        width = min(PHOTO * wide / max(1, high), right - made.left - WHAT)
        if not begun or x + width > right:
            made.room(PHOTO + 3.0)
            made.y -= PHOTO + 2.0
            x, begun = made.left + WHAT, True
        made.canvas.drawImage(image, x * mm, made.y * mm, width * mm, PHOTO * mm, preserveAspectRatio=True, anchor="sw")
        x += width + 2.0
    if begun:
        made.y -= 1.0


def _due(made: Pages, job: Job) -> None:
    found = dues(job)
    if not found:
        return
    made.y -= 3.0
    made.heading(tr("What is due"))
    for due in found:
        words = tr("{what}: {why}", what=due.words, why=due.reason)
        lines = list(wrapped_to(made.voice.sentence(words), SIZE, _wide(made)))
        made.row(((due.day, DAY), (lines[0], WHAT)))
        for line in lines[1:]:
            made.row(((line, WHAT),))


def log_data(draft: Draft, voice: Voice, others: Sequence[Job] = ()) -> bytes:
    """The same as plain data: lengths in mm, days as 2026-11-28."""
    covers = [_cover(job, voice) for job in (draft.job, *others)]
    data = {"format": FORMAT, "version": 1, "thing": draft.job.kin.thing, "covers": covers}
    return (json.dumps(data, indent=1, ensure_ascii=False, allow_nan=False) + "\n").encode()


def _cover(job: Job, voice: Voice) -> dict[str, Any]:
    plain = adapter().dump_python(job, mode="json")
    due = [{"day": one.day, "what": voice.say(one.words), "why": voice.say(one.reason)} for one in dues(job)]
    kept = {key: plain[key] for key in ("name", "owner", "place", "tries", "alterations", "log")}
    return {**kept, "again_of": job.kin.again_of, "family": job.kin.family, "made_on": made_on(job), "due": due}
