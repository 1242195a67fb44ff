"""What every scheme is given and what it returns."""

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from omnipel.core.drafting.finishes import Finish, seam
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Seam
from omnipel.core.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.job import Choice, ClearanceSchool, CoverChoices, LiningSchool
from omnipel.core.working import Worked, formula, worked


class OptionKind(StrEnum):
    """What a scheme's own choice holds."""

    LENGTH = "length"
    COUNT = "count"
    SHARE = "share"
    YES = "yes or no"
    PICK = "pick"


@dataclass(frozen=True, slots=True)
class Option:
    """A choice of one scheme: key, words, kind, default, bounds or picks, and why the default is what it is."""

    key: str
    words: str
    kind: OptionKind
    default: Choice
    why: str = ""
    low: float = 0.0
    high: float = 100_000.0
    picks: tuple[str, ...] = ()

    def checked(self, value: Choice) -> Choice:
        """The value, once it is lawful.

        Raises:
            Impossible: it is of the wrong kind or out of bounds.
        """
        where = f"cover.options.{self.key}"
        match self.kind:
            case OptionKind.YES:
                lawful = isinstance(value, bool)
            case OptionKind.PICK:
                lawful = value in self.picks
            case _:
                lawful = isinstance(value, int | float) and not isinstance(value, bool) and self.low <= value <= self.high
        if not lawful:
            wanted = " or ".join(self.picks) if self.picks else f"{self.low:g} to {self.high:g}"
            remedy = Remedy(f"Go back to {self.default}", (Change(where, self.default),))
            raise Impossible(
                f"{self.words}: {value!r} is not {'yes or no' if self.kind is OptionKind.YES else wanted}", where, remedy
            )
        return value


def length(key: str, words: str, default: float, why: str = "", low: float = 0.0, high: float = 20_000.0) -> Option:
    """A length in mm."""
    return Option(key, words, OptionKind.LENGTH, default, why, low, high)


def count(key: str, words: str, default: int, why: str = "", low: int = 1, high: int = 200) -> Option:
    """A number of things."""
    return Option(key, words, OptionKind.COUNT, float(default), why, low, high)


def share(key: str, words: str, default: float, why: str = "", low: float = 0.0, high: float = 1.0) -> Option:
    """A part of a whole."""
    return Option(key, words, OptionKind.SHARE, default, why, low, high)


def yes(key: str, words: str, default: bool, why: str = "") -> Option:
    """Yes or no."""
    return Option(key, words, OptionKind.YES, default, why)


def pick(key: str, words: str, picks: tuple[str, ...], why: str = "") -> Option:
    """One of several; the first is the default."""
    return Option(key, words, OptionKind.PICK, picks[0], why, picks=picks)


@dataclass(frozen=True, slots=True)
class Hardware:
    """Something that is bought and fitted: cord, elastic, fasteners. Either a length or a count."""

    name: str
    length: Worked | None = None
    count: int = 0
    note: str = ""


@dataclass(frozen=True)
class Cover:
    """What a scheme drafts.

    Args:
        panels: the pieces of cloth.
        seams: how they are joined; the order of sewing follows elsewhere.
        sizes: every finished and cut size by its name.
        profile: inside girth by depth below the object's top; what has to pass over the object.
        from_below: whether the object goes into it from above (a bag) rather than the cover down over the object.
        opens: how much wider the open closure makes the girth, by depth, mm.
        seams_across: how many seams lie across a girth.
        roles: which panel lies where on the object: "top", "side", "base", or "front", "right", "back", "left".
        turns: what a girth grows by when every side moves out by 1: 2π when round, 8 with four corners, 4 when flat.
        hardware: what is bought besides cloth.
        findings: judgements of the scheme itself.
    """

    panels: tuple[Panel, ...] = ()
    seams: tuple[Seam, ...] = ()
    sizes: Mapping[str, Worked] = field(default_factory=dict)
    profile: tuple[tuple[float, Worked], ...] = ()
    from_below: bool = False
    opens: tuple[tuple[float, float], ...] = ()
    seams_across: int = 1
    roles: Mapping[str, str] = field(default_factory=dict)
    turns: float = 2.0 * math.pi
    hardware: tuple[Hardware, ...] = ()
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class Brief:
    """What a scheme is given besides the body: the choices, in the trade's symbols, and the sizes set by hand."""

    choices: CoverChoices
    options: Mapping[str, Choice]
    sizes: dict[str, Worked] = field(default_factory=dict)

    @property
    def t(self) -> Worked:
        """Thickness of all layers."""
        total, lining = worked("cloth", self.choices.cloth.thickness, "cover.cloth.thickness"), self.choices.lining
        if self.choices.padding:
            total = total + worked("padding", self.choices.padding, "cover.padding")
        if lining.school is not LiningSchool.NONE:
            total = total + worked("lining", lining.cloth.thickness, "cover.lining.cloth.thickness")
        return total

    def clearance(self, girth: Worked) -> Worked:
        """The gap c on each side, in the job's school."""
        given, source = self.choices.clearance, "cover.clearance.amount"
        match given.school:
            case ClearanceSchool.SIDE:
                return worked("clearance", given.amount, source)
            case ClearanceSchool.DIMENSION:
                return worked("ease", given.amount, source) / 2.0
            case ClearanceSchool.GIRTH:
                c = given.amount * girth.value / (2.0 * math.pi)
                return formula(
                    "clearance",
                    c,
                    f"{given.amount:.1%} of the girth / 2π",
                    (girth, given.amount / (2.0 * math.pi)),
                    source=source,
                )

    def u(self, girth: Worked) -> Worked:
        """From the object to the sew line: clearance and half the thickness."""
        return self.clearance(girth) + self.t / 2.0

    @property
    def seam(self) -> Finish:
        """The ordinary seam."""
        return seam(self.choices.seam_allowance)

    @property
    def closing(self) -> Finish:
        """The seam that closes a strip into a ring."""
        return seam(self.choices.closing_allowance)

    def size(self, name: str, value: Worked) -> Worked:
        """Enter a size under its name; a value set by hand takes its place."""
        for override in self.choices.overrides:
            if override.size == name:
                value = worked(
                    f"set by hand: {override.reason}", override.value, f"cover.overrides.{name}", f"drafted {value.value:.1f}"
                )
        self.sizes[name] = value
        return value

    def note(self, **sizes: Worked) -> None:
        """Enter sizes that follow from others and cannot be set by hand."""
        self.sizes.update(sizes)

    def number(self, key: str) -> float:
        """A scheme's own choice, as a number."""
        return float(self.options[key])

    def count(self, key: str) -> int:
        """A scheme's own choice, as a count."""
        return round(float(self.options[key]))

    def length(self, key: str, words: str) -> Worked:
        """A scheme's own choice, as a length that knows its source."""
        return worked(words, float(self.options[key]), f"cover.options.{key}")

    def yes(self, key: str) -> bool:
        """A scheme's own choice, as yes or no."""
        return bool(self.options[key])

    def picked(self, key: str) -> str:
        """A scheme's own choice, as one of its picks."""
        return str(self.options[key])


@dataclass(frozen=True, slots=True)
class Scheme:
    """A way to cut the surface of a form into panels.

    Args:
        key: its name in job files and on the command line.
        words: its name on screen.
        about: one line that tells it from the others.
        forms: which forms it serves.
        options: its own choices.
        draft: from body and brief to a cover.
        starts_with: changes to a new job's choices that suit this scheme.
    """

    key: str
    words: str
    about: str
    forms: tuple[str, ...]
    options: tuple[Option, ...]
    draft: Callable[[Any, Brief], Cover]
    starts_with: Mapping[str, Any] = field(default_factory=dict)

    def brief(self, choices: CoverChoices) -> Brief:
        """The brief for these choices, defaults filled in.

        Raises:
            Impossible: an option is unknown or out of bounds.
        """
        known = {option.key: option for option in self.options}
        for key in choices.options:
            if key not in known:
                where = f"cover.options.{key}"
                raise Impossible(
                    f"{self.words} has no choice named {key!r}", where, Remedy("Drop it", (Change(where, act=Act.REMOVE),))
                )
        options = {key: option.checked(choices.options.get(key, option.default)) for key, option in known.items()}
        return Brief(choices, options)


@dataclass(frozen=True, slots=True)
class Boxy:
    """Finished sizes of a box's cover: l = L + 2u, w = W + 2u, h = drop + u."""

    l: Worked  # noqa: E741 - the trade's own letter
    w: Worked
    h: Worked


def boxy(brief: Brief, length: Worked, width: Worked, drop: Worked, *, all_round: bool = False) -> Boxy:
    """The sizes of a box with clearance and half the thickness on every side; `all_round`: below it too."""
    u = brief.u((length + width) * 2.0)
    high = drop + (u * 2.0 if all_round else u)
    return Boxy(
        brief.size("cover_length", length + u * 2.0), brief.size("cover_width", width + u * 2.0), brief.size("cover_height", high)
    )


def inside(brief: Brief, ring: Worked, turns: float) -> Worked:
    """Inside girth of a ring drafted on the middle of the thickness: 2π·t/2 less when round, 8·t/2 less when it has four corners."""
    return ring - brief.t * (turns / 2.0)


ROUND, CORNERED, FLAT = 2.0 * math.pi, 8.0, 4.0
"""What a girth changes by when every side moves out by 1: round, with four square corners, and flat between two layers."""


def one_each(panels: Iterable[Panel]) -> dict[str, Panel]:
    """Panels by name."""
    return {panel.name: panel for panel in panels}


def too_gathered(brief: Brief, ratio: float, what: str, where: str, *remedies: Remedy) -> tuple[Finding, ...]:
    """A finding when cloth would have to gather further than it can."""
    limit = brief.choices.cloth.gather_limit
    if ratio <= limit * (1.0 + 1e-9):
        return ()
    text = f"{what} would gather {ratio:.2f} : 1; this cloth closes to {limit:g} : 1 at best."
    return (Finding("gathers-too-much", Severity.LOOK, text, where, remedies),)
