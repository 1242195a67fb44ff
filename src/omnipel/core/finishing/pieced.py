"""A lining that its cloth is too small for is pieced.

One that is wider than its cloth is parted by level lines, each part as wide as the cloth, what is left over above. A strip whose own width around is narrower
than is needed is parted by upright ones, off the corners, and what is missing added.
"""

from dataclasses import replace
from typing import Final

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.parting import UPRIGHT, parted_across, parted_upright
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import SeamKind
from omnipel.core.finishing.inner import FOLDED
from omnipel.core.finishing.parted import parts_of, with_halves
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.finish import seam
from omnipel.core.space.placements import normals
from omnipel.core.tolerances import SAME_SIZE
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import worked

LEAST: Final = 50.0
"""No part is narrower than this, mm: less cannot be handled at the machine; nor does a join lie nearer to a corner or an opening."""
MOST: Final = 12
"""In more parts nothing is pieced."""
LOOKS: Final = 721
"""Corners are looked for in so many places along a strip."""
WORDS: Final = "piecing of "
"""What the seams between the parts are called, before the panel."""


def too_wide(panel: Panel, choices: CoverChoices) -> bool:
    """Whether a panel of the lining goes onto its cloth neither across nor along."""
    cut = panel.rough_cut or (panel.cut_length.value, panel.cut_width.value)
    return panel.cloth is Cloth.LINING and min(cut) > choices.lining.cloth.cut_width


def pieced(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with those panels of its lining pieced that are wider than their cloth; one that no level line parts in two stays as it is."""
    waiting = [panel for panel in cover.panels if too_wide(panel, choices)]
    for panel in waiting:
        cover = _pieced(cover, panel, choices, MOST)
    return cover


def _pieced(cover: Cover, panel: Panel, choices: CoverChoices, left: int) -> Cover:
    if left == 0 or not too_wide(panel, choices):
        return cover
    own = choices.lining.seam_allowance
    high = float(panel.sew_points[:, 1].max() - panel.sew_points[:, 1].min())
    beyond = panel.cut_width.value - high
    share = panel.cut_width.value / (panel.rough_cut or (0.0, panel.cut_width.value))[1]
    at = choices.habits.system.down(choices.lining.cloth.cut_width * share - beyond - own)
    if at < LEAST:
        return cover
    at = min(at, high - LEAST) if high - at < LEAST else at
    here = worked(tr("as wide as the cloth"), at, refs.LINING_WIDTH)
    halves = parted_across(panel, at, parts_of(panel.name), (here, panel.width - here), (seam(own), refs.LINING_ALLOWANCE))
    if halves is None:
        return cover
    halves = replace(halves, lower=_noted(halves.lower), upper=_noted(halves.upper))
    made = with_halves(cover, panel.name, halves, f"{WORDS}{panel.name}", SeamKind.PLAIN)
    return _pieced(made, halves.upper, choices, left - 1)


def can_be_filled(panel: Panel, own: float) -> bool:
    """Whether a strip can be pieced from parts of its `own` width, some of it left for joins to lie off corners: of no more than can be handled."""
    return panel.length.value <= MOST * (own - 2.0 * LEAST)


def filled(cover: Cover, panel: Panel, own: float, choices: CoverChoices, left: int = MOST) -> Cover:
    """The cover with a closed strip of its lining in parts that are no longer than its `own` width around, the last of them what is missing."""
    whole = panel.length.value
    if left == 0 or whole <= own + SAME_SIZE:
        return cover
    piece = next(piece for piece in cover.pieces if piece.panel == panel.name)
    at = off_corners(piece, panel, min(own, whole - LEAST))
    here = (
        worked(tr("width of its own"), at, refs.LINING_AROUND)
        if at <= own
        else panel.length - worked(tr("width of its own"), whole - at, refs.LINING_AROUND)
    )
    cut = seam(choices.lining.seam_allowance), refs.LINING_ALLOWANCE
    halves = parted_upright(panel, at, parts_of(panel.name, UPRIGHT), (here, panel.length - here), cut)
    if halves is None:
        return cover
    halves = replace(halves, lower=_noted(halves.lower), upper=_noted(halves.upper))
    made = with_halves(cover, panel.name, halves, f"{WORDS}{panel.name}", SeamKind.PLAIN, UPRIGHT)
    return filled(made, max((halves.lower, halves.upper), key=lambda part: part.length.value), own, choices, left - 1)


def off_corners(piece: Piece, panel: Panel, longest: float) -> float:
    """Where to part a strip so that one part is no longer than was said and the join lies off corners and openings; as far off as can be."""
    low, high = panel.sew_points.min(axis=0), panel.sew_points.max(axis=0)
    whole = float(high[0] - low[0])
    places = np.column_stack((np.linspace(low[0], high[0], LOOKS), np.full(LOOKS, low[1] + (high[1] - low[1]) * 0.37)))
    facing = normals(piece.place, places)
    corners = places[1:, 0][(facing[1:] * facing[:-1]).sum(axis=1) < FOLDED] - low[0]
    holes = [(figure.points[:, 0].min() - low[0], figure.points[:, 0].max() - low[0]) for figure in panel.figures]
    off = [*((at, at) for at in corners), *holes]

    def clear(at: float) -> float:
        return min((max(begin - at, at - end) for begin, end in off), default=np.inf)

    steps = np.arange(0.0, min(2.0 * LEAST, longest - LEAST) + 1.0, LEAST / 5.0)
    ways = [at for step in steps for at in (longest - step, whole - longest + step)]
    return next((at for at in ways if clear(at) >= LEAST), max(ways, key=clear))


def _noted(panel: Panel) -> Panel:
    return replace(panel, notes=(*panel.notes, tr("pieced: sew the parts together first")))
