"""Which edge of its panel something reaches for: up, down, right or left of where it lies."""

from collections.abc import Callable, Mapping, Sequence
from typing import Final

import numpy as np

from omnipel.core.covers.options import Option, pick
from omnipel.core.drafting.panel import MarkKind, Notch
from omnipel.core.finishing.fixing import STITCHED
from omnipel.core.finishing.kind import Put, Values
from omnipel.core.job.feature import Choice
from omnipel.core.job.finish import SEWN
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, mm, term, tr
from omnipel.core.words.working import Worked, worked

NOWHERE: Final = "none"
WAYS: Final = {"down": (0.0, 1.0), "up": (0.0, -1.0), "right": (1.0, 0.0), "left": (-1.0, 0.0)}
"""Directions, right and down."""
SEAMS: Final = {
    "the seam above": "up",
    "the seam below": "down",
    "the seam to the right": "right",
    "the seam to the left": "left",
}


def caught(*first: str) -> Option:
    """Whether something is caught in a seam beside it, or stitched on."""
    picks = tuple(dict.fromkeys((*first, STITCHED, *SEAMS)))
    return pick("caught", tr("caught in"), picks, tr("What is caught in a seam pulls at both panels, and needs no patch."))


Wide = Callable[[Put], float]
"""How much of an edge something takes up that is caught there, mm."""


def as_wide(put: Put) -> float:
    """What is as wide as was chosen."""
    return put.feature.width


def as_webbing(put: Put) -> float:
    """What is as wide as webbing."""
    return put.habit("webbing")


def as_tie(put: Put) -> float:
    """What is as wide as a tie."""
    return put.habit("tie width")


def sliding(wide: Wide) -> Callable[[Put], frozenset[str]]:
    """What is caught in a seam slides along it only; where that cannot hold it it lies nowhere, and nothing else counts."""

    def idle(put: Put) -> frozenset[str]:
        if put.picked("caught") == STITCHED:
            return frozenset()
        edge, _, upright = _edge(put)
        if not _holds(put, edge, wide):
            others = {option.key for option in put.kind.options} - {"caught"}
            sizes = set() if put.host.edge(edge).finish.kind in SEWN else {"width", "height"}  # it may only be too long
            return frozenset({"from_top", "from_centre"} | sizes | others)
        return frozenset({"from_top"} if upright else {"from_centre"})

    return idle


def _edge(put: Put) -> tuple[str, float, bool]:
    """The edge that something is to be caught in, the share of it, and whether that lies above or below."""
    way = WAYS[SEAMS[put.picked("caught")]]
    edge, share, _ = put.ground.to_edge(put.spot, way)
    return edge, share, way[1] != 0.0


def _holds(put: Put, edge: str, wide: Wide) -> bool:
    """Whether an edge is sewn, and long enough to hold something."""
    found = put.host.edge(edge)
    return found.finish.kind in SEWN and wide(put) < found.curve.length


def caught_edge(put: Put, wide: Wide) -> tuple[str, float] | None:
    """The edge of its panel that something is caught in, and the share of it; None, and a finding, where that cannot hold it."""
    edge, share, _ = _edge(put)
    if _holds(put, edge, wide):
        return edge, share
    found, seam = put.host.edge(edge), term(put.picked("caught"))
    if found.finish.kind in SEWN:
        text = tr(
            "{feature} is to be caught in {seam}, but the {edge} of the {panel} is only {long} long.",
            feature=put.name,
            seam=seam,
            edge=term(edge),
            panel=put.on,
            long=mm(found.curve.length),
        )
    else:
        text = tr(
            "{feature} is to be caught in {seam}, but the {edge} of the {panel} is no seam.",
            feature=put.name,
            seam=seam,
            edge=term(edge),
            panel=put.on,
        )
    put.stop("handle-not-in-seam", text)
    return None


def mark_caught(put: Put, edge: str, share: float, wide: float) -> float:
    """Two marks on an edge between which something so wide is caught; moved along it where it would reach beyond its end. The share of its middle."""
    long = put.host.edge(edge).curve.length
    half = min(wide / long, 1.0) / 2.0
    at = min(max(share, half), 1.0 - half)
    for side in (-1.0, 1.0):
        put.mark(Notch(edge, at + side * half, put.feature.name[:6], MarkKind.POINT))
    return at


def caught_length(put: Put) -> Worked:
    """How much of it lies in a seam: the allowance, and what is caught beyond."""
    return worked(tr("seam allowance"), put.choices.seam_allowance, refs.SEAM_ALLOWANCE) + worked(
        tr("caught in the seam"), put.habit("caught")
    )


def other_seams(values: Values) -> Sequence[tuple[Phrase, Mapping[str, Choice]]]:
    """The other seams that something could be caught in, and to stitch it on."""
    return [(tr("caught in: {how}", how=term(how)), {"caught": how}) for how in (*SEAMS, STITCHED) if how != values["caught"]]


def cross(x: float, y: float) -> np.ndarray:
    """A small cross at a place of a feature's own frame, `(5, 2)`."""
    return np.array([(x - 4, y), (x + 4, y), (x, y), (x, y - 4), (x, y + 4)])
