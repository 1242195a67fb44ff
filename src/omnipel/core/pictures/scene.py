"""A picture in space: sheets seen from some side, painted from far to near, every stroke with the facet that it lies on."""

from dataclasses import dataclass, field
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.sheets import Patch, Sheet, Stuff
from omnipel.core.space.faces import Faces
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import CREASE, Face, Mesh
from omnipel.core.space.order import MOST_ROUNDS, Order
from omnipel.core.words.refs import Ref

Counts = NDArray[np.intp]
Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]

STUFFS: Final = tuple(stuff.value for stuff in Stuff)
ORDER: Final = (
    Layer.WEAVE,
    Layer.PRINT,
    Layer.PLEAT,
    Layer.STITCH,
    Layer.CREASE,
    Layer.SEAM,
    Layer.RIM,
    Layer.CONTOUR,
    Layer.PIPING,
    Layer.ZIP,
    Layer.LIT,
)
"""Strokes of one facet from the lowest to the highest."""
FINE: Final = (ORDER.index(Layer.WEAVE), ORDER.index(Layer.STITCH))
"""What is left out while the picture is turned."""


@dataclass(frozen=True)
class Strokes:
    """All strokes of a picture: ends `(n, 2, 3)`, the facet each lies on, the one beyond its border or −1, its pen, what it is, and flags."""

    ends: NDArray[np.float64]
    facet: Counts
    mate: Counts
    layer: Counts
    ref: Counts
    outside: Flags
    border: Flags

    def of(self, which: Counts) -> "Strokes":
        """Some of them."""
        return Strokes(
            self.ends[which],
            self.facet[which],
            self.mate[which],
            self.layer[which],
            self.ref[which],
            self.outside[which],
            self.border[which],
        )


@dataclass
class Scene:
    """Sheets in space, ready to be drawn from any side.

    `meshed`: some may run through others, which are parted there. Not `patient`, to be seen for a moment: nothing is parted, and of what hides one
    another in turn something may be wrong.
    """

    sheets: tuple[Sheet, ...]
    meshed: bool = True
    patient: bool = True
    refs: list[Ref | None] = field(default_factory=lambda: [None])

    @cached_property
    def faces(self) -> Faces:
        """All facets."""
        rings = [ring for sheet in self.sheets for ring in sheet.rings]
        counts = [len(sheet.rings) for sheet in self.sheets]
        loose = np.repeat([sheet.stuff is not Stuff.CLOTH for sheet in self.sheets], counts)
        return Faces.made_of(rings, np.repeat([sheet.level for sheet in self.sheets], counts), loose)

    @cached_property
    def order(self) -> Order:
        """Puts them in order."""
        return Order(self.faces, meshed=self.meshed and self.patient, rounds=MOST_ROUNDS if self.patient else 0)

    @cached_property
    def firsts(self) -> Counts:
        """The number of each sheet's first facet."""
        return np.concatenate(([0], np.cumsum([len(sheet.rings) for sheet in self.sheets]))).astype(np.intp)

    @cached_property
    def sheet_of(self) -> Counts:
        """The sheet of each facet."""
        return np.repeat(np.arange(len(self.sheets)), np.diff(self.firsts))

    @cached_property
    def twofaced(self) -> Flags:
        """Of each facet whether its inside is seen, too."""
        return np.array([sheet.twofaced for sheet in self.sheets], dtype=bool)[self.sheet_of]

    @cached_property
    def normals(self) -> Solid:
        """Outward at each corner of each facet."""
        own = self.faces.normals[self.faces.owner]
        given = [one for sheet in self.sheets for one in (sheet.normals or (None,) * len(sheet.rings))]
        for begin, count, one in zip(self.faces.begins, self.faces.counts, given, strict=True):
            if one is not None:
                own[begin : begin + count] = one
        return own

    @cached_property
    def stuffs(self) -> Counts:
        """What each facet is of, as its place in `STUFFS`."""
        return np.array([STUFFS.index(sheet.stuff.value) for sheet in self.sheets], dtype=np.intp)[self.sheet_of]

    @cached_property
    def patches(self) -> dict[int, list[tuple[Patch, int]]]:
        """What is painted on facets, by the facet."""
        found: dict[int, list[tuple[Patch, int]]] = {}
        for i, sheet in enumerate(self.sheets):
            for patch in sheet.patches:
                found.setdefault(int(self.firsts[i]) + patch.facet, []).append((patch, i))
        return found

    @cached_property
    def inner(self) -> tuple[Solid, Counts]:
        """Edges between facets of one sheet: ends `(e, 2, 3)` and both facets `(e, 2)`; of what is not cloth its border, too, with −1."""
        ends: list[Solid] = [np.empty((0, 2, 3))]
        sides: list[Counts] = [np.empty((0, 2), dtype=np.intp)]
        for first, sheet in zip(self.firsts, self.sheets, strict=False):
            if not sheet.rings:
                continue
            at, between = Mesh(tuple(Face(ring) for ring in sheet.rings)).edges
            kept = (between >= 0).all(axis=1) | bool(not sheet.flat)
            ends.append(at[kept])
            sides.append(np.where(between[kept] >= 0, between[kept] + first, -1))
        return np.concatenate(ends), np.concatenate(sides)

    @cached_property
    def creased(self) -> Flags:
        """Of each of these edges whether the sheet is folded there."""
        normals, (_, sides) = self.faces.normals, self.inner
        return np.asarray(np.einsum("ij,ij->i", normals[sides[:, 0]], normals[sides[:, 1]]) < np.cos(CREASE))

    @cached_property
    def bold(self) -> Strokes:
        """The strokes that are drawn while the picture is turned."""
        return self.strokes.of(np.flatnonzero(~np.isin(self.strokes.layer, FINE)))

    @cached_property
    def strokes(self) -> Strokes:
        """All strokes, those between facets last."""
        rows: list[tuple[Solid, Counts, Counts, int, int, bool, bool]] = []
        for first, sheet in zip(self.firsts, self.sheets, strict=False):
            for one in sheet.drawn:
                if one.ref not in self.refs:
                    self.refs.append(one.ref)
                mate = one.mate if one.mate is not None else np.full(len(one.facet), -1, dtype=np.intp)
                rows.append(
                    (
                        one.ends,
                        np.where(one.facet >= 0, one.facet + first, -1),
                        mate,
                        ORDER.index(one.layer),
                        self.refs.index(one.ref),
                        one.outside,
                        bool(one.border) and one.layer in (Layer.SEAM, Layer.RIM),
                    )
                )
        counts = [len(row[1]) for row in rows]
        spread = [np.repeat(np.array([row[k] for row in rows], dtype=np.intp), counts) for k in range(3, 7)]
        return Strokes(
            np.concatenate([row[0] for row in rows] or [np.empty((0, 2, 3))]),
            np.concatenate([row[1] for row in rows] or [np.empty(0, dtype=np.intp)]),
            np.concatenate([row[2] for row in rows] or [np.empty(0, dtype=np.intp)]),
            spread[0],
            spread[1],
            spread[2].astype(bool),
            spread[3].astype(bool),
        )
