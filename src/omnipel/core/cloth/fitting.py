"""Whether all fits on a piece of cloth, what would make it fit, and how many covers come out of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.cloth.cuts import QUARTERS, Cut
from omnipel.core.cloth.lay import Lay, lay_of
from omnipel.core.cloth.sheets import Ground, Sheet
from omnipel.core.job.laying import Remnant
from omnipel.core.nesting.building import orders, put
from omnipel.core.nesting.placing import Placed as Lying
from omnipel.core.words.phrases import Name, Phrase, listed, tr

MOST: Final = 60
"""More covers than this are not tried to be cut from one piece."""
TRIES: Final = 8
"""In so many orders."""


@dataclass(frozen=True)
class Fits:
    """Whether cuts go onto a piece of cloth.

    Args:
        lying: where they lie, by their keys, as far as they do.
        left: those that do not, by their keys; none where all fit.
        would: what would make all of them fit, the smallest change first.
    """

    lying: dict[str, Lying]
    left: tuple[str, ...]
    would: tuple[Phrase, ...] = ()

    @property
    def all(self) -> bool:
        """Whether all of them do."""
        return not self.left


def ground_of(piece: Remnant) -> Ground:
    """A piece of cloth to lay on."""
    return Ground(piece.id, Name(piece.name), piece.length, piece.width, piece)


def onto(sheet: Sheet, ground: Ground, keys: Sequence[str] | None = None) -> Fits:
    """Cuts laid on a piece of cloth, as many of them as go in a few orders."""
    keys = [cut.key for cut in sheet.cuts] if keys is None else list(keys)
    problem = sheet.problem(ground, keys)
    best: dict[str, Lying] = {}
    for attempt, order in zip(range(TRIES), orders(problem.each, range(len(keys))), strict=False):
        lying: dict[str, Lying] = {}
        for i in order:
            found = put(problem.ground, problem.each[i], list(lying.values()), at_borders=attempt % 2 == 1)
            if found is not None:
                lying[keys[i]] = found
        if len(lying) > len(best):
            best = lying
        if len(best) == len(keys):
            break
    return Fits(best, tuple(key for key in keys if key not in best))


def fits(sheet: Sheet, piece: Remnant, others: Sequence[Remnant] = ()) -> Fits:
    """Whether all of a layer goes onto a piece of cloth; where not, what would make it go: turning pieces, a second piece of the stash."""
    ground = ground_of(piece)
    found = onto(sheet, ground)
    if found.all:
        return found
    would: list[Phrase] = []
    if not sheet.cloth.one_way:
        across = _turned(sheet, found.left)
        if onto(across, ground).all:
            names = listed(dict.fromkeys(sheet.by_key[key].words for key in found.left))
            would.append(tr("turn {pieces} across the grain: they will hang differently", pieces=names))
        elif onto(_turned(sheet, tuple(sheet.by_key)), ground).all:
            would.append(tr("turn pieces across the grain as they go: they will hang differently"))
    for other in others:
        if other.id != piece.id and onto(sheet, ground_of(other), found.left).all:
            would.append(tr("the rest fits on {piece}", piece=Name(other.name or other.id)))
            break
    return replace(found, would=tuple(would))


def _turned(sheet: Sheet, keys: Sequence[str]) -> Sheet:
    """A sheet on which some cuts may lie across the grain, too."""
    cuts = [replace(cut, turns=QUARTERS) if cut.key in keys and cut.panel is not None else cut for cut in sheet.cuts]
    return replace(sheet, cuts=tuple(cuts))


def how_many(sheet: Sheet, piece: Remnant) -> int:
    """How many covers come out of a piece of cloth, the cuts of one cover given."""
    ground = ground_of(piece)
    n = 0
    while n < MOST and onto(times(sheet, n + 1), ground).all:
        n += 1
    return n


def times(sheet: Sheet, covers: int) -> Sheet:
    """The cuts of one cover so many times."""
    made: list[Cut] = [
        replace(cut, key=f"{cut.key} · {k}" if k > 1 else cut.key, copy=k) for k in range(1, covers + 1) for cut in sheet.cuts
    ]
    return replace(sheet, cuts=tuple(made))


def on_piece(lay: Lay, piece: Remnant) -> Lay:
    """A layer laid on a piece of cloth first, the rest on the bolt."""
    grounds = (ground_of(piece), *(ground for ground in lay.sheet.grounds if ground.id != piece.id))
    return lay_of(replace(lay.sheet, grounds=grounds, choice=replace(lay.sheet.choice, placed=())))
