"""What is seen on a piece of a sewn cover: its weave, seams with their stitches, hems, pleats, piping, what was put on it."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property
from typing import Final

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Panel, Shows
from omnipel.core.drafting.pieces import FlatParts, Parted, Piece, flat_parts
from omnipel.core.drafting.seams import Seam
from omnipel.core.job.edges import Hold
from omnipel.core.job.finish import FOLDED, FinishKind
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.sheets import Cells, Stroke, dashed, pairs
from omnipel.core.plane.curves import Curve, Points, line
from omnipel.core.space.cells import thinned
from omnipel.core.words import refs
from omnipel.core.words.refs import Ref

GATHERED: Final = 1.05
"""Cloth that is longer than it lies by more than this is drawn with pleats."""
STRIPES: Final = 22
"""So many threads are drawn over the longest side of a cover."""
STITCH: Final = (0.016, 0.010)
"""A stitch and the gap after it, as shares of the cover's size: they are drawn to be seen, not to be counted."""
BESIDE: Final = 0.012
"""Topstitching lies so far beside its seam, at least, as a share of the cover's size."""
FAN: Final = 0.14
FAN_STEPS: Final = 10
"""Pleats reach no farther from the line they are gathered at than this share of the cover's size; how far is looked at in so many steps."""
APART: Final = 0.045
"""So far apart are pleats, about, as a share of the cover's size."""
PARTS: Final = 128
"""A line is measured where it is sewn in so many parts at least."""
NEAR: Final = 1.0
"""How much cloth is drawn in is looked at over so much of it, mm."""
Geometries = BaseGeometry | NDArray[np.object_]
TAPE: Final = 20.0
"""Hook-and-loop along an edge without a hem is taken to be so wide, mm."""
MIDDLE: Final = 3
"""A line of fewer points has none that could be left out."""
RING: Final = 12
"""Corners of the ring that a fastener is drawn as."""


@dataclass(frozen=True, slots=True)
class Pleats:
    """The fullness of a gathered edge, as it is drawn: so many pleats, each so deep, mm. What they take up is all of it."""

    count: int
    depth: float


def pleats(flat: float, drawn: float, apart: float) -> Pleats:
    """The pleats that take up what a flat edge is longer than it is drawn in to, about `apart` from one another.

    A pleat of depth d lies three times over itself and takes up 2 d.
    """
    count = max(1, round(drawn / apart))
    return Pleats(count, (flat - drawn) / (2.0 * count))


@dataclass(frozen=True)
class Dressing:
    """How a cover is sewn, by its edges.

    `size` is the longest side of the box around it, mm; facets and lines stay within `chord_error` of the cloth, mm; `plain`: only edges and openings
    are drawn.
    """

    cover: Cover
    size: float
    chord_error: float
    plain: bool = False
    parted: Parted = field(default_factory=dict)
    laid: dict[int, Cells] = field(default_factory=dict)

    def parts_of(self, piece: Piece) -> tuple[FlatParts, Cells]:
        """A piece as flat parts, and what is drawn on it parted by them; made once for pieces that are alike."""
        error = self.chord_error
        parts = flat_parts(piece.place, self.cover.flat[piece.name], error, thinned=error / 2.0, known=self.parted)
        if id(parts) not in self.laid:
            self.laid[id(parts)] = Cells.of(parts.cells, parts.cell, parts.rings)
        return parts, self.laid[id(parts)]

    @cached_property
    def sewn(self) -> dict[tuple[str, str], tuple[Seam, bool]]:
        """By piece and edge the seam that it is in, and whether on its first side; one of its own before one it is only caught in."""
        found: dict[tuple[str, str], tuple[Seam, bool]] = {}
        for seam in sorted(self.cover.seams, key=lambda s: not s.onto):
            for first, side in ((True, seam.a), (False, seam.b)):
                for run in side:
                    found.setdefault((run.piece, run.edge), (seam, first))
        return found

    @cached_property
    def dressed(self) -> dict[tuple[str, str], Dressed]:
        """By piece and edge the edge of an opening that it is part of."""
        return {(run.piece, run.edge): one for one in self.cover.edges for run in one.runs}

    def ref_of(self, piece: Piece, edge: str) -> Ref:
        """What a person means who points at an edge of a piece: its seam, or the edge of its opening; what was put on the cover as a whole."""
        key = (piece.name, edge)
        if piece.feature:
            return refs.feature(piece.feature)
        if key in self.dressed:
            return refs.edge(self.dressed[key].name)
        if key in self.sewn:
            seam = self.sewn[key][0]
            return refs.seam(seam.whole or seam.name)
        return refs.panel(piece.panel, edge)

    def on(self, piece: Piece, outline: BaseGeometry) -> Iterator[Stroke]:
        """All that is seen on a piece, from the lowest to the highest."""
        panel = self.cover.flat[piece.name]
        inside = outline
        if not self.plain or any(figure.kind is MarkKind.BOXED for figure in panel.figures):
            inside = outline.buffer(-1e-3 * self.size)
            shapely.prepare(inside)
        if not self.plain:
            yield from self._weave(panel, outline)
            for edge in panel.edges:
                yield from self._gathers(piece, edge.curve, inside)
                yield from self._finish(piece, edge, inside)
            for figure in panel.figures:
                if figure.seen is Shows.STITCHES and not figure.feature and not figure.closed and len(figure.points) == 2:
                    yield from self._gathers(piece, line(*map(_pair, figure.points)), inside)
        for figure in panel.figures:
            if not self.plain or figure.seen is not Shows.STITCHES:
                yield from self._figure(figure, inside)
        for edge in panel.edges:
            yield from self._border(piece, edge)

    def _weave(self, panel: Panel, outline: BaseGeometry) -> Iterator[Stroke]:
        """Threads along the grain."""
        along = np.array((math.cos(panel.grain), math.sin(panel.grain)))
        across = np.array((-along[1], along[0]))
        ring = panel.sew_points
        low, high = float((ring @ across).min()), float((ring @ across).max())
        left, right = float((ring @ along).min()) - 1.0, float((ring @ along).max()) + 1.0
        count = max(1, round((high - low) * STRIPES / self.size))
        at = low + (np.arange(count) + 0.5) * (high - low) / count
        ends = np.stack((at[:, None] * across + left * along, at[:, None] * across + right * along), axis=1)
        yield Stroke(_parts(shapely.intersection(shapely.linestrings(ends), outline)), Layer.WEAVE)

    def _gathers(self, piece: Piece, curve: Curve, inside: BaseGeometry) -> Iterator[Stroke]:
        """Pleats along a line that is gathered: strokes that fan out from it as far as the cloth is drawn in there."""
        flat, drawn = curve.length, self.drawn_to(piece, curve)
        if drawn * GATHERED > flat:
            return
        made = pleats(flat, drawn, self.size * APART)
        shares = (np.arange(made.count) + 0.5) / made.count
        feet = np.array([curve.at(share) for share in shares])
        along = np.array([curve.heading_at(min(max(share, 1e-6), 1.0 - 1e-6)) for share in shares])
        reach = np.where(np.arange(made.count) % 2, 0.6, 1.0)
        for side in (math.pi / 2.0, -math.pi / 2.0):
            ways = np.column_stack((np.cos(along + side), np.sin(along + side)))
            lengths = self._drawn_in(piece, feet, along, ways) * reach
            tips = feet + ways * lengths[:, None]
            ends = np.stack((feet, tips), axis=1)[lengths > 0.0]
            if len(ends):
                yield Stroke(_parts(shapely.intersection(shapely.linestrings(ends), inside)), Layer.PLEAT)

    def _drawn_in(self, piece: Piece, feet: Points, along: NDArray[np.float64], ways: Points) -> NDArray[np.float64]:
        """How far from places of a gathered line, in a direction, the cloth is drawn in as well."""
        steps = np.linspace(0.0, self.size * FAN, FAN_STEPS + 1)[1:]
        at = feet[:, None] + ways[:, None] * steps[None, :, None]
        near = np.column_stack((np.cos(along), np.sin(along)))[:, None] * NEAR
        ends = [piece.place.at((at + sign * near).reshape(-1, 2)) for sign in (-0.5, 0.5)]
        shares = np.linalg.norm(ends[1] - ends[0], axis=1).reshape(len(feet), FAN_STEPS) / NEAR
        loose = shares * GATHERED > 1.0
        return np.asarray(np.where(loose.any(axis=1), steps[loose.argmax(axis=1)], steps[-1]))

    def drawn_to(self, piece: Piece, curve: Curve) -> float:
        """How long a line of the flat panel is where the cover is sewn, mm."""
        there = piece.place.at(_parted(curve.points(0.2)))
        return float(np.linalg.norm(np.diff(there, axis=0), axis=1).sum())

    def _finish(self, piece: Piece, edge: Edge, inside: BaseGeometry) -> Iterator[Stroke]:
        """Stitches beside the edge: a hem's, a casing's, a binding's; topstitching of a seam."""
        ref = self.ref_of(piece, edge.name)
        seam, first = self.sewn.get((piece.name, edge.name), (None, False))
        if seam is not None:
            for k in range(seam.rows if first else 0):
                yield self._stitched(edge, (k + 1.0) * BESIDE * self.size, inside, ref)
            return
        finish, dressed = edge.finish, self.dressed.get((piece.name, edge.name))
        if dressed is not None and dressed.held_by is Hold.HOOK_AND_LOOP:  # both long sides of its tape are stitched through
            wide = finish.width or TAPE
            yield self._stitched(edge, 0.15 * wide, inside, ref)
            yield self._stitched(edge, 0.85 * wide, inside, ref)
        if finish.kind in FOLDED:
            yield self._stitched(edge, finish.width, inside, ref)
            if finish.kind in (FinishKind.CORD_CASING, FinishKind.ELASTIC_CASING):
                yield self._stitched(edge, max(finish.width * 0.15, 1.0), inside, ref)
        elif finish.kind is FinishKind.BOUND:
            yield Stroke(_parts(self._parallel(edge, finish.width, inside)), Layer.SEAM, ref)
        elif finish.kind in (FinishKind.FACING, FinishKind.PIPED, FinishKind.BAGGED):
            yield self._stitched(edge, BESIDE * self.size, inside, ref)

    def _parallel(self, edge: Edge, inset: float, inside: BaseGeometry) -> NDArray[np.object_]:
        """The line so far inside of an edge, as far as it lies on the panel."""
        try:
            line = self._thinned(edge.curve.offset(-inset).points(0.2))
        except ValueError:
            return np.array([shapely.LineString()], dtype=object)
        return np.array([shapely.intersection(shapely.LineString(line), inside)], dtype=object)

    def _thinned(self, line: Points) -> Points:
        """A line as fine as the facets that it is drawn on."""
        return line if len(line) < MIDDLE else np.asarray(line[thinned(line, self.chord_error / 2.0)])

    def _stitched(self, edge: Edge, inset: float, inside: BaseGeometry, ref: Ref | None) -> Stroke:
        """A row of stitches so far inside of an edge."""
        on, off = (share * self.size for share in STITCH)
        rows = [dashed(line, on, off) for line in _lines(self._parallel(edge, inset, inside))]
        return Stroke(np.concatenate(rows) if rows else np.empty((0, 2, 2)), Layer.STITCH, ref)

    def _figure(self, figure: Figure, inside: BaseGeometry) -> Iterator[Stroke]:
        """What is seen of a figure."""
        if figure.kind is MarkKind.BOXED:
            boxed = shapely.LinearRing(figure.points)
            yield Stroke(_parts(shapely.intersection(boxed, inside)), Layer.SEAM)
            return
        ref = refs.feature(figure.feature) if figure.feature else None
        on, off = (share * self.size for share in STITCH)
        match figure.seen:
            case Shows.STITCHES:
                line = np.vstack((figure.points, figure.points[:1])) if figure.closed else figure.points
                yield Stroke(dashed(line, on, off), Layer.STITCH, ref)
            case Shows.EDGE:
                yield Stroke(pairs(figure.points, closed=figure.closed), Layer.RIM, ref)
                if figure.closed and figure.kind is MarkKind.CUT_OUT:
                    ring = shapely.make_valid(shapely.Polygon(figure.points)).buffer(BESIDE * self.size, quad_segs=6)
                    yield Stroke(dashed(np.asarray(ring.exterior.coords), on, off), Layer.STITCH, ref, outside=True)
            case Shows.FASTENER:
                angles = np.linspace(0.0, 2.0 * math.pi, RING, endpoint=False)
                middle = (figure.points.min(axis=0) + figure.points.max(axis=0)) / 2.0
                ring_ = middle + np.column_stack((np.cos(angles), np.sin(angles))) * self.size * BESIDE * 0.7
                yield Stroke(pairs(ring_, closed=True), Layer.RIM, ref, outside=True)
            case _:
                return

    def _border(self, piece: Piece, edge: Edge) -> Iterator[Stroke]:
        """The edge itself; over a part of a seam its piping or zip."""
        points = self._thinned(edge.curve.points(self.chord_error))
        steps = np.hypot(*np.diff(points, axis=0).T)
        at = np.concatenate(([0.0], np.cumsum(steps))) / max(float(steps.sum()), 1e-9)
        shares, ref = np.column_stack((at[:-1], at[1:])), self.ref_of(piece, edge.name)
        free = (piece.name, edge.name) not in self.sewn
        yield Stroke(pairs(points), Layer.RIM if free else Layer.SEAM, ref, border=edge.name, shares=shares)
        trim = self._trim(piece, edge)
        if trim is not None:
            layer, low, high = trim
            stops = np.unique(np.concatenate((at[(at > low) & (at < high)], (low, high))))
            run = np.array([edge.curve.at(float(stop)) for stop in stops])
            yield Stroke(pairs(run), layer, ref, border=edge.name, shares=np.column_stack((stops[:-1], stops[1:])))

    def _trim(self, piece: Piece, edge: Edge) -> tuple[Layer, float, float] | None:
        """What runs along an edge: piping or a zip, and between which shares of it; None for nothing."""
        if edge.finish.kind is FinishKind.PIPED:
            return Layer.PIPING, 0.0, 1.0
        seam, first = self.sewn.get((piece.name, edge.name), (None, False))
        layer = {"piped": Layer.PIPING, "zipped": Layer.ZIP, "bound": Layer.PIPING}.get(seam.kind) if seam and first else None
        if seam is None or layer is None:
            return None
        if seam.stretch is None:
            return layer, 0.0, 1.0
        done = 0.0
        for run in seam.a:
            length = self.cover.flat[run.piece].edge(run.edge).curve.length
            if (run.piece, run.edge) == (piece.name, edge.name):
                low, high = (min(max((end - done) / (length or 1.0), 0.0), 1.0) for end in seam.stretch)
                low, high = (1.0 - high, 1.0 - low) if run.reversed else (low, high)
                return (layer, low, high) if high > low else None
            done += length
        return None


def _parted(line: Points) -> Points:
    """Places along a line, its corners among them, near enough to follow what it bends around."""
    done = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))))
    at = np.union1d(done, np.linspace(0.0, done[-1], PARTS + 1))
    return np.column_stack((np.interp(at, done, line[:, 0]), np.interp(at, done, line[:, 1])))


def _pair(point: NDArray[np.float64]) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def _lines(found: Geometries) -> list[Points]:
    """The polylines in shapes."""
    parts = shapely.get_parts(found)
    return [
        np.asarray(shapely.get_coordinates(part)) for part in parts if isinstance(part, shapely.LineString) and part.length > 0.0
    ]


def _parts(found: Geometries) -> NDArray[np.float64]:
    """The lines in shapes as separate straight ones, `(n, 2, 2)`."""
    made = [pairs(line) for line in _lines(found)]
    return np.concatenate(made) if made else np.empty((0, 2, 2))
