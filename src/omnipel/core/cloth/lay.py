"""A layer laid on its cloth: what a person or a search has placed as far as it still holds, the rest laid beside it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Final

from omnipel.core.cloth.sheets import BOLT, Ground, Sheet, sheet_of
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import SoldAs
from omnipel.core.job.laying import Placed
from omnipel.core.nesting.building import Nest, put
from omnipel.core.nesting.checking import faults
from omnipel.core.nesting.problem import Problem, at_once, pulled_if_few
from omnipel.core.nesting.shape import turned
from omnipel.core.plane.curves import Points
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Share, tr
from omnipel.core.words.working import Worked, worked

MOST_PIECES: Final = 40
"""Of a cloth that is sold by the piece no more than so many are laid."""


@dataclass(frozen=True, eq=False)
class Lay:
    """A layer on its cloth.

    Args:
        sheet: what is laid, and on what.
        placed: where every cut lies that could be laid.
        left: keys of cuts that fit on nothing that there is.
        moved: keys of cuts that had been placed and no longer fit there, so that they are laid anew.
        kept: whether every cut lies where the job has it.
        extra: further pieces of a cloth that is sold by the piece.
    """

    sheet: Sheet
    placed: tuple[Placed, ...]
    left: tuple[str, ...] = ()
    moved: tuple[str, ...] = ()
    kept: bool = False
    extra: tuple[Ground, ...] = ()

    @property
    def layer(self) -> Cloth:
        """Which layer it is."""
        return self.sheet.layer

    @cached_property
    def grounds(self) -> tuple[Ground, ...]:
        """All that there is to lay on, used or not."""
        return (*self.sheet.grounds, *self.extra)

    def on(self, ground: Ground) -> list[Placed]:
        """What lies on a ground, in the order of cutting: from the cut end on, and from the selvage."""
        mine = [piece for piece in self.placed if piece.on == ground.id]
        box = {p.piece: lying for p, lying in zip(mine, self.sheet.lying(ground, mine), strict=True)}
        return sorted(mine, key=lambda p: (round(float(box[p.piece].low[0]), 1), float(box[p.piece].low[1])))

    def outline(self, placed: Placed) -> Points:
        """The outline to cut of a piece where it lies on its ground, `(n, 2)`."""
        ring: Points = turned(self.sheet.by_key[placed.piece].ring, placed.turn) + (placed.x, placed.y)
        return ring

    def nest(self, ground: Ground) -> Nest:
        """What lies on a ground, in the frame of its problem."""
        return self.sheet.lying(ground, self.on(ground))

    @property
    def bolt(self) -> Ground:
        """The bolt, or the first piece of a cloth that is sold so."""
        return next(ground for ground in self.grounds if ground.id == BOLT)

    @cached_property
    def length(self) -> float:
        """How much of the bolt is used, its ends not counted, mm."""
        return self.sheet.used(self.nest(self.bolt))

    @cached_property
    def used(self) -> Worked:
        """How much of the bolt is used, its squared ends counted."""
        nest, on = self.nest(self.bolt), self.on(self.bolt)
        if not nest:
            return worked(tr("nothing lies on the bolt"), 0.0)
        last = max(range(len(nest)), key=lambda i: float(nest[i].high[0]))
        words = self.sheet.by_key[on[last].piece].words
        begins = max(0.0, float(nest[last].low[0]))  # grown by half of the gap, in a frame that is moved by as much
        long = self.length - begins
        total = worked(tr("{piece} along the cloth", piece=words), long, how=tr("the piece that ends last"))
        if begins > 1e-9:
            total = worked(tr("what lies before it"), begins) + total
        if self.sheet.ends:
            ends = worked(tr("a cut end squared"), self.sheet.ends, refs.lay(self.layer.value, "ends"))
            total = total + ends * 2.0
        return total

    @cached_property
    def bought(self) -> Worked:
        """How much of the cloth is to be bought: in the steps it is sold by, no less than is sold. Of pieces, their number."""
        cloth = self.sheet.cloth
        if not self.nest(self.bolt):
            return worked(tr("nothing"), 0.0)
        if by_the_piece(self.sheet):
            there = {p.on for p in self.placed}
            return worked(tr("pieces"), float(len(there & {BOLT, *(ground.id for ground in self.extra)})))
        left = cloth.left_by_wash[0]
        washed = worked(tr("the first wash takes up {share}", share=Share(1.0 - left, 1)), self.used.value * (1.0 / left - 1.0))
        return rounded(self.used + washed if washed.value else self.used, cloth.sold_by, cloth.least)

    @property
    def there(self) -> float:
        """How long what is bought is when it is cut, its squared end counted, mm."""
        return self.bought.value * self.sheet.cloth.left_by_wash[0]

    @property
    def bought_length(self) -> float:
        """How much of the cloth is to be bought, of pieces all of these, mm."""
        return self.bought.value * (self.sheet.cloth.piece_length if by_the_piece(self.sheet) else 1.0)

    @cached_property
    def area(self) -> float:
        """Of all that is cut, both layers of folded cloth counted where both are needed, mm²."""
        return math.fsum(cut.area * (2.0 if cut.twice else 1.0) for cut in self.sheet.cuts)

    @cached_property
    def share(self) -> float:
        """The share of the used cloth that becomes cover."""
        layers = 2.0 if self.sheet.folded else 1.0
        cloth = self.length * self.bolt.width * layers
        on_bolt = {p.piece for p in self.placed if p.on == BOLT}
        cuts = math.fsum(c.area * (2.0 if c.twice else 1.0) for c in self.sheet.cuts if c.key in on_bolt)
        return min(1.0, cuts / cloth) if cloth else 0.0

    @cached_property
    def problem(self) -> Problem:
        """What is on the bolt, to be laid better; what is locked stays."""
        on = self.on(self.bolt)
        return self.sheet.problem(self.bolt, [p.piece for p in on], [p for p in on if p.locked])


def by_the_piece(sheet: Sheet) -> bool:
    """Whether its cloth is sold in pieces of one length."""
    return sheet.cloth.sold_as is SoldAs.PIECE and sheet.cloth.piece_length > 0.0


def rounded(length: Worked, step: float, least: float) -> Worked:
    """A length as it is sold: in steps, no less than the least."""
    whole = max(math.ceil(length.value / step - 1e-9) * step if step else length.value, least)
    more = whole - length.value
    return length + worked(tr("up to what is sold"), more) if more > 1e-9 else length


@dataclass
class _Laying:
    """A lay while it is made."""

    sheet: Sheet
    placed: list[Placed] = field(default_factory=list)
    moved: list[str] = field(default_factory=list)
    extra: list[Ground] = field(default_factory=list)

    def keep(self) -> None:
        """What the job has placed, as far as it still is there, inside and on nothing else; of two that overlap the one that was placed later gives way."""
        known, grounds = self.sheet.by_key, {ground.id: ground for ground in self.sheet.grounds}
        if by_the_piece(self.sheet):
            for piece in self.sheet.choice.placed:
                if piece.on not in grounds and piece.on.startswith("piece "):
                    grounds[piece.on] = self._more(int(piece.on.split()[1]))
        mine: dict[str, list[Placed]] = {}
        seen: set[str] = set()
        for placed in self.sheet.choice.placed:
            if placed.piece in known and placed.piece not in seen:
                seen.add(placed.piece)
                mine.setdefault(placed.on if placed.on in grounds else "?", []).append(placed)
        for ground_id, pieces in mine.items():
            if ground_id == "?":
                self.moved += [piece.piece for piece in pieces]
                continue
            ground = grounds[ground_id]
            amiss = self._amiss(ground, pieces)
            self.placed += [piece for i, piece in enumerate(pieces) if i not in amiss]
            self.moved += [piece.piece for i, piece in enumerate(pieces) if i in amiss]

    def _amiss(self, ground: Ground, pieces: list[Placed]) -> set[int]:
        lying = self.sheet.lying(ground, pieces)
        amiss: set[int] = set()
        for i, piece in enumerate(pieces):
            shape = self.sheet.shapes[piece.piece]
            lawful = shape.free or any(abs(math.remainder(turn - piece.turn, 2.0 * math.pi)) < 1e-6 for turn in shape.turns)
            on_pitch = all(
                not step or abs(math.remainder(float(at) + start, step)) < 1e-6
                for step, at, start in zip(shape.pitch, lying[i].at, lying[i].way.start, strict=True)
            )
            level = shape.level is None or abs(float(lying[i].at[1]) - shape.level) < 1e-6
            if not (lawful and on_pitch and level):
                amiss.add(i)
        length = self._length(ground)
        flaws = self.sheet.problem(ground, [p.piece for p in pieces]).ground.avoid
        for one, other in faults(lying, ground.width + self.sheet.gap, length + self.sheet.gap, flaws):
            if one not in amiss and other not in amiss:
                amiss.add(max(one, other) if other >= 0 else one)
        return amiss

    def _length(self, ground: Ground) -> float:
        return self.sheet.cloth.cut_piece if ground.id == BOLT and by_the_piece(self.sheet) else ground.length

    def _more(self, number: int) -> Ground:
        """One more piece of a cloth that is sold so."""
        known = next((ground for ground in self.extra if ground.id == f"piece {number}"), None)
        if known is None:
            bolt = self.sheet.grounds[-1]
            name = tr("{cloth}, piece {n}", cloth=bolt.name, n=Count(number))
            known = Ground(f"piece {number}", name, self.sheet.cloth.cut_piece, bolt.width)
            self.extra.append(known)
        return known

    def lay(self, tries: int, seconds: float) -> list[str]:
        """Lay what does not lie yet: on pieces of the stash as far as they take it, then on the bolt. What fits nowhere is left."""
        left = [cut.key for cut in self.sheet.cuts if cut.key not in {placed.piece for placed in self.placed}]
        left.sort(key=lambda key: -self.sheet.by_key[key].area)
        for ground in self.sheet.grounds[:-1]:
            left = self._fill(ground, left)
        bolt = self.sheet.grounds[-1]
        if not by_the_piece(self.sheet):
            return self._on_bolt(bolt, left, tries, seconds)
        left = self._fill(replace(bolt, length=self.sheet.cloth.cut_piece), left)
        for number in range(2, MOST_PIECES + 1):
            if not left:
                break
            before = len(left)
            left = self._fill(self._more(number), left)
            if len(left) == before:
                break
        return left

    def _fill(self, ground: Ground, keys: list[str]) -> list[str]:
        """Lay one cut after the other on a piece of cloth, the largest first; those that it does not take."""
        there = [piece for piece in self.placed if piece.on == ground.id]
        nest = self.sheet.lying(ground, there)
        base = self.sheet.problem(ground, [])
        left = []
        for key in keys:
            best = put(base.ground, self.sheet.shapes[key], nest)
            if best is None:
                left.append(key)
                continue
            nest.append(best)
            self.placed += self.sheet.placed(ground, [key], [best])
        return left

    def _on_bolt(self, bolt: Ground, keys: list[str], tries: int, seconds: float) -> list[str]:
        there = [piece for piece in self.placed if piece.on == bolt.id]
        wide = {key for key in keys if not _goes_on(self.sheet, key, bolt)}
        laid = [*[piece.piece for piece in there], *(key for key in keys if key not in wide)]
        if len(laid) == len(there):
            return [key for key in keys if key in wide]
        problem = self.sheet.problem(bolt, laid, [replace(piece, locked=True) for piece in there])
        nest = at_once(problem, tries, seconds)
        if nest is None:
            return keys
        nest = pulled_if_few(problem, nest)
        fresh = range(len(there), len(laid))
        self.placed += self.sheet.placed(bolt, [laid[i] for i in fresh], [nest[i] for i in fresh])
        return [key for key in keys if key in wide]


def _goes_on(sheet: Sheet, key: str, ground: Ground) -> bool:
    room = ground.width + sheet.gap + 1e-9
    return any(float(way.high[1] - way.low[1]) <= room for way in sheet.shapes[key].ways)


def lay_of(sheet: Sheet, *, tries: int = 4, seconds: float = 0.3) -> Lay:
    """A layer laid: what the job has placed as far as it holds, the rest as well as it goes at once. The same job always gives the same lay."""
    making = _Laying(sheet)
    making.keep()
    before = len(making.placed)
    left = making.lay(tries, seconds)
    kept = len(making.placed) == before and not left and before == len(sheet.cuts)
    return Lay(sheet, tuple(making.placed), tuple(left), tuple(making.moved), kept, tuple(making.extra))


def laid(drafted: Drafted, layer: Cloth) -> Lay:
    """A layer of a cover on its cloth."""
    return lay_of(sheet_of(drafted, layer))


def with_nest(lay: Lay, nest: Nest, locked: Iterable[str] = ()) -> tuple[Placed, ...]:
    """All placements of a lay, with those on the bolt as a search found them."""
    on = lay.on(lay.bolt)
    keep = frozenset(locked) | {piece.piece for piece in on if piece.locked}
    found = lay.sheet.placed(lay.bolt, [piece.piece for piece in on], nest, keep)
    return (*(piece for piece in lay.placed if piece.on != BOLT), *found)
