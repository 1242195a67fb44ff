"""In which order flat faces are painted so that what is nearer hides what is farther, from every side.

Of two faces that overlap on screen one lies wholly on one side of the other's plane, mostly; then that tells which is farther. Where it does not, the
depths are compared where the two overlap on screen. From all such pairs follows an order (Newell, Newell and Sancha 1972); faces that run through
one another, or hide one another in turn, are parted along a plane of one of them.

View frame: x to the right, y up, z towards the viewer.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.space.faces import FLUSH, Counts, Faces, Flags, Floats, runs
from omnipel.core.space.frames import Solid
from omnipel.core.space.overlaps import Overlaps

Turns = list[tuple[int, int]]
"""Of faces that hide one another in turn one each, and one whose plane parts it."""

EDGE_ON: Final = 2e-3
"""Faces whose normal turns towards the viewer by less than this are seen edge-on and not at all."""
UNSURE: Final = 2
MOST_ROUNDS: Final = 40
"""Faces that hide one another in turn are parted in so many rounds at most."""


class Order:
    """Puts faces in order for any view. Faces that hide one another in turn are parted once, and stay so."""

    def __init__(self, faces: Faces, *, meshed: bool = True) -> None:
        faces = faces.convex() if len(faces) else faces
        self.faces = faces.unmeshed() if meshed and len(faces) else faces

    def batches(self, view: Floats, styles: Counts) -> list[Counts]:
        """Faces from far to near, in runs of one style.

        Args:
            view: rows screen x, screen y, towards the viewer; `(3, 3)`.
            styles: by `of`, what is painted alike; −1 is not painted.
        """
        for _ in range(MOST_ROUNDS):
            found, turns = self._ordered(view, styles)
            if not turns:
                return found
            parts: dict[int, list[Solid]] = {}
            for i, j in turns:
                one, other = self.faces.cut(i, j), self.faces.cut(j, i)
                if len(one) > 1 and i not in parts:
                    parts[i] = one
                elif len(other) > 1 and j not in parts:
                    parts[j] = other
            if not parts:
                return found
            self.faces = self.faces.parted(parts)
        return found

    def _ordered(self, view: Floats, styles: Counts) -> tuple[list[Counts], Turns]:
        """The runs, and faces that hide one another in turn."""
        faces = self.faces
        towards = faces.normals @ view[2]
        seen = np.flatnonzero((np.abs(towards) > EDGE_ON) & (styles[faces.of] >= 0))
        if not len(seen):
            return [], []
        flat = faces.points @ view.T
        first, second = self._meeting(seen, flat)
        told = self._told(seen[first], seen[second], towards)
        overlaps = Overlaps(faces.begins, faces.counts, flat, faces.normals @ view.T, faces.offsets, FLUSH * faces.size)
        unsure = np.flatnonzero(told == UNSURE)
        if len(unsure):
            told[unsure] = -overlaps.compared(seen[first[unsure]], seen[second[unsure]])
        before = np.zeros((len(seen), len(seen)), dtype=bool)
        before[first[told > 0], second[told > 0]] = True
        before[second[told < 0], first[told < 0]] = True
        return _emitted(before, styles[faces.of[seen]], seen, flat[:, 2], faces, overlaps)

    def _meeting(self, seen: Counts, flat: Solid) -> tuple[Counts, Counts]:
        """Pairs of the seen whose boxes overlap on screen, upright ones and those that stand on a corner."""
        begins, spare = self.faces.begins, 1e-6 * self.faces.size
        x, y = np.ascontiguousarray(flat[:, 0]), np.ascontiguousarray(flat[:, 1])
        reach = [
            (np.minimum.reduceat(v, begins)[seen] + spare, np.maximum.reduceat(v, begins)[seen]) for v in (x, y, x + y, x - y)
        ]
        # From left to right each is met by those that begin before it ends.
        low, high = reach[0]
        order = np.argsort(low)
        counts = np.maximum(np.searchsorted(low[order], high[order]) - np.arange(len(order)) - 1, 0)
        first, second = order[np.repeat(np.arange(len(order)), counts)], order[runs(np.arange(1, len(order) + 1), counts)]
        for low, high in reach[1:]:
            there = (low[first] < high[second]) & (low[second] < high[first])
            first, second = first[there], second[there]
        return np.minimum(first, second), np.maximum(first, second)

    def _told(self, a: Counts, b: Counts, towards: Floats) -> NDArray[np.int8]:
        """For pairs of faces 1 where the first is painted before the second, −1 after it, 0 where it is one or the other, `UNSURE` where planes do not tell."""
        behind, front = self.faces.sides
        near_a, near_b = towards[a] > 0.0, towards[b] > 0.0

        def beyond(i: Counts, j: Counts, facing_i: Flags, facing_j: Flags) -> Flags:
            """Whether face i lies beyond the plane of j, or j on this side of that of i."""
            return np.where(facing_j, behind[i, j], front[i, j]) | np.where(facing_i, front[j, i], behind[j, i])

        one, other = beyond(a, b, near_a, near_b), beyond(b, a, near_b, near_a)
        made = np.where(one, np.where(other, 0, 1), np.where(other, -1, UNSURE)).astype(np.int8)
        flush, outward = self.faces.outward(a, b)
        return np.where(flush, np.where(near_b, -outward, outward), made).astype(np.int8)


def _emitted(
    before: Flags, styles: Counts, seen: Counts, depths: Floats, faces: Faces, overlaps: Overlaps
) -> tuple[list[Counts], Turns]:
    """Faces in runs of one style, each after all that are painted before it; the farthest run first among those that may come next.

    Where faces hide one another in turn one of them is painted all the same.
    """
    waits = before.sum(axis=0)
    left = np.ones(len(seen), dtype=bool)
    far = np.add.reduceat(depths, faces.begins)[seen] / faces.counts[seen]
    runs: list[Counts] = []
    turns: Turns = []
    style, checked = -1, False
    while left.any():
        ready = left & (waits == 0)
        if not ready.any():
            if not checked:
                # Boxes overlap more often than faces do: of those that are left keep only what does.
                _thin(before, left, seen, overlaps)
                waits, checked = before[left].sum(axis=0), True
                continue
            here, there = _in_turn(before, left)
            turns.append((int(seen[here]), int(seen[there])))
            before[there, here] = False
            waits[here] -= 1
            continue
        same = ready & (styles == style)
        if not same.any():
            style = styles[np.flatnonzero(ready)[far[ready].argmin()]]
            same = ready & (styles == style)
        chosen = np.flatnonzero(same)
        left[chosen] = False
        waits = waits - before[chosen].sum(axis=0)
        if runs and styles[np.searchsorted(seen, runs[-1][-1])] == style:
            runs[-1] = np.concatenate((runs[-1], seen[chosen]))
        else:
            runs.append(seen[chosen])
    return runs, turns


def _thin(before: Flags, left: Flags, seen: Counts, overlaps: Overlaps) -> None:
    """Forget among the faces that are left, as far as others wait for them, every order of two that do not overlap on screen."""
    before[~left] = False
    core, wait = left.copy(), before.sum(axis=1)
    while (last := np.flatnonzero(core & (wait == 0))).size:
        core[last] = False
        wait -= before[:, last].sum(axis=1)
    pairs = np.argwhere(before & core[:, None] & core[None, :])
    apart = overlaps.compared(seen[pairs[:, 0]], seen[pairs[:, 1]], only_whether=True) == 0
    before[pairs[apart, 0], pairs[apart, 1]] = False


def _in_turn(before: Flags, left: Flags) -> tuple[int, int]:
    """Of faces that hide one another in turn: one, and the one that is painted before it."""
    here = int(np.flatnonzero(left)[0])
    visited: list[int] = []
    while here not in visited:
        visited.append(here)
        here = int(np.flatnonzero(before[:, here] & left)[0])
    ring = visited[visited.index(here) :]
    return ring[0], ring[1 % len(ring)]
