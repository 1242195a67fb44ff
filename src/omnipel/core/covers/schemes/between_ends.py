"""A strip between two ends: what schemes share whose one long piece runs up, over and down, with an end sewn in on each side."""

from collections.abc import Iterable

from omnipel.core.covers.scheme import Brief
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.words import refs
from omnipel.core.words.working import Worked


def strip(brief: Brief, name: str, long: Worked, wide: Worked) -> Panel:
    """The strip, hemmed at the front and at the back."""
    a, hem = brief.seam, brief.choices.hem
    return rectangle(
        name,
        long,
        wide,
        bottom=a,
        right=hem,
        top=a,
        left=hem,
        names={"bottom": "right edge", "top": "left edge", "left": "front hem", "right": "back hem"},
        sources={"left": refs.HEM, "right": refs.HEM},
    )


def to_ends(name: str, along: Iterable[Edge]) -> tuple[Seam, ...]:
    """The strip sewn to both ends, along these edges of an end; its own length is the easier side to change."""
    side = tuple(Run("end", edge.name) for edge in along)
    right, left = Run(name, "right edge"), Run(name, "left edge", reversed=True)
    return tuple(
        Seam(f"{name} to {which} end", (run,), side, kind=SeamKind.FELLED, easier=f"{name}_finished_length")
        for which, run in (("right", right), ("left", left))
    )
