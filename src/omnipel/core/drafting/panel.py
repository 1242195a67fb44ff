"""Panels: closed counter-clockwise chains of edges on the sew line, with their sizes, marks and cloth."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property

import numpy as np

from omnipel.core.job.finish import Finish
from omnipel.core.plane.curves import Curve, Points, turn_between
from omnipel.core.plane.fold import Fold
from omnipel.core.tolerances import CHORD_ERROR, SAME_POINT
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked


class Cloth(StrEnum):
    """Which of the job's cloths a panel is cut from."""

    OUTER = "outer"
    LINING = "lining"
    PADDING = "padding"
    STIFFENER = "stiffener"
    WINDOW = "window"
    WEBBING = "webbing"


class MarkKind(StrEnum):
    """What a mark on a panel says; at a corner the corner itself is the mark, and has its letters only."""

    NOTCH = "notch"
    CORNER = "corner"
    CLIP = "clip"
    POINT = "point"
    LINE = "line"
    CUT_OUT = "cut-out"
    BOXED = "boxed off"


@dataclass(frozen=True, slots=True)
class Edge:
    """One edge of a panel on the sew line; `source` is where its finish is decided, `padded` how far inside of it padding ends, where not as usual."""

    name: str
    curve: Curve
    finish: Finish
    source: Ref | None = refs.SEAM_ALLOWANCE
    padded: Worked | None = None


@dataclass(frozen=True, slots=True)
class Notch:
    """A match mark at a fraction of an edge; both sides of a seam carry the same label."""

    edge: str
    fraction: float
    label: str = ""
    kind: MarkKind = MarkKind.NOTCH


class Shows(StrEnum):
    """What is seen of a figure on the sewn cover."""

    NOTHING = "nothing"
    STITCHES = "stitches"
    EDGE = "edge"
    FASTENER = "fastener"
    PRINT = "print"


@dataclass(frozen=True)
class Figure:
    """Something drawn inside a panel: a fold line, a placement line, a hole. Points `(n, 2)`.

    `shows` says what is seen of it on the sewn cover, None what its kind tells; `feature` is the id of what was put on the cover that it belongs to, ""
    where it is the scheme's. `holds` is what runs in the channel whose edge it is, or is sewn down along it: a ribbon, an
    elastic, a cord, a tie; a seam where it is that seam's own line.
    """

    name: str
    points: Points
    kind: MarkKind = MarkKind.LINE
    closed: bool = False
    shows: Shows | None = None
    feature: str = ""
    holds: str = ""

    def __post_init__(self) -> None:
        self.points.setflags(write=False)

    def __eq__(self, other: object) -> bool:
        """Whether another figure is drawn alike."""
        if not isinstance(other, Figure):
            return NotImplemented
        told = [(f.name, f.kind, f.closed, f.shows, f.feature, f.holds) for f in (self, other)]
        return told[0] == told[1] and np.array_equal(self.points, other.points)

    def __hash__(self) -> int:
        return hash((self.name, self.kind, len(self.points)))

    @property
    def seen(self) -> Shows:
        """What is seen of it on the sewn cover."""
        if self.shows is not None:
            return self.shows
        return {MarkKind.CUT_OUT: Shows.EDGE, MarkKind.POINT: Shows.FASTENER}.get(self.kind, Shows.NOTHING)


@dataclass(slots=True)
class Kept:
    """The cut line of a panel, computed when it is first asked for and kept with it: for which edges, the ring, and whether parallels met in it."""

    edges: tuple[Edge, ...] = ()
    mitred: bool = False
    joined: bool = False
    ring: Points = field(default_factory=lambda: np.empty((0, 2)))


@dataclass(frozen=True)
class Panel:
    """One piece of cloth. Sizes lie along x (`length`) and y (`width`) of its own frame.

    Args:
        name: what it is called on paper and in seams.
        edges: closed chain on the sew line, counter-clockwise.
        length, width: finished sizes along x and y.
        cut_length, cut_width: sizes to cut.
        cloth: which cloth.
        count: how many are cut.
        mirrored: whether half of them are cut mirrored.
        grain: direction of the warp in the panel's frame, radians.
        sizes: further sizes worth showing, by words.
        figures: lines, holes and points inside.
        notches: match marks on edges; usually added from the seams.
        take_up: share lost to quilting or washing along x and y; the rough cut is larger by it.
        notes: what else to know when it is cut, each a few words.
        mitred: whether its hems are mitred at the corners.
        fold: the line by which it is placed on the fold of the cloth; None where it is marked out whole.
        kept: its cut line, once it was asked for; the same panel with marks keeps it.
    """

    name: str
    edges: tuple[Edge, ...]
    length: Worked
    width: Worked
    cut_length: Worked
    cut_width: Worked
    cloth: Cloth = Cloth.OUTER
    count: int = 1
    mirrored: bool = False
    grain: float = 0.0
    sizes: Mapping[str, Worked] = field(default_factory=dict)
    figures: tuple[Figure, ...] = ()
    notches: tuple[Notch, ...] = ()
    take_up: tuple[float, float] = (0.0, 0.0)
    notes: tuple[Phrase, ...] = ()
    mitred: bool = False
    fold: Fold | None = None
    kept: Kept = field(default_factory=Kept, compare=False, repr=False)

    def __post_init__(self) -> None:
        for before, after in zip(self.edges, (*self.edges[1:], self.edges[0]), strict=True):
            gap = math.dist(before.curve.end, after.curve.start)
            scale = max(1.0, before.curve.length, after.curve.length)
            if gap > SAME_POINT * scale:
                raise ValueError(f"{self.name}: {before.name} ends {gap:.3g} from where {after.name} starts")

    def edge(self, name: str) -> Edge:
        """The edge of that name.

        Raises:
            KeyError: there is none.
        """
        if name not in self._by_name:
            raise KeyError(f"{self.name} has no edge {name!r}")
        return self._by_name[name]

    @cached_property
    def _by_name(self) -> dict[str, Edge]:
        return {edge.name: edge for edge in reversed(self.edges)}

    def turn_after(self, edge: int) -> float:
        """By how much one turns where an edge ends and the next begins, radians, always positive."""
        into, out = (self.edges[k % len(self.edges)].curve.points() for k in (edge, edge + 1))
        a, b = into[-1] - into[-2], out[1] - out[0]
        return abs(turn_between(math.atan2(float(a[1]), float(a[0])), math.atan2(float(b[1]), float(b[0]))))

    @cached_property
    def sew_points(self) -> Points:
        """The sew line as a closed ring without repeated end, `(n, 2)`."""
        return np.concatenate([edge.curve.points(CHORD_ERROR)[:-1] for edge in self.edges])

    @property
    def rough_cut(self) -> tuple[float, float] | None:
        """Length and width to cut before quilting or washing, when those take some up: cut/(1 − share)."""
        if not any(self.take_up):
            return None
        return self.cut_length.value / (1.0 - self.take_up[0]), self.cut_width.value / (1.0 - self.take_up[1])


def cut_beyond(panels: Iterable[Panel], size: Worked) -> float | None:
    """By how much a panel is cut larger than a finished size of it, mm; None when no panel is as long, high or wide as that."""
    for panel in panels:
        pairs = [(panel.length, panel.cut_length), (panel.width, panel.cut_width)]
        if "radius" in panel.sizes and "cut radius" in panel.sizes:
            pairs.append((panel.sizes["radius"], panel.sizes["cut radius"]))
        for finished, cut in pairs:
            if finished.terms == size.terms:
                return cut.value - finished.value
    return None


def cut_beyond_edges(panels: Iterable[Panel], names: Iterable[str]) -> float:
    """By how much a choice that ends at these edges is cut larger than it is finished, mm: their allowances."""
    edges = {edge.name: edge.finish.allowance for panel in reversed(tuple(panels)) for edge in panel.edges}
    return math.fsum(edges.get(name, 0.0) for name in names)
