"""In which order flat faces are painted so that what is nearer hides what is farther, from every side.

Of two faces that overlap on screen one lies wholly on one side of the other's plane, mostly; then that tells which is farther. Where it does not, the
depths are compared where the two overlap on screen. From all such pairs follows an order (Newell, Newell and Sancha 1972); faces that run through
one another, or hide one another in turn, are parted along a plane of one of them.

View frame: x to the right, y up, z towards the viewer.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.space.frames import Solid
from omnipel.core.space.overlaps import Overlaps, convex_parts, parted_by

Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]
Counts = NDArray[np.intp]

FLUSH: Final = 2e-4
"""Two faces lie in one plane when they leave it by no more than this share of the size of all."""
INWARD: Final = 1e-9
"""A corner turns inward when the corner of the sides beside it is larger than this share of the square of the size of all."""
EDGE_ON: Final = 2e-3
"""Faces whose normal turns towards the viewer by less than this are seen edge-on and not at all."""
UNSURE: Final = 2
MOST_CUTS: Final = 120
"""Faces are parted no more often than this."""
ROUNDS: Final = 3
"""What runs through something is parted in so many rounds."""


@dataclass(frozen=True)
class Faces:
    """Flat polygons in space.

    Args:
        points: all corners, `(p, 3)`.
        begins: where the corners of each face begin, `(f,)`.
        of: which face of the picture each is a part of, `(f,)`.
        level: of faces in one plane the higher lies further out, `(f,)`.
        loose: which may run through others, `(f,)`; two that are not never do.
    """

    points: Solid
    begins: Counts
    of: Counts
    level: Counts
    loose: Flags

    @classmethod
    def made_of(
        cls, rings: Sequence[Solid], level: Sequence[int] | Counts | None = None, loose: Sequence[bool] | Flags | None = None
    ) -> "Faces":
        """Faces from their corners."""
        ends = np.cumsum([len(ring) for ring in rings])
        begins = np.concatenate(([0], ends[:-1])).astype(np.intp)
        levels = np.zeros(len(rings), dtype=np.intp) if level is None else np.asarray(level, dtype=np.intp)
        free = np.ones(len(rings), dtype=bool) if loose is None else np.asarray(loose, dtype=bool)
        return cls(np.concatenate(rings), begins, np.arange(len(rings)), levels, free)

    def parted(self, rings: Sequence[Solid], more: Sequence[int] | Counts) -> "Faces":
        """The same faces in parts: their rings, and which face each is a part of."""
        index = np.asarray(more, dtype=np.intp)
        made = Faces.made_of(rings, self.level[index], self.loose[index])
        return replace(made, of=self.of[index])

    def __len__(self) -> int:
        return len(self.begins)

    @cached_property
    def counts(self) -> Counts:
        """How many corners each has."""
        return np.diff(np.append(self.begins, len(self.points)))

    @cached_property
    def owner(self) -> Counts:
        """The face that each corner belongs to."""
        return np.repeat(np.arange(len(self)), self.counts)

    @cached_property
    def following(self) -> Counts:
        """The index of the next corner of the same face."""
        after = np.arange(1, len(self.points) + 1)
        after[self.begins + self.counts - 1] = self.begins
        return after

    @cached_property
    def preceding(self) -> Counts:
        """The index of the corner before, of the same face."""
        before = np.arange(len(self.points)) - 1
        before[self.begins] = self.begins + self.counts - 1
        return before

    @cached_property
    def size(self) -> float:
        """The longest side of the box around all."""
        return float(np.ptp(self.points, axis=0).max())

    @cached_property
    def middles(self) -> Solid:
        """Middles of their corners, `(f, 3)`."""
        return np.asarray(np.add.reduceat(self.points, self.begins, axis=0) / self.counts[:, None])

    @cached_property
    def normals(self) -> Solid:
        """Unit normals, `(f, 3)`, after Newell: sound for slightly bent and concave faces."""
        around = self.points - self.middles[self.owner]
        made = np.add.reduceat(np.cross(around, around[self.following]), self.begins, axis=0)
        sizes = np.linalg.norm(made, axis=1, keepdims=True)
        return np.asarray(made / np.where(sizes > 0.0, sizes, 1.0))

    @cached_property
    def offsets(self) -> Floats:
        """How far out along its normal each plane lies."""
        return np.asarray(np.einsum("ij,ij->i", self.normals, self.middles))

    @cached_property
    def bent(self) -> Floats:
        """How far corners leave the plane of their own face."""
        off = np.abs(np.einsum("ij,ij->i", self.points, self.normals[self.owner]) - self.offsets[self.owner])
        return np.asarray(np.maximum.reduceat(off, self.begins))

    @cached_property
    def sides(self) -> tuple[Flags, Flags]:
        """`(f, f)`: whether face i lies wholly behind the plane of face j, and whether wholly before it."""
        off = self.points.astype(np.float32) @ self.normals.T.astype(np.float32) - self.offsets.astype(np.float32)
        near = (FLUSH * self.size + self.bent).astype(np.float32)
        return np.maximum.reduceat(off, self.begins, axis=0) <= near, np.minimum.reduceat(off, self.begins, axis=0) >= -near

    @cached_property
    def flush(self) -> Flags:
        """`(f, f)`: whether two faces lie in one plane."""
        behind, before = self.sides
        one = behind & before
        return one & one.T

    @cached_property
    def upper(self) -> NDArray[np.int8]:
        """`(f, f)`: whether face i lies further out than face j of the same plane: 1, or −1 further in, as the normal of j points."""
        levels = np.sign(self.level[:, None] - self.level[None, :])
        return np.where(self.flush, levels, 0).astype(np.int8)

    def ring(self, i: int) -> Solid:
        """Corners of a face."""
        return self.points[self.begins[i] : self.begins[i] + self.counts[i]]

    def cut(self, i: int, j: int) -> "Faces | None":
        """The faces with face i parted along the plane of face j; None where that plane does not part it."""
        parts = parted_by(self.ring(i), self.normals[j], float(self.offsets[j]), FLUSH * self.size)
        if len(parts) < 2:
            return None
        rings = [self.ring(k) for k in range(len(self))]
        rings[i : i + 1] = parts
        more = np.insert(np.arange(len(self)), i, [i] * (len(parts) - 1))
        return self.parted(rings, more)

    def convex(self) -> "Faces":
        """The faces, those with inward corners parted there: of two convex faces that do not run through one another one hides the other wholly."""
        turns = np.cross(self.points - self.points[self.preceding], self.points[self.following] - self.points)
        inward = np.einsum("ij,ij->i", turns, self.normals[self.owner]) < -INWARD * self.size**2
        hollow = np.maximum.reduceat(inward, self.begins)
        if not hollow.any():
            return self
        rings: list[Solid] = []
        more: list[int] = []
        for i in range(len(self)):
            parts = convex_parts(self.ring(i), self.normals[i]) if hollow[i] else [self.ring(i)]
            rings += parts
            more += [i] * len(parts)
        return self.parted(rings, more)

    def unmeshed(self) -> "Faces":
        """The faces, those that run through others parted there, so that none runs through another."""
        faces = self
        for _ in range(ROUNDS):
            through = faces.through()
            rings: list[Solid] = []
            more: list[int] = []
            for i in range(len(faces)):
                parts = [faces.ring(i)]
                for j in through.get(i, ()):
                    normal, offset = faces.normals[j], float(faces.offsets[j])
                    parts = [piece for part in parts for piece in parted_by(part, normal, offset, FLUSH * faces.size)]
                rings += parts
                more += [i] * len(parts)
            if len(rings) == len(faces):
                break
            faces = faces.parted(rings, more)
        return faces

    def through(self) -> dict[int, list[int]]:
        """For faces that run through others, those others."""
        behind, before = self.sides
        crossing = ~behind & ~before
        crossing &= crossing.T & (self.loose[:, None] | self.loose[None, :])
        low, high = np.minimum.reduceat(self.points, self.begins), np.maximum.reduceat(self.points, self.begins)
        boxes = (low[:, None] <= high[None, :]).all(axis=2)
        found: dict[int, list[int]] = {}
        for i, j in np.argwhere(crossing & boxes & boxes.T):
            if sum(map(len, found.values())) >= MOST_CUTS:
                break
            if self._runs_through(int(i), int(j)):
                found.setdefault(int(i), []).append(int(j))
        return found

    def _runs_through(self, i: int, j: int) -> bool:
        """Whether an edge of face i runs through face j, away from the rim of that."""
        ring, normal = self.ring(i), self.normals[j]
        off = ring @ normal - self.offsets[j]
        after, far = np.roll(off, -1), 4.0 * FLUSH * self.size
        through = (off * after < 0.0) & (np.minimum(np.abs(off), np.abs(after)) > far)
        if not through.any():
            return False
        share = (off / np.where(off == after, 1.0, off - after))[through, None]
        met = ring[through] + (np.roll(ring, -1, axis=0) - ring)[through] * share
        drop = int(np.abs(normal).argmax())
        keep = [axis for axis in range(3) if axis != drop]
        face, middle = self.ring(j), self.middles[j]
        shrunk = middle + (face - middle) * (1.0 - 2e-3)
        return bool(Overlaps.holds(shrunk[None][:, :, keep], met[None][:, :, keep]).any())


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
        for _ in range(MOST_CUTS):
            found = self._ordered(view, styles)
            if isinstance(found, list):
                return found
            made = self.faces.cut(*found) or self.faces.cut(*found[::-1])
            if made is None:
                break
            self.faces = made
        return self._ordered(view, styles, strict=False) or []  # type: ignore[return-value]

    def _ordered(self, view: Floats, styles: Counts, *, strict: bool = True) -> list[Counts] | tuple[int, int]:
        """The runs; or, where faces hide one another in turn, one of them and one that parts it."""
        faces = self.faces
        towards = faces.normals @ view[2]
        seen = np.flatnonzero((np.abs(towards) > EDGE_ON) & (styles[faces.of] >= 0))
        if not len(seen):
            return []
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
        return _emitted(before, styles[faces.of[seen]], seen, flat[:, 2], faces, overlaps if strict else None)

    def _meeting(self, seen: Counts, flat: Solid) -> tuple[Counts, Counts]:
        """Pairs of the seen whose boxes overlap on screen."""
        begins, spare = self.faces.begins, 1e-6 * self.faces.size
        low, high = np.minimum.reduceat(flat[:, :2], begins)[seen] + spare, np.maximum.reduceat(flat[:, :2], begins)[seen]
        meet = (low[:, None, 0] < high[None, :, 0]) & (low[:, None, 1] < high[None, :, 1])
        meet &= meet.T
        first, second = np.nonzero(np.triu(meet, 1))
        return first, second

    def _told(self, a: Counts, b: Counts, towards: Floats) -> NDArray[np.int8]:
        """For pairs of faces 1 where the first is painted before the second, −1 after it, 0 where it is one or the other, `UNSURE` where planes do not tell."""
        behind, front = self.faces.sides
        near_a, near_b = towards[a] > 0.0, towards[b] > 0.0

        def beyond(i: Counts, j: Counts, facing_i: Flags, facing_j: Flags) -> Flags:
            """Whether face i lies beyond the plane of j, or j on this side of that of i."""
            return np.where(facing_j, behind[i, j], front[i, j]) | np.where(facing_i, front[j, i], behind[j, i])

        one, other = beyond(a, b, near_a, near_b), beyond(b, a, near_b, near_a)
        made = np.where(one, np.where(other, 0, 1), np.where(other, -1, UNSURE)).astype(np.int8)
        flush = self.faces.flush[a, b]
        outward = np.where(near_b, self.faces.upper[a, b], -self.faces.upper[a, b])
        return np.where(flush, -outward, made).astype(np.int8)


def _emitted(
    before: Flags, styles: Counts, seen: Counts, depths: Floats, faces: Faces, overlaps: Overlaps | None
) -> list[Counts] | tuple[int, int]:
    """Faces in runs of one style, each after all that are painted before it; the farthest run first among those that may come next."""
    waits = before.sum(axis=0)
    left = np.ones(len(seen), dtype=bool)
    far = np.add.reduceat(depths, faces.begins)[seen] / faces.counts[seen]
    runs: list[Counts] = []
    style = -1
    checked = overlaps is None
    while left.any():
        ready = left & (waits == 0)
        if not ready.any():
            if not checked:
                # Boxes overlap more often than faces do: of those that are left keep only what does.
                _thin(before, left, seen, overlaps)
                waits, checked = before[left].sum(axis=0), True
                continue
            if overlaps is not None:
                return _in_turn(before, left, seen)
            ready = left & (far == far[left].min())
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
    return runs


def _thin(before: Flags, left: Flags, seen: Counts, overlaps: Overlaps | None) -> None:
    """Forget among the faces that are left every order of two that do not overlap on screen."""
    if overlaps is None:
        return
    before[~left] = False
    pairs = np.argwhere(before & left[:, None] & left[None, :])
    apart = overlaps.compared(seen[pairs[:, 0]], seen[pairs[:, 1]], only_whether=True) == 0
    before[pairs[apart, 0], pairs[apart, 1]] = False


def _in_turn(before: Flags, left: Flags, seen: Counts) -> tuple[int, int]:
    """Of faces that hide one another in turn: one, and the one that is painted before it."""
    here = int(np.flatnonzero(left)[0])
    visited: list[int] = []
    while here not in visited:
        visited.append(here)
        here = int(np.flatnonzero(before[:, here] & left)[0])
    ring = visited[visited.index(here) :]
    return int(seen[ring[0]]), int(seen[ring[1 % len(ring)]])
