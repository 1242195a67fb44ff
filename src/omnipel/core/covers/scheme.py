"""What every scheme is given and what it returns."""

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from omnipel.core.covers.altered import Altered
from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.layering import all_layers, twice_within
from omnipel.core.covers.options import Option
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.pieces import Piece, by_piece, counted
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.form import Form
from omnipel.core.forms.taper import slopes, tapers
from omnipel.core.job.document import ClearanceSchool, CoverChoices, RingSchool
from omnipel.core.job.feature import Choice
from omnipel.core.job.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.job.finish import Finish, seam, trimmed
from omnipel.core.space.ribbons import Ribbon
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Ratio, Share, mm, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, through, worked


@dataclass(frozen=True, slots=True)
class Strip:
    """How a strip is cut from cloth: so wide, mm, on the bias or straight, in so many cuts that are joined."""

    wide: float
    bias: bool
    cuts: int = 1


@dataclass(frozen=True, slots=True)
class Hardware:
    """Something that is bought and fitted: cord, elastic, fasteners. Either a length or a count.

    `size` is its thickness or width, mm, 0 where it is not told by one; `strip` how it is cut where it can be cut from cloth.
    """

    name: Phrase
    length: Worked | None = None
    count: int = 0
    note: Phrase = NOTHING
    size: float = 0.0
    strip: Strip | None = None


@dataclass(frozen=True, slots=True)
class Passage:
    """What a cover lets through at a depth below the object's top: its inside girth, and where it has corners its inside spans.

    Spans stand in the order in which the body gives its own.
    """

    depth: float
    girth: Worked
    spans: tuple[Worked, ...] = ()


@dataclass(frozen=True, slots=True)
class Lying:
    """Where something put on a cover came to lie.

    Args:
        piece: on which piece.
        flat: its middle on the flat panel, mm.
        place: its middle in space, mm.
        idle: what of all that it asks counts for nothing there, by name.
    """

    piece: str
    flat: tuple[float, float]
    place: tuple[float, float, float]
    idle: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Cover:
    """What a scheme drafts.

    Args:
        panels: what is cut, each drawn once.
        pieces: every cut copy of them, and where it lies when it is sewn.
        seams: how the pieces are joined; the order of sewing follows elsewhere.
        openings: what stays open, by its name: one of the free edges around it.
        sizes: every finished and cut size by its name.
        by_hand: names of the sizes that can be set by hand, in the order of drafting.
        profile: what it lets through, by depth; what has to pass over the object.
        from_below: whether the object goes into it from above (a bag) rather than the cover down over the object.
        opens: how much wider the open closure makes the girth, by depth, mm.
        seams_across: how many seams lie across a girth.
        turns: what a girth grows by when every side moves out by 1: 2π when round, 8 with four corners, 4 when flat.
        hardware: what is bought besides cloth.
        findings: judgements of the scheme itself.
        stood_in: choices that count for nothing, and the size set by hand that stands in for each.
        gathers: whether it depends on how far the cloth gathers.
        thickness: of all its layers, mm.
        edges: how the edges of its openings are finished and held.
        slits: names of the openings that are seams left open.
        joins: the seams that a person decides about, by name, and how long each is when it is sewn, mm, also where it is left open.
        lying: where what was put on it lies, by its id.
        ribbons: webbing and tape that hang on it, by the id of what they belong to.
        directions: choices of an ease that differs by direction, as far as it has any.
        ringed: whether a strip of its lining is closed into a ring, so that its width around is a choice.
        padded: whether its padding follows the job's choices; some schemes have a padding of their own.
        inset: whether any of that ends at a seam, so that how far short of it is a choice.
        altered: what is to be done to it since it was made.
    """

    panels: tuple[Panel, ...] = ()
    pieces: tuple[Piece, ...] = ()
    seams: tuple[Seam, ...] = ()
    openings: Mapping[str, Run] = field(default_factory=dict)
    sizes: Mapping[str, Worked] = field(default_factory=dict)
    by_hand: tuple[str, ...] = ()
    profile: tuple[Passage, ...] = ()
    from_below: bool = False
    opens: tuple[tuple[float, float], ...] = ()
    seams_across: int = 1
    turns: float = 2.0 * math.pi
    hardware: tuple[Hardware, ...] = ()
    findings: tuple[Finding, ...] = ()
    stood_in: Mapping[Ref, str] = field(default_factory=dict)
    gathers: bool = False
    thickness: float = 0.0
    edges: tuple[Dressed, ...] = ()
    slits: tuple[str, ...] = ()
    joins: Mapping[str, float] = field(default_factory=dict)
    lying: Mapping[str, Lying] = field(default_factory=dict)
    ribbons: Mapping[str, tuple[Ribbon, ...]] = field(default_factory=dict)
    directions: frozenset[Ref] = frozenset()
    padded: bool = False
    inset: bool = False
    ringed: bool = False
    altered: tuple[Altered, ...] = ()

    @cached_property
    def panel_of(self) -> dict[str, str]:
        """The name of the panel that each piece is cut from."""
        return {piece.name: piece.panel for piece in self.pieces}

    @cached_property
    def flat(self) -> dict[str, Panel]:
        """The panel that each piece is cut from, by the name of the piece."""
        return by_piece(self.panels, self.pieces)


@dataclass
class Parts:
    """What a scheme has cut and joined so far, where it does so step by step."""

    panels: list[Panel] = field(default_factory=list)
    pieces: list[Piece] = field(default_factory=list)
    seams: list[Seam] = field(default_factory=list)

    def add(self, panel: Panel, *pieces: Piece) -> None:
        """One more panel, and where its pieces lie."""
        self.panels.append(panel)
        self.pieces += pieces


@dataclass(frozen=True)
class Brief:
    """What a scheme is given besides the body: the choices, in the trade's symbols, and the sizes set by hand.

    `layer` is the layer that is drafted. Where a lining hangs by itself each has a gap of its own; `outer` is then the brief that the outer was drafted from.
    """

    choices: CoverChoices
    options: Mapping[str, Choice]
    known: Mapping[str, Option] = field(default_factory=dict)
    sizes: dict[str, Worked] = field(default_factory=dict)
    by_hand: list[str] = field(default_factory=list)
    replaced: dict[Ref, str] = field(default_factory=dict)
    counted: set[Ref] = field(default_factory=set)
    drafted: dict[str, Worked] = field(default_factory=dict)
    layer: Cloth = Cloth.OUTER
    outer: "Brief | None" = None

    def of(self, layer: Cloth) -> "Brief":
        """The brief of another layer of the same cover."""
        return Brief(self.choices, self.options, self.known, layer=layer, outer=self)

    @property
    def t(self) -> Worked:
        """Twice what lies between the inside of the cover and the sew line: the thickness of all layers where they are one."""
        return twice_within(self.choices, self.layer)

    def clearance(self, girth: Worked) -> Worked:
        """The gap c on each side, in the job's school."""
        chosen, source = self.choices.clearance, refs.CLEARANCE
        match chosen.school:
            case ClearanceSchool.SIDE:
                return worked(tr("clearance"), chosen.amount, source)
            case ClearanceSchool.DIMENSION:
                return worked(tr("ease"), chosen.amount, source) / 2.0
            case ClearanceSchool.GIRTH:
                share = tr("{share} of the girth, as a gap all round", share=Share(chosen.amount, 1))
                return through(tr("clearance"), share, lambda g: chosen.amount * g / (2.0 * math.pi), girth, source=source)

    def u(self, girth: Worked) -> Worked:
        """From the object to the sew line: clearance and half the thickness, or that of the layers inside of it."""
        return self.clearance(girth) + self.t / 2.0

    @property
    def seam(self) -> Finish:
        """The ordinary seam."""
        return seam(self.choices.seam_allowance)

    @property
    def closing(self) -> Finish:
        """The seam that closes a strip into a ring."""
        return seam(self.choices.closing_allowance)

    @property
    def meeting(self) -> Finish:
        """The other end of a strip that is joined to a ring: like the first, or cut longer to be trimmed where it meets."""
        if self.choices.ring is RingSchool.RING_FIRST:
            return self.closing
        return trimmed(self.choices.closing_allowance, self.habit("spare to trim"))

    def size(self, name: str, value: Worked, *only: Ref) -> Worked:
        """Enter a size under its name; it can be set by hand, and what is set takes its place.

        `only` are the choices that count for nothing but this size, or others that name them too: set by hand, it stands in for them.
        """
        by_hand = next((override for override in self.choices.overrides if override.size == name), None)
        self.drafted[name] = value
        if by_hand is None:
            self.counted.update(only)
        else:
            self.replaced.update(dict.fromkeys(only, name))
            drafted = tr("drafted {size}", size=mm(value.value))
            reason = tr("set by hand: {reason}", reason=Name(by_hand.reason))
            told = value
            value = worked(reason, by_hand.value, refs.by_hand(name), drafted)
            if self.outer is not None:
                value = value + (told - self.outer.drafted.get(name, told))
        self.sizes[name] = value
        self.by_hand.append(name)
        return value

    @property
    def gather_limit(self) -> float:
        """How far the cloth gathers, ungathered over gathered."""
        self.counted.add(refs.GATHER_LIMIT)
        return self.choices.cloth.gather_limit

    @property
    def stood_in(self) -> dict[Ref, str]:
        """The choices that sizes set by hand stand in for, and which size, as far as sizes have been entered."""
        return {choice: size for choice, size in self.replaced.items() if choice not in self.counted}

    def habit(self, name: str) -> float:
        """A general habit of those who made the job, mm."""
        return self.choices.habits.mm(name)

    def note(self, **sizes: Worked) -> None:
        """Enter sizes that follow from others and cannot be set by hand."""
        self.sizes.update(sizes)

    def number(self, key: str) -> float:
        """A scheme's own choice, as a number."""
        return float(self.options[key])

    def count(self, key: str) -> int:
        """A scheme's own choice, as a count."""
        return round(float(self.options[key]))

    def length(self, key: str) -> Worked:
        """A scheme's own choice, as a length that knows its source."""
        return worked(self.known[key].words, float(self.options[key]), refs.option(key))

    def cover(self, panels: Iterable[Panel], pieces: Iterable[Piece], seams: Iterable[Seam] = (), **more: Any) -> "Cover":
        """The cover with the sizes entered so far."""
        return self.completed(Cover(tuple(panels), tuple(pieces), tuple(seams), **more))

    def completed(self, cover: Cover, **more: Any) -> Cover:
        """A cover with all that has been entered so far."""
        gathers = refs.GATHER_LIMIT in self.counted
        made = replace(cover, sizes=self.sizes, by_hand=tuple(self.by_hand), stood_in=self.stood_in, gathers=gathers, **more)
        return replace(made, panels=counted(made.panels, made.pieces), thickness=all_layers(self.choices).value)

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
        serves: the ability of a form that it covers.
        options: its own choices.
        draft: from body and brief to a cover.
        starts_with: changes to a new job's choices that suit this scheme; lengths as names of habits.
        rings: whether it joins a strip to a ring, so that one can ask how.
        without: choices about a cover that it has no use for.
        edges: names of the openings whose edge a person decides about; others it finishes itself.
        level: whether its top is cut level, also where the object's slopes.
        tapers: whether it follows a left end that differs from the right one.
        trimmed: panels that are sewn around something and have free ends: cut long, these are trimmed when they have come round.
        gathered: whether panels are gathered onto others: their padding is drafted for itself, as it is not.
    """

    key: str
    words: Phrase
    about: Phrase
    serves: frozenset[Ability]
    options: tuple[Option, ...]
    draft: Callable[[Any, Brief], Cover]
    starts_with: Mapping[str, Any] = field(default_factory=dict)
    rings: bool = False
    without: frozenset[Ref] = frozenset()
    edges: tuple[str, ...] = ("lower edge",)
    level: bool = False
    tapers: bool = False
    trimmed: tuple[str, ...] = ()
    gathered: bool = False

    def follows(self, body: Any) -> bool:
        """Whether it can follow the body: one that cuts its top level does not follow a front that is lower than the back, few follow unequal ends."""
        return not (self.level and slopes(body)) and (self.tapers or not tapers(body))

    def serves_form(self, form: Form) -> bool:
        """Whether a form has an ability that this scheme asks for."""
        return bool(self.serves & form.abilities)

    def brief(self, choices: CoverChoices) -> Brief:
        """The brief for these choices, defaults filled in.

        Raises:
            Impossible: an option is unknown or out of bounds.
        """
        known = {option.key: option for option in self.options}
        for key in choices.options:
            if key not in known:
                where = refs.option(key)
                text = tr("{scheme} has no choice named “{name}”", scheme=self.words, name=Name(key))
                raise Impossible(text, where, Remedy(tr("Leave it out"), (Change(where, act=Act.REMOVE),)))
        options = {
            key: option.checked(choices.options.get(key, option.usual(self.key, choices.habits))) for key, option in known.items()
        }
        return Brief(choices, options, known)


def inside(brief: Brief, ring: Worked, turns: float) -> Worked:
    """Inside girth of a ring drafted on the middle of the thickness: 2π·t/2 less when round, 8·t/2 less when it has four corners."""
    return ring - brief.t * (turns / 2.0)


ROUND, CORNERED, FLAT = 2.0 * math.pi, 8.0, 4.0
"""What a girth changes by when every side moves out by 1: round, with four square corners, and flat between two layers."""


def meeting_notes(brief: Brief) -> tuple[Phrase, ...]:
    """What to know when a strip is cut that meets and is trimmed."""
    spare = brief.meeting.allowance - brief.closing.allowance
    return (tr("meet and trim: {spare} of the cut length are for that", spare=mm(spare)),) if spare else ()


def passages(depths: Iterable[float], girth: Worked, *spans: Worked) -> tuple[Passage, ...]:
    """The same passage at several depths."""
    return tuple(Passage(depth, girth, spans) for depth in depths)


def too_gathered(brief: Brief, ratio: float, what: Phrase, where: Ref, *remedies: Remedy) -> tuple[Finding, ...]:
    """A finding when cloth would have to gather further than it can."""
    limit = brief.gather_limit
    if ratio <= limit * (1.0 + 1e-9):
        return ()
    text = tr(
        "{what} would gather {ratio}; this cloth closes to {limit} at best.", what=what, ratio=Ratio(ratio), limit=Ratio(limit)
    )
    return (Finding("gathers-too-much", Severity.LOOK, text, where, remedies),)


def beyond(brief: Brief, key: str, most: float, because: Phrase) -> tuple[Finding, ...]:
    """A finding when a length of the scheme's own is more than makes sense on this body; `because` says what it is beside."""
    value, option, habits = brief.number(key), brief.known[key], brief.choices.habits
    if value <= most * (1.0 + 1e-9):
        return ()
    usual = max(option.low, min(habits.take("", option.rule), habits.system.down(most)))
    text = tr("{what}: {value} is more than makes sense here: {because}.", what=option.words, value=mm(value), because=because)
    remedies = (Remedy(tr("{what}: {usual}", what=option.words, usual=mm(usual)), (Change(refs.option(key), usual),)),)
    return (Finding("hardly-meant", Severity.LOOK, text, refs.option(key), remedies if usual < value else ()),)
