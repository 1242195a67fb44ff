"""The sewn cover on its object, as sheets of a picture: every piece where it lies, with all that is seen on it."""

import math
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import Final

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, MarkKind, Panel, Shows
from omnipel.core.drafting.pieces import Piece, cells_of
from omnipel.core.drafting.seams import Run
from omnipel.core.forms.body import Body
from omnipel.core.job.thing import SticksOut, Treatment
from omnipel.core.pictures.cords import cords
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.dressing import Dressing
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.scene import Scene
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sheets import Cells, Drawn, Patch, Sheet, Stroke, Stuff
from omnipel.core.pictures.view import View
from omnipel.core.plane.curves import Points
from omnipel.core.space.faces import Faces, begins_of, runs, split
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import CREASE, Mesh
from omnipel.core.space.placements import Flat, normals
from omnipel.core.words import refs

Counts = NDArray[np.intp]
FINE: Final = 0.001
"""Facets stand off the cloth by no more than this share of the cover's size: round to the eye."""
COARSE: Final = 0.003
"""The same in a small picture."""
MOST_FACETS: Final = 400
MOST_COARSER: Final = 5
"""A cover is drawn with about so many facets at most; they are made coarser so often at most."""
BOTH: Final = 2
"""A level plane cuts a face that it cuts through at so many edges."""
LIFT: Final = 0.004
"""What lies on a piece is drawn so far before it, as a share of the cover's size."""
DRAWN_IN: Final = 0.006
"""The object is drawn smaller by this share, so that a snug cover does not lie in its surface."""
SHADES: Final = (1.0, 0.96, 1.04, 0.98, 1.02)
"""How light the pieces of one pattern are beside those of the others."""
STUFFS: Final = {Cloth.WINDOW: Stuff.WINDOW, Cloth.WEBBING: Stuff.WEBBING}
HIDDEN: Final = (Cloth.LINING, Cloth.PADDING, Cloth.STIFFENER)
"""Cloths behind the outer, which are not seen."""
FROM_BOTH: Final = 2
BENEATH: Final = -1
THERE: Final = 1e-3
"""What lies no further from what is left of a panel lies on it, mm."""
BORDERS: Final = (Layer.SEAM, Layer.RIM)


def shown(cover: Cover) -> tuple[Piece, ...]:
    """The pieces that are seen: not the layers behind the outer, nor what hangs behind another."""
    return tuple(piece for piece in cover.pieces if cover.flat[piece.name].cloth not in HIDDEN and not piece.behind)


def size_of(cover: Cover, pieces: Sequence[Piece]) -> float:
    """The longest side of the box around the sewn cover, mm."""
    everything = np.concatenate([piece.place.at(cover.flat[piece.name].sew_points) for piece in pieces])
    return float(np.ptp(everything, axis=0).max())


def worn(cover: Cover, body: Body | None = None, things: Sequence[SticksOut] = (), *, plain: bool = False) -> Scene:
    """The sewn cover, on its object if that is given; `plain`, for a small picture, without weave and stitches.

    Of the `things` that stick out those that are covered over lie beneath the cloth, which is drawn as if they were not there.
    """
    sheets = cover_sheets(cover, plain=plain)
    beneath = {thing.id for thing in things if thing.treatment is Treatment.COVER}
    thing = object_sheets(body.mesh(), DRAWN_IN) if body is not None else ()
    return Scene((*sheets, *(sheet for sheet in thing if sheet.ref is None or sheet.ref.id not in beneath)))


def small_picture(cover: Cover, body: Body | None, things: Sequence[SticksOut]) -> Drawing:
    """The sewn cover on its object as a small picture, from the usual side."""
    return drawn(worn(cover, body, things, plain=True), View())


def lifted(sheets: Sequence[Sheet], body: Body, height: float, *, from_below: bool) -> Scene:
    """The sheets of a cover so far above where they will lie, mm; or its object, where that goes into it from above."""
    up, thing = np.array((0.0, 0.0, height)), object_sheets(body.mesh(), DRAWN_IN)
    if from_below:
        return Scene((*sheets, *(sheet.moved(up) for sheet in thing)), meshed=False)
    return Scene((*(sheet.moved(up) for sheet in sheets), *thing), meshed=False)


def level_line(body: Body, height: float) -> tuple[NDArray[np.float64], Solid]:
    """Where a level plane cuts the object: straight lines `(n, 2, 3)` and the outward normals of the faces they lie on."""
    faces = Faces.made_of([face.points for face in body.mesh().faces])
    cut, share = faces.crossed(faces.points[:, 2] - height)
    both = np.bincount(faces.owner[cut], minlength=len(faces))[faces.owner[cut]] == BOTH
    cut = cut[both]
    ends = faces.along(cut, share[both])
    return ends.reshape(-1, 2, 3), faces.normals[faces.owner[cut[::2]]]


def uncovered(body: Body) -> Scene:
    """The object alone."""
    return Scene(object_sheets(body.mesh()))


def cover_sheets(cover: Cover, *, plain: bool = False) -> tuple[Sheet, ...]:
    """The pieces of a cover and what hangs on it."""
    pieces = shown(cover)
    if not pieces:
        return ()
    size = size_of(cover, pieces)
    dressing = Dressing(cover, size, _fineness(cover, pieces, size, COARSE if plain else FINE), plain)
    patterns = list(dict.fromkeys(piece.panel for piece in pieces))
    made = [
        _sheet(piece, cover, dressing, k, SHADES[patterns.index(piece.panel) % len(SHADES)]) for k, piece in enumerate(pieces)
    ]
    return (*_with_mates(made, cover), *_hanging(cover), *cords(cover, list(pieces), size))


def _fineness(cover: Cover, pieces: Sequence[Piece], size: float, share: float) -> float:
    """How far facets may stand off the cloth, mm: coarser where there would be more of them than can be turned without a stutter."""
    error = share * size
    for _ in range(MOST_COARSER):
        if cell_count(cover, pieces, error) <= MOST_FACETS:
            break
        error *= 1.5
    return error


def cell_count(cover: Cover, pieces: Sequence[Piece], error: float) -> int:
    """How many cells pieces are parted into where facets stand off the cloth by no more than an error, mm; those of one pattern into as many each."""
    count = 0
    for panel, alike in Counter(piece.panel for piece in pieces).items():
        piece = next(piece for piece in pieces if piece.panel == panel)
        count += alike * len(cells_of(piece.place, cover.flat[piece.name], error))
    return count


def object_sheets(mesh: Mesh, smaller: float = 0.0) -> tuple[Sheet, ...]:
    """The object and what sticks out of it, smaller by a share about its middle."""
    parts: dict[str, list[Solid]] = {}
    for face in mesh.faces:
        parts.setdefault(face.part, []).append(face.points)
    if not parts:
        return ()
    corners = {part: np.concatenate(rings) for part, rings in parts.items()}
    low, high = (np.array([of(points, axis=0) for points in corners.values()]) for of in (np.min, np.max))
    middle = (low.min(axis=0) + high.max(axis=0)) / 2.0
    made = []
    for part, rings in parts.items():
        kind, _, key = part.partition(":")
        out = kind == Stuff.STICKS_OUT
        faces = Faces.cornered(middle + (corners[part] - middle) * (1.0 - smaller), begins_of(rings))
        stuff, ref = (Stuff.STICKS_OUT, refs.sticks_out(key)) if out else (Stuff.OBJECT, None)
        drawn = tuple(split(faces.points, faces.begins))
        made.append(Sheet(part, stuff, drawn, ref, level=BENEATH, normals=_rounded(faces), twofaced=False))
    return tuple(made)


def _rounded(faces: Faces) -> tuple[Solid, ...]:
    """Normals at the corners of facets: those of all facets that meet there without a crease, the larger the more."""
    _, place = np.unique(np.round(faces.points, 3), axis=0, return_inverse=True)
    own, sizes = faces.normals[faces.owner], faces.planes.areas[faces.owner]
    order, counts = np.argsort(place, kind="stable"), np.bincount(place)
    here = np.repeat(order, counts[place[order]])
    there = order[runs((np.cumsum(counts) - counts)[place[order]], counts[place[order]])]
    smooth = np.einsum("ij,ij->i", own[here], own[there]) > math.cos(CREASE)
    made = np.zeros_like(own)
    np.add.at(made, here[smooth], (own * sizes[:, None])[there[smooth]])
    made /= np.maximum(np.linalg.norm(made, axis=1, keepdims=True), 1e-9)
    return tuple(split(made, faces.begins))


def _hanging(cover: Cover) -> Iterator[Sheet]:
    """Webbing and tape."""
    for key, ribbons in cover.ribbons.items():
        for ribbon in ribbons:
            faces = ribbon.faces
            yield Sheet(ribbon.name, Stuff.WEBBING, tuple(faces[: len(faces) // FROM_BOTH]), refs.feature(key))


def _sheet(piece: Piece, cover: Cover, dressing: Dressing, level: int, shade: float) -> Sheet:
    """One piece with all that is seen on it."""
    panel = cover.flat[piece.name]
    parts, cells = dressing.parts_of(piece)
    if not parts.rings:
        return Sheet(piece.name, Stuff.CLOTH, ())
    lift = _lift(piece, cover, dressing.size)

    def solid(points: Points) -> Solid:
        there = piece.place.at(points)
        if not lift:
            return there
        return np.asarray(there + lift * (-1.0 if piece.mirrored else 1.0) * normals(piece.place, points))

    at = split(solid(np.concatenate(parts.rings)), begins_of(parts.rings))
    step = -1 if piece.mirrored else 1
    boxed = any(figure.kind is MarkKind.BOXED for figure in panel.figures)
    strokes = list(dressing.on(piece, parts.outline))
    if boxed:  # only what is left
        strokes = [_left(stroke, parts.outline) for stroke in strokes]
    turned, smooth = -1.0 if piece.mirrored else 1.0, []
    if not isinstance(piece.place, Flat):  # of what lies flat every facet has the one normal
        smooth = _smooth(at, turned * normals(piece.place, np.concatenate(parts.rings)), turned)
    ref = refs.feature(piece.feature) if piece.feature else refs.panel(panel.name)
    return Sheet(
        piece.name,
        STUFFS.get(panel.cloth, Stuff.CLOTH),
        tuple(ring[::step] for ring in at),
        ref,
        tuple(ring[::step] for ring in parts.rings),
        shade,
        level,
        normals=tuple(one[::step] for one in smooth),
        drawn=tuple(_drawn(strokes, cells, solid)),
        patches=tuple(_printed(panel, parts.rings, solid)),
    )


def _lift(piece: Piece, cover: Cover, size: float) -> float:
    """How far before the surface a piece is drawn that lies on others."""
    by_name, lift = {p.name: p for p in cover.pieces}, 0.0
    while piece.on and piece.on in by_name:
        lift += -LIFT * size if piece.inside else LIFT * size
        piece = by_name[piece.on]
    return lift


def _smooth(rings: Sequence[Solid], there: Solid, turned: float) -> list[Solid]:
    """Normals of the cloth at the corners of its facets, outward; that of the facet where the cloth is folded."""
    faces = Faces.made_of(rings)
    own = faces.normals[faces.owner] * turned
    bent = np.einsum("ij,ij->i", own, there) < math.cos(CREASE)
    return split(np.where(bent[:, None], own, there), faces.begins)


def _drawn(strokes: Sequence[Stroke], cells: Cells, solid: Callable[[Points], Solid]) -> list[Drawn]:
    """Strokes where they lie in space, parted by the facets; all of a piece at once."""
    if not strokes:
        return []
    which, facet, part, flat = cells.laid(np.concatenate([stroke.ends for stroke in strokes]))
    ends = solid(flat.reshape(-1, 2)).reshape(-1, 2, 3) if len(flat) else np.empty((0, 2, 3))
    lasts = np.cumsum([len(stroke.ends) for stroke in strokes])
    owner = np.searchsorted(lasts, which, side="right")
    order = np.argsort(owner, kind="stable")
    made = []
    for k, found in enumerate(split(order, np.searchsorted(owner[order], np.arange(len(strokes))))):
        stroke, shares = strokes[k], None
        if stroke.shares is not None:
            low, high = stroke.shares[which[found] - (lasts[k] - len(stroke.ends))].T
            shares = np.column_stack((low + (high - low) * part[found, 0], low + (high - low) * part[found, 1]))
        if len(found):
            made.append(
                Drawn(ends[found], flat[found], facet[found], stroke.layer, stroke.ref, stroke.outside, stroke.border, shares)
            )
    return made


def _left(stroke: Stroke, there: BaseGeometry) -> Stroke:
    """What of a stroke lies on what is left of a panel."""
    lines = np.asarray(shapely.linestrings(stroke.ends))
    parts, which = shapely.get_parts(shapely.intersection(lines, there.buffer(THERE)), return_index=True)
    straight = (shapely.get_type_id(parts) == shapely.GeometryType.LINESTRING) & ~shapely.is_empty(parts)
    parts, which = parts[straight], which[straight]
    ends = np.array([np.asarray(part.coords)[[0, -1]] for part in parts]).reshape(-1, 2, 2)
    if stroke.shares is None:
        return replace(stroke, ends=ends)
    at = shapely.line_locate_point(lines[which][:, None], shapely.points(ends), normalized=True)
    low, high = stroke.shares[which].T
    return replace(stroke, ends=ends, shares=low[:, None] + (high - low)[:, None] * at)


def _printed(panel: Panel, rings: Sequence[Points], solid: Callable[[Points], Solid]) -> Iterator[Patch]:
    """Letters and drawings, parted by the facets."""
    prints = [figure for figure in panel.figures if figure.seen is Shows.PRINT and figure.closed]
    if not prints:
        return
    owner = np.repeat(np.arange(len(rings)), [len(ring) for ring in rings])
    facets = np.asarray(shapely.polygons(shapely.linearrings(np.concatenate(rings), indices=owner)))
    shapes = np.array([shapely.make_valid(shapely.Polygon(figure.points)) for figure in prints])
    pairs = np.stack((np.repeat(np.arange(len(shapes)), len(facets)), np.tile(np.arange(len(facets)), len(shapes))))
    parts, of = shapely.get_parts(shapely.intersection(shapes[pairs[0]], facets[pairs[1]]), return_index=True)
    there = (shapely.get_type_id(parts) == shapely.GeometryType.POLYGON) & (shapely.area(parts) > 0.0)
    flat, part = shapely.get_coordinates(shapely.get_exterior_ring(parts[there]), return_index=True)
    last = np.append(part[1:] != part[:-1], True)  # of a ring is its first
    flat, begins = flat[~last], np.flatnonzero(np.diff(part[~last], prepend=-1))
    for ring, solid_ring, (k, facet) in zip(
        split(flat, begins), split(solid(flat), begins), pairs[:, of[there]].T.tolist(), strict=True
    ):
        ref = refs.feature(prints[k].feature) if prints[k].feature else None
        yield Patch(solid_ring, ring, facet, hash(prints[k].feature), ref)


def _with_mates(sheets: Sequence[Sheet], cover: Cover) -> tuple[Sheet, ...]:
    """The sheets with, for every stroke along a seam, the facet that lies beyond it."""
    firsts = dict(zip((s.name for s in sheets), np.concatenate(([0], np.cumsum([len(s.rings) for s in sheets]))), strict=False))
    borders = {(s.name, d.border): (s, k) for s in sheets for k, d in enumerate(s.drawn) if d.border and d.layer in BORDERS}
    mates: dict[tuple[str, int], Counts] = {}
    known = {s.name for s in sheets}
    for seam in cover.seams:
        if not all(run.piece in known for side in seam.sides for run in side):
            continue
        sides = [_along(side, borders, firsts, cover) for side in seam.sides]
        for mine, other in (sides, sides[::-1]):
            if len(other[0]):
                order = np.argsort(other[0])
                for shares, key in mine[2]:
                    near = np.clip(np.searchsorted(other[0][order], shares, side="right") - 1, 0, len(order) - 1)
                    mates[key] = other[1][order][near]
    made = []
    for sheet in sheets:
        drawn = tuple(replace(d, mate=mates[sheet.name, k]) if (sheet.name, k) in mates else d for k, d in enumerate(sheet.drawn))
        made.append(replace(sheet, drawn=drawn))
    return tuple(made)


Side = tuple[NDArray[np.float64], Counts, list[tuple[NDArray[np.float64], tuple[str, int]]]]
"""Strokes along a side of a seam: where they begin, as shares of it, the facets they lie on; and their middles by sheet and their number there."""


def _along(side: Sequence[Run], borders: dict[tuple[str, str], tuple[Sheet, int]], firsts: dict[str, int], cover: Cover) -> Side:
    """What lies along a side of a seam."""
    lengths = [cover.flat[run.piece].edge(run.edge).curve.length for run in side]
    total, done = sum(lengths) or 1.0, 0.0
    shares: list[NDArray[np.float64]] = [np.empty(0)]
    facets: list[Counts] = [np.empty(0, dtype=np.intp)]
    by_sheet = []
    for run, length in zip(side, lengths, strict=True):
        found = borders.get((run.piece, run.edge))
        if found is not None:
            sheet, k = found
            stroke = sheet.drawn[k]
            own = stroke.shares if stroke.shares is not None else np.zeros((len(stroke.facet), 2))
            at = (done + (1.0 - own if run.reversed else own) * length) / total
            shares.append(at.min(axis=1))
            facets.append(stroke.facet + firsts[sheet.name])
            by_sheet.append((at.mean(axis=1), (sheet.name, k)))
        done += length
    return np.concatenate(shares), np.concatenate(facets), by_sheet
