"""A file of sheets: parts one after the other, all with one head and one foot, each part with its bookmark."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Final

from reportlab.lib.units import mm

from omnipel.core.draft import Draft
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.ticks import ticks
from omnipel.core.words.phrases import Name, Phrase, Voice, listed, plain, term, tr
from omnipel.exchange.papers.paper import BAND, do_not_cut, replay, write_within
from omnipel.exchange.papers.sheets import PLAIN, STRONG, Sheets

INSIDE: Final = 5.0
"""What is told keeps so far from what a printer reaches, mm."""
HEAD: Final = 21.0
"""Height of a sheet's head with the ruler above it, mm."""
FOOT: Final = 6.0
"""Height of a sheet's foot, mm."""
TITLE, ABOUT = 16.0, 9.5
"""Type of a sheet's head, pt."""


@dataclass
class Book:
    """Sheets of a job, in one file.

    Args:
        draft: of what.
        voice: in whose words.
        title: what the file is.
        paper: of the first sheet.
        made: when; None where a file is always to be the same.
    """

    draft: Draft
    voice: Voice
    title: Phrase
    paper: Paper
    made: datetime | None = None
    bookmarked: list[tuple[Phrase, int]] = field(default_factory=list)
    cuts: bool = True
    """Whether what is drawn now leads to cutting, so that it says where one must not."""

    def __post_init__(self) -> None:
        self.target = io.BytesIO()
        say = self.voice.say
        title = say(tr("{job} · {sheet}", job=Name(self.draft.job.name), sheet=self.title))
        numbered = say(tr("{n} of {all}", n=Name("{n}"), all=Name("{all}")))
        size = self.paper.width, self.paper.height
        self.canvas: Any = Sheets(self.target, size, title, made=self.made, tongue=self.voice.language, numbered=numbered)
        self.canvas.setSubject(say(tr("A fitted cover: {sheet}", sheet=self.title)))
        self.canvas.setKeywords([name for name in (self.draft.job.owner, self.draft.job.place) if name])

    @property
    def stopped(self) -> bool:
        """Whether sheets say that one must not cut."""
        return self.cuts and self.draft.stops

    @property
    def number(self) -> int:
        """The number of the sheet that is drawn."""
        return len(self.canvas.done) + 1

    def begin(self, paper: Paper, part: Phrase, *, first: bool = False) -> None:
        """A new sheet, with its foot; the first of a part gets its bookmark."""
        self.canvas.setPageSize((paper.width * mm, paper.height * mm))
        if first:
            self.mark(part)
        left, right = paper.margin + INSIDE, paper.width - paper.margin - INSIDE
        self.canvas.has_foot(self.voice.say(foot_words(self.draft.job.name, part, self.made)), left, right, paper.margin + 1.0)

    def mark(self, words: Phrase, level: int = 0) -> None:
        """A bookmark of this sheet."""
        self.canvas.bookmark(self.voice.sentence(words), level)
        if level == 0:
            self.bookmarked.append((words, self.number))

    def headed(self, paper: Paper, part: Phrase, *, first: bool = False, room: float = 0.0) -> float:
        """A new sheet with its head; where what is told begins, mm. `room` is kept free at the right of the head."""
        self.begin(paper, part, first=first)
        canvas, left, right = self.canvas, paper.margin + INSIDE, paper.width - paper.margin - INSIDE
        top = paper.height - paper.margin
        with canvas.beside():
            _ruler(canvas, left, right, top, self.voice)
            if self.stopped:
                do_not_cut(canvas, self.voice, paper)
        top -= BAND if self.stopped else 0.0
        canvas.setFillGray(0.0)
        job = self.draft.job
        with canvas.tagged("P"):
            write_within(canvas, left * mm, (top - 10.0) * mm, job.name, STRONG, TITLE, (right - left - room) * mm)
        said = self.voice.sentence(part)
        about = [plain(words) for words in (job.owner, job.place) if words]
        about += [tr("lengths in {unit}", unit=term(job.unit.label))]
        with canvas.tagged("H1" if first else "P", said if first else ""):
            words = f"{said} · {self.voice.say(listed(about, ' · '))}"
            write_within(canvas, left * mm, (top - 16.0) * mm, words, PLAIN, ABOUT, (right - left - room) * mm)
        return top - HEAD

    def low(self, paper: Paper) -> float:
        """Nothing but the foot stands lower, mm."""
        return paper.margin + FOOT

    def finished(self) -> bytes:
        """The file."""
        self.canvas.save()
        return self.target.getvalue()


def foot_words(job: str, part: Phrase, made: datetime | None) -> Phrase:
    """What stands at the foot of a sheet."""
    if made is None:
        return tr("{job} · {sheet}", job=Name(job), sheet=part)
    return tr("{job} · {sheet} · drafted {day}", job=Name(job), sheet=part, day=Name(f"{made:%Y-%m-%d}"))


def booked(
    draft: Draft, voice: Voice, title: Phrase, paper: Paper, made: datetime | None, *parts: Callable[[Book], object]
) -> bytes:
    """A file of these parts."""
    book = Book(draft, voice, title, paper, made)
    for part in parts:
        part(book)
    return book.finished()


def fitted(
    canvas: Any, drawing: Drawing, box: tuple[float, float, float, float], *, filled: bool = False, fine: float = 1.0
) -> None:
    """A drawing in the middle of a box (left, low, wide, high), mm, as large as goes in."""
    left, low, wide, high = box
    x0, y0, x1, y1 = drawing.bounds
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    canvas.saveState()
    canvas.translate((left + wide / 2.0) * mm, (low + high / 2.0) * mm)
    replay(canvas, drawing.moved(-(x0 + x1) / 2.0, -(y0 + y1) / 2.0), scale=scale, filled=filled, fine=fine)
    canvas.restoreState()
    canvas.setDash([], 0)
    canvas.setFillGray(0.0)
    canvas.setStrokeGray(0.0)


def _ruler(canvas: Any, left: float, right: float, y: float, voice: Voice) -> None:
    """A tape's edge along the top, full size."""
    canvas.setLineWidth(0.15 * mm)
    canvas.setStrokeGray(0.3)
    canvas.setDash([], 0)
    for at, rank in ticks(0.0, right - left, 0.9, voice.unit):
        canvas.line((left + at) * mm, y * mm, (left + at) * mm, (y - (1.2, 2.0, 3.0)[rank]) * mm)
    canvas.setStrokeGray(0.0)
