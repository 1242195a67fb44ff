"""The clock of a step: it runs by itself, is paused by a key, and asks about time in which nobody did anything.

It knows no time of its own: whoever asks says what time it is, in seconds of any clock that does not go back.
"""

from dataclasses import dataclass, replace
from typing import Final

IDLE: Final = 600.0
"""Nobody who sews touches nothing for longer, s."""


@dataclass(frozen=True, slots=True)
class Clock:
    """How long a step has been worked on.

    Args:
        step: the key of the step; "" for none.
        counted: seconds that are sure to be counted.
        since: when it began to run; None while it is paused.
        touched: when somebody last did something.
    """

    step: str = ""
    counted: float = 0.0
    since: float | None = None
    touched: float = 0.0

    @property
    def runs(self) -> bool:
        """Whether it runs."""
        return self.since is not None

    def seconds(self, now: float) -> float:
        """So long has been worked on the step."""
        return self.counted + (max(0.0, now - self.since) if self.since is not None else 0.0)

    def minutes(self, now: float) -> float:
        """The same in minutes."""
        return self.seconds(now) / 60.0

    def begun(self, step: str, now: float) -> "Clock":
        """It runs for a step; for the one it ran for already it goes on."""
        if step == self.step:
            return self if self.runs else replace(self, since=now, touched=now)
        return Clock(step, 0.0, now, now)

    def paused(self, now: float) -> "Clock":
        """It stands."""
        return Clock(self.step, self.seconds(now), None, now)

    def touch(self, now: float) -> "Clock":
        """Somebody does something."""
        return replace(self, touched=now) if now >= self.touched else self

    def away(self, now: float) -> float:
        """For how long nobody has done anything, s; 0 where that is no longer than it takes to sew, or it stands."""
        gone = now - self.touched
        return gone if self.runs and gone > IDLE else 0.0

    def left_out(self, now: float) -> "Clock":
        """The time in which nobody did anything is not counted."""
        gone = self.away(now)
        return replace(self, counted=max(0.0, self.seconds(now) - gone), since=now, touched=now) if gone else self
