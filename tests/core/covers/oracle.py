"""What an oracle is given and what it says: plain numbers in mm."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

PI = math.pi


@dataclass(frozen=True)
class Given:
    """Readings by place; gap `c`, thickness `t`, seam and closing allowance, hem and turn-under, spare to trim, options."""

    r: Mapping[str, float]
    c: float
    t: float
    seam: float
    closing: float
    hem: float
    under: float
    spare: float
    o: Mapping[str, object]

    @property
    def u(self) -> float:
        return self.c + self.t / 2

    @property
    def over(self) -> float:
        """What a strip is cut longer, where it is trimmed when it has come round."""
        return self.spare if self.o["ring"] == "meet and trim" else 0.0

    @property
    def below(self) -> float:
        return self.hem + self.under

    def n(self, option: str) -> float:
        return float(self.o[option])  # type: ignore[arg-type]


@dataclass(frozen=True)
class Piece:
    """How many are cut; cut length and height; area inside the sew line."""

    count: int
    long: float
    high: float
    area: float


@dataclass(frozen=True)
class Wanted:
    """What is wanted of a draft."""

    pieces: Mapping[str, Piece]
    seams: Mapping[str, float]
    goods: Mapping[str, float] = field(default_factory=dict)
    inside: tuple[float, ...] = ()
    """Inside girth at the top, then at the lower end of what has to pass; none when it passes over nothing."""
    across: tuple[float, ...] = ()
    """Inside spans at the top."""
    counted: Mapping[str, int] = field(default_factory=dict)
    """What is bought by the piece."""
    from_below: bool = False
    seams_across: int = 1


def strip(g: Given, long: float, high: float, ends: float, top: float, bottom: float, count: int = 1) -> Piece:
    """A rectangle with the same allowance on both ends."""
    return Piece(count, long + 2 * ends, high + top + bottom, long * high)


def plate(g: Given, radius: float) -> Piece:
    """A disc."""
    return Piece(1, 2 * (radius + g.seam), 2 * (radius + g.seam), PI * radius**2)
