"""The way from another thread into the window's, and when that thread may work."""

import time
from collections.abc import Callable
from typing import Final, TypeVar

from PySide6.QtCore import QObject, Qt, Signal, Slot
from shiboken6 import isValid


class Deliverer(QObject):
    """Runs in the window's thread what another thread hands over."""

    came = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.came.connect(self._run, Qt.ConnectionType.QueuedConnection)

    @Slot(object)
    def _run(self, call: Callable[[], None]) -> None:
        call()


T = TypeVar("T")


def while_there(asker: QObject, taken: Callable[[T], object]) -> Callable[[T], object]:
    """What takes a result as long as its asker is there: a dialog or a page may be gone before what it asked for has been made."""
    return lambda result: taken(result) if isValid(asker) else None


PAUSE_S: Final = 0.25


class Pace:
    """When there is time for what is worked out behind the window: everything is loaded, and nobody types or scrolls."""

    def __init__(self) -> None:
        self.until = 0.0
        self.loaded = False

    def busy(self) -> None:
        """A person types, scrolls, or has changed something."""
        self.until = time.monotonic() + PAUSE_S

    @property
    def typing(self) -> bool:
        """Whether somebody has just done so."""
        return self.until > time.monotonic()

    def wait(self) -> float:
        """How long to wait, s; 0 or less when there is time."""
        return self.until - time.monotonic() if self.loaded else PAUSE_S
