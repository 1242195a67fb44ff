"""What is asked for when a job is written, and that it is not."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import TYPE_CHECKING

from omnipel.core.words.phrases import Phrase, Refusal, Voice
from omnipel.shop.machine import Machine

if TYPE_CHECKING:
    from omnipel.core.cloth.stock import Stock
    from omnipel.core.draft import Draft
    from omnipel.core.job.document import Job
    from omnipel.core.sewing.paces import Person


@dataclass(frozen=True, slots=True)
class Order:
    """What is to be written: a draft, in whose words, on which paper; what the shop has and who sews, where that is known.

    `others` are covers of the same thing, `photos` those of all of them by check sum. `of` is the part that is written, as `flat.parts` calls it, "" for all;
    `machine` what a cutter has to be told; `parts` what the booklet consists of, nothing for what is usual; `made` when it is made, which papers tell.
    """

    draft: Draft
    voice: Voice
    paper: str
    stock: Stock | None = None
    person: Person | None = None
    others: tuple[Job, ...] = ()
    photos: Mapping[str, bytes] = field(default_factory=dict)
    of: str = ""
    machine: Machine = Machine()
    parts: tuple[str, ...] = ()
    made: datetime | None = None


class NotExported(Refusal):
    """An export that is not made, and why; `asks` when it would be if a person said so."""

    def __init__(self, phrase: Phrase, asks: str = "") -> None:
        self.asks = asks
        super().__init__(phrase)
