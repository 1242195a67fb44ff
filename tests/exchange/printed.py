"""Papers as a test asks for them."""

from typing import Any

from omnipel.core.draft import Draft
from omnipel.core.words.phrases import Voice, tr
from omnipel.exchange.asked import Order
from omnipel.exchange.papers.parts import papers


def pdf(draft: Draft, part: str, paper: str, voice: Voice | None = None, **more: Any) -> bytes:
    """One part of the papers, or several with commas between."""
    return papers(Order(draft, voice or Voice(draft.job.unit), paper, **more), tr("papers"), part.split(","))
