"""What has to come before what, each with its reason: the eleven rules of the trade, read off what the cover is made of.

1 a feature goes on while its panel is flat · 2 what ends in a seam is basted to it before · 3 of two seams that share a corner the one whose end the
other crosses comes first · 4 a seam must be reachable: straight ones before the ring, the ring that closes a bag last, a turning gap open until then ·
5 ring first, or meet and trim · 6 hem first or last; a bound lower edge after what ends in it · 7 quilt, square up, cut, then all else · 8 fuse before seams;
nothing is ironed once it is coated · 9 cord before its casing is closed, elastic after, before its gap · 10 try-on before what is final · 11 trim, notch and
neaten right after the seam.
"""

from collections.abc import Iterator, Sequence

from omnipel.core.finishing.operation import Operation
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.ruling import ends, flat, hems, seams
from omnipel.core.sewing.ruling.bench import Before, Bench

RULES = (
    flat.prepared,
    flat.layered,
    flat.put_on,
    flat.caught,
    flat.covered,
    flat.whole,
    seams.crossed,
    seams.ringed,
    seams.within_a_face,
    seams.piped_first,
    seams.folded_ends,
    hems.hemmed,
    hems.ironed,
    ends.tried,
    ends.lined,
    ends.ended,
    ends.altered,
)


def rules(making: Making, operations: Sequence[Operation]) -> Iterator[Before]:
    """All that has to come before something, each pair with its reason."""
    for operation in operations:
        for after in operation.after:
            yield Before(after.key, operation.key, after.why)
    bench = Bench(making, operations)
    for rule in RULES:
        yield from rule(bench)
