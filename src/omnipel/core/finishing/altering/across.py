"""The seams that lie across a cover's girth: where it can be let out, taken in, or parted for a strip."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.topology import ends_of, surface
from omnipel.core.tolerances import MOST_EASE
from omnipel.core.words.phrases import Phrase, term, tr

LEFT = 4.0
"""So much of an allowance is left at the least, mm: less pulls out."""
SLOW: Final = 4.0
"""Minutes for a metre of seam that is unpicked and sewn anew, besides its own."""


@dataclass(frozen=True, slots=True)
class Across:
    """A seam that ends at the edge that the cover is put on by.

    Args:
        seam: it.
        long: how long it is, mm.
        allowance: of the scantier of its sides, mm.
        through: whether it runs from one open edge to another, or round to the same: then it widens all of the cover.
    """

    seam: Seam
    long: float
    allowance: float
    through: bool

    @property
    def room(self) -> float:
        """By how much each of its sides can be let out, mm."""
        return max(0.0, self.allowance - LEFT)

    @property
    def side(self) -> Run:
        """The edge that a strip would be sewn to."""
        return self.seam.a[0]


def mouth(cover: Cover) -> Dressed | None:
    """The edge that the cover is put on by: the longest that a person decides about; else the longest of all."""
    asked = [edge for edge in cover.edges if edge.asked and edge.length.value > 0.0]
    return max(asked or [e for e in cover.edges if e.length.value > 0.0], key=lambda edge: edge.length.value, default=None)


def across(cover: Cover) -> tuple[Across, ...]:
    """The seams of the outer that end at its mouth."""
    edge = mouth(cover)
    if edge is None:
        return ()
    corners, flat = surface(cover.panels, cover.pieces, cover.seams).corners, cover.flat
    ring = {corners[end] for run in edge.runs for end in ends_of(run, flat) if end in corners}
    free = {corners[end] for other in cover.edges for run in other.runs for end in ends_of(run, flat) if end in corners}
    found = []
    for seam in cover.seams:
        cloths = {flat[run.piece].cloth for side in seam.sides for run in side}
        if seam.ring or seam.onto or cloths != {Cloth.OUTER} or seam.parts:
            continue
        ends = [corners.get(ends_of(seam.a[0], flat)[0], -1), corners.get(ends_of(seam.a[-1], flat)[1], -1)]
        if not ring.intersection(ends):
            continue
        edges = [flat[run.piece].edge(run.edge) for side in seam.sides for run in side]
        long = math.fsum(flat[run.piece].edge(run.edge).curve.length for run in seam.b)
        found.append(Across(seam, long, min(e.finish.allowance for e in edges), all(end in free for end in ends)))
    return tuple(found)


def called(found: tuple[Across, ...]) -> Phrase:
    """What the seams are called, together."""
    names = dict.fromkeys(one.seam.name for one in found)
    if len(found) == 1 or len(names) == 1:
        name = next(iter(names))
        if name.startswith("close "):
            return tr("the closing seam")
        return tr("the seam “{seam}”", seam=term(name)) if len(found) == 1 else tr("the seams “{seam}”", seam=term(name))
    return tr("the seams across")


def pieces_on(found: Sequence[Across]) -> tuple[str, ...]:
    """The pieces beside seams."""
    return tuple(dict.fromkeys(run.piece for one in found for side in one.seam.sides for run in side))


def given_by(cover: Cover, found: Sequence[Across], by: float) -> tuple[tuple[float, float], ...]:
    """What so much around gives at the mouth and at the other end."""
    if not cover.profile:
        return ()
    depths = [passage.depth for passage in cover.profile]
    high, low = min(depths), max(depths)
    eased = eased_in(cover, found, by)
    return ((high, by), (low, eased)) if cover.from_below else ((high, eased), (low, by))


def eased_in(cover: Cover, found: Sequence[Across], by: float) -> float:
    """What of so much around can be had at the closed end, where it has to be eased into a ring that stays."""
    if not cover.profile or all(one.through for one in found):
        return by
    shut = cover.profile[0] if not cover.from_below else cover.profile[-1]
    return min(by, MOST_EASE * shut.girth.value)
