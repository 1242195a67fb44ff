"""A strip between two ends: what schemes share whose one long piece runs up, over and down, with an end sewn in on each side."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from omnipel.core.covers import places
from omnipel.core.covers.scheme import Brief
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.space.frames import Frame, Side, looking_at
from omnipel.core.space.paths import Path, moved
from omnipel.core.space.placements import Flat, Swept
from omnipel.core.tolerances import SEAM
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, tr
from omnipel.core.words.working import Worked


@dataclass(frozen=True, slots=True)
class Ways:
    """Which way the strip runs: the plane of its path, seen from the first end, and the sides on which the ends stand."""

    frame: Frame
    ends: tuple[Side, Side]


OVER_FRONT_AND_BACK: Final = Ways(places.UPRIGHT, (Side.RIGHT, Side.LEFT))
OVER_THE_SIDES: Final = Ways(Frame((0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)), (Side.FRONT, Side.BACK))


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


def stand(
    strip: Panel,
    end: Panel,
    low: float,
    *,
    ways: Ways = OVER_FRONT_AND_BACK,
    middle: float | None = None,
    mirrored: bool = False,
    clear: float,
) -> tuple[Piece, ...]:
    """The strip over its path along the ends, and both ends upright, their feet at height `low`.

    The end is drawn as it is seen from the right; where it is not the same left and right, the other is `mirrored`. `middle` is what of its drawing
    lies over the middle of the object, if not its own.
    """
    wide = strip.width.value
    x, foot = places.middle(end)[0] if middle is None else middle, low - float(end.sew_points[:, 1].min())
    over = Path(moved([edge.curve.reversed() for edge in end.edges[:0:-1]], (-x, foot)))
    across = np.array(ways.frame.out) * wide / 2.0
    begin = (strip.length.value - over.length) / 2.0
    frame = replace(ways.frame, origin=tuple(across))
    along = tuple(-v for v in ways.frame.out)
    there = [(side, tuple(sign * across)) for side, sign in zip(ways.ends, (1.0, -1.0), strict=True)]
    ends = []
    for (side, at), turned in zip(there, (False, mirrored), strict=True):
        seen = looking_at(ways.ends[0] if turned else side, (at[0], at[1], foot), (x, 0.0))
        ends.append(placed(end, Flat(seen), f"{side} end", mirrored=turned, clear=clear))
    return (placed(strip, Swept(over, frame, (along[0], along[1], along[2]), begin), clear=clear), *ends)


def to_ends(strip: Panel, end: Panel, *, ways: Ways = OVER_FRONT_AND_BACK, mirrored: bool = False) -> tuple[Seam, ...]:
    """The strip sewn to both ends along all edges of an end but its bottom; its own length is the easier side to change."""
    sides, name = [edge.name for edge in end.edges[1:]], strip.name
    one, other = (f"{side} end" for side in ways.ends)
    against = tuple(Run(one, edge, reversed=True) for edge in reversed(sides))
    on = tuple(Run(other, edge) for edge in sides)
    left = Run(name, "left edge", reversed=not mirrored)
    return tuple(
        Seam(f"{name} to {which}", (run,), side, kind=SeamKind.FELLED, easier=f"{name}_finished_length")
        for which, run, side in ((one, Run(name, "right edge"), against), (other, left, on))
    )


def lower_edge(strip: Panel) -> dict[str, Run]:
    """What stays open."""
    return {"lower edge": Run(strip.name, "front hem")}


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
