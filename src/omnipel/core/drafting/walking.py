"""Walking along a side of a seam as it lies in space."""

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Run
from omnipel.core.space.frames import Solid
from omnipel.core.space.paths import Path


def walk(side: Sequence[Run], pieces: Mapping[str, Piece], flat: Mapping[str, Panel], shares: NDArray[np.float64]) -> Solid:
    """Where the places at shares of a side's length lie in space, `(n, 3)`."""
    ends = np.concatenate(([0.0], np.cumsum([flat[run.piece].edge(run.edge).curve.length for run in side])))
    runs = shares * ends[-1]
    part = np.clip(np.searchsorted(ends, runs * (1.0 - 1e-12), side="left") - 1, 0, len(side) - 1)
    made = np.empty((len(shares), 3))
    for i in np.unique(part):
        run, mine = side[i], part == i
        curve = flat[run.piece].edge(run.edge).curve
        along = np.clip(runs[mine] - ends[i], 0.0, curve.length)
        made[mine] = pieces[run.piece].place.at(Path((curve,)).at(curve.length - along if run.reversed else along))
    return made
