"""How the sample covers came out: tried on two or three times each, by somebody whose seams come out a little deep; one came out tight, and why was found."""

import zlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Final

from omnipel.core.cloth.lay import laid
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import Job
from omnipel.core.job.trying import Alteration, Deed, Entry, Happened, Spot, Stage, TryOn, Went
from omnipel.core.learning.errors import CLOTH, HEM, QUILT, SEAM
from omnipel.core.learning.sizes import USED_CLOTH, Size, all_sizes, told_first
from omnipel.core.sewing.making import Making

FAULTS: Final[Mapping[str, float]] = {SEAM: 0.8, HEM: 1.1, QUILT[0]: 0.012, QUILT[1]: 0.009, CLOTH[0]: 0.0, CLOTH[1]: 0.0}
"""By how much the seams and hems of who sews at Quillet Hill come out deeper, mm, and what quilting takes up more than is reckoned, share."""
WASHED: Final = 0.006
"""What washed cloth shrinks more than is said of it."""
FEW: Final = 4
"""So many sizes are measured at a try-on."""


@dataclass(frozen=True, slots=True)
class Tried:
    """A try-on: when, how it went on, what was said; `off` are sizes that are off by more than usual, mm; at most so many sizes were measured.

    `used` is how much cloth it took, as a share of the lay.
    """

    stage: Stage
    day: str
    went: Went
    words: str = ""
    off: Mapping[str, float] = field(default_factory=dict)
    most: int = FEW
    spot: tuple[str, float, float] | None = None
    used: float = 0.0


FIRST, FINISHED, USED = Stage.FIRST, Stage.FINISHED, Stage.USED
TRIED: Final[Mapping[str, Sequence[Tried]]] = {
    "Label printer": (
        Tried(FIRST, "2026-10-04", Went.RIGHT, "the cord wants to come out a finger lower"),
        Tried(FINISHED, "2026-10-05", Went.RIGHT),
    ),
    "Comb board": (
        Tried(FIRST, "2026-10-11", Went.STRUGGLES, "goes on, but it takes two"),
        Tried(FINISHED, "2026-10-12", Went.STRUGGLES),
        Tried(USED, "2026-11-20", Went.RIGHT, "it has given since", most=2),
    ),
    "Seed cleaner": (
        Tried(FIRST, "2026-10-25", Went.RIGHT),
        Tried(FINISHED, "2026-10-26", Went.RIGHT, "sewed 15 instead of 12 at the back", used=1.05),
    ),
    "Nozzle case": (
        Tried(FIRST, "2025-11-08", Went.RIGHT, "quilted once more than was planned"),
        Tried(FINISHED, "2025-11-09", Went.RIGHT),
        Tried(USED, "2026-05-02", Went.LOOSE, "a winter in the spray store: the padding has lain down", most=2),
    ),
    "West butt": (
        Tried(
            FIRST,
            "2025-10-18",
            Went.NOT,
            "stops at the hoop, a hand below the rim",
            off={"again:girth": 82.55},
            spot=("wall", 620.0, 380.0),
        ),
        Tried(FINISHED, "2025-10-21", Went.RIGHT, "with the strip it drops on by itself", off={"edge:lower edge": 82.55}, most=3),
        Tried(USED, "2026-04-06", Went.RIGHT, "the strip has faded less than the rest", most=1),
    ),
    "West butt 2": (
        Tried(FIRST, "2026-09-12", Went.RIGHT),
        Tried(FINISHED, "2026-09-13", Went.RIGHT, "measured once, cut once", used=1.03),
    ),
}
ALTERED: Final[Mapping[str, tuple[Alteration, ...]]] = {
    "West butt": (Alteration(deed=Deed.STRIP, on="close wall", by=82.55, since="1"),)
}
LOGGED: Final[Mapping[str, tuple[Entry, ...]]] = {
    "Nozzle case": (Entry(happened=Happened.WASHED, day="2026-05-03", words="by hand, lukewarm, dried flat"),),
    "West butt": (
        Entry(happened=Happened.CHANGED, day="2025-10-20", words="a strip let in beside the closing seam"),
        Entry(happened=Happened.PROOFED, day="2026-04-06"),
        Entry(happened=Happened.RETIRED, day="2026-09-13", words="cut up for patches"),
    ),
}


def tried(job: Job) -> Job:
    """A job, as it was tried on at the beginning of the sample shop."""
    those = TRIED.get(job.name, ())
    drafted = draft(job) if those else None
    if not isinstance(drafted, Drafted):
        return job
    making = Making(drafted)
    tries = tuple(_tried(making, how) for how in those)
    return replace(job, tries=tries, alterations=ALTERED.get(job.name, ()), log=LOGGED.get(job.name, ()))


def _tried(making: Making, how: Tried) -> TryOn:
    sizes = told_first(making, all_sizes(making, how.stage))
    asked = [size for size in sizes if not size.key.startswith(("again:", "port:"))][: how.most]
    asked += [size for size in sizes if size.key in how.off and size not in asked]
    made = {size.key: _made(making, how, size) for size in asked}
    if how.used:
        near = making.drafted.job.cover.habits.system.near
        made[USED_CLOTH] = near(laid(making.drafted, Cloth.OUTER).used.value * how.used)
    spots = (Spot(piece=how.spot[0], x=how.spot[1], y=how.spot[2], words="stops here"),) if how.spot is not None else ()
    return TryOn(stage=how.stage, day=how.day, went=how.went, words=how.words, made=made, spots=spots)


def _made(making: Making, how: Tried, size: Size) -> float:
    """What was measured: what the faults come to, with a little chance; round, as a tape is read."""
    job = making.drafted.job
    washed = any(job.cover.cloth.still_shrinks)
    faults = {**FAULTS, **(dict.fromkeys(CLOTH, WASHED) if washed else {})}
    faults[SEAM] -= job.cover.seam_take
    faults[HEM] -= job.cover.hem_take
    moved = sum(slope * faults.get(key, 0.0) for key, slope in size.sum.items())
    chance = (zlib.crc32(f"{job.name}{how.stage}{size.key}".encode()) % 1000 / 499.5 - 1.0) * 0.8 * size.noise
    return max(1.0, job.cover.habits.system.near(size.planned.value + moved + chance + how.off.get(size.key, 0.0)))
