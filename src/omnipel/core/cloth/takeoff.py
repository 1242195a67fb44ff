"""What is to be bought for a cover: every quantity with its sum, what of it is in the stash, what it costs as far as the shop has said so."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property
from typing import Final

import shapely

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.kinds import cloth_words, needle_words
from omnipel.core.cloth.lay import Lay, by_the_piece, laid
from omnipel.core.cloth.sheets import BOLT, choice_of, cloth_of
from omnipel.core.cloth.stitches import overlocked, seam_lengths, sewn_with, thread_of
from omnipel.core.cloth.stock import NOTHING_THERE, Stock, goods_key, key_of
from omnipel.core.covers.scheme import Hardware
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import SeamKind
from omnipel.core.job.document import ClothChoice, ClothKind, Job
from omnipel.core.job.layers import Fused
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Money, Phrase, Run, Value, mm, plain, term, tr, trn
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, worked

FASTENERS: Final = ("snaps", "eyelets", "grommets", "D-ring", "D-rings", "turn buttons", "buckle", "toggles", "hooks")
"""What is bought by number and lost or spoilt: one in ten is spare."""
SPARE_IN: Final = 10
SPRAY: Final = 4e6
"""One can of spray glue holds so much padding, mm²."""
NEEDLE: Final = 40_000.0
"""One needle sews so far before it is blunt, mm."""


class Group(StrEnum):
    """What a line is about, in the order of a shopping list."""

    CLOTH = "cloth"
    OWN = "cut from the cloth"
    GOODS = "goods"
    SEWING = "for sewing"


@dataclass(frozen=True)
class Line:
    """One thing to buy.

    Args:
        key: what it is called among the shop's goods; of cloth, its layer.
        words: what it is called.
        group: what it is about.
        needed: how much is needed, with its spare: mm, or so many.
        by_length: whether it is bought by length.
        there: how much of that is in the stash.
        price: of a metre, or of one; None where nobody has said, 0 for what is not bought.
        source: where it is decided.
        note: more about it.
    """

    key: str
    words: Phrase
    group: Group
    needed: Worked
    by_length: bool
    there: float = 0.0
    price: float | None = None
    source: Ref | None = None
    note: Phrase = NOTHING

    @property
    def to_buy(self) -> float:
        """What is not there: mm, or so many."""
        return max(0.0, self.needed.value - self.there) if self.group is not Group.OWN else 0.0

    @property
    def stashed(self) -> float:
        """How much of what is needed comes from the stash: mm, or so many."""
        return min(self.there, self.needed.value)

    @property
    def unknown(self) -> bool:
        """Whether something has to be bought whose price nobody has said."""
        return self.price is None and self.to_buy > 1e-9

    def cost(self, amount: float) -> float:
        """What so much of it costs; 0 where that is not known."""
        return (self.price or 0.0) * (amount / 1000.0 if self.by_length else amount)

    @property
    def amount(self) -> Phrase:
        """How much, in words."""
        return said(self.needed.value, self.by_length)


def said(amount: float, by_length: bool) -> Phrase:
    """An amount of goods in words."""
    return tr("{amount}", amount=Run(amount)) if by_length else trn("{n} piece", "{n} pieces", round(amount))


def goods_words(key: str) -> Phrase:
    """What goods are called, from what they are known by."""
    name, _, size = key.rpartition(" ")
    if name == "needles":
        return tr("needles, {size}", size=needle_words(size))
    try:
        number = float(size)
    except ValueError:
        return plain(key)
    if name == "thread Tex":
        return tr("thread, Tex {tex}", tex=Count(number))
    return tr("{goods}, {size}", goods=term(name), size=mm(number, fine=True))


@dataclass(frozen=True)
class Takeoff:
    """All that is to be bought for a job.

    Args:
        lines: in the order of a shopping list.
        covers: how many covers it is for.
        covered: how much they cover, mm².
    """

    lines: tuple[Line, ...]
    covers: int
    covered: float

    @cached_property
    def pay(self) -> float:
        """What is to be paid now, as far as prices are known."""
        return math.fsum(line.cost(line.to_buy) for line in self.lines)

    @cached_property
    def stashed(self) -> float:
        """What of it comes from the stash, at its price."""
        return math.fsum(line.cost(line.stashed) for line in self.lines if line.group is not Group.OWN)

    @property
    def material(self) -> float:
        """What all of it is worth."""
        return self.pay + self.stashed

    @property
    def per_cover(self) -> float:
        """The material of one cover."""
        return self.material / self.covers

    @property
    def per_area(self) -> float:
        """The material for each square metre that is covered."""
        return self.material / (self.covered / 1e6) if self.covered else 0.0

    @property
    def pay_words(self) -> Phrase:
        """What is to be paid now, in words: what has no price is not nothing."""
        if not self.unknown:
            return tr("{pay}", pay=Money(self.pay))
        return tr("at least {pay}", pay=Money(self.pay)) if self.pay else tr("not known")

    @property
    def unknown(self) -> tuple[Line, ...]:
        """What has to be bought at a price that nobody has said."""
        return tuple(line for line in self.lines if line.unknown)


def takeoff(drafted: Drafted, lays: Sequence[Lay] | None = None, stock: Stock = NOTHING_THERE) -> Takeoff:
    """What is to be bought for all covers of a job, from how its layers are laid and what a shop has."""
    lays = [laid(drafted, layer) for layer in layers_of(drafted)] if lays is None else lays
    lines = [line for lay in lays for line in _cloth(lay)]
    lines += _goods(drafted, stock)
    lines += _sewing(drafted, stock)
    outer = [panel for panel in drafted.panels if panel.cloth is Cloth.OUTER]
    covered = math.fsum(shapely.Polygon(panel.sew_points).area * panel.count for panel in outer)
    return Takeoff(tuple(lines), drafted.job.copies, covered * drafted.job.copies)


def _cloth(lay: Lay) -> Iterator[Line]:
    """What is bought of the cloth of a layer, and which pieces of the stash it takes."""
    cloth, layer = lay.sheet.cloth, lay.layer
    name = tr("{cloth}, {width} wide", cloth=cloth_words(cloth.name), width=mm(cloth.usable_width))
    words = name if layer is Cloth.OUTER else tr("{layer}: {cloth}", layer=term(layer.value), cloth=name)
    at = refs.lay(layer.value)
    for ground in lay.grounds:
        if ground.remnant is not None and any(piece.on == ground.id for piece in lay.placed):
            size = tr("a piece {long} by {wide}", long=mm(ground.length), wide=mm(ground.width))
            yield Line(
                layer.value, tr("{cloth}, {piece}", cloth=words, piece=size), Group.CLOTH, worked(size, 1.0), False, 1.0, 0.0, at
            )
    if any(piece.on == BOLT for piece in lay.placed):
        by_length = not by_the_piece(lay.sheet)
        note = NOTHING if by_length else tr("each {long} long", long=mm(cloth.piece_length))
        yield Line(layer.value, words, Group.CLOTH, lay.bought, by_length, 0.0, cloth.price, at, note)


def _goods(drafted: Drafted, stock: Stock) -> Iterator[Line]:
    """What is fitted: the same goods of one size in one line."""
    own = choice_of(drafted.job, Cloth.OUTER).strips
    grouped: dict[tuple[str, bool, bool], list[Hardware]] = {}
    for item in drafted.cover.hardware:
        grouped.setdefault((goods_key(item), item.length is not None, own and item.strip is not None), []).append(item)
    for (key, by_length, cut), items in grouped.items():
        first = items[0]
        words = tr("{goods}, {size}", goods=first.name, size=mm(first.size, fine=True)) if first.size else first.name
        needed = _needed(items, drafted.job)
        there = 0.0 if cut else stock.there(key)
        price = 0.0 if cut else stock.price(key)
        note = items[0].note if len(items) == 1 else NOTHING
        yield Line(key, words, Group.OWN if cut else Group.GOODS, needed, by_length, there, price, None, note)


def _needed(items: Sequence[Hardware], job: Job) -> Worked:
    """How much is needed of the same goods, for all covers; of fasteners one in ten more."""
    lengths = [item.length for item in items if item.length is not None]
    if lengths:
        parts = [
            length if len(items) == 1 else length.named(item.note or item.name)
            for item, length in zip(items, lengths, strict=True)
        ]
        return parts[0].plus(parts[1:]) * float(job.copies)
    count = sum(item.count for item in items) * job.copies
    needed = worked(items[0].name, float(count))
    if str(items[0].name) in FASTENERS:
        needed = needed + worked(tr("spare, one in {n}", n=Count(SPARE_IN)), float(math.ceil(count / SPARE_IN)))
    return needed


def _sewing(drafted: Drafted, stock: Stock) -> Iterator[Line]:
    """What is used up in sewing: thread, tape, sealer, glue, needles."""
    job, cloth = drafted.job, drafted.job.cover.cloth
    covers = float(job.copies)

    def line(key: str, words: Phrase, needed: Worked, by_length: bool, note: Phrase = NOTHING) -> Line:
        return Line(key, words, Group.SEWING, needed, by_length, stock.there(key), stock.price(key), None, note)

    sewn = _sewn(drafted)
    for tex, thread, colour in _threads(sewn):
        words, note = tr("thread, Tex {tex}", tex=Count(tex)), tr("to go with {cloth}", cloth=colour)
        yield line(key_of("thread Tex", tex), words, thread * covers, True, note)
    neatened = overlocked(drafted)
    if neatened is not None:
        yield line("overlock thread", tr("overlock thread"), neatened * covers, True)
    lengths = seam_lengths(drafted)
    taped = _taped(drafted, lengths)
    if taped is not None:
        yield line("basting tape", tr("basting tape"), taped * covers, True)
    if cloth.waterproof and cloth.outdoors and lengths["seams"].value:
        yield line("seam sealer", tr("seam sealer, for so much seam"), lengths["seams"] * covers, True)
    padding = math.fsum(shapely.Polygon(p.sew_points).area * p.count for p in drafted.panels if p.cloth is Cloth.PADDING)
    if padding and job.cover.padded.fused is Fused.NOT:
        cans = math.ceil(padding * covers / SPRAY)
        yield line("spray glue", tr("spray glue, cans"), worked(tr("padding held to its panels"), float(cans)), False)
    for needle, long in _needles(sewn).items():
        count = worked(tr("sewing"), float(max(1, math.ceil(long * covers / NEEDLE)))) + worked(tr("spare"), 1.0)
        yield line(f"needles {needle}", tr("needles, {size}", size=needle_words(needle)), count, False)


def _sewn(drafted: Drafted) -> list[tuple[ClothChoice, Mapping[str, Worked]]]:
    """How much is sewn in each cloth: always in the outer, and in a lining that is sewn by itself."""
    by_layer = [(layer, seam_lengths(drafted, layer)) for layer in (Cloth.OUTER, Cloth.LINING)]
    return [
        (cloth_of(drafted.job, layer), lengths)
        for layer, lengths in by_layer
        if layer is Cloth.OUTER or any(length.value for length in lengths.values())
    ]


def _threads(sewn: Sequence[tuple[ClothChoice, Mapping[str, Worked]]]) -> Iterator[tuple[int, Worked, Value]]:
    """Every thread by its Tex: how much of it, and the cloth it goes with, the first where several are sewn with it."""
    of: dict[int, list[tuple[Worked, Value]]] = {}
    for cloth, lengths in sewn:
        of.setdefault(sewn_with(cloth)[1], []).append((thread_of(cloth, lengths), cloth_words(cloth.name)))
    for tex, parts in of.items():
        first, *others = (thread for thread, _ in parts)
        yield tex, first.plus(others) if others else first, parts[0][1]


def _needles(sewn: Sequence[tuple[ClothChoice, Mapping[str, Worked]]]) -> dict[str, float]:
    """Every needle: how much is sewn with it, mm."""
    of: dict[str, float] = {}
    for cloth, lengths in sewn:
        needle = sewn_with(cloth)[0]
        of[needle] = of.get(needle, 0.0) + math.fsum(length.value for length in lengths.values())
    return of


def _taped(drafted: Drafted, lengths: Mapping[str, Worked]) -> Worked | None:
    """Tape that holds what cannot be pinned: hems of canvas and coated cloth, both sides of zips and laps."""
    cloth = drafted.job.cover.cloth
    parts = [lengths["hems"]] if cloth.kind is ClothKind.CANVAS or cloth.waterproof else []
    zips = (item.length for item in drafted.cover.hardware if str(item.name) == "zip" and item.length is not None)
    parts += [length.named(tr("both sides of the zip")) * 2.0 for length in zips]
    laps = (trued for trued in drafted.seams if trued.seam.kind in (SeamKind.LAPPED, SeamKind.ZIP))
    parts += [worked(term(trued.seam.name), trued.length_b) * float(trued.times) for trued in laps]
    parts = [part for part in parts if part.value > 1e-9]
    return parts[0].plus(parts[1:]) if parts else None
