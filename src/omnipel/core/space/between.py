"""Planes between flat faces that the planes of neither keep apart: from whichever side one looks, what lies beyond such a plane is farther."""

from typing import Final

import numpy as np

from omnipel.core.space.faces import Counts, Faces, Floats
from omnipel.core.space.frames import Solid
from omnipel.core.space.overlaps import padded

AT_ONCE: Final = 400_000
"""So many corners are measured at once."""
ASKED, NONE = -1, -2


class Between:
    """Finds for pairs of convex faces a plane that keeps them apart, each once.

    Two convex polygons of which neither plane does so are kept apart, if by any, by a plane along an edge of each (Gottschalk, Lin and
    Manocha 1996).
    """

    def __init__(self, faces: Faces, near: float) -> None:
        self.faces, self.near = faces, near
        self.known = np.full((len(faces), len(faces)), ASKED, dtype=np.int32)
        self.normals: Solid = np.empty((0, 3))

    def parted(self, owner: Counts, faces: Faces) -> "Between":
        """The same for faces of which some have been parted, each a part of its `owner`: a plane keeps the parts apart, too."""
        made = Between(faces, self.near)
        known = self.known[owner][:, owner]
        made.known, made.normals = np.where(known == NONE, ASKED, known), self.normals
        return made

    def of(self, first: Counts, second: Counts) -> Solid:
        """Unit normals, `(n, 3)`, that point from the first of each pair to the second; 0 where no plane lies between them."""
        new = np.flatnonzero(self.known[first, second] == ASKED)
        if len(new):
            made, found = self._found(first[new], second[new])
            self.known[first[new], second[new]] = np.where(found, np.cumsum(found) - 1 + len(self.normals), NONE)
            self.normals = np.concatenate((self.normals, made[found]))
        which = self.known[first, second]
        normals = np.zeros((len(first), 3))
        normals[which >= 0] = self.normals[which[which >= 0]]
        return normals

    def _found(self, first: Counts, second: Counts) -> tuple[Solid, np.ndarray]:
        counts = self.faces.counts
        work = counts[first] * counts[second] * (counts[first] + counts[second])
        order = np.argsort(work, kind="stable")
        normals, gaps = np.zeros((len(first), 3)), np.full(len(first), -np.inf)
        start = 0
        while start < len(order):
            stop = start + 1
            while stop < len(order) and work[order[stop]] * (stop + 1 - start) <= AT_ONCE:
                stop += 1
            some = order[start:stop]
            normals[some], gaps[some] = _widest(self._corners(first[some]), self._corners(second[some]))
            start = stop
        return normals, gaps >= -self.near

    def _corners(self, which: Counts) -> Solid:
        """Corners of faces side by side, `(n, k, 3)`."""
        return padded(self.faces.points, self.faces.begins[which], self.faces.counts[which])


def _widest(a: Solid, b: Solid) -> tuple[Solid, Floats]:
    """Of planes along an edge of `a` `(n, k, 3)` and one of `b` `(n, m, 3)` the normal from a to b of that with the widest gap, and the gap."""
    along, other = np.roll(a, -1, axis=1) - a, np.roll(b, -1, axis=1) - b
    normals = np.cross(along[:, :, None], other[:, None]).reshape(len(a), -1, 3)
    size = np.linalg.norm(normals, axis=2, keepdims=True)
    scale = np.linalg.norm(along, axis=2).max(axis=1) * np.linalg.norm(other, axis=2).max(axis=1)
    sound = size > 1e-9 * scale[:, None, None]
    normals = np.where(sound, normals / np.where(sound, size, 1.0), 0.0)
    high, low = normals @ a.transpose(0, 2, 1), normals @ b.transpose(0, 2, 1)
    onward, back = low.min(axis=2) - high.max(axis=2), high.min(axis=2) - low.max(axis=2)
    gaps = np.where(sound[:, :, 0], np.maximum(onward, back), -np.inf)
    best = gaps.argmax(axis=1)
    row = np.arange(len(a))
    turned = np.where(onward[row, best] >= back[row, best], 1.0, -1.0)
    return normals[row, best] * turned[:, None], gaps[row, best]
