"""What lies between the outer and the lining of a cover: padding and a stiffener, on which panels, and how they are held."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Le, Len

from omnipel.core.tolerances import LARGEST_GAP

Thin = Annotated[float, Ge(0), Le(LARGEST_GAP)]
Panels = Annotated[tuple[Annotated[str, Len(1, 120)], ...], Len(0, 60)]
"""Names of panels; none for all of them."""


class Material(StrEnum):
    """What a padding is of."""

    BATTING = "batting"
    FLEECE = "fleece"
    FOAM = "foam"


class Fused(StrEnum):
    """What a padding is fused to."""

    NOT = "to nothing"
    OUTER = "to the outer"
    LINING = "to the lining"
    BOTH = "to both"


@dataclass(frozen=True, slots=True, kw_only=True)
class Padded:
    """How a padding is put in, besides its thickness and how far it ends short of the seams.

    Args:
        material: what it is of.
        on: the panels that have it.
        at_seam: whether it runs to the seams; then it is sewn in.
        fused: what it is fused to.
        grid: how far apart it is quilted, both ways, mm; 0 where it is not.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    material: Material = Material.BATTING
    on: Panels = ()
    at_seam: bool = False
    fused: Fused = Fused.NOT
    grid: Thin = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Stiffener:
    """A stiff sheet inside: 0 thick where there is none. It ends so far `short` of seams and folds, mm."""

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    thickness: Thin = 0.0
    on: Panels = ()
    short: Thin = 3.0
