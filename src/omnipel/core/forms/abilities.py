"""What a form can do. Schemes ask for abilities, never for the name of a form; so a new form brings its schemes with it."""

from enum import StrEnum
from typing import Protocol, runtime_checkable

from omnipel.core.forms.sections import Section, Station
from omnipel.core.plane.curves import Points
from omnipel.core.words.working import Worked


class Ability(StrEnum):
    """What a body offers to be covered by."""

    ROUND = "round"
    RIMMED = "rimmed"
    WHEELED = "wheeled"
    TAPERED = "tapered"
    TURNED = "turned"
    BOXY = "boxy"
    OUTLINED = "outlined"
    SPREAD = "spread"
    SLAB = "slab"
    NECKED = "necked"
    CASED = "cased"


@runtime_checkable
class Round(Protocol):
    """Round, the same girth from top to bottom."""

    @property
    def ends(self) -> float:
        """Height above the ground at which the cover ends, mm."""

    @property
    def girth(self) -> Worked:
        """Around the body."""

    @property
    def drop(self) -> Worked:
        """From the top down to where the cover ends."""

    @property
    def sections(self) -> tuple[Section, ...]:
        """Girths by depth, over what sticks out."""


class Rimmed(Protocol):
    """Open at the top: what counts is the rim."""

    @property
    def height(self) -> Worked:
        """Of the rim above the ground."""

    @property
    def rim(self) -> Worked:
        """Around the rim."""

    @property
    def diameter(self) -> Worked:
        """Across the rim."""

    @property
    def below(self) -> Worked | None:
        """Around, below the rim."""

    @property
    def ring(self) -> Points | None:
        """The rim as it was traced, when it is not round."""


class Wheeled(Protocol):
    """A disc with a tread."""

    @property
    def girth(self) -> Worked:
        """Around the tread."""

    @property
    def width(self) -> Worked:
        """Across the tread."""

    @property
    def hub(self) -> Worked | None:
        """Across the hub."""


class Tapered(Protocol):
    """Round, wider at one end."""

    @property
    def girth_bottom(self) -> Worked:
        """Around the bottom."""

    @property
    def girth_top(self) -> Worked:
        """Around the top."""

    @property
    def height(self) -> Worked:
        """Straight up."""


class Turned(Protocol):
    """Round, its girth changing with height, perhaps domed."""

    @property
    def stations(self) -> tuple[Station, ...]:
        """Girths at marked heights, from the lowest up."""

    @property
    def rise(self) -> Worked | None:
        """Of the dome over the highest mark."""

    @property
    def top(self) -> float:
        """Height of the highest point, mm."""


class Boxy(Protocol):
    """Straight sides."""

    @property
    def ends(self) -> float:
        """Height above the ground at which the cover ends, mm."""

    @property
    def length(self) -> Worked:
        """Left to right."""

    @property
    def width(self) -> Worked:
        """Front to back."""

    @property
    def height(self) -> Worked:
        """From the ground to the top."""

    @property
    def drop(self) -> Worked:
        """From the top down to where the cover ends."""

    @property
    def path(self) -> Worked:
        """From the ground up the front, over the top and down the back."""

    @property
    def over_it(self) -> Points:
        """What a cloth laid over front and back hangs on, seen from the right: its side, and what stands up on top, `(n, 2)`."""

    @property
    def rounding(self) -> Worked | None:
        """Radius of its upper edges, where a path over them has told."""


class Outlined(Protocol):
    """A side outline drawn out to a width."""

    @property
    def ring(self) -> Points:
        """The side outline as it is measured, standing on y = 0, seen from the right."""

    @property
    def sides(self) -> tuple[Worked, ...]:
        """What the outline is made from, where it was not traced."""

    def outline(self, *sides: float) -> Points:
        """The side outline that is drafted, for other values of its sides, mm."""

    @property
    def across(self) -> Worked:
        """How far it is drawn out."""


class Spread(Protocol):
    """Flat, to be spread over something."""

    @property
    def length(self) -> Worked:
        """Along the long side."""

    @property
    def width(self) -> Worked:
        """Along the short side."""

    @property
    def ring(self) -> Points | None:
        """Its traced outline, if there is one."""


@runtime_checkable
class Slabby(Protocol):
    """Flat with some thickness."""

    @property
    def length(self) -> Worked:
        """Along the long side."""

    @property
    def width(self) -> Worked:
        """Along the short side."""

    @property
    def thickness(self) -> Worked:
        """Through it."""


class Necked(Protocol):
    """A round body, perhaps with a neck."""

    @property
    def girth(self) -> Worked:
        """Around the belly."""

    @property
    def height(self) -> Worked:
        """To the very top."""

    @property
    def neck(self) -> Worked | None:
        """Around the neck; None when it has none."""

    @property
    def neck_height(self) -> Worked | None:
        """Up to the neck."""


class Cased(Protocol):
    """A box carried by its handle."""

    @property
    def length(self) -> Worked:
        """Left to right."""

    @property
    def width(self) -> Worked:
        """Front to back."""

    @property
    def height(self) -> Worked:
        """To the top, without the handle."""

    @property
    def handle(self) -> Worked:
        """Along the handle."""

    @property
    def around(self) -> Worked:
        """The girth that counts: the largest over everything."""
