"""The minutes of an operation, with the sum that makes them."""

import math
from dataclasses import dataclass
from typing import Final

from omnipel.core.finishing.operation import Operation, Pace
from omnipel.core.job.document import ClothKind
from omnipel.core.sewing.order import Rig
from omnipel.core.sewing.paces import COTTON, FOOT, METRE, NEEDLE, RATES, TO_IRON, Person
from omnipel.core.words.phrases import NOTHING, Count, Minutes, PerRun, Phrase, listed, mm, tr
from omnipel.core.words.sums import apportioned


@dataclass(frozen=True, slots=True)
class Part:
    """One line of a sum of minutes: what for, and how it is reckoned."""

    words: Phrase
    minutes: float
    how: Phrase = NOTHING


@dataclass(frozen=True, slots=True)
class Spent:
    """Minutes, and the lines that add up to them."""

    parts: tuple[Part, ...]

    @property
    def minutes(self) -> float:
        """All together."""
        return math.fsum(part.minutes for part in self.parts)

    def told(self) -> Phrase:
        """The sum in one line; what is shown adds up, what is too short to show is left out."""
        step = 0.5 if self.minutes < SHORT else 1.0
        total = math.floor(self.minutes / step + 0.5)
        shown = apportioned([part.minutes / step for part in self.parts], total)
        lines = [
            tr("{minutes} {words} ({how})", minutes=Minutes(n * step), words=part.words, how=part.how)
            if part.how
            else tr("{minutes} {words}", minutes=Minutes(n * step), words=part.words)
            for part, n in zip(self.parts, shown, strict=True)
            if n
        ]
        return (
            tr("{total} = {parts}", total=Minutes(total * step), parts=listed(lines, " + "))
            if lines
            else tr("under half a minute")
        )


SHORT: Final = 9.75
"""Minutes are told to the half up to here."""


def spent(operation: Operation, kind: ClothKind, person: Person, copies: int = 1) -> Spent:
    """What an operation takes by the paces, for so many covers, without changing over."""
    parts = []
    for work in operation.work:
        amount = work.amount * copies
        if amount <= 0.0:
            continue
        rate, pace = RATES[work.pace], person.minutes(work.pace)
        if work.pace is Pace.STRAIGHT and kind is ClothKind.COTTON:
            pace *= COTTON
        if rate.per:
            how = tr("{long} at {pace}", long=mm(amount), pace=PerRun(pace))
            parts.append(Part(work.name or rate.words, amount / METRE * pace, how))
        elif work.pace is Pace.FIXED:
            how = tr("{n} covers", n=Count(copies)) if copies > 1 else NOTHING
            parts.append(Part(work.name or rate.words, amount * pace, how))
        else:
            parts.append(
                Part(work.name or rate.words, amount * pace, tr("{n} at {pace} min", n=Count(amount, 1), pace=Count(pace, 2)))
            )
    return Spent(tuple(parts))


def changed(before: Rig | None, rig: Rig, last_sewn: Rig | None) -> Spent:
    """What changing over to a rig takes: the foot, needle and thread since the machine was used last, the way to the iron."""
    parts = []
    if rig.foot and last_sewn is not None:
        if rig.foot != last_sewn.foot:
            parts.append(Part(tr("changing the foot"), FOOT))
        if (rig.needle, rig.thread) != (last_sewn.needle, last_sewn.thread):
            parts.append(Part(tr("changing needle and thread"), NEEDLE))
    if rig.station == "iron" and (before is None or before.station != "iron"):
        parts.append(Part(tr("to the iron"), TO_IRON))
    return Spent(tuple(parts))
