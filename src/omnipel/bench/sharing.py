"""How the window, and what works behind it on threads, share one process."""

import ctypes
import gc
import sys
from contextlib import suppress
from typing import ClassVar, Final

from PySide6.QtCore import QObject, QTimer

from omnipel.bench.deliverer import Pace

SWITCH: Final = 0.0002
"""What is worked out behind the window gives way to it after so long, s: much sooner than is usual (5 ms)."""
ARENA_MAX: Final = -8
"""The number by which the C library knows how many heaps there may be (`mallopt`)."""


def share() -> None:
    """Set both up. With one heap for all threads a shop that has been looked through takes 10 MB less, and nothing takes longer."""
    sys.setswitchinterval(SWITCH)
    with suppress(OSError, AttributeError):  # another C library
        ctypes.CDLL(None).mallopt(ARENA_MAX, 1)


SWEPT_MS: Final = 1000
"""So often what refers to itself and is of no more use is looked for, where nobody types ..."""
WHOLLY: Final = 20
"""... and every so many times in all there is, not only in what is new."""


class Sweeper(QObject):
    """Removes what refers to itself and is of no more use, and sees that this is done in the window's thread only.

    Python would do it in whatever thread has made enough new objects. Widgets that a thread behind the window destroys so wait for the one that the
    window has locked, and the window for that thread: it stands still for ever. And what is there once all is loaded is not looked through again:
    it stays, and that would take a tenth of a second each time.
    """

    at_work: ClassVar[set[int]] = set()

    def __init__(self, pace: Pace) -> None:
        super().__init__()
        self.pace, self.settled, self.times = pace, False, 0
        self.timer = QTimer(self, interval=SWEPT_MS)
        self.timer.timeout.connect(self.sweep)
        self.timer.start()
        self.at_work.add(id(self))
        gc.disable()

    def sweep(self) -> None:
        """Look for it now, where nobody types."""
        if self.pace.typing:
            return
        self.times += 1
        gc.collect(2 if self.settled and self.times % WHOLLY == 0 else 1)
        if self.pace.loaded and not self.settled:
            self.settled = True
            gc.freeze()

    def end(self) -> None:
        """The window is closed, and nothing works behind it any more: as it was."""
        self.timer.stop()
        self.at_work.discard(id(self))
        if not self.at_work:
            gc.unfreeze()
            gc.enable()
