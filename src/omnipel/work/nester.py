"""A process of its own that looks for short lays until it is ended: `python -m omnipel.work.nester`.

It reads one problem from its input, as a line of plain data, and writes a line for each lay that is better than those before:
`{"length": …, "places": […]}`. It ends when its input is closed, so that it never outlives who asked. The library that searches cannot be
stopped and may panic: it is why this is a process.
"""

from __future__ import annotations

import json
import math
import os
import sys
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any, Final

import numpy as np

from omnipel.core.nesting.building import SAME, Nest, built, orders, pulled, used_length
from omnipel.core.nesting.outward import outward
from omnipel.core.nesting.placing import Placed
from omnipel.core.nesting.problem import Problem, places_of, understood
from omnipel.core.nesting.shape import Way, turned

ROOM: Final = 0.001
"""Outlines are grown by so much before the library sees them, mm: it reckons in single precision."""
HIGHER: Final = 0.02
"""Its strip is wider by so much, mm: it refuses a piece as wide as the strip. What leaves the cloth by that is set right afterwards."""
WITHIN: Final = (3.0, 1.0, 0.3)
"""How much simpler its outlines are than the true ones, mm, in turn: the simpler, the quicker."""
NICE: Final = 5
"""Whoever works at the window goes first."""
FEW: Final = 10
"""With no more pieces than this a second is enough for a search from one seed."""


class Looker:
    """What is looked for, and what was found so far."""

    def __init__(self, problem: Problem, seed: int, until: float, tell: Callable[[Nest], object]) -> None:
        self.problem, self.seed, self.until, self.tell = problem, seed, until, tell
        self.best = math.inf

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

    def by_library(self) -> None:
        """Search from one seed after the other; what is found is pulled together with its true outlines."""
        for k, seconds in enumerate(_lasting(len(self.problem.pieces))):
            within = WITHIN[(k + self.seed) % len(WITHIN)]
            found = self._searched(self.seed + 7919 * k, seconds, within)
            if found is not None:
                self.offer(pulled(self.problem.ground, found))
            if time.monotonic() > self.until:
                return

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
        """What the library found with the true outlines: the first piece begins at the cut end, none leaves the cloth, none overlaps by what it did not see."""
        where: dict[str, list[tuple[float, Any]]] = {}
        for item in found.placed_items:
            if not all(math.isfinite(v) for v in (item.rotation, *item.translation)):
                return None
            where.setdefault(item.id, []).append((item.rotation, item.translation))
        pieces = self.problem.pieces
        if any(len(where.get(str(k), ())) < pieces.count(k) for k in set(pieces)):
            return None  # it has left some out
        lie = [self._lying(i, where) for i in range(len(self.problem.pieces))]
        first = min(float(piece.low[0]) for piece in lie)
        lie = [Placed(piece.way, piece.at - np.array((first, 0.0))) for piece in lie]
        order = sorted(range(len(lie)), key=lambda i: float(lie[i].low[0]))
        made: dict[int, Placed] = {}
        for i in order:
            near, least = float(lie[i].at[1]), float(lie[i].at[0])
            others = list(made.values())
            kept = self.problem.ground.leftmost(lie[i].way, others, near=near, reach=2.0 * HIGHER, least=least - 1.0)
            if kept is None:
                return None
            made[i] = kept
        return [made[i] for i in range(len(lie))]

    def _lying(self, piece: int, where: dict[str, list[tuple[float, Any]]]) -> Placed:
        sort = self.problem.pieces[piece]
        degrees, at = where[str(sort)].pop()
        turn, shape = math.radians(degrees), self.problem.shapes[sort]
        same = [way for way in shape.ways if abs(math.remainder(way.turn - turn, 2.0 * math.pi)) < 1e-6]
        return Placed(same[0] if same else Way(turned(shape.ring, turn), turn), np.array(at, dtype=np.float64))


def _lasting(pieces: int) -> Iterator[int]:
    """How long each search lasts, s: the first short ones, so that several seeds are seen soon."""
    yield from (1, 1, 1, 2) if pieces <= FEW else (2, 2, 4)
    while True:
        yield 2 if pieces <= FEW else 8


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
    os.nice(NICE)
    asked = json.loads(sys.stdin.readline())
    threading.Thread(target=_until_closed, daemon=True).start()
    problem = understood(asked["problem"])

    def tell(nest: Nest) -> None:
        print(json.dumps({"length": used_length(nest), "places": places_of(nest)}), flush=True)

    looker = Looker(problem, asked["seed"], time.monotonic() + asked["seconds"], tell)
    if problem.open:
        looker.by_library()
    else:
        looker.by_orders()
    os._exit(0)


if __name__ == "__main__":
    main()
