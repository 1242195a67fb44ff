"""How long an edge is, as a number that moves with the readings; and how tightly it bends."""

import math
from collections.abc import Iterable

import numpy as np

from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.plane.curves import Arc, Curve, turn_between
from omnipel.core.tolerances import CORNER_ANGLE
from omnipel.core.words.phrases import term, tr
from omnipel.core.words.working import Worked, worked


def edge_length(panel: Panel, edge: Edge) -> Worked:
    """The length of an edge: the very size of its panel that it is as long as, so that it moves with the readings; else what is measured on it."""
    name = tr("{edge} of the {panel}", edge=term(edge.name), panel=term(panel.name))
    known: list[Worked] = [panel.length, panel.width, *panel.sizes.values()]
    if "radius" in panel.sizes:
        known += [panel.sizes["radius"] * (2.0 * math.pi), panel.sizes["radius"] * math.pi]
    for size in known:
        if math.isclose(size.value, edge.curve.length, rel_tol=1e-9, abs_tol=1e-9):
            return size.named(name)
    return worked(name, edge.curve.length)


def tightest(curves: Iterable[Curve]) -> float:
    """The radius of the tightest bend of some curves, mm; infinite where all are straight. Corners are no bends."""
    radii = [math.inf]
    for curve in curves:
        if isinstance(curve, Arc):
            radii += [1.0 / abs(curve.curvature)] if curve.curvature else []
            continue
        steps = np.diff(curve.vertices, axis=0)
        long = np.hypot(*steps.T)
        headings = np.arctan2(steps[:, 1], steps[:, 0])
        for k in range(len(steps) - 1):
            turn = abs(turn_between(float(headings[k]), float(headings[k + 1])))
            if 1e-6 < turn < CORNER_ANGLE:
                radii.append(float(long[k] + long[k + 1]) / 2.0 / turn)
    return min(radii)
