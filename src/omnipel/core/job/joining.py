"""What is decided about a seam, and where panels are parted."""

from dataclasses import dataclass
from typing import Annotated

from annotated_types import Ge, Le, Len

from omnipel.core.job.finish import Allowance
from omnipel.core.job.ids import Id
from omnipel.core.tolerances import LONGEST, MOST_GATHERED

Along = Annotated[float, Ge(0), Le(LONGEST)]


@dataclass(frozen=True, slots=True, kw_only=True)
class SeamChoice:
    """One decision for one seam, or several alike; what is left open follows the scheme and the job.

    Args:
        kind: how it is sewn, by the key of a construction; "" as the scheme has it.
        allowance: of its first side, and of both where `under` is not decided; None as usual.
        under: allowance of its other side.
        wide: the construction's own width, mm: cord, overlap, binding, shown teeth; 0 as usual.
        fuller: how many times one side is as long as the other, where it is gathered or eased; 0 as usual.
        start, stop: the stretch that the construction runs over, mm from the seam's beginning; a `stop` of 0 is its end.
        open_from, open_to: the stretch that is left open, mm from the seam's beginning; none where they are equal.
        rows: rows of topstitching; None as the construction has it.
        tacked: whether both ends are reinforced.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    kind: Annotated[str, Len(0, 40)] = ""
    allowance: Allowance | None = None
    under: Allowance | None = None
    wide: Annotated[float, Ge(0), Le(200)] = 0.0
    fuller: Annotated[float, Ge(0), Le(MOST_GATHERED)] = 0.0
    start: Along = 0.0
    stop: Along = 0.0
    open_from: Along = 0.0
    open_to: Along = 0.0
    rows: Annotated[int, Ge(0), Le(3)] | None = None
    tacked: bool = False

    @property
    def left_open(self) -> float:
        """How much of it is left open, mm."""
        return max(0.0, self.open_to - self.open_from)


@dataclass(frozen=True, slots=True, kw_only=True)
class Parting:
    """A panel that is cut in two by a level or an upright line: where a zip runs, or where the cloth is joined.

    Args:
        panel: which one.
        at: how far from its lower edge, or from its upper one, mm; of an upright line, from its left end or its right one.
        from_top: whether it is measured from the upper edge, or the right end.
        upright: whether the line is upright.
        joined: whether the parts are sewn together because the cloth is too short; else a zip runs there.
        id: which parting it is.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    panel: Annotated[str, Len(1, 120)]
    at: Annotated[float, Ge(0), Le(LONGEST)] = 100.0
    from_top: bool = False
    upright: bool = False
    joined: bool = False
    id: Id = ""
