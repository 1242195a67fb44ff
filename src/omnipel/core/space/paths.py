"""Paths in a plane by their own length: what cloth that is bent in one direction follows."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from omnipel.core.plane.curves import Arc, Curve, Points, line
from omnipel.core.tolerances import STRAIGHT_ANGLE

Runs = NDArray[np.float64]
"""`(n,)` lengths along a path from its start, mm."""


@dataclass(frozen=True, eq=False)
class Path:
    """Curves one after the other, each beginning where the one before ends; straight on beyond both ends.

    What runs beyond an end goes on in that end's direction, so that cloth longer than its path still lies somewhere.
    """

    curves: tuple[Curve, ...]

    @cached_property
    def _parts(self) -> tuple[Points, Runs, Runs, Runs]:
        """Start `(k, 2)`, heading, curvature and length `(k,)` of arcs and straight steps."""
        starts: list[Points] = []
        headings: list[Runs] = []
        bends: list[Runs] = []
        lengths: list[Runs] = []
        for curve in self.curves:
            if isinstance(curve, Arc):
                starts.append(np.array([curve.start]))
                headings.append(np.array([curve.heading]))
                bends.append(np.array([curve.curvature]))
                lengths.append(np.array([curve.length]))
            else:
                steps = np.diff(curve.vertices, axis=0)
                starts.append(curve.vertices[:-1])
                headings.append(np.arctan2(steps[:, 1], steps[:, 0]))
                bends.append(np.zeros(len(steps)))
                lengths.append(np.hypot(steps[:, 0], steps[:, 1]))
        return np.concatenate(starts), np.concatenate(headings), np.concatenate(bends), np.concatenate(lengths)

    @cached_property
    def _begins(self) -> Runs:
        """Where each part begins along the path."""
        lengths = self._parts[3]
        return np.concatenate(([0.0], np.cumsum(lengths)[:-1]))

    @cached_property
    def _ways(self) -> Points | None:
        """The direction of each part, `(k, 2)`; None where one of them is bent."""
        _, headings, bends, _ = self._parts
        return None if bends.any() else np.column_stack((np.cos(headings), np.sin(headings)))

    @cached_property
    def length(self) -> float:
        """Of the whole path, mm."""
        return float(self._begins[-1] + self._parts[3][-1])

    @property
    def reversed(self) -> "Path":
        """The same path from its end to its beginning."""
        return Path(tuple(curve.reversed() for curve in self.curves[::-1]))

    def at(self, runs: Runs) -> Points:
        """The points at lengths along the path, `(n, 2)`."""
        starts, headings, bends, lengths = self._parts
        part = np.clip(np.searchsorted(self._begins, runs, side="right") - 1, 0, len(lengths) - 1)
        run = runs - self._begins[part]
        if self._ways is not None:  # straight steps: on beyond both ends, too
            return np.asarray(starts[part] + run[:, None] * self._ways[part])
        inside = np.clip(run, 0.0, lengths[part])
        half = 0.5 * bends[part] * inside
        chord = inside * np.sinc(half / math.pi)
        angle = headings[part] + half
        at = starts[part] + chord[:, None] * np.column_stack((np.cos(angle), np.sin(angle)))
        beyond = run - inside
        if beyond.any():
            on = headings[part] + bends[part] * inside
            at = at + beyond[:, None] * np.column_stack((np.cos(on), np.sin(on)))
        return np.asarray(at)

    def bends(self, chord_error: float) -> Runs:
        """Where cloth is to be creased so that flat facets follow the path to within a chord error: its corners, and steps along its arcs."""
        _, headings, bends, lengths = self._parts
        made = [self._begins]
        for begin, bend, length in zip(self._begins, bends, lengths, strict=True):
            if abs(bend) * length > STRAIGHT_ANGLE:
                count = max(1, math.ceil(length * math.sqrt(abs(bend) / (8.0 * chord_error))))
                made.append(begin + np.linspace(0.0, length, count + 1)[1:-1])
        turns = np.abs(np.diff(headings)) > STRAIGHT_ANGLE
        corners = self._begins[1:][turns | (bends[1:] != 0.0) | (bends[:-1] != 0.0)]
        made[0] = np.concatenate(([0.0], corners, [self.length]))
        return np.unique(np.concatenate(made))


def straight(start: tuple[float, float], *on: tuple[float, float]) -> Path:
    """Straight from point to point; steps without length are left out.

    Raises:
        ValueError: there is no step with a length.
    """
    steps = [line(a, b) for a, b in itertools.pairwise((start, *on)) if math.dist(a, b) > 0.0]
    if not steps:
        raise ValueError("a path needs some length")
    return Path(tuple(steps))


def through(points: Points) -> Path:
    """Straight through points `(n, 2)`."""
    return straight(*((float(x), float(y)) for x, y in points))


def moved(curves: Sequence[Curve], by: tuple[float, float]) -> tuple[Curve, ...]:
    """Curves moved in their plane."""
    made: list[Curve] = []
    for curve in curves:
        if isinstance(curve, Arc):
            made.append(replace(curve, start=(curve.start[0] + by[0], curve.start[1] + by[1])))
        else:
            made.append(type(curve)(curve.vertices + by))
    return tuple(made)
