"""What the simulated cutter does with its instructions: a head that goes over cloth with a tool, at the speed it was told, and stops for a reason.

It reads HPGL by itself, one instruction at a time, and knows nothing of the program that wrote it. Its clock is whoever calls `advance`.
"""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Final

STEPS: Final = 40.0
"""Steps in a mm, as HPGL counts."""
LIFTED: Final = 800.0
"""So fast the head goes with its tool lifted, mm in a second."""
USUAL: Final = 200.0
"""And with its tool down, where nobody told it, mm in a second."""
LETTER_S: Final = 0.15
"""It writes a letter in this time, s."""
CHANGE_S: Final = 1.0
"""It takes another tool in this time, s."""
MOST_KEPT: Final = 200_000
"""No more lines are remembered for the picture."""

NEAR: Final = 0.05
"""A tool at the very edge is on the cloth, mm."""

Place = tuple[float, float]


class State(StrEnum):
    """What the machine is doing, or what it waits for."""

    IDLE = "idle"
    RUNNING = "running"
    PAUSED = "paused"
    CLOTH = "cloth"
    EDGE = "edge"
    TOOL = "tool"
    FINISHED = "finished"


class Nonsense(ValueError):
    """An instruction that cannot be followed."""


@dataclass(frozen=True, slots=True)
class Drawn:
    """A line that was made: with which tool, from where to where, mm, for which block; or words that were written there."""

    tool: int
    start: Place
    end: Place
    block: int
    words: str = ""
    high: float = 0.0
    way: float = 0.0


@dataclass(frozen=True, slots=True)
class Leg:
    """A piece of what a block asks for: to a place with the tool down or lifted, or words, or another tool."""

    to: Place
    down: bool = False
    words: str = ""
    tool: int | None = None


@dataclass
class Cutter:
    """A flat-bed cutter with a roll of cloth.

    Args:
        width, length: of the cloth on it, mm; the roll ends after `length`.
        tools: the places that hold a tool; 1 is the knife, 2 the pen.
    """

    width: float = 1830.0
    length: float = 4000.0
    tools: set[int] = field(default_factory=lambda: {1, 2})

    def __post_init__(self) -> None:
        self.state, self.paused, self.wanted = State.IDLE, False, 0
        self.at: Place = (0.0, 0.0)
        self.down, self.tool, self.speed = False, 0, USUAL
        self.high, self.way = 3.0, 0.0
        self.drawn: list[Drawn] = []
        self.gone = 0.0
        self.blocks: deque[tuple[int, str]] = deque()
        self.legs: deque[Leg] = deque()
        self.block = self.done = 0
        self.rest = 0.0
        self.last = 0

    # -- what a person does

    def pause(self, on: bool) -> None:
        """Stop where it is, or go on."""
        self.paused = on
        self._see()

    def more_cloth(self, length: float) -> None:
        """So much more on the roll, mm."""
        self.length += length
        self._see()

    def wider_cloth(self) -> None:
        """Cloth that is as wide as where the tool is to go."""
        if self.legs:
            self.width = max(self.width, math.ceil(self.legs[0].to[1] / 10.0) * 10.0)
        self._see()

    def put_tool(self, place: int) -> None:
        """There is a tool in a place now."""
        self.tools.add(place)
        self._see()

    # -- what it is told

    def begin(self, blocks: int) -> None:
        """A new job of so many blocks; what lies on it is taken away first."""
        cloth = self.length
        width, tools = self.width, self.tools
        self.__post_init__()
        self.length, self.width, self.tools = cloth, width, tools
        self.last = blocks

    def take(self, number: int, instruction: str) -> None:
        """Keep a block until its turn comes.

        Raises:
            Nonsense: it is no instruction of HPGL.
        """
        if not (len(instruction) >= 2 and instruction[:2].isalpha() and instruction[:2].isupper()):
            raise Nonsense(instruction[:20])
        self.blocks.append((number, instruction))
        self._see()

    def advance(self, seconds: float) -> None:
        """So much time goes by."""
        left = seconds
        while left > 0.0 and self._see() is State.RUNNING:
            if self.rest > 0.0:
                used = min(left, self.rest)
                self.rest -= used
                left -= used
                continue
            if not self.legs:
                if self.block > self.done:
                    self.done = self.block
                if not self.blocks:
                    continue
                self.block, instruction = self.blocks.popleft()
                self.legs.extend(self._legs(instruction))
                continue
            left = self._go(self.legs[0], left)
        self._see()

    def _see(self) -> State:
        """What it is doing now."""
        if not self.legs and not self.rest and self.block > self.done and not self.blocks:
            self.done = self.block
        if self.last and self.done >= self.last:
            self.state = State.FINISHED
        elif self.paused:
            self.state = State.PAUSED
        elif not (self.legs or self.blocks or self.rest):
            self.state = State.IDLE
        elif self.legs and self.legs[0].tool and self.legs[0].tool not in self.tools:
            self.state, self.wanted = State.TOOL, self.legs[0].tool
        elif self.legs and self.legs[0].down and not -NEAR <= self.legs[0].to[1] <= self.width + NEAR:
            self.state = State.EDGE
        elif self.legs and self.legs[0].down and not -NEAR <= self.legs[0].to[0] <= self.length + NEAR:
            self.state = State.CLOTH
        else:
            self.state = State.RUNNING
        return self.state

    def _go(self, leg: Leg, left: float) -> float:
        """Go along a leg as far as time allows; what is left of that."""
        if leg.tool is not None:
            self.legs.popleft()
            self.rest = CHANGE_S if leg.tool and leg.tool != self.tool else 0.0
            self.tool = leg.tool
            return left
        if leg.words:
            self.legs.popleft()
            self._keep(Drawn(self.tool, self.at, self.at, self.block, leg.words, self.high, self.way))
            self.rest = LETTER_S * len(leg.words)
            return left
        far, speed = math.dist(self.at, leg.to), self.speed if leg.down else LIFTED
        share = min(1.0, left * speed / far) if far > 1e-9 else 1.0
        if share >= 1.0:
            there = leg.to
            self.legs.popleft()
        else:
            there = self.at[0] + share * (leg.to[0] - self.at[0]), self.at[1] + share * (leg.to[1] - self.at[1])
        if leg.down and self.tool:
            self._keep(Drawn(self.tool, self.at, there, self.block))
            self.gone += share * far
        self.at = there
        return max(0.0, left - share * far / speed)

    def _keep(self, made: Drawn) -> None:
        last = self.drawn[-1] if self.drawn else None
        whole = last is not None and not made.words and not last.words and last.block == made.block and last.end == made.start
        if whole and last is not None and last.tool == made.tool and _straight(last.start, last.end, made.end):
            self.drawn[-1] = Drawn(made.tool, last.start, made.end, made.block)  # one line, gone along in several looks
        elif len(self.drawn) < MOST_KEPT:
            self.drawn.append(made)

    # -- reading

    def _legs(self, instruction: str) -> Iterator[Leg]:
        name, rest = instruction[:2], instruction[2:].rstrip(";")
        if name == "LB":
            yield Leg(self._end, words=rest.split("\x03")[0])
            return
        numbers = _numbers(rest)
        match name:
            case "IN" | "DF":
                self.down, self.speed = False, USUAL
            case "SP":
                yield Leg(self._end, tool=int(numbers[0]) if numbers else 0)
            case "VS" if numbers:
                self.speed = max(1.0, numbers[0] * 10.0)
            case "SI" if len(numbers) == 2:
                self.high = numbers[1] * 10.0
            case "DI" if len(numbers) == 2:
                self.way = math.atan2(numbers[1], numbers[0])
            case "PU" | "PD" | "PA":
                self.down = name == "PD" or (name == "PA" and self.down)
                for x, y in zip(numbers[::2], numbers[1::2], strict=False):
                    yield Leg((x / STEPS, y / STEPS), self.down)
            case "AA" if len(numbers) >= 3:
                yield from self._arc(*numbers[:4])

    @property
    def _end(self) -> Place:
        return self.legs[-1].to if self.legs else self.at

    def _arc(self, x: float, y: float, sweep: float, chord: float = 5.0) -> Iterator[Leg]:
        (ax, ay), cx, cy = self._end, x / STEPS, y / STEPS
        radius, begin = math.dist((ax, ay), (cx, cy)), math.atan2(ay - cy, ax - cx)
        count = max(1, min(2000, math.ceil(abs(sweep) / max(chord, 0.05))))
        for k in range(1, count + 1):
            angle = begin + math.radians(sweep) * k / count
            yield Leg((cx + radius * math.cos(angle), cy + radius * math.sin(angle)), self.down)


def _numbers(text: str) -> list[float]:
    found = []
    for part in text.split(","):
        try:
            number = float(part)
        except ValueError:
            continue
        if math.isfinite(number):
            found.append(number)
    return found


def _straight(a: Place, b: Place, c: Place) -> bool:
    """Whether three places lie on a line, one after the other."""
    across = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
    on = (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])
    return on >= 0.0 and abs(across) <= 1e-9 * max(1.0, on)
