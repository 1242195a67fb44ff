"""Readings as a person takes them: where, with what, how often, and what the person says about them."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Final

from annotated_types import Ge, Gt, Le, Len

from omnipel.core.tolerances import LONGEST

MOST_REPEATS: Final = 5
MOST_OFF: Final = 50.0
"""No instrument reads too long or too short by more, mm: a person would have noticed."""

Measured = Annotated[float, Gt(0), Le(LONGEST)]
"""A measured length in mm: positive and no longer than anything a cover is made for."""


class Instrument(StrEnum):
    """What a reading was taken with."""

    TAPE = "soft tape"
    RULE = "steel rule"
    STRAIGHTEDGE = "rule between straightedges"
    STRING = "string then rule"
    EYE = "across by eye"
    TRACE = "traced outline"
    PHOTO = "photo"


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One number taken with one instrument at one place, repeated one to five times. All repeats are kept.

    Args:
        place: where the tape lay.
        repeats: every number that was read, mm.
        instrument: with what.
        beside: what is noted beside it at places that ask for it (how far down a string was laid, how high a mark is), mm.
        left_out: positions of repeats that the person has declared misread.
        set_aside: the whole reading does not count: it is to be taken again.
        sure: the person has looked again and stands by it, whatever the others say.
        reads_long: by how much the instrument is known to read too long, mm; what counts is so much less.
        sigma: replaces the instrument's typical σ when the person knows better, mm.
        note: where exactly, what was in the way.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    place: Annotated[str, Len(1, 80)]
    repeats: Annotated[tuple[Measured, ...], Len(1, MOST_REPEATS)]
    instrument: Instrument = Instrument.TAPE
    beside: Measured | None = None
    left_out: tuple[int, ...] = ()
    set_aside: bool = False
    sure: bool = False
    reads_long: Annotated[float, Ge(-MOST_OFF), Le(MOST_OFF)] = 0.0
    sigma: Measured | None = None
    note: Annotated[str, Len(0, 500)] = ""

    @property
    def kept(self) -> tuple[float, ...]:
        """The repeats that count. When all were left out, all count: a reading never loses its value."""
        kept = tuple(mm for i, mm in enumerate(self.repeats) if i not in self.left_out)
        return kept or self.repeats
