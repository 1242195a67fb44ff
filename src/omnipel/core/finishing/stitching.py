"""How seams are sewn, as operations: what a construction is told of a seam, and the steps that most of them share."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Final

from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.job.document import ClipSchool, ClothChoice, CoverChoices, Iron
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Rule, tr, trn
from omnipel.core.words.refs import Ref

PINS_APART: Final = 60.0
"""One pin stands in so much of a straight seam, mm."""
PINS_APART_BENT: Final = 25.0
"""And in so much of a curve."""
PINS_AT_CORNER: Final = 3
"""More at every corner that a strip is bent around."""
SMALL_DISC: Final = 100.0
"""A ring on a disc of a lesser radius is slow to sew, mm."""
BENT: Final = 1000.0
"""A seam whose tightest bend is of a greater radius, mm, is as good as straight."""
MOST_DRIFT: Final = 3.0
"""Match marks that lie further apart when a seam is sewn, mm, say that one side was fed faster or a panel is wrong."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Stitching:
    """A seam that is to be sewn.

    Args:
        number: which of the cover's seams it is.
        key: how the keys of its operations begin.
        seam: the seam.
        called: what joins what, in words.
        ref: where it is decided.
        long: how long it is sewn, mm.
        bend: radius of its tightest bend on the flat panels, mm; infinite where both sides are straight.
        corners: how many corners it goes around.
        clips: how many relief clips it takes.
        labels: the first and the last of its match marks.
        layer: which cloth it is of.
        choices: everything decided about the cover.
        hidden: whether a lining hides its allowances.
    """

    number: int
    key: str
    seam: Seam
    called: Phrase
    ref: Ref
    long: float
    bend: float
    corners: int
    clips: int
    labels: tuple[str, str]
    layer: Cloth
    choices: CoverChoices
    hidden: bool

    @property
    def cloth(self) -> ClothChoice:
        """Its cloth."""
        return self.choices.lining.cloth if self.layer is Cloth.LINING else self.choices.cloth

    @property
    def on(self) -> tuple[str, ...]:
        """The pieces that it joins: what lies below first, what is laid on it last."""
        return tuple(dict.fromkeys(run.piece for side in (self.seam.b, self.seam.a) for run in side))

    @property
    def edges(self) -> tuple[Run, ...]:
        """Both its sides."""
        return (*self.seam.a, *self.seam.b)

    @property
    def bent(self) -> bool:
        """Whether it goes around a curve, or one side is eased or gathered onto the other."""
        return self.bend < BENT or self.seam.ratio != 1.0

    @property
    def pins(self) -> int:
        """How many pins it takes."""
        return max(2, round(self.long / (PINS_APART_BENT if self.bent else PINS_APART))) + PINS_AT_CORNER * self.corners

    @property
    def pace(self) -> Pace:
        """How fast it is sewn."""
        if self.seam.ring and self.bend < SMALL_DISC:
            return Pace.SMALL_RING
        return Pace.CURVED if self.bent else Pace.STRAIGHT

    def does(self, action: str, deed: str, words: Phrase, *work: Work, **more: Any) -> Operation:
        """One operation on it."""
        made = Operation(
            key=f"{self.key}/{action}",
            deed=deed,
            words=words,
            ref=self.ref,
            on=self.on,
            edges=self.edges,
            cloth=self.layer,
            work=work,
        )
        return replace(made, **more)

    def sewn(self, pace: Pace, times: float = 1.0) -> Work:
        """All of its length, so often."""
        return Work(pace, self.long * times)


def pinned(s: Stitching) -> Iterator[Operation]:
    """Marks met and pinned: the middle first, ends and corners last; clips before."""
    if s.clips and s.choices.clips in (ClipSchool.STRAIGHT, ClipSchool.DISC):
        words = trn("Clip the allowance {n} times: {seam}", "Clip the allowance {n} times: {seam}", s.clips, seam=s.called)
        short = Check(tr("no clip is nearer to the stitch line than {short}", short=Rule(2.0, 1 / 16)))
        yield s.does("clip", "clip", words, Work(Pace.FIXED, 0.08 * s.clips), checks=(short,))
    if s.seam.ring:
        words = tr("Mark quarters on both sides: {seam}", seam=s.called)
        yield s.does(
            "quarters", "quarters", words, Work(Pace.FIXED, 1.0), checks=(Check(tr("four quarters, each"), s.long / 4.0),)
        )
    stiff = s.cloth.iron is Iron.NEVER and s.cloth.waterproof
    note = (tr("pin inside the allowance only, or use clips: holes stay in this cloth"),) if stiff else ()
    first, last = s.labels
    marks = tr("{first} on {first}, {last} on {last}", first=Name(first), last=Name(last)) if first != last else NOTHING
    if s.corners or s.bend < BENT:
        rest = PINS_AT_CORNER * s.corners if not s.bent else s.pins * 2 // 3
        middle = s.pins - rest
        words = tr("Pin middle on middle, then every mark between: {seam}", seam=s.called)
        yield s.does("pin", "pin", words, Work(Pace.PIN, float(middle)), notes=note, checks=(Check(marks),) if marks else ())
        words = tr("Pin ends, curves and corners last: {seam}", seam=s.called)
        yield s.does(
            "corners", "pin corners", words, Work(Pace.PIN, float(rest)), Work(Pace.CORNER, float(s.corners)), notes=note
        )
        return
    words = tr("Pin middle on middle, then the ends: {seam}", seam=s.called)
    yield s.does("pin", "pin", words, Work(Pace.PIN, float(s.pins)), notes=note, checks=(Check(marks),) if marks else ())


def sewn(s: Stitching, deed: str = "", words: Phrase = NOTHING) -> Operation:
    """The seam itself, both ends locked; what is to be looked at when it is done."""
    first, last = s.labels
    most = Rule(MOST_DRIFT, 1 / 8)
    told = tr(
        "marks {first} to {last} meet within {most}: if not, stop and find out why", first=Name(first), last=Name(last), most=most
    )
    if first == last:
        told = tr("marks {first} meet within {most}: if not, stop and find out why", first=Name(first), most=most)
    drift = Check(told)
    checks = [drift] if first else []
    if s.corners:
        checks.append(Check(tr("no tuck in any corner")))
    checks.append(Check(tr("sewn length"), s.long))
    kind = deed or ("sew ring" if s.seam.ring else "sew")
    told = words or tr("Sew {seam}", seam=s.called)
    allowance = tr("keep to the stitch line; lock both ends")
    return s.does(
        "sew",
        kind,
        told,
        Work(Pace.PIECE, float(len(s.on))),
        s.sewn(s.pace),
        Work(Pace.CORNER, float(s.corners)),
        seams=(s.number,),
        checks=tuple(checks),
        notes=(allowance,),
    )


def pressed(s: Stitching, how: Phrase = NOTHING) -> Operation:
    """Pressed as the cloth stands it, else by the finger; turned so that bulk alternates where seams cross."""
    turn = tr("where it crosses another seam turn its allowances the other way from that one")
    said = how or tr("open, or to one side")
    if s.cloth.iron is Iron.NEVER:
        words = tr("Finger-press {seam}: {how}", seam=s.called, how=said)
        return s.does("press", "finger-press", words, Work(Pace.PRESSING, s.long), notes=(turn,))
    words = tr("Press {seam}: {how}", seam=s.called, how=said)
    cloth = (tr("under a press cloth"),) if s.cloth.iron is Iron.PRESS_CLOTH else ()
    return s.does("press", "press seam", words, Work(Pace.PRESSING, s.long), notes=(*cloth, turn))


def neatened(s: Stitching) -> Iterator[Operation]:
    """Raw allowances neatened where the cloth frays and nothing hides them; trimmed where that is the school."""
    if s.clips and s.choices.clips is ClipSchool.AFTER:
        yield s.does("trim", "trim seam", tr("Clip or pink the allowance: {seam}", seam=s.called), Work(Pace.SHEARS, s.long))
    if s.clips and s.choices.clips is ClipSchool.TRIM:
        yield s.does("trim", "trim seam", tr("Trim the allowance to half: {seam}", seam=s.called), Work(Pace.SHEARS, s.long))
    if s.cloth.frays and not s.cloth.hot_cut and not s.hidden:
        yield s.does("neaten", "neaten", tr("Neaten the allowances: {seam}", seam=s.called), s.sewn(Pace.NEATENING))


def topstitched(s: Stitching, rows: int, words: Phrase = NOTHING) -> Iterator[Operation]:
    """Rows stitched down from the right side, and both ends reinforced where that was chosen."""
    if rows:
        where = trn(
            "a row {first} from the seam",
            "the first row {first} from the seam, the next {second} further",
            rows,
            first=Rule(3.0, 1 / 8),
            second=Rule(6.0, 1 / 4),
        )
        told = words or tr("Topstitch {seam}", seam=s.called)
        yield s.does(
            "topstitch",
            "topstitch",
            told,
            s.sewn(Pace.TOPSTITCH, float(rows)),
            Work(Pace.PIECE, 1.0),
            notes=(where,),
            checks=(Check(tr("the allowances are caught all along")),),
        )
    if s.seam.tacked:
        yield s.does("tack", "tack", tr("Bar tack both ends of {seam}", seam=s.called), Work(Pace.FIXED, 1.0))


def plainly(s: Stitching) -> Iterator[Operation]:
    """Pinned, sewn, pressed, neatened; topstitched where rows were chosen."""
    return in_turn(_plainly(s))


def _plainly(s: Stitching) -> Iterator[Operation]:
    yield from pinned(s)
    yield sewn(s)
    yield from neatened(s)
    yield pressed(s)
    yield from topstitched(s, s.seam.rows)
