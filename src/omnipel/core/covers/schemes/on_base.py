"""A wall on a base: what bags and sleeves share that stand on the ground and are open at the top."""

from typing import Any

from omnipel.core.covers.scheme import Brief
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.job.finish import Finish
from omnipel.core.words import refs
from omnipel.core.words.working import Worked


def wall_on_base(brief: Brief, ring: Worked, high: Worked, meeting: Finish, **more: Any) -> Panel:
    """The wall, sewn to its base and hemmed above; `meeting` is the finish of the end that closes it."""
    return rectangle(
        "wall",
        ring,
        high,
        bottom=brief.seam,
        right=meeting,
        top=brief.choices.hem,
        left=brief.closing,
        names={"bottom": "base edge", "top": "upper edge", "left": "close a", "right": "close b"},
        sources={"top": refs.HEM, "left": refs.CLOSING_ALLOWANCE, "right": refs.CLOSING_ALLOWANCE},
        **more,
    )


def onto_base(rim: tuple[Run, ...] = (Run("base", "rim", reversed=True),), easier: str = "wall_sew_length") -> tuple[Seam, ...]:
    """The wall onto the rim of its base, and into a ring."""
    return (
        Seam("wall to base", (Run("wall", "base edge"),), rim, ring=True, kind=SeamKind.FELLED, easier=easier),
        Seam("close the wall", (Run("wall", "close a"),), (Run("wall", "close b", reversed=True),), kind=SeamKind.FELLED),
    )
