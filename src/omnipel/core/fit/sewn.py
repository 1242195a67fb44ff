"""What the sewn cover comes to in space: how well its seams close, how near it comes to the object.

A scheme says how long its edges are and where its pieces lie; here both are held against one another and against the object. A scheme
that keeps its promises has seams that close to within `CLOSES` and lies nowhere nearer to the object than it promised; a broken promise
is a fault of ours and is said as such.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, named
from omnipel.core.drafting.seams import Run, Seam, Trued
from omnipel.core.drafting.walking import walk
from omnipel.core.forms.body import Body
from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Solid
from omnipel.core.tolerances import CLOSES

ALONG: Final = 9
"""Seams are looked at in so many places, ends included."""
ACROSS: Final = 9
"""Pieces are looked at in so many places along and across, and along their edges."""
CLOSELY: Final = 40
"""The same where sizes were set by hand."""
MOST_ALIKE: Final = 4
"""Of pieces cut from one panel, and seams of one kind, no more than this are looked at: they lie about an axis, one like the other."""
LESS: Final = 3
"""All but the first of them in a third of the places."""


@dataclass(frozen=True, slots=True)
class Nearest:
    """Where the cover comes nearest to the object for what it promises there.

    Args:
        piece: which piece.
        at: where, in the object's frame, mm.
        gap: from the middle of its thickness to the object, mm.
        promised: what the scheme promises there, mm.
    """

    piece: str
    at: tuple[float, float, float]
    gap: float
    promised: float


@dataclass(frozen=True, slots=True)
class Sewn:
    """The sewn cover, measured.

    Args:
        apart: for every seam that was walked how far its two sides are apart in space at most, mm.
        nearest: where the cover comes nearest to the object; None where it promises nothing.
    """

    apart: tuple[float, ...]
    nearest: Nearest | None

    @property
    def gaping(self) -> tuple[int, ...]:
        """Which of the seams do not close."""
        return tuple(i for i, apart in enumerate(self.apart) if apart > CLOSES)

    @property
    def too_near(self) -> bool:
        """Whether the cover lies nearer to the object than its scheme promised."""
        return self.nearest is not None and self.nearest.gap < self.nearest.promised - CLOSES


def sewn(body: Body, cover: Cover, walked: Sequence[Trued], *, closely: bool = False) -> Sewn:
    """The cover as it is sewn, measured in space; `closely` where no scheme answers for it, because sizes were set by hand."""
    pieces = named(cover.pieces)
    apart = tuple(
        max(
            seam_apart(seam, pieces, cover.flat, ALONG // LESS if k else ALONG)
            for k, seam in enumerate((trued.alike or (trued.seam,))[:MOST_ALIKE])
        )
        for trued in walked
    )
    return Sewn(apart, nearest(body, cover, CLOSELY if closely else ACROSS))


def seam_apart(seam: Seam, pieces: Mapping[str, Piece], flat: Mapping[str, Panel], places: int = ALONG) -> float:
    """How far the two sides of a seam are apart in space at most, at equal shares of their lengths, beyond the layers between them, mm."""
    stops = np.unique(np.concatenate((np.linspace(0.0, 1.0, places), *(_stops(side, flat) for side in seam.sides))))
    one, other = (walk(side, pieces, flat, stops) for side in seam.sides)
    return max(0.0, float(np.linalg.norm(one - other, axis=1).max()) - seam.between)


def _stops(side: Sequence[Run], flat: Mapping[str, Panel]) -> NDArray[np.float64]:
    """Where the edges of a side end, as shares of its length."""
    ends = np.cumsum([flat[run.piece].edge(run.edge).curve.length for run in side])
    return np.asarray(ends / (ends[-1] or 1.0))


def nearest(body: Body, cover: Cover, places: int = ACROSS) -> Nearest | None:
    """Where the cover comes nearest to the object for what its pieces promise; None where no piece promises anything."""
    looked_at: dict[str, list[Piece]] = {}
    for piece in cover.pieces:
        if piece.clear is not None:
            looked_at.setdefault(piece.panel, []).append(piece)
    promised: list[tuple[Piece, float]] = []
    solids: list[Solid] = []
    for alike in looked_at.values():
        flat = sampled(cover.flat[alike[0].name], places)
        for k, piece in enumerate(alike[:MOST_ALIKE]):
            solids.append(piece.place.at(flat[::LESS] if k else flat))
            promised.append((piece, piece.clear or 0.0))
    if not solids:
        return None
    there = np.concatenate(solids)
    gaps = body.occupied.gaps(there)
    counts = [len(solid) for solid in solids]
    i = int((gaps - np.repeat([clear for _, clear in promised], counts)).argmin())
    piece, clear = promised[int(np.searchsorted(np.cumsum(counts), i, side="right"))]
    x, y, z = map(float, there[i])
    return Nearest(piece.name, (x, y, z), float(gaps[i]), clear)


def sampled(panel: Panel, across: int) -> Points:
    """Places all over a panel, and along its sew line, `(n, 2)`."""
    ring = panel.sew_points
    low, high = ring.min(axis=0), ring.max(axis=0)
    steps = np.linspace(0.0, 1.0, across + 2)[1:-1]
    x, y = (low + steps[:, None] * (high - low)).T
    places = np.column_stack((np.repeat(x, across), np.tile(y, across)))
    inside = shapely.contains_xy(shapely.Polygon(ring), places)
    return np.concatenate((places[inside], ring[:: max(1, len(ring) // (4 * across))]))
