"""Seams that may stay open for what sticks out: a spout or a handle comes out where two panels meet."""

from collections import Counter
from collections.abc import Iterator
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.walking import walk
from omnipel.core.finishing.left_open import begins, sewn_length
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Change, Remedy
from omnipel.core.job.thing import SticksOut
from omnipel.core.plane.curves import Arc
from omnipel.core.space.frames import Vector
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, mm, term, tr

PLACES: Final = 129
"""Seams are looked at in so many places."""
NEARLY: Final = 1.0
"""An opening that is short of what comes out by no more than this is large enough, mm."""


def stands_open(cover: Cover, thing: SticksOut, axis: tuple[Vector, Vector]) -> bool:
    """Whether a seam is left open where the thing comes out, all across it."""
    half = thing.size / 2.0
    for run in (run for edge in cover.edges if edge.name in cover.slits for run in edge.runs):
        far = _far(_walked(cover, (run,)), axis)
        if far.min() <= half and min(far[0], far[-1]) >= half - NEARLY:
            return True
    return False


def ways_open(
    cover: Cover, choices: CoverChoices, thing: SticksOut, axis: tuple[Vector, Vector], room: float
) -> Iterator[Remedy]:
    """To leave a seam open where the thing comes out: one that is straight, is sewn once, and has closed ends on both sides of that."""
    times = Counter(seam.name for seam in cover.seams)
    system = choices.habits.system
    for seam in cover.seams:
        chosen = choices.seams.get(seam.name)
        if seam.name not in cover.joins or times[seam.name] > 1 or seam.ring or (chosen is not None and chosen.left_open):
            continue
        if not _straight(cover, seam):
            continue
        far, whole = _far(_walked(cover, seam.a), axis), sewn_length(cover, seam)
        over = np.flatnonzero(far <= thing.size / 2.0 + room)
        if not len(over) or far.min() > thing.size / 2.0:
            continue
        ends = (over[0] / (PLACES - 1) * whole, over[-1] / (PLACES - 1) * whole)
        start, stop = (whole - ends[1], whole - ends[0]) if begins(cover, seam).turned else ends
        start, stop = system.down(max(0.0, start)), min(system.up(stop), whole)
        words = tr(
            "Leave the {seam} open over the {thing}, {start} to {stop}",
            seam=term(seam.name),
            thing=Name(thing.name),
            start=mm(start),
            stop=mm(stop),
        )
        where = refs.seam(seam.name)
        yield Remedy(words, (Change(where.at("open_from"), start), Change(where.at("open_to"), stop)))


def _straight(cover: Cover, seam: Seam) -> bool:
    """Whether both sides of a seam are straight on the cloth."""
    curves = (cover.flat[run.piece].edge(run.edge).curve for side in seam.sides for run in side)
    return all(isinstance(curve, Arc) and not curve.curvature for curve in curves)


def _walked(cover: Cover, side: tuple[Run, ...]) -> NDArray[np.float64]:
    return walk(side, named(cover.pieces), cover.flat, np.linspace(0.0, 1.0, PLACES))


def _far(places: NDArray[np.float64], axis: tuple[Vector, Vector]) -> NDArray[np.float64]:
    """How far places are from an axis, on the side to which it points."""
    foot, way = (np.array(part) for part in axis)
    beside = places - foot
    along = beside @ way
    across = np.linalg.norm(beside - along[:, None] * way, axis=1)
    return np.where(along > 0.0, across, np.inf)
