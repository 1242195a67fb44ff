"""Advice on cloth from a process of its own: what is tried there takes no time from the window.

The process is begun when it is first needed, serves one job after the other, and ends when nobody asks any more or whoever asked is gone. Both sides talk in
pickled objects: they are the same program.
"""

from __future__ import annotations

import atexit
import contextlib
import os
import pickle
import subprocess
import sys
import threading
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import IO, TYPE_CHECKING, Any, Final

from omnipel.work.children import begin_child, put_away, step_back

if TYPE_CHECKING:
    from collections.abc import Mapping

    from omnipel.core.cloth.saving import Advice
    from omnipel.core.cloth.stock import Stock
    from omnipel.core.job.document import Job
    from omnipel.core.job.laying import Placed

IDLE: Final = 300.0
"""The process ends when it has not been asked for so long, s."""


@dataclass(frozen=True, eq=False)
class Asked:
    """A job that advice is wanted on.

    Args:
        job: as it stands.
        placed: where the pieces of each layer lie, by its name.
        stock: what the shop has.
    """

    job: Job
    placed: Mapping[str, tuple[Placed, ...]]
    stock: Stock


class Lost(Exception):
    """The process has ended, or said what cannot be understood."""


class Adviser:
    """The process, asked from one thread at a time. `end` may be called from any."""

    def __init__(self) -> None:
        self.child: subprocess.Popen[bytes] | None = None
        self.serves: Asked | None = None
        self.lock = threading.Lock()

    def ready(self) -> None:
        """Begin the process if it is not there, so that it is when it is asked; where it cannot be begun, who asks is told."""
        with self.lock, contextlib.suppress(OSError):
            self._child()

    def _child(self) -> subprocess.Popen[bytes]:
        if self.child is None or self.child.poll() is not None:
            self._put_away()
            self.child = begin_child("omnipel.work.adviser")
        return self.child

    def next(self, asked: Asked) -> Advice | None:
        """What comes of the next way that is tried on a job: advice, or None where it saves nothing.

        Raises:
            StopIteration: all have been tried.
            Lost: the process has ended meanwhile. Asked again, it begins anew.
        """
        with self.lock:
            try:
                child = self._child()
                assert child.stdin is not None
                assert child.stdout is not None
                if self.serves is not asked:  # nor another one that is equal: that may have been begun
                    pickle.dump(asked, child.stdin)
                    self.serves = asked
                pickle.dump(None, child.stdin)
                child.stdin.flush()
                kind, found = pickle.load(child.stdout)
            except (OSError, EOFError, ValueError, pickle.UnpicklingError) as error:
                self._put_away()  # whatever it says now answers no question any more
                raise Lost(str(error)) from error
        if kind == "fault":
            raise RuntimeError(found)
        if kind == "done":
            raise StopIteration
        advice: Advice | None = found
        return advice

    @property
    def busy(self) -> bool:
        """Whether somebody waits for an answer."""
        return self.lock.locked()

    def end(self) -> None:
        """End the process; who waits for it no longer does."""
        if self.child is not None:
            self.child.kill()
        with self.lock:
            self._put_away()

    def _put_away(self) -> None:
        child, self.child, self.serves = self.child, None, None
        if child is not None:
            put_away(child)


ADVISER: Final = Adviser()
"""The one of this program."""
atexit.register(ADVISER.end)


def _looked(asked: Asked) -> Iterator[Advice | None]:
    """What comes of each way on a job, whose pieces lie as they are said to."""
    from omnipel.core.cloth.cuts import layers_of
    from omnipel.core.cloth.lay import laid
    from omnipel.core.cloth.saving import Saver
    from omnipel.core.draft import Drafted, draft
    from omnipel.core.job.document import LayChoice
    from omnipel.shop.document import lawful

    job = asked.job
    kept = {layer: replace(job.lays.get(layer, LayChoice()), placed=placed) for layer, placed in asked.placed.items()}
    drafted = draft(replace(job, lays={**job.lays, **kept}))
    if isinstance(drafted, Drafted):
        yield from Saver(drafted, [laid(drafted, layer) for layer in layers_of(drafted)], asked.stock, lawful).look()


def _answers(questions: Iterator[Asked | None]) -> Iterator[tuple[str, Any]]:
    """An answer to each question for more; what is asked of another job begins with that."""
    looking: Iterator[Advice | None] = iter(())
    for asked in questions:
        if asked is not None:
            looking = _looked(asked)
            continue
        try:
            yield ("found", next(looking))
        except StopIteration:
            yield ("done", None)
        except Exception as error:  # our own fault is told like one
            yield ("fault", f"{type(error).__name__}: {error}")


def _questions(source: IO[bytes]) -> Iterator[Asked | None]:
    while True:
        rest = threading.Timer(IDLE, os._exit, (0,))
        rest.daemon = True
        rest.start()
        try:
            asked = pickle.load(source)
        except EOFError:
            return
        finally:
            rest.cancel()
        yield asked


def main() -> None:
    """Answer until nobody asks."""
    told = step_back()
    import omnipel.core.cloth.saving
    import omnipel.shop.document

    omnipel.shop.document.adapter()  # loaded before anybody asks
    for answer in _answers(_questions(sys.stdin.buffer)):
        pickle.dump(answer, told)
        told.flush()


if __name__ == "__main__":
    from omnipel.work.adviser import main as begin  # what is sent is of the module that the other side knows

    begin()
