"""Drafts that were made lately: who goes to and fro between two choices, or takes what has just been compared, does not wait again."""

from __future__ import annotations

from collections import deque
from dataclasses import replace
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    from omnipel.core.draft import Draft
    from omnipel.core.job.document import Job

MOST: Final = 16


class Drafts:
    """The last few drafts. A draft follows from its job alone, so it holds wherever it was made."""

    def __init__(self, most: int = MOST) -> None:
        self.lately: deque[Draft] = deque(maxlen=most)

    def of(self, job: Job) -> Draft:
        """The draft of a job, made if it is not known."""
        from omnipel.core.draft import draft  # numbers and geometry are loaded with the first job

        made = next((again for known in self.lately if (again := relaid(known, job)) is not None), None) or draft(job)
        self.keep(made)
        return made

    def keep(self, made: Draft) -> None:
        """A draft has been made elsewhere, as `draft` makes it."""
        self.lately = deque((known for known in self.lately if known.job != made.job), self.lately.maxlen)
        self.lately.append(made)


def relaid(known: Draft, job: Job) -> Draft | None:
    """What is known of a job as that of another one that differs in nothing but how its pieces lie on their cloth or how far it is sewn; else None."""
    if known.job is job or known.job == job:
        return known
    return replace(known, job=job) if replace(known.job, lays=job.lays, sewing=job.sewing) == job else None
