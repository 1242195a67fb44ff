"""Flat polygons in space, of which none runs through another once they are parted, and how each lies to the planes of the others."""

import itertools
from collections.abc import Mapping, Sequence, Sized
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.space.frames import Solid, crossed, lengths
from omnipel.core.space.overlaps import convex_parts, met_by, parted_by

Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]
Counts = NDArray[np.intp]

FLUSH: Final = 2e-4
"""Two faces lie in one plane when they leave it by no more than this share of the size of all."""
INWARD: Final = 1e-9
"""A corner turns inward when the corner of the sides beside it is larger than this share of the square of the size of all."""
MOST_CUTS: Final = 360
"""Faces that run through others are parted no more often than this."""
PLAINLY: Final = 4.0
"""An edge runs through a plane when its ends lie on both sides of it by more than so many times what is flush."""


def runs(begins: Counts, counts: Counts) -> Counts:
    """Whole numbers in runs, each from where it begins and so many."""
    return np.arange(int(counts.sum())) + np.repeat(begins - np.cumsum(counts) + counts, counts)


def begins_of(parts: Sequence[Sized]) -> Counts:
    """Where each of some parts begins when they follow one another."""
    return np.cumsum([0, *map(len, parts[:-1])])


def split(values: NDArray[Any], begins: Counts) -> list[NDArray[Any]]:
    """The parts of an array, from where each begins; the library's own takes five times as long for small parts."""
    ends = [*begins.tolist(), len(values)]
    return [values[low:high] for low, high in itertools.pairwise(ends)]


@dataclass(frozen=True)
class Planes:
    """The planes of faces.

    Args:
        normals: unit normals, `(f, 3)`, after Newell: sound for slightly bent and concave faces.
        offsets: how far out along its normal each lies, `(f,)`.
        bent: how far corners leave the plane of their own face, `(f,)`.
        areas: of the faces, `(f,)`.
        size: the longest side of the box around all.
    """

    normals: Solid
    offsets: Floats
    bent: Floats
    areas: Floats
    size: float

    def of(self, which: Counts) -> "Planes":
        """Some of them."""
        return Planes(self.normals[which], self.offsets[which], self.bent[which], self.areas[which], self.size)


@dataclass(frozen=True)
class Faces:
    """Flat polygons in space.

    Args:
        points: all corners, `(p, 3)`.
        begins: where the corners of each face begin, `(f,)`.
        of: which face of the picture each is a part of, `(f,)`.
        level: of faces in one plane the higher lies further out, `(f,)`.
        loose: which may run through others, `(f,)`; two that are not never do.
        known: the planes of parts of faces, which are those of the faces.
        told: `sides` where they are known, too.
    """

    points: Solid
    begins: Counts
    of: Counts
    level: Counts
    loose: Flags
    known: Planes | None = None
    told: tuple[Flags, Flags] | None = None

    @classmethod
    def made_of(
        cls, rings: Sequence[Solid], level: Sequence[int] | Counts | None = None, loose: Sequence[bool] | Flags | None = None
    ) -> "Faces":
        """Faces from their corners."""
        levels = np.zeros(len(rings), dtype=np.intp) if level is None else np.asarray(level, dtype=np.intp)
        free = np.ones(len(rings), dtype=bool) if loose is None else np.asarray(loose, dtype=bool)
        return cls(np.concatenate(rings), begins_of(rings), np.arange(len(rings)), levels, free)

    @classmethod
    def cornered(cls, points: Solid, begins: Counts) -> "Faces":
        """Faces from all their corners, one face after the other, and where those of each begin."""
        return cls(points, begins, np.arange(len(begins)), np.zeros(len(begins), dtype=np.intp), np.ones(len(begins), dtype=bool))

    def parted(self, parts: Mapping[int, Sequence[Solid]]) -> "Faces":
        """The same faces, some in parts."""
        rings: list[Solid] = []
        more: list[int] = []
        for i in range(len(self)):
            ours = parts.get(i) or (self.ring(i),)
            rings += ours
            more += [i] * len(ours)
        index = np.array(more, dtype=np.intp)
        made = Faces.made_of(rings, self.level[index], self.loose[index])
        made = replace(made, of=self.of[index], known=self.planes.of(index))
        if "sides" not in vars(self) and self.told is None:
            return made
        new = np.flatnonzero(np.bincount(index, minlength=len(self))[index] > 1)
        sides = tuple(one[index][:, index] for one in self.sides)
        for one, other in zip(sides, made.sided(new), strict=True):
            one[new] = other
        return replace(made, told=(sides[0], sides[1]))

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
    def planes(self) -> Planes:
        """The plane of each."""
        if self.known is not None:
            return self.known
        middles = np.add.reduceat(self.points, self.begins, axis=0) / self.counts[:, None]
        around = self.points - middles[self.owner]
        made = np.add.reduceat(crossed(around, around[self.following]), self.begins, axis=0)
        sizes = lengths(made)[:, None]
        normals = made / np.where(sizes > 0.0, sizes, 1.0)
        offsets = np.einsum("ij,ij->i", normals, middles)
        off = np.abs(np.einsum("ij,ij->i", self.points, normals[self.owner]) - offsets[self.owner])
        bent, size = np.maximum.reduceat(off, self.begins), float(np.ptp(self.points, axis=0).max())
        return Planes(normals, offsets, bent, sizes[:, 0] / 2.0, size)

    @property
    def normals(self) -> Solid:
        """Unit normals, `(f, 3)`."""
        return self.planes.normals

    @property
    def offsets(self) -> Floats:
        """How far out along its normal each plane lies."""
        return self.planes.offsets

    @property
    def size(self) -> float:
        """The longest side of the box around all."""
        return self.planes.size

    @cached_property
    def sides(self) -> tuple[Flags, Flags]:
        """`(f, f)`: whether face i lies wholly behind the plane of face j, and whether wholly before it."""
        return self.told if self.told is not None else self.sided(np.arange(len(self)))

    def sided(self, which: Counts) -> tuple[Flags, Flags]:
        """Some rows of `sides`, `(n, f)`."""
        normals, points = np.ascontiguousarray(self.normals.T, dtype=np.float32), self.points.astype(np.float32)
        order = np.argsort(-self.counts[which], kind="stable")
        counts, begins = self.counts[which[order]], self.begins[which[order]]
        high = points[begins] @ normals
        low = high.copy()
        for k in range(
            1, int(counts.max(initial=0))
        ):  # corner by corner, those with most of them first: far quicker than face by face
            some = int(np.searchsorted(-counts, -k))
            off = points[begins[:some] + k] @ normals
            np.maximum(high[:some], off, out=high[:some])
            np.minimum(low[:some], off, out=low[:some])
        offsets, near = self.offsets.astype(np.float32), (FLUSH * self.size + self.planes.bent).astype(np.float32)
        behind, before = np.empty(high.shape, dtype=bool), np.empty(high.shape, dtype=bool)
        behind[order], before[order] = high <= offsets + near, low >= offsets - near
        return behind, before

    @cached_property
    def lying(self) -> NDArray[np.uint8]:
        """`(f, f)`, how faces lie, added up: 1 where i is wholly behind the plane of j, 2 where wholly before it, 4 and 8 the same of j and the plane of i.

        So 15 is two faces in one plane.
        """
        behind, before = (one.astype(np.uint8) for one in self.sides)
        own = behind + 2 * before
        return np.asarray(own + 4 * own.T, dtype=np.uint8)

    def range(self, off: Floats) -> tuple[Floats, Floats]:
        """The least and the greatest of what is told of the corners of each."""
        return np.minimum.reduceat(off, self.begins), np.maximum.reduceat(off, self.begins)

    def crossed(self, off: Floats) -> tuple[Counts, Floats]:
        """Sides of faces that a plane cuts, which the corners lie `off` by: the corner each begins at, and the share of it where it is cut."""
        after = off[self.following]
        at = np.flatnonzero((off > 0.0) != (after > 0.0))
        return at, off[at] / (off[at] - after[at])

    def along(self, at: Counts, share: Floats) -> Solid:
        """The places at shares of the sides that begin at some corners: where a plane cuts them."""
        return np.asarray(self.points[at] * (1.0 - share[:, None]) + self.points[self.following[at]] * share[:, None])

    def ring(self, i: int) -> Solid:
        """Corners of a face."""
        return self.points[self.begins[i] : self.begins[i] + self.counts[i]]

    def corners(self, which: Counts) -> Counts:
        """Where the corners of some faces are, one face after the other."""
        return runs(self.begins[which], self.counts[which])

    def cut(self, i: int, j: int) -> list[Solid]:
        """Face i parted along the plane of face j; itself alone where that plane does not part it."""
        return parted_by(self.ring(i), self.normals[j], float(self.offsets[j]), FLUSH * self.size)

    def convex(self) -> "Faces":
        """The faces, those with inward corners parted there: of two convex faces that do not run through one another one hides the other wholly."""
        turns = crossed(self.points - self.points[self.preceding], self.points[self.following] - self.points)
        inward = np.einsum("ij,ij->i", turns, self.normals[self.owner]) < -INWARD * self.size**2
        hollow = np.flatnonzero(np.maximum.reduceat(inward, self.begins))
        return self.parted({i: convex_parts(self.ring(i), self.normals[i]) for i in hollow.tolist()}) if len(hollow) else self

    def unmeshed(self) -> "Faces":
        """The faces, those that run through others parted there, so that none runs through another."""
        made: dict[int, list[Solid]] = {}
        for i, j in self.through()[:MOST_CUTS].tolist():
            normal, offset = self.normals[j], float(self.offsets[j])
            made[i] = [
                piece for part in made.get(i, [self.ring(i)]) for piece in parted_by(part, normal, offset, FLUSH * self.size)
            ]
        return self.parted(made) if made else self

    def through(self) -> Counts:
        """Pairs `(n, 2)` of faces of which the first runs through the second."""
        behind, before = self.sides
        crossing = ~behind & ~before
        crossing &= crossing.T & (self.loose[:, None] | self.loose[None, :])
        pairs = np.argwhere(crossing)
        low, high = np.minimum.reduceat(self.points, self.begins), np.maximum.reduceat(self.points, self.begins)
        first, second = pairs.T
        pairs = pairs[((low[first] <= high[second]) & (low[second] <= high[first])).all(axis=1)]
        return pairs[self._through(*pairs.T)]

    def _through(self, first: Counts, second: Counts) -> Flags:
        """Of pairs whether an edge of the first runs through the second, away from the rim of that."""
        corner = self.corners(first)
        pair = np.repeat(np.arange(len(first)), self.counts[first])
        start, end = self.points[corner], self.points[self.following[corner]]
        normal, offset = self.normals[second[pair]], self.offsets[second[pair]]
        off, after = np.einsum("ij,ij->i", start, normal) - offset, np.einsum("ij,ij->i", end, normal) - offset
        met = np.flatnonzero((off * after < 0.0) & (np.minimum(np.abs(off), np.abs(after)) > PLAINLY * FLUSH * self.size))
        share = (off / np.where(off == after, 1.0, off - after))[met, None]
        found = np.zeros(len(first), dtype=bool)
        held = met_by(
            self.points, self.begins, self.counts, normal[met], second[pair[met]], start[met] + (end - start)[met] * share
        )
        found[pair[met[held]]] = True
        return found
