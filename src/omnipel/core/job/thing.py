"""The thing to be covered, as a person describes it: its form, what sticks out, where it lives."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Gt, Le, Len

from omnipel.core.job.ids import Id, with_ids

Place = Annotated[float, Ge(-100_000), Le(100_000)]
Reach = Annotated[float, Gt(0), Le(10_000)]
ShortText = Annotated[str, Len(0, 120)]


class Treatment(StrEnum):
    """What the cover does about something that sticks out."""

    COVER = "cover over it"
    PORT = "port"
    BELOW = "leave below"


class Face(StrEnum):
    """Which side of the thing something sticks out of."""

    FRONT = "front"
    RIGHT = "right"
    BACK = "back"
    LEFT = "left"
    TOP = "top"


class Lives(StrEnum):
    """Where the thing stands."""

    INDOORS = "indoors"
    SHED = "in a shed"
    OUTDOORS = "outdoors"
    KITCHEN = "kitchen"


class ComesOff(StrEnum):
    """How often the cover comes off."""

    DAILY = "daily"
    WEEKLY = "weekly"
    SEASONAL = "once a season"


@dataclass(frozen=True, slots=True, kw_only=True)
class SticksOut:
    """A knob, crank, handle, cable or valve: placed from the centre line and the top edge, never from a side.

    Args:
        name: what it is.
        from_top: depth of its middle below the top edge, mm.
        from_centre: to the right (positive) or left of its side's centre line as one looks at that side, along the surface, mm.
        reach: how far it stands out, mm.
        size: across, mm.
        treatment: what the cover does about it.
        face: which side it sticks out of; what stands up on top has no place, only reach and size.
        id: which one it is, whatever it is called; given when it is put on the thing.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    name: Annotated[str, Len(1, 80)]
    from_top: Place
    from_centre: Place = 0.0
    reach: Reach
    size: Reach
    treatment: Treatment = Treatment.COVER
    face: Face = Face.FRONT
    id: Id = ""


Coordinate = Annotated[float, Ge(-100_000), Le(100_000)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Outline:
    """A traced outline in mm, y up, as points or as the data of an SVG path (y down, as SVG has it).

    `smoothing` is how far the smoothed line may leave the points, mm; 0 keeps every point.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    points: Annotated[tuple[tuple[Coordinate, Coordinate], ...], Len(0, 20_000)] = ()
    path: Annotated[str, Len(0, 400_000)] = ""
    smoothing: Annotated[float, Ge(0), Le(100)] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Thing:
    """What is to be covered."""

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    form: Annotated[str, Len(1, 40)]
    sticks_out: Annotated[tuple[SticksOut, ...], Len(0, 40)] = ()
    outline: Outline | None = None
    gets_hot: bool = False
    lives: Lives = Lives.SHED
    comes_off: ComesOff = ComesOff.WEEKLY

    def __post_init__(self) -> None:
        object.__setattr__(self, "sticks_out", with_ids(self.sticks_out))
