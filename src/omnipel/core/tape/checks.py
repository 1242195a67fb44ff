"""Cross-checks between readings of one object."""

import math

ROUNDING_SHARE = 4.0 - math.pi
"""What two equal rounded corners of radius 1 shorten a path over them by."""


def rounding_from_path(path: float, height: float, width: float) -> float:
    """Radius of two equal rounded top corners, from the over-the-top path: ρ ≈ (2H + W − P)/(4 − π), mm.

    Negative when the path is longer than up, over and down: a slanted tape, or a thing that sticks out.

    >>> round(rounding_from_path(893, 340, 260), 3)
    54.753
    """
    return (2.0 * height + width - path) / ROUNDING_SHARE
