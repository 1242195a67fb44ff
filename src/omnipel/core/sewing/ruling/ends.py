"""Rule 10 and what a lining asks for: trying on before what is final, shells before they are put together, the gap last."""

from collections.abc import Iterator
from typing import Final

from omnipel.core.finishing.operation import Operation, When
from omnipel.core.sewing.deriving.ending import FIT, TIDY, TRY
from omnipel.core.sewing.ruling.bench import Before, Bench
from omnipel.core.words.phrases import tr

FINAL: Final = frozenset({"cut boxed", "punch", "drill", "set on object", "fasten", "put in", "bag", "finish cord"})
"""Not before it was tried on."""
SHAPES: Final = (When.JOIN, When.FLAT, When.LAYERS)
"""What gives a cover its shape."""


def tried(bench: Bench) -> Iterator[Before]:
    """Everything that shapes the outer is sewn before it is tried on; what is final comes after."""
    fit = bench.one(TRY)
    if fit is None:
        return
    last = {edge.name for edge in bench.making.edges if not bench.making.first(edge)}
    for operation in bench.operations:
        if operation.key in (TRY, FIT, TIDY) or operation.did.when is When.ALTER:
            continue
        on_it = bool(set(operation.on) & set(fit.on))
        if operation.did.when in SHAPES and on_it:
            yield Before(operation.key, TRY, tr("everything that gives it its shape is sewn before it is tried on"), 10)
        elif operation.did.when is When.HEM and operation.opening in last:
            yield Before(TRY, operation.key, tr("the length is proved on the object"), 10)
        elif operation.did.when is When.HEM and on_it:
            yield Before(operation.key, TRY, tr("hem first: it is there when it is tried on"), 10)
        if operation.deed in FINAL:
            cut = operation.deed == "cut boxed"
            why = tr("try before cutting off") if cut else tr("it can be taken in or let out until then")
            yield Before(TRY, operation.key, why, 10)


def lined(bench: Bench) -> Iterator[Before]:
    """The shells before they are put together; the gap marked before its seam; what is bound or hemmed with a lining after that is in."""
    making = bench.making
    gap = bench.one("lining/mark gap")
    for piece in gap.on if gap is not None else ():
        for i in making.joined_at.get(piece, ()):
            for seam in bench.opens(i) if i not in making.meeting else ():
                yield Before("lining/mark gap", seam.key, tr("the gap is left open"), 4)
    for meeting in (o for o in bench.operations if o.key in ("lining/put in", "lining/bag")):
        for operation in bench.operations:
            if operation is not meeting and set(operation.on) & set(meeting.on):
                yield from _meets(bench, meeting, operation)


def _meets(bench: Bench, meeting: Operation, operation: Operation) -> Iterator[Before]:
    making = bench.making
    holds_both = any(i in making.meeting for i in operation.seams)
    if operation.did.when in SHAPES:
        yield Before(operation.key, meeting.key, tr("both shells are sewn before one goes into the other"), 4)
    elif operation.did.when is When.HEM and holds_both:
        yield Before(meeting.key, operation.key, tr("it holds both"), 6)
    elif operation.did.when is When.HEM and meeting.deed == "bag":
        yield Before(operation.key, meeting.key, tr("out of reach once it is bagged"), 4)
    elif operation.deed == "bag":
        yield Before(meeting.key, operation.key, tr("it holds both"), 6)


def ended(bench: Bench) -> Iterator[Before]:
    """The gap is the last to be sewn; threads are trimmed when all is sewn; then it is put on."""
    closes = next((o for o in bench.operations if o.deed == "close gap"), None)
    for operation in bench.operations:
        if operation.key in (TIDY, FIT) or operation.did.when is When.ALTER:
            continue
        yield Before(operation.key, TIDY, tr("when all is sewn"), 10)
        if closes is not None and operation is not closes and operation.did.when not in (When.FINISH, When.TRY):
            yield Before(operation.key, closes.key, tr("the gap is the last to close"), 4)
    yield Before(TIDY, FIT, tr("with no pin left in it"), 10)


def altered(bench: Bench) -> Iterator[Before]:
    """What is altered comes after the try-on that showed it: when all was done already, at the very end."""
    done = bench.making.drafted.job.sewing.done
    known = {operation.key for operation in bench.operations}
    for operation in bench.operations:
        if operation.did.when is not When.ALTER:
            continue
        shown = next((key for key in (FIT, TIDY, TRY) if key in known and key in done), TRY if TRY in known else "")
        if shown:
            yield Before(shown, operation.key, tr("trying it on showed it"), 10)
        if shown in (TRY, ""):
            yield Before(operation.key, TIDY, tr("when all is sewn"), 10)
