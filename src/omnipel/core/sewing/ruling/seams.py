"""Rules 3, 4, 5 and 11: which of two seams comes first, so that each can be reached and none crosses what is not finished."""

from collections.abc import Iterator

from omnipel.core.drafting.seams import SeamKind
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.ruling.bench import Before, Bench, closes_late
from omnipel.core.tolerances import CORNER_ANGLE
from omnipel.core.words.phrases import term, tr


def crossed(bench: Bench) -> Iterator[Before]:
    """The seam whose end another crosses comes first with all that belongs to it; where a ring meets and is trimmed it comes after."""
    making, late = bench.making, closes_late(bench.making)
    for i, crossing in making.crossing.items():
        for k in sorted(crossing):
            if not (_joins(making, i) and _joins(making, k)):
                continue
            if i in late and k not in late:
                yield from bench.seam_before(k, i, tr("meet and trim: the strip is closed where its ends meet"), 5)
            elif k in making.lies_flat and i not in making.lies_flat:
                yield from bench.seam_before(k, i, tr("only while both are flat"), 4)
            elif i not in making.crossing.get(k, frozenset()) or i < k:
                yield from bench.seam_before(i, k, tr("the other seam crosses its end: it is finished and pressed before"), 3)


def _joins(making: Making, i: int) -> bool:
    """Whether a seam joins cloth of one layer for good."""
    return i not in making.meeting and not making.seams[i].onto


def ringed(bench: Bench) -> Iterator[Before]:
    """Seams between the strips around a lid or base come before those that join it to them."""
    making, late = bench.making, closes_late(bench.making)
    closed = [name for name in making.surface if all((name, edge.name) in making.in_seam for edge in making.flat[name].edges)]
    for name in closed:
        mine = [i for i in making.joined_at.get(name, ()) if _joins(making, i)]
        around = {run.piece for i in mine for side in making.seams[i].sides for run in side} - {name}
        if around & set(closed):
            continue  # closed all round on both sides: neither is the lid
        for i in sorted({k for other in around for k in making.joined_at.get(other, ())} - set(mine)):
            pieces = {run.piece for side in making.seams[i].sides for run in side}
            if pieces <= around and i not in late and _joins(making, i):
                for ring in (k for k in mine if k not in making.lies_flat):
                    yield from bench.seam_before(
                        i, ring, tr("ring first: what goes round {piece} is closed before", piece=term(name)), 4
                    )


def within_a_face(bench: Bench) -> Iterator[Before]:
    """Zips and joins within what was one panel come before any other seam of their pieces."""
    making = bench.making
    for i in sorted(making.lies_flat):
        if not making.in_panel(i):
            continue
        for piece in sorted({run.piece for side in making.seams[i].sides for run in side}):
            for k in making.joined_at.get(piece, ()):
                if k not in making.lies_flat and k != i and _joins(making, k):
                    yield from bench.seam_before(i, k, tr("only while both are flat"), 4)


def piped_first(bench: Bench) -> Iterator[Before]:
    """Of two seams along both edges of one strip the piped one is sewn while the strip lies flat still."""
    making = bench.making
    for i, seam in enumerate(making.seams):
        if seam.kind != "piped" or seam.ring:
            continue
        for k, other in enumerate(making.seams):
            if other.kind != "piped" and _joins(making, k) and k not in making.lies_flat and _other_side(making, i, k):
                yield from bench.seam_before(i, k, tr("the piped side first, while the strip is flat"), 4)


def _other_side(making: Making, i: int, k: int) -> bool:
    """Whether two seams of one layer share a strip, and nothing else."""
    mine, theirs = ({run.piece for side in making.seams[n].sides for run in side} for n in (i, k))
    apart = not making.ends(i) & making.ends(k) and k not in making.crossing[i] and i not in making.crossing[k]
    return len(mine & theirs) == 1 and len(theirs) == 2 and apart and making.layer(i) == making.layer(k)


def folded_ends(bench: Bench) -> Iterator[Before]:
    """A tube is closed before its ends are folded flat and sewn."""
    making = bench.making
    for name in making.surface:
        own = [i for i in making.joined_at.get(name, ()) if _of_itself(making, i, name)]
        ends = [i for i in own if _folds(making, i)]
        for tube in (i for i in own if i not in ends and making.seams[i].kind != SeamKind.BOXED):
            for end in ends:
                yield from bench.seam_before(tube, end, tr("the tube is closed before its ends are folded"), 4)


def _of_itself(making: Making, i: int, piece: str) -> bool:
    return _joins(making, i) and {run.piece for side in making.seams[i].sides for run in side} == {piece}


def _folds(making: Making, i: int) -> bool:
    """Whether a seam joins two edges that are one straight edge, folded in its middle."""
    seam = making.seams[i]
    if len(seam.a) != 1 or len(seam.b) != 1:
        return False
    panel = making.flat[seam.a[0].piece]
    names = [edge.name for edge in panel.edges]
    one, other = names.index(seam.a[0].edge), names.index(seam.b[0].edge)
    first = next((a for a, b in ((one, other), (other, one)) if (a + 1) % len(names) == b), None)
    return first is not None and panel.turn_after(first) <= CORNER_ANGLE
