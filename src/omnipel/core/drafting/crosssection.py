"""Seams and edges cut across, as they are drawn beside their choices: every layer of cloth, stitches, cords, and which length is which.

Frame: x across, y out of the right side of the cover, mm. A seam lies at x = 0, its first side to the left; an edge lies at x = 0, its cover to the
left. Layers are drawn `t` thick, thicker than cloth is, so that they can be told apart; lengths along them are true.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

import numpy as np

from omnipel.core.job.finish import Finish, FinishKind
from omnipel.core.plane.curves import Points

LIES: Final = 1.25
"""One layer lies this many of its thicknesses above the next."""
TURNS: Final = 9
"""A layer turns around an edge or a cord in so many steps."""


class Side(StrEnum):
    """What a layer is of."""

    FIRST = "first"
    SECOND = "second"
    STRIP = "strip"


@dataclass(frozen=True, slots=True)
class LayerLine:
    """A layer of cloth along its middle, `(n, 2)`."""

    points: Points
    side: Side = Side.FIRST


@dataclass(frozen=True, slots=True)
class Measure:
    """A length that is decided: what it is called where it is decided, and from where to where it runs."""

    part: str
    a: tuple[float, float]
    b: tuple[float, float]


@dataclass(frozen=True)
class CrossSection:
    """A seam or an edge cut across.

    Args:
        layers: of cloth, the lowest first.
        stitches: rows of stitches: x, and from which to which y.
        cords: middle and radius of what runs in it.
        measures: lengths that are decided.
        t: how thick layers are drawn.
    """

    layers: tuple[LayerLine, ...]
    stitches: tuple[tuple[float, float, float], ...] = ()
    cords: tuple[tuple[float, float, float], ...] = ()
    measures: tuple[Measure, ...] = ()
    t: float = 1.0

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """Least x and y, greatest x and y."""
        points = [layer.points for layer in self.layers]
        points += [np.array(((x - r, y - r), (x + r, y + r))) for x, y, r in self.cords]
        every = np.concatenate(points)
        (x0, y0), (x1, y1) = every.min(axis=0) - self.t, every.max(axis=0) + self.t
        return float(x0), float(y0), float(x1), float(y1)


@dataclass(frozen=True, slots=True)
class Widths:
    """The lengths of a seam as it is sewn, mm: allowances of both sides, and the width of its construction."""

    allowance: float
    under: float
    wide: float = 0.0

    @property
    def reach(self) -> float:
        """How far cloth is drawn to each side."""
        return 2.0 * max(self.allowance, self.under, self.wide, 4.0)

    @property
    def t(self) -> float:
        """How thick layers are drawn."""
        return self.reach / 16.0


def _layer(*points: tuple[float, float], side: Side = Side.FIRST) -> LayerLine:
    return LayerLine(np.array(points), side)


def _around(x: float, y: float, r: float, start: float, sweep: float) -> list[tuple[float, float]]:
    """Points of an arc about a middle."""
    return [(x + r * math.cos(start + sweep * k / TURNS), y + r * math.sin(start + sweep * k / TURNS)) for k in range(TURNS + 1)]


def _upright(w: Widths, side: Side, allowance: float) -> LayerLine:
    """A side that turns down at the seam, its allowance hanging."""
    t, sign = w.t, -1.0 if side is Side.FIRST else 1.0
    corner = _around(sign * 1.6 * t, -t, t, math.pi / 2.0, -sign * math.pi / 2.0 * -1.0) if side is Side.SECOND else []
    if side is Side.FIRST:
        corner = _around(-1.6 * t, -t, t, math.pi / 2.0, -math.pi / 2.0)
    return _layer((sign * w.reach, 0.0), *corner, (sign * 0.6 * t, -2.0 * t - allowance), side=side)


def plain(w: Widths) -> CrossSection:
    """Right sides together, both allowances standing on the inside."""
    t = w.t
    top = -2.0 * t
    return CrossSection(
        (_upright(w, Side.FIRST, w.allowance), _upright(w, Side.SECOND, w.under)),
        measures=(
            Measure("allowance", (-3.0 * t, top), (-3.0 * t, top - w.allowance)),
            Measure("under", (3.0 * t, top), (3.0 * t, top - w.under)),
        ),
        stitches=((0.0, top, top),),
        t=t,
    )


def felled(w: Widths) -> CrossSection:
    """Both allowances to one side, stitched down through all."""
    t, step = w.t, LIES * w.t
    return CrossSection(
        (
            _layer((w.reach, 0.0), (t, 0.0), (-t, -2.0 * step), (-w.under, -2.0 * step), side=Side.SECOND),
            _layer(
                (-w.allowance, -step),
                (-t, -step),
                *_around(-t, -step / 2.0, step / 2.0, -math.pi / 2.0, math.pi),
                (-w.reach, 0.0),
            ),
        ),
        ((-w.allowance * 0.6, t, -2.0 * step - t),),
        measures=(
            Measure("allowance", (0.0, 2.5 * t), (-w.allowance, 2.5 * t)),
            Measure("under", (0.0, -4.5 * t), (-w.under, -4.5 * t)),
        ),
        t=t,
    )


def flat_felled(w: Widths) -> CrossSection:
    """The longer allowance folded over the shorter, stitched down twice."""
    t, step = w.t, LIES * w.t
    fold = w.allowance * 0.55
    return CrossSection(
        (
            _layer((w.reach, 0.0), (t, 0.0), (-t, -2.0 * step), (-w.under, -2.0 * step), side=Side.SECOND),
            _layer(
                (-w.under * 0.3, -3.0 * step),
                (-fold, -3.0 * step),
                *_around(-fold, -2.0 * step, step, -math.pi / 2.0, -math.pi)[::1],
                (-t, -step),
                *_around(-t, -step / 2.0, step / 2.0, -math.pi / 2.0, math.pi),
                (-w.reach, 0.0),
            ),
        ),
        ((-t * 1.5, t, -3.0 * step - t), (-fold + t, t, -3.0 * step - t)),
        measures=(
            Measure("allowance", (0.0, 2.5 * t), (-w.allowance, 2.5 * t)),
            Measure("under", (0.0, -5.5 * t), (-w.under, -5.5 * t)),
        ),
        t=t,
    )


def lapped(w: Widths) -> CrossSection:
    """One cloth on the other."""
    t, half = w.t, w.wide / 2.0
    return CrossSection(
        (_layer((w.reach, -LIES * t), (-w.under, -LIES * t), side=Side.SECOND), _layer((-w.reach, 0.0), (w.allowance, 0.0))),
        ((-half * 0.7, t, -2.2 * t), (half * 0.7, t, -2.2 * t)),
        measures=(Measure("wide", (-half, 2.5 * t), (half, 2.5 * t)),),
        t=t,
    )


def bound(w: Widths) -> CrossSection:
    """Both allowances bound together."""
    t, deep = w.t, max(w.allowance, w.under)
    low = -2.0 * t - deep
    strip = _layer(
        (-1.9 * t, low + w.wide), *_around(0.0, low, 1.9 * t, math.pi, math.pi), (1.9 * t, low + w.wide), side=Side.STRIP
    )
    base = plain(w)
    return CrossSection(
        (*base.layers, strip),
        ((0.0, low + w.wide * 0.8, low + w.wide * 0.8),),
        measures=(
            Measure("allowance", (-4.5 * t, -2.0 * t), (-4.5 * t, -2.0 * t - w.allowance)),
            Measure("wide", (4.5 * t, low), (4.5 * t, low + w.wide)),
        ),
        t=t,
    )


def piped(w: Widths) -> CrossSection:
    """A cord in a strip, caught in the seam."""
    t, r = w.t, max(w.wide / 2.0, 0.6 * w.t)
    leg = -2.0 * t - min(w.allowance, w.under)
    ring = r + 0.7 * t
    strip = _layer(
        (-0.45 * t, leg), *_around(0.0, ring, ring, -math.pi / 2.0 - 0.3, -2.0 * math.pi + 0.6), (0.45 * t, leg), side=Side.STRIP
    )
    wider = [LayerLine(layer.points + (-t if layer.side is Side.FIRST else t, 0.0), layer.side) for layer in plain(w).layers]
    return CrossSection(
        (*wider, strip),
        ((0.0, -2.0 * t, -2.0 * t),),
        ((0.0, ring, r),),
        measures=(
            Measure("wide", (-r, 2.0 * ring + 1.6 * t), (r, 2.0 * ring + 1.6 * t)),
            Measure("allowance", (-4.5 * t, -2.0 * t), (-4.5 * t, -2.0 * t - w.allowance)),
            Measure("under", (4.5 * t, -2.0 * t), (4.5 * t, -2.0 * t - w.under)),
        ),
        t=t,
    )


def zipped(w: Widths) -> CrossSection:
    """Both sides folded back and stitched to a zip."""
    t, half = w.t, w.wide / 2.0
    layers = []
    for side, sign, allowance in ((Side.FIRST, -1.0, w.allowance), (Side.SECOND, 1.0, w.under)):
        edge = sign * (half + 0.4 * t)
        turn = _around(edge + sign * 0.6 * t, -0.6 * t, 0.6 * t, math.pi / 2.0, -sign * -math.pi)
        layers.append(_layer((sign * w.reach, 0.0), *turn, (edge + sign * allowance, -1.2 * t), side=side))
    tape = max(w.allowance, w.under) * 0.9 + half
    strips = [_layer((sign * 0.6 * t, -2.6 * t), (sign * tape, -2.6 * t), side=Side.STRIP) for sign in (-1.0, 1.0)]
    reach = half + max(w.allowance, w.under) * 0.5
    return CrossSection(
        (*strips, *layers),
        ((-reach, t, -3.4 * t), (reach, t, -3.4 * t)),
        ((-0.55 * t, -2.6 * t, 0.7 * t), (0.55 * t, -2.6 * t, 0.7 * t)),
        measures=(
            Measure("allowance", (-half, 2.5 * t), (-half - w.allowance, 2.5 * t)),
            Measure("wide", (-half, -4.8 * t), (half, -4.8 * t)),
            Measure("under", (half, 2.5 * t), (half + w.under, 2.5 * t)),
        ),
        t=t,
    )


def fuller(w: Widths) -> CrossSection:
    """The first side in folds, drawn in to the second."""
    t, base = w.t, plain(w)
    run = np.linspace(-w.reach, -2.0 * t, 60)
    wave = np.column_stack((run, 0.9 * t * np.sin(run / t * 1.3)))
    first = base.layers[0].points[1:]
    return CrossSection((LayerLine(np.concatenate((wave, first))), base.layers[1]), base.stitches, measures=base.measures, t=t)


def edge(finish: Finish, lined: bool = False) -> CrossSection:
    """The edge of an opening as it is finished; `lined`: with the lining that meets it."""
    w, turn = finish.width, finish.turn_under
    reach = 2.0 * max(w, turn, 8.0)
    t = reach / 20.0
    step = LIES * t
    cloth = _layer((-reach, 0.0), (0.0, 0.0))
    along, below = Measure("width", (0.0, 2.5 * t), (-w, 2.5 * t)), -2.0 * step
    match finish.kind:
        case FinishKind.SINGLE_HEM:
            fold = _layer((-reach, 0.0), *_around(-step / 2, -step / 2, step / 2, math.pi / 2, -math.pi), (-w, -step))
            return CrossSection((fold,), ((-w + 1.5 * t, t, -step - t),), measures=(along,), t=t)
        case FinishKind.DOUBLE_HEM | FinishKind.CORD_CASING | FinishKind.ELASTIC_CASING:
            return _turned_in(finish, reach, t, along)
        case FinishKind.BOUND:
            strip = _layer((-w, step), *_around(0.0, 0.0, step, math.pi / 2, -math.pi), (-w, -step), side=Side.STRIP)
            return CrossSection(
                (cloth, strip), ((-w + 1.2 * t, 2 * t, -2 * t),), measures=(Measure("width", (0.0, 3.5 * t), (-w, 3.5 * t)),), t=t
            )
        case FinishKind.FACING:
            outer = _layer((-reach, 0.0), *_around(-step, -step, step, math.pi / 2, -math.pi / 2), (-step - turn, below))
            inner = _layer((-w, -3 * step), (-step, -3 * step), (-step - turn * 0.9, below - 0.6 * step), side=Side.STRIP)
            return CrossSection(
                (outer, inner),
                ((-w + 1.5 * t, t, -3 * step - t),),
                measures=(along, Measure("turn_under", (-step, -5.5 * t), (-step - turn, -5.5 * t))),
                t=t,
            )
        case FinishKind.PIPED:
            r = max(w / 2.0, 0.8 * t)
            cord = (r + 0.7 * t, -step, r)
            strip = _layer(
                (-turn, -0.6 * step), *_around(cord[0], cord[1], r + 0.7 * t, 2.6, -5.2), (-turn, -1.6 * step), side=Side.STRIP
            )
            outer = _layer((-reach, 0.0), (-t, 0.0), (-t * 0.5, -step), (-turn, -2.4 * step))
            return CrossSection(
                (outer, strip),
                ((-1.5 * t, t, -3 * step),),
                (cord,),
                measures=(
                    Measure("width", (cord[0] - r, cord[1] + r + 2.5 * t), (cord[0] + r, cord[1] + r + 2.5 * t)),
                    Measure("turn_under", (0.0, -5.0 * t), (-turn, -5.0 * t)),
                ),
                t=t,
            )
        case FinishKind.BAGGED:
            outer = _layer((-reach, 0.0), *_around(-step / 2, -step / 2, step / 2, math.pi / 2, -math.pi), (-w, -step))
            inner = _layer((-reach, -3 * step), (-t, -3 * step), (-t, -2 * step), (-w, -2 * step), side=Side.SECOND)
            return CrossSection((outer, inner), ((-1.5 * t, t, -4 * step),), measures=(along,), t=t)
        case FinishKind.SELVAGE:
            return CrossSection((cloth, _layer((-1.5 * t, 0.0), (0.0, 0.0), side=Side.STRIP)), t=t)
        case _:
            return CrossSection((cloth,), t=t)


def _turned_in(finish: Finish, reach: float, t: float, along: Measure) -> CrossSection:
    """Folded twice; around a cord or an elastic where it is a casing."""
    w, turn, step = finish.width, finish.turn_under, LIES * t
    drop, cords = 2.0 * step, []
    if finish.kind is FinishKind.CORD_CASING:
        r = max(0.8 * t, min(w / math.pi, w * 0.28))
        drop, cords = 2.0 * r + 2.0 * step, [(-r - 1.2 * t, -r - 0.75 * t, r)]
    elif finish.kind is FinishKind.ELASTIC_CASING:
        drop = 3.6 * step
    loop = _around(-drop / 2.0, -drop / 2.0, drop / 2.0, math.pi / 2.0, -math.pi)
    hem = _layer(
        (-reach, 0.0),
        *loop,
        (-w + 0.5 * step, -drop),
        *_around(-w + 0.5 * step, -drop + 0.5 * step, 0.5 * step, -math.pi / 2.0, -math.pi),
        (-w + turn, -drop + step),
    )
    layers: Sequence[LayerLine] = (hem,)
    if finish.kind is FinishKind.ELASTIC_CASING:
        layers = (hem, _layer((-w + turn * 0.3, -drop * 0.45), (-drop * 0.4, -drop * 0.45), side=Side.STRIP))
    under = Measure("turn_under", (-w, -drop - 2.5 * t), (-w + turn, -drop - 2.5 * t))
    return CrossSection(tuple(layers), ((-w + 1.6 * t, t, -drop - t),), tuple(cords), (along, under), t)
