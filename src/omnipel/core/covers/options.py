"""A scheme's own choices: key, words, kind, what is usual, bounds, and why it is usual."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from omnipel.core.job.feature import Choice
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.words import refs
from omnipel.core.words.habits import Habits
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, Ratio, Rule, Share, Value, listed, mm, term, tr

ZERO = Rule(0.0, 0.0)
MOST_LETTERS = 400_000
"""Of a text: as much as the path of a traced outline."""


class OptionKind(StrEnum):
    """What a scheme's own choice holds."""

    LENGTH = "length"
    COUNT = "count"
    SHARE = "share"
    RATIO = "ratio"
    YES = "yes or no"
    PICK = "pick"
    TEXT = "text"
    DRAWING = "drawing"


WRITTEN = (OptionKind.TEXT, OptionKind.DRAWING)
"""What holds a person's own words, or the path of a drawing."""


@dataclass(frozen=True, slots=True)
class Option:
    """A choice of one scheme.

    Args:
        key: its name in job files.
        words: what it is called.
        kind: what it holds.
        default: what it is until it is chosen; a length's is its `rule` in the habits of the job.
        why: why that is usual.
        low, high: bounds; mm for a length.
        picks: what a pick may be; the first is the default.
        rule: a length's habit.
        ends_at: edges that a finished length ends at: with their allowances it is what is cut.
        only: other choices of the scheme and the values they have to have, so that this one changes anything.
        needs: what the body has to have for that.
    """

    key: str
    words: Phrase
    kind: OptionKind
    default: Choice = 0.0
    why: Phrase = NOTHING
    low: float = 0.0
    high: float = 100_000.0
    picks: tuple[str, ...] = ()
    rule: Rule = ZERO
    ends_at: tuple[str, ...] = ()
    only: tuple[tuple[str, tuple[Choice, ...]], ...] = ()
    needs: Callable[[Any], bool] | None = None

    def usual(self, scheme: str, habits: Habits) -> Choice:
        """What it is until it is chosen, for those who made the job."""
        return habits.take(f"{scheme}.{self.key}", self.rule) if self.kind is OptionKind.LENGTH else self.default

    def shown(self, value: Choice) -> Value:
        """A value of it as something that can be put into words."""
        if isinstance(value, bool):
            return tr("yes") if value else tr("no")
        if isinstance(value, str):
            return Name(value) if self.kind in WRITTEN else term(value)
        match self.kind:
            case OptionKind.LENGTH:
                return mm(value)
            case OptionKind.SHARE:
                return Share(value, 1)
            case OptionKind.RATIO:
                return Ratio(value)
            case _:
                return Count(value, 2)

    @property
    def bounds(self) -> Phrase:
        """What is lawful, in words."""
        match self.kind:
            case OptionKind.YES:
                return tr("yes or no")
            case OptionKind.PICK:
                return tr("one of {picks}", picks=listed(term(pick) for pick in self.picks))
            case OptionKind.TEXT | OptionKind.DRAWING:
                return tr("a text of up to {most} letters", most=Count(MOST_LETTERS))
            case _:
                return tr("{low} to {high}", low=self.shown(self.low), high=self.shown(self.high))

    def checked(self, value: Choice) -> Choice:
        """The value, once it is lawful.

        Raises:
            Impossible: it is of the wrong kind or out of bounds.
        """
        where = refs.option(self.key)
        match self.kind:
            case OptionKind.YES:
                lawful = isinstance(value, bool)
            case OptionKind.PICK:
                lawful = value in self.picks
            case OptionKind.TEXT | OptionKind.DRAWING:
                lawful = isinstance(value, str) and len(value) <= MOST_LETTERS
            case _:
                lawful = isinstance(value, int | float) and not isinstance(value, bool) and self.low <= value <= self.high
        if not lawful:
            usual: Choice = self.rule.metric if self.kind is OptionKind.LENGTH else self.default
            back = self.rule if self.kind is OptionKind.LENGTH else self.shown(usual)
            remedy = Remedy(tr("Go back to {usual}", usual=back), (Change(where, usual),))
            number = isinstance(value, int | float) and not isinstance(value, bool)
            found = (
                self.shown(value) if number and self.kind not in (OptionKind.YES, OptionKind.PICK, *WRITTEN) else Name(str(value))
            )
            text = tr("{option}: {found} is not {bounds}", option=self.words, found=found, bounds=self.bounds)
            raise Impossible(text, where, remedy)
        return value


def length(
    key: str,
    words: Phrase,
    rule: Rule = ZERO,
    why: Phrase = NOTHING,
    low: float = 0.0,
    high: float = 20_000.0,
    ends_at: tuple[str, ...] = (),
) -> Option:
    """A length, with its habit."""
    return Option(key, words, OptionKind.LENGTH, rule.metric, why, low, high, rule=rule, ends_at=ends_at)


def only_when(option: Option, needs: Callable[[Any], bool] | None = None, **values: tuple[Choice, ...]) -> Option:
    """The option, offered only while others have one of these values and the body has what it needs."""
    return replace(option, only=tuple(values.items()), needs=needs)


def count(key: str, words: Phrase, default: int, why: Phrase = NOTHING, low: int = 1, high: int = 200) -> Option:
    """A number of things."""
    return Option(key, words, OptionKind.COUNT, float(default), why, low, high)


def share(key: str, words: Phrase, default: float, why: Phrase = NOTHING, low: float = 0.0, high: float = 1.0) -> Option:
    """A part of a whole."""
    return Option(key, words, OptionKind.SHARE, default, why, low, high)


def ratio(key: str, words: Phrase, default: float, why: Phrase = NOTHING, low: float = 1.0, high: float = 6.0) -> Option:
    """So many to one."""
    return Option(key, words, OptionKind.RATIO, default, why, low, high)


def yes(key: str, words: Phrase, default: bool, why: Phrase = NOTHING) -> Option:
    """Yes or no."""
    return Option(key, words, OptionKind.YES, default, why)


def pick(key: str, words: Phrase, picks: tuple[str, ...], why: Phrase = NOTHING) -> Option:
    """One of several; the first is the default."""
    return Option(key, words, OptionKind.PICK, picks[0], why, picks=picks)


def text(key: str, words: Phrase, why: Phrase = NOTHING) -> Option:
    """A person's own words; none until they are given."""
    return Option(key, words, OptionKind.TEXT, "", why)


def drawing(key: str, words: Phrase, why: Phrase = NOTHING) -> Option:
    """The path of a drawing, as SVG writes it; none until one is taken."""
    return Option(key, words, OptionKind.DRAWING, "", why)
