"""Walking along a seam, on its flat panels and as it lies in space."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import MatchMark, Run, Trued, Way
from omnipel.core.space.frames import Solid


def walk(side: Sequence[Run], pieces: Mapping[str, Piece], flat: Mapping[str, Panel], shares: NDArray[np.float64]) -> Solid:
    """Where the places at shares of a side's length lie in space, `(n, 3)`."""
    curves = [flat[run.piece].edge(run.edge).curve for run in side]
    if len(side) == 1:
        runs = shares * curves[0].length
        return pieces[side[0].piece].place.at(curves[0].along(curves[0].length - runs if side[0].reversed else runs))
    ends = np.concatenate(([0.0], np.cumsum([curve.length for curve in curves])))
    runs = shares * ends[-1]
    part = np.clip(np.searchsorted(ends, runs * (1.0 - 1e-12), side="left") - 1, 0, len(side) - 1)
    made, on = np.empty((len(shares), 2)), np.array([run.piece for run in side])[part]
    for i in range(len(side)):
        mine, curve = part == i, curves[i]
        along = np.clip(runs[mine] - ends[i], 0.0, curve.length)
        made[mine] = curve.along(curve.length - along if side[i].reversed else along)
    there = np.empty((len(shares), 3))
    for piece in dict.fromkeys(run.piece for run in side):
        mine = on == piece
        there[mine] = pieces[piece].place.at(made[mine])
    return there


@dataclass(frozen=True, slots=True)
class Step:
    """A place along a seam.

    Args:
        sides: for each side the piece, the place on its flat panel, mm, and how far that is along the side, mm.
        before, after: the match marks that one has passed last and comes to next, None where there is none.
    """

    sides: tuple[tuple[str, tuple[float, float], float], ...]
    before: MatchMark | None
    after: MatchMark | None


def stepped(trued: Trued, flat: Mapping[str, Panel], share: float) -> Step:
    """Where one has come to at a share of a seam, on both its sides at once."""
    sides = []
    for side, length in zip(trued.seam.sides, (trued.length_a, trued.length_b), strict=True):
        run, fraction = Way(side, flat).locate(share)
        sides.append((run.piece, flat[run.piece].edge(run.edge).curve.at(fraction), share * length))
    passed = [mark for mark in trued.marks if mark.fraction <= share + 1e-9]
    coming = [mark for mark in trued.marks if mark.fraction > share + 1e-9]
    if trued.seam.ring and trued.marks:
        coming = coming or [trued.marks[0]]
    return Step(tuple(sides), passed[-1] if passed else None, coming[0] if coming else None)
