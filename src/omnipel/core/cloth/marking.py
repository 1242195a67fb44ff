"""How patterns get onto cloth: chalked from numbers, from a template, from a template of the corner alone, plotted.

What is chalked is told from one baseline (the lower side of the pattern's box) and one end (its left side): corners by both distances, curves
between them by offsets from the line between their ends, discs by the string's length. `Chalk.redrawn` draws the outline from these numbers.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final

import numpy as np

from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import MarkKind, Panel
from omnipel.core.job.document import CoverChoices, Marking
from omnipel.core.plane.bows import bows
from omnipel.core.plane.curves import Arc, Points
from omnipel.core.words.units import MM_PER_INCH, Unit

SMALL: Final = 600.0
"""What is curved and smaller than this is printed full size, mm; what is larger is chalked by offsets."""
ROUND: Final = 0.05
"""An outline all of whose points lie so near to a circle is one, mm."""
CORNER: Final = math.radians(15.0)
"""An outline that turns by more at one point has a corner there."""
STRAIGHT: Final = 40.0
"""A stretch of an outline without a point is straight from this on, mm."""
MOST_TURN: Final = math.radians(100.0)
"""A curve that turns by more than this is told in parts."""
THROUGH: Final = 0.25
"""A curve drawn through its offsets leaves the outline by no more, mm."""
STEPS: Final = {False: (100.0, 50.0, 25.0, 10.0, 5.0), True: tuple(MM_PER_INCH * inches for inches in (4.0, 2.0, 1.0, 0.5, 0.25))}
"""Offsets are told every so many mm: the widest that will do, in both systems."""
LONGEST_STRING: Final = 3000.0
"""A longer string is off the table: the arc is told by offsets, mm."""


class ChalkKind(StrEnum):
    """What a pattern is to the chalk."""

    RECTANGLE = "rectangle"
    DISC = "disc"
    SECTOR = "sector"
    OUTLINE = "outline"


@dataclass(frozen=True)
class Curved:
    """A curve between two corners: offsets to the left of the line from one to the other, every `step` mm along it."""

    start: tuple[float, float]
    end: tuple[float, float]
    step: float
    offsets: tuple[float, ...]
    length: float

    def points(self) -> Points:
        """The curve drawn through its offsets, `(n, 2)`, ends included."""
        a, b = np.array(self.start), np.array(self.end)
        chord = float(np.hypot(*(b - a)))
        along = (b - a) / chord
        left = np.array((-along[1], along[0]))
        at = np.array([0.0, *(self.step * (k + 1) for k in range(len(self.offsets))), chord])
        runs, heights = _through(at, np.array([0.0, *self.offsets, 0.0]))
        made: Points = a + runs[:, None] * along + heights[:, None] * left
        return made


@dataclass(frozen=True)
class Hole:
    """An opening inside of a pattern: its middle from the end and the baseline, and how large it is."""

    name: str
    at: tuple[float, float]
    size: tuple[float, float]
    round: bool


@dataclass(frozen=True)
class Notched:
    """Match marks along an edge: their letters and how far each is from where the edge begins, and where that is."""

    edge: str
    begins: tuple[float, float]
    marks: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class Chalk:
    """What is told about a pattern that is chalked.

    Args:
        kind: what it is to the chalk.
        size: of its box, along and across, mm.
        corners: from the end and the baseline; of a disc its middle.
        curves: which of the corners' connections are curved: from corner k to the next.
        radii: of a disc its radius; of a sector the inner and the outer one.
        centre: of a sector, from the end and the baseline.
        angle: of a sector, radians.
        chord: of a sector's outer arc.
        rise: of that.
        holes: openings.
        notches: match marks by edge.
        around: how long its outline is.
    """

    kind: ChalkKind
    size: tuple[float, float]
    corners: tuple[tuple[float, float], ...]
    curves: dict[int, Curved]
    radii: tuple[float, ...] = ()
    centre: tuple[float, float] = (0.0, 0.0)
    angle: float = 0.0
    chord: float = 0.0
    rise: float = 0.0
    holes: tuple[Hole, ...] = ()
    notches: tuple[Notched, ...] = ()
    around: float = 0.0

    @property
    def diagonal(self) -> float:
        """Both diagonals of its box, mm."""
        return math.hypot(*self.size)

    @property
    def by_string(self) -> bool:
        """Whether its arcs are drawn by a string."""
        return bool(self.radii) and max(self.radii) <= LONGEST_STRING

    def redrawn(self) -> Points:
        """The outline as these numbers draw it, a ring `(n, 2)`."""
        if self.kind is ChalkKind.DISC:
            angles = np.linspace(0.0, 2.0 * math.pi, 721)[:-1]
            (x, y), r = self.corners[0], self.radii[0]
            return np.column_stack((x + r * np.cos(angles), y + r * np.sin(angles)))
        parts = []
        for k, corner in enumerate(self.corners):
            curve = self.curves.get(k)
            parts.append(curve.points()[:-1] if curve is not None else np.array([corner]))
        return np.concatenate(parts)


def _through(at: Points, heights: Points) -> tuple[Points, Points]:
    """A smooth line through heights, as one draws it along a bent batten: cubic from each to the next, its slope that of the parabola through three."""
    slopes = np.empty(len(at))
    steps = np.diff(at)
    rises = np.diff(heights) / steps
    if len(steps) == 1:
        return at, heights
    slopes[1:-1] = (rises[:-1] * steps[1:] + rises[1:] * steps[:-1]) / (steps[:-1] + steps[1:])
    slopes[0], slopes[-1] = 2.0 * rises[0] - slopes[1], 2.0 * rises[-1] - slopes[-2]
    runs, made = [], []
    for k, step in enumerate(steps):
        t = np.linspace(0.0, 1.0, 9)[:-1]
        h00, h10 = (1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2
        h01, h11 = t * t * (3 - 2 * t), t * t * (t - 1)
        runs.append(at[k] + t * step)
        made.append(h00 * heights[k] + h10 * step * slopes[k] + h01 * heights[k + 1] + h11 * step * slopes[k + 1])
    return np.append(np.concatenate(runs), at[-1]), np.append(np.concatenate(made), heights[-1])


def proposed(panel: Panel) -> Marking:
    """How a pattern gets onto cloth where nobody has decided it."""
    ring = _ring(panel)
    if _rectangle(ring) or _disc(ring) is not None:
        return Marking.CHALK
    if float(np.ptp(ring, axis=0).max()) < SMALL:
        return Marking.TEMPLATE
    return Marking.CORNER if rounded_corner(panel) else Marking.CHALK


def way_of(choices: CoverChoices, panel: Panel) -> Marking:
    """How a pattern gets onto cloth."""
    return choices.marking.get(panel.name) or proposed(panel)


def rounded_corner(panel: Panel) -> float:
    """How large the rounded corners of a rectangle are, mm along its sides; 0 for what is no rectangle with such corners."""
    ring = _ring(panel)
    low, high = ring.min(axis=0), ring.max(axis=0)
    after = np.roll(ring, -1, axis=0)
    sides = np.abs(after - ring)
    straight = 0.0
    deepest = 0.0
    for axis in (0, 1):
        for border in (low[1 - axis], high[1 - axis]):
            on = (np.abs(ring[:, 1 - axis] - border) < ROUND) & (np.abs(after[:, 1 - axis] - border) < ROUND)
            long = float(sides[on, axis].sum())
            straight += long
            deepest = max(deepest, (float(high[axis] - low[axis]) - long))
    around = 2.0 * float((high - low).sum())
    return deepest if straight > 0.5 * around and 0.0 < deepest < 0.7 * float((high - low).min()) else 0.0


def _ring(panel: Panel) -> Points:
    """The outline to cut, as it is before quilting or washing, from its own left lower corner."""
    scale = np.array([1.0 / (1.0 - share) for share in panel.take_up])
    ring: Points = cut_line(panel) * scale
    ring = ring - ring.min(axis=0)
    return ring


def _rectangle(ring: Points) -> bool:
    low, high = ring.min(axis=0), ring.max(axis=0)
    near = (np.abs(ring - low) < ROUND) | (np.abs(ring - high) < ROUND)
    corners = near.all(axis=1).sum()
    return bool(near.any(axis=1).all() and corners >= 4)


def _disc(ring: Points) -> tuple[Points, float] | None:
    """Middle and radius of a circle; None for what is none."""
    middle = (ring.min(axis=0) + ring.max(axis=0)) / 2.0
    away = np.hypot(*(ring - middle).T)
    radius = float(away.max())
    return (middle, radius) if len(ring) > 12 and radius - float(away.min()) < ROUND + radius * 1e-4 else None


def chalk_of(panel: Panel, unit: Unit) -> Chalk:
    """What is told about a pattern that is chalked, in steps of those who work in a unit."""
    ring = _ring(panel)
    moved = cut_line(panel).min(axis=0)
    size = (float(ring[:, 0].max()), float(ring[:, 1].max()))
    around = float(np.hypot(*(np.roll(ring, -1, axis=0) - ring).T).sum())
    scale = (1.0 / (1.0 - panel.take_up[0]), 1.0 / (1.0 - panel.take_up[1]))
    more = {"holes": tuple(_holes(panel, moved, scale)), "notches": tuple(_notches(panel, moved, scale)), "around": around}
    disc = _disc(ring)
    if disc is not None:
        middle, radius = disc
        return Chalk(ChalkKind.DISC, size, ((float(middle[0]), float(middle[1])),), {}, (radius,), **more)  # type: ignore[arg-type]
    if _rectangle(ring):
        square = ((0.0, 0.0), (size[0], 0.0), size, (0.0, size[1]))
        return Chalk(ChalkKind.RECTANGLE, size, square, {}, **more)  # type: ignore[arg-type]
    corners, curves = _corners(ring, unit)
    sector = _sector(panel, moved) if scale == (1.0, 1.0) else None
    if sector is not None:
        radii, centre, angle = sector
        chord, rise = 2.0 * radii[1] * math.sin(angle / 2.0), radii[1] * (1.0 - math.cos(angle / 2.0))
        return Chalk(ChalkKind.SECTOR, size, corners, curves, radii, centre, angle, chord, rise, **more)  # type: ignore[arg-type]
    return Chalk(ChalkKind.OUTLINE, size, corners, curves, **more)  # type: ignore[arg-type]


def _sector(panel: Panel, moved: Points) -> tuple[tuple[float, float], tuple[float, float], float] | None:
    """Cut radii, centre and angle of a pattern between two arcs about one centre; None for any other."""
    arcs = [edge for edge in panel.edges if isinstance(edge.curve, Arc) and abs(edge.curve.curvature) > 1e-9]
    lines = [edge for edge in panel.edges if isinstance(edge.curve, Arc) and abs(edge.curve.curvature) <= 1e-9]
    if len(arcs) != 2 or len(arcs) + len(lines) != len(panel.edges):
        return None
    found = []
    for edge in arcs:
        curve = edge.curve
        assert isinstance(curve, Arc)
        radius = 1.0 / curve.curvature
        centre = np.array(curve.start) + radius * np.array((-math.sin(curve.heading), math.cos(curve.heading)))
        found.append((abs(radius), radius > 0.0, centre, edge.finish.allowance, abs(curve.curvature) * curve.length))
    (r1, left1, c1, a1, angle), (r2, left2, c2, a2, _) = found
    if left1 == left2 or float(np.hypot(*(c1 - c2))) > 0.5 + 1e-4 * max(r1, r2):
        return None
    outer = (r1 + a1) if left1 else (r2 + a2)
    inner = (r2 - a2) if left1 else (r1 - a1)
    at = c1 - moved
    return (inner, outer), (float(at[0]), float(at[1])), angle


def _corners(ring: Points, unit: Unit) -> tuple[tuple[tuple[float, float], ...], dict[int, Curved]]:
    """Where an outline has corners, or is parted because it turns too far; and the curves between."""
    along = np.roll(ring, -1, axis=0) - ring
    heading = np.arctan2(along[:, 1], along[:, 0])
    turn = np.remainder(heading - np.roll(heading, 1) + math.pi, 2.0 * math.pi) - math.pi
    long = np.hypot(*along.T) > STRAIGHT
    bent = np.zeros(len(ring), dtype=bool)  # a nearly straight arc has long chords, too
    for bow in bows(ring, closed=True):
        bent[bow.first : bow.last] = True
    long &= ~bent
    ends = long | np.roll(long, 1)  # where a straight stretch begins or ends
    sharp = np.flatnonzero((np.abs(turn) > CORNER) | (ends & (np.abs(turn) > 1e-9))).tolist()
    if not sharp:
        sharp = sorted(
            {int(np.argmin(ring[:, 0])), int(np.argmax(ring[:, 0])), int(np.argmin(ring[:, 1])), int(np.argmax(ring[:, 1]))}
        )
    begins: list[int] = []
    for i, start in enumerate(sharp):
        end = sharp[(i + 1) % len(sharp)]
        count = (end - start) % len(ring) or len(ring)
        begins += _parted(turn, start, count)
    corners = [(float(ring[k][0]), float(ring[k][1])) for k in begins]
    curves: dict[int, Curved] = {}
    for i, start in enumerate(begins):
        end = begins[(i + 1) % len(begins)]
        count = (end - start) % len(ring) or len(ring)
        if count > 1:
            part = ring[np.arange(start, start + count + 1) % len(ring)]
            if _bulge(part) > ROUND:
                curves[i] = _offsets(part, unit)
    return tuple(corners), curves


def _parted(turn: Points, start: int, count: int) -> Iterator[int]:
    """Where a stretch begins, and further on where it has turned as far as one part may."""
    yield start
    turned = 0.0
    for k in range(1, count):
        here = float(turn[(start + k) % len(turn)])
        if abs(turned + here) > MOST_TURN:
            yield (start + k) % len(turn)
            turned = 0.0
        turned += here


def _bulge(part: Points) -> float:
    """How far a line leaves the one between its ends."""
    a, b = part[0], part[-1]
    along = (b - a) / max(float(np.hypot(*(b - a))), 1e-9)
    off = (part - a) @ np.array((-along[1], along[0]))
    return float(np.abs(off).max())


def _offsets(part: Points, unit: Unit) -> Curved:
    """A curve by its offsets, as few as will do."""
    a, b = part[0], part[-1]
    chord = float(np.hypot(*(b - a)))
    along = (b - a) / chord
    runs, off = (part - a) @ along, (part - a) @ np.array((-along[1], along[0]))
    length = float(np.hypot(*np.diff(part, axis=0).T).sum())
    start, end = (float(a[0]), float(a[1])), (float(b[0]), float(b[1]))
    made = None
    for step in STEPS[bool(unit.denominator)]:
        places = np.arange(step, chord - 0.25 * step, step)
        made = Curved(start, end, step, tuple(np.interp(places, runs, off).tolist()), length)
        if step < chord and _leaves(made, part, along) <= THROUGH:
            return made
    assert made is not None
    return made


def _leaves(curve: Curved, part: Points, along: Points) -> float:
    """How far a curve through its offsets leaves the outline."""
    left = np.array((-along[1], along[0]))
    drawn = curve.points() - part[0]
    runs, off = (part - part[0]) @ along, (part - part[0]) @ left
    return float(np.abs(np.interp(drawn @ along, runs, off) - drawn @ left).max())


def _holes(panel: Panel, moved: Points, scale: tuple[float, float]) -> Iterator[Hole]:
    for figure in panel.figures:
        if figure.kind in (MarkKind.CUT_OUT, MarkKind.BOXED) and figure.closed and len(figure.points) > 2:
            points = (figure.points - moved) * scale
            low, high = points.min(axis=0), points.max(axis=0)
            middle, size = (low + high) / 2.0, high - low
            yield Hole(
                figure.name, (float(middle[0]), float(middle[1])), (float(size[0]), float(size[1])), _disc(points) is not None
            )


def _notches(panel: Panel, moved: Points, scale: tuple[float, float]) -> Iterator[Notched]:
    for edge in panel.edges:
        marks = [
            (n.label, n.fraction * edge.curve.length) for n in panel.notches if n.edge == edge.name and n.kind is MarkKind.NOTCH
        ]
        if marks:
            x, y = (np.array(edge.curve.start) - moved) * scale
            yield Notched(edge.name, (float(x), float(y)), tuple(sorted(marks, key=lambda mark: mark[1])))


def step_of(unit: Unit) -> float:
    """What numbers for the chalk are rounded to, mm: half a millimetre, the fractions of the job."""
    return unit.step if unit.denominator else 0.5


def rounded_to(chalk: Chalk, step: float) -> Chalk:
    """The same with every number as it is written, to a step, mm."""

    def near(value: float) -> float:
        return round(value / step) * step

    def both(point: tuple[float, float]) -> tuple[float, float]:
        return near(point[0]), near(point[1])

    curves = {
        k: replace(c, start=both(c.start), end=both(c.end), offsets=tuple(near(o) for o in c.offsets))
        for k, c in chalk.curves.items()
    }
    corners, radii = tuple(both(c) for c in chalk.corners), tuple(near(r) for r in chalk.radii)
    return replace(chalk, size=both(chalk.size), corners=corners, curves=curves, radii=radii)
