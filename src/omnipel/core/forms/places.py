"""Places that several forms share: around, across, over the top, and how the reading becomes the part."""

import math

from omnipel.core.forms.form import Beside
from omnipel.core.words.phrases import Rule, tr
from omnipel.core.words.working import Worked

DIAMETER = "diameter"

STRING_DOWN = Beside(tr("down each side"), Rule(50.0, 2.0))
MARK_UP = Beside(tr("height of both marks"), Rule(80.0, 3.0))


def round_body(diameter: float) -> float:
    """What a tape around a round body reads: πD."""
    return math.pi * diameter


def half_turn(girth: Worked) -> Worked:
    """The diameter of a girth: G/π."""
    return girth / math.pi


def string_over(string: Worked, down: Worked) -> Worked:
    """The diameter under a string over a flat top and so far down each side."""
    return string - down * 2.0


def part_girth(up: float, diameter: float) -> float:
    """What a tape around an upright wheel reads from mark to mark, both `up` above the ground: 2r(π − φ), φ = acos((r − k)/r).

    >>> part_girth(80.0, 0.0), part_girth(0.0, 100.0) == 100.0 * math.pi
    (0.0, True)
    """
    r = diameter / 2.0
    if r <= 0.0:  # on its way to a solution a wheel may have no size
        return 0.0
    return 2.0 * r * (math.pi - math.acos(max(-1.0, min(1.0, (r - up) / r))))


def path_over(height: float, front: float, width: float, rounding: float) -> float:
    """Up the front, over the top and down the back, two rounded upper edges taking (4 − π)ρ off.

    >>> round(path_over(340.0, 340.0, 260.0, 54.753), 1)
    893.0
    """
    return height + front + math.hypot(width, height - front) - (4.0 - math.pi) * rounding


def lifted(over: float, reach: float) -> float:
    """What a taut tape is lifted by something `reach` proud, `over` from the nearest edge on each side: 2(√(x² + k²) − x)."""
    return 2.0 * (math.hypot(over, reach) - over)
