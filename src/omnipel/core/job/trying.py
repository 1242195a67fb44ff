"""What is kept of trying a cover on: sizes measured on what was made, how it went on, where, photos, words; what was altered; the object's log."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Annotated, Final

from annotated_types import Ge, Le, Len

from omnipel.core.job.ids import Id, with_ids
from omnipel.core.tolerances import LONGEST
from omnipel.core.words.phrases import Phrase, term, tr

MOST_TRIES: Final = 40
MOST_SIZES: Final = 60
MOST_SPOTS: Final = 40
MOST_PHOTOS: Final = 24
MOST_ENTRIES: Final = 400
LONGEST_WORDS: Final = 2000
MOST_TAKEN: Final = 10.0
"""Nobody's seams come out deeper by more, mm; and nobody's tape reads so much too long without being noticed."""

Day = Annotated[str, Len(0, 10)]
"""As 2026-11-28; "" where it is not known."""
Words = Annotated[str, Len(0, LONGEST_WORDS)]
Digest = Annotated[str, Len(64, 64)]
"""By which a photo is kept in the shop: the check sum of its bytes, SHA-256 in hexadecimal."""
CONFIG: Final = {"extra": "forbid", "allow_inf_nan": False}


class Stage(StrEnum):
    """When it was tried on."""

    FIRST = "first try-on"
    FINISHED = "finished"
    USED = "after use"


class Went(StrEnum):
    """How it went on."""

    UNSAID = ""
    NOT = "does not go on"
    STRUGGLES = "struggles"
    RIGHT = "right"
    LOOSE = "loose"
    FLAPS = "flaps"

    @property
    def words(self) -> Phrase:
        """In words: right is not the side of that name."""
        return tr("just right") if self is Went.RIGHT else term(self.value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """Where it jams, pulls or stands off: a place on a piece, on its flat panel, mm; and in words."""

    __pydantic_config__ = CONFIG

    piece: Annotated[str, Len(1, 120)]
    x: Annotated[float, Ge(-LONGEST), Le(LONGEST)]
    y: Annotated[float, Ge(-LONGEST), Le(LONGEST)]
    words: Annotated[str, Len(0, 200)] = ""
    id: Id = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Photo:
    """A photo, kept in the shop beside the job."""

    __pydantic_config__ = CONFIG

    digest: Digest
    words: Annotated[str, Len(0, 200)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class TryOn:
    """A cover tried on.

    Args:
        stage: before it was finished, when it was, or after it had been used.
        day: when.
        went: how it went on.
        spots: where it did not.
        made: sizes as they were measured, by what is measured, mm.
        photos: of it.
        words: what else there was to say.
    """

    __pydantic_config__ = CONFIG

    stage: Stage = Stage.FIRST
    day: Day = ""
    went: Went = Went.UNSAID
    spots: Annotated[tuple[Spot, ...], Len(0, MOST_SPOTS)] = ()
    made: Annotated[Mapping[Annotated[str, Len(1, 200)], Annotated[float, Ge(0), Le(LONGEST)]], Len(0, MOST_SIZES)] = field(
        default_factory=dict
    )
    photos: Annotated[tuple[Photo, ...], Len(0, MOST_PHOTOS)] = ()
    words: Words = ""
    id: Id = ""

    def __post_init__(self) -> None:
        object.__setattr__(self, "spots", with_ids(self.spots))

    @property
    def blank(self) -> bool:
        """Whether nothing is written down yet."""
        return not (self.went or self.spots or self.made or self.photos or self.words)


class Deed(StrEnum):
    """What can be done to a cover that was made."""

    LET_OUT = "let out"
    TAKE_IN = "take in"
    STRIP = "strip let in"
    SLIT = "slit with flap"
    HEM = "hem deeper"
    HEM_DOWN = "hem let down"
    DRAWN = "cord or elastic"
    PORT = "port moved"
    DART = "dart"


@dataclass(frozen=True, slots=True, kw_only=True)
class Alteration:
    """Something that was chosen to be done to a cover that is made.

    Args:
        deed: what.
        on: where: the name of a seam or an opening, the id of something put on the cover; "" where there is but one.
        by: how much, mm: around, deeper, shorter, how wide a strip; what it is beside the deed says.
        long: how long a slit or a dart is, mm.
        right, down: how far a port is moved, mm.
        since: the try-on that showed it: what came out at later ones came of it.
    """

    __pydantic_config__ = CONFIG

    deed: Deed
    on: Annotated[str, Len(0, 200)] = ""
    by: Annotated[float, Ge(-LONGEST), Le(LONGEST)] = 0.0
    long: Annotated[float, Ge(0), Le(LONGEST)] = 0.0
    right: Annotated[float, Ge(-LONGEST), Le(LONGEST)] = 0.0
    down: Annotated[float, Ge(-LONGEST), Le(LONGEST)] = 0.0
    since: Id = ""
    id: Id = ""


class Happened(StrEnum):
    """What happened to a cover."""

    MADE = "made"
    CHANGED = "changed"
    LOOKED = "looked at"
    WASHED = "washed"
    PROOFED = "re-proofed"
    MENDED = "mended"
    RETIRED = "retired"


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """A line of the logbook: what happened, when; `next_look` is when to look at it again, where a person said so."""

    __pydantic_config__ = CONFIG

    happened: Happened
    day: Day = ""
    words: Words = ""
    photos: Annotated[tuple[Photo, ...], Len(0, MOST_PHOTOS)] = ()
    next_look: Day = ""
    id: Id = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Kin:
    """What a job belongs to.

    Args:
        thing: of which thing it is a cover: the same for a second cover of it; "" while there is but one.
        family: the family of one thing in several sizes; "" for none.
        again_of: the name of the job it was made again from.
    """

    __pydantic_config__ = CONFIG

    thing: Annotated[str, Len(0, 60)] = ""
    family: Annotated[str, Len(0, 120)] = ""
    again_of: Annotated[str, Len(0, 120)] = ""


def tried(tries: tuple[TryOn, ...], stage: Stage) -> TryOn | None:
    """The last time that a cover was tried on at a stage."""
    return next((one for one in reversed(tries) if one.stage is stage), None)


TIGHT, WIDE = frozenset((Went.NOT, Went.STRUGGLES)), frozenset((Went.LOOSE, Went.FLAPS))
AMISS: Final = TIGHT | WIDE
"""A cover that goes on so is looked at once more."""


def last_went(tries: Sequence[TryOn]) -> Went:
    """How a cover went on when it was last said."""
    return next((one.went for one in reversed(tries) if one.went), Went.UNSAID)


def done_before(alterations: tuple[Alteration, ...], tries: tuple[TryOn, ...], one: TryOn) -> frozenset[str]:
    """The ids of what had been altered when a cover was tried on: all that earlier try-ons had shown."""
    order = [other.id for other in tries]
    at = order.index(one.id) if one.id in order else len(order)
    return frozenset(what.id for what in alterations if what.since in order[:at])


def with_size(tries: tuple[TryOn, ...], stage: Stage, key: str, length: float | None, day: str) -> tuple[TryOn, ...]:
    """Tries with a size measured at a stage, or forgotten; the first that is written down of a stage begins a try-on."""
    one = tried(tries, stage)
    made = {**(one.made if one is not None else {}), key: length} if length is not None else {}
    if one is None:
        return (*tries, TryOn(stage=stage, day=day, made=made)) if length is not None else tries
    if length is None:
        made = {name: known for name, known in one.made.items() if name != key}
    return tuple(replace(other, made=made) if other.id == one.id else other for other in tries)
