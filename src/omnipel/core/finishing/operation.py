"""What is done at the bench to make a cover: one operation, where it is done and with what, what it takes, what has to be done before.

Glossary. *Station*: where one stands for it. *Rig*: what the machine is set up with. *Deed*: a kind of operation, which has a pace, a how-to and cautions
of its own; `DEEDS` is the table. *Work*: so much of something that has a pace (a length sewn, pins set), from which the minutes are reckoned.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final

from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Run
from omnipel.core.words.phrases import NOTHING, Phrase, tr
from omnipel.core.words.refs import Ref


class Station(StrEnum):
    """Where an operation is done."""

    TABLE = "table"
    IRON = "iron"
    MACHINE = "machine"
    OVERLOCK = "overlock"
    HAND = "hand"
    OBJECT = "object"


class Foot(StrEnum):
    """What the machine's foot is; none where nothing is sewn by machine."""

    NONE = ""
    USUAL = "usual foot"
    NARROW = "zip foot"


class Stitch(StrEnum):
    """Which stitch is set; its length comes from the cloth."""

    NONE = ""
    STRAIGHT = "straight"
    LONG = "longest"
    ZIGZAG = "zigzag"
    TACK = "bar tack"


class Pace(StrEnum):
    """What minutes are reckoned by."""

    STRAIGHT = "straight seam"
    CURVED = "curved or eased seam"
    SMALL_RING = "ring on a small disc"
    TOPSTITCH = "topstitching"
    HEM = "hem"
    BINDING = "binding, straight"
    BINDING_INSIDE = "binding, inside curve"
    ZIP = "zip"
    QUILTING = "quilting"
    GATHERS = "gathers"
    PIN = "pin"
    BOXED = "boxed corner"
    POCKET = "pocket"
    PORT = "port with binding"
    FASTENER = "fastener"
    HOT_CUT = "hot cut"
    SHEARS = "shears"
    MARKING = "marking"
    PRESSING = "pressing"
    NEATENING = "neatening"
    CORNER = "corner"
    PIECE = "piece handled"
    HAND = "hand stitches"
    FIXED = "minutes"


@dataclass(frozen=True, slots=True)
class Work:
    """So much of something: mm for what is sewn, cut or marked, a number for what is counted, minutes for what is fixed."""

    pace: Pace
    amount: float
    name: Phrase = NOTHING


@dataclass(frozen=True, slots=True)
class Check:
    """What to look at when it is done, with the number to measure where there is one, mm."""

    words: Phrase
    length: float = 0.0


@dataclass(frozen=True, slots=True)
class After:
    """Something that has to be done before: the key of an operation, and why."""

    key: str
    why: Phrase


@dataclass(frozen=True, slots=True, kw_only=True)
class Operation:
    """One operation.

    Args:
        key: which one it is, whatever else changes: what it is done to, and what is done.
        deed: which kind of operation, a key of `DEEDS`.
        words: what is done, as one says it.
        ref: where it is decided.
        on: names of the pieces that are worked on; a second one of two that are joined lies on the first.
        edges: the edges that are worked along.
        seams: numbers of the cover's seams that are sewn by it.
        feature: the id of what is put on the cover by it, "" for none.
        opening: the name of the opening whose edge it finishes, "" for none.
        cloth: the layer whose needle and thread are used.
        stitch: which stitch, where that differs from the deed's.
        work: what it takes.
        checks: what to look at when it is done.
        notes: what else to know, each a few words.
        cautions: keys of cautions that only this one has.
        after: what has to be done before, besides what the rules say.
    """

    key: str
    deed: str
    words: Phrase
    ref: Ref
    on: tuple[str, ...] = ()
    edges: tuple[Run, ...] = ()
    seams: tuple[int, ...] = ()
    feature: str = ""
    opening: str = ""
    cloth: Cloth = Cloth.OUTER
    stitch: Stitch = Stitch.NONE
    work: tuple[Work, ...] = ()
    checks: tuple[Check, ...] = ()
    notes: tuple[Phrase, ...] = ()
    cautions: tuple[str, ...] = ()
    after: tuple[After, ...] = ()

    @property
    def did(self) -> "Deed":
        """Its kind."""
        return DEEDS[self.deed]


class When(StrEnum):
    """The part of the work that a kind of operation belongs to."""

    PREPARE = "prepare"
    LAYERS = "layers"
    FLAT = "flat"
    HEM = "hem"
    JOIN = "join"
    LINING = "lining"
    TRY = "try on"
    FINISH = "finish"
    ALTER = "alter"


@dataclass(frozen=True, slots=True)
class Deed:
    """A kind of operation: the word for it, where it is done, with which foot and stitch."""

    words: Phrase
    when: When
    station: Station
    foot: Foot = Foot.NONE
    stitch: Stitch = Stitch.NONE


def _at(station: Station, when: When, words: Phrase) -> Deed:
    return Deed(words, when, station)


def _sewn(when: When, words: Phrase, foot: Foot = Foot.USUAL, stitch: Stitch = Stitch.STRAIGHT) -> Deed:
    return Deed(words, when, Station.MACHINE, foot, stitch)


TABLE, IRON, HAND, OBJECT = Station.TABLE, Station.IRON, Station.HAND, Station.OBJECT
PREPARE, LAYERS, FLAT, HEM, JOIN, LINING, FINISH = (
    When.PREPARE,
    When.LAYERS,
    When.FLAT,
    When.HEM,
    When.JOIN,
    When.LINING,
    When.FINISH,
)
NARROW = Foot.NARROW

DEEDS: Final[Mapping[str, Deed]] = {
    "prewash": _at(IRON, PREPARE, tr("washing and pressing the cloth")),
    "square": _at(TABLE, PREPARE, tr("squaring the cloth's end")),
    "mark": _at(TABLE, PREPARE, tr("marking")),
    "cut": _at(TABLE, PREPARE, tr("cutting")),
    "cut goods": _at(TABLE, PREPARE, tr("cutting cords and tapes")),
    "label": _at(TABLE, PREPARE, tr("labelling")),
    "measure": _at(TABLE, PREPARE, tr("measuring what is cut")),
    "fuse": _at(IRON, LAYERS, tr("fusing")),
    "spray": _at(TABLE, LAYERS, tr("basting layers with spray")),
    "quilt": _sewn(LAYERS, tr("quilting")),
    "trim to size": _at(TABLE, LAYERS, tr("squaring up and trimming to size")),
    "baste layers": _sewn(LAYERS, tr("basting layers"), stitch=Stitch.LONG),
    "put in": _at(TABLE, LINING, tr("putting one layer into another")),
    "staystitch": _sewn(FLAT, tr("staystitching")),
    "open": _at(TABLE, FLAT, tr("cutting an opening")),
    "bind opening": _sewn(FLAT, tr("binding an opening")),
    "face opening": _sewn(FLAT, tr("facing an opening")),
    "window": _sewn(FLAT, tr("setting in a window")),
    "prepare part": _sewn(FLAT, tr("hemming small parts")),
    "bind part": _sewn(FLAT, tr("binding small parts")),
    "press part": _at(IRON, FLAT, tr("pressing small parts")),
    "score part": _at(TABLE, FLAT, tr("folding small parts")),
    "tack part": _sewn(FLAT, tr("tacking what is stressed"), stitch=Stitch.TACK),
    "set flat": _at(HAND, FLAT, tr("setting eyelets on a flat panel")),
    "baste part": _sewn(FLAT, tr("basting parts on"), stitch=Stitch.LONG),
    "sew on": _sewn(FLAT, tr("sewing parts on")),
    "touch": _sewn(FLAT, tr("sewing on hook-and-loop")),
    "touch edge": _sewn(FINISH, tr("sewing hook-and-loop along an edge")),
    "lettering": _sewn(FLAT, tr("sewing on letters"), stitch=Stitch.ZIGZAG),
    "fuse letters": _at(IRON, FLAT, tr("fusing letters")),
    "make piping": _sewn(FLAT, tr("making piping"), NARROW),
    "baste piping": _sewn(FLAT, tr("basting piping on"), NARROW, Stitch.LONG),
    "make tie": _sewn(FLAT, tr("sewing ties")),
    "stitch line": _sewn(FLAT, tr("stitching lines on a flat panel")),
    "set in zip": _sewn(FLAT, tr("setting in a zip"), NARROW),
    "gather": _sewn(FLAT, tr("gather stitches"), stitch=Stitch.LONG),
    "draw up": _at(TABLE, JOIN, tr("drawing gathers up")),
    "press hem": _at(IRON, HEM, tr("pressing hems")),
    "score hem": _at(TABLE, HEM, tr("scoring and taping hems")),
    "lay cord": _at(TABLE, HEM, tr("laying cord into a fold")),
    "hem": _sewn(HEM, tr("hemming")),
    "casing": _sewn(HEM, tr("stitching a casing"), NARROW),
    "bind edge": _sewn(HEM, tr("binding an edge")),
    "face edge": _sewn(HEM, tr("facing an edge")),
    "pipe edge": _sewn(HEM, tr("piping an edge"), NARROW),
    "seal edge": _at(TABLE, HEM, tr("sealing a raw edge")),
    "quarters": _at(TABLE, JOIN, tr("marking quarters")),
    "clip": _at(TABLE, JOIN, tr("clipping")),
    "pin": _at(TABLE, JOIN, tr("pinning")),
    "pin corners": _at(TABLE, JOIN, tr("pinning ends and corners")),
    "lap": _at(TABLE, JOIN, tr("basting a lap")),
    "sew": _sewn(JOIN, tr("sewing seams")),
    "sew ring": _sewn(JOIN, tr("sewing rings")),
    "sew piped": _sewn(JOIN, tr("sewing piped seams"), NARROW),
    "catch": _sewn(JOIN, tr("basting into a seam"), stitch=Stitch.LONG),
    "press seam": _at(IRON, JOIN, tr("pressing seams")),
    "finger-press": _at(TABLE, JOIN, tr("finger-pressing seams")),
    "trim seam": _at(TABLE, JOIN, tr("trimming allowances")),
    "neaten": Deed(tr("neatening"), JOIN, Station.OVERLOCK),
    "topstitch": _sewn(JOIN, tr("topstitching")),
    "bind seam": _sewn(JOIN, tr("binding seams")),
    "tack": _sewn(JOIN, tr("bar tacks"), stitch=Stitch.TACK),
    "mark boxed": _at(TABLE, JOIN, tr("folding boxed corners")),
    "sew boxed": _sewn(JOIN, tr("sewing boxed corners")),
    "cut boxed": _at(TABLE, FINISH, tr("cutting boxed corners off")),
    "neaten boxed": Deed(tr("neatening boxed corners"), FINISH, Station.OVERLOCK),
    "mark gap": _at(TABLE, LINING, tr("marking the turning gap")),
    "bag": _sewn(LINING, tr("joining outer and lining")),
    "turn": _at(HAND, LINING, tr("turning")),
    "press": _at(IRON, LINING, tr("pressing what is turned")),
    "shape": _at(HAND, LINING, tr("shaping what is turned")),
    "edge stitch": _sewn(LINING, tr("topstitching the edge")),
    "close gap": _at(HAND, FINISH, tr("closing a gap by hand")),
    "try on": _at(OBJECT, When.TRY, tr("trying on")),
    "thread": _at(HAND, FINISH, tr("drawing cord, elastic or ribbon in")),
    "join elastic": _sewn(FINISH, tr("joining elastic"), stitch=Stitch.ZIGZAG),
    "close casing": _sewn(FINISH, tr("closing a casing")),
    "sew over cord": _at(HAND, FINISH, tr("sewing a casing over its cord")),
    "finish cord": _at(HAND, FINISH, tr("finishing a cord")),
    "fasten": _at(HAND, FINISH, tr("setting fasteners")),
    "punch": _at(OBJECT, FINISH, tr("punch marks on the object")),
    "drill": _at(OBJECT, FINISH, tr("drilling")),
    "set on object": _at(OBJECT, FINISH, tr("setting fasteners on the object")),
    "tidy": _at(TABLE, FINISH, tr("trimming threads and counting pins")),
    "fit": _at(OBJECT, When.TRY, tr("putting it on")),
    "unpick": _at(TABLE, When.ALTER, tr("unpicking")),
    "cut in": _at(TABLE, When.ALTER, tr("cutting for an alteration")),
    "sew in": _sewn(When.ALTER, tr("sewing an alteration")),
    "bind in": _sewn(When.ALTER, tr("binding for an alteration")),
    "hem again": _sewn(When.ALTER, tr("closing a hem again")),
    "draw in": _at(HAND, When.ALTER, tr("changing a cord or an elastic")),
}  # fmt: skip
"""By their keys."""


def in_turn(operations: Iterator[Operation]) -> Iterator[Operation]:
    """Operations each of which follows the one before."""
    before: Operation | None = None
    for operation in operations:
        if before is not None:
            why = tr("first {before}", before=before.words)
            operation = replace(operation, after=(*operation.after, After(before.key, why)))  # noqa: PLW2901
        yield operation
        before = operation
