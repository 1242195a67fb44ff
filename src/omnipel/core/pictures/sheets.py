"""Sheets: what a picture in space is made of. A sheet is a piece of cloth, a ribbon or a part of the object: flat facets, and strokes that lie on them.

A stroke belongs to the facet that it lies on, and is hidden with it.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cached_property
from typing import Final

import numpy as np
import shapely
from numpy.typing import NDArray

from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Solid
from omnipel.core.space.overlaps import Overlaps
from omnipel.core.words.refs import Ref

Counts = NDArray[np.intp]
Floats = NDArray[np.float64]


class Stuff(StrEnum):
    """What a sheet is of; decides its colour."""

    CLOTH = "cloth"
    WINDOW = "window"
    WEBBING = "webbing"
    TRIM = "trim"
    OBJECT = "object"
    STICKS_OUT = "sticks out"


@dataclass(frozen=True, slots=True)
class Stroke:
    """Separate straight lines on a flat sheet, `(n, 2, 2)`: with which pen, what they are, and whether they are seen from outside only.

    `border` names the edge whose border they are, with the shares of it at which each begins and ends, `(n, 2)`.
    """

    ends: NDArray[np.float64]
    layer: Layer
    ref: Ref | None = None
    outside: bool = False
    border: str = ""
    shares: Floats | None = None


@dataclass(frozen=True, slots=True)
class Drawn:
    """Strokes of one kind: where they lie in space, `(n, 2, 3)`, and on the flat sheet, `(n, 2, 2)`, and the facet each lies on, `(n,)`.

    Of a border also its edge, the shares of that, `(n, 2)`, and the facets beyond it.
    """

    ends: NDArray[np.float64]
    flat: NDArray[np.float64]
    facet: Counts
    layer: Layer
    ref: Ref | None
    outside: bool
    border: str = ""
    shares: Floats | None = None
    mate: Counts | None = None


@dataclass(frozen=True, slots=True)
class Patch:
    """Something painted on a facet: a letter. Its ring in space and on the flat sheet; rings of one `group` are painted together: letters have holes."""

    ring: Solid
    flat: Points
    facet: int
    group: int
    ref: Ref | None


@dataclass(frozen=True)
class Sheet:
    """A sheet.

    Args:
        name: what it is called; of a piece its name.
        stuff: what it is of.
        ref: what it is, for who points at it.
        rings: its facets, counter-clockwise seen from outside.
        flat: the same on the flat sheet; empty for what has none.
        shade: how light it is beside the others, 1 as they are.
        level: of sheets in one plane the higher lies further out.
        normals: outward at the corners of its facets, as the sheet is bent there; empty where each facet is as it is.
        twofaced: whether its inside is seen, too.
        drawn: strokes on it.
        patches: what is painted on it.
    """

    name: str
    stuff: Stuff
    rings: tuple[Solid, ...]
    ref: Ref | None = None
    flat: tuple[Points, ...] = ()
    shade: float = 1.0
    level: int = 0
    normals: tuple[Solid, ...] = ()
    twofaced: bool = True
    drawn: tuple[Drawn, ...] = ()
    patches: tuple[Patch, ...] = ()

    def moved(self, by: Floats) -> "Sheet":
        """The same elsewhere."""
        return replace(
            self,
            rings=tuple(ring + by for ring in self.rings),
            drawn=tuple(replace(one, ends=one.ends + by) for one in self.drawn),
            patches=tuple(replace(one, ring=one.ring + by) for one in self.patches),
        )


ROUGH: Final = 1e-9


Laid = tuple[Counts, Counts, Floats, Floats]
"""Parts of lines on facets: of which line, on which facet, the shares of the line between which each lies, `(m, 2)`, and its ends, `(m, 2, 2)`."""


@dataclass(frozen=True)
class Cells:
    """Convex cells of a flat sheet, and which facets lie in each."""

    cells: Sequence[Points]
    facets: Sequence[Sequence[int]]
    rings: Sequence[Points]
    known: dict[bytes, Laid] = field(default_factory=dict)

    @classmethod
    def of(cls, cells: Sequence[Points], cell: Sequence[int], rings: Sequence[Points]) -> "Cells":
        """From cells of any number of corners; `cell` tells in which each ring lies."""
        facets: list[list[int]] = [[] for _ in cells]
        for i, k in enumerate(cell):
            facets[k].append(i)
        return cls(cells, facets, rings)

    @cached_property
    def _alike(self) -> list[tuple[Counts, NDArray[np.float64], Floats]]:
        """Cells with as many corners as one another: which they are, the outward normals of their sides, and how far out these lie."""
        sizes, made = np.array([len(cell) for cell in self.cells]), []
        for size in np.unique(sizes):
            which = np.flatnonzero(sizes == size)
            corners = np.array([self.cells[k] for k in which.tolist()])
            after = np.roll(corners, -1, axis=1)
            sides = after - corners
            turned = (corners[:, :, 0] * after[:, :, 1] - corners[:, :, 1] * after[:, :, 0]).sum(axis=1)
            out = np.stack((sides[:, :, 1], -sides[:, :, 0]), axis=2) * np.where(turned < 0.0, -1.0, 1.0)[:, None, None]
            lengths = np.hypot(out[:, :, 0], out[:, :, 1])
            out /= np.where(lengths > 0.0, lengths, 1.0)[:, :, None]
            made.append((which, out, (out * corners).sum(axis=2)))
        return made

    def laid(self, ends: NDArray[np.float64]) -> Laid:
        """What of lines `(n, 2, 2)` lies on facets; what was asked before is not made again."""
        key = ends.tobytes()
        if key not in self.known:
            which, cell, part = self.clipped(ends)
            start, along = ends[which, 0], ends[which, 1] - ends[which, 0]
            flat = np.stack((start + along * part[:, :1], start + along * part[:, 1:]), axis=1)
            facet = self.facet(cell, flat.mean(axis=1))
            kept = facet >= 0
            self.known[key] = which[kept], facet[kept], part[kept], flat[kept]
        return self.known[key]

    def clipped(self, ends: NDArray[np.float64]) -> tuple[Counts, Counts, Floats]:
        """Lines `(n, 2, 2)` parted by the cells: which line, which cell, and the shares of the line between which it lies there, `(m, 2)`.

        After Cyrus and Beck.
        """
        lines: list[Counts] = [np.empty(0, dtype=np.intp)]
        cells: list[Counts] = [np.empty(0, dtype=np.intp)]
        shares: list[Floats] = [np.empty((0, 2))]
        start, along = ends[:, 0], ends[:, 1] - ends[:, 0]
        still = ROUGH * np.maximum(np.hypot(along[:, 0], along[:, 1]), 1.0)[:, None]
        for which, out, reach in self._alike if len(ends) else ():
            low, high = np.zeros((len(ends), len(which))), np.ones((len(ends), len(which)))
            for k in range(out.shape[1]):
                far, speed = start @ out[:, k].T - reach[:, k], along @ out[:, k].T
                with np.errstate(divide="ignore", invalid="ignore"):
                    at = -far / speed
                np.maximum(low, np.where(speed < -still, at, 0.0), out=low)
                np.minimum(high, np.where(speed > still, at, 1.0), out=high)
                high[(np.abs(speed) <= still) & (far > 1e-6)] = -1.0
            line, cell = np.nonzero(high - low > 1e-6)
            lines.append(line)
            cells.append(which[cell])
            shares.append(np.column_stack((low[line, cell], high[line, cell])))
        return np.concatenate(lines), np.concatenate(cells), np.concatenate(shares)

    def facet(self, cell: Counts, middles: Points) -> Counts:
        """The facets that places lie on, or beside; −1 where a cell has none."""
        first = np.array([facets[0] if facets else -1 for facets in self.facets], dtype=np.intp)
        made = first[cell]
        counts = np.array([len(facets) if len(facets) > 1 else 0 for facets in self.facets], dtype=np.intp)[cell]
        if not counts.any():
            return made
        lost = counts > 0
        place = np.repeat(np.arange(len(cell)), counts)
        facet = np.array([f for k in cell[counts > 0].tolist() for f in self.facets[k]], dtype=np.intp)
        corners = np.array([len(self.rings[f]) for f in facet.tolist()])
        for count in np.unique(corners).tolist():
            alike = np.flatnonzero(corners == count)
            rings = np.array([self.rings[f] for f in facet[alike].tolist()])
            held = alike[Overlaps.holds(rings, middles[place[alike]][:, None])[:, 0]]
            made[place[held]] = facet[held]
            lost[place[held]] = False
        for i in np.flatnonzero(lost).tolist():  # beside the border of all: the nearest
            near = self.facets[cell[i]]
            away = shapely.distance(shapely.Point(middles[i]), [shapely.Polygon(self.rings[f]) for f in near])
            made[i] = near[int(np.argmin(away))]
        return made


def dashed(line: Points, on: float, off: float) -> NDArray[np.float64]:
    """A polyline as dashes, `(n, 2, 2)`, the first and the last whole; the gaps are fitted."""
    steps = np.diff(line, axis=0)
    runs = np.concatenate(([0.0], np.cumsum(np.hypot(steps[:, 0], steps[:, 1]))))
    total = float(runs[-1])
    if total <= on:
        return np.stack((line[:-1], line[1:]), axis=1)
    n = max(1, round((total - on) / (on + off)))
    begins = np.linspace(0.0, total - on, n + 1)
    stops = np.unique(np.concatenate((runs, begins, begins + on)))
    stops = stops[stops <= total]
    middles = (stops[:-1] + stops[1:]) / 2.0
    k = np.clip(np.searchsorted(begins, middles, side="right") - 1, 0, n)
    inked = (middles >= begins[k]) & (middles <= begins[k] + on)
    at = np.column_stack((np.interp(stops, runs, line[:, 0]), np.interp(stops, runs, line[:, 1])))
    return np.stack((at[:-1][inked], at[1:][inked]), axis=1)


def pairs(line: Points, *, closed: bool = False) -> NDArray[np.float64]:
    """A polyline as separate lines, `(n, 2, 2)`."""
    after = np.roll(line, -1, axis=0) if closed else line[1:]
    return np.stack((line if closed else line[:-1], after), axis=1)
