"""What is decided about the edge of an opening: its finish, what holds or draws it in, when it is sewn."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Le, Predicate

from omnipel.core.job.finish import Finish, is_hem
from omnipel.core.tolerances import LONGEST


class HemOrder(StrEnum):
    """Whether a hem is sewn before or after the panels are joined."""

    HEM_FIRST = "hem first"
    HEM_LAST = "hem last"


class Hold(StrEnum):
    """What holds the edge of an opening, or draws it in."""

    NOTHING = "nothing"
    CORD = "drawcord"
    ELASTIC = "elastic"
    HOOK_AND_LOOP = "hook-and-loop"


DRAWS = frozenset((Hold.CORD, Hold.ELASTIC))
"""What runs in a casing and draws the edge in."""


def is_edge(finish: Finish | None) -> bool:
    """Whether it may be the finish of an opening's edge; None leaves it as is usual for the cover."""
    return finish is None or is_hem(finish)


@dataclass(frozen=True, slots=True, kw_only=True)
class EdgeChoice:
    """One decision for one opening; what is left open follows the cover's own.

    Args:
        finish: how its edge is finished; None as all edges of the cover.
        order: when it is sewn; None as all hems of the cover.
        held_by: what holds it or draws it in.
        drawn_to: the girth it is drawn in to, mm; 0: as far as the cloth gathers.
        wide: the cord's diameter, the width of the elastic or of the hook-and-loop, mm; 0: as usual.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    finish: Annotated[Finish | None, Predicate(is_edge)] = None
    order: HemOrder | None = None
    held_by: Hold = Hold.NOTHING
    drawn_to: Annotated[float, Ge(0), Le(LONGEST)] = 0.0
    wide: Annotated[float, Ge(0), Le(200)] = 0.0
