"""The search for a short lay: a first one at once, then better ones from processes that can be ended at any moment."""

from __future__ import annotations

import json
import math
import os
import queue
import subprocess
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass
from typing import IO, Any, Final

from omnipel.core.nesting.building import SAME, Nest, used_length
from omnipel.core.nesting.problem import Problem, at_once, places_of, pulled_if_few, shortest, told
from omnipel.work.children import begin_child, put_away

AT_ONCE: Final = 0.12
"""The first lay is looked for no longer, s."""
TRIES: Final = 8
"""In so many orders, at most."""
MOST_PROCESSES: Final = 4
LAST_WORD: Final = 0.1
"""So long before the end the processes come to theirs, s."""


@dataclass(frozen=True)
class Found:
    """The best lay so far.

    Args:
        nest: where the pieces lie; None where nothing was found that holds them all.
        least: no lay is shorter, mm.
        looking: whether the search goes on.
        broken: what the processes said when all of them broke down; "" where none did.
    """

    nest: Nest | None
    least: float
    looking: bool
    broken: str = ""

    @property
    def length(self) -> float:
        """How much of the ground is used, mm."""
        return math.inf if self.nest is None else used_length(self.nest)

    @property
    def off(self) -> float:
        """By which share it may be longer than the best there is, at most."""
        return max(0.0, self.length / self.least - 1.0) if self.least > 0.0 and self.nest is not None else 0.0

    @property
    def proven(self) -> bool:
        """Whether there is no shorter one."""
        return self.nest is not None and self.length <= self.least + SAME


class Search:
    """A search that is under way. `run` is called once; `stop`, from any thread, ends it with what has been found."""

    def __init__(self, problem: Problem, seconds: float, *, processes: int | None = None, seed: int = 1) -> None:
        self.problem, self.seconds, self.seed = problem, seconds, seed
        self.processes = min(MOST_PROCESSES, os.cpu_count() or 1) if processes is None else processes
        self.told: queue.SimpleQueue[tuple[int, dict[str, Any] | None]] = queue.SimpleQueue()
        self.children: list[subprocess.Popen[bytes]] = []
        self.stopped = threading.Event()
        self.broken = ""
        self.lock = threading.Lock()

    def stop(self) -> None:
        """End the search: what was found so far is kept by who runs it."""
        self.stopped.set()
        with self.lock:
            for child in self.children:
                child.kill()
        self.told.put((-1, None))

    def run(self, known: Nest | None = None, least: float | None = None) -> Iterator[Found]:
        """The best lay each time there is a better one; the last one is no longer looking.

        Args:
            known: a lay of these pieces that is there already; where it is, none is made at once.
            least: below which length nothing can be laid, where that is known already, mm.
        """
        begun = time.monotonic()
        best = known if known is not None and self.problem.sound(known) else None
        there = best is not None
        if best is None:
            best = at_once(self.problem, TRIES, AT_ONCE)
        found = Found(best, self.problem.least_at_sight if least is None else least, True)
        movable = len(self.problem.pieces) - len(self.problem.locked or {})
        if found.proven or movable == 0 or self.seconds <= 0.0 or self.stopped.is_set():
            yield Found(best, self.problem.least(found.length) if least is None else least, False)
            return
        yield found
        try:
            self._begin(begun, best)
            if best is not None and not there:
                best = shortest(best, pulled_if_few(self.problem, best))
            known_least = self.problem.least(found.length) if least is None else least
            yield from self._followed(Found(best, known_least, True), begun)
        finally:
            self._end()

    def _begin(self, begun: float, known: Nest | None) -> None:
        until = begun + self.seconds - LAST_WORD
        for k in range(self.processes):
            asked = json.dumps(
                {
                    "problem": told(self.problem),
                    "seed": self.seed + k,
                    "until": until,  # by a clock that is the same in all processes
                    "known": places_of(known) if known is not None else None,
                }
            )
            child = begin_child("omnipel.work.nester", complaints=True)
            with self.lock:
                self.children.append(child)
                if self.stopped.is_set():
                    child.kill()
            try:
                assert child.stdin is not None
                child.stdin.write(asked.encode() + b"\n")
                child.stdin.flush()
            except OSError:
                pass  # it has been ended, or broke down: what it says about that is read below
            threading.Thread(target=self._listen, args=(k, child.stdout), daemon=True).start()

    def _listen(self, k: int, out: IO[bytes] | None) -> None:
        for line in out or ():
            try:
                self.told.put((k, json.loads(line)))
            except ValueError:
                continue  # a library that writes to the output
        self.told.put((k, None))

    def _followed(self, found: Found, begun: float) -> Iterator[Found]:
        """What the processes find, until the time is over, the best is proven, all have ended, or somebody stops it."""
        going, heard = set(range(len(self.children))), False
        while going and not self.stopped.is_set() and not found.proven:
            left = begun + self.seconds - time.monotonic()
            if left <= 0.0:
                break
            try:
                k, told_of = self.told.get(timeout=left)
            except queue.Empty:
                break
            if told_of is None:
                going.discard(k)
                continue
            if "broken" in told_of:
                self.broken = str(told_of["broken"])[:200]
                continue
            heard = True
            nest = self.problem.nest([(turn, x, y) for turn, x, y in told_of["places"]])
            if used_length(nest) < found.length - SAME and self.problem.sound(nest):
                found = Found(nest, found.least, True)
                yield found
        broken = "" if heard or self.stopped.is_set() else self.broken or ("" if going else self._last_words())
        yield Found(found.nest, found.least, False, broken)

    def _last_words(self) -> str:
        """What a process that broke down said last; "" where each ended as it should."""
        for child in self.children:
            if child.wait() != 0 and child.stderr is not None:
                lines = [line for line in child.stderr.read().decode(errors="replace").splitlines() if line.strip()]
                return lines[-1][:200] if lines else f"exit {child.returncode}"
        return ""

    def _end(self) -> None:
        with self.lock:
            children, self.children = self.children, []
        for child in children:
            put_away(child)


def searched(problem: Problem, seconds: float, known: Nest | None = None) -> Found:
    """The best lay that is found in so many seconds."""
    return list(Search(problem, seconds).run(known))[-1]
