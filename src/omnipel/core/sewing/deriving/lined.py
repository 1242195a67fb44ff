"""A lining that hangs by itself: put in, or bagged and turned through its gap."""

from collections.abc import Iterator, Sequence
from typing import Any

from omnipel.core.drafting.panel import Cloth, Figure, MarkKind, Shows
from omnipel.core.drafting.seams import Run, SeamKind
from omnipel.core.finishing.operation import After, Check, Operation, Pace, Work
from omnipel.core.finishing.stitching import PINS_APART
from omnipel.core.job.document import Iron
from omnipel.core.sewing.deriving.edging import elastic
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, term, tr

KEY = "lining"


def of_lining(making: Making) -> Iterator[Operation]:
    """Where outer and lining meet."""
    meeting = sorted(making.meeting)
    bagged = [i for i in meeting if making.seams[i].kind == SeamKind.BAGGED]
    if meeting and len(bagged) < len(meeting):
        shells = tuple(name for name in making.surface if making.flat[name].cloth is Cloth.LINING)
        words = tr("Put the lining shell into the outer one, wrong sides together, seam on seam, and pin the edge")
        yield _does("put in", "put in", words, (*_outer(making), *shells), Work(Pace.FIXED, 3.0))
    if bagged:
        yield from _bagged(making, bagged, turned=len(bagged) == len(meeting))


def _outer(making: Making) -> tuple[str, ...]:
    return tuple(name for name in making.surface if making.flat[name].cloth is Cloth.OUTER)


def _does(action: str, deed: str, words: Phrase, on: Sequence[str], *work: Work, **more: Any) -> Operation:
    return Operation(key=f"{KEY}/{action}", deed=deed, words=words, ref=refs.LINING_SCHOOL, on=tuple(on), work=work, **more)


def _bagged(making: Making, bagged: Sequence[int], *, turned: bool) -> Iterator[Operation]:
    """Right sides together at the edge, sewn; turned, pressed, topstitched; the gap is the last to close."""
    sides = [run for i in bagged for run in making.seams[i].b]
    on = tuple(name for name in making.surface if making.flat[name].cloth in (Cloth.OUTER, Cloth.LINING))
    long = making.long(sides)
    gap = making.choices.lining.turning_gap
    words = tr(
        "Join outer and lining at the edge, right sides together: {pieces}",
        pieces=listed(dict.fromkeys(term(run.piece) for run in sides)),
    )
    in_edge = not any(making.layer(i) is Cloth.LINING for i in range(len(making.seams)))
    opened = (tr("leave a gap to turn it through in the straightest edge, ends locked"),) if in_edge else ()
    yield _does(
        "bag",
        "bag",
        words,
        on,
        Work(Pace.PIN, long / PINS_APART),
        Work(Pace.STRAIGHT, long),
        edges=tuple(sides),
        seams=tuple(bagged),
        notes=opened,
        checks=(Check(tr("both edges meet all round"), long),),
    )
    if not turned:
        return
    yield _does(
        "turn",
        "turn",
        tr("Turn it through the gap"),
        on,
        Work(Pace.FIXED, 4.0),
        after=(After(f"{KEY}/bag", tr("turned when both are joined")),),
        checks=(Check(tr("gap"), gap),),
    )
    ironed = making.choices.cloth.iron is not Iron.NEVER and making.choices.lining.cloth.iron is not Iron.NEVER
    words = (
        tr("Press the edge flat, the seam right on it")
        if ironed
        else tr("Roll the edge between the fingers until the seam lies right on it")
    )
    yield _does(
        "press",
        "press" if ironed else "shape",
        words,
        on,
        Work(Pace.PRESSING, long),
        after=(After(f"{KEY}/turn", tr("pressed when it is turned")),),
    )
    yield from _edge_of(making, on, sides, long)


def _edge_of(making: Making, on: Sequence[str], sides: Sequence[Run], long: float) -> Iterator[Operation]:
    """The edge of what is turned: a casing for what draws it in, or topstitching; then the gap is closed."""
    runs = [figure for name in _outer(making) for figure in making.figures(name) if _casing(figure)]
    if runs:
        what = term(runs[0].holds)
        words = tr("Stitch the casing for the {goods}, a gap left where it goes in", goods=what)
        yield _does(
            "casing", "edge stitch", words, on, Work(Pace.CURVED, long), after=(After(f"{KEY}/press", tr("it is stitched flat")),)
        )
        if runs[0].holds == "elastic":
            yield from elastic(making, KEY, tr("the casing"), (After(f"{KEY}/casing", tr("the casing is stitched first")),))
        else:
            words = tr("Draw the cord into the casing; secure both ends before you pull")
            stitched = (After(f"{KEY}/casing", tr("the casing is stitched first")),)
            yield _does("thread", "thread", words, on, Work(Pace.FIXED, 3.0), after=stitched, cautions=("small parts",))
        return
    yield _does(
        "edge",
        "edge stitch",
        tr("Topstitch the edge all round"),
        on,
        Work(Pace.TOPSTITCH, long),
        edges=tuple(sides),
        after=(After(f"{KEY}/press", tr("pressed before it is stitched")),),
    )
    words = tr("Close the gap, the last of all")
    yield _does(
        "close",
        "close gap",
        words,
        on,
        Work(Pace.HAND, making.choices.lining.turning_gap),
        after=(After(f"{KEY}/edge", tr("nothing can be turned back afterwards")),),
    )


def _casing(figure: Figure) -> bool:
    return figure.holds in ("elastic", "cord") and figure.seen is Shows.STITCHES and figure.kind is MarkKind.LINE


def of_gap(making: Making) -> Iterator[Operation]:
    """The turning gap marked in the lining before the seam that it is in is sewn."""
    for name in making.of(Cloth.LINING):
        for notch in making.flat[name].notches:
            if notch.label == "gap" and notch.kind is MarkKind.POINT:
                words = tr("Mark the turning gap in the {edge} of {piece}", edge=term(notch.edge), piece=term(name))
                length = Check(tr("gap"), making.choices.lining.turning_gap)
                yield _does("mark gap", "mark gap", words, (name,), Work(Pace.FIXED, 0.5), checks=(length,))
                return
