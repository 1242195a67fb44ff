"""The gap as a half-section: object and cover cut through the middle, and what lies between them."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.pieces import cells_of, met_by_plane, parted
from omnipel.core.forms.body import Body
from omnipel.core.pictures.worn import cell_count, shown
from omnipel.core.plane.curves import Points
from omnipel.core.space.faces import Faces
from omnipel.core.space.frames import Solid

MEET = 0.05
"""Ends of the lines of a section this near to one another are one point, mm."""


@dataclass(frozen=True)
class HalfSection:
    """The right half of a cut through the middle, seen from the front: across from the middle, and up, mm.

    Args:
        object: what the object fills.
        cover: the lines of the cloth, each `(n, 2)`.
    """

    object: BaseGeometry
    cover: tuple[Points, ...]

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """xmin, ymin, xmax, ymax of both."""
        lines = [shapely.LineString(line) for line in self.cover if len(line) > 1]
        x0, y0, x1, y1 = shapely.union_all([self.object, *lines]).bounds
        return x0, y0, x1, y1

    def raised(self, height: float, *, object_too: bool = False) -> "HalfSection":
        """With the cover so far above its place, or, for a bag, the object."""
        if object_too:
            return HalfSection(shapely.transform(self.object, lambda points: points + (0.0, height)), self.cover)
        return HalfSection(self.object, tuple(line + (0.0, height) for line in self.cover))

    def gap(self) -> BaseGeometry:
        """What lies between object and cover: within the cloth and the line across its mouth, and not in the object."""
        lines = [shapely.LineString(line) for line in self.cover if len(line) > 1]
        if not lines:
            return shapely.Polygon()
        points = np.concatenate([np.asarray(line.coords) for line in lines])
        x1, (y0, y1) = float(points[:, 0].max()), (float(points[:, 1].min()), float(points[:, 1].max()))
        level = float(points[points[:, 0] < NEAR, 1].min()) if (points[:, 0] < NEAR).any() else None
        ends = [y for y in (y0, y1) if level is None or abs(y - level) > 0.25 * (y1 - y0)]
        closed = [shapely.LineString([(0.0, y), (x1, y)]) for y in ends]
        axis = shapely.LineString([(0.0, y0), (0.0, y1)])
        drawn = shapely.union_all([*lines, *closed, *_links(lines), axis]).buffer(NEAR)
        cells = [
            shapely.Polygon(ring).buffer(NEAR, join_style="mitre") for part in shapely.get_parts(drawn) for ring in part.interiors
        ]
        return shapely.union_all(cells).difference(self.object) if cells else shapely.Polygon()


def _links(lines: Sequence[shapely.LineString]) -> list[shapely.LineString]:
    """Straight lines over what is open in the cloth: from the end of one of its lines to the nearest end of another."""
    groups = [[line] for line in lines]
    made: list[shapely.LineString] = []
    while len(groups) > 1:
        best: tuple[float, int, int, shapely.LineString] | None = None
        for i, one in enumerate(groups):
            for k, other in enumerate(groups[:i]):
                for a in _ends(one):
                    for b in _ends(other):
                        far = float(np.hypot(a[0] - b[0], a[1] - b[1]))
                        if best is None or far < best[0]:
                            best = far, i, k, shapely.LineString([a, b])
        if best is None:
            break
        _, i, k, link = best
        made.append(link)
        groups[k] += groups.pop(i)
    return made


def _ends(lines: Sequence[shapely.LineString]) -> list[tuple[float, float]]:
    """Ends of lines that lie off the middle."""
    ends = [line.coords[k] for line in lines for k in (0, -1)]
    return [(float(x), float(y)) for x, y in ends if x > NEAR]


NEAR = 1.5
"""Lines of the cloth as near as this to one another, or to the middle, meet there, mm: it ends at its allowances and has a thickness."""


def half_section(cover: Cover, body: Body) -> HalfSection:
    """Cut a cover and its object through the object's middle, from left to right."""
    faces = [face.points for face in body.mesh().faces]
    everything = np.concatenate(faces)
    low, high = everything.min(axis=0), everything.max(axis=0)
    x, y = (float(v) for v in (low[:2] + high[:2]) / 2.0)
    y += 1e-3 * float(high[1] - low[1])  # beside the seams and edges that lie in the middle itself
    cut = [shapely.LineString(line) for line in _cut(faces, y)]
    whole = shapely.union_all(shapely.set_precision(cut, MEET / 10.0)) if cut else shapely.MultiLineString()
    filled = [cell.buffer(0.0) for cell in shapely.get_parts(shapely.polygonize([whole]))]
    right = shapely.box(x, float(low[2]) - 1.0, x + 1e6, float(high[2]) + 1.0)
    solid = shapely.transform(shapely.union_all(filled).intersection(right), lambda points: points - (x, 0.0))
    facets, error = _facets(cover, y)
    lines = [shapely.LineString(line) for line in _cut(facets, y + error)]  # beside a seam, too, that facets do not reach
    half = shapely.box(x, -1e6, x + 1e6, 1e6)
    merged = (
        shapely.line_merge(shapely.intersection(shapely.union_all(shapely.set_precision(lines, MEET)), half)) if lines else None
    )
    parts = list(shapely.get_parts(merged)) if merged is not None else []
    cloth = [np.asarray(part.coords) - (x, 0.0) for part in parts if isinstance(part, shapely.LineString)]
    return HalfSection(solid, tuple(cloth))


def _facets(cover: Cover, y: float) -> tuple[list[Solid], float]:
    """The cloth that lies on nothing else, as flat facets, as far as the plane may cut it, and how far they stand off the cloth at most, mm."""
    pieces = [piece for piece in shown(cover) if not piece.on]
    error = FINEST
    while cell_count(cover, pieces, error) > MOST:
        error *= 1.6
    made: list[Solid] = []
    for piece in pieces:
        panel = cover.flat[piece.name]
        cells = met_by_plane(piece.place, cells_of(piece.place, panel, error), (0.0, 1.0, 0.0), y, 2.0 * error)
        if cells:
            made += [piece.place.at(ring) for ring in parted(panel, cells, thinned=error / 2.0).rings]
    return made, error


FINEST, MOST = 0.05, 400
"""Facets stand off the cloth no further, mm, unless there would be more of them than so many."""


def _cut(rings: Sequence[Solid], y: float) -> list[Points]:
    """Where an upright plane cuts flat rings: straight lines `(2, 2)`, across and up."""
    if not rings:
        return []
    faces = Faces.made_of(rings)
    at, share = faces.crossed(faces.points[:, 1] - y)
    places = faces.along(at, share)
    order = np.lexsort((places[:, 0] + 1e-3 * places[:, 2], faces.owner[at]))  # of each ring two by two
    pairs = places[order][:, [0, 2]].reshape(-1, 2, 2)
    return list(pairs[np.hypot(*(pairs[:, 1] - pairs[:, 0]).T) > 1e-6])
