"""How a thing stands: the one scale that rail, tally, shelf and findings share."""

from enum import StrEnum
from typing import Final

from omnipel.core.words.phrases import Phrase, tr


class State(StrEnum):
    """How a thing stands, best first."""

    FINE = "fine"
    LOOK = "look"
    OPEN = "open"
    STOP = "stop"

    @property
    def words(self) -> Phrase:
        """What is said of it."""
        return {"fine": tr("fine"), "look": tr("look"), "open": tr("to do"), "stop": tr("stop")}[self.value]


RANK: Final = {state: i for i, state in enumerate(State)}
