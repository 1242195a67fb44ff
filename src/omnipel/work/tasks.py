"""Work that a window does not wait for.

A request goes to a pure function on a thread of its own; what comes back is handed over in the asker's thread (`deliver` sees to that), and
only if nothing newer has been asked for under the same subject. What has not begun when something newer is asked for is never begun.
"""

import itertools
import threading
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any, Final


@dataclass(frozen=True, slots=True)
class _Task:
    subject: Hashable
    generation: int
    function: Callable[[Any], Any]
    request: Any
    taken: Callable[[Any], object]
    failed: Callable[[Exception], object]


class Works:
    """One worker.

    Args:
        deliver: runs a call in the asker's thread, soon.
        quiet: how long to wait before the next task is begun, s: a person who types or scrolls must not share the processor with it.
    """

    def __init__(self, deliver: Callable[[Callable[[], None]], object], quiet: Callable[[], float] = lambda: 0.0) -> None:
        self.deliver, self.quiet = deliver, quiet
        self.waiting: dict[Hashable, _Task] = {}
        self.current: dict[Hashable, int] = {}
        self.numbers: Final = itertools.count(1)
        self.wake = threading.Condition()
        self.closed = False
        self.under_way = 0
        self.thread: threading.Thread | None = None

    def ask(
        self,
        subject: Hashable,
        function: Callable[[Any], Any],
        request: Any,
        taken: Callable[[Any], object],
        failed: Callable[[Exception], object],
    ) -> int:
        """Ask for work; its generation. `taken` gets the result, `failed` what the function raised; at most one of them is called."""
        generation = next(self.numbers)
        with self.wake:
            if self.closed:
                return generation
            self.waiting.pop(subject, None)  # what is newer waits its turn behind the others
            self.waiting[subject] = _Task(subject, generation, function, request, taken, failed)
            self.current[subject] = generation
            if self.thread is None:
                self.thread = threading.Thread(target=self._work, name="omnipel-work", daemon=True)
                self.thread.start()
            self.wake.notify()
        return generation

    def forget(self, subject: Hashable) -> None:
        """Whatever has been asked for under a subject is no longer wanted."""
        with self.wake:
            self.waiting.pop(subject, None)
            self.current.pop(subject, None)

    @property
    def idle(self) -> bool:
        """Whether nothing is waiting or under way; what was delivered may not have been handed over yet."""
        with self.wake:
            return not self.waiting and not self.under_way

    def close(self) -> None:
        """Begin nothing more, and wait for what is under way."""
        with self.wake:
            self.closed = True
            self.waiting.clear()
            self.current.clear()
            self.wake.notify()
        if self.thread is not None and self.thread is not threading.current_thread():
            self.thread.join()

    def _work(self) -> None:
        while True:
            with self.wake:
                while not self.closed and (not self.waiting or self.quiet() > 0.0):
                    self.wake.wait(self.quiet() if self.waiting else None)
                if self.closed:
                    return
                task = self.waiting.pop(next(iter(self.waiting)))
                self.under_way = task.generation
            call: Callable[[], object]
            try:
                result = task.function(task.request)
                call = _bound(task.taken, result)
            except Exception as error:  # handed over like a result: the asker decides what it means
                call = _bound(task.failed, error)
            self.deliver(lambda task=task, call=call: self._hand_over(task, call))  # type: ignore[misc]
            del task, call  # nothing of a window is held while there is nothing to do: it must not be destroyed from here
            result = None
            with self.wake:
                self.under_way = 0

    def _hand_over(self, task: _Task, call: Callable[[], object]) -> None:
        with self.wake:
            if self.current.get(task.subject) != task.generation:
                return
            self.current.pop(task.subject)
        call()


def _bound(taken: Callable[[Any], object], value: Any) -> Callable[[], object]:
    return lambda: taken(value)
