"""What is kept of the sewing: an order that a person chose, which steps are done and what they took, what was noted."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated

from annotated_types import Ge, Le, Len

Key = Annotated[str, Len(1, 400)]
"""Which operation: what it is done to, and what is done."""
MOST_STEPS = 3000
"""No order of work is longer."""
MOST_MINUTES = 100_000.0
LONGEST_NOTE = 2000


@dataclass(frozen=True, slots=True, kw_only=True)
class StepLog:
    """A step as it went.

    Args:
        done: whether it is done.
        took: minutes by the clock; 0 where it was only ticked.
        planned: what the paces said then, minutes.
        deed: which kind of step it was.
        day: when it was done, as 2026-11-28.
        note: what was written down about it.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    done: bool = False
    took: Annotated[float, Ge(0), Le(MOST_MINUTES)] = 0.0
    planned: Annotated[float, Ge(0), Le(MOST_MINUTES)] = 0.0
    deed: Annotated[str, Len(0, 40)] = ""
    day: Annotated[str, Len(0, 10)] = ""
    note: Annotated[str, Len(0, LONGEST_NOTE)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Sewing:
    """The sewing of a job.

    Args:
        order: keys of operations in the order that a person chose; none for the proposed one.
        steps: what is known of steps, by their keys.
    """

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    order: Annotated[tuple[Key, ...], Len(0, MOST_STEPS)] = ()
    steps: Annotated[Mapping[Key, StepLog], Len(0, MOST_STEPS)] = field(default_factory=dict)

    @property
    def done(self) -> frozenset[str]:
        """The keys of the steps that are done."""
        return frozenset(key for key, step in self.steps.items() if step.done)
