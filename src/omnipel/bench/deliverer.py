"""The way from another thread into the window's."""

from collections.abc import Callable

from PySide6.QtCore import QObject, Qt, Signal, Slot


class Deliverer(QObject):
    """Runs in the window's thread what another thread hands over."""

    came = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.came.connect(self._run, Qt.ConnectionType.QueuedConnection)

    @Slot(object)
    def _run(self, call: Callable[[], None]) -> None:
        call()
