"""A sum drawn as a tape: each term as long as it is, one after the other, with ticks; what is taken off lies back below."""

from collections.abc import Sequence
from typing import Final

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.strokes import mixed

TAPE_HIGH: Final = 12
TICKS: Final = 60
"""A tape has about so many ticks."""


class SumTape(QWidget):
    """The tape above the working line."""

    def __init__(self) -> None:
        super().__init__()
        self.terms: tuple[float, ...] = ()
        self.setFixedHeight(TAPE_HIGH)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_terms(self, terms: Sequence[float]) -> None:
        """Show a sum; nothing where there is none."""
        self.terms = tuple(terms)
        self.update()

    def segments(self) -> list[tuple[float, float, bool]]:
        """Where each term begins and ends, as shares of the tape, and whether it is taken off."""
        at, made = 0.0, []
        for term in self.terms:
            made.append((min(at, at + term), max(at, at + term), term < 0.0))
            at += term
        longest = max((high for _, high, _ in made), default=0.0)
        return [(max(0.0, low) / longest, high / longest, back) for low, high, back in made] if longest > 0.0 else []

    def paintEvent(self, event: QPaintEvent) -> None:
        found = self.segments()
        if not found:
            return
        painter = QPainter(self)
        wide = self.width() - 1.0
        painter.setPen(QPen(LOOK.colour("line"), 1.0))
        for k in range(TICKS + 1):
            x = k * wide / TICKS
            painter.drawLine(int(x), 0, int(x), 5 if k % 10 == 0 else 3)
        for k, (low, high, back) in enumerate(found):
            box = QRectF(low * wide, 8.0 if back else 4.0, max(2.0, (high - low) * wide), 4.0 if back else 6.0)
            colour = (
                LOOK.colour("stop") if back else mixed(LOOK.colour("accent"), LOOK.colour("surface"), 0.0 if k % 2 == 0 else 0.45)
            )
            painter.fillRect(box, colour)
        painter.end()
