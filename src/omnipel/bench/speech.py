"""How the window speaks: its language. The unit is the open job's."""

from PySide6.QtCore import QTranslator

from omnipel.core.words.phrases import ENGLISH, Tongue, Value, Voice
from omnipel.core.words.units import Unit


class Speech:
    """The language of the window, taken before it is made, and the toolkit's own words in it."""

    def __init__(self) -> None:
        self.tongue: Tongue = ENGLISH
        self.translator: QTranslator | None = None

    def voice(self, unit: Unit = Unit.MM) -> Voice:
        """A voice in this language and a unit."""
        return Voice(unit, self.tongue)


SPEECH = Speech()


def say(phrase: Value, unit: Unit = Unit.MM) -> str:
    """A phrase in the window's language; a unit is only needed where it holds a length."""
    return SPEECH.voice(unit).say(phrase)
