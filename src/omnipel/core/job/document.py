"""The job: only what a person decided or measured. Everything else is computed from it.

These frozen dataclasses are the one definition of a job. The document layer validates files against them and generates the
JSON Schema from them.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Gt, Le, Len, Predicate

from omnipel.core.job import clothnames
from omnipel.core.job.edges import EdgeChoice, HemOrder
from omnipel.core.job.feature import Choice, Feature
from omnipel.core.job.finish import Allowance, Finish, FinishKind, is_hem
from omnipel.core.job.ids import with_ids
from omnipel.core.job.joining import Parting, SeamChoice
from omnipel.core.job.layers import Padded, Panels, Stiffener
from omnipel.core.job.laying import MOST_PLACED, Placed, Remnant, Spread
from omnipel.core.job.reading import Reading
from omnipel.core.job.sewing import Sewing
from omnipel.core.job.thing import Thing
from omnipel.core.job.trying import MOST_ENTRIES, MOST_TAKEN, MOST_TRIES, Alteration, Entry, Kin, TryOn
from omnipel.core.tolerances import LARGEST_GAP, LONGEST, MOST_GATHERED
from omnipel.core.words.habits import Habits
from omnipel.core.words.units import Unit

Name = Annotated[str, Len(1, 120)]
Text = Annotated[str, Len(0, 4000)]
Length = Annotated[float, Gt(0), Le(LONGEST)]
MOST_WIDTHS = 12
"""So many widths of a cloth are kept."""
Gap = Annotated[float, Ge(0), Le(LARGEST_GAP)]
Share = Annotated[float, Ge(0), Le(0.5)]
Taken = Annotated[float, Ge(-MOST_TAKEN), Le(MOST_TAKEN)]
Price = Annotated[float, Ge(0), Le(1_000_000)]

MOST_COPIES = 200
"""No more copies of a cover are laid at once."""

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


class Marking(StrEnum):
    """How a pattern gets onto the cloth."""

    CHALK = "chalked"
    CORNER = "corner template"
    TEMPLATE = "template"
    PLOT = "plotted"


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


class Iron(StrEnum):
    """What an iron may do to a cloth."""

    NEVER = "no iron"
    PRESS_CLOTH = "under a press cloth"
    YES = "iron"


class SoldAs(StrEnum):
    """How a cloth is sold: a length cut off a bolt, or pieces of one size."""

    LENGTH = "off the bolt"
    PIECE = "by the piece"


@dataclass(frozen=True, slots=True, kw_only=True)
class ClothChoice:
    """A cloth as it was when it was chosen, so that a job stands alone.

    Args:
        name, kind, colour, thickness: what it is; the kind decides with which allowance it is sewn.
        usable_width: between its selvages, as it is bought.
        gather_limit, shrink_warp, shrink_weft, frays: what the draft needs to know of it.
        prewashed: whether it is washed before it is cut: panels are cut as they are, more is bought; else they are cut larger, washed, and trimmed.
        weight: g/m²; 0 where it is not known.
        widths: all usable widths it is sold in.
        sold_as: a length off the bolt, or pieces `piece_length` long.
        price: of a metre of length, or of a piece; None where it is not known.
        sold_by, least: the step and the least that is sold, mm.
        one_way: whether all panels lie the same way up on it: a nap, or a print with a top.
        repeat_along, repeat_across: after how far its pattern comes again; 0 for none.
        hot_cut: whether it may be cut with a hot knife, which seals its edge.
        own_hem: whether its own edges are hems already.
        iron, waterproof, outdoors, food_safe, breathes, stiff: what it stands, and how it is.
        needle, thread, stitch: with what it is sewn: the needle's number, Tex, mm; "" and 0 for what is not sewn.
    """

    __pydantic_config__ = CONFIG

    name: Annotated[str, Len(0, 120)] = str(clothnames.ACRYLIC)
    kind: ClothKind = ClothKind.CANVAS
    colour: Annotated[str, Len(0, 9)] = "#5f7f6f"
    thickness: Gap = 0.5
    usable_width: Length = 1500.0
    gather_limit: Annotated[float, Ge(1), Le(MOST_GATHERED)] = 2.0
    shrink_warp: Share = 0.0
    shrink_weft: Share = 0.0
    prewashed: bool = False
    frays: bool = True
    weight: Annotated[float, Ge(0), Le(20_000)] = 0.0
    widths: Annotated[tuple[Length, ...], Len(0, MOST_WIDTHS)] = ()
    sold_as: SoldAs = SoldAs.LENGTH
    piece_length: Annotated[float, Ge(0), Le(LONGEST)] = 0.0
    price: Price | None = None
    sold_by: Annotated[float, Ge(0), Le(LONGEST)] = 100.0
    least: Annotated[float, Ge(0), Le(LONGEST)] = 0.0
    one_way: bool = False
    repeat_along: Gap = 0.0
    repeat_across: Gap = 0.0
    hot_cut: bool = False
    own_hem: bool = False
    iron: Iron = Iron.YES
    waterproof: bool = False
    outdoors: bool = False
    food_safe: bool = False
    breathes: bool = True
    stiff: bool = False
    needle: Annotated[str, Len(0, 40)] = ""
    thread: Annotated[int, Ge(0), Le(1000)] = 0
    stitch: Annotated[float, Ge(0), Le(20)] = 0.0

    @property
    def shrinks(self) -> bool:
        """Whether its first wash takes anything up."""
        return self.shrink_warp > 0.0 or self.shrink_weft > 0.0

    @property
    def still_shrinks(self) -> tuple[float, float]:
        """Share that is taken up along warp and weft after it was cut."""
        return (0.0, 0.0) if self.prewashed else (self.shrink_warp, self.shrink_weft)

    @property
    def left_by_wash(self) -> tuple[float, float]:
        """The share of what is bought that there is to be cut, along warp and weft."""
        return (1.0 - self.shrink_warp, 1.0 - self.shrink_weft) if self.prewashed else (1.0, 1.0)

    @property
    def cut_piece(self) -> float:
        """How long a piece is when it is cut, mm."""
        return self.piece_length * self.left_by_wash[0]

    @property
    def cut_width(self) -> float:
        """Between its selvages when it is cut, mm."""
        return self.usable_width * self.left_by_wash[1]


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
        default_factory=lambda: ClothChoice(name=str(clothnames.LINING), colour="#c9b98f", thickness=0.25, usable_width=1400.0)
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
    """What was decided about the cover. By `seam_take` and `hem_take` seams and hems are known to come out deeper; so much more is cut, mm."""

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
    seam_take: Taken = 0.0
    hem_take: Taken = 0.0
    sewing_sigma: Annotated[float, Ge(0), Le(10)] = 1.0
    options: Mapping[str, Choice] = field(default_factory=dict)
    overrides: Annotated[tuple[Override, ...], Len(0, 60)] = ()
    marking: Annotated[Mapping[Name, Marking], Len(0, 60)] = field(default_factory=dict)

    def __post_init__(self) -> None:
        object.__setattr__(self, "features", with_ids(self.features))
        object.__setattr__(self, "parted", with_ids(self.parted))


@dataclass(frozen=True, slots=True, kw_only=True)
class LayChoice:
    """How the panels of a layer are laid on their cloth.

    Args:
        cloth: the cloth of a layer that has no other place in the job: padding, stiffener, window.
        spread: flat, or folded lengthwise.
        gap: what is left between two pieces, mm; None as the cloth's knife asks.
        ends: what is squared off at each end, mm; None as usual.
        free: names of panels that may be turned anyhow.
        match: names of seams along which stripes or a pattern meet.
        strips: whether bindings and piping strips are cut from it.
        pieces: pieces of the stash that are used, as they were when they were chosen.
        placed: where pieces lie. A lay is a decision: the same job shows the same lay tomorrow.
    """

    __pydantic_config__ = CONFIG

    cloth: ClothChoice | None = None
    spread: Spread = Spread.FLAT
    gap: Gap | None = None
    ends: Gap | None = None
    free: Annotated[tuple[Name, ...], Len(0, 60)] = ()
    match: Annotated[tuple[Name, ...], Len(0, 60)] = ()
    strips: bool = True
    pieces: Annotated[tuple[Remnant, ...], Len(0, 20)] = ()
    placed: Annotated[tuple[Placed, ...], Len(0, MOST_PLACED)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """One cover to be made, or so many `copies` of it; `lays` says by layer how its cloth is laid, `sewing` how far it is sewn.

    `tries` are what came of trying it on, in order; `alterations` what is to be done to it since; `log` what happened to it.
    """

    __pydantic_config__ = CONFIG

    name: Name
    owner: Annotated[str, Len(0, 120)] = ""
    place: Annotated[str, Len(0, 120)] = ""
    unit: Unit = Unit.MM
    thing: Thing
    readings: Annotated[tuple[Reading, ...], Len(0, 200)] = ()
    cover: CoverChoices
    lays: Annotated[Mapping[Name, LayChoice], Len(0, 12)] = field(default_factory=dict)
    copies: Annotated[int, Ge(1), Le(MOST_COPIES)] = 1
    sewing: Sewing = Sewing()
    tries: Annotated[tuple[TryOn, ...], Len(0, MOST_TRIES)] = ()
    alterations: Annotated[tuple[Alteration, ...], Len(0, MOST_TRIES)] = ()
    log: Annotated[tuple[Entry, ...], Len(0, MOST_ENTRIES)] = ()
    kin: Kin = Kin()
    notes: Text = ""

    def __post_init__(self) -> None:
        for name in ("tries", "alterations", "log"):
            object.__setattr__(self, name, with_ids(getattr(self, name)))

    def reading(self, place: str) -> Reading | None:
        """The reading taken at a place."""
        return next((reading for reading in self.readings if reading.place == place), None)


def with_reading(job: Job, reading: Reading) -> Job:
    """The job with a reading put in, in place of any other at the same place."""
    if job.reading(reading.place) is None:
        return replace(job, readings=(*job.readings, reading))
    return replace(job, readings=tuple(reading if old.place == reading.place else old for old in job.readings))
