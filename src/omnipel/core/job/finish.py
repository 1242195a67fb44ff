"""Edge finishes and the allowance each puts between the sew line (or fold) and the cut line."""

import math
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Le

from omnipel.core.words.habits import Habits
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.refs import HEM, Of, Ref
from omnipel.core.words.working import Worked, worked

Allowance = Annotated[float, Ge(0), Le(500)]
"""A hem, casing or seam allowance in mm."""


class FinishKind(StrEnum):
    """How an edge is finished."""

    SEAM = "seam"
    TRIMMED = "seam, trimmed when it meets"
    SINGLE_HEM = "single hem"
    DOUBLE_HEM = "double hem"
    CORD_CASING = "cord casing"
    ELASTIC_CASING = "elastic casing"
    FACING = "facing"
    PIPED = "piped"
    BAGGED = "bagged with the lining"
    BOUND = "bound"
    RAW = "raw"
    SELVAGE = "selvage"
    FOLD = "fold"


SEWN = frozenset((FinishKind.SEAM, FinishKind.TRIMMED, FinishKind.FACING, FinishKind.PIPED, FinishKind.BAGGED))
"""Edges that are sewn to another."""
FOLDED = frozenset((FinishKind.SINGLE_HEM, FinishKind.DOUBLE_HEM, FinishKind.CORD_CASING, FinishKind.ELASTIC_CASING))
TURNED_UNDER = FOLDED - {FinishKind.SINGLE_HEM}
HEMS = (
    FinishKind.SINGLE_HEM,
    FinishKind.DOUBLE_HEM,
    FinishKind.CORD_CASING,
    FinishKind.ELASTIC_CASING,
    FinishKind.BOUND,
    FinishKind.FACING,
    FinishKind.PIPED,
    FinishKind.BAGGED,
    FinishKind.RAW,
    FinishKind.SELVAGE,
)
"""What the edge of an opening may be."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Finish:
    """The finish of an edge: its kind, its width and turn-under, mm.

    The width is the seam allowance, the hem's or casing's, or that of the finished binding; a facing is so wide, and sewn on with the turn-under as its
    allowance; so is a piping, whose cord is so thick.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    kind: FinishKind
    width: Allowance = 0.0
    turn_under: Allowance = 0.0

    @property
    def allowance(self) -> float:
        """From the sew line or fold out to the cut line, mm."""
        return sum(amount for _, amount, _ in self.parts)

    @property
    def folded(self) -> float:
        """How deep the finish folds back onto the panel, mm; 0 when it does not."""
        return self.width if self.kind in FOLDED else 0.0

    @property
    def parts(self) -> tuple[tuple[Phrase, float, str], ...]:
        """The allowance in named parts, from the sew line outward, each with the attribute that decides it."""
        match self.kind:
            case FinishKind.SEAM | FinishKind.TRIMMED | FinishKind.BAGGED:
                return ((tr("seam allowance"), self.width, "width"),)
            case FinishKind.FACING | FinishKind.PIPED:
                return ((tr("seam allowance"), self.turn_under, "turn_under"),)
            case FinishKind.SINGLE_HEM:
                return ((tr("hem"), self.width, "width"),)
            case FinishKind.DOUBLE_HEM:
                return ((tr("hem"), self.width, "width"), (tr("turn-under"), self.turn_under, "turn_under"))
            case FinishKind.CORD_CASING | FinishKind.ELASTIC_CASING:
                return ((tr("casing"), self.width, "width"), (tr("turn-under"), self.turn_under, "turn_under"))
            case FinishKind.BOUND | FinishKind.RAW | FinishKind.SELVAGE | FinishKind.FOLD:
                return ()

    def worked(self, source: Ref | None = None) -> tuple[Worked, ...]:
        """The parts as numbers that know where they are decided."""
        return tuple(
            worked(name, mm, (source.at(attribute) if source is not None and _finish(source) else source) if attribute else None)
            for name, mm, attribute in self.parts
            if mm
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Trimmed(Finish):
    """A seam whose edge is cut longer by `spare`, mm, which is trimmed off when it meets. No person chooses it: a job cannot hold it."""

    kind: FinishKind = FinishKind.TRIMMED
    spare: float = 0.0

    @property
    def parts(self) -> tuple[tuple[Phrase, float, str], ...]:
        """The seam allowance, and beyond it the spare."""
        return ((tr("seam allowance"), self.width, "width"), (tr("spare to trim"), self.spare, ""))


@dataclass(frozen=True, slots=True, kw_only=True)
class Spared(Finish):
    """A free end of a strip that is sewn around something: cut longer by `spare`, mm, and trimmed to its hem when it has come round. No job holds it."""

    spare: float = 0.0

    @property
    def parts(self) -> tuple[tuple[Phrase, float, str], ...]:
        """What it is finished with, and beyond that the spare."""
        return (*super(Spared, self).parts, (tr("spare to trim"), self.spare, ""))


@dataclass(frozen=True, slots=True, kw_only=True)
class Deeper(Finish):
    """An edge whose seam or hem is known to come out deeper by `more`, mm: so much more is cut, and the sew line stays. No job holds it."""

    of: Finish
    more: float
    words: Phrase
    where: Ref

    @property
    def parts(self) -> tuple[tuple[Phrase, float, str], ...]:
        """Those of the finish itself, and beyond them what is taken."""
        return (*self.of.parts, (self.words, self.more, ""))

    def worked(self, source: Ref | None = None) -> tuple[Worked, ...]:
        """The parts as numbers; what is taken is decided at a place of its own."""
        return (*self.of.worked(source), worked(self.words, self.more, self.where))


def deeper(finish: Finish, more: float, words: Phrase, where: Ref) -> Finish:
    """A finish that comes out deeper by so much."""
    return Deeper(
        kind=finish.kind, width=finish.width, turn_under=finish.turn_under, of=finish, more=more, words=words, where=where
    )


def is_hem(finish: Finish) -> bool:
    """Whether it may be the lower edge of a cover."""
    return finish.kind in HEMS


def _finish(source: Ref) -> bool:
    """Whether a reference leads to a whole finish, not to one length of it."""
    return source == HEM or source.of is Of.EDGE


RAW = Finish(kind=FinishKind.RAW)
BOUND = Finish(kind=FinishKind.BOUND, width=10.0)
ON_FOLD = Finish(kind=FinishKind.FOLD)
SELVAGE = Finish(kind=FinishKind.SELVAGE)


def seam(allowance: float) -> Finish:
    """An edge that is sewn to another."""
    return Finish(kind=FinishKind.SEAM, width=allowance)


def trimmed(allowance: float, spare: float) -> Finish:
    """The end of a strip that is closed where it meets: cut longer by `spare`, which is trimmed off then."""
    return Trimmed(width=allowance, spare=spare)


def single_hem(width: float) -> Finish:
    """Folded once."""
    return Finish(kind=FinishKind.SINGLE_HEM, width=width)


def double_hem(width: float, turn_under: float) -> Finish:
    """Folded twice."""
    return Finish(kind=FinishKind.DOUBLE_HEM, width=width, turn_under=turn_under)


def cord_casing(diameter: float, turn_under: float, step: float = 1.0) -> Finish:
    """A tunnel for a cord; its fold is rounded up to a `step`, mm.

    >>> cord_casing(6, 12).allowance
    25.0
    """
    return Finish(kind=FinishKind.CORD_CASING, width=cord_fold(diameter, step), turn_under=turn_under)


def elastic_casing(width: float, turn_under: float) -> Finish:
    """A tunnel for an elastic: its width and 4 to run in."""
    return Finish(kind=FinishKind.ELASTIC_CASING, width=width + 4.0, turn_under=turn_under)


def usual_finish(kind: FinishKind, habits: Habits, allowance: float) -> Finish:
    """How those who made a job usually finish an edge in a way; seams and facings with the given allowance."""
    turn = habits.mm("turn-under")
    match kind:
        case FinishKind.SINGLE_HEM:
            return single_hem(habits.mm("hem"))
        case FinishKind.DOUBLE_HEM:
            return double_hem(habits.mm("hem"), turn)
        case FinishKind.CORD_CASING:
            casing = cord_casing(habits.mm("drawcord"), turn, habits.system.step)
            return replace(casing, turn_under=min(turn, casing.width))
        case FinishKind.ELASTIC_CASING:
            wide = habits.system.up(habits.mm("elastic") + 4.0)
            return Finish(kind=kind, width=wide, turn_under=min(turn, wide))
        case FinishKind.FACING:
            return Finish(kind=kind, width=habits.mm("facing"), turn_under=allowance)
        case FinishKind.PIPED:
            return Finish(kind=kind, width=habits.mm("piping"), turn_under=allowance)
        case FinishKind.BOUND:
            return Finish(kind=kind, width=habits.mm("binding"))
        case FinishKind.SEAM | FinishKind.TRIMMED | FinishKind.BAGGED:
            return Finish(kind=kind, width=allowance)
        case FinishKind.RAW | FinishKind.SELVAGE | FinishKind.FOLD:
            return Finish(kind=kind)


def refinished_as(old: Finish, kind: FinishKind, habits: Habits, allowance: float) -> Finish:
    """An edge finished in another way: a hem stays as wide as it was, anything else begins as usual."""
    usual = usual_finish(kind, habits, allowance)
    hems = {FinishKind.SINGLE_HEM, FinishKind.DOUBLE_HEM}
    if kind in hems and old.kind in hems:
        return replace(
            usual, width=old.width, turn_under=(old.turn_under or min(usual.turn_under, old.width)) if usual.turn_under else 0.0
        )
    return usual


def cord_fold(diameter: float, step: float = 1.0) -> float:
    """The least fold width of a cord casing, πd/2 + 3, rounded up to a `step`, mm."""
    return math.ceil((math.pi * diameter / 2.0 + 3.0) / step - 1e-9) * step
