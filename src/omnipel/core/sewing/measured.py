"""Sizes to be measured on what is sewn: at a try-on, and when it is finished; those first that the tape may have got most wrong."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from omnipel.core.drafting.panel import Cloth
from omnipel.core.sewing.plan import Plan, Step
from omnipel.core.tape.readings import spread
from omnipel.core.words.phrases import Phrase, mm, term, tr
from omnipel.core.words.working import Worked

MOST: Final = 6
"""More sizes are not asked for: who is trying a cover on has not all day."""
SAME: Final = 0.05
"""Sizes that differ by less are one, mm."""
SURPRISES: Final = 2.0
"""What is off by more than so many of its spreads is no chance."""


@dataclass(frozen=True, slots=True)
class Size:
    """A size that can be measured on the cover.

    Args:
        key: by which it is kept: the step, and what is measured.
        words: what is measured.
        planned: what it should be, with its sum, mm.
        sigma: how far it may be off by the tape and by the sewing, mm.
    """

    key: str
    words: Phrase
    planned: Worked
    sigma: float

    def off(self, made: float) -> Phrase:
        """How far what was measured is off, and whether that is more than chance."""
        by = made - self.planned.value
        if abs(by) < 0.5:
            return tr("as planned")
        how = tr("{by} more than planned", by=mm(by)) if by > 0.0 else tr("{by} less than planned", by=mm(-by))
        if abs(by) <= SURPRISES * self.sigma:
            return how
        return tr("{how}: more than tape and sewing explain", how=how)


def sizes(plan: Plan, step: Step) -> list[Size]:
    """What is asked for at a step where one stops."""
    if not step.stop:
        return []
    drafted = plan.making.drafted
    sigmas = {reading.place: spread(reading) for reading in drafted.job.readings}
    sewn = drafted.job.cover.sewing_sigma

    def sigma(number: Worked, seams: float) -> float:
        read = math.fsum((slope * sigmas.get(place, 0.0)) ** 2 for place, slope in number.slopes.items())
        return math.sqrt(read + seams * sewn**2)

    found = {what: Size(f"{step.key}/{what}", words, number, sigma(number, seams)) for what, words, number, seams in _told(plan)}
    return sorted(found.values(), key=lambda size: -size.sigma)[:MOST]


def _told(plan: Plan) -> Iterator[tuple[str, Phrase, Worked, float]]:
    """What can be measured: every opening around, every panel along and across; with how many seams lie across it."""
    making, around = plan.making, []
    for edge in making.edges:
        if edge.length.value > 0.0:
            around.append(edge.length.value)
            seams = float(len({run.piece for run in edge.runs}))
            yield f"edge:{edge.name}", tr("{edge}, all around", edge=term(edge.name)), edge.length, seams
    shown = {making.drafted.cover.panel_of.get(name, name) for name in making.surface}
    for panel in making.drafted.cover.panels:
        if panel.cloth is not Cloth.OUTER or panel.name not in shown:
            continue
        name, (long, wide) = term(panel.name), (panel.length, panel.width)
        if abs(long.value - wide.value) < SAME:
            yield f"panel:{panel.name}/across", tr("{panel}, finished, across", panel=name), long, 2.0
            continue
        if not any(abs(long.value - known) < SAME for known in around):
            yield f"panel:{panel.name}/length", tr("{panel}, finished length", panel=name), long, 2.0
        yield f"panel:{panel.name}/width", tr("{panel}, finished height", panel=name), wide, 2.0
