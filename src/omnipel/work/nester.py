"""A process of its own that looks for short lays until it is ended: `python -m omnipel.work.nester`.

It reads one problem from its input, as a line of plain data, and writes a line for each lay that is better than those before:
`{"length": …, "places": […]}`; `{"broken": …}` when the library has broken down. It ends when its input is closed, so that it never outlives
who asked. The library that searches cannot be stopped and may panic: it is why this is a process.
"""

from __future__ import annotations

import io
import json
import math
import os
import sys
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any, Final

import numpy as np

from omnipel.core.nesting.annealing import MANY, Annealer
from omnipel.core.nesting.building import SAME, Nest, built, orders, used_length
from omnipel.core.nesting.outward import outward
from omnipel.core.nesting.placing import Placed
from omnipel.core.nesting.problem import Problem, places_of, understood
from omnipel.core.nesting.shape import Way, turned
from omnipel.core.nesting.tightening import Tightener
from omnipel.work.children import step_back

ROOM: Final = 0.001
"""Outlines are grown by so much before the library sees them, mm: it reckons in single precision."""
HIGHER: Final = 0.02
"""Its strip is wider by so much, mm: it refuses a piece as wide as the strip. What leaves the cloth by that is set right afterwards."""
WITHIN: Final = (3.0, 1.0, 0.3)
"""How much simpler its outlines are than the true ones, mm, in turn: the simpler, the quicker."""
FEW: Final = 9
"""With no more pieces than this one process in two asks the library first, however short the time is: it fits odd shapes into one another best."""
SHORT: Final = 5.0
"""In less time than this the library is not asked where there are more, s."""
LIBRARY: Final = 0.2
"""Of the time so much goes to the library where it is asked, s for s ..."""
LIBRARY_MOST: Final = 4.0
"""... and no more than this, s."""
TURN: Final = 10.0
"""Exchanges begin anew after about so much time where there are as many pieces as `MANY`, s: fewer are exchanged sooner, more are only warmed ..."""
LEAST_TURN: Final = 2.0
"""... but not before this, s."""
ROUND: Final = 2
"""Of so many turns the first begins from where all began, boldly; the others from the best so far, ..."""
MILD: Final = 0.5
"""... less boldly by this."""
LATE: Final = 1.5
"""Exchanges end before the time is over by this times as long as it takes to draw what came of them together with the true outlines."""
SHARE: Final = 8.0
"""Of the time a part of so much at most goes into the true outlines while pieces are exchanged in simpler ones."""


class Looker:
    """What is looked for, and what was found so far."""

    def __init__(
        self, problem: Problem, seed: int, until: float, tell: Callable[[Nest], object], complain: Callable[[str], object]
    ) -> None:
        self.problem, self.seed, self.until, self.tell, self.complain = problem, seed, until, tell, complain
        self.best = math.inf
        self.broken = False
        self.tightener = Tightener(problem)
        self.annealers: dict[bool, Annealer] = {}  # of the true outlines, and of simpler ones
        self.took: float | None = None  # how long it takes to draw a lay together with the true outlines

    def offer(self, nest: Nest | None) -> None:
        """Tell a lay if it is sound and better than all before."""
        if nest is not None and used_length(nest) < self.best - SAME and self.problem.sound(nest):
            self.best = used_length(nest)
            self.tell(nest)

    def by_orders(self) -> None:
        """Lay the pieces in one order after the other: for grounds that the library does not know."""
        loose = [i for i, piece in enumerate(self.problem.begun) if piece is None]
        for order in orders(self.problem.each, loose, self.seed):
            self.offer(built(self.problem.ground, self.problem.each, order, self.problem.begun))
            if time.monotonic() > self.until or len(loose) < 2:
                return

    def by_library(self, seconds: float, turn: int) -> Nest | None:
        """What the library finds from a seed in about so many seconds, drawn together with the true outlines."""
        found = self._searched(self.seed + 7919 * turn, max(1, round(seconds)), WITHIN[(turn + self.seed) % len(WITHIN)])
        self.offer(found)
        return found

    def by_exchanges(self, nest: Nest, seconds: float, turn: int, hot: float = 1.0) -> Nest:
        """Exchange the pieces of a lay, in simpler outlines; what is found is drawn together with the true ones. The best in simpler outlines."""
        until = min(self.until, time.monotonic() + seconds)
        if self.took is None:
            self._offer_true(nest)
        until -= LATE * (self.took or 0.0)
        for problem in (self.problem.simpler, self.problem):  # beside what is locked there may be room for the true ones alone
            begun = problem.nest(places_of(nest))
            annealer = self._annealer(problem, begun)
            self._exchanged(annealer, annealer.look(begun, self.seed + 7919 * turn, until, hot))
            if annealer.best:
                return annealer.best
        return nest

    def _annealer(self, problem: Problem, nest: Nest) -> Annealer:
        """What exchanges pieces of a problem, made once for all turns."""
        made = self.annealers.get(problem.rough)
        if made is None or not made.tables.hold(nest):
            made = self.annealers[problem.rough] = Annealer(problem, nest)
        return made

    def _exchanged(self, annealer: Annealer, look: Iterator[bool]) -> None:
        waits, free = False, 0.0
        for shorter in look:
            waits = waits or shorter
            if waits and time.monotonic() >= free:
                waits = False
                self._offer_true(annealer.best)
                free = time.monotonic() + SHARE * (self.took or 0.0)
        if waits:
            self._offer_true(annealer.best)

    def _offer_true(self, simple: Nest) -> None:
        begun = time.monotonic()
        nest = self.problem.nest(places_of(simple))
        self.offer(self.tightener.drawn(nest) or nest)
        self.took = time.monotonic() - begun

    def look(self, known: Nest | None) -> None:
        """Look until the time is over."""
        if not self.problem.open:
            if self.problem.movable and known is not None and self.seed % 2 == 1:
                self.by_turns(known)
            self.by_orders()
            return
        left = self.until - time.monotonic()
        first = known
        if known is None or (self.seed % 2 == 0 and self.odd and (left >= SHORT or len(self.problem.pieces) <= FEW)):
            first = self._by_library_if_it_works(known, min(max(1.0, LIBRARY * left), LIBRARY_MOST), 0)
        if first is not None:
            self.by_turns(first)
        turn = 1
        while (
            not self.broken and (left := self.until - time.monotonic()) > 0.0
        ):  # what cannot be drawn together can still be laid
            self._by_library_if_it_works(first, min(left, LIBRARY_MOST), turn)
            turn += 1

    @property
    def odd(self) -> bool:
        """Whether a shape is hollow somewhere, so that another may reach into it."""
        return any(len(shape.ways[0].parts) > 1 for shape in self.problem.shapes)

    def by_turns(self, first: Nest) -> None:
        """Exchange pieces, boldly from where all begins, then less so from the best so far, and so on until the time is over.

        Where they cannot be exchanged (the compiler is not there, or breaks down) that is told, and the library may look instead.
        """
        try:
            self._by_turns(first)
        except Exception as fault:
            self.complain(str(fault) or type(fault).__name__)

    def _by_turns(self, first: Nest) -> None:
        turn, best = 0, first
        while (left := self.until - time.monotonic()) > 0.0:
            turns = max(1, round(left / max(TURN * min(len(first) / MANY, MANY / len(first)), LEAST_TURN)))
            bold = turn % ROUND == 0
            begun = first if bold else best
            found = self.by_exchanges(begun, left / turns, turn, 1.0 if bold else MILD)
            if found is begun:
                return  # no outlines of it can be parted
            best = found if bold or used_length(found) < used_length(best) else best
            turn += 1

    def _by_library_if_it_works(self, known: Nest | None, seconds: float, turn: int) -> Nest | None:
        """What the library finds; what is known where it breaks down, which is told once."""
        if not self.broken:
            try:
                return self.by_library(seconds, turn)
            except (KeyboardInterrupt, SystemExit):
                raise
            except BaseException as fault:  # its panics are no exceptions
                self.broken = True
                self.complain(str(fault) or type(fault).__name__)
        if known is None:
            raise SystemExit(1)
        return known

    def _searched(self, seed: int, seconds: int, within: float) -> Nest | None:
        """What the library finds from a seed in so many seconds, with the true outlines; what it finds on the way is offered."""
        import spyrrow

        problem = self.problem
        items = [
            spyrrow.Item(
                str(k),
                [(float(x), float(y)) for x, y in _grown(outward(shape.ring, within))],
                problem.pieces.count(k),
                None if shape.free else sorted({math.degrees(way.turn) for way in shape.ways}),
            )
            for k, shape in enumerate(problem.shapes)
            if k in problem.pieces
        ]
        asked = spyrrow.StripPackingInstance("lay", problem.width + HIGHER, items)
        how = spyrrow.StripPackingConfig(
            exploration_time=seconds, compression_time=0, total_computation_time=None, num_workers=1, seed=seed % 2**32
        )
        reports, answer = spyrrow.ProgressQueue(), []
        worker = threading.Thread(target=lambda: answer.append(asked.solve(how, reports)), daemon=True)
        worker.start()
        while worker.is_alive():
            worker.join(0.1)
            lawful = [found for kind, found in reports.drain() if int(kind) in (0, 3)]
            if lawful and lawful[-1].width < self.best:
                self.offer(self._settled(lawful[-1]))
        if not answer:
            raise RuntimeError("the library gave no answer")
        return self._settled(answer[0])

    def _settled(self, found: Any) -> Nest | None:
        """What the library found, drawn together with the true outlines; None where that cannot be. ValueError for what is no lay at all."""
        where: dict[str, list[tuple[float, Any]]] = {}
        for item in found.placed_items:
            if not all(math.isfinite(v) for v in (item.rotation, *item.translation)):
                raise ValueError("the library gave a place that is none")
            where.setdefault(item.id, []).append((item.rotation, item.translation))
        pieces = self.problem.pieces
        if any(len(where.get(str(k), ())) < pieces.count(k) for k in set(pieces)):
            raise ValueError("the library left pieces out")
        return self.tightener.drawn([self._lying(i, where) for i in range(len(pieces))])

    def _lying(self, piece: int, where: dict[str, list[tuple[float, Any]]]) -> Placed:
        sort = self.problem.pieces[piece]
        degrees, at = where[str(sort)].pop()
        turn, shape = math.radians(degrees), self.problem.shapes[sort]
        same = [way for way in shape.ways if abs(math.remainder(way.turn - turn, 2.0 * math.pi)) < 1e-6]
        return Placed(same[0] if same else Way(turned(shape.ring, turn), turn), np.array(at, dtype=np.float64))


def _grown(ring: Any) -> Any:
    """A ring grown by the room that single precision takes."""
    import shapely

    grown = shapely.Polygon(ring).buffer(ROOM, join_style="mitre", mitre_limit=3.0)
    return shapely.get_coordinates(grown.exterior)[:-1]


def _until_closed() -> None:
    """Whoever asked is gone, or wants no more."""
    sys.stdin.read()
    os._exit(0)


def main() -> None:
    """Read the problem, and look."""
    told = io.TextIOWrapper(step_back(), encoding="utf-8")
    asked = json.loads(sys.stdin.readline())
    threading.Thread(target=_until_closed, daemon=True).start()
    problem = understood(asked["problem"])

    def tell(nest: Nest) -> None:
        print(json.dumps({"length": used_length(nest), "places": places_of(nest)}), file=told, flush=True)

    def complain(broken: str) -> None:
        print(json.dumps({"broken": broken}), file=told, flush=True)

    known = asked["known"]
    Looker(problem, asked["seed"], asked["until"], tell, complain).look(problem.nest(known) if known else None)
    os._exit(0)


if __name__ == "__main__":
    main()
