"""What is cut from a cloth: every piece of a cover, and the strips that are cut from it, as they lie with the warp along the bolt.

A cut has a *ring* in the cloth's frame: x along the warp, y across it, its box beginning at 0, 0. What is drawn on its panel gets there by `Cut.on_cloth`.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Final

import numpy as np
import shapely

from omnipel.core.draft import Drafted
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.onfold import fold_of
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.job.document import ClothChoice, LayChoice
from omnipel.core.nesting.shape import turned
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Count, Value, term, tr

HALF_TURN: Final = math.pi
QUARTERS: Final = (0.0, math.pi / 2.0, math.pi, 3.0 * math.pi / 2.0)
BIAS: Final = (math.pi / 4.0, 3.0 * math.pi / 4.0)
"""The two ways a strip lies on the bias."""


@dataclass(frozen=True, eq=False)
class Cut:
    """One piece to be cut.

    Args:
        key: what it is called in the job: its piece's name, with the number of the cover where several are cut.
        words: what it is called.
        ring: its outline to cut on the cloth, `(n, 2)`, counter-clockwise.
        turns: by which angles it may be turned.
        free: whether by any.
        panel: what it is cut from; None for a strip.
        mirrored: whether it is cut with the pattern turned over.
        copy: which of several covers it is for, from 1.
        start: the point that has to lie on a repeat of the cloth; None where it need not.
        on_fold: whether it is the half of a piece that lies with its axis on the fold.
        twice: whether both layers of folded cloth are what is needed; else one of them is spare.
        lies: moves the panel's own frame onto the cloth: turned by it, then moved.
        moved: see lies.
        scale: how much larger than finished it is cut, along its own x and y.
    """

    key: str
    words: Value
    ring: Points
    turns: tuple[float, ...]
    free: bool = False
    panel: Panel | None = None
    mirrored: bool = False
    copy: int = 1
    start: tuple[float, float] | None = None
    on_fold: bool = False
    twice: bool = False
    lies: float = 0.0
    moved: tuple[float, float] = (0.0, 0.0)
    scale: tuple[float, float] = (1.0, 1.0)

    def on_cloth(self, points: Points) -> Points:
        """Points of its panel, `(n, 2)`, in the frame of the cloth."""
        own = points * self.scale * ((1.0, -1.0) if self.mirrored else (1.0, 1.0))
        return turned(own, self.lies) + self.moved

    @cached_property
    def size(self) -> tuple[float, float]:
        """How long along the cloth and how wide across it is, mm."""
        long, wide = self.ring.max(axis=0) - self.ring.min(axis=0)
        return float(long), float(wide)

    @cached_property
    def turned_over(self) -> bool:
        """Whether it has to be cut with its pattern turned over: what is the same on both sides of an axis comes out the same."""
        return self.mirrored and (self.panel is None or fold_of(self.panel) is None)

    @cached_property
    def area(self) -> float:
        """Its area, mm²."""
        return float(shapely.Polygon(self.ring).area)


LAID: Final = (Cloth.OUTER, Cloth.LINING, Cloth.PADDING, Cloth.STIFFENER, Cloth.WINDOW)
"""Layers that are cut from a cloth; webbing is cut off its roll."""


def layers_of(drafted: Drafted) -> list[Cloth]:
    """The layers of a cover that are cut from a cloth."""
    there = {panel.cloth for panel in drafted.panels if panel.count}
    return [layer for layer in LAID if layer in there]


@dataclass
class _Making:
    """What is known while the cuts of one layer are made."""

    drafted: Drafted
    choice: LayChoice
    cloth: ClothChoice
    starts: dict[tuple[str, str], tuple[float, float]] = field(default_factory=dict)

    def cut(self, panel: Panel, piece: Piece, copy: int) -> Cut:
        scale = (1.0 / (1.0 - panel.take_up[0]), 1.0 / (1.0 - panel.take_up[1]))
        made = Cut(
            key=_key(piece.name, copy),
            words=_words(term(piece.name), copy, self.drafted.job.copies),
            ring=cut_line(panel),
            turns=(0.0,),
            panel=panel,
            mirrored=piece.mirrored,
            copy=copy,
            lies=panel.grain if piece.mirrored else -panel.grain,
            scale=scale,
        )
        ring = made.on_cloth(cut_line(panel))
        corner = ring.min(axis=0)
        ring = ring - corner
        free = panel.name in self.choice.free
        start = self.starts.get((panel.name, "mirrored" if piece.mirrored else ""))
        at = made.on_cloth(np.array([start]))[0] - corner if start is not None else None
        plain = (0.0,) if self.cloth.one_way or at is not None else (0.0, HALF_TURN)
        return replace(
            made,
            ring=ring[::-1] if piece.mirrored else ring,
            turns=QUARTERS if free and at is None else plain,
            free=free and at is None,
            moved=(-float(corner[0]), -float(corner[1])),
            start=None if at is None else (float(at[0]), float(at[1])),
        )


def cuts_of(drafted: Drafted, layer: Cloth, choice: LayChoice, cloth: ClothChoice) -> list[Cut]:
    """All pieces of a layer, of all covers of the job, and the strips that are cut from the cloth of the outer."""
    making = _Making(drafted, choice, cloth, _matched(drafted, choice) if cloth.repeat_along or cloth.repeat_across else {})
    panels = {panel.name: panel for panel in drafted.panels if panel.cloth is layer}
    pieces = [piece for piece in drafted.cover.pieces if piece.panel in panels]
    copies = range(1, drafted.job.copies + 1)
    made = [making.cut(panels[piece.panel], piece, copy) for copy in copies for piece in pieces]
    if layer is Cloth.OUTER and choice.strips:
        made += [strip for copy in copies for strip in _strips(drafted, copy)]
    return made


def _key(name: str, copy: int) -> str:
    return name if copy == 1 else f"{name} · {copy}"


def _words(name: Value, copy: int, copies: int) -> Value:
    return name if copies == 1 else tr("{piece}, cover {n}", piece=name, n=Count(copy))


def _strips(drafted: Drafted, copy: int) -> Iterator[Cut]:
    """Bindings and piping strips: each of their cuts, a rectangle that lies along or across the cloth, or on its bias."""
    number = 0
    for item in drafted.cover.hardware:
        if item.strip is None or item.length is None:
            continue
        number += 1
        n, wide = item.strip.cuts, item.strip.wide
        long = item.length.value / n
        for k in range(n):
            part = tr("{strip} {n}", strip=item.name, n=Count(number)) if n == 1 else tr(
                "{strip} {n}, part {k}", strip=item.name, n=Count(number), k=Count(k + 1)
            )  # fmt: skip
            ring = np.array(((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)))
            turns = BIAS if item.strip.bias else QUARTERS[:2]
            yield Cut(_key(f"{item.name} {number}.{k + 1}", copy), _words(part, copy, drafted.job.copies), ring, turns, copy=copy)


def _matched(drafted: Drafted, choice: LayChoice) -> dict[tuple[str, str], tuple[float, float]]:
    """The point of each panel that has to lie on a repeat: where the first of the seams along which the pattern meets begins, the same point on both sides."""
    found: dict[tuple[str, str], tuple[float, float]] = {}
    cover = drafted.cover
    mirrored = {piece.name: piece.mirrored for piece in cover.pieces}
    for seam in cover.seams:
        if seam.name not in choice.match:
            continue
        for side in (seam.a, seam.b):
            run = side[0]
            curve = cover.flat[run.piece].edge(run.edge).curve
            x, y = curve.end if run.reversed else curve.start
            key = cover.panel_of[run.piece], "mirrored" if mirrored[run.piece] else ""
            found.setdefault(key, (float(x), float(y)))
    return found


def folded(cuts: Sequence[Cut]) -> list[Cut]:
    """What is cut from cloth folded lengthwise: pairs through both layers, a piece that is the same on both sides of its axis on the fold.

    Through both layers comes one piece and its mirror image, which is the same again where it is alike on both sides of an axis. What has no
    partner and no axis along the grain is cut twice all the same: one is spare.
    """
    made: list[Cut] = []
    waiting: dict[tuple[str, bool], list[Cut]] = {}
    for cut in cuts:
        alike = cut.panel is None or _along_grain(cut.panel) or (len(cut.turns) > 1 and fold_of(cut.panel) is not None)
        keys = [(_sort(cut), turned_over) for turned_over in ((False, True) if alike else (not cut.mirrored,))]
        partner = next((waiting[key] for key in keys if waiting.get(key)), None)
        if partner is not None:
            made.append(replace(partner.pop(), twice=True))
        else:
            waiting.setdefault((_sort(cut), cut.mirrored), []).append(cut)
    alone = (cut for rest in waiting.values() for cut in rest)
    made += [_half(cut) if cut.panel is not None and _along_grain(cut.panel) else cut for cut in alone]
    order = {cut.key: k for k, cut in enumerate(cuts)}
    return sorted(made, key=lambda cut: order[cut.key])


def _sort(cut: Cut) -> str:
    """Which pattern a piece is of."""
    return cut.panel.name if cut.panel is not None else f"{cut.size[0]:.3f} by {cut.size[1]:.3f}"


def _along_grain(panel: Panel) -> bool:
    """Whether a panel is the same on both sides of a line along its grain."""
    fold = panel.fold or fold_of(panel)
    return fold is not None and abs(math.sin(fold.heading - panel.grain)) < 1e-6


def _half(cut: Cut) -> Cut:
    """The upper half of a piece that is the same on both sides of its middle along the cloth, its axis at 0."""
    middle = cut.size[1] / 2.0
    long = cut.size[0]
    upper = shapely.box(-1.0, middle, long + 1.0, cut.size[1] + 1.0)
    half = shapely.intersection(shapely.Polygon(cut.ring), upper)
    largest = max(shapely.get_parts(half), key=lambda part: float(part.area))
    ring = shapely.get_coordinates(shapely.orient_polygons(largest).exterior)[:-1] - (0.0, middle)
    moved = cut.moved[0], cut.moved[1] - middle
    return replace(cut, ring=ring, turns=(0.0,), free=False, on_fold=True, twice=True, moved=moved)
