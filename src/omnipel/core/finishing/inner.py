"""What lies between outer and lining: padding, smaller than its panel so that none lies in a seam, and a stiffener in parts that end short of the folds."""

import math
from dataclasses import replace
from typing import Final

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.drafting.panel import Cloth, Figure, MarkKind, Panel
from omnipel.core.drafting.pieces import Piece, flat_facets, placed
from omnipel.core.drafting.shapes import raw
from omnipel.core.finishing.inward import Inner
from omnipel.core.job.document import CoverChoices, LiningSchool
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.layers import Fused, Material, Panels
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import ring_around
from omnipel.core.space.placements import normals
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr
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


def padded(cover: Cover, hosts: list[Panel], choices: CoverChoices, layer: Inner) -> Cover:
    """The cover with the padding of its panels, drafted from `layer`: it has a gap of its own inside of an outer whose lining hangs by itself."""
    how = choices.padded
    made, findings = [], [*cover.findings, *_missing(cover, hosts, how.on, refs.PADDING_ON)]
    inset = 0.0 if how.at_seam else choices.padding_inset
    first = {piece.panel: piece for piece in reversed(cover.pieces) if not piece.on}
    for outer in _chosen(hosts, how.on):
        host = replace(layer.panel(first[outer.name], outer), name=outer.name)
        inner = shapely.Polygon(host.sew_points).buffer(-inset, join_style="mitre") if inset else shapely.Polygon(host.sew_points)
        if not isinstance(inner, shapely.Polygon) or inner.is_empty:
            text = tr(
                "Nothing is left of the padding of the {panel} within its inset of {inset}.",
                panel=term(host.name),
                inset=mm(choices.padding_inset),
            )
            half = Remedy(tr("No inset"), (Change(refs.PADDING_INSET, 0.0),))
            findings.append(Finding("padding-too-small", Severity.LOOK, text, refs.PADDING_INSET, (half,)))
            continue
        less = worked(tr("inset"), inset, refs.PADDING_INSET) * 2.0
        size = host.length - less, host.width - less
        panel = raw(f"padding {host.name}", ring_around(inner), *size, cloth=Cloth.PADDING, grain=host.grain)
        holes = _openings(host, choices.habits.mm("padding around a port"))
        notes = [term(how.material)]
        if how.fused is not Fused.NOT:
            notes.append(tr("fused {how}", how=term(how.fused)))
        made.append(replace(panel, figures=holes, notes=tuple(notes)))
    if how.at_seam and not (how.material is Material.FOAM and how.fused is not Fused.NOT):
        text = tr("The padding runs to the seams and is sewn into them: only foam that is fused lies flat enough there.")
        short = Remedy(tr("End the padding short of the seams"), (Change(refs.PADDING_AT_SEAM, False),))
        findings.append(Finding("padding-in-seam", Severity.LOOK, text, refs.PADDING_AT_SEAM, (short,)))
    by_host = {panel.name.removeprefix("padding "): panel for panel in made}
    pieces = [
        placed(by_host[piece.panel], layer.piece(piece).place, f"padding {piece.name}", mirrored=piece.mirrored, on=piece.name)
        for piece in cover.pieces
        if piece.panel in by_host and not piece.on
    ]
    quilted = tuple(_quilted(p, choices.padded.grid) if p.name in by_host else p for p in cover.panels)
    return replace(
        cover,
        panels=(*quilted, *made),
        pieces=(*cover.pieces, *pieces),
        hardware=(*cover.hardware, *_web(choices, len(pieces))),
        findings=tuple(findings),
        padded=True,
    )


def _web(choices: CoverChoices, pieces: int) -> list[Hardware]:
    """What a padding is fused with: a sheet for each side of each piece."""
    how = choices.padded.fused
    lined = choices.lining.school is not LiningSchool.NONE
    sides = {Fused.NOT: 0, Fused.OUTER: 1, Fused.LINING: int(lined), Fused.BOTH: 1 + int(lined)}[how]
    return [Hardware(tr("fusible web"), count=sides * pieces, note=tr("as large as the padding"))] if sides and pieces else []


def _quilted(panel: Panel, grid: float) -> Panel:
    """The panel with its quilting lines, so far apart both ways, the first through its middle."""
    if not grid:
        return panel
    ring = shapely.make_valid(shapely.Polygon(panel.sew_points))
    low, high = panel.sew_points.min(axis=0), panel.sew_points.max(axis=0)
    lines: list[Figure] = []
    for k in (0, 1):
        middle, half = (low[k] + high[k]) / 2.0, (high[k] - low[k]) / 2.0
        n = int(half / grid)
        for i in range(-n, n + 1):
            ends = np.array([low, high])
            ends[:, k] = middle + i * grid
            lines += [Figure("quilting", part) for part in _lines(ring.intersection(shapely.LineString(ends)))]
    note = tr("quilt every {grid}, then square up and cut to size", grid=mm(grid))
    return replace(panel, figures=(*panel.figures, *lines), notes=(*panel.notes, note))


def _lines(found: BaseGeometry) -> list[Points]:
    return [
        np.asarray(p.coords) for p in getattr(found, "geoms", [found]) if isinstance(p, shapely.LineString) and p.length > LEAST
    ]


def stiffened(cover: Cover, hosts: list[Panel], choices: CoverChoices) -> Cover:
    """The cover with stiff sheets in its panels: one for each part between folds, short of these and of the seams."""
    how = choices.stiffener
    found = [*cover.findings, *_missing(cover, hosts, how.on, refs.STIFFENER_ON)]
    panels, pieces = list(cover.panels), list(cover.pieces)
    for host in _chosen(hosts, how.on):
        own = [piece for piece in cover.pieces if piece.panel == host.name and not piece.on]
        parts = _between_folds(host, own[0], how.short) if own else []
        for i, part in enumerate(parts, 1):
            name = f"stiffener {host.name}" + (f" {i}" if len(parts) > 1 else "")
            ring = ring_around(part)
            long, wide = (worked(tr("stiffener"), float(span), refs.STIFFENER_SHORT) for span in np.ptp(ring, axis=0))
            sheet = raw(name, ring, long, wide, cloth=Cloth.STIFFENER, grain=host.grain, figures=_openings(host, how.short, part))
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


def _chosen(hosts: list[Panel], on: Panels) -> list[Panel]:
    """The panels that a layer lies on: all, or those that were named."""
    return [host for host in hosts if not on or host.name in on]


def _missing(cover: Cover, hosts: list[Panel], on: Panels, where: Ref) -> list[Finding]:
    """What there is to say when a layer is to lie on a panel that is not there."""
    there = {host.name for host in hosts}
    gone = [name for name in on if name not in there]
    if not gone:
        return []
    text = tr("A layer is to lie on the {panel}, which this cover does not have.", panel=term(gone[0]))
    kept = tuple(name for name in on if name in there)
    remedy = Remedy(tr("Only on panels that are there") if kept else tr("On all panels"), (Change(where, kept),))
    return [Finding("layer-on-nothing", Severity.LOOK, text, where, (remedy,))]


def _openings(host: Panel, short: float, within: shapely.Polygon | None = None) -> tuple[Figure, ...]:
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
