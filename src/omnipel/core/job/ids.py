"""Identity of things in lists: an id that is given once and never says anything."""

from dataclasses import replace
from typing import Annotated, Protocol, TypeVar

from annotated_types import Len

Id = Annotated[str, Len(0, 40)]
"""Given when the thing is put into its list; "" until then."""


class _Identified(Protocol):
    @property
    def id(self) -> str: ...


Item = TypeVar("Item", bound=_Identified)


def with_ids(items: tuple[Item, ...]) -> tuple[Item, ...]:
    """The same things, each with an id of its own: what has none, or another's, is given the next free number.

    >>> from omnipel.core.job.thing import SticksOut
    >>> knob = SticksOut(name="knob", from_top=10.0, reach=5.0, size=5.0)
    >>> [thing.id for thing in with_ids((knob, replace(knob, id="7"), knob, replace(knob, id="7")))]
    ['8', '7', '9', '10']
    """
    given = [item.id for item in items]
    if all(given) and len(set(given)) == len(given):
        return items
    free = max((int(id_) for id_ in given if id_.isdecimal()), default=0) + 1
    made: list[Item] = []
    seen: set[str] = set()
    for item in items:
        kept = item
        if not item.id or item.id in seen:
            kept, free = replace(item, id=str(free)), free + 1  # type: ignore[type-var]
        seen.add(kept.id)
        made.append(kept)
    return tuple(made)
