"""Pages of a list: each with the head and foot that all sheets have, lines of words at their places."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Final

from reportlab.lib.units import mm

from omnipel.core.draft import Draft
from omnipel.core.pictures.pens import Paper
from omnipel.core.words.phrases import Phrase, Voice
from omnipel.exchange.papers.book import INSIDE, Book
from omnipel.exchange.papers.paper import breadth, wrapped_to, write
from omnipel.exchange.papers.sheets import PLAIN, STRONG

SIZE, LEAD = 9.0, 5.2
"""Type of a list, pt, and from one of its lines to the next, mm."""
HEADING: Final = 11.0
"""Type of a heading within, pt."""


class Pages:
    """Pages one after the other, as a part of a book."""

    def __init__(self, book: Book, paper: Paper, title: Phrase) -> None:
        self.book, self.paper, self.title = book, paper, title
        self.canvas: Any = book.canvas
        self.number, self.y = 0, 0.0

    @property
    def draft(self) -> Draft:
        """What is told of."""
        return self.book.draft

    @property
    def voice(self) -> Voice:
        """In whose words."""
        return self.book.voice

    @property
    def left(self) -> float:
        return self.paper.margin + INSIDE

    @property
    def right(self) -> float:
        return self.paper.width - self.paper.margin - INSIDE

    @property
    def wide(self) -> float:
        """Room for a line, mm."""
        return self.right - self.left

    def begin(self) -> None:
        """A new page."""
        if self.number:
            self.canvas.showPage()
        self.number += 1
        self.y = self.book.headed(self.paper, self.title, first=self.number == 1)

    def room(self, high: float) -> None:
        """Go on to the next page unless so much is left, mm."""
        if not self.number or self.y - high < self.book.low(self.paper):
            self.begin()

    def row(self, cells: Sequence[tuple[str, float]], *, strong: bool = False) -> None:
        """A line of words, each at its place from the left, mm; one that stands at less than 0 ends that far from the right."""
        self.room(LEAD)
        self.y -= LEAD
        font = STRONG if strong else PLAIN
        with self.canvas.tagged("P"):
            for words, at in cells:
                x = self.left + at if at >= 0.0 else self.right + at - breadth(words, font, SIZE) / mm
                write(self.canvas, x * mm, (self.y + 1.4) * mm, words, font, SIZE)

    def heading(self, words: Phrase, *, least: float = 3.0 * LEAD) -> None:
        """A heading within, with a rule below; so much comes after it on the same page."""
        self.room(LEAD + least)
        self.y -= LEAD + 0.8
        said = self.voice.sentence(words)
        with self.canvas.tagged("H2", said):
            write(self.canvas, self.left * mm, (self.y + 1.4) * mm, said, STRONG, HEADING)
        self.rule()
        self.y -= 1.0

    def lines(self, words: Phrase, at: float = 0.0, *, strong: bool = False) -> None:
        """Words, broken where they are longer than a line."""
        for line in wrapped_to(self.voice.sentence(words), SIZE, self.wide - at):
            self.row(((line, at),), strong=strong)

    def rule(self) -> None:
        """A thin line."""
        with self.canvas.beside():
            self.canvas.setLineWidth(0.2 * mm)
            self.canvas.setStrokeGray(0.55)
            self.canvas.setDash([], 0)
            self.canvas.line(self.left * mm, self.y * mm, self.right * mm, self.y * mm)
            self.canvas.setStrokeGray(0.0)

    def done(self) -> None:
        """The last page is complete."""
        if not self.number:
            self.begin()
        self.canvas.showPage()
