"""Where pieces lie on the cloth, and the pieces of cloth that are there already."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Gt, Le, Len

from omnipel.core.tolerances import LONGEST

At = Annotated[float, Ge(-LONGEST), Le(LONGEST)]
Long = Annotated[float, Gt(0), Le(LONGEST)]
MOST_PLACED = 4000
"""No more pieces are laid on one cloth."""

CONFIG = {"extra": "forbid", "allow_inf_nan": False}


class Spread(StrEnum):
    """How cloth is spread to be cut."""

    FLAT = "flat"
    FOLDED = "folded lengthwise"


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Where a piece lies: it is turned around its own origin, radians, and that lies so far from the cut end and from the selvage, mm.

    `piece` is its name, with the number of the copy where several covers are cut; `on` the piece of the stash, "" for the bolt; what is `locked` is not moved
    by a search.
    """

    __pydantic_config__ = CONFIG

    piece: Annotated[str, Len(1, 160)]
    turn: Annotated[float, Ge(-7), Le(7)] = 0.0
    x: At = 0.0
    y: At = 0.0
    on: Annotated[str, Len(0, 40)] = ""
    locked: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Flaw:
    """A rectangle of a piece of cloth that nothing may be cut from, from its left lower corner, mm."""

    __pydantic_config__ = CONFIG

    x: Annotated[float, Ge(0), Le(LONGEST)]
    y: Annotated[float, Ge(0), Le(LONGEST)]
    length: Long
    width: Long


@dataclass(frozen=True, slots=True, kw_only=True)
class Remnant:
    """A piece of cloth that is there: so long along its warp and so wide, or of an outline within that; with its flaws."""

    __pydantic_config__ = CONFIG

    id: Annotated[str, Len(1, 40)]
    name: Annotated[str, Len(0, 120)] = ""
    length: Long
    width: Long
    outline: Annotated[tuple[tuple[At, At], ...], Len(0, 400)] = ()
    flaws: Annotated[tuple[Flaw, ...], Len(0, 40)] = ()
