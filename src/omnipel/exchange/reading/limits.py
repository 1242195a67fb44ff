"""How large a drawing may be that an outline is taken from, and that none is."""

import time
from typing import Final

from omnipel.core.words.phrases import Refusal, tr

LARGEST: Final = 8_000_000
"""Bytes of a file."""
DEEPEST: Final = 100
"""Groups within groups, and copies of copies."""
MOST_ELEMENTS: Final = 20_000
"""Every copy that a drawing makes of its parts counts."""
MOST_DATA: Final = 1_000_000
"""Letters of path data: some 60 000 points."""
LONGEST_S: Final = 20.0


class NoTracing(Refusal, ValueError):
    """A drawing that no outline can be taken from, and why."""


def in_time(until: float) -> None:
    """Go on, as long as it does not take too long.

    Raises:
        NoTracing: it does.
    """
    if time.monotonic() > until:
        raise NoTracing(tr("the drawing takes too long to read; save the outline alone"))
