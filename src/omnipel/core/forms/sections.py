"""Sections of an object: what it is at a depth or at a mark."""

import math
from dataclasses import dataclass

from omnipel.core.words.working import Worked


@dataclass(frozen=True, slots=True)
class Section:
    """What the object is at a depth below its top: its girth, and where it has straight sides how far it reaches from side to side."""

    depth: float
    girth: Worked
    spans: tuple[Worked, ...] = ()


@dataclass(frozen=True, slots=True)
class Station:
    """A girth at a height above the lowest mark."""

    height: Worked
    girth: Worked

    @property
    def radius(self) -> float:
        """Of the body there, mm."""
        return self.girth.value / (2.0 * math.pi)
