"""Lays made one piece after the other, each as far to the left as it goes, and lays pulled together."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Iterator, Sequence
from typing import Final

import shapely

from omnipel.core.nesting.placing import Ground, Placed
from omnipel.core.nesting.shape import Shape, Way

Nest = list[Placed]
"""Where shapes lie, in their order."""

SAME: Final = 1e-6
"""Lengths that differ by less are the same, mm."""
ASIDE: Final = 30.0
"""A piece that is pulled moves no further up or down than this at a time, mm."""
STILL: Final = 0.05
"""A round in which nothing moves by more is the last, mm."""
ROUNDS: Final = 24


def used_length(nest: Sequence[Placed]) -> float:
    """From the cut end to where the last piece ends, mm."""
    return max((float(piece.high[0]) for piece in nest), default=0.0)


def put(ground: Ground, shape: Shape, lie: list[Placed], *, at_borders: bool = False) -> Placed | None:
    """A shape as far left as it goes, its end as far left as can be; None where it fits nowhere.

    `at_borders` prefers the ground's borders, so that round things lie in rows.
    """
    found = [placed for way in shape.ways for placed in _along_borders(ground, way, lie)] if at_borders else []
    if not found:
        found = [placed for way in shape.ways if (placed := ground.leftmost(way, lie)) is not None]
    return min(found, key=lambda piece: (float(piece.high[0]), float(piece.at[1])), default=None)


def _along_borders(ground: Ground, way: Way, lie: list[Placed]) -> list[Placed]:
    heights = -float(way.low[1]), ground.width - float(way.high[1])
    found = (ground.leftmost(way, lie, near=height, reach=0.0) for height in heights)
    return [placed for placed in found if placed is not None]


def built(ground: Ground, shapes: Sequence[Shape], order: Sequence[int], begun: Sequence[Placed | None] = ()) -> Nest | None:
    """Shapes laid in an order, each as far left as it goes with its end as far left as can be; None where one fits nowhere.

    Args:
        ground: what they are laid on.
        shapes: all of them.
        order: in which they are laid.
        begun: those that lie already, by their place among the shapes.
    """
    made: list[Placed | None] = list(begun) if begun else [None] * len(shapes)
    lie = [piece for piece in made if piece is not None]
    for i in order:
        best = put(ground, shapes[i], lie)
        if best is None:
            return None
        made[i] = best
        lie.append(best)
    return [piece for piece in made if piece is not None]


def orders(shapes: Sequence[Shape], loose: Sequence[int], seed: int = 1) -> Iterator[list[int]]:
    """Orders worth trying: the largest, the longest, the highest, the widest box first; then these shaken, without end."""
    sizes = {i: shapes[i].ways[0].high - shapes[i].ways[0].low for i in loose}
    ways: list[Callable[[int], float]] = [
        lambda i: -shapes[i].area,
        lambda i: -float(sizes[i][0]),
        lambda i: -float(sizes[i][1]),
        lambda i: -float(sizes[i].max()),
    ]
    first = [sorted(loose, key=way) for way in ways]
    yield from first
    shaken = random.Random(seed)
    while True:
        for order in first:
            near = [(place + shaken.gauss(0.0, 0.25 * len(order)), i) for place, i in enumerate(order)]
            yield [i for _, i in sorted(near)]


def quick(
    ground: Ground,
    shapes: Sequence[Shape],
    bound: float,
    tries: int = 4,
    seconds: float = 1e9,
    begun: Sequence[Placed | None] = (),
) -> Nest | None:
    """The best of a few lays; the first that is proven to be the best ends it. None where a shape fits nowhere."""
    loose = [i for i in range(len(shapes)) if not begun or begun[i] is None]
    best: Nest | None = None
    until = time.monotonic() + seconds
    for k, order in enumerate(orders(shapes, loose)):
        if k and (k >= tries or time.monotonic() > until or not loose):
            break
        nest = built(ground, shapes, order, begun)
        if nest is not None and (best is None or used_length(nest) < used_length(best) - SAME):
            best = nest
        if best is not None and used_length(best) <= bound + SAME:
            break
    return best


def pulled(ground: Ground, nest: Nest, fixed: frozenset[int] = frozenset()) -> Nest:
    """A lay with every piece moved to the left as long as one moves, none through another but where there is room for it."""
    made = list(nest)
    for _ in range(ROUNDS):
        furthest = 0.0
        for k in sorted((i for i in range(len(made)) if i not in fixed), key=lambda i: float(made[i].low[0])):
            piece = made[k]
            others = made[:k] + made[k + 1 :]
            found = ground.leftmost(piece.way, others, near=float(piece.at[1]), reach=ASIDE, most=float(piece.at[0]))
            if found is not None and found.at[0] < piece.at[0] - 1e-4:
                furthest = max(furthest, float(piece.at[0] - found.at[0]))
                made[k] = found
        if furthest < STILL:
            break
    return made


def area_of(nest: Sequence[Placed]) -> float:
    """Of all pieces, mm²."""
    return float(sum(shapely.Polygon(piece.ring).area for piece in nest))
