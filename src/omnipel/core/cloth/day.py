"""A cutting day: several jobs that use the same cloth are laid and bought together, and each bears its share by area."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.lay import Lay, lay_of
from omnipel.core.cloth.sheets import Sheet, cloth_of, sheet, sheet_of
from omnipel.core.cloth.stock import same_cloth
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import ClothChoice, LayChoice
from omnipel.core.words.phrases import Name, tr


@dataclass(frozen=True, eq=False)
class Share:
    """What a job has in a lay that several share: its place among them, its name, the area of its pieces, mm²."""

    job: int
    name: str
    area: float


@dataclass(frozen=True, eq=False)
class Together:
    """Several jobs on one cloth.

    Args:
        sheet: all of their cuts.
        shares: of each job.
        alone: how much of the cloth would be bought for each by itself, all together, mm.
    """

    sheet: Sheet
    shares: tuple[Share, ...]
    alone: float

    def share(self, job: int) -> float:
        """Which share of the cloth a job bears, by area."""
        whole = math.fsum(share.area for share in self.shares)
        return next((share.area for share in self.shares if share.job == job), 0.0) / whole if whole else 0.0

    def laid(self) -> Lay:
        """All of it laid at once."""
        return lay_of(self.sheet)


def cloths_of(jobs: Sequence[Drafted]) -> list[ClothChoice]:
    """The cloths that the jobs use, each once."""
    found: list[ClothChoice] = []
    for drafted in jobs:
        for layer in layers_of(drafted):
            cloth = cloth_of(drafted.job, layer)
            if not any(_alike(cloth, known) for known in found):
                found.append(cloth)
    return found


def _alike(one: ClothChoice, other: ClothChoice) -> bool:
    return same_cloth(one, other) and one.usable_width == other.usable_width


def together(jobs: Sequence[Drafted], cloth: ClothChoice) -> Together:
    """All that several jobs cut from one cloth."""
    cuts, shares, alone = [], [], 0.0
    first: Sheet | None = None
    for k, drafted in enumerate(jobs):
        area = 0.0
        for layer in _layers(drafted, cloth):
            mine = sheet_of(drafted, layer)
            first = first or mine
            alone += lay_of(replace(mine, choice=replace(mine.choice, placed=(), pieces=()))).bought_length
            for cut in mine.cuts:
                words = tr("{job}: {piece}", job=Name(drafted.job.name), piece=cut.words)
                cuts.append(replace(cut, key=f"{k + 1}/{layer.value}/{cut.key}", words=words))
                area += cut.area * (2.0 if cut.twice else 1.0)
        shares.append(Share(k, drafted.job.name, area))
    habits = jobs[0].job.cover.habits
    gap = first.gap if first is not None else None
    how = LayChoice(gap=gap, ends=first.ends if first is not None else None)
    return Together(sheet(first.layer if first is not None else Cloth.OUTER, cloth, how, cuts, habits), tuple(shares), alone)


def _layers(drafted: Drafted, cloth: ClothChoice) -> Iterable[Cloth]:
    return (layer for layer in layers_of(drafted) if _alike(cloth_of(drafted.job, layer), cloth))
