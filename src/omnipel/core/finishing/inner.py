"""Stiff sheets between outer and lining, in parts that end short of the folds; and what all layers share that lie on panels."""

import math
from dataclasses import replace
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, Figure, MarkKind, Panel
from omnipel.core.drafting.pieces import Piece, flat_facets, placed
from omnipel.core.drafting.shapes import raw
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.layers import Panels
from omnipel.core.plane.trace import ring_around
from omnipel.core.space.placements import normals
from omnipel.core.words import refs
from omnipel.core.words.phrases import term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked

LEAST: Final = 1.0
"""A part of a stiffener with less area than this is none, mm²; nor is a quilting line that is shorter, mm."""
FOLDED: Final = math.cos(math.radians(35.0))
"""Parts that meet at more than this angle meet in a fold."""
BENDS: Final = 0.5
"""How far flat facets may leave bent cloth where folds are looked for, mm."""
TOUCHING: Final = 1e-3
"""Facets that are so near to one another touch, mm."""


def stiffened(cover: Cover, hosts: list[Panel], choices: CoverChoices) -> Cover:
    """The cover with stiff sheets in its panels: one for each part between folds, short of these and of the seams."""
    how = choices.stiffener
    found = [*cover.findings, *missing(cover, hosts, how.on, refs.STIFFENER_ON)]
    panels, pieces = list(cover.panels), list(cover.pieces)
    for host in chosen(hosts, how.on):
        own = [piece for piece in cover.pieces if piece.panel == host.name and not piece.on]
        parts = _between_folds(host, own[0], how.short) if own else []
        for i, part in enumerate(parts, 1):
            name = f"stiffener {host.name}" + (f" {i}" if len(parts) > 1 else "")
            ring = ring_around(part)
            long, wide = (worked(tr("stiffener"), float(span), refs.STIFFENER_SHORT) for span in np.ptp(ring, axis=0))
            sheet = raw(name, ring, long, wide, cloth=Cloth.STIFFENER, grain=host.grain, figures=openings(host, how.short, part))
            panels.append(sheet)
            pieces += [placed(sheet, p.place, name.replace(host.name, p.name, 1), mirrored=p.mirrored, on=p.name) for p in own]
    return replace(cover, panels=tuple(panels), pieces=tuple(pieces), findings=tuple(found))


def _between_folds(host: Panel, piece: Piece, short: float) -> list[shapely.Polygon]:
    """The parts of a panel between its sharp folds, each so far short of its edges; what only bends is one part."""
    whole = replace(host, figures=tuple(f for f in host.figures if f.kind is MarkKind.BOXED))
    rings = flat_facets(piece.place, whole, BENDS)
    facets = [shapely.Polygon(ring) for ring in rings]
    facing = np.array([normals(piece.place, np.asarray(facet.representative_point().coords))[0] for facet in facets])
    group = list(range(len(facets)))
    for i, k in shapely.STRtree(facets).query(facets, predicate="intersects").T:
        if i < k and facing[i] @ facing[k] > FOLDED and facets[i].intersection(facets[k]).length > LEAST:
            old, new = group[k], group[i]
            group = [new if g == old else g for g in group]
    joined = (
        shapely.union_all([facet for facet, g in zip(facets, group, strict=True) if g == own]) for own in dict.fromkeys(group)
    )
    sewn = shapely.make_valid(shapely.Polygon(host.sew_points))
    parts = (part.buffer(TOUCHING).intersection(sewn).buffer(-short - TOUCHING, join_style="mitre") for part in joined)
    return [p for part in parts for p in getattr(part, "geoms", [part]) if isinstance(p, shapely.Polygon) and p.area > LEAST]


def chosen(hosts: list[Panel], on: Panels) -> list[Panel]:
    """The panels that a layer lies on: all, or those that were named."""
    return [host for host in hosts if not on or host.name in on]


def missing(cover: Cover, hosts: list[Panel], on: Panels, where: Ref) -> list[Finding]:
    """What there is to say when a layer is to lie on a panel that is not there."""
    there = {host.name for host in hosts}
    gone = [name for name in on if name not in there]
    if not gone:
        return []
    text = tr("A layer is to lie on the {panel}, which this cover does not have.", panel=term(gone[0]))
    kept = tuple(name for name in on if name in there)
    remedy = Remedy(tr("Only on panels that are there") if kept else tr("On all panels"), (Change(where, kept),))
    return [Finding("layer-on-nothing", Severity.LOOK, text, where, (remedy,))]


def openings(host: Panel, short: float, within: shapely.Polygon | None = None) -> tuple[Figure, ...]:
    """The openings of a panel as an inner layer has them: it ends so far short of them."""
    made = []
    for figure in host.figures:
        if figure.kind is not MarkKind.CUT_OUT:
            continue
        shape = shapely.Polygon(figure.points) if figure.closed else shapely.LineString(figure.points)
        grown = shapely.make_valid(shape).buffer(short)
        if isinstance(grown, shapely.Polygon) and (within is None or within.intersects(grown)):
            made.append(Figure(figure.name, ring_around(grown), MarkKind.CUT_OUT, closed=True))
    return tuple(made)
