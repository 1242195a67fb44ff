"""An alteration as it comes out on a cover: what is cut and bought for it, how it is done, and by how much the cover is wider then."""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.job.trying import Alteration
from omnipel.core.words.phrases import NOTHING, Phrase
from omnipel.core.words.working import Worked


@dataclass(frozen=True, slots=True)
class Chore:
    """A step of it: how its key ends, which kind of operation it is, in words, minutes; what to measure when it is done, mm, 0 for nothing."""

    key: str
    deed: str
    words: Phrase
    minutes: float
    check: Phrase = NOTHING
    length: float = 0.0


@dataclass(frozen=True)
class Altered:
    """An alteration on a cover.

    Args:
        what: as it was chosen.
        words: what is done.
        facts: its numbers, in words and with their sums.
        refused: why it cannot be done; nothing where it can.
        gives: by how much the cover is wider around, by the depth below the object's top: `(depth, mm)` in order of depth.
        panels: what is cut for it from the outer's cloth.
        pieces: where these lie on the cover.
        goods: what is bought for it: name, how much, how thick or wide.
        on: the pieces that are worked on.
        chores: how it is done, in order.
        moves: by how much sizes are larger after it, by their keys, mm.
        panels_on: the panels whose sizes it changes otherwise, so that they tell of nothing else any more.
    """

    what: Alteration
    words: Phrase
    facts: tuple[tuple[Phrase, Worked], ...] = ()
    refused: Phrase = NOTHING
    gives: tuple[tuple[float, float], ...] = ()
    panels: tuple[Panel, ...] = ()
    pieces: tuple[Piece, ...] = ()
    goods: tuple[tuple[Phrase, Worked, float], ...] = ()
    on: tuple[str, ...] = ()
    chores: tuple[Chore, ...] = ()
    moves: Mapping[str, float] = field(default_factory=dict)
    panels_on: frozenset[str] = frozenset()

    def moved(self, key: str) -> float | None:
        """By how much a size is larger after it, by the key of the size, mm; None where that cannot be said."""
        if key in self.moves:
            return self.moves[key]
        kind, _, rest = key.partition(":")
        if kind == "panel" and rest.rpartition("/")[0].partition("/")[0] in self.panels_on:
            return None
        return 0.0

    @property
    def cut(self) -> tuple[str, ...]:
        """The names of the pieces that are cut for it."""
        return tuple(piece.name for piece in self.pieces)

    @property
    def minutes(self) -> float:
        """What it takes."""
        return sum(chore.minutes for chore in self.chores)

    def given(self, depth: float) -> float:
        """By how much the cover is wider around at a depth, mm."""
        if not self.gives:
            return 0.0
        return float(np.interp(depth, [at for at, _ in self.gives], [mm for _, mm in self.gives]))
