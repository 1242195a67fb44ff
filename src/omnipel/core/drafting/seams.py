"""Seams: chains of edges that are sewn to one another, their truing and their match marks."""

import bisect
import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from omnipel.core.drafting.panel import Edge, MarkKind, Notch, Panel
from omnipel.core.job.document import ClipSchool
from omnipel.core.plane.curves import Arc, turn_between
from omnipel.core.tolerances import (
    CLIP_RADIUS,
    CLIP_RADIUS_TIGHT,
    CLIP_SPACING,
    CLIP_SPACING_TIGHT,
    CORNER_ANGLE,
    NOTCH_SPACING,
    SEAM,
)

MOST_LABELS = 3
"""No more labels than this are written at one notch."""


class SeamKind(StrEnum):
    """How a seam is sewn."""

    PLAIN = "plain"
    FELLED = "semi-flat felled"
    LAPPED = "lapped"
    BOUND = "bound"
    GATHERED = "gathered"
    BAGGED = "bagged"
    BOXED = "boxed corner"
    CAUGHT = "caught in the hem"
    ZIP = "zip"


@dataclass(frozen=True, slots=True)
class Run:
    """One edge of one piece, as part of a seam's side; reversed when it is walked against the sense in which its panel is drawn."""

    piece: str
    edge: str
    reversed: bool = False


@dataclass(frozen=True, slots=True)
class Seam:
    """Two chains of edges sewn together: length of `a` = `ratio` × length of `b`.

    Args:
        name: what it is called.
        a: the side that is easier to change.
        b: the other side.
        ratio: 1 unless `a` is gathered or eased onto `b`.
        kind: how it is sewn: a `SeamKind`, or the key of a construction.
        ring: whether it closes on itself.
        tolerance: how far the sides may differ, mm.
        easier: name of the size that changes side `a`, for the remedy.
        easier_share: that size as a share of side `a`: 1/n when n panels make it up.
        easier_more: what that size is longer than so much of side `a`, mm: what laps over.
        onto: whether `a` is only caught in a seam that side `b` already has: what hangs there as well, what laps over.
        rows: rows of topstitching.
        tacked: whether both ends are reinforced.
        stretch: where its construction begins and ends, mm along the sewn seam from the beginning of side `a`; None where it runs all along.
        wide: the construction's own width, mm.
        whole: the seam that it is a part of, where that is left open somewhere.
        between: how far its sides lie apart where they are only caught in one edge: the layers that lie between them, mm.
        parts: whether it joins parts of what was one panel.
    """

    name: str
    a: tuple[Run, ...]
    b: tuple[Run, ...]
    ratio: float = 1.0
    kind: str = SeamKind.PLAIN
    ring: bool = False
    tolerance: float = SEAM
    easier: str = ""
    easier_share: float = 1.0
    easier_more: float = 0.0
    onto: bool = False
    rows: int = 0
    tacked: bool = False
    stretch: tuple[float, float] | None = None
    wide: float = 0.0
    whole: str = ""
    between: float = 0.0
    parts: bool = False

    @property
    def sides(self) -> tuple[tuple[Run, ...], tuple[Run, ...]]:
        """Both sides."""
        return self.a, self.b


@dataclass(frozen=True, slots=True)
class MatchMark:
    """A mark that both sides carry at the same fraction of their sew line."""

    label: str
    fraction: float


@dataclass(frozen=True, slots=True)
class Trued:
    """A seam that has been walked: both lengths, what is over, and the marks.

    Args:
        seam: the seam; the first of those alike.
        length_a: of side `a`, mm.
        length_b: of side `b`, mm.
        marks: match marks on both sides.
        alike: all seams that join the same edges of the same panels, this one among them.
    """

    seam: Seam
    length_a: float
    length_b: float
    marks: tuple[MatchMark, ...]
    alike: tuple[Seam, ...] = ()

    @property
    def times(self) -> int:
        """How many such seams there are."""
        return max(1, len(self.alike))

    @property
    def difference(self) -> float:
        """What side `a` is too long (positive) or too short, mm."""
        return self.length_a - self.seam.ratio * self.length_b

    @property
    def true(self) -> bool:
        """Whether the sides agree within the seam's tolerance."""
        return abs(self.difference) <= self.seam.tolerance


def true(seam: Seam, panels: Mapping[str, Panel], letter: str = "A", alike: tuple[Seam, ...] = ()) -> Trued:
    """Walk both sides of a seam, the panels given by the names of their pieces. `letter` starts the labels of its match marks.

    Raises:
        KeyError: the seam names a piece or edge that is not there.
    """
    length_a, length_b = _length(seam.a, panels), _length(seam.b, panels)
    fractions = match_fractions(seam, panels)
    marks = tuple(MatchMark(f"{letter}{i}", fraction) for i, fraction in enumerate(fractions, 1))
    return Trued(seam, length_a, length_b, marks, alike)


def alike(seams: Sequence[Seam], panel_of: Mapping[str, str]) -> list[tuple[Seam, ...]]:
    """Seams grouped by what they join: the same edges of the same panels, in pieces of their own; `panel_of` is the panel of each piece."""
    groups: dict[object, list[Seam]] = {}
    for seam in seams:
        sides = tuple(tuple((panel_of[run.piece], run.edge, run.reversed) for run in side) for side in seam.sides)
        groups.setdefault((seam.name, sides, seam.ratio, seam.kind, seam.ring, seam.onto), []).append(seam)
    return [tuple(group) for group in groups.values()]


def _length(side: Sequence[Run], panels: Mapping[str, Panel]) -> float:
    return math.fsum(panels[run.piece].edge(run.edge).curve.length for run in side)


def match_fractions(seam: Seam, panels: Mapping[str, Panel]) -> list[float]:
    """Where the match marks lie, as fractions of the sew line, 0 ≤ f < 1 for a ring and 0 < f < 1 for an open seam.

    Quarter points of a ring, the middle of an open seam, every place where an edge ends on either side (a corner the strip
    bends around, a curve's beginning or end, another panel's seam), and more so that none is far from the next.
    """
    wanted = {0.0, 0.25, 0.5, 0.75} if seam.ring else {0.0, 0.5, 1.0}
    longest = 0.0
    for side in (seam.a, seam.b):
        total = _length(side, panels)
        longest = max(longest, total)
        run_so_far = 0.0
        for run in side[:-1]:
            run_so_far += panels[run.piece].edge(run.edge).curve.length
            wanted.add(run_so_far / total if total else 0.0)
    if not longest:
        return []
    near = 5.0 / longest  # two marks closer than 5 mm read as one
    fixed: list[float] = []
    for fraction in sorted(wanted):
        if not fixed or fraction - fixed[-1] > near:
            fixed.append(fraction)
    stops = [*fixed, 1.0] if seam.ring else fixed
    full: list[float] = []
    for start, stop in zip(stops, stops[1:], strict=False):
        parts = max(1, math.ceil((stop - start) * longest / NOTCH_SPACING - 1e-9))
        full += [start + (stop - start) * part / parts for part in range(parts)]
    return full if seam.ring else [fraction for fraction in full if near < fraction < 1.0 - near]


def with_marks(
    panels: Sequence[Panel], panel_of: Mapping[str, str], walked: Sequence[Trued], clips: ClipSchool = ClipSchool.STRAIGHT
) -> tuple[Panel, ...]:
    """The panels with the match marks and relief clips of their seams; `panel_of` is the panel of each piece."""
    known = {panel.name: panel for panel in panels}
    by_name = {piece: known[panel] for piece, panel in panel_of.items()}
    labels: dict[str, dict[tuple[str, float, MarkKind], dict[str, None]]] = {panel.name: {} for panel in panels}
    notches: dict[str, dict[tuple[str, float], Notch]] = {panel.name: {} for panel in panels}
    for trued in walked:
        for way in (Way(side, by_name) for side in trued.seam.sides):
            for mark in trued.marks:
                run, fraction = way.locate(mark.fraction)
                at_corner = not 1e-6 < fraction < 1.0 - 1e-6 and _turns(by_name[run.piece], run.edge, fraction > 0.5)
                place = (run.edge, round(fraction, 6), MarkKind.CORNER if at_corner else MarkKind.NOTCH)
                labels[panel_of[run.piece]].setdefault(place, {})[mark.label] = None
        for run, notch in _clips(trued, by_name, clips):
            notches[panel_of[run.piece]].setdefault((run.edge, round(notch.fraction, 6)), notch)
    made = []
    for panel in panels:
        marks = [
            Notch(edge, fraction, _together(list(words)), kind) for (edge, fraction, kind), words in labels[panel.name].items()
        ]
        more = (*marks, *notches[panel.name].values())
        made.append(replace(panel, notches=(*panel.notches, *more)) if more else panel)
    return tuple(made)


def _turns(panel: Panel, name: str, at_end: bool) -> bool:
    """Whether the sew line turns a corner where an edge begins or ends."""
    names = [edge.name for edge in panel.edges]
    i = names.index(name)
    before, after = (panel.edges[i], panel.edges[(i + 1) % len(names)]) if at_end else (panel.edges[i - 1], panel.edges[i])
    return abs(turn_between(before.curve.heading_at(1.0), after.curve.heading_at(0.0))) > CORNER_ANGLE


def _together(labels: Sequence[str]) -> str:
    """The labels of one place of a panel; where it is cut so many times that each copy has its own, the letter of the seam."""
    letters = list(dict.fromkeys(label.rstrip("0123456789") for label in labels))
    return "/".join(labels if len(labels) <= MOST_LABELS else letters)


class Way:
    """A side of a seam to be walked: where each of its runs ends."""

    def __init__(self, side: Sequence[Run], panels: Mapping[str, Panel]) -> None:
        self.runs = tuple(side)
        self.lengths = [_edge(run, panels).curve.length for run in side]
        self.ends = list(itertools.accumulate(self.lengths))

    def locate(self, fraction: float) -> tuple[Run, float]:
        """Which run a fraction of the side's length falls on, and the fraction of that edge in its own direction."""
        at = fraction * self.ends[-1]
        i = min(bisect.bisect_left(self.ends, at * (1.0 - 1e-9)), len(self.runs) - 1)
        left, length, run = at - (self.ends[i] - self.lengths[i]), self.lengths[i], self.runs[i]
        inner = min(1.0, max(0.0, left / length if length else 0.0))
        return run, 1.0 - inner if run.reversed else inner


def _clips(trued: Trued, panels: Mapping[str, Panel], school: ClipSchool) -> list[tuple[Run, Notch]]:
    """Relief clips where one side is straight and the other a tight outward curve."""
    if school not in (ClipSchool.STRAIGHT, ClipSchool.DISC):
        return []
    found = []
    for straight, bent in ((trued.seam.a, trued.seam.b), (trued.seam.b, trued.seam.a)):
        if any(_radius(_edge(run, panels)) is not None for run in straight):
            continue
        done, total = 0.0, _length(bent, panels)
        way = Way(straight if school is ClipSchool.STRAIGHT else bent, panels)
        for run in bent:
            edge = _edge(run, panels)
            radius = _radius(edge)
            length = edge.curve.length
            if radius is not None and radius < CLIP_RADIUS:
                spacing = CLIP_SPACING_TIGHT if radius < CLIP_RADIUS_TIGHT else CLIP_SPACING
                for k in range(1, int(length / spacing)):
                    whole = (done + k * spacing) / total
                    where, fraction = way.locate(whole)
                    found.append((where, Notch(where.edge, fraction, "", MarkKind.CLIP)))
            done += length
    return found


def _edge(run: Run, panels: Mapping[str, Panel]) -> Edge:
    return panels[run.piece].edge(run.edge)


def _radius(edge: Edge) -> float | None:
    """Radius of an outward-curved edge; None for straight, inward or traced ones."""
    if isinstance(edge.curve, Arc) and edge.curve.curvature > 0.0:
        return 1.0 / edge.curve.curvature
    return None
