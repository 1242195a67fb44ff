"""HPGL for plotters and cutters: a pen draws marks and words, a knife cuts openings and outlines.

Both count in steps of 1/40 mm; HPGL/2 has decimals, which a machine that cannot go there rounds. x runs along the roll, from its cut end; y
across it. Every arc ends with a step to its exact end, so that no rounding adds up.
"""

from __future__ import annotations

import math
import unicodedata
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

from omnipel.core.draft import Drafted
from omnipel.core.pictures.drawing import CAPITALS, Label
from omnipel.core.tolerances import CHORD_ERROR
from omnipel.core.words.phrases import Voice
from omnipel.exchange.files.flat import Flat, flat
from omnipel.exchange.files.routes import Place, Route, Tool, centre, labels, over_cut, points, routes, trailed
from omnipel.shop.machine import Machine

STEPS: Final = 40
"""Steps of a plotter in a mm."""
FINE: Final = 2
"""Decimals of a step in HPGL/2."""
LEAST_CHORD, MOST_CHORD = 0.05, 5.0
"""A machine is asked to draw an arc in chords that turn by no less and no more, degrees."""
LARGEST_ARC: Final = 20_000.0
"""An arc of a larger radius, mm, is drawn in chords: its middle would lie beyond what a machine can count to."""
END_OF_WORDS: Final = "\x03"


def hpgl(draft: Drafted, voice: Voice, machine: Machine, of: str = "") -> bytes:
    """The part that is asked for as HPGL for a machine.

    Raises:
        NoSuchPart: there is no such part.
    """
    return "".join(instructions(flat(draft, voice, of), machine)).encode("ascii")


def instructions(whole: Flat, machine: Machine) -> list[str]:
    """What a machine is told, each an instruction by itself with its end: first what the pen does, then the knife."""
    return list(_Teller(whole, machine).told())


@dataclass
class _Teller:
    """Tells a machine about pieces."""

    whole: Flat
    machine: Machine

    def told(self) -> Iterator[str]:
        x0, y0, x1, y1 = self.whole.bounds
        self.low = (0.0, 0.0) if self.whole.cloths else (x0, y0)
        self.fine = self.machine.language == "HPGL/2"
        size = [math.ceil((high - low) * STEPS) for high, low in ((x1, self.low[0]), (y1, self.low[1]))]
        if self.fine:
            yield "IN;"
            yield f"PS{size[0]},{size[1]};"
        else:
            yield "IN;"
            yield "DF;"
        yield "PA;"
        if self.machine.marks:
            yield from self._drawn()
        knife = routes(self.whole, Tool.KNIFE)
        if knife:
            yield from self._taken(Tool.KNIFE, self.machine.cut_speed)
            for line in knife:
                longer = over_cut(line, self.machine.over_cut)
                yield from self._followed(trailed(longer, self.machine.knife_offset))
        yield "PU;"
        yield "SP0;"
        if self.fine:
            yield "PG;"

    def _drawn(self) -> Iterator[str]:
        lines, words = routes(self.whole, Tool.PEN), labels(self.whole)
        if lines or words:
            yield from self._taken(Tool.PEN, self.machine.draw_speed)
            for line in lines:
                yield from self._followed(line)
            for label in words:
                yield from self._written(label)

    def _taken(self, tool: Tool, speed: float) -> Iterator[str]:
        yield f"SP{int(tool)};"
        yield f"VS{max(1, round(speed / 10.0))};"

    def _followed(self, line: Route) -> Iterator[str]:
        yield f"PU{self._at(line.start)};"
        straight: list[str] = []
        for a, step in line.legs():
            radius = math.dist(a, step.to) / 2.0 / math.sin(abs(step.sweep) / 2.0) if step.sweep else 0.0
            if step.sweep and radius <= LARGEST_ARC and radius * abs(step.sweep) > 1.0 / STEPS:
                if straight:
                    yield from _down(straight)
                    straight = []
                yield "PD;"
                yield f"AA{self._at(centre(a, step))},{math.degrees(step.sweep):.6g},{chord_angle(radius, step.sweep):.3g};"
            elif step.sweep:
                straight += [self._at((float(x), float(y))) for x, y in points(Route(a, (step,)))[1:-1]]
            straight.append(self._at(step.to))
        yield from _down(straight)

    def _at(self, place: Place) -> str:
        counted = ((at - low) * STEPS for at, low in zip(place, self.low, strict=True))
        return ",".join(
            f"{round(at, FINE) + 0.0:.{FINE}f}".rstrip("0").rstrip(".") if self.fine else str(round(at)) for at in counted
        )

    def _written(self, label: Label) -> Iterator[str]:
        words = plainest(label.words)
        if not words:
            return
        yield f"PU{self._at(label.at)};"
        yield f"DI{math.cos(label.angle):.4f},{math.sin(label.angle):.4f};"
        yield f"SI{label.size * WIDE / 10.0:.3f},{label.size * CAPITALS / 10.0:.3f};"
        if self.fine:
            yield f"LO{ {0.0: 1, 1.0: 7}.get(label.anchor, 4) };".replace(" ", "")
        elif label.anchor:
            yield f"CP{-label.anchor * len(words):.2f},0;"
        yield f"LB{words}{END_OF_WORDS}"


def chord_angle(radius: float, sweep: float) -> float:
    """By how much the chords of an arc may turn, degrees, so that none leaves it by more than half the chord error."""
    fine = 2.0 * math.degrees(math.acos(max(-1.0, 1.0 - 0.5 * CHORD_ERROR / radius)))
    return max(LEAST_CHORD, min(MOST_CHORD, fine, math.degrees(abs(sweep)) / 2.0))


WIDE: Final = 0.33
"""So wide are a plotter's letters, as a share of the height of ours."""
MOST_PLACES: Final = 12
"""No more places than this in one instruction."""


def _down(places: Sequence[str]) -> Iterator[str]:
    for k in range(0, len(places), MOST_PLACES):
        yield f"PD{','.join(places[k : k + MOST_PLACES])};"


def plainest(words: str) -> str:
    """Words in the letters that every plotter has.

    >>> plainest("wall · 3 1⁄2 ×2 − Größe")
    'wall - 3 1/2 x2 - Grosse'
    """
    signs = {"·": "-", "×": "x", "−": "-", "–": "-", "⁄": "/", "ß": "ss", "→": "->", "≈": "~"}
    split = unicodedata.normalize("NFKD", "".join(signs.get(c, c) for c in words))
    return " ".join("".join(c if " " <= c <= "~" else "" if unicodedata.combining(c) else " " for c in split).split())


def effort(whole: Flat, machine: Machine) -> tuple[float, float, float]:
    """How far a machine cuts and draws, mm, and about how many minutes that takes."""
    ways = {tool: routes(whole, tool) for tool in ((Tool.PEN, Tool.KNIFE) if machine.marks else (Tool.KNIFE,))}
    far = {tool: math.fsum(line.length for line in lines) for tool, lines in ways.items()}
    lifted = math.fsum(math.dist(a.end, b.start) for lines in ways.values() for a, b in pairwise(lines))
    cut, drawn = far[Tool.KNIFE], far.get(Tool.PEN, 0.0)
    words = labels(whole) if machine.marks else []
    lifted += math.fsum(math.dist(a.at, b.at) for a, b in pairwise(words))
    seconds = cut / machine.cut_speed + drawn / machine.draw_speed + lifted / LIFTED + len(ways) * CHANGE_S
    seconds += math.fsum(len(label.words) for label in words) * LETTER_S
    return cut, drawn, seconds / 60.0


def width_needed(whole: Flat) -> float:
    """How wide the cloth on a machine has to be, mm: as far as a tool goes across."""
    low = 0.0 if whole.cloths else whole.bounds[1]
    lines = [*routes(whole, Tool.KNIFE), *routes(whole, Tool.PEN)]
    return max((float(points(line)[:, 1].max()) - low for line in lines), default=0.0)


LIFTED: Final = 800.0
"""So fast a tool that is lifted goes, mm in a second."""
LETTER_S, CHANGE_S = 0.15, 1.0
"""A letter is written, and another tool is taken, in these times, s."""
