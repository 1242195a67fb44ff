"""The outside of a sewn cover as ground to measure on: a side's centre line and top edge, and where one comes to from there along the cloth.

What a person measures on the object is walked here over the flat pieces: straight on each of them, and across a seam at the same angle to it. So
a place said by side, down and across leads to one spot of one piece, whatever the cover is cut into.
"""

import bisect
import math
from collections.abc import Iterator
from dataclasses import replace
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, MarkKind, Panel
from omnipel.core.drafting.pieces import Parted, Piece, cells_of, flat_facets, parted
from omnipel.core.drafting.topology import Opening, surface
from omnipel.core.finishing.spots import Cut, Facet, Flat, Spot, downward, inside, out_of, right_of, slopes_at, unit
from omnipel.core.finishing.ways import Ways
from omnipel.core.job.feature import LEVEL, Facing
from omnipel.core.plane.curves import Points
from omnipel.core.space.faces import Faces, begins_of
from omnipel.core.space.frames import RIGHT_AND_UP, Side, Solid, Vector, vector
from omnipel.core.space.placements import normals
from omnipel.core.tolerances import CLOSES

FACES: Final = math.cos(math.pi / 4.0)
"""Cloth faces a side when its normal is nearer to it than this."""
ASIDE: Final = 1e-4
"""A side's centre line is looked for so far to the side, mm: folds and seams lie on it."""
COARSE: Final = 0.5
"""How far the facets that are searched may leave the cloth, mm; a place found is put right afterwards."""
BENT: Final = 2.0 * COARSE
"""What is farther from a plane than this at all corners of a facet is not cut by it, mm."""
NEARLY: Final = 0.8
"""Cells may be bent: what is cut out of one that faces a side by so much less may face it."""
LOOKS: Final = np.stack(np.meshgrid((0.25, 0.5, 0.75), (0.25, 0.5, 0.75)), axis=-1).reshape(-1, 2)
"""Where inside of a panel it is looked at, besides its rim, whether a plane may cut it: shares of its box."""
MOST_TRIES: Final = 20
FOUND: Final = 1e-3
"""A place is found when it is so near, mm."""


class Ground(Ways):
    """The outer pieces of a cover that are seen from outside, and how they are joined."""

    def __init__(self, cover: Cover) -> None:
        flat = cover.flat
        pieces = {p.name: p for p in cover.pieces if not p.on and not p.behind and flat[p.name].cloth is Cloth.OUTER}
        seams = [s for s in cover.seams if all(run.piece in pieces for side in s.sides for run in side)]
        super().__init__(pieces, {name: flat[name] for name in pieces}, seams)
        self._anchors: dict[Facing, Spot | None] = {}
        self._looked: dict[str, Solid] = {}
        self._parts: dict[str, dict[int, list[Facet] | None]] = {}  # of cells of a piece; none of one that is whole
        self._cells: dict[str, tuple[list[Points], Faces]] = {}

    @cached_property
    def facets(self) -> list[Facet]:
        """All that is seen of the cover, openings filled in."""
        known: Parted = {}
        made: list[Facet] = []
        for name, piece in self.pieces.items():
            made += [facet for _, facet in self._facets(name, flat_facets(piece.place, self._filled(name), COARSE, known))]
        return made

    def _filled(self, name: str) -> Panel:
        """The panel of a piece, openings filled in."""
        panel = self.flat[name]
        boxed = tuple(f for f in panel.figures if f.kind is MarkKind.BOXED)
        return replace(panel, figures=boxed) if len(boxed) < len(panel.figures) else panel

    def _facets(self, name: str, rings: list[Points]) -> Iterator[tuple[int, Facet]]:
        """Flat parts of a piece in space, those without an area left out, and which of them each is."""
        if not rings:
            return
        piece = self.pieces[name]
        faces = Faces.cornered(piece.place.at(np.concatenate(rings)), begins_of(rings))
        normals_ = faces.normals * (-1.0 if piece.mirrored else 1.0)
        for k in np.flatnonzero(faces.planes.areas > 0.0).tolist():
            yield k, Facet(name, rings[k], faces.ring(k), normals_[k])

    def _near(self, face: Facing, *, all_round: bool) -> list[Facet]:
        """The facets that the plane of a centre line may cut, far fewer than all; of those behind the axis only what faces the side, or `all_round`."""
        right, out = np.array(RIGHT_AND_UP[Side(face)][0]), out_of(face)
        made: list[Facet] = []
        for name, piece in self.pieces.items():
            beyond = self._looks(name) @ right > ASIDE
            less = self._looks(name)[beyond if 2 * np.count_nonzero(beyond) < len(beyond) else ~beyond]
            if not len(less) or float(np.ptp(less, axis=0).max()) < CLOSES:  # nothing of it, or but a tip, lies beyond
                continue
            _, faces = self._celled(name)
            low, high = faces.range(faces.points @ right - ASIDE)
            met = (low <= BENT) & (high >= -BENT)
            if not all_round and met.any():
                turned = faces.normals @ out * (-1.0 if piece.mirrored else 1.0)
                met &= (faces.range(faces.points @ out)[1] >= -BENT) | (turned >= NEARLY * FACES)
            if met.any():
                cut = (low <= 0.0) & (high > 0.0) & faces.normals.any(axis=1)
                made += self._parted(name, np.flatnonzero(met).tolist(), cut.tolist())
        return made

    def _parted(self, name: str, wanted: list[int], cut: list[bool]) -> list[Facet]:
        """What there is of a piece in some of its cells; of those that are whole only what is cut."""
        (cells, faces), known = self._celled(name), self._parts.setdefault(name, {})
        new = [k for k in wanted if k not in known]
        if new:
            parts = parted(self._filled(name), [cells[k] for k in new])
            of = [new[i] for i in parts.cell]
            cut_off: dict[int, list[Facet]] = {k: [] for k in new}
            others = [i for i, (k, ring) in enumerate(zip(of, parts.rings, strict=True)) if ring is not cells[k]]
            for i, facet in self._facets(name, [parts.rings[i] for i in others]):
                cut_off[of[others[i]]].append(facet)
            known |= cut_off | {k: None for k, ring in zip(of, parts.rings, strict=True) if ring is cells[k]}
        sign, made = -1.0 if self.pieces[name].mirrored else 1.0, []
        for k in wanted:
            there = known[k]
            if there is not None:
                made += there
            elif cut[k]:
                made.append(Facet(name, cells[k], faces.ring(k), faces.normals[k] * sign))
        return made

    def _looks(self, name: str) -> Solid:
        """Places of a piece in space, all round its rim and some inside."""
        if name not in self._looked:
            ring = self.flat[name].sew_points
            inside_ = ring.min(axis=0) + LOOKS * np.ptp(ring, axis=0)
            self._looked[name] = self.pieces[name].place.at(np.concatenate((ring, inside_)))
        return self._looked[name]

    def _celled(self, name: str) -> tuple[list[Points], Faces]:
        """The cells of a piece, on its flat panel and in space."""
        if name not in self._cells:
            cells, place = cells_of(self.pieces[name].place, self.flat[name], COARSE), self.pieces[name].place
            self._cells[name] = cells, Faces.cornered(place.at(np.concatenate(cells)), begins_of(cells))
        return self._cells[name]

    @cached_property
    def _corners(self) -> tuple[Solid, NDArray[np.intp], NDArray[np.float64]]:
        """All corners of the facets, where each facet's begin, and the facets' normals."""
        begins = np.concatenate(([0], np.cumsum([len(facet.flat) for facet in self.facets])[:-1])).astype(np.intp)
        return np.concatenate([f.solid for f in self.facets]), begins, np.array([f.normal for f in self.facets])

    @cached_property
    def openings(self) -> tuple[Opening, ...]:
        """What stays open of it."""
        return surface(self.flat.values(), list(self.pieces.values()), self.seams).openings

    def spot(self, face: Facing, across: float, down: float) -> Spot | None:
        """Where one comes to from a side's centre line and top edge; None where that side is not there, or one leaves the cover."""
        start = self.anchor(face)
        if start is None:
            return None
        there = self.walked(start, (0.0, 1.0), down)
        return self.walked(there, (1.0, 0.0), across) if there is not None else None

    def on_panel(self, name: str, across: float, down: float) -> Spot | None:
        """A place of a panel's first piece, from the middle of the panel's box and from its top; None where there is no such panel."""
        piece = next((p for p in self.pieces.values() if p.panel == name), None)
        if piece is None:
            return None
        ring = self.flat[piece.name].sew_points
        low, high = ring.min(axis=0), ring.max(axis=0)
        at = np.array(((low[0] + high[0]) / 2.0 + across, high[1] - down))
        way = np.array((0.0, -1.0))
        return Spot(piece, self.flat[piece.name], at, right_of(piece, way), way)

    def said_at(self, piece: str, at: Flat) -> tuple[Facing, float, float] | None:
        """The same of a flat place `(2,)` of a piece; None where that is none of the pieces that are seen."""
        if piece not in self.pieces:
            return None
        way = np.array((0.0, -1.0))
        return self.said(Spot(self.pieces[piece], self.flat[piece], at, right_of(self.pieces[piece], way), way))

    def said(self, spot: Spot) -> tuple[Facing, float, float] | None:
        """By which side, how far across and how far down a person would say where a spot is; None where no side leads to it."""
        normal = normals(spot.piece.place, spot.at[None, :])[0] * (-1.0 if spot.piece.mirrored else 1.0)
        faces = sorted((f for f in Facing if f is not Facing.UNSAID), key=lambda face: -float(normal @ out_of(face)))
        for face in faces[:2]:
            start = self.anchor(face)
            if start is None:
                continue
            right, up = (np.array(v) for v in RIGHT_AND_UP[Side(face)])
            away = np.array(spot.place) - np.array(start.place)
            across, down = float(away @ right), -float(away @ up)
            for _ in range(MOST_TRIES):
                there = self.spot(face, across, down)
                if there is None or there.piece is not spot.piece:
                    break
                off, up_ = there.seen(spot.at[None, :])[0]
                if math.hypot(off, up_) < FOUND:
                    return face, across, down
                across, down = across + float(off) / there.drawn_in[0], down - float(up_) / there.drawn_in[1]
        return None

    def anchor(self, face: Facing) -> Spot | None:
        """Where the centre line of a side meets its top edge; of a level side its middle."""
        if face is Facing.UNSAID:
            return None
        if face not in self._anchors:
            self._anchors[face] = self._middle(face) if face in LEVEL else self._top_edge(face)
        return self._anchors[face]

    def _top_edge(self, face: Facing) -> Spot | None:
        for all_round in (False, True):
            cuts = self._cuts(face, all_round=all_round)
            if not cuts:
                return None
            facing = np.array([cut.facet.normal for cut in cuts]) @ out_of(face) >= FACES
            if not facing.any():
                return None
            ends = np.array([cut.ends for cut in cuts])
            first = int(np.lexsort((ends[:, 0, 0], ends[:, 0, 1].round(3), facing))[-1])
            if float(ends[first, :, 0].max()) >= 0.0:  # else it lies behind the axis, and may go on there
                break
        top, gone = cuts[first], {id(cuts[first].facet)}
        levels = sorted((z, k) for k, pair in enumerate(ends[:, :, 1].tolist()) for z in pair)
        while True:  # up to the edge that it ends in, or over a dome to where it turns to the other side
            z = float(top.ends[0, 1])
            near = levels[bisect.bisect_left(levels, (z - CLOSES, 0)) : bisect.bisect_right(levels, (z + CLOSES, len(cuts)))]
            above = next((cuts[k] for _, k in near if id(cuts[k].facet) not in gone and top.meets(cuts[k])), None)
            if above is None:
                break
            top = above.turned(top)
            gone.add(id(top.facet))
            if min(top.ends[:, 0]) <= CLOSES and max(top.ends[:, 0]) >= 0.0:
                break
        share = top.ends[1][0] / (top.ends[1][0] - top.ends[0][0]) if top.ends[0][0] < 0.0 <= top.ends[1][0] else 1.0
        begins = top.flat[1] + min(1.0, share) * (top.flat[0] - top.flat[1])
        down = unit(top.flat[1] - top.flat[0])
        piece = self.pieces[top.facet.piece]
        return Spot(piece, self.flat[piece.name], self._upright(piece, begins, face), right_of(piece, down), down)

    def _cuts(self, face: Facing, *, all_round: bool = False) -> list[Cut]:
        """The facets that the plane of a centre line cuts; of those behind the axis only what faces the side, or `all_round`."""
        right, out = RIGHT_AND_UP[Side(face)][0], out_of(face)
        facets = self._near(face, all_round=all_round)
        if not facets:
            return []
        faces, flats = Faces.made_of([facet.solid for facet in facets]), np.concatenate([facet.flat for facet in facets])
        crossing, share = faces.crossed(faces.points @ np.asarray(right) - ASIDE)
        solid = faces.along(crossing, share)
        after, share = faces.following[crossing], share[:, None]
        flat = flats[crossing] * (1.0 - share) + flats[after] * share
        ends = np.column_stack((solid @ out, solid[:, 2]))
        of = faces.owner[crossing]
        order = np.lexsort((ends[:, 0], -ends[:, 1].round(6), of))
        flat, ends, of = flat[order], ends[order], of[order]
        # A facet is crossed an even number of times; what lies between the first and the second place is cut, and so on.
        firsts = np.flatnonzero((np.arange(len(of)) - np.searchsorted(of, of)) % 2 == 0)
        long = np.hypot(*(ends[firsts] - ends[firsts + 1]).T) > CLOSES
        return [Cut(facets[of[k]], flat[k : k + 2], ends[k : k + 2]) for k in firsts[long].tolist()]

    def _upright(self, piece: Piece, at: Flat, face: Facing) -> Flat:
        """A place of a bent piece moved onto the plane of the centre line: the facets left it a little."""
        right = np.array(RIGHT_AND_UP[Side(face)][0])
        there, slopes = slopes_at(piece, at)
        off, leads = float(there @ right) - ASIDE, slopes @ right
        k = int(np.abs(leads).argmax())
        if abs(leads[k]) > 0.5 and abs(off) < 1.0:
            return np.asarray(at - np.eye(2)[k] * off / leads[k])
        return at

    def _middle(self, face: Facing) -> Spot | None:
        """The middle of a level side: what the axis of the object meets first from there."""
        return self.met((0.0, 0.0, 0.0), vector(out_of(face)), np.array((0.0, -1.0 if face is Facing.TOP else 1.0, 0.0)))

    def met(self, foot: Vector, out: Vector, down: NDArray[np.float64] | None = None) -> Spot | None:
        """What lies furthest out over a place in a direction; `down` is the way down there in space, by itself the steepest."""
        from_, ways = np.array(foot) + ASIDE * np.array((1.0, 1.0, 0.0)), np.array(out)
        corners, begins, normals_ = self._corners
        facing = normals_ @ ways
        seen = np.flatnonzero(facing > 1e-3)
        far = ((corners[begins[seen]] - from_) * normals_[seen]).sum(axis=1) / facing[seen]
        for k in np.argsort(-far):
            facet = self.facets[seen[k]]
            at = inside(facet, from_ + far[k] * ways)
            if at is not None:
                break
        else:
            return None
        piece = self.pieces[facet.piece]
        at = _under(piece, at, from_, ways)
        way = down if down is not None else np.array((0.0, 0.0, -1.0))
        heading = downward(piece, at, way)
        if heading is None:  # level: the way to the front
            heading = downward(piece, at, np.array((0.0, -1.0, 0.0)))
        if heading is None:
            return None
        return Spot(piece, self.flat[piece.name], at, right_of(piece, heading), heading)


def _under(piece: Piece, at: Flat, from_: NDArray[np.float64], ways: NDArray[np.float64]) -> Flat:
    """A place of a piece put right so that it lies on a line in space: bent and gathered cloth leaves the facets a little."""
    for _ in range(MOST_TRIES):
        there, slopes = slopes_at(piece, at)
        off = (there - from_) - (there - from_) @ ways * ways
        if float(np.linalg.norm(off)) < FOUND:
            break
        at = at - np.linalg.lstsq((slopes - np.outer(slopes @ ways, ways)).T, off, rcond=None)[0]
    return at
