"""One way to write a job: what it is, what it needs, and how it is asked for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from omnipel.core.words.phrases import NOTHING, Name, Phrase, tr, trn
from omnipel.exchange.asked import NotExported, Order

if TYPE_CHECKING:
    from omnipel.core.draft import Draft

MANY: Final = 30
"""More sheets than this are asked about before they are made."""
MOST: Final = 5000
"""More sheets than this are never made: five reams of tiles are no pattern."""


@dataclass(frozen=True, slots=True)
class Export:
    """One way to write a job.

    Args:
        id: stable name; the command line's option and the menu's command.
        words: what it is called.
        about: what is in it, in a sentence.
        kind: what files of its kind are called in a file dialog.
        suffix: of its file.
        begins: how a file of its kind begins: such a one may be written anew without a question on the command line.
        make: makes the file's content; only called when nothing stands in the way.
        next: what to do with it.
        needs_panels: there must be panels to write it.
        papers: which papers it can be put on; none when it knows no sheets.
        sheets: how many sheets an order takes, without making them.
        keys: its key sequence in the window, "" for none.
        menu: what the menu calls it.
        because: why a job cannot be written so yet; nothing where it can.
        in_parts: whether a part of the job can be written, one panel or what lies on one cloth.
        machine: whether it is for a machine that has to be told about.
        in_booklet: whether it consists of parts that one chooses.
    """

    id: str
    words: Phrase
    about: Phrase
    kind: Phrase
    suffix: str
    begins: bytes
    make: Callable[[Order], bytes]
    next: Phrase
    needs_panels: bool = True
    papers: tuple[str, ...] = ()
    sheets: Callable[[Order], int] | None = None
    keys: str = ""
    menu: Phrase | None = None
    because: Callable[[Draft], Phrase] = lambda _draft: NOTHING
    in_parts: bool = False
    machine: bool = False
    in_booklet: bool = False

    def possible(self, draft: Draft | None) -> bool:
        """Whether there is what it needs."""
        return draft is not None and (not self.needs_panels or bool(draft.panels)) and not self.because(draft)


DESPITE_STOP: Final = "despite-stop"
MANY_SHEETS: Final = "many"


def exported(export: Export, order: Order, *said: str) -> bytes:
    """The content of the file. `said` are the questions that a person has answered with yes.

    Raises:
        NotExported: there are no panels yet; or a finding says do not cut, or it takes very many sheets, and nobody said so.
    """
    draft, voice = order.draft, order.voice
    first = Name(voice.sentence(draft.findings[0].text)) if draft.findings else Name("")
    if why := export.because(draft):
        raise NotExported(why)
    if not export.possible(draft):
        raise NotExported(tr("there are no panels yet. {finding}", finding=first))
    if export.needs_panels and draft.stops and DESPITE_STOP not in said:
        raise NotExported(tr("do not cut. {finding}", finding=first), DESPITE_STOP)
    count = export.sheets(order) if export.sheets is not None else 0
    if count > MOST:
        raise NotExported(trn("that is {n} sheet: take a larger paper", "that is {n} sheets: take a larger paper", count))
    if count > MANY and MANY_SHEETS not in said:
        raise NotExported(
            trn("that is {n} sheet; a larger paper takes fewer", "that is {n} sheets; a larger paper takes fewer", count),
            MANY_SHEETS,
        )
    return export.make(order)
