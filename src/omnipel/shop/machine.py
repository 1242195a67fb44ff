"""The shop's cutter or plotter: what is asked about it once, kept as a setting of the shop."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass, fields
from typing import Any, Final

SETTING: Final = "cutter"
LANGUAGES: Final = ("HPGL/2", "HPGL")
MOST_OFFSET, MOST_OVER, MOST_SPEED = 10.0, 50.0, 2000.0


@dataclass(frozen=True, slots=True)
class Machine:
    """What a cutter has to be told.

    Args:
        language: HPGL/2, or plain HPGL.
        knife_offset: how far its blade cuts behind its axis, mm; 0 for a blade that is turned, a wheel or a pen.
        over_cut: how far a closed line is followed on, mm.
        marks: whether sew lines, marks and words are drawn with a pen.
        cut_speed, draw_speed: mm in a second.
        where: the device or print queue its instructions are written to; "" for the simulated cutter.
    """

    language: str = LANGUAGES[0]
    knife_offset: float = 0.0
    over_cut: float = 2.0
    marks: bool = True
    cut_speed: float = 200.0
    draw_speed: float = 400.0
    where: str = ""

    def __post_init__(self) -> None:
        if self.language not in LANGUAGES:
            raise ValueError(f"no such language: {self.language}")
        for value, most in ((self.knife_offset, MOST_OFFSET), (self.over_cut, MOST_OVER)):
            if not 0.0 <= value <= most:
                raise ValueError(f"{value} is not between 0 and {most}")
        for speed in (self.cut_speed, self.draw_speed):
            if not 1.0 <= speed <= MOST_SPEED:
                raise ValueError(f"{speed} mm/s is not between 1 and {MOST_SPEED}")

    @property
    def text(self) -> str:
        """As it is kept."""
        return json.dumps(asdict(self))


def machine_of(text: str) -> Machine:
    """A machine as it was kept; the usual one where nothing was, or what is there is damaged.

    >>> machine_of('{"knife_offset": 0.25}').knife_offset, machine_of("?").language
    (0.25, 'HPGL/2')
    """
    try:
        known: dict[str, Any] = json.loads(text or "{}")
        return Machine(**{field.name: known[field.name] for field in fields(Machine) if field.name in known})
    except (ValueError, TypeError, AttributeError):
        return Machine()
