"""What is worked out behind the window: how jobs on the shelf stand, and how schemes compare.

What these functions need is loaded where they run, on the worker: the window that asks may have been painted without it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from omnipel.core.job.state import State
from omnipel.core.words.phrases import ENGLISH, Tongue, Voice
from omnipel.shop.store import Kept

if TYPE_CHECKING:
    from omnipel.core.draft import Draft
    from omnipel.core.job.document import Job


@dataclass(frozen=True, slots=True)
class Looked:
    """A job's document as it stands in the shop, to be looked at for its card."""

    text: str
    format: int
    mark: int
    tongue: Tongue = ENGLISH


def stand_of(looked: Looked) -> Kept:
    """How a job stands, with its picture. A document that cannot be read is a job that stops and says so."""
    from omnipel.core.draft import draft
    from omnipel.core.pictures.drawing import Drawing
    from omnipel.core.pictures.kept import packed
    from omnipel.core.pictures.sketch import View, sketch
    from omnipel.core.remedies import advised
    from omnipel.core.standing import next_step, whole
    from omnipel.shop.document import DocumentError, lawful, of_row
    from omnipel.shop.starter import plausible

    try:
        job = of_row(looked.text, looked.format)
    except DocumentError as error:
        return Kept(State.STOP.value, Voice(tongue=looked.tongue).say(error.phrase), b"", looked.mark)
    drafted = advised(draft(job), lawful, most=1)  # a card says no more than the first
    body = drafted.body or plausible(job)
    picture = sketch(body.mesh(), View()) if body is not None else Drawing(())
    step = Voice(job.unit, looked.tongue).say(next_step(drafted).words)
    return Kept(whole(drafted).value, step, packed(picture), looked.mark)


def load_everything(_request: None = None) -> None:
    """Load what a job that is opened needs, while the shelf is being looked at."""
    import omnipel.core.draft
    import omnipel.core.pictures.sheet
    import omnipel.core.pictures.worn
    import omnipel.core.remedies
    import omnipel.core.standing
    import omnipel.shop.document
    import omnipel.shop.starter

    omnipel.shop.document.adapter()


def drafts_of(jobs: tuple[Job, ...]) -> tuple[Draft, ...]:
    """The drafts of several jobs."""
    from omnipel.core.draft import draft

    return tuple(draft(job) for job in jobs)
