"""The cover taken apart: its pieces move out from one another and unroll into the flat panels that they are cut as.

Every facet of a piece is joined to a neighbour by the edge they share on the flat panel. In between, the angle at each such edge is opened by the same
share, so that cloth keeps its lengths while it unrolls; cloth that is gathered is let out by that share as well.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from types import MappingProxyType
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.pictures.board import arranged
from omnipel.core.pictures.scene import Scene
from omnipel.core.pictures.sheets import Sheet
from omnipel.core.pictures.view import View
from omnipel.core.plane.curves import Points
from omnipel.core.space.faces import Faces, begins_of, split
from omnipel.core.space.frames import Solid
from omnipel.core.words.refs import Ref

Floats = NDArray[np.float64]
Counts = NDArray[np.intp]

APART: Final = 0.5
"""The share of the way at which the pieces are apart; from there on they unroll."""
OUT: Final = 0.45
"""Apart, a piece has moved out by this share of the cover's size."""
OFF: Final = 0.12
"""What is sewn on a piece has then moved off it by this share of the size."""
CENTRAL: Final = 0.05
"""A piece whose middle is nearer than this share to the middle of all stays where it is."""
DRAWN_IN: Final = 0.02
"""Cloth that is longer than it lies by less than this share lies as it is: its facets stay as they are while it unrolls."""
ASPECT: Final = 1.5
"""The flat panels lie so that all together are about so many times as wide as high."""
GAP: Final = 0.06
"""Room between flat panels, as a share of the widest of them."""


@dataclass(frozen=True)
class Unrolling:
    """One piece on its way from the cover to the flat panel.

    Args:
        sheet: the piece as it is sewn.
    """

    sheet: Sheet

    @cached_property
    def maps(self) -> tuple[Solid, NDArray[np.float64]]:
        """For each facet the place of the flat panel's origin `(f, 3)` and of its axes `(f, 2, 3)`."""
        origins, axes = [], []
        for flat, solid in zip(self.sheet.flat, self.sheet.rings, strict=True):
            middle, there = flat.mean(axis=0), solid.mean(axis=0)
            solved = np.linalg.lstsq(flat - middle, solid - there, rcond=None)[0]
            axes.append(solved)
            origins.append(there - middle @ solved)
        return np.array(origins), np.array(axes)

    @cached_property
    def turned(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """For each facet how it is turned `(f, 3, 3)`, rows being the axes of the flat panel, and how its cloth is drawn in `(f, 2, 2)`."""
        _, axes = self.maps
        u, s, v = np.linalg.svd(axes, full_matrices=False)
        two = u @ v
        third = np.cross(two[:, 0], two[:, 1])
        return np.concatenate((two, third[:, None]), axis=1), (u * s[:, None, :]) @ np.swapaxes(u, 1, 2)

    @cached_property
    def tree(self) -> list[tuple[int, int, Points]]:
        """Facets from the middle one out: a facet, the one it hangs on (−1 for the first), and the middle of the edge they share on the flat panel."""
        corners: dict[tuple[int, int, int, int], list[int]] = {}
        for i, ring in enumerate(self.sheet.flat):
            keys = [tuple(np.round(point * 100.0).astype(int).tolist()) for point in ring]
            for a, b in zip(keys, [*keys[1:], keys[0]], strict=True):
                if a != b:
                    corners.setdefault((*min(a, b), *max(a, b)), []).append(i)
        beside: dict[int, list[tuple[int, Points]]] = {}
        for key, met in corners.items():
            for i, k in ((met[0], met[1]), (met[1], met[0])) if len(met) == 2 else ():
                beside.setdefault(i, []).append((k, np.array((key[0] + key[2], key[1] + key[3])) / 200.0))
        middles = np.array([ring.mean(axis=0) for ring in self.sheet.flat])
        root = int(np.hypot(*(middles - middles.mean(axis=0)).T).argmin())
        made: list[tuple[int, int, Points]] = [(root, -1, middles[root])]
        known, at = {root}, 0
        while len(made) < len(middles):
            while at < len(made):
                here = made[at][0]
                at += 1
                for k, middle in beside.get(here, ()):
                    if k not in known:
                        known.add(k)
                        made.append((k, here, middle))
            left = [i for i in range(len(middles)) if i not in known]
            if left:  # a part that shares no edge hangs on what is nearest
                there = np.array(sorted(known))
                away = np.hypot(*(middles[left][:, None] - middles[there][None]).transpose(2, 0, 1))
                loose, near = divmod(int(away.argmin()), len(there))
                known.add(left[loose])
                made.append((left[loose], int(there[near]), middles[left[loose]]))
        return made

    @cached_property
    def bends(self) -> tuple[Solid, NDArray[np.float64]]:
        """Along the tree: about which axis of the flat panel, and by which angle, each facet is turned against the one it hangs on."""
        turned, _ = self.turned
        axes, angles = np.zeros((len(self.tree), 3)), np.zeros(len(self.tree))
        for k, (i, on, _) in enumerate(self.tree):
            if on >= 0:
                q = turned[i] @ turned[on].T
                axis = np.array((q[1, 2] - q[2, 1], q[2, 0] - q[0, 2], q[0, 1] - q[1, 0]))
                size = float(np.linalg.norm(axis))
                angles[k] = np.arctan2(size, float(np.trace(q)) - 1.0)
                axes[k] = axis / size if size > 1e-12 else (1.0, 0.0, 0.0)
        return axes, angles

    @cached_property
    def corners(self) -> tuple[Points, Counts, Counts]:
        """All corners on the flat panel, the facet of each, and a number that corners at one place share."""
        flat = np.concatenate(self.sheet.flat)
        owner = np.repeat(np.arange(len(self.sheet.flat)), [len(ring) for ring in self.sheet.flat])
        _, number = np.unique(np.round(flat * 100.0).astype(np.int64), axis=0, return_inverse=True)
        return flat, owner, number

    def at(self, share: float, root: NDArray[np.float64], middle: Solid) -> Sheet:
        """The piece unrolled by a share: its middle facet turned as `root` says, with the middle of that at a place."""
        (_, stretch), (axes, angles) = self.turned, self.bends
        bent = _rotations(axes, angles * (1.0 - share))
        drawn = stretch * (1.0 - share) + np.eye(2) * share
        n = len(self.sheet.flat)
        turn, origin, both = np.empty((n, 3, 3)), np.empty((n, 3)), np.empty((n, 2, 3))
        for k, (i, on, there) in enumerate(self.tree):
            turn[i] = bent[k] @ turn[on] if on >= 0 else root
            both[i] = drawn[i] @ turn[i][:2]
            origin[i] = (origin[on] + there @ both[on] if on >= 0 else middle) - there @ both[i]
        return self._moved(origin, both)

    def _moved(self, origin: Solid, axes: NDArray[np.float64]) -> Sheet:
        """The piece with its facets elsewhere; where cloth is drawn in, corners that are one on the flat panel stay one."""
        flat, owner, number = self.corners
        solid = origin[owner] + np.einsum("ni,nij->nj", flat, axes[owner])
        if np.abs(self.turned[1] - np.eye(2)).max() > DRAWN_IN:
            together = np.zeros((int(number.max()) + 1, 3))
            np.add.at(together, number, solid)
            solid = (together / np.bincount(number)[:, None])[number]
        rings = split(solid, begins_of(self.sheet.flat))
        drawn = tuple(
            replace(one, ends=origin[one.facet][:, None] + np.einsum("nki,nij->nkj", one.flat, axes[one.facet]), mate=None)
            for one in self.sheet.drawn
        )
        patches = tuple(replace(one, ring=origin[one.facet] + one.flat @ axes[one.facet]) for one in self.sheet.patches)
        return replace(self.sheet, rings=tuple(rings), drawn=drawn, patches=patches, normals=())


def taken_apart(
    unrollings: Sequence[Unrolling],
    others: Sequence[Sheet],
    share: float,
    view: View,
    hosts: Mapping[Ref, str] = MappingProxyType({}),
) -> Scene:
    """The pieces on their way: whole at 0, apart in the middle, flat and facing who looks at 1.

    What hangs on the cover goes out with the piece that it hangs on (`hosts`: by what it is), and is left out of the flat panels: it is bought, not cut.
    """
    if not unrollings:
        return Scene(())
    everything = np.concatenate([ring for one in unrollings for ring in one.sheet.rings])
    low, high = everything.min(axis=0), everything.max(axis=0)
    size, middle = float((high - low).max()), (low + high) / 2.0
    out, roll = min(share / APART, 1.0), max(0.0, (share - APART) / (1.0 - APART))
    ways = [_way(one.sheet, middle, size) * out for one in unrollings]
    for k, one in enumerate(unrollings):  # what is sewn on a piece stands off it
        if one.sheet.ref is not None and hosts.get(one.sheet.ref, one.sheet.name) != one.sheet.name:
            ways[k] = (
                ways[_host(one.sheet, unrollings, hosts)] + Faces.made_of([one.sheet.rings[0]]).normals[0] * out * OFF * size
            )
    if roll <= 0.0:
        moved = [one.sheet.moved(way) for one, way in zip(unrollings, ways, strict=True)]
        return Scene((*moved, *(one.moved(ways[_host(one, unrollings, hosts)]) for one in others)), meshed=False)
    matrix = view.matrix()
    made = []
    for one, way, place in zip(unrollings, ways, _laid(unrollings), strict=True):
        root, _, there = one.tree[0]
        turn, target = one.turned[0][root], np.array(matrix)
        if _mirrored(one.sheet):  # cut with the pattern turned over, and seen so from its right side
            target = np.diag((1.0, -1.0, -1.0)) @ target
            there = there * (1.0, -1.0)
        begin = one.sheet.rings[root].mean(axis=0) + way
        end = middle + (place + there) @ matrix[:2]
        made.append(one.at(roll, _between(turn, target, roll), begin + (end - begin) * roll))
    return Scene(tuple(made), meshed=False)


def _host(hanging: Sheet, unrollings: Sequence[Unrolling], hosts: Mapping[Ref, str]) -> int:
    """The piece that something hangs on: as is known, or which has a corner nearest to where that begins."""
    wanted = hosts.get(hanging.ref, "") if hanging.ref is not None else ""
    known = next((k for k, one in enumerate(unrollings) if one.sheet.name == wanted), None)
    if known is not None:
        return known
    start = hanging.rings[0].mean(axis=0)
    return int(np.argmin([np.linalg.norm(np.concatenate(one.sheet.rings) - start, axis=1).min() for one in unrollings]))


def _mirrored(sheet: Sheet) -> bool:
    """Whether its right side is the back of its flat panel: its facets run the other way around there."""
    ring = sheet.flat[0]
    after = np.roll(ring, -1, axis=0)
    return float((ring[:, 0] * after[:, 1] - ring[:, 1] * after[:, 0]).sum()) < 0.0


def _way(sheet: Sheet, middle: Solid, size: float) -> Solid:
    """Where a piece moves when the cover is taken apart."""
    points = np.concatenate(sheet.rings)
    way = (points.min(axis=0) + points.max(axis=0)) / 2.0 - middle
    far = float(np.linalg.norm(way))
    return way / far * size * OUT if far > CENTRAL * size else np.zeros(3)


def _laid(unrollings: Sequence[Unrolling]) -> list[Points]:
    """Where the origins of the flat panels come to lie, side by side about the middle."""
    boxes = []
    for one in unrollings:
        flat = one.corners[0] * ((1.0, -1.0) if _mirrored(one.sheet) else (1.0, 1.0))
        boxes.append((flat.min(axis=0), flat.max(axis=0)))
    sizes = [(float(high[0] - low[0]), float(high[1] - low[1])) for low, high in boxes]
    places = arranged(sizes, max(wide for wide, _ in sizes) * GAP, ASPECT)
    corners = np.array([np.array(place) + size for place, size in zip(places, sizes, strict=True)])
    middle = (np.array(places).min(axis=0) + corners.max(axis=0)) / 2.0
    return [np.array(place) - low - middle for place, (low, _) in zip(places, boxes, strict=True)]


def _between(one: NDArray[np.float64], other: NDArray[np.float64], share: float) -> NDArray[np.float64]:
    """A turn between two, by the shortest way."""
    q = other @ one.T
    values, vectors = np.linalg.eig(q)
    axis = np.real(vectors[:, int(np.abs(values - 1.0).argmin())])
    skew = np.array((q[1, 2] - q[2, 1], q[2, 0] - q[0, 2], q[0, 1] - q[1, 0]))
    angle = np.arctan2(float(np.linalg.norm(skew)), float(np.trace(q)) - 1.0)
    axis = axis if skew @ axis >= 0.0 else -axis
    return np.asarray(_rotations(axis[None], np.array([angle * share]))[0] @ one)


def _rotations(axes: Solid, angles: Floats) -> NDArray[np.float64]:
    """Matrices `(n, 3, 3)` whose rows are the axes turned about unit vectors `(n, 3)`, after Rodrigues; the inverse sense of columns."""
    k = np.zeros((len(axes), 3, 3))
    x, y, z = axes.T
    k[:, 0, 1], k[:, 0, 2], k[:, 1, 2] = z, -y, x
    k -= np.swapaxes(k, 1, 2)
    s, c = np.sin(angles)[:, None, None], np.cos(angles)[:, None, None]
    return np.asarray(np.eye(3) + s * k + (1.0 - c) * (k @ k))
