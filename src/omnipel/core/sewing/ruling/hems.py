"""Rules 6 and 9: hems first or last, what runs in them, when nothing is ironed any more."""

from collections.abc import Iterator, Sequence
from typing import Final

from omnipel.core.covers.dressed import Dressed
from omnipel.core.finishing.operation import Operation, Station, When
from omnipel.core.sewing.ruling.bench import Before, Bench
from omnipel.core.words.phrases import tr

FOLDS: Final = frozenset({"press hem", "score hem"})
SET: Final = frozenset({"fasten", "punch", "set on object"})
"""Goes on a finished edge."""


def hemmed(bench: Bench) -> Iterator[Before]:
    """A hem before the seams that end in it, or after all of them; a casing's ends are closed when its cord is in."""
    for edge in bench.making.edges:
        own = [o for o in bench.operations if o.opening == edge.name and o.did.when is When.HEM]
        beside = _beside(bench, edge)
        yield from _first(bench, edge, own, beside) if bench.making.first(edge) else _last(bench, own, beside)
        for operation in bench.operations:
            if operation.opening == edge.name:
                yield from _set_in(operation, own)


def _beside(bench: Bench, edge: Dressed) -> Sequence[int]:
    making = bench.making
    found = {i for run in edge.runs for i in making.joined_at.get(run.piece, ())}
    return sorted(i for i in found if i not in making.meeting)


def _first(bench: Bench, edge: Dressed, own: Sequence[Operation], beside: Sequence[int]) -> Iterator[Before]:
    making = bench.making
    closing = {i for i in beside if making.ends(i) & making.corners_of(edge.runs)}
    for i in beside:
        for hem in own:
            for seam in bench.opens(i):
                if hem.deed == "lay cord" and i in closing:
                    yield Before(hem.key, seam.key, tr("the cord cannot be drawn in past a closed end"), 9)
                else:
                    yield Before(hem.key, seam.key, tr("hem first: flat is easier than round"), 6)


def _last(bench: Bench, own: Sequence[Operation], beside: Sequence[int]) -> Iterator[Before]:
    for i in beside:
        for step in bench.of_seam.get(i, ()):
            if step.did.when is not When.FINISH:
                for hem in own:
                    yield Before(step.key, hem.key, tr("hem last: after everything that ends in it"), 6)


def _set_in(operation: Operation, own: Sequence[Operation]) -> Iterator[Before]:
    """What sits in a hem: grommets of a cord's exit before it is folded, fasteners when it is finished."""
    for hem in own:
        if operation.deed == "set flat" and hem.deed in FOLDS:
            yield Before(operation.key, hem.key, tr("it goes through the outer layer only, before that is folded"), 6)
        if operation.deed in SET:
            yield Before(hem.key, operation.key, tr("on finished edges"), 10)


def ironed(bench: Bench) -> Iterator[Before]:
    """Nothing is ironed flat once an elastic or a cord is drawn in."""
    for thread in (o for o in bench.operations if o.deed == "thread"):
        for operation in bench.operations:
            pressed = operation.did.station is Station.IRON and operation.did.when is not When.PREPARE
            if pressed and set(operation.on) & set(thread.on):
                yield Before(
                    operation.key, thread.key, tr("press before the elastic or cord goes in: it cannot be ironed flat"), 9
                )
