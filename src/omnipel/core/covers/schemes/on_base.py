"""A wall on a base: what bags and sleeves share that stand on the ground and are open at the top."""

from typing import Any, Final

from omnipel.core.covers.scheme import Brief
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.abilities import Boxy, Round
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.finish import Finish
from omnipel.core.job.reading import Reading
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, tr
from omnipel.core.words.working import Worked

LEVEL: Final = 1.0
"""What stays free below a bag may be no more than this, mm: it is measured no finer."""


def stands_on_base(body: Round | Boxy) -> None:
    """Refuse a thing that is to stay free below: a cover with a base is lifted around all of it.

    Raises:
        Impossible: the drop ends above the ground.
    """
    if body.ends > LEVEL:
        text = tr("it stands on the base of its cover: {below} cannot stay free below it", below=mm(body.ends))
        whole = body.ends + body.drop.value
        all_of_it = Remedy(
            tr("Cover all of it: drop {drop}", drop=mm(whole)),
            (Change(refs.reading("drop"), Reading(place="drop", repeats=(whole,), sure=True)),),
        )
        raise Impossible(text, refs.reading("drop"), all_of_it)


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
