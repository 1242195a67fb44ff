"""A lining that is wider than its cloth is pieced: parted by level lines, each part as wide as the cloth, what is left over above."""

from dataclasses import replace
from typing import Final

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.parting import parted_across
from omnipel.core.drafting.seams import SeamKind
from omnipel.core.finishing.parted import with_halves
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.finish import seam
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import worked

LEAST: Final = 50.0
"""No part is less high than this, mm: less cannot be handled at the machine."""
MOST: Final = 12
"""In more parts nothing is pieced."""
WORDS: Final = "piecing of "
"""What the seams between the parts are called, before the panel."""


def too_wide(panel: Panel, choices: CoverChoices) -> bool:
    """Whether a panel of the lining goes onto its cloth neither across nor along."""
    cut = panel.rough_cut or (panel.cut_length.value, panel.cut_width.value)
    return panel.cloth is Cloth.LINING and min(cut) > choices.lining.cloth.usable_width


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
    at = choices.habits.system.down(choices.lining.cloth.usable_width * share - beyond - own)
    if at < LEAST:
        return cover
    at = min(at, high - LEAST) if high - at < LEAST else at
    here = worked(tr("as wide as the cloth"), at, refs.LINING_WIDTH)
    names = (f"{panel.name}, lower part", f"{panel.name}, upper part")
    halves = parted_across(panel, at, names, (here, panel.width - here), (seam(own), refs.LINING_ALLOWANCE))
    if halves is None:
        return cover
    halves = replace(halves, lower=_noted(halves.lower), upper=_noted(halves.upper))
    made = with_halves(cover, panel.name, halves, f"{WORDS}{panel.name}", SeamKind.PLAIN)
    return _pieced(made, halves.upper, choices, left - 1)


def _noted(panel: Panel) -> Panel:
    return replace(panel, notes=(*panel.notes, tr("pieced: sew the parts together first")))
