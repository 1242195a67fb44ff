"""A strip between two ends: what schemes share whose one long piece runs up, over and down, with an end sewn in on each side."""

import math
from collections.abc import Callable, Iterable

from omnipel.core.covers.scheme import Brief
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.tolerances import SEAM
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, tr
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


def corners_cut_in(brief: Brief, cuts_in: Callable[[float], float]) -> tuple[Finding, ...]:
    """A stop when the ends' corners are rounded so far that they lie within the object's own.

    `cuts_in` tells by how much they do when rounded by a radius, mm; it grows with the radius.
    """
    rho, step, where = brief.number("rounding"), brief.choices.habits.system.step, refs.option("rounding")
    cut = cuts_in(rho) if rho else 0.0
    if cut <= SEAM:
        return ()
    good, bad = 0, math.ceil(rho / step)
    while bad - good > 1:
        middle = (good + bad) // 2
        good, bad = (middle, bad) if cuts_in(middle * step) <= 0.0 else (good, middle)
    text = tr("Corners rounded by {radius} cut {cut} into those of the object: it will not go on.", radius=mm(rho), cut=mm(cut))
    words = tr("Round the corners by {radius}", radius=mm(good * step)) if good else tr("Leave the corners as they are")
    return (Finding("corner-too-round", Severity.STOP, text, where, (Remedy(words, (Change(where, good * step),)),)),)
