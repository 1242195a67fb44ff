"""What is to be cut: the finished sizes of a panel and the allowances at its ends, as sums that know where each is decided."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from omnipel.core.drafting.cutline import cut_size
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.job.finish import Finish
from omnipel.core.plane.curves import Arc, Trace
from omnipel.core.tolerances import CLOSES, SAME_POINT, SAME_SIZE
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, worked


def with_cut_sizes(panel: Panel) -> Panel:
    """The panel with the sizes to cut that follow from its finished sizes and the finishes of its edges."""
    if "radius" in panel.sizes and "cut radius" in panel.sizes and _alike(panel.edges):
        cut_radius = with_allowances(panel.sizes["radius"], panel.edges[0])
        sizes = {**panel.sizes, "cut radius": cut_radius}
        return replace(panel, cut_length=cut_radius * 2.0, cut_width=cut_radius * 2.0, sizes=sizes)
    ends = [(edge.curve.start, edge.curve.end) for edge in panel.edges]
    return replace(panel, cut_length=_cut(panel, ends, 0, panel.length), cut_width=_cut(panel, ends, 1, panel.width))


def refinished(panel: Panel, finishes: Mapping[str, tuple[Finish, Ref | None]]) -> Panel:
    """The panel with other finishes at some of its edges, by their names, and cut to them."""
    edges = tuple(
        replace(edge, finish=finishes[edge.name][0], source=finishes[edge.name][1]) if edge.name in finishes else edge
        for edge in panel.edges
    )
    return with_cut_sizes(replace(panel, edges=edges)) if edges != panel.edges else panel


def with_allowances(size: Worked, *edges: Edge) -> Worked:
    """A cut size: the finished size and the allowances at its ends, each with its source."""
    return size.plus(part for edge in edges for part in edge.finish.worked(edge.source))


Ends = list[tuple[tuple[float, float], tuple[float, float]]]
"""Where the edges of a panel begin and end."""


def _cut(panel: Panel, ends: Ends, axis: int, size: Worked) -> Worked:
    """What is cut along an axis: by the allowances of its two sides where these are straight across it, else measured on the cut line.

    Beside a traced edge the cut line may bulge further out than at such a side: there it is measured as well.
    """
    sides = _sides(panel, ends, axis, size.value)
    cut = with_allowances(size, *sides) if sides is not None else None
    if cut is not None and not any(isinstance(edge.curve, Trace) for edge in panel.edges):
        return cut
    measured = cut_size(panel)[axis]
    if cut is not None and abs(cut.value - measured) < CLOSES:
        return cut
    if abs(measured - size.value) < SAME_SIZE:
        return Worked(size.terms)
    return size + worked(tr("allowances"), measured - size.value, how=tr("cut line around the outline"))


def _sides(panel: Panel, ends: Ends, axis: int, size: float) -> tuple[Edge, Edge] | None:
    """An edge on each side of a panel that stands for all of that side; None where a side is not straight, or its edges differ."""
    pairs = [(start[axis], end[axis]) for start, end in ends]
    low, high = min(map(min, pairs)), max(map(max, pairs))
    near = SAME_POINT * max(1.0, high - low)
    if abs(high - low - size) > near:
        return None
    found = []
    for at in (high, low) if axis else (low, high):
        mine = [e for e, (start, end) in zip(panel.edges, pairs, strict=True) if abs(start - at) < near and abs(end - at) < near]
        if not mine or not all(isinstance(e.curve, Arc) and not e.curve.curvature for e in mine) or not _alike(mine):
            return None
        found.append(mine[0])
    return found[0], found[1]


def _alike(edges: Iterable[Edge]) -> bool:
    """Whether all edges have the same allowance."""
    return len({edge.finish.allowance for edge in edges}) == 1
