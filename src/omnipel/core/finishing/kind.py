"""What a kind of thing that is put on a cover says about itself, and what it is given to say what it adds."""

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.options import Option
from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting.panel import Figure, MarkKind, Notch, Panel, Shows
from omnipel.core.finishing.fixing import Fixing, generally
from omnipel.core.finishing.ground import Ground
from omnipel.core.finishing.operation import Operation
from omnipel.core.finishing.spots import Spot
from omnipel.core.finishing.strips import binding_width, strip
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.feature import Choice, Feature
from omnipel.core.job.findings import Finding, Impossible, Remedy, Severity
from omnipel.core.job.finish import Finish, seam
from omnipel.core.plane.curves import Points
from omnipel.core.space.placements import Placement
from omnipel.core.space.ribbons import Ribbon
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, Rule, Value, plain, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, worked

Values = Mapping[str, Choice]
"""What was decided about something by its kind's own choices, all of them."""


class Lies(StrEnum):
    """How something lies on a cover: it decides what may not lie over it."""

    CUT = "cut out"
    SEWN = "sewn on"
    POINTS = "points"
    CAUGHT = "caught"
    UNDER = "under others"


@dataclass(frozen=True, slots=True)
class Laid:
    """A panel of its own: its middle so far to the right of and above the middle of what it belongs to; or standing out as `place` says.

    It lies on the right side of the cloth, or on the wrong side when it is `inside`.
    """

    panel: Panel
    spot: Spot
    right: float = 0.0
    up: float = 0.0
    place: Placement | None = None
    inside: bool = False


@dataclass
class Additions:
    """What something adds to a cover; gathered while it is put there. Figures and match marks by the pieces they lie on."""

    figures: dict[str, list[Figure]] = field(default_factory=dict)
    notches: dict[str, list[Notch]] = field(default_factory=dict)
    panels: list[Laid] = field(default_factory=list)
    ribbons: list[Ribbon] = field(default_factory=list)
    hardware: list[Hardware] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)

    def say(self, finding: Finding | None) -> None:
        """Keep what there is to say."""
        self.findings += [finding] if finding is not None else []


@dataclass(frozen=True, eq=False)
class Put:
    """Something where it lies: what a kind works with.

    Its own frame has its middle at 0, x to the right and y up as one looks at the cover from outside.
    """

    feature: Feature
    kind: "Kind"
    spot: Spot
    ground: Ground
    choices: CoverChoices
    values: Values
    made: Additions = field(default_factory=Additions)

    @property
    def host(self) -> Panel:
        """The panel that it lies on."""
        return self.spot.panel

    @property
    def name(self) -> Name:
        """What it is called."""
        return Name(self.feature.name)

    @property
    def where(self) -> Ref:
        """Where it is decided."""
        return refs.feature(self.feature.id)

    def at(self, option: str) -> Ref:
        """Where one of its own choices is decided."""
        return self.where.at(f"options.{option}")

    def habit(self, name: str) -> float:
        """A habit of those who made the job, mm."""
        return self.choices.habits.mm(name)

    def number(self, key: str) -> float:
        """One of its own choices, as a number."""
        return float(self.values[key])

    def picked(self, key: str) -> str:
        """One of its own choices, as one of its picks or as text."""
        return str(self.values[key])

    def yes(self, key: str) -> bool:
        """One of its own choices, as yes or no."""
        return bool(self.values[key])

    def length(self, key: str, words: Phrase) -> Worked:
        """One of its own lengths."""
        return worked(words, self.number(key), self.at(key))

    @property
    def width(self) -> Worked:
        """Its width as it was chosen."""
        return worked(tr("width"), self.feature.width, self.where.at("width"))

    @property
    def height(self) -> Worked:
        """Its height as it was chosen."""
        return worked(tr("height"), self.feature.height, self.where.at("height"))

    @property
    def allowance(self) -> Finish:
        """A seam as the job has it."""
        return seam(self.choices.seam_allowance)

    @cached_property
    def local(self) -> Points:
        """Its outline in its own frame, `(n, 2)`."""
        return self.kind.outline(self)

    @cached_property
    def area(self) -> BaseGeometry:
        """What it takes up of its panel, flat."""
        flat = self.spot.flat(self.local)
        if len(flat) < 3:
            return shapely.MultiPoint(flat)
        return shapely.make_valid(shapely.Polygon(flat))

    def draw(
        self,
        name: str,
        points: Points,
        kind: MarkKind = MarkKind.LINE,
        *,
        closed: bool = False,
        spot: Spot | None = None,
        shows: Shows | None = None,
    ) -> None:
        """Draw something on its panel, from its own frame."""
        on = spot or self.spot
        figure = Figure(name, on.flat(np.asarray(points, dtype=np.float64)), kind, closed, shows, self.feature.id)
        self.made.figures.setdefault(on.piece.name, []).append(figure)

    def mark(self, notch: Notch, piece: str = "") -> None:
        """A mark on an edge."""
        self.made.notches.setdefault(piece or self.spot.piece.name, []).append(notch)

    def lay(
        self, panel: Panel, right: float = 0.0, up: float = 0.0, place: Placement | None = None, *, inside: bool = False
    ) -> None:
        """A panel of its own, its middle so far from the middle of it; or standing out from there; on the wrong side of the cloth if `inside`."""
        self.made.panels.append(Laid(panel, self.spot, right, up, place, inside))

    def hang(self, *ribbons: Ribbon) -> None:
        """What hangs on the cover there, in space."""
        self.made.ribbons += ribbons

    def buy(
        self, name: Phrase, length: Worked | None = None, count: int = 0, note: Phrase | None = None, size: float = 0.0
    ) -> None:
        """Something that is bought for it, so thick or wide, mm."""
        told = note if note is not None else tr("{feature}", feature=self.name)
        self.made.hardware.append(Hardware(name, length, count, told, size))

    def bind(self, around: Worked, bend: float = math.inf) -> None:
        """A binding so long, which goes around bends as tight as `bend`, mm."""
        wide = binding_width(self.habit("binding"), self.choices.cloth.thickness)
        long = around + worked(tr("overlap"), self.habit("binding join"))
        self.made.hardware.append(strip(tr("binding"), long, wide, bend, self.choices.cloth.cut_width, plain(self.feature.name)))

    def stop(self, code: str, text: Phrase, *remedies: Remedy) -> None:
        """It cannot be made so."""
        self.made.say(Finding(code, Severity.STOP, text, self.where, remedies))

    def look(self, code: str, text: Phrase, *remedies: Remedy) -> None:
        """One should look at this."""
        self.made.say(Finding(code, Severity.LOOK, text, self.where, remedies))

    @property
    def on(self) -> Value:
        """What its panel is called."""
        return term(self.host.name)


def rectangle_of(put: Put) -> Points:
    """The outline of what is as wide and as high as was chosen."""
    w, h = put.feature.width / 2.0, put.feature.height / 2.0
    return np.array([(-w, -h), (w, -h), (w, h), (-w, h)])


def both_sizes(values: Values) -> Mapping[str, Phrase]:
    """Width and height are asked."""
    return {"width": tr("width"), "height": tr("height")}


def none_idle(put: Put) -> frozenset[str]:
    """All that it asks counts for something."""
    return frozenset()


def no_room(put: Put) -> float:
    """It may lie as near to an edge as it likes."""
    return 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A kind of thing that is put on a cover.

    Args:
        key: its name in job files.
        words: its name on screen.
        about: what it is for, in one line.
        lies: how it lies.
        put: adds what belongs to it.
        options: its own choices.
        sizes: which of width and height it asks, and what they are called there.
        outline: what it takes up, in its own frame.
        room: how far it keeps clear of seams, and of hems besides, mm.
        usual: width and height it begins with.
        other_ways: own choices that are tried where it cannot be as it is, the first that helps is proposed.
        idle: what of all that it asks counts for nothing where it lies: lengths and own choices, by name.
        operations: how it is made and put on, in order.
    """

    key: str
    words: Phrase
    about: Phrase
    lies: Lies
    put: Callable[[Put], None]
    options: tuple[Option, ...] = ()
    sizes: Callable[[Values], Mapping[str, Phrase]] = both_sizes
    outline: Callable[[Put], Points] = rectangle_of
    room: Callable[[Put], float] = no_room
    usual: tuple[Rule, Rule] = (Rule(120.0, 4.5), Rule(80.0, 3.0))
    idle: Callable[[Put], frozenset[str]] = none_idle
    other_ways: Callable[[Values], Sequence[tuple[Phrase, Mapping[str, Choice]]]] = lambda _values: ()
    operations: Callable[[Fixing], Iterator[Operation]] = generally

    def values(self, feature: Feature, choices: CoverChoices) -> dict[str, Choice]:
        """What was decided about something of this kind, by all of its own choices.

        Raises:
            Impossible: one is unknown or out of bounds.
        """
        known = {option.key: option for option in self.options}
        for key, value in feature.options.items():
            if key not in known:
                text = tr("there is nothing named “{key}” to decide about it", key=Name(key))
                raise Impossible(text, refs.feature(feature.id))
            known[key].checked(value)
        return {option.key: feature.options.get(option.key, option.usual(self.key, choices.habits)) for option in self.options}
