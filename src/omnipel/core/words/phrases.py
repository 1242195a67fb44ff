"""Phrases: what the program says, as a template and typed values, until the outermost layer puts it into words.

Nothing in the core writes a number into a sentence. `tr` makes a phrase; `Voice` renders it in a unit and a language:

    >>> from omnipel.core.words.units import Unit
    >>> Voice(Unit.INCH_16).say(tr("The hem of {hem} is deeper than the {panel}.", hem=mm(25.4), panel=tr("wall")))
    'The hem of 1 in is deeper than the wall.'

Glossary. *Template*: the English words with {fields}; it is the key that is looked up for translation. *Typed value*: a length, a
share, a count …, which knows how it is written. *Name*: what a person typed; it is never translated and never read as a template.
"""

import gettext
import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from string import Formatter
from typing import Final, Protocol, TypeAlias

from omnipel.core.words.units import GROUP, MM_PER_FOOT, MM_PER_INCH, Unit, format_area, format_length, format_run


@dataclass(frozen=True, slots=True)
class Length:
    """A length in mm; `fine` writes it to a tenth of the unit's step, `bare` without its unit, `chosen` marks one that is not what it reads."""

    mm: float
    fine: bool = False
    bare: bool = False
    chosen: bool = False


@dataclass(frozen=True, slots=True)
class Rule:
    """A length that is a habit: round in millimetres for metric work and round in inches for inch work.

    >>> Rule(12.0, 0.5).mm(Unit.INCH_8), Rule(12.0, 0.5).mm(Unit.CM)
    (12.7, 12.0)
    """

    metric: float
    inches: float

    def mm(self, unit: Unit) -> float:
        """The habit of those who work in `unit`, in mm."""
        return self.inches * MM_PER_INCH if unit.denominator else self.metric


@dataclass(frozen=True, slots=True)
class Angle:
    """An angle in radians, written in whole degrees."""

    radians: float


@dataclass(frozen=True, slots=True)
class Share:
    """A part of a whole, written in percent to `places` decimals."""

    share: float
    places: int = 0


@dataclass(frozen=True, slots=True)
class Ratio:
    """So many to one."""

    ratio: float
    places: int = 2


@dataclass(frozen=True, slots=True)
class Count:
    """A number of things, or a plain number to `places` decimals."""

    number: float
    places: int = 0


@dataclass(frozen=True, slots=True)
class Area:
    """An area in mm²."""

    mm2: float


@dataclass(frozen=True, slots=True)
class Run:
    """A long run (seam, cord, cloth) in mm, written in metres or yards."""

    mm: float


@dataclass(frozen=True, slots=True)
class Money:
    """An amount of the shop's own money, to a hundredth."""

    amount: float


@dataclass(frozen=True, slots=True)
class Minutes:
    """A time in minutes: to half a minute up to ten, in hours and minutes from an hour."""

    minutes: float


@dataclass(frozen=True, slots=True)
class PerRun:
    """Minutes for a metre of something; those who work in inches are told them for a yard."""

    minutes: float


@dataclass(frozen=True, slots=True)
class PerCovered:
    """What a square metre that is covered costs; those who work in inches are told it of a square foot."""

    cost: float


@dataclass(frozen=True, slots=True)
class Stitches:
    """The length of a stitch, mm, as a machine is set: in millimetres, whatever else is told in; so many to the inch for those who work in inches."""

    mm: float


@dataclass(frozen=True, slots=True)
class Name:
    """What a person called something, or typed: shown as it is."""

    text: str


@dataclass(frozen=True, slots=True)
class Listed:
    """Several values one after the other."""

    values: "tuple[Value, ...]"
    between: str = ", "


Value: TypeAlias = "Length | Rule | Angle | Share | Ratio | Count | Area | Run | Money | Minutes | PerRun | PerCovered | Stitches | Name | Listed | Phrase"


@dataclass(frozen=True, slots=True)
class Phrase:
    """A template and its typed values; with `many`, the template for more than one of the value `n`."""

    template: str
    values: tuple[tuple[str, "Value"], ...] = ()
    many: str = ""

    def __str__(self) -> str:
        return Voice().say(self)

    def __bool__(self) -> bool:
        return bool(self.template)


class Refusal(Exception):
    """Something that is not done; `phrase` says why, in one line."""

    def __init__(self, phrase: Phrase) -> None:
        self.phrase = phrase
        super().__init__(str(phrase))


def tr(template: str, /, **values: "Value") -> Phrase:
    """A phrase. The template is a constant, so that it can be gathered for translation."""
    return Phrase(template, tuple(values.items()))


def trn(one: str, many: str, n: int, /, **values: "Value") -> Phrase:
    """A phrase about `n` things, singular or plural as the language has it; the number itself is {n}."""
    return Phrase(one, (("n", Count(n)), *values.items()), many)


def term(words: str) -> Phrase:
    """A word of the trade that is also an identity: the name of a panel, an edge, a seam, a choice's value."""
    return Phrase(words.replace("{", "{{").replace("}", "}}"))


def plain(text: str) -> Phrase:
    """A person's own words as a phrase."""
    return Phrase("{text}", (("text", Name(text)),))


def listed(values: "Iterable[Value]", between: str = ", ") -> Listed:
    """Several values one after the other."""
    return Listed(tuple(values), between)


def either(values: "Iterable[Value]") -> "Value":
    """One of several: "a, b or c"."""
    *those, last = values
    return tr("{those} or {that}", those=listed(those), that=last) if those else last


NOTHING: Final = Phrase("")


def mm(length: float, *, fine: bool = False) -> Length:
    """A length with its unit."""
    return Length(length, fine)


def bare(length: float, *, fine: bool = False) -> Length:
    """A length without its unit, beside another that has it."""
    return Length(length, fine, bare=True)


class Tongue(Protocol):
    """A language: looks templates up. The standard library's translations are one."""

    def gettext(self, message: str, /) -> str:
        """The template in this language."""

    def ngettext(self, one: str, many: str, n: int, /) -> str:
        """The template for `n` things in this language."""


YARD: Final = MM_PER_INCH * 0.036
SQUARE_FOOT: Final = (MM_PER_FOOT / 1000.0) ** 2
"""In metres, and in square metres."""
ENGLISH: Final[Tongue] = gettext.NullTranslations()


class Pseudo:
    """A made-up language: every letter outside the fields carries a mark, and texts are two fifths longer.

    Whatever is shown in plain letters while it is on was not looked up; what does not fit then will not fit a longer language.
    """

    MARKED: Final = str.maketrans("aceginorsuyzACEGINORSUYZtldhk", "ąćęģįńőŕşűýžĄĆĘĢĮŃŐŔŞŰÝŽťłďħķ")

    def gettext(self, message: str) -> str:
        """The template with marked letters, its fields as they were."""
        if not message.strip():
            return message
        parts = [
            f"{re.sub(r'[a-zA-Z]', self._mark, text.replace('{', '{{').replace('}', '}}'))}{f'{{{name}}}' if name is not None else ''}"
            for text, name, _, _ in Formatter().parse(message)
        ]
        longer = "·" * (len(message) * 2 // 5)
        return "".join(parts) + re.sub(r"·{8}(?=·)", "········ ", longer)  # no language has words without end

    def ngettext(self, one: str, many: str, n: int) -> str:
        """The marked template."""
        return self.gettext(one if n == 1 else many)

    @staticmethod
    def _mark(letter: "re.Match[str]") -> str:
        marked = letter.group().translate(Pseudo.MARKED)
        return marked if marked != letter.group() else f"{marked}\u0307"


@dataclass(frozen=True)
class Voice:
    """Puts phrases into words: in a unit and a language."""

    unit: Unit = Unit.MM
    tongue: Tongue = field(default_factory=lambda: ENGLISH)

    @property
    def language(self) -> str:
        """The language's code, as "en"."""
        return str(getattr(self.tongue, "code", "en"))

    @property
    def decimal(self) -> str:
        """The language's decimal sign."""
        return str(getattr(self.tongue, "decimal", "."))

    def figure(self, number: str) -> str:
        """A number that is written with a decimal point, as this language writes it."""
        return number.replace(".", self.decimal)

    def length(self, mm: float, *, fine: bool = False, with_unit: bool = False) -> str:
        """A length in this unit, bare unless its unit is asked for."""
        return self.figure(format_length(mm, self.unit, fine=fine, with_unit=with_unit))

    def say(self, phrase: "Value") -> str:
        """A phrase, or a single value, in words."""
        match phrase:
            case Phrase():
                return self._phrase(phrase)
            case Name(text):
                return text
            case Length():
                return self._length(phrase)
            case Rule():
                return self.length(phrase.mm(self.unit), with_unit=True)
            case Minutes() | PerRun() | PerCovered() | Stitches():
                return self._rate(phrase)
            case Listed(values, between):
                said = [self.say(value) for value in values]
                if between == ", " and any("," in words for words in said):
                    between = "; "  # 12,5; 13 and band 2, 1 of 2; band 2, 2 of 2
                return between.join(said)
            case _:
                return self.figure(self._number(phrase))

    def _number(self, value: "Angle | Share | Ratio | Count | Area | Run | Money") -> str:
        """A plain number with a decimal point."""
        match value:
            case Angle(radians):
                return f"{math.degrees(radians):.0f}°"
            case Share(share, places):
                return f"{share * 100:.{places}f}\u202f%"
            case Ratio(ratio, places):
                return f"{ratio:.{places}f}".rstrip("0").rstrip(".") + "\u202f:\u202f1"
            case Count(number, places):
                return f"{number:.{places}f}".rstrip("0").rstrip(".") if places else f"{number:.0f}"
            case Area(mm2):
                return format_area(mm2, self.unit)
            case Run(length):
                return format_run(length, self.unit)
            case Money(amount):
                return f"{amount + 0.0:,.2f}".replace(",", GROUP).replace("-", "−")

    def _rate(self, rate: "Minutes | PerRun | PerCovered | Stitches") -> str:
        if isinstance(rate, Minutes):
            return self._time(rate.minutes)
        inches = bool(self.unit.denominator)
        if isinstance(rate, PerCovered):
            return self.say(
                tr("{cost} per square foot covered", cost=Money(rate.cost * SQUARE_FOOT))
                if inches
                else tr("{cost} per square metre covered", cost=Money(rate.cost))
            )
        if isinstance(rate, Stitches):
            return self.say(
                tr("{n} to the inch", n=Count(MM_PER_INCH / rate.mm)) if inches else tr("{n} mm", n=Count(rate.mm, 1))
            )
        if inches:
            return self.say(tr("{n} min a yard", n=Count(rate.minutes * YARD, 2)))
        return self.say(tr("{n} min a metre", n=Count(rate.minutes, 2)))

    def _time(self, minutes: float) -> str:
        if minutes < 9.75:
            halves = math.floor(minutes * 2.0 + 0.5) / 2.0
            return self.say(tr("{n} min", n=Count(max(halves, 0.5) if minutes > 0.0 else 0.0, 1)))
        whole = math.floor(minutes + 0.5)
        if whole < 60:
            return self.say(tr("{n} min", n=Count(whole)))
        if whole % 60 == 0:
            return self.say(tr("{h} h", h=Count(whole // 60)))
        return self.say(tr("{h} h {m} min", h=Count(whole // 60), m=Count(whole % 60)))

    def _phrase(self, phrase: Phrase) -> str:
        fields: Mapping[str, Value] = dict(phrase.values)
        if phrase.many:
            counted = fields["n"]
            number = round(counted.number) if isinstance(counted, Count) else 0
            template = self.tongue.ngettext(phrase.template, phrase.many, number)
        else:
            template = self.tongue.gettext(phrase.template) if phrase.template else ""
        return template.format_map({name: self.say(value) for name, value in fields.items()})

    def _length(self, length: Length) -> str:
        step = self.unit.fine_step if length.fine else self.unit.step
        if not length.bare and not length.chosen and 1e-9 < abs(length.mm) < step / 2.0 - 1e-9:
            # A gap that is there is not "0 in", and nothing is "0 in narrower".
            return self.say(tr("under {step}", step=Length(step, length.fine)))
        near = "≈\u202f" if length.chosen and not reads_exactly(length.mm, self.unit, fine=length.fine) else ""
        return near + self.length(length.mm, fine=length.fine, with_unit=not length.bare)

    def sentence(self, phrase: "Value") -> str:
        """The same with a capital letter at its beginning."""
        words = self.say(phrase)
        return words[:1].upper() + words[1:]


def reads_exactly(length: float, unit: Unit, *, fine: bool = False) -> bool:
    """Whether a length is what it reads when it is written in `unit`.

    >>> reads_exactly(12.7, Unit.INCH_16), reads_exactly(12.0, Unit.INCH_16)
    (True, False)
    """
    step = unit.fine_step if fine else unit.step
    return abs(length - round(length / step) * step) < 1e-6 * max(1.0, abs(length))
