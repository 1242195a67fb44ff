"""The panels that schemes are made of: rectangle, disc, sector, and any closed outline. Sizes carry their sums."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely

from omnipel.core.drafting.cut_sizes import with_cut_sizes
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.job.findings import Impossible
from omnipel.core.job.finish import RAW, Finish
from omnipel.core.plane.curves import Arc, Points, Trace, arc_about, line
from omnipel.core.tolerances import LONGEST, SAME_SIZE, SHORTEST, STRAIGHT_ANGLE
from omnipel.core.words import refs
from omnipel.core.words.phrases import Angle, Phrase, mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, through, worked


def checked(size: Worked, words: Phrase, where: Ref) -> float:
    """The size as a number, once it is one that can be cut.

    Raises:
        Impossible: it is zero, negative, not finite or absurdly long.
    """
    value = size.value
    if not math.isfinite(value) or not SHORTEST <= value <= LONGEST:
        raise Impossible(tr("{size} comes out at {length}, which cannot be cut", size=words, length=mm(value, fine=True)), where)
    return value


def rectangle(
    name: str,
    length: Worked,
    width: Worked,
    *,
    bottom: Finish,
    right: Finish,
    top: Finish,
    left: Finish,
    names: Mapping[str, str] | None = None,
    sources: Mapping[str, Ref | None] | None = None,
    padded: Mapping[str, Worked] | None = None,
    **more: Any,
) -> Panel:
    """A rectangle, `length` along x and `width` along y.

    Args:
        name: of the panel.
        length: finished, along x.
        width: finished, along y.
        bottom: finish of the lower side.
        right: finish of the right side.
        top: finish of the upper side.
        left: finish of the left side.
        names: other names for the edges "bottom", "right", "top", "left".
        sources: paths in the job of the edges' finishes, for the sums.
        padded: how far inside of edges padding ends, where not as usual.
        more: further fields of the panel.

    Raises:
        Impossible: a size cannot be cut.
    """
    names, sources, padded = names or {}, sources or {}, padded or {}
    x, y = (
        checked(length, tr("the length of the {panel}", panel=term(name)), refs.panel(name)),
        checked(width, tr("the height of the {panel}", panel=term(name)), refs.panel(name)),
    )
    corners = ((0.0, 0.0), (x, 0.0), (x, y), (0.0, y))
    finishes = {"bottom": bottom, "right": right, "top": top, "left": left}
    edges = tuple(
        Edge(
            names.get(side, side),
            line(corners[i], corners[(i + 1) % 4]),
            finish,
            sources.get(side, refs.SEAM_ALLOWANCE),
            padded.get(side),
        )
        for i, (side, finish) in enumerate(finishes.items())
    )
    return with_cut_sizes(Panel(name, edges, length, width, length, width, **more))


def even(name: str, length: Worked, width: Worked, finish: Finish, source: Ref | None = None, **more: Any) -> Panel:
    """A rectangle finished alike on all sides; `source` is where that is decided.

    Raises:
        Impossible: a size cannot be cut.
    """
    sources = dict.fromkeys(("bottom", "right", "top", "left"), source)
    return rectangle(name, length, width, bottom=finish, right=finish, top=finish, left=finish, sources=sources, **more)


def raw(name: str, ring: Points, length: Worked, width: Worked, **more: Any) -> Panel:
    """A panel with a raw edge all around a ring without repeated end; sizes that its box does not have are told as they are measured."""
    spans = np.ptp(ring, axis=0)
    plain = abs(spans[0] - length.value) < SAME_SIZE and abs(spans[1] - width.value) < SAME_SIZE
    edge = Edge("outline", Trace(np.vstack((ring, ring[:1]))), RAW, None)
    return outline(name, (edge,), *((length, width) if plain else (None, None)), **more)


def disc(
    name: str,
    radius: Worked,
    finish: Finish,
    *,
    edge: str = "rim",
    source: Ref = refs.SEAM_ALLOWANCE,
    begins: float = math.pi / 2.0,
    parted: Mapping[str, float] | None = None,
    **more: Any,
) -> Panel:
    """A disc, its rim one edge that begins in direction `begins`, radians; as a rule at the top.

    `parted` names edges of their own from there, with their lengths, mm; the rest of the rim follows them.

    Raises:
        Impossible: the radius cannot be cut.
    """
    r = checked(radius, tr("the radius of the {panel}", panel=term(name)), refs.panel(name))
    at, rim = begins, []
    for name_, length in (parted or {}).items():
        rim.append(Edge(name_, arc_about((0.0, 0.0), r, at, length / r), finish, source))
        at += length / r
    left = 2.0 * math.pi + begins - at
    if left > STRAIGHT_ANGLE:
        rim.append(Edge(edge, arc_about((0.0, 0.0), r, at, left), finish, source))
    across = radius * 2.0
    sizes = {"radius": radius, "cut radius": radius, **more.pop("sizes", {})}
    return with_cut_sizes(Panel(name, tuple(rim), across, across, across, across, sizes=sizes, **more))


def sector(
    name: str,
    inner: Worked,
    outer: Worked,
    height: Worked,
    *,
    inside: Finish,
    outside: Finish,
    sides: Finish,
    sources: Mapping[str, Ref | None] | None = None,
    names: tuple[str, str, str, str] = ("bottom", "right", "top", "left"),
    **more: Any,
) -> Panel:
    """A piece of a ring between two arcs `inner` and `outer` long, `height` apart; a rectangle when they are equal.

    Bottom is the inner arc when it is the shorter one; the piece is symmetrical about a vertical line.

    Raises:
        Impossible: a size cannot be cut.
    """
    a, b, s = (
        checked(size, tr("the {size} of the {panel}", size=words, panel=term(name)), refs.panel(name))
        for size, words in ((inner, tr("lower edge")), (outer, tr("upper edge")), (height, tr("slant")))
    )
    angle = (b - a) / s  # radians between the sides; negative when the bottom is the longer
    if abs(angle) >= 2.0 * math.pi:
        raise Impossible(
            tr("the {panel} would have to span {angle}: more panels are needed", panel=term(name), angle=Angle(abs(angle))),
            refs.panel(name),
        )
    # The bottom runs left to right; with the longer arc on top the common centre lies below, and it bulges upward.
    bottom = Arc((0.0, 0.0), angle / 2.0, -angle / a, a)
    side_heading = math.pi / 2.0 - angle / 2.0
    right = Arc(bottom.end, side_heading, 0.0, s)
    top = Arc(right.end, math.pi - angle / 2.0, angle / b, b)
    left = line(top.end, bottom.start)
    panel_edges = tuple(
        Edge(edge_name, curve, finish, (sources or {}).get(edge_name, refs.SEAM_ALLOWANCE))
        for edge_name, curve, finish in zip(names, (bottom, right, top, left), (inside, sides, outside, sides), strict=True)
    )
    return outline(
        name, panel_edges, sizes={"lower edge": inner, "upper edge": outer, "slant": height, **more.pop("sizes", {})}, **more
    )


@dataclass(frozen=True, slots=True)
class Frustum:
    """A cone's band laid flat: slant, sector radii and angle, and its two arcs; shared by `count` panels."""

    slant: Worked
    inner_radius: Worked
    outer_radius: Worked
    angle: float
    bottom_arc: Worked
    top_arc: Worked


def frustum(bottom: Worked, top: Worked, height: Worked, count: int) -> Frustum:
    """The flat pattern of a frustum of radii `bottom` and `top`, `height` apart, shared by `count` panels.

    `s = √(h² + (r₂ − r₁)²)`, sector radii `ρ₁ = r₁s/|r₂ − r₁|` and `ρ₁ + s`, angle `θ = 2π|r₂ − r₁|/s`. Radii are infinite and the angle 0
    for a cylinder; the panels are drafted from the arcs and stay sound there.
    """
    r1, r2, h = bottom.value, top.value, height.value
    s = math.hypot(h, r2 - r1)
    slant = through(
        tr("slant"),
        tr("straight along the side, over the height and what the radius grows by"),
        lambda high, wide, narrow: math.hypot(high, wide - narrow),
        height,
        top,
        bottom,
    )
    if r2 != r1:
        rule = lambda high, wide, narrow: min(wide, narrow) * math.hypot(high, wide - narrow) / abs(wide - narrow)  # noqa: E731
        inner = through(tr("inner radius"), tr("from the cone's tip to the near arc"), rule, height, top, bottom)
    else:
        inner = worked(tr("inner radius"), math.inf)
    share = 2.0 * math.pi / count
    return Frustum(slant, inner, inner + slant, 2.0 * math.pi * abs(r2 - r1) / s if s else 0.0, bottom * share, top * share)


def outline(name: str, edges: tuple[Edge, ...], length: Worked | None = None, width: Worked | None = None, **more: Any) -> Panel:
    """Any closed outline. Finished sizes that are not given are those of its bounding box.

    Raises:
        Impossible: the outline crosses itself.
    """
    draft = Panel(name, edges, _ZERO, _ZERO, _ZERO, _ZERO, **more)
    ring = shapely.Polygon(draft.sew_points)
    if not ring.is_valid:
        raise Impossible(tr("the outline of the {panel} crosses itself", panel=term(name)), refs.panel(name))
    spans = np.ptp(draft.sew_points, axis=0)
    finished = (length or worked(tr("outline"), float(spans[0])), width or worked(tr("outline"), float(spans[1])))
    return with_cut_sizes(replace(draft, length=finished[0], width=finished[1]))


def reshaped(
    panel: Panel, edges: tuple[Edge, ...], length: Worked | None = None, width: Worked | None = None, **changed: Any
) -> Panel:
    """The panel with another outline: its cloth, marks and notes stay but for what is `changed`, match marks where their edges are still there.

    Raises:
        Impossible: the outline crosses itself.
    """
    kept = {name: getattr(panel, name) for name in ("name", "cloth", "grain", "figures", "take_up", "notes", "mitred")} | changed
    made, own = outline(edges=edges, length=length, width=width, **kept), {edge.name for edge in edges}
    return replace(made, notches=tuple(notch for notch in panel.notches if notch.edge in own))


_ZERO = worked(tr("nothing"), 0.0)
