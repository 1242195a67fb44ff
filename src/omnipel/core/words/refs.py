"""References: where in a job something is decided, as values. Text is made of them for files, links and the command line only, here."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final


class Of(StrEnum):
    """What kind of thing a reference leads to."""

    JOB = "job"
    THING = "thing"
    STICKS_OUT = "sticks-out"
    READING = "reading"
    CHOICE = "cover"
    OPTION = "option"
    BY_HAND = "by-hand"
    FEATURE = "feature"
    PANEL = "panel"
    SEAM = "seam"
    EDGE = "edge"
    PARTING = "parting"
    LAY = "lay"
    STEP = "step"
    TRY = "try-on"
    ALTERATION = "alteration"
    LOG = "log"
    FIT = "fit"
    TAPE = "tape"
    PAPERS = "papers"
    DELETED = "deleted"
    READABLE = "readable"


@dataclass(frozen=True, slots=True)
class Ref:
    """Where something is decided, or what is meant.

    Args:
        of: the kind of thing.
        id: which one, by what never changes: a place, an option's key, a feature's own id; "" for all of the kind, or where there is but one.
        part: the attribute of it that is meant, dotted where it lies deeper; of a panel, its edge. "" for the whole.

    >>> str(reading("girth.2").at("set_aside")), str(choice("hem.width")), str(seam("lid [a] to wall"))
    ('reading[girth.2].set_aside', 'cover.hem.width', 'seam[lid %5Ba%5D to wall]')
    """

    of: Of
    id: str = ""
    part: str = ""

    def at(self, part: str) -> "Ref":
        """A part of it.

        >>> str(choice("closure").at("length"))
        'cover.closure.length'
        """
        return replace(self, part=f"{self.part}.{part}" if self.part else part)

    def within(self, other: "Ref") -> bool:
        """Whether it is another, or a part of it.

        >>> choice("hem.width").within(choice("hem")), choice("hem_order").within(choice("hem"))
        (True, False)
        """
        return (self.of, self.id) == (other.of, other.id) and f"{self.part}.".startswith(f"{other.part}." if other.part else "")

    @property
    def whole(self) -> "Ref":
        """What it is a part of."""
        return replace(self, part="")

    def __str__(self) -> str:
        which = f"[{_escaped(self.id)}]" if self.id else ""
        return f"{self.of.value}{which}" + (f".{self.part}" if self.part else "")


def parsed(text: str) -> Ref:
    """The reference that a text was made of.

    Raises:
        ValueError: it is none.

    >>> parsed("reading[girth.2].set_aside") == reading("girth.2").at("set_aside")
    True
    """
    head, bracket, rest = text.partition("[")
    if not bracket:
        kind, _, part = text.partition(".")
        return Ref(Of(kind), "", part)
    which, bracket, part = rest.partition("]")
    if not bracket or (part and not part.startswith(".")):
        raise ValueError(text)
    return Ref(Of(head), _plain(which), part[1:])


_ESCAPES: Final = (("%", "%25"), ("[", "%5B"), ("]", "%5D"))


def _escaped(name: str) -> str:
    for sign, code in _ESCAPES:
        name = name.replace(sign, code)
    return name


def _plain(name: str) -> str:
    for sign, code in reversed(_ESCAPES):
        name = name.replace(code, sign)
    return name


def of_job(part: str) -> Ref:
    """An attribute of the job itself: its name, its notes."""
    return Ref(Of.JOB, "", part)


def thing(part: str) -> Ref:
    """An attribute of the thing: its form, its outline."""
    return Ref(Of.THING, "", part)


def sticks_out(id_: str = "", part: str = "") -> Ref:
    """Something that sticks out."""
    return Ref(Of.STICKS_OUT, id_, part)


def reading(place: str = "") -> Ref:
    """The reading at a place."""
    return Ref(Of.READING, place)


def choice(part: str = "") -> Ref:
    """A choice about the cover, by its path in it: `hem.width`."""
    return Ref(Of.CHOICE, "", part)


def option(key: str = "") -> Ref:
    """A scheme's own choice."""
    return Ref(Of.OPTION, key)


def by_hand(size: str = "") -> Ref:
    """A size set by hand."""
    return Ref(Of.BY_HAND, size)


def feature(id_: str = "", part: str = "") -> Ref:
    """Something on a panel."""
    return Ref(Of.FEATURE, id_, part)


def panel(name: str = "", edge: str = "") -> Ref:
    """A panel of the cover, or one of its edges."""
    return Ref(Of.PANEL, name, edge)


def seam(name: str = "", part: str = "") -> Ref:
    """A seam of the cover, or what is decided about it."""
    return Ref(Of.SEAM, name, part)


def parting(id_: str = "", part: str = "") -> Ref:
    """Where a panel is parted."""
    return Ref(Of.PARTING, id_, part)


def edge(opening: str, part: str = "") -> Ref:
    """What is decided about the edge of an opening."""
    return Ref(Of.EDGE, opening, part)


def lay(layer: str = "", part: str = "") -> Ref:
    """How the panels of a layer are laid on their cloth."""
    return Ref(Of.LAY, layer, part)


def step(key: str = "", part: str = "") -> Ref:
    """A step of the sewing, by the key of its operation."""
    return Ref(Of.STEP, key, part)


def try_on(id_: str = "", part: str = "") -> Ref:
    """A cover tried on."""
    return Ref(Of.TRY, id_, part)


def alteration(id_: str = "", part: str = "") -> Ref:
    """Something that is to be done to a cover that is made."""
    return Ref(Of.ALTERATION, id_, part)


def log(id_: str = "", part: str = "") -> Ref:
    """A line of the logbook."""
    return Ref(Of.LOG, id_, part)


SEWING_ORDER: Final = Ref(Of.JOB, "", "sewing.order")
SEAM_TAKE: Final = choice("seam_take")
HEM_TAKE: Final = choice("hem_take")
FIT: Final = Ref(Of.FIT)
PAPERS: Final = Ref(Of.PAPERS)
TAPE_CARD: Final = Ref(Of.PAPERS, "card")
ANY_CLEARANCE: Final = choice("clearance")
CLEARANCE_SCHOOL: Final = choice("clearance.school")
CLEARANCE: Final = choice("clearance.amount")
EASE_ALONG: Final = choice("clearance.along")
EASE_DROP: Final = choice("clearance.drop")
SEAM_ALLOWANCE: Final = choice("seam_allowance")
CLOSING_ALLOWANCE: Final = choice("closing_allowance")
HEM: Final = choice("hem")
HEM_KIND: Final = choice("hem.kind")
HEM_WIDTH: Final = choice("hem.width")
TURN_UNDER: Final = choice("hem.turn_under")
HEM_ORDER: Final = choice("hem_order")
ON_FOLD: Final = choice("on_fold")
JOIN: Final = choice("join")
RING: Final = choice("ring")
CLIPS: Final = choice("clips")
CLOTH: Final = choice("cloth")
CLOTH_NAME: Final = choice("cloth.name")
CLOTH_KIND: Final = choice("cloth.kind")
CLOTH_THICKNESS: Final = choice("cloth.thickness")
CLOTH_WIDTH: Final = choice("cloth.usable_width")
HABITS: Final = choice("habits")
GATHER_LIMIT: Final = choice("cloth.gather_limit")
SHRINK_WARP: Final = choice("cloth.shrink_warp")
SHRINK_WEFT: Final = choice("cloth.shrink_weft")
PREWASHED: Final = choice("cloth.prewashed")
PADDING: Final = choice("padding")
PADDING_INSET: Final = choice("padding_inset")
PADDING_MATERIAL: Final = choice("padded.material")
PADDING_ON: Final = choice("padded.on")
PADDING_AT_SEAM: Final = choice("padded.at_seam")
FUSED: Final = choice("padded.fused")
GRID: Final = choice("padded.grid")
STIFFENER: Final = choice("stiffener.thickness")
STIFFENER_ON: Final = choice("stiffener.on")
STIFFENER_SHORT: Final = choice("stiffener.short")
QUILTING: Final = choice("quilting")
QUILTING_ALONG: Final = choice("quilting.along")
QUILTING_ACROSS: Final = choice("quilting.across")
LINING_SCHOOL: Final = choice("lining.school")
LINING_ALLOWANCE: Final = choice("lining.seam_allowance")
TURNING_GAP: Final = choice("lining.turning_gap")
LINING_ON: Final = choice("lining.on")
LINING_PIECED: Final = choice("lining.pieced")
LINING_AROUND: Final = choice("lining.around")
LINING_CLOTH: Final = choice("lining.cloth")
LINING_WIDTH: Final = choice("lining.cloth.usable_width")
LINING_THICKNESS: Final = choice("lining.cloth.thickness")
CLOSURE: Final = choice("closure")
CLOSURE_KIND: Final = choice("closure.kind")
CLOSURE_LENGTH: Final = choice("closure.length")
FEATURES: Final = choice("features")
SCHEME: Final = choice("scheme")
OUTLINE: Final = thing("outline")
MARKING: Final = choice("marking")
COPIES: Final = of_job("copies")
