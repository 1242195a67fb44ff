"""How long an edge is, as a number that moves with the readings."""

import math

from omnipel.core.drafting.panel import Edge, Panel
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
