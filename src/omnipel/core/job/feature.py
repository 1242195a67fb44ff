"""What is put on a cover: what it is, on which face it lies, and how far from that face's centre line and top edge."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Gt, Le, Len

from omnipel.core.job.ids import Id
from omnipel.core.tolerances import LONGEST

Choice = bool | float | str
"""What a choice of a scheme, or of something put on a cover, may hold."""
Extent = Annotated[float, Gt(0), Le(LONGEST)]


class Facing(StrEnum):
    """The side of the cover that something lies on, as one looks at it from outside."""

    FRONT = "front"
    RIGHT = "right"
    BACK = "back"
    LEFT = "left"
    TOP = "top"
    BELOW = "below"
    UNSAID = ""


LEVEL = frozenset((Facing.TOP, Facing.BELOW))
"""Sides that lie level: places on them are measured from their middle."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Feature:
    """Something put on a cover, placed as a person measures it on the sewn cover, along its surface, mm.

    Args:
        kind: what it is: the key of a kind.
        name: what it is called.
        face: the side it lies on.
        from_centre: of its middle, to the right of that side's centre line.
        from_top: of its middle: down from that side's top edge; on a level side from its middle towards the front.
        width, height: its size; what is round takes the width.
        options: what else was decided about it, by the kind's own choices.
        serves: the id of what comes out through it, where it then lies; "" for nothing that sticks out.
        was_on: the panel an earlier version had it on, where its side is not known; "" when it is.
        id: which one it is, whatever it is called; given when it is put on the cover.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    kind: Annotated[str, Len(1, 40)]
    name: Annotated[str, Len(1, 120)]
    face: Facing = Facing.FRONT
    from_centre: Annotated[float, Ge(-100_000), Le(100_000)] = 0.0
    from_top: Annotated[float, Ge(-100_000), Le(100_000)] = 100.0
    width: Extent = 60.0
    height: Extent = 60.0
    options: Annotated[Mapping[Annotated[str, Len(1, 40)], Choice], Len(0, 40)] = field(default_factory=dict)
    serves: Id = ""
    was_on: Annotated[str, Len(0, 120)] = ""
    id: Id = ""
