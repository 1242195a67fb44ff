"""What is asked for when a job is written, and that it is not."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from omnipel.core.words.phrases import Phrase, Refusal, Voice

if TYPE_CHECKING:
    from omnipel.core.cloth.stock import Stock
    from omnipel.core.draft import Draft
    from omnipel.core.sewing.paces import Person


@dataclass(frozen=True, slots=True)
class Order:
    """What is to be written: a draft, in whose words, on which paper; what the shop has and who sews, where that is known."""

    draft: Draft
    voice: Voice
    paper: str
    stock: Stock | None = None
    person: Person | None = None


class NotExported(Refusal):
    """An export that is not made, and why; `asks` when it would be if a person said so."""

    def __init__(self, phrase: Phrase, asks: str = "") -> None:
        self.asks = asks
        super().__init__(phrase)
