"""The sewn cover as faces for a sketch: every piece where it lies, taken apart if asked."""

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.pieces import Piece, facets
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Face, Mesh

COVER = "cover:"
"""Parts of the sketch that belong to the cover begin with this; the piece's name follows, and the number of the facet."""
COARSE = 0.003
"""Facets of the sketch stand off the cloth by no more than this share of the cover's size."""
APART = 0.35
"""Taken apart, each piece moves out by this share of the cover's size."""
CENTRAL = 0.05
"""A piece whose middle is nearer than this share to the middle of all stays where it is."""


def shown(cover: Cover, *, apart: bool = False) -> tuple[Piece, ...]:
    """The pieces that are seen from outside: not the lining and padding behind an outer, nor what hangs inside unless all is taken apart."""
    outer = [piece for piece in cover.pieces if cover.flat[piece.name].cloth not in (Cloth.LINING, Cloth.PADDING)]
    return tuple(piece for piece in outer if apart or not piece.behind)


def shell(cover: Cover, *, apart: bool = False) -> Mesh:
    """The cover as faces; an empty mesh when it has no pieces."""
    pieces = shown(cover, apart=apart)
    if not pieces:
        return Mesh()
    edges = {piece.name: piece.place.at(cover.flat[piece.name].sew_points) for piece in pieces}
    everything = np.concatenate(list(edges.values()))
    size = float(np.ptp(everything, axis=0).max())
    made = {piece.name: facets(piece, cover.flat[piece.name], COARSE * size) for piece in pieces}
    if not apart:
        for ribbon in (ribbon for ribbons in cover.ribbons.values() for ribbon in ribbons):
            made[ribbon.name] = [*made.get(ribbon.name, []), *ribbon.faces]
        return Mesh(tuple(Face(points, part_of(name, i)) for name, faces in made.items() for i, points in enumerate(faces)))
    middle = (everything.min(axis=0) + everything.max(axis=0)) / 2.0
    ways = {name: _way(np.concatenate(faces), middle, size) for name, faces in made.items() if faces}
    moved = [(points + ways[name], part_of(name, i)) for name, faces in made.items() for i, points in enumerate(faces)]
    # Taken apart, a piece is also seen from its inside.
    return Mesh(tuple(Face(points[::step], part) for step in (1, -1) for points, part in moved))


def _way(points: Solid, middle: Solid, size: float) -> Solid:
    """Where a piece moves when the cover is taken apart."""
    way = (points.min(axis=0) + points.max(axis=0)) / 2.0 - middle
    far = float(np.linalg.norm(way))
    return way / far * size * APART if far > CENTRAL * size else np.zeros(3)


def part_of(piece: str, facet: int) -> str:
    """What a facet of a piece is called in a sketch."""
    return f"{COVER}{piece}:{facet}"


def piece_of(part: str) -> str:
    """The piece that a part of a sketch belongs to; "" for what is none of the cover's."""
    return part.removeprefix(COVER).rpartition(":")[0] if part.startswith(COVER) else ""
