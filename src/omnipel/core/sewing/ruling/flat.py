"""Rules 1, 2, 7 and 8: what is done while a panel is flat: prepared, fused, quilted, trimmed; put on; caught in a seam."""

from collections.abc import Iterator, Mapping
from typing import Final

from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.operation import Operation, When
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.ruling.bench import Before, Bench, closes_late
from omnipel.core.words.phrases import term, tr

USES_GOODS: Final = frozenset(
    {"lay cord", "thread", "baste part", "sew on", "make piping", "lap", "touch", "bind opening", "bind edge", "bind part"}
)
"""Needs what is cut to length."""
LATER: Final = (When.FLAT, When.HEM, When.JOIN)
"""What a panel has to be ready for."""


def prepared(bench: Bench) -> Iterator[Before]:
    """Nothing is sewn before it is cut and measured."""
    measured = {o.cloth: o for o in bench.operations if o.deed == "measure"}
    goods = next((o for o in bench.operations if o.deed == "cut goods"), None)
    for operation in bench.operations:
        if operation.did.when is When.PREPARE:
            continue
        cloths = {bench.making.flat[piece].cloth for piece in operation.on} or {Cloth.OUTER}
        for cloth in sorted(cloths & set(measured)):
            yield Before(measured[cloth].key, operation.key, tr("nothing is sewn before it is cut and measured"), 7)
        if goods is not None and operation.deed in USES_GOODS:
            yield Before(goods.key, operation.key, tr("what is drawn in or sewn on is cut before"), 7)


def layered(bench: Bench) -> Iterator[Before]:
    """Fuse, quilt, square up; only then anything else of a panel."""
    chain = [o for o in bench.operations if o.did.when is When.LAYERS]
    steps = [o for o in chain if o.key.startswith("padding/")]
    for before, after in zip(steps, steps[1:], strict=False):
        takes_up = tr("fusing and quilting take up: it is squared up again after")
        yield Before(before.key, after.key, takes_up if after.deed == "trim to size" else tr("quilting holds all layers"), 7)
    final = tr("sizes are final only when layers are fused, quilted and trimmed")
    for layer in chain:
        for operation in bench.operations:
            if operation.did.when in LATER and set(operation.on) & set(layer.on):
                yield Before(layer.key, operation.key, final, 7 if layer.deed == "trim to size" else 8)


def put_on(bench: Bench) -> Iterator[Before]:
    """What is put on a panel, and what ends in its seams, goes on before the first seam after which that lies flat no more."""
    together = flat_together(bench.making)
    for operation in bench.operations:
        if operation.did.when in (When.FLAT, When.LAYERS) and not operation.key.startswith("seam:"):
            for piece in operation.on:
                yield from _before_seams(bench, operation, piece, together.get(piece, frozenset({piece})))


def _before_seams(bench: Bench, operation: Operation, piece: str, together: frozenset[str]) -> Iterator[Before]:
    making = bench.making
    for other in sorted(together):
        for i in making.joined_at.get(other, ()):
            level = making.in_panel(i)
            if level and (other != piece or not _about(making, operation, i)):
                continue
            for seam in bench.opens(i):
                if operation.deed == "baste part":
                    yield Before(operation.key, seam.key, tr("it ends in a seam, or lies on a panel that is flat until then"), 2)
                else:
                    yield Before(operation.key, seam.key, tr("only while {piece} is flat", piece=term(piece)), 1)


def _about(making: Making, operation: Operation, i: int) -> bool:
    """Whether something put on a piece may be about a seam within its panel: what is caught in it, what lies over it in halves."""
    pieces = {run.piece for side in making.seams[i].sides for run in side}
    return operation.deed in ("baste part", "open", "bind opening") or len(pieces & set(operation.on)) > 1


def flat_together(making: Making) -> Mapping[str, frozenset[str]]:
    """By piece all those that it is one panel with once that is joined from its parts."""
    groups = {name: {name} for name in making.pieces}
    for i in (i for i in range(len(making.seams)) if making.in_panel(i)):
        merged = {name for side in making.seams[i].sides for run in side for name in groups[run.piece]}
        for name in merged:
            groups[name] = merged
    return {name: frozenset(group) for name, group in groups.items()}


def caught(bench: Bench) -> Iterator[Before]:
    """What is caught in a seam is sewn to one side of it before; its own seams and hems before that."""
    making = bench.making
    for i, seam in enumerate(making.seams):
        if not seam.onto:
            continue
        mine = bench.sews(i)
        mains = {
            k for run in seam.b for k in making.in_seam.get((run.piece, run.edge), ()) if k != i and not making.seams[k].onto
        }
        for k in sorted(mains):
            for main in bench.opens(k):
                for own in mine:
                    yield Before(own.key, main.key, tr("it ends in that seam"), 2)
        yield from _made_before(bench, i, frozenset({run.piece for run in seam.a} & making.hung))


def _made_before(bench: Bench, i: int, hangs: frozenset[str]) -> Iterator[Before]:
    """What hangs in a seam is hemmed and closed before it is caught there."""
    late = {o.key for k in closes_late(bench.making) for o in bench.of_seam.get(k, ())}
    for operation in bench.operations:
        if not operation.on or not set(operation.on) <= hangs or i in operation.seams or operation.key in late:
            continue
        for own in bench.sews(i):
            if operation.did.when is When.HEM:
                yield Before(operation.key, own.key, tr("flat is easier than round"), 2)
            elif operation.did.when in (When.FLAT, When.JOIN):
                yield Before(
                    operation.key, own.key, tr("ring first: {piece} is closed before it is hung", piece=term(min(hangs))), 5
                )


def covered(bench: Bench) -> Iterator[Before]:
    """An opening or a slit is bound before what lies over it is sewn on."""
    bound = [o for o in bench.operations if o.deed in ("bind opening", "open") and not o.feature]
    for operation in bench.operations:
        if operation.deed == "sew on" and not operation.feature and operation.key.startswith("piece:"):
            for edge in bound:
                if set(edge.on) & set(operation.on):
                    yield Before(edge.key, operation.key, tr("it covers the bound edge"), 2)


def whole(bench: Bench) -> Iterator[Before]:
    """What lies on another piece is joined from its parts before it is sewn on."""
    making = bench.making
    for operation in bench.operations:
        own = operation.key.startswith("piece:") and not operation.feature  # its hems and what holds it
        parts = {name for name in operation.on if making.pieces[name].on} if own or operation.deed == "sew on" else set()
        for i in sorted({i for part in parts for i in making.joined_at.get(part, ()) if making.in_panel(i)}):
            for step in bench.of_seam.get(i, ()):
                yield Before(step.key, operation.key, tr("it is joined from its parts before it is sewn on"), 2)
