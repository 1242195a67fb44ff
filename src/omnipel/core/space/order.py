"""In which order flat faces are painted so that what is nearer hides what is farther, from every side.

Of two faces that overlap on screen one lies wholly on one side of the other's plane, mostly; then that tells which is farther. Where it does not, the
depths are compared where the two overlap on screen. From all such pairs follows an order (Newell, Newell and Sancha 1972); faces that run through
one another, or hide one another in turn, are parted along a plane of one of them.

View frame: x to the right, y up, z towards the viewer.
"""

import itertools
from heapq import heappop, heappush
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.space.between import Between
from omnipel.core.space.faces import FLUSH, Counts, Faces, Floats, runs
from omnipel.core.space.frames import Solid
from omnipel.core.space.overlaps import Overlaps

Turns = list[tuple[int, int]]
"""Of faces that hide one another in turn one each, and one whose plane parts it."""

EDGE_ON: Final = 2e-3
"""Faces whose normal turns towards the viewer by less than this are seen edge-on and not at all."""
UNSURE: Final = 2
FLUSHED: Final = 3
MOST_ROUNDS: Final = 40
"""Faces that hide one another in turn are parted in so many rounds at most."""


def _table() -> NDArray[np.int8]:
    """By whether the first of two faces is turned towards the viewer, whether the second is, and how they lie (`Faces.lying`): what `_told` says."""
    made = np.zeros((2, 2, 16), dtype=np.int8)
    for code in range(16):
        behind, before, other_behind, other_before = (bool(code >> k & 1) for k in range(4))
        for near_a in (0, 1):
            for near_b in (0, 1):
                beyond = (behind if near_b else before) or (other_before if near_a else other_behind)
                under = (other_behind if near_a else other_before) or (before if near_b else behind)
                made[near_a, near_b, code] = 0 if beyond and under else 1 if beyond else -1 if under else UNSURE
    made[:, :, 15] = FLUSHED
    return made


TOLD: Final = _table()


class Order:
    """Puts faces in order for any view. Faces that hide one another in turn are parted once, in so many `rounds` at most, and stay so."""

    def __init__(self, faces: Faces, *, meshed: bool = True, rounds: int = MOST_ROUNDS) -> None:
        faces = faces.convex() if len(faces) else faces
        self.faces = faces.unmeshed() if meshed and len(faces) else faces
        self.rounds = rounds
        self.between: Between | None = None

    def batches(self, view: Floats, styles: Counts) -> list[Counts]:
        """Faces from far to near, in runs of one style.

        Args:
            view: rows screen x, screen y, towards the viewer; `(3, 3)`.
            styles: by `of`, what is painted alike; −1 is not painted.
        """
        for done in itertools.count():
            found, turns = self._ordered(view, styles)
            if not turns or done == self.rounds:
                break
            parts: dict[int, list[Solid]] = {}
            for i, j in turns:
                one, other = self.faces.cut(i, j), self.faces.cut(j, i)
                if len(one) > 1 and i not in parts:
                    parts[i] = one
                elif len(other) > 1 and j not in parts:
                    parts[j] = other
            if not parts:
                break
            owner = np.repeat(np.arange(len(self.faces)), [len(parts.get(i, (i,))) for i in range(len(self.faces))])
            self.faces = self.faces.parted(parts)
            if self.between is not None:
                self.between = self.between.parted(owner, self.faces)
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
            told[unsure] = self._decided(seen[first[unsure]], seen[second[unsure]], view[2], overlaps)
        first, second = np.where(told > 0, first, second)[told != 0], np.where(told > 0, second, first)[told != 0]
        far = np.add.reduceat(flat[:, 2], faces.begins)[seen] / faces.counts[seen]
        return _Emitting(first, second, styles[faces.of[seen]], far).emitted(overlaps, seen)

    def _decided(self, a: Counts, b: Counts, towards: Floats, overlaps: Overlaps) -> NDArray[np.int8]:
        """As `_told`, for pairs of which neither plane tells: by a plane between them, or where there is none by where they overlap on screen."""
        self.between = self.between or Between(self.faces, FLUSH * self.faces.size)
        normals = self.between.of(a, b)
        made = np.sign(normals @ towards).astype(np.int8)
        crossed = np.flatnonzero(~normals.any(axis=1))
        if len(crossed):
            made[crossed] = -overlaps.compared(a[crossed], b[crossed])
        return made

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
        made = TOLD[(towards[a] > 0.0).astype(np.intp), (towards[b] > 0.0).astype(np.intp), self.faces.lying[a, b]]
        flush = np.flatnonzero(made == FLUSHED)
        outward = np.sign(self.faces.level[a[flush]] - self.faces.level[b[flush]])
        made[flush] = np.where(towards[b[flush]] > 0.0, -outward, outward)
        return made


class _Emitting:
    """Puts faces in order, each after all that are painted before it; where faces hide one another in turn one of them is painted all the same.

    Face by face in plain lists: far quicker than array by array, with few faces at a time.

    Args:
        first, second: pairs of the seen, of which the second waits for the first.
        styles: of the seen.
        far: of the seen, the less the farther.
    """

    def __init__(self, first: Counts, second: Counts, styles: Counts, far: Floats) -> None:
        order = np.argsort(first, kind="stable")
        self.first, self.second = first[order], second[order]
        self.begins: list[int] = np.searchsorted(self.first, np.arange(len(styles) + 1)).tolist()
        self.after: list[int] = self.second.tolist()
        self.waits: list[int] = np.bincount(second, minlength=len(styles) + 1).tolist()  # the last is nobody's
        self.styles: list[int] = styles.tolist()
        self.far: list[float] = far.tolist()
        self.left = len(styles)
        self.painted = [False] * len(styles)
        self.ready: dict[int, list[int]] = {}
        self.farthest: list[tuple[float, int]] = []
        for i, waits in enumerate(self.waits[:-1]):
            if not waits:
                self.free(i)

    def free(self, i: int) -> None:
        """One waits for no other any longer."""
        self.ready.setdefault(self.styles[i], []).append(i)
        heappush(self.farthest, (self.far[i], i))

    def emitted(self, overlaps: Overlaps, seen: Counts) -> tuple[list[Counts], Turns]:
        """Runs of one style, the farthest first among those that may come next; and faces that hide one another in turn."""
        made: list[list[int]] = []
        turns: Turns = []
        last, checked = -1, False
        while self.left:
            while self.farthest and self.painted[self.farthest[0][1]]:
                heappop(self.farthest)
            if self.farthest:
                style = self.styles[self.farthest[0][1]]
                run = self.run(style)
                if style == last:
                    made[-1] += run
                else:
                    made.append(run)
                last = style
            elif not checked:
                self.thin(overlaps, seen)
                checked = True
            else:
                here, there = self.in_turn()
                turns.append((int(seen[here]), int(seen[there])))
                self.forget(there, here)
        return [seen[run] for run in made], turns

    def run(self, style: int) -> list[int]:
        """Paint all of one style that wait for no other, and that wait for none once these are painted."""
        ready = self.ready.pop(style)
        begins, after, waits = self.begins, self.after, self.waits
        for i in ready:
            self.painted[i] = True
            for j in after[begins[i] : begins[i + 1]]:
                waits[j] -= 1
                if not waits[j]:
                    if self.styles[j] == style:
                        ready.append(j)  # the loop goes on with it
                    else:
                        self.free(j)
        self.left -= len(ready)
        return ready

    def forget(self, first: int, second: int) -> None:
        """One waits no longer for another."""
        at = self.after.index(second, self.begins[first], self.begins[first + 1])
        self.after[at] = len(self.styles)
        self.waits[len(self.styles)] += self.left  # nobody's is never reached
        self.waits[second] -= 1
        if not self.waits[second]:
            self.free(second)

    def among(self) -> Counts:
        """Of the pairs those of faces that are left and that others of these wait for, again and again: only there something can wait for itself."""
        left = ~np.array(self.painted)
        kept = np.flatnonzero(left[self.first] & (np.array(self.after) < len(left)))
        while True:
            go_on = np.zeros(len(left), dtype=bool)
            go_on[self.first[kept]] = True
            after = kept[go_on[self.second[kept]]]
            if len(after) == len(kept):
                return kept
            kept = after

    def thin(self, overlaps: Overlaps, seen: Counts) -> None:
        """Boxes overlap more often than faces do: forget, among what may wait for itself, every pair that does not overlap on screen."""
        pairs = self.among()
        apart = overlaps.compared(seen[self.first[pairs]], seen[self.second[pairs]], only_whether=True) == 0
        for k in pairs[apart].tolist():
            self.forget(int(self.first[k]), int(self.second[k]))

    def in_turn(self) -> tuple[int, int]:
        """Of faces that hide one another in turn: one, and the one that is painted before it."""
        pairs = self.among()
        before = dict(zip(self.second[pairs].tolist(), self.first[pairs].tolist(), strict=True))
        here = next(iter(before))
        visited: list[int] = []
        while here not in visited:
            visited.append(here)
            here = before[here]
        ring = visited[visited.index(here) :]
        return ring[0], ring[1 % len(ring)]
