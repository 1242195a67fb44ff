"""Where pieces of round and boxy covers lie: lids, bases, strips around, ends. The front is towards −y, and a strip around is closed at the back."""

import math
from typing import Final

from omnipel.core.drafting.panel import Panel
from omnipel.core.plane.curves import Arc, line
from omnipel.core.space.frames import Frame, Side, Vector, looking_at
from omnipel.core.space.paths import Path, straight
from omnipel.core.space.placements import Around, Cone, Flat

BACK: Final = math.pi / 2.0
"""The direction of the back, seen from above; where the rim of a lid begins, as it is drawn."""
BACK_FROM_BELOW: Final = -math.pi / 2.0
"""The same as a base is drawn, which is seen from below."""
UPRIGHT: Final = Frame((0.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
"""A plane across the x axis, seen from the right: its right is the back."""


def lid(height: float) -> Flat:
    """Lying level, seen from above, its origin on the axis."""
    return Flat(looking_at(Side.TOP, (0.0, 0.0, height)))


def base(height: float) -> Flat:
    """Lying level, seen from below, its origin on the axis."""
    return Flat(looking_at(Side.BELOW, (0.0, 0.0, height)))


def around(length: float, low: float, high: float) -> Around:
    """A strip `length` long around the axis, upright from one height to another, closed at the back."""
    radius = length / (2.0 * math.pi)
    return Around(straight((radius, low), (radius, high)), 1.0 / radius, BACK)


def gathered_around(length: float, meridian: Path, share: float = 1.0, start: float = BACK) -> Around:
    """A strip whose length takes a share of the way around, and whose height follows a meridian."""
    return Around(meridian, 2.0 * math.pi * share / length, start)


def facing(side: Side, place: Vector, panel: Panel) -> Flat:
    """Flat, looking to a side: the middle of the panel's lower edge at a place; for a panel that lies level, its middle."""
    x, y = middle(panel)
    level = side in (Side.TOP, Side.BELOW)
    return Flat(looking_at(side, place, (x, y if level else float(panel.sew_points[:, 1].min()))))


def middle(panel: Panel) -> tuple[float, float]:
    """The middle of a panel's box."""
    low, high = panel.sew_points.min(axis=0), panel.sew_points.max(axis=0)
    return float(low[0] + high[0]) / 2.0, float(low[1] + high[1]) / 2.0


def copies(name: str, count: int) -> tuple[str, ...]:
    """Names of so many pieces of one panel.

    >>> copies("gore", 1), copies("gore", 2)
    (('gore',), ('gore 1 of 2', 'gore 2 of 2'))
    >>> copies("band 2", 2)
    ('band 2, 1 of 2', 'band 2, 2 of 2')
    """
    parted = "," if name[-1:].isdigit() else ""
    return (name,) if count == 1 else tuple(f"{name}{parted} {k} of {count}" for k in range(1, count + 1))


def drawn_in(radius: float, least: float, high: float, edge: float, way: float = -1.0) -> Path:
    """The meridian of a strip that is sewn to a ring of a radius at height `edge` and drawn in to `least` at its free edge.

    It begins at the free edge and is `high` long: straight along the axis from the ring, then a quarter circle inward; where that is too long for it, it
    slants straight. `way` is −1 for a strip that hangs from its ring and 1 for one that stands on it.
    """
    inset = max(0.0, radius - least)
    quarter = math.pi / 2.0 * inset
    if inset == 0.0:
        return straight((radius, edge + way * high), (radius, edge))
    if quarter <= high:
        begin = (radius, edge + way * (high - quarter))
        arc = Arc(begin, way * math.pi / 2.0, way / inset, quarter)
        return Path((arc.reversed(), *([line(begin, (radius, edge))] if high > quarter else [])))
    across = min(inset, high)
    return straight((radius - across, edge + way * math.sqrt(max(0.0, high * high - across * across))), (radius, edge))


def cones(panel: Panel, count: int, low: float, slant: float) -> list[Cone]:
    """Where `count` copies of a sector lie side by side around the axis: its first edge the ring at height `low`, its third the ring above."""
    lower, upper = panel.edges[0].curve, panel.edges[2].curve
    assert isinstance(lower, Arc)
    radius, above = (arc.length * count / (2.0 * math.pi) for arc in (lower, upper))
    widens = max(-1.0, min(1.0, (above - radius) / slant))
    step = 2.0 * math.pi / count
    return [
        Cone(
            lower.at(0.5),
            lower.heading_at(0.5),
            lower.curvature,
            radius,
            widens,
            math.sqrt(1.0 - widens * widens),
            low,
            BACK + (k + 0.5) * step,
            lower.length,
            slant,
        )
        for k in range(count)
    ]


def over_the_tread(ring: float, depth: float, wide: float, least: float) -> Path:
    """The meridian of a strip that is sewn to a ring at height 0, runs `wide` along the axis, then inward to a radius no less than `least`."""
    radius, behind = ring / (2.0 * math.pi), depth - wide
    if behind <= 0.0:
        return straight((radius, depth), (radius, 0.0))
    inset = min(behind, max(0.0, radius - least))
    free = (radius - inset, wide + math.sqrt(max(0.0, behind * behind - inset * inset)))
    return straight(free, (radius, wide), (radius, 0.0))
