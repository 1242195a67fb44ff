"""What is to be done to a cover since it was tried on: its chores as operations, one after the other."""

from collections.abc import Iterator

from omnipel.core.covers.altered import Altered
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr

BEGINS = "alter:"
"""How the keys of such operations begin."""


def of_alterations(making: Making) -> Iterator[Operation]:
    """Every alteration that can be done."""
    for altered in making.drafted.cover.altered:
        if not altered.refused:
            yield from in_turn(_chores(altered))


def _chores(altered: Altered) -> Iterator[Operation]:
    begins, ref = f"{BEGINS}{altered.what.id}", refs.alteration(altered.what.id)
    for panel in altered.panels:
        words = tr(
            "Cut {panel} from what is left of the cloth: {long} by {wide}",
            panel=term(panel.name),
            long=mm(panel.cut_length.value),
            wide=mm(panel.cut_width.value),
        )
        sizes = (Check(tr("long"), panel.cut_length.value), Check(tr("wide"), panel.cut_width.value))
        yield Operation(
            key=f"{begins}/piece",
            deed="cut in",
            words=words,
            ref=ref,
            on=(panel.name,),
            work=(Work(Pace.FIXED, 4.0),),
            checks=sizes,
        )
    for chore in altered.chores:
        checks = (Check(chore.check, chore.length),) if chore.check else ()
        yield Operation(
            key=f"{begins}/{chore.key}",
            deed=chore.deed,
            words=chore.words,
            ref=ref,
            on=altered.on,
            work=(Work(Pace.FIXED, chore.minutes),),
            checks=checks,
        )
