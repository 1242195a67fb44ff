"""How what is put on a cover gets there, as operations: what a kind is told of it, and the steps that several kinds share."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any, Final

from omnipel.core.drafting.panel import Figure, Panel
from omnipel.core.finishing.operation import After, Check, Operation, Pace, Work, in_turn
from omnipel.core.job.document import CoverChoices, Iron
from omnipel.core.job.feature import Choice, Feature
from omnipel.core.job.finish import FOLDED, FinishKind
from omnipel.core.words.phrases import Name, Phrase, Value, term, tr
from omnipel.core.words.refs import Ref

STITCHED: Final = "stitched on"
"""What is caught in no seam."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fixing:
    """Something that is to be put on a cover.

    Args:
        feature: what it is.
        values: what was decided about it by its kind's own choices.
        ref: where it is decided.
        host: the piece that it lies on.
        parts: its own pieces with the panels they are cut from.
        figures: what is drawn of it on its piece.
        choices: everything decided about the cover.
        in_edge: the opening in whose folded edge it lies; "" for none.
        hosts: all pieces that it is drawn on, where it lies over a seam or along an edge.
        begins: how the keys of its operations begin, where it is the scheme's own.
    """

    feature: Feature
    values: Mapping[str, Choice]
    ref: Ref
    host: str
    parts: Mapping[str, Panel]
    figures: tuple[Figure, ...]
    choices: CoverChoices
    in_edge: str = ""
    hosts: tuple[str, ...] = ()
    begins: str = ""

    @property
    def key(self) -> str:
        """How the keys of its operations begin."""
        return self.begins or f"feature:{self.feature.id}"

    @property
    def name(self) -> Name:
        """What it is called."""
        return Name(self.feature.name)

    @property
    def on(self) -> Value:
        """What it lies on."""
        return term(self.host)

    def picked(self, key: str) -> str:
        """One of its own choices, as text; "" where its kind has none of that name."""
        return str(self.values.get(key, ""))

    def yes(self, key: str) -> bool:
        """One of its own choices, as yes or no."""
        return bool(self.values.get(key, False))

    def number(self, key: str) -> float:
        """One of its own choices, as a number."""
        return float(self.values.get(key, 0.0))

    @property
    def main(self) -> str:
        """Its own piece that has its name; "" where it has none."""
        return next((name for name, panel in self.parts.items() if panel.name == self.feature.name), next(iter(self.parts), ""))

    def part(self, begins: str) -> str:
        """Its own piece whose name begins so; "" where it has none."""
        return next((name for name in self.parts if name.startswith(begins)), "")

    def around(self, piece: str) -> float:
        """How long all edges of one of its own pieces are, mm."""
        return math.fsum(edge.curve.length for edge in self.parts[piece].edges) if piece in self.parts else 0.0

    def does(
        self, action: str, deed: str, words: Phrase, *work: Work, on: tuple[str, ...] | None = None, **more: Any
    ) -> Operation:
        """One operation on it."""
        where = on if on is not None else (self.host, *((self.main,) if self.main else ()))
        made = Operation(
            key=f"{self.key}/{action}", deed=deed, words=words, ref=self.ref, on=where, feature=self.feature.id, work=work
        )
        return replace(made, **more)


def prepared(f: Fixing, piece: str) -> Iterator[Operation]:
    """The free edges of a part finished while it lies by itself: hemmed, bound; what is sewn on is pressed under."""
    if not piece:
        return
    panel, ironed = f.parts[piece], f.choices.cloth.iron is not Iron.NEVER
    hems = [edge for edge in panel.edges if edge.finish.kind in FOLDED]
    bound = [edge for edge in panel.edges if edge.finish.kind is FinishKind.BOUND]
    long = math.fsum(edge.curve.length for edge in hems)
    if hems:
        fold = Check(tr("hem as folded"), hems[0].finish.width)
        words = (
            tr("Press the hem of {part}", part=term(piece))
            if ironed
            else tr("Score and fold the hem of {part}", part=term(piece))
        )
        yield f.does(
            f"press {piece}",
            "press part" if ironed else "score part",
            words,
            Work(Pace.PRESSING, long),
            on=(piece,),
            checks=(fold,),
        )
        words = tr("Hem {part}: this edge is out of reach once it is sewn on", part=term(piece))
        yield f.does(f"hem {piece}", "prepare part", words, Work(Pace.HEM, long), on=(piece,))
    if bound:
        words = tr("Bind the edge of {part}: it is out of reach once it is sewn on", part=term(piece))
        yield f.does(
            f"bind {piece}", "bind part", words, Work(Pace.BINDING, math.fsum(e.curve.length for e in bound)), on=(piece,)
        )


def touched(f: Fixing, piece: str) -> Iterator[Operation]:
    """Hook-and-loop on a flap and on what it closes over, while both can be reached."""
    if piece:
        words = tr("Sew hook-and-loop to {part} and its other half to {host}", part=term(piece), host=f.on)
        long = max((edge.curve.length for edge in f.parts[piece].edges), default=0.0)
        yield f.does(f"touch {piece}", "touch", words, Work(Pace.STRAIGHT, 4.0 * long), on=(piece, f.host))


def sewn_on(f: Fixing, piece: str, words: Phrase, *work: Work, action: str = "sew on", **more: Any) -> Operation:
    """A part sewn to its piece."""
    done = work or (Work(Pace.PIECE, 1.0), Work(Pace.STRAIGHT, f.around(piece)))
    return f.does(action, "sew on", words, *done, on=(f.host, *((piece,) if piece else ())), **more)


def flapped(f: Fixing, piece: str, held: str) -> Iterator[Operation]:
    """A flap: its edges, what holds it, then sewn on."""
    if not piece:
        return
    yield from prepared(f, piece)
    if held == "hook-and-loop":
        yield from touched(f, piece)
    yield sewn_on(f, piece, tr("Sew {part} on along its top", part=term(piece)), action=f"sew on {piece}")


def caught_or_stitched(f: Fixing) -> Iterator[Operation]:
    """Webbing, tape or a label: basted to the edge that a seam will catch, or stitched on through a patch."""
    if f.picked("caught") != STITCHED and f.picked("caught"):
        words = tr("Baste {feature} to the edge of {host}, its ends on the marks", feature=f.name, host=f.on)
        inside = (tr("it lies on the right side and points away from the edge"),)
        yield f.does(
            "baste",
            "baste part",
            words,
            Work(Pace.FIXED, 2.0),
            notes=inside,
            checks=(Check(tr("both ends are caught as deep as marked")),),
        )
        return
    words = tr("Stitch {feature} to {host}, a box with a cross in it", feature=f.name, host=f.on)
    behind = tuple(piece for piece in f.parts if piece.startswith("patch of "))
    notes = (tr("the patch lies behind it, on the wrong side"),) if behind else ()
    yield f.does("sew on", "sew on", words, Work(Pace.FIXED, 4.0 * max(1, len(behind))), on=(f.host, *behind), notes=notes)


def generally(f: Fixing) -> Iterator[Operation]:
    """What is known of any kind: its parts finished, then sewn on; a cut-out cut."""
    return in_turn(_generally(f))


def _generally(f: Fixing) -> Iterator[Operation]:
    for piece in f.parts:
        yield from prepared(f, piece)
    words = tr("Sew {feature} on to {host}", feature=f.name, host=f.on)
    yield sewn_on(f, f.main, words, *(() if f.main else (Work(Pace.FIXED, 5.0),)))


def set_in_turn(f: Fixing, goods: Phrase, count: int, *, around: bool, on_object: bool, flat: bool) -> Iterator[Operation]:
    """So many fasteners: the outer ones first, those at the halves, the rest; studs are screwed to the object where they go there."""
    outer = min(count, 4 if around else 2)
    halves = min(max(0, count - outer), outer)
    parts = (
        ("ends", outer, tr("those at the corners or ends")),
        ("halves", halves, tr("those half-way between them")),
        ("rest", count - outer - halves, tr("all the others")),
    )
    deed = "set flat" if flat and not on_object else "set on object" if on_object else "fasten"
    before = ""
    for action, n, which in parts:
        if n <= 0:
            continue
        after = (After(f"{f.key}/{before}", tr("spacing runs between the ones before")),) if before else ()
        if on_object:
            yield f.does(
                f"punch {action}",
                "punch",
                tr("Punch-mark the object for {feature}: {which}", feature=f.name, which=which),
                Work(Pace.FIXED, 0.5 * n),
                after=after,
                on=f.hosts or (f.host,),
            )
            first = (After(f"{f.key}/punch {action}", tr("the bit walks without a punch mark")),)
            yield f.does(
                f"drill {action}",
                "drill",
                tr("Drill for {feature}: {which}", feature=f.name, which=which),
                Work(Pace.FIXED, 1.0 * n),
                after=first,
                on=f.hosts or (f.host,),
            )
            after = (After(f"{f.key}/drill {action}", tr("the stud goes into the hole")),)
        words = tr("Set the {goods} of {feature}: {which}", goods=goods, feature=f.name, which=which)
        yield f.does(action, deed, words, Work(Pace.FASTENER, float(n)), after=after, on=f.hosts or (f.host,), opening=f.in_edge)
        before = action
