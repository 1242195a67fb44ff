"""Where the construction of a seam begins and ends, as two rings on the picture that are dragged along the seam."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from omnipel.bench.session import Session
from omnipel.core.draft import Drafted
from omnipel.core.job.joining import SeamChoice
from omnipel.core.space.frames import Solid
from omnipel.core.words.refs import Of, Ref

NEAR_END = 3.0
"""A place nearer to an end of its seam than this is that end, mm."""


@dataclass(frozen=True)
class Rail:
    """A seam as it is measured: lengths from where that begins, `(n,)`, and the places there in space, `(n, 3)`."""

    at: NDArray[np.float64]
    places: Solid

    def place(self, at: float) -> NDArray[np.float64]:
        """The place at a length."""
        return np.array([np.interp(at, self.at, self.places[:, k]) for k in range(3)])

    def nearest(self, matrix: NDArray[np.float64], spot: tuple[float, float]) -> tuple[float, float]:
        """How far from a spot of the picture the seam is seen, and the length there; of two as near the nearer to the viewer."""
        seen = self.places @ matrix.T
        away = np.hypot(seen[:, 0] - spot[0], seen[:, 1] - spot[1])
        found = np.flatnonzero(away <= away.min() + 1.0)
        k = int(found[seen[found, 2].argmax()])
        return float(away[k]), float(self.at[k])


@dataclass(frozen=True)
class Rails:
    """All seams of a name: between which lengths they are sewn as chosen; `stop` 0 is the end."""

    ref: Ref
    rails: tuple[Rail, ...] = ()
    start: float = 0.0
    stop: float = 0.0

    def ends(self) -> list[tuple[str, NDArray[np.float64]]]:
        """Beginning and end on each of them, in space."""
        return [
            (part, rail.place(at))
            for rail in self.rails
            for part, at in (("start", self.start), ("stop", self.stop or float(rail.at[-1])))
        ]

    def dragged(self, part: str, matrix: NDArray[np.float64], spot: tuple[float, float]) -> float:
        """The length that one end is dragged to; 0 for the seam's own beginning, and for its own end."""
        rail = min(self.rails, key=lambda one: one.nearest(matrix, spot)[0])
        at, whole = rail.nearest(matrix, spot)[1], float(rail.at[-1])
        if part == "start":
            return 0.0 if at < NEAR_END else min(at, (self.stop or whole) - NEAR_END)
        return 0.0 if at > whole - NEAR_END else max(at, self.start + NEAR_END)


def rails_of(session: Session, ref: Ref) -> Rails:
    """The rails of the seam that is chosen, where what it is sewn with may run over a part of it."""
    from omnipel.core.finishing.constructions import CONSTRUCTIONS  # loaded with the first job
    from omnipel.core.finishing.left_open import measured

    draft, chosen = session.draft, session.open_job.cover.seams.get(ref.id, SeamChoice())
    construction = CONSTRUCTIONS.get(chosen.kind)
    if ref.of is not Of.SEAM or not isinstance(draft, Drafted) or construction is None or not construction.stretches:
        return Rails(ref)
    seams = [seam for seam in draft.cover.seams if (seam.whole or seam.name) == ref.id]
    return Rails(ref, tuple(Rail(*measured(draft.cover, seam)) for seam in seams), chosen.start, chosen.stop)
