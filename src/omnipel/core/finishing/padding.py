"""Padding between outer and lining: smaller than its panel, so that none lies in a seam, in gathers, under a hem or a channel."""

from dataclasses import replace
from typing import Final

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.drafting.panel import Cloth, Edge, Figure, Panel
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.shapes import raw
from omnipel.core.finishing.inner import LEAST, chosen, missing, openings
from omnipel.core.finishing.inward import Inner
from omnipel.core.job.document import CoverChoices, LiningSchool
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import FinishKind
from omnipel.core.job.layers import Fused, Material
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import ring_around
from omnipel.core.tolerances import SAME_SIZE
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.working import Worked, worked

TOUCHES: Final = 1e-6
"""An edge that comes so near to the end of a panel's box reaches it, mm."""


def padded(cover: Cover, hosts: list[Panel], choices: CoverChoices, layer: Inner) -> Cover:
    """The cover with the padding of its panels, drafted from `layer`.

    It has a gap of its own inside of an outer whose lining hangs by itself, and is not gathered where its panel is.
    """
    how = choices.padded
    made, findings = [], [*cover.findings, *missing(cover, hosts, how.on, refs.PADDING_ON)]
    first = {piece.panel: piece for piece in reversed(cover.pieces) if not piece.on}
    slits = {(cover.panel_of[run.piece], run.edge) for edge in cover.edges if edge.name in cover.slits for run in edge.runs}
    for outer in chosen(hosts, how.on):
        host = _as_sewn(replace(layer.panel(first[outer.name], outer), name=outer.name), slits, choices)
        inner = _within(host, choices)
        if inner is None:
            findings.append(_too_small(host, hosts, choices))
            continue
        size = _sizes(host, inner, choices)
        panel = raw(f"padding {host.name}", inner, *size, cloth=Cloth.PADDING, grain=host.grain)
        holes = openings(host, choices.habits.mm("padding around a port"))
        notes = [term(how.material)]
        if how.fused is not Fused.NOT:
            notes.append(tr("fused {how}", how=term(how.fused)))
        made.append(replace(panel, figures=holes, notes=tuple(notes)))
    at_seams = any(edge.padded is None and not _covers(edge) for host in chosen(hosts, how.on) for edge in host.edges)
    if how.at_seam and at_seams and not (how.material is Material.FOAM and how.fused is not Fused.NOT):
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
        inset=at_seams,
    )


def _as_sewn(host: Panel, slits: set[tuple[str, str]], choices: CoverChoices) -> Panel:
    """The panel with the padding along what is left open of a seam as short as along the seam, at least: it has no steps there."""

    def ends(edge: Edge) -> Worked:
        return max(_short(edge, choices), _inset(choices), key=lambda end: end.value)

    edges = (replace(edge, padded=ends(edge)) if (host.name, edge.name) in slits else edge for edge in host.edges)
    return replace(host, edges=tuple(edges))


def _short(edge: Edge, choices: CoverChoices) -> Worked:
    """How far inside of an edge padding ends: short of a seam as was chosen, beyond what is folded onto it, or as its scheme says."""
    if edge.padded is not None:
        return edge.padded
    if covers := _covers(edge):
        hem = edge.finish.worked(edge.source)[0] if edge.finish.folded else worked(term(edge.finish.kind), covers)
        return hem + worked(tr("beside it"), choices.habits.mm("padding under a hem"))
    return _inset(choices)


def _inset(choices: CoverChoices) -> Worked:
    return worked(tr("inset"), 0.0 if choices.padded.at_seam else choices.padding_inset, refs.PADDING_INSET)


def _covers(edge: Edge) -> float:
    """How much of a panel the finish of an edge covers."""
    return edge.finish.width if edge.finish.folded or edge.finish.kind is FinishKind.BOUND else 0.0


def _within(host: Panel, choices: CoverChoices) -> Points | None:
    """The ring within which padding lies; None where nothing is left in one part."""
    ends = [(edge, _short(edge, choices).value) for edge in host.edges]
    all_round = min(end for _, end in ends)
    whole: BaseGeometry = shapely.Polygon(host.sew_points)
    inner = whole.buffer(-all_round, join_style="mitre") if all_round else whole
    for edge, end in ends:
        if end > all_round:
            inner = inner.difference(shapely.LineString(edge.curve.points()).buffer(end, quad_segs=32))
    return ring_around(inner) if isinstance(inner, shapely.Polygon) and not inner.is_empty else None


def _sizes(host: Panel, inner: Points, choices: CoverChoices) -> tuple[Worked, Worked]:
    """Length and width of padding: the panel's, less what it ends short of on both sides."""
    told = []
    edges = [(edge.curve.points(), _short(edge, choices)) for edge in host.edges]
    for axis, size in enumerate((host.length, host.width)):
        low, high = (_taken(host, inner, axis, way, edges) for way in (-1, 1))
        told.append(size - low * 2.0 if low == high else size - low - high)
    return told[0], told[1]


def _taken(host: Panel, inner: Points, axis: int, way: int, edges: list[tuple[Points, Worked]]) -> Worked:
    """What is taken off at one end of an axis: that of an edge which reaches so far, where it is one."""
    end, left = (float((way * points[:, axis]).max()) for points in (host.sew_points, inner))
    # What lies along that end comes before what only touches it.
    along = sorted(edges, key=lambda edge: float(np.ptp(edge[0][:, axis])))
    reaching = (short for points, short in along if (way * points[:, axis]).max() > end - TOUCHES)
    fits = (short for short in reaching if abs(short.value - (end - left)) < SAME_SIZE)
    return next(fits, worked(tr("short of its edges"), end - left, refs.PADDING_INSET))


def _too_small(host: Panel, hosts: list[Panel], choices: CoverChoices) -> Finding:
    """What there is to say when nothing is left of a padding: to end it nearer to the seams where that helps, else to leave it out."""
    text = tr(
        "Nothing is left of the padding of the {panel}: it ends {inset} short of its seams, and beside what is hemmed.",
        panel=term(host.name),
        inset=mm(choices.padding_inset),
    )
    nearer = replace(choices, padding_inset=0.0)
    others = tuple(p.name for p in chosen(hosts, choices.padded.on) if p.name != host.name)
    if choices.padding_inset and not choices.padded.at_seam and _within(host, nearer) is not None:
        remedy = Remedy(tr("No inset"), (Change(refs.PADDING_INSET, 0.0),))
    elif others:
        remedy = Remedy(tr("Pad only the other panels"), (Change(refs.PADDING_ON, others),))
    else:
        remedy = Remedy(tr("No padding"), (Change(refs.PADDING, 0.0),))
    return Finding("padding-too-small", Severity.LOOK, text, refs.PADDING_INSET, (remedy,))


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
