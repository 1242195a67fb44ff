"""The cloth of each layer, and what of it there is to lay pieces on: the bolt, and pieces of the stash."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Final

import numpy as np
import shapely

from omnipel.core.cloth.cuts import Cut, cuts_of, folded
from omnipel.core.cloth.kinds import KINDS, cloth_words
from omnipel.core.covers.scheme import Cover
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Seam
from omnipel.core.job.document import ClothChoice, ClothKind, Job, LayChoice, SoldAs
from omnipel.core.job.layers import Material
from omnipel.core.job.laying import Placed, Remnant, Spread
from omnipel.core.nesting.building import Nest, used_length
from omnipel.core.nesting.convex import convex_parts
from omnipel.core.nesting.outward import outward
from omnipel.core.nesting.placing import Placed as Lying
from omnipel.core.nesting.problem import Place, Problem, spaced
from omnipel.core.nesting.shape import Shape
from omnipel.core.plane.curves import Points
from omnipel.core.words.habits import Habits
from omnipel.core.words.phrases import Value, tr

BOLT: Final = ""
"""What the bolt is called among the grounds."""
WITHIN: Final = 0.2
"""What is laid is an outline with fewer corners around that which is cut, no further from it than this, mm: a chalk line is wider."""
PADDINGS: Final = {Material.BATTING: "batting", Material.FLEECE: "fleece", Material.FOAM: "foam"}


def cloth_of(job: Job, layer: Cloth) -> ClothChoice:
    """The cloth that a layer is cut from."""
    if layer is Cloth.OUTER:
        return job.cover.cloth
    if layer is Cloth.LINING:
        return job.cover.lining.cloth
    chosen = choice_of(job, layer).cloth
    if chosen is not None:
        return chosen
    system = job.cover.habits.system
    if layer is Cloth.PADDING:
        return replace(KINDS[PADDINGS[job.cover.padded.material]].begun(system), thickness=job.cover.padding)
    if layer is Cloth.WINDOW:
        return KINDS["clear vinyl"].begun(system)
    usual = KINDS["foam"].begun(system)
    return replace(
        usual, name=str(tr("stiff sheet")), kind=ClothKind.GENERAL, thickness=job.cover.stiffener.thickness, weight=0.0
    )


def layer_of(cover: Cover, seam: Seam) -> Cloth:
    """The cloth of a seam: the outer where it joins that to the lining."""
    cloths = {cover.flat[run.piece].cloth for side in seam.sides for run in side if run.piece in cover.flat}
    return next(iter(cloths)) if len(cloths) == 1 else Cloth.OUTER


def choice_of(job: Job, layer: Cloth) -> LayChoice:
    """How a layer is laid."""
    return job.lays.get(layer.value, LayChoice())


@dataclass(frozen=True)
class Ground:
    """Something to lay pieces on: the bolt, endless along, or a piece of cloth.

    Args:
        id: of the piece of the stash; BOLT.
        name: what a person calls it.
        length, width: how long along its warp, and how wide, mm.
        remnant: what it is a piece of; None for the bolt.
    """

    id: str
    name: Value
    length: float
    width: float
    remnant: Remnant | None = None

    @cached_property
    def avoid(self) -> tuple[tuple[tuple[float, float], ...], ...]:
        """Convex outlines of what nothing may lie on: its flaws, and what its box has beyond its outline."""
        if self.remnant is None:
            return ()
        flaws = [shapely.box(f.x, f.y, f.x + f.length, f.y + f.width) for f in self.remnant.flaws]
        rings = [np.asarray(flaw.exterior.coords)[:-1] for flaw in flaws]
        if self.remnant.outline:
            outline = shapely.make_valid(shapely.Polygon(self.remnant.outline))
            for part in shapely.get_parts(shapely.box(0.0, 0.0, self.length, self.width).difference(outline)):
                if part.area > 1.0:
                    rings += _convex(part)
        made = (shapely.get_coordinates(shapely.orient_polygons(shapely.Polygon(ring)).exterior)[:-1] for ring in rings)
        return tuple(tuple((float(x), float(y)) for x, y in ring) for ring in made)


def _convex(part: shapely.Polygon) -> list[Points]:
    """Convex rings that cover a polygon, which may have holes."""
    if not part.interiors:
        return convex_parts(shapely.get_coordinates(shapely.orient_polygons(part).exterior)[:-1])
    return [shapely.get_coordinates(t.exterior)[:-1] for t in shapely.get_parts(shapely.constrained_delaunay_triangles(part))]


@dataclass(frozen=True, eq=False)
class Sheet:
    """A layer, ready to be laid.

    Args:
        layer: which.
        cloth: its cloth.
        choice: how it is laid.
        cuts: what is cut from it, on folded cloth what is cut through both layers of it.
        gap: what is left between two pieces, mm.
        ends: what is squared off at each end of a length off the bolt, mm.
        grounds: what there is to lay them on, the pieces of the stash first.
    """

    layer: Cloth
    cloth: ClothChoice
    choice: LayChoice
    cuts: tuple[Cut, ...]
    gap: float
    ends: float
    grounds: tuple[Ground, ...]

    @property
    def folded(self) -> bool:
        """Whether it is folded lengthwise."""
        return self.choice.spread is Spread.FOLDED

    @cached_property
    def by_key(self) -> dict[str, Cut]:
        """The cuts by their keys."""
        return {cut.key: cut for cut in self.cuts}

    @cached_property
    def shapes(self) -> dict[str, Shape]:
        """The shape of each cut; cuts with the same outline have one."""
        return {cut.key: self._shape(cut) for cut in self.cuts}

    def _shape(self, cut: Cut) -> Shape:
        pitch = (self.cloth.repeat_along, self.cloth.repeat_across) if cut.start is not None else (0.0, 0.0)
        ring = np.ascontiguousarray(cut.ring, dtype=np.float64).tobytes()
        return _shape_of(ring, self.gap, cut.turns, pitch, cut.start, cut.on_fold, cut.free)

    def problem(self, ground: Ground, keys: Sequence[str], locked: Sequence[Placed] = ()) -> Problem:
        """Some of its cuts to be laid on one ground; its frame is that of the ground, moved by half of the gap."""
        sorts: dict[Shape, int] = {}
        pieces = [sorts.setdefault(self.shapes[key], len(sorts)) for key in keys]
        index = {key: i for i, key in enumerate(keys)}
        half = self.gap / 2.0
        return Problem(
            tuple(sorts),
            tuple(pieces),
            ground.width + self.gap,
            ground.length + self.gap,
            tuple(tuple((x + half, y + half) for x, y in ring) for ring in ground.avoid),
            {index[p.piece]: (p.turn, p.x + half, p.y + half) for p in locked if p.piece in index},
        )

    def placed(self, ground: Ground, keys: Sequence[str], nest: Nest, locked: frozenset[str] = frozenset()) -> list[Placed]:
        """Where cuts lie, as a job keeps it."""
        half = self.gap / 2.0
        return [
            Placed(
                piece=key,
                turn=math.remainder(lying.way.turn, 2.0 * math.pi),
                x=float(lying.at[0]) - half,
                y=float(lying.at[1]) - half,
                on=ground.id,
                locked=key in locked,
            )
            for key, lying in zip(keys, nest, strict=True)
        ]

    def lying(self, ground: Ground, placed: Sequence[Placed]) -> list[Lying]:
        """Placed pieces in the frame of the problem."""
        keys = [piece.piece for piece in placed]
        half = self.gap / 2.0
        return self.problem(ground, keys).nest([(p.turn, p.x + half, p.y + half) for p in placed])

    def place(self, placed: Placed) -> Place:
        """The place of a piece in the frame of the problem."""
        return placed.turn, placed.x + self.gap / 2.0, placed.y + self.gap / 2.0

    def used(self, nest: Sequence[Lying]) -> float:
        """How much of a ground's length is used, without its ends, mm."""
        return max(0.0, used_length(nest) - self.gap)


@lru_cache(maxsize=512)
def _shape_of(
    ring: bytes,
    gap: float,
    turns: tuple[float, ...],
    pitch: tuple[float, float],
    start: tuple[float, float] | None,
    on_fold: bool,
    free: bool,
) -> Shape:
    """The shape to be laid of an outline: what is known of it holds as long as neither changes."""
    half = gap / 2.0
    wide = spaced(np.frombuffer(ring).reshape(-1, 2), gap)
    return Shape(
        wide if on_fold else outward(wide, WITHIN),
        turns,
        pitch,
        (start[0] - half, start[1] - half) if start is not None else (0.0, 0.0),
        half if on_fold else None,  # its axis lies where the ground begins
        free,
    )


def sheet_of(drafted: Drafted, layer: Cloth) -> Sheet:
    """A layer of a cover, ready to be laid."""
    job = drafted.job
    cloth, choice = cloth_of(job, layer), choice_of(job, layer)
    cuts = cuts_of(drafted, layer, choice, cloth)
    return sheet(layer, cloth, choice, cuts, job.cover.habits)


def sheet(layer: Cloth, cloth: ClothChoice, choice: LayChoice, cuts: Sequence[Cut], habits: Habits) -> Sheet:
    """Cuts of a layer, ready to be laid on a cloth as it was chosen."""
    two = choice.spread is Spread.FOLDED
    width = cloth.cut_width / (2.0 if two else 1.0)
    gap = choice.gap if choice.gap is not None else habits.mm("hot knife gap") if cloth.hot_cut else 0.0
    ends = choice.ends if choice.ends is not None else habits.mm("squared end")
    endless = cloth.sold_as is SoldAs.LENGTH or not cloth.piece_length
    if not endless and choice.ends is None:
        ends = 0.0
    bolt = Ground(BOLT, cloth_words(cloth.name), math.inf, width)
    stash = [] if two else [Ground(r.id, cloth_words(r.name or cloth.name), r.length, r.width, r) for r in choice.pieces]
    return Sheet(layer, cloth, choice, tuple(folded(cuts) if two else cuts), gap, ends, (*stash, bolt))
