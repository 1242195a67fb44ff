"""The job: only what a person decided or measured. Everything else is computed from it.

These frozen dataclasses are the one definition of a job. The document layer validates files against them and generates the
JSON Schema from them.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Gt, Le, Len, Predicate

from omnipel.core.job.edges import EdgeChoice, HemOrder
from omnipel.core.job.feature import Choice, Feature
from omnipel.core.job.finish import Allowance, Finish, FinishKind, is_hem
from omnipel.core.job.ids import with_ids
from omnipel.core.job.joining import Parting, SeamChoice
from omnipel.core.job.layers import Padded, Panels, Stiffener
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Thing
from omnipel.core.tolerances import LONGEST, MOST_GATHERED
from omnipel.core.words.habits import Habits
from omnipel.core.words.units import Unit

Name = Annotated[str, Len(1, 120)]
Text = Annotated[str, Len(0, 4000)]
Length = Annotated[float, Gt(0), Le(LONGEST)]
Gap = Annotated[float, Ge(0), Le(1000)]
Share = Annotated[float, Ge(0), Le(0.5)]

CONFIG = {"extra": "forbid", "allow_inf_nan": False}


class ClearanceSchool(StrEnum):
    """Three ways to say how much larger the cover is than the object."""

    SIDE = "by the side"
    DIMENSION = "by the dimension"
    GIRTH = "by the girth"


class RingSchool(StrEnum):
    """How a strip is joined to a ring."""

    RING_FIRST = "ring first"
    MEET_AND_TRIM = "meet and trim"


class ClipSchool(StrEnum):
    """Who is clipped where a straight edge is bent to a curve."""

    STRAIGHT = "clip the straight side"
    DISC = "clip the disc"
    AFTER = "clip after sewing"
    TRIM = "trim to half"


class LiningSchool(StrEnum):
    """How a lining is put in."""

    NONE = "none"
    BAGGED = "bagged"
    BOUND = "bound"
    AS_ONE = "layers as one"


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearance:
    """The gap between object and inside of cover, in the school's own measure.

    By the dimension the ease along (left to right) and on the drop may differ: `along` is None where it is as across, `drop` is what is added to the drop.
    `amount` is the gap on each side (by the side), the ease added to each across-dimension (by the dimension), in mm, or the
    share of the girth (by the girth), as a number like 0.04.
    """

    __pydantic_config__ = CONFIG

    school: ClearanceSchool = ClearanceSchool.SIDE
    amount: Gap = 12.0
    along: Gap | None = None
    drop: Gap = 0.0


class ClothKind(StrEnum):
    """Kinds of cloth that are sewn with different allowances."""

    CANVAS = "canvas"
    GENERAL = "other cloth"
    COTTON = "thin cotton"


@dataclass(frozen=True, slots=True, kw_only=True)
class ClothChoice:
    """The cloth as far as the draft needs it."""

    __pydantic_config__ = CONFIG

    name: Annotated[str, Len(0, 120)] = "solution-dyed acrylic"
    kind: ClothKind = ClothKind.CANVAS
    colour: Annotated[str, Len(0, 9)] = "#5f7f6f"
    thickness: Gap = 0.5
    usable_width: Length = 1500.0
    gather_limit: Annotated[float, Ge(1), Le(MOST_GATHERED)] = 2.0
    shrink_warp: Share = 0.0
    shrink_weft: Share = 0.0
    frays: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class TakeUp:
    """Share that quilting takes up along the panel's length and across it."""

    __pydantic_config__ = CONFIG

    along: Share = 0.0
    across: Share = 0.0


class ClosureKind(StrEnum):
    """What lets the lower edge open."""

    NONE = "none"
    ZIP = "zip"
    HOOK_AND_LOOP = "hook-and-loop"
    LACING = "lacing"


@dataclass(frozen=True, slots=True, kw_only=True)
class Lining:
    """The lining: how it is put in, its own cloth and allowance, the gap to turn it through; whether it is pieced where its cloth is too small.

    `around` is the width of its own that a strip of it has around, mm, what is over laid in pleats; 0 for as wide as is needed. `on` are the panels that it
    is sewn as one with, none for all of them; one that hangs by itself hangs in all.
    """

    __pydantic_config__ = CONFIG

    school: LiningSchool = LiningSchool.NONE
    cloth: ClothChoice = field(
        default_factory=lambda: ClothChoice(name="lining cotton", colour="#c9b98f", thickness=0.25, usable_width=1400.0)
    )
    seam_allowance: Allowance = 10.0
    turning_gap: Gap = 120.0
    pieced: bool = False
    on: Panels = ()
    around: Annotated[float, Ge(0), Le(LONGEST)] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Closure:
    """What opens the lower edge: `length` is how far up it opens."""

    __pydantic_config__ = CONFIG

    kind: ClosureKind = ClosureKind.NONE
    length: Annotated[float, Ge(0), Le(LONGEST)] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Override:
    """A finished size set by hand, with the reason."""

    __pydantic_config__ = CONFIG

    size: Name
    value: Length
    reason: Annotated[str, Len(1, 500)]


@dataclass(frozen=True, slots=True, kw_only=True)
class CoverChoices:
    """What was decided about the cover."""

    __pydantic_config__ = CONFIG

    scheme: Annotated[str, Len(1, 60)]
    habits: Habits = Habits()
    clearance: Clearance = field(default_factory=Clearance)
    cloth: ClothChoice = field(default_factory=ClothChoice)
    padding: Gap = 0.0
    padding_inset: Gap = 12.0
    padded: Padded = Padded()
    stiffener: Stiffener = Stiffener()
    quilting: TakeUp = TakeUp()
    lining: Lining = field(default_factory=Lining)
    closure: Closure = Closure()
    features: Annotated[tuple[Feature, ...], Len(0, 250)] = ()
    on_fold: Annotated[tuple[str, ...], Len(0, 60)] = ()
    seam_allowance: Allowance = 12.0
    closing_allowance: Allowance = 12.0
    hem: Annotated[Finish, Predicate(is_hem)] = Finish(kind=FinishKind.DOUBLE_HEM, width=25.0, turn_under=15.0)
    ring: RingSchool = RingSchool.RING_FIRST
    hem_order: HemOrder = HemOrder.HEM_LAST
    edges: Annotated[Mapping[Name, EdgeChoice], Len(0, 60)] = field(default_factory=dict)
    join: Annotated[str, Len(0, 40)] = ""
    seams: Annotated[Mapping[Name, SeamChoice], Len(0, 200)] = field(default_factory=dict)
    parted: Annotated[tuple[Parting, ...], Len(0, 20)] = ()
    clips: ClipSchool = ClipSchool.STRAIGHT
    sewing_sigma: Annotated[float, Ge(0), Le(10)] = 1.0
    options: Mapping[str, Choice] = field(default_factory=dict)
    overrides: Annotated[tuple[Override, ...], Len(0, 60)] = ()

    def __post_init__(self) -> None:
        object.__setattr__(self, "features", with_ids(self.features))
        object.__setattr__(self, "parted", with_ids(self.parted))


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """One cover to be made."""

    __pydantic_config__ = CONFIG

    name: Name
    owner: Annotated[str, Len(0, 120)] = ""
    place: Annotated[str, Len(0, 120)] = ""
    unit: Unit = Unit.MM
    thing: Thing
    readings: Annotated[tuple[Reading, ...], Len(0, 200)] = ()
    cover: CoverChoices
    notes: Text = ""

    def reading(self, place: str) -> Reading | None:
        """The reading taken at a place."""
        return next((reading for reading in self.readings if reading.place == place), None)


def with_reading(job: Job, reading: Reading) -> Job:
    """The job with a reading put in, in place of any other at the same place."""
    if job.reading(reading.place) is None:
        return replace(job, readings=(*job.readings, reading))
    return replace(job, readings=tuple(reading if old.place == reading.place else old for old in job.readings))
