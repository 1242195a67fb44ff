"""What rules are read off: the operations of a cover, found by what they are about."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Final

from omnipel.core.finishing.operation import Operation, When
from omnipel.core.job.finish import FinishKind
from omnipel.core.sewing.making import Making
from omnipel.core.words.phrases import Phrase, tr


@dataclass(frozen=True, slots=True)
class Before:
    """One operation has to come before another, by their keys: by which rule (0: as the operation itself says), and why."""

    first: str
    then: str
    why: Phrase
    rule: int = 0


OPENING: Final = frozenset({"pin", "pin corners", "lap", "draw up", "mark boxed", "set in zip"})
"""With one of these a seam's two edges cease to lie by themselves."""
NEATLY: Final = frozenset({"neaten", "trim seam"})
"""What is done to allowances before another seam crosses them."""


@dataclass(frozen=True, eq=False)
class Bench:
    """The operations of a cover."""

    making: Making
    operations: Sequence[Operation]
    of_seam: dict[int, list[Operation]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        begins = {key: i for i, key in enumerate(self.making.keys)}
        for operation in self.operations:
            head = operation.key.rpartition("/")[0]
            for i in set(operation.seams) | ({begins[head]} if head in begins else set()):
                self.of_seam.setdefault(i, []).append(operation)

    def opens(self, i: int) -> Sequence[Operation]:
        """The first operation of a seam after which its panels lie by themselves no more."""
        return [o for o in self.of_seam.get(i, ()) if o.deed in OPENING or i in o.seams][:1]

    def sews(self, i: int) -> Sequence[Operation]:
        """The operation that sews a seam."""
        return [o for o in self.of_seam.get(i, ()) if i in o.seams]

    def one(self, key: str) -> Operation | None:
        """The operation of that key."""
        return next((o for o in self.operations if o.key == key), None)

    def seam_before(self, first: int, then: int, why: Phrase, rule: int) -> Iterator[Before]:
        """All of one seam before another is pinned: trimmed and neatened, pressed, topstitched."""
        for one in self.of_seam.get(first, ()):
            if one.did.when is When.FINISH:
                continue
            neatly = one.deed in NEATLY
            told, by = (tr("trimmed and neatened before the next seam crosses it"), 11) if neatly else (why, rule)
            for other in self.opens(then):
                yield Before(one.key, other.key, told, by)


def closes_late(making: Making) -> frozenset[int]:
    """Seams that close a strip where its ends meet, after it was sewn round."""
    return frozenset(
        i
        for i, seam in enumerate(making.seams)
        if any(making.edge(run).finish.kind is FinishKind.TRIMMED for side in seam.sides for run in side)
        and not making.ring_first
    )
