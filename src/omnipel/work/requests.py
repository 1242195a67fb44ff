"""What is worked out behind the window: how jobs on the shelf stand, and how schemes compare.

What these functions need is loaded where they run, on the worker: the window that asks may have been painted without it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from omnipel.core.job.state import State
from omnipel.core.words.phrases import ENGLISH, NOTHING, Phrase, Tongue, Voice, listed, tr
from omnipel.shop.store import Kept

if TYPE_CHECKING:
    from omnipel.core.draft import Draft, Drafted
    from omnipel.core.job.document import Job
    from omnipel.core.pictures.drawing import Drawing
    from omnipel.core.sewing.paces import Person


@dataclass(frozen=True, slots=True)
class Looked:
    """A job's document as it stands in the shop, to be looked at for its card."""

    text: str
    format: int
    mark: int
    tongue: Tongue = ENGLISH


def stand_of(looked: Looked) -> Kept:
    """How a job stands, with its picture. A document that cannot be read is a job that stops and says so."""
    from omnipel.core.draft import Drafted, draft
    from omnipel.core.learning.logbook import next_due
    from omnipel.core.pictures.drawing import Drawing
    from omnipel.core.pictures.kept import packed
    from omnipel.core.pictures.seen import drawn
    from omnipel.core.pictures.view import View
    from omnipel.core.pictures.worn import small_picture, uncovered
    from omnipel.core.remedies import advised
    from omnipel.core.standing import next_step, whole, with_sewing
    from omnipel.shop.document import DocumentError, lawful, of_row
    from omnipel.shop.starter import plausible

    try:
        job = of_row(looked.text, looked.format)
    except DocumentError as error:
        return Kept(State.STOP.value, Voice(tongue=looked.tongue).say(error.phrase), b"", looked.mark)
    drafted = advised(draft(job), lawful, most=1)  # a card says no more than the first
    body = drafted.body or plausible(job)
    if isinstance(drafted, Drafted):
        picture = small_picture(drafted.cover, drafted.body, drafted.job.thing.sticks_out)
    else:
        picture = drawn(uncovered(body), View()) if body is not None else Drawing(())
    told, sewn = with_sewing(drafted)
    voice = Voice(job.unit, looked.tongue)
    step = voice.say(next_step(told, (), sewn).words)
    due = next_due(job)
    said = f"{due.day} {voice.say(due.words)}" if due is not None else ""
    return Kept(whole(told).value, step, packed(picture, job.cover.cloth.colour), looked.mark, said)


WANTED: Final = (
    *("numpy", "shapely", "pydantic", "omnipel.core.forms", "omnipel.core.covers", "omnipel.core.draft", "omnipel.core.remedies"),
    *("omnipel.core.pictures.sheet", "omnipel.core.pictures.worn", "omnipel.shop.document", "omnipel.shop.starter"),
    *("networkx", "omnipel.core.sewing.plan"),
)
"""What a job that is opened needs, in pieces that take no longer than a blink."""


def pictured(job: Job) -> tuple[Draft, Drawing]:
    """A job's draft, with a small picture of its cover."""
    from omnipel.core.draft import Drafted, draft
    from omnipel.core.pictures.drawing import Drawing
    from omnipel.core.pictures.worn import small_picture

    made = draft(job)
    if not isinstance(made, Drafted):
        return made, Drawing(())
    return made, small_picture(made.cover, made.body, made.job.thing.sticks_out)


@dataclass(frozen=True, slots=True, eq=False)
class Choice:
    """A job as it stands and as it would be, sewn by somebody."""

    before: Drafted
    after: Job
    person: Person


@dataclass(frozen=True, slots=True, eq=False)
class Compared:
    """What a choice comes to: its draft, and what it costs in words; none where it cannot be drafted."""

    after: Draft
    words: Phrase


def compared(choice: Choice) -> Compared:
    """What a choice takes more or less than the job as it stands."""
    from omnipel.core.costs import cost, time_cost
    from omnipel.core.draft import Drafted, draft

    made = draft(choice.after)
    if not isinstance(made, Drafted):
        return Compared(made, NOTHING)
    found = [*cost(choice.before, made), *time_cost(choice.before, made, choice.person)]
    return Compared(made, tr("{costs}", costs=listed(found, "  ")) if found else tr("no more cloth, no more goods, no more time"))
