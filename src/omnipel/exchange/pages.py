"""Pages of a list: each with the job's name, what it is and its number, lines of words at their places."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any, Final

from reportlab.lib.units import mm

from omnipel.core.draft import Draft
from omnipel.core.pictures.pens import Paper
from omnipel.core.words.phrases import Count, Name, Phrase, Voice, term, tr
from omnipel.exchange.paper import BAND, PLAIN, STRONG, Sheets, breadth, do_not_cut, load_type, write, write_within

SIZE, LEAD = 9.0, 5.2
"""Type of a list, pt, and from one of its lines to the next, mm."""
HEAD: Final = 20.0
"""Height of a page's head, mm."""


class Pages:
    """Pages one after the other, each with the job's name, the sheet's and its number."""

    def __init__(self, draft: Draft, paper: Paper, voice: Voice, title: Phrase) -> None:
        load_type()
        self.draft, self.paper, self.voice, self.title = draft, paper, voice, title
        self.target = io.BytesIO()
        self.canvas: Any = Sheets(self.target, pagesize=(paper.width * mm, paper.height * mm), pageCompression=1, invariant=1)
        self.canvas.setTitle(voice.say(tr("{job} · {sheet}", job=Name(draft.job.name), sheet=title)))
        self.canvas.setAuthor("Omnipel")
        self.number, self.y = 0, 0.0

    @property
    def left(self) -> float:
        return self.paper.margin + 5.0

    @property
    def right(self) -> float:
        return self.paper.width - self.paper.margin - 5.0

    def begin(self) -> None:
        """A new page."""
        if self.number:
            self.canvas.showPage()
        self.number += 1
        top = self.paper.height - self.paper.margin
        if self.draft.stops:
            do_not_cut(self.canvas, self.voice, self.paper)
            top -= BAND
        self.canvas.setFillGray(0.0)
        job = self.draft.job
        write_within(self.canvas, self.left * mm, (top - 7.0) * mm, job.name, STRONG, 16.0, (self.right - self.left - 30.0) * mm)
        self.canvas.setFont(PLAIN, SIZE)
        words = self.voice.say(
            tr("{sheet}, page {n} · lengths in {unit}", sheet=self.title, n=Count(self.number), unit=term(job.unit.label))
        )
        self.canvas.drawString(self.left * mm, (top - 13.0) * mm, words)
        self.y = top - HEAD

    def room(self, high: float) -> None:
        """Go on to the next page unless so much is left, mm."""
        if not self.number or self.y - high < self.paper.margin + 4.0:
            self.begin()

    def row(self, cells: Sequence[tuple[str, float]], *, strong: bool = False) -> None:
        """A line of words, each at its place from the left, mm; one that stands at less than 0 ends that far from the right."""
        self.room(LEAD)
        self.y -= LEAD
        font = STRONG if strong else PLAIN
        for words, at in cells:
            x = self.left + at if at >= 0.0 else self.right + at - breadth(words, font, SIZE) / mm
            write(self.canvas, x * mm, (self.y + 1.4) * mm, words, font, SIZE)

    def rule(self) -> None:
        """A thin line."""
        self.canvas.setLineWidth(0.2 * mm)
        self.canvas.setStrokeGray(0.55)
        self.canvas.setDash([], 0)
        self.canvas.line(self.left * mm, self.y * mm, self.right * mm, self.y * mm)

    def done(self) -> bytes:
        """The file."""
        if not self.number:
            self.begin()
        self.canvas.showPage()
        self.canvas.save()
        return self.target.getvalue()
