"""All operations that a cover asks for, derived from what it is made of: each said where it belongs, none listed for a scheme."""

from collections.abc import Iterator
from dataclasses import replace

from omnipel.core.finishing.operation import Operation, Pace, Work
from omnipel.core.sewing.deriving import altering, ending, fixed, lined, preparing
from omnipel.core.sewing.deriving.edging import of_edges
from omnipel.core.sewing.deriving.seaming import of_curves, of_seams
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import term, tr


def operations(making: Making) -> tuple[Operation, ...]:
    """In the order in which the trade thinks of them: prepare, flat, hems, joins, lining, finish. Every seam is sewn by exactly one of them."""
    parts = (
        preparing.of_cloth,
        preparing.of_layers,
        fixed.of_figures,
        fixed.of_features,
        fixed.of_parts,
        of_curves,
        of_edges,
        lined.of_gap,
        of_seams,
        lined.of_lining,
        ending.of_ending,
        altering.of_alterations,
    )
    made = {operation.key: operation for part in parts for operation in part(making)}
    made |= {operation.key: operation for operation in _left(making, tuple(made.values()))}
    known = set(made)
    return tuple(replace(o, after=tuple(after for after in o.after if after.key in known)) for o in made.values())


def _left(making: Making, made: tuple[Operation, ...]) -> Iterator[Operation]:
    """Where a lining meets an outer whose edge takes no stitches of its own: it is stitched there."""
    sewn = {i for operation in made for i in operation.seams}
    for i, seam in enumerate(making.seams):
        if i not in sewn:
            words = tr("Stitch the lining to the outer along its edge: {seam}", seam=term(seam.name))
            on = tuple(dict.fromkeys(run.piece for side in reversed(seam.sides) for run in side))
            work = (Work(Pace.STRAIGHT, making.long(seam.b)),)
            yield Operation(
                key=f"{making.keys[i]}/sew",
                deed="bag",
                words=words,
                ref=refs.LINING_SCHOOL,
                on=on,
                edges=(*seam.a, *seam.b),
                seams=(i,),
                work=work,
            )
