"""Where flat faces overlap on screen, and which of two is nearer there."""

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.space.frames import Solid

Floats = NDArray[np.float64]
Counts = NDArray[np.intp]

SMALL: Final = 8
"""Faces with no more corners than this are compared together, whatever their number of corners."""
AT_ONCE: Final = 400_000
"""So many pairs of edges are looked at at once."""
RIM: Final = 2e-3
"""The rim of a face is so broad, as a share of the way to its middle."""
WITHIN: Final = 1e-3
"""Faces overlap when they still do after one was drawn in by this share about its middle: neighbours that share an edge do not."""


@dataclass(frozen=True)
class Overlaps:
    """Faces on screen.

    Args:
        begins, counts: where the corners of each face begin and how many they are.
        flat: corners in the view frame, `(p, 3)`.
        normals: in the view frame, `(f, 3)`.
        offsets: how far out along its normal each plane lies, `(f,)`.
        near: depths that differ by less are one, mm.
    """

    begins: Counts
    counts: Counts
    flat: Solid
    normals: Solid
    offsets: Floats
    near: float

    def compared(self, first: Counts, second: Counts, *, only_whether: bool = False) -> Counts:
        """For each pair −1 where the first is farther, 1 where it is nearer, 0 where they do not overlap; `only_whether`: 1 where they overlap."""
        found = np.zeros(len(first), dtype=np.intp)
        work = self.counts[first] * self.counts[second]
        order = np.argsort(work, kind="stable")
        start = 0
        while start < len(order):  # pairs of about the same size together, so that little is compared for nothing
            most = max(SMALL * SMALL, 4 * int(work[order[start]]))
            stop = min(int(np.searchsorted(work[order], most, side="right")), start + max(1, AT_ONCE // most))
            group = order[start:stop]
            found[group] = self._compared(first[group], second[group], only_whether=only_whether)
            start = stop
        return found

    def _compared(self, first: Counts, second: Counts, *, only_whether: bool) -> Counts:
        a, b = self._padded(first), self._padded(second)
        if only_whether:
            middle = a.mean(axis=1, keepdims=True)
            drawn_in = middle + (a - middle) * (1.0 - WITHIN)
            apart = _beside(drawn_in, b, self.normals[first, 2])
            near = np.flatnonzero(~apart)
            apart[near] = _beside(b[near], drawn_in[near], self.normals[second[near], 2])
            return np.asarray(~apart, dtype=np.intp)
        points, met = _common(a, b)
        off = self._depth(first, points) - self._depth(second, points)
        least, most = np.where(met, off, np.inf).min(axis=1), np.where(met, off, -np.inf).max(axis=1)
        none = ~met.any(axis=1)
        least[none] = most[none] = 0.0
        # Where they cross, whichever is nearer by more counts as the nearer; neighbours only touch.
        told = np.where(most + least < 0.0, -1, 1)
        return np.asarray(np.where(none | ((most <= self.near) & (least >= -self.near)), 0, told), dtype=np.intp)

    def _padded(self, which: Counts) -> Floats:
        """Corners of faces on screen, `(n, k, 2)`; the last stands for those that a face does not have."""
        return padded(self.flat[:, :2], self.begins[which], self.counts[which])

    def _depth(self, which: Counts, points: Floats) -> Floats:
        """Depth of the planes of faces at points on screen, `(n, k)`, no farther or nearer than any of their corners."""
        normal = self.normals[which][:, None, :]
        depth = (self.offsets[which][:, None] - (points * normal[:, :, :2]).sum(axis=2)) / normal[:, :, 2]
        low, high = (end[which] for end in self.reach)
        return np.asarray(np.clip(depth, low[:, None], high[:, None]))

    @cached_property
    def reach(self) -> tuple[Floats, Floats]:
        """The least and the greatest depth of each face."""
        z = self.flat[:, 2]
        return np.minimum.reduceat(z, self.begins), np.maximum.reduceat(z, self.begins)

    @staticmethod
    def holds(rings: Floats, points: Floats) -> NDArray[np.bool_]:
        """Whether rings `(n, k, 2)` hold points `(n, m, 2)`, `(n, m)`: by how often a ray to the right crosses them."""
        a, b = rings[:, None, :, :], np.roll(rings, -1, axis=1)[:, None, :, :]
        x, y = points[:, :, None, 0], points[:, :, None, 1]
        spans = (a[..., 1] > y) != (b[..., 1] > y)
        rise = b[..., 1] - a[..., 1]
        at = a[..., 0] + (b[..., 0] - a[..., 0]) * (y - a[..., 1]) / np.where(rise == 0.0, 1.0, rise)
        return np.asarray(((spans & (x < at)).sum(axis=2) % 2).astype(bool))


def padded(points: Floats, begins: Counts, counts: Counts) -> Floats:
    """Corners of faces side by side, `(n, k, …)`; the last stands for those that a face does not have."""
    return np.asarray(points[begins[:, None] + np.minimum(np.arange(int(counts.max())), counts[:, None] - 1)])


def _beside(a: Floats, b: Floats, turned: Floats) -> NDArray[np.bool_]:
    """Of convex polygons `(n, ka, 2)` and `(n, kb, 2)` whether the second lies wholly outside a side of the first.

    `turned` is over 0 where the first is walked counter-clockwise, under 0 where clockwise.
    """
    along = (np.concatenate((a[:, 1:], a[:, :1]), axis=1) - a) * np.sign(turned)[:, None, None]
    x, y = along[:, :, 1], -along[:, :, 0]
    out = x * b[:, :1, 0] + y * b[:, :1, 1]
    for k in range(1, b.shape[1]):  # corner by corner: far quicker than the least of so few at a time
        np.minimum(out, x * b[:, k : k + 1, 0] + y * b[:, k : k + 1, 1], out=out)
    return np.asarray(((out >= x * a[:, :, 0] + y * a[:, :, 1]) & ((x != 0.0) | (y != 0.0))).any(axis=1))


def _common(a: Floats, b: Floats) -> tuple[Floats, NDArray[np.bool_]]:
    """Corners of what polygons `(n, ka, 2)` and `(n, kb, 2)` have in common, `(n, m, 2)`, and which of them are there."""
    n, ka, kb = len(a), a.shape[1], b.shape[1]
    da, db = np.roll(a, -1, axis=1) - a, np.roll(b, -1, axis=1) - b
    across = da[:, :, None, 0] * db[:, None, :, 1] - da[:, :, None, 1] * db[:, None, :, 0]
    gap = b[:, None, :, :] - a[:, :, None, :]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (gap[..., 0] * db[:, None, :, 1] - gap[..., 1] * db[:, None, :, 0]) / across
        s = (gap[..., 0] * da[:, :, None, 1] - gap[..., 1] * da[:, :, None, 0]) / across
    met = (across != 0.0) & (t > 0.0) & (t < 1.0) & (s > 0.0) & (s < 1.0)
    crossings = a[:, :, None, :] + np.where(met, t, 0.0)[..., None] * da[:, :, None, :]
    points = np.concatenate((crossings.reshape(n, ka * kb, 2), a, b), axis=1)
    there = np.concatenate((met.reshape(n, ka * kb), Overlaps.holds(b, a), Overlaps.holds(a, b)), axis=1)
    return points, there


def met_by(points: Solid, begins: Counts, counts: Counts, normals: Solid, which: Counts, places: Solid) -> NDArray[np.bool_]:
    """Whether faces hold places in their planes, away from their rims.

    Args:
        points: all corners, `(p, 3)`.
        begins: where those of each face begin, `(f,)`.
        counts: how many they are, `(f,)`.
        normals: of the face asked about each place, `(n, 3)`.
        which: that face, `(n,)`.
        places: `(n, 3)`.
    """
    found = np.zeros(len(which), dtype=bool)
    # Seen along the axis that is nearest to the normal, a face is as broad as it can be.
    axes = np.array([[1, 2], [0, 2], [0, 1]])[np.abs(normals).argmax(axis=1)] if len(which) else np.empty((0, 2), dtype=np.intp)
    for count in np.unique(counts[which]).tolist():
        at = np.flatnonzero(counts[which] == count)
        rings = points[begins[which[at]][:, None] + np.arange(count)]
        flat = np.take_along_axis(rings, axes[at][:, None, :], axis=2)
        middle = flat.mean(axis=1, keepdims=True)
        here = np.take_along_axis(places[at], axes[at], axis=1)[:, None, :]
        found[at] = Overlaps.holds(middle + (flat - middle) * (1.0 - RIM), here)[:, 0]
    return found


def parted_by(ring: Solid, normal: Floats, offset: float, near: float) -> list[Solid]:
    """A polygon parted along a plane; itself alone where that does not part it, or where more than two parts would come of it."""
    off = ring @ normal - offset
    off[np.abs(off) <= near] = 0.0
    after = np.roll(off, -1)
    crossings = int((off * after < 0.0).sum() + ((off == 0.0) & (np.roll(off, 1) * after < 0.0)).sum())
    if crossings != 2 or not ((off > 0.0).any() and (off < 0.0).any()):
        return [ring]
    parts: list[list[NDArray[np.float64]]] = [[], []]
    for i, here in enumerate(off):
        there = after[i]
        for k, sign in enumerate((1.0, -1.0)):
            if here * sign >= 0.0:
                parts[k].append(ring[i])
        if here * there < 0.0:
            met = ring[i] + (ring[(i + 1) % len(ring)] - ring[i]) * (here / (here - there))
            parts[0].append(met)
            parts[1].append(met)
    return [np.array(part) for part in parts if len(part) > 2]


def convex_parts(ring: Solid, normal: Floats) -> list[Solid]:
    """A flat polygon with inward corners as convex ones: triangles, joined as long as they stay convex (after Hertel and Mehlhorn)."""
    right = np.cross(normal, (1.0, 0.0, 0.0) if abs(normal[0]) < 0.9 else (0.0, 1.0, 0.0))
    right /= np.linalg.norm(right)
    axes, middle = np.array((right, np.cross(normal, right))), ring.mean(axis=0)
    shape = shapely.make_valid(shapely.Polygon((ring - middle) @ axes.T))
    high = float(((ring - middle) @ normal).mean())
    coords = shapely.get_coordinates(shapely.get_parts(shapely.constrained_delaunay_triangles(shape))).reshape(-1, 4, 2)[:, :3]
    points, index = np.unique(coords.reshape(-1, 2), axis=0, return_inverse=True)
    triangles = [_leftward(points, three) for three in index.reshape(-1, 3).tolist()]
    return [middle + points[part] @ axes + high * normal for part in _merged(points, triangles)]


def _leftward(points: Floats, ring: list[int]) -> list[int]:
    """A triangle, counter-clockwise."""
    a, b, c = (points[k] for k in ring)
    return ring if _turn(a, b, c) > 0.0 else ring[::-1]


def _turn(a: Floats, b: Floats, c: Floats) -> float:
    """Twice the area of a triangle, positive when it is walked counter-clockwise."""
    return float((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]))


def _merged(points: Floats, parts: list[list[int]]) -> list[list[int]]:
    """Triangles joined over the sides they share, each side looked at once."""
    owner = {(ring[k - 1], ring[k]): i for i, ring in enumerate(parts) for k in range(len(ring))}
    into = list(range(len(parts)))

    def now(i: int) -> int:
        while into[i] != i:
            i = into[i]
        return i

    for (a, b), i in owner.items():
        if (b, a) not in owner or a > b:
            continue
        one, other = now(i), now(owner[b, a])
        if one == other:
            continue
        left, right = parts[one], parts[other]
        p, q = left.index(b), right.index(a)
        ring = left[p:] + left[:p] + (right[q:] + right[:q])[1:-1]
        k = len(left) - 1  # where a stands now; b stands first
        corners = ((ring[-1], ring[0], ring[1]), (ring[k - 1], ring[k], ring[(k + 1) % len(ring)]))
        if all(_turn(*(points[c] for c in corner)) >= 0.0 for corner in corners):
            parts[one], into[other] = ring, one
    return [ring for i, ring in enumerate(parts) if into[i] == i]
