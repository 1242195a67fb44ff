"""The window and the threads behind it: what refers to itself is destroyed where the window lives, and nowhere else."""

import gc
import threading
import weakref

from PySide6.QtCore import QObject
from pytestqt.qtbot import QtBot

from omnipel.bench.window.window import Window


class Loop(QObject):
    """What only a search for what refers to itself finds."""

    def __init__(self) -> None:
        super().__init__()
        self.itself = self


def many_objects(count: int) -> int:
    """Enough new ones that Python would look for such objects, were it not told otherwise."""
    return len([[[i]] for i in range(count)])


def test_what_refers_to_itself_is_destroyed_in_the_windows_thread_only(sample_window: Window, qtbot: QtBot) -> None:
    where: list[threading.Thread] = []
    for _ in range(20):
        weakref.finalize(Loop(), lambda: where.append(threading.current_thread()))
    came: list[int] = []
    sample_window.session.pace.loaded = True
    sample_window.session.painting.ask("many", many_objects, 200_000, came.append, came.append)
    qtbot.waitUntil(lambda: came == [200_000], timeout=20_000)
    assert where == []
    sample_window.session.pace.until = 0.0
    sample_window.sweeper.sweep()
    assert where == [threading.main_thread()] * 20
    assert not gc.isenabled()
    sample_window.close()
    assert gc.isenabled()
    assert gc.get_freeze_count() == 0
