"""A soak of the window: random keys, clicks, stations and jobs; no exception, and nothing grows."""

import gc
import random
import sys
import tempfile
import traceback
from collections import Counter
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from omnipel.bench.parts.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.window.window import Window
from omnipel.shop.demo import unpack
from omnipel.shop.sample import SAMPLES
from omnipel.shop.store import Card

KEYS = (
    *(Qt.Key.Key_Tab, Qt.Key.Key_Backtab, Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Space),
    *(Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_PageDown, Qt.Key.Key_Home, Qt.Key.Key_Backspace, Qt.Key.Key_Delete),
)
STATIONS = ("object", "tape", "cover", "panels", "cloth", "sew", "fit", "shelf")
LETTERS = "0123456789./,*+-' abcmin()"


def memory_mb() -> float:
    """What this process holds now."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * 4096 / 1e6


class Soak:
    """A person without a plan."""

    def __init__(self, seed: int, folder: Path, each: int) -> None:
        self.dice, self.each = random.Random(seed), each
        self.window = Window(Session(unpack(folder / "shop.sqlite")))
        self.window.resize(1280, 800)
        self.window.show()
        self.did: Counter[str] = Counter()
        self.closer = QTimer(interval=15)
        self.closer.timeout.connect(self._close_what_is_open)
        self.closer.start()
        self.commands = [c for c in self.window.commands if c.id not in ("quit",)]

    def _close_what_is_open(self) -> None:
        for shown in (QApplication.activePopupWidget(), QApplication.activeModalWidget()):
            if shown is not None:
                shown.close()

    def act(self) -> None:
        """One thing."""
        window, dice = self.window, self.dice
        way = dice.choices(("key", "letters", "click", "station", "job", "command", "undo", "size"), (8, 6, 8, 3, 1, 2, 2, 1))[0]
        self.did[way] += 1
        focused: QWidget = QApplication.focusWidget() or window
        if focused.window() is not window:  # without a screen nobody takes the focus back from a dialog that was closed
            focused = window
        if way == "key":
            QTest.keyClick(focused, dice.choice(KEYS))
        elif way == "letters":
            QTest.keyClicks(focused, "".join(dice.choice(LETTERS) for _ in range(dice.randrange(1, 6))))
        elif way == "click":
            at = QPoint(dice.randrange(window.width()), dice.randrange(window.height() - 60))
            under = window.childAt(at) or window
            QTest.mouseClick(under, Qt.MouseButton.LeftButton, pos=under.mapFrom(window, at))
        elif way == "station":
            window.show_station(dice.choice(STATIONS))
        elif way == "job":
            cards = self._seen()
            if cards and window.session.open(dice.choice(cards).id):
                window.show_station("object")
        elif way == "command":
            window.run_command(dice.choice(self.commands).id)
        elif way == "undo":
            dice.choice((window.session.undo, window.session.redo))()
        else:
            window.resize(dice.choice((900, 1024, 1280, 1600)), dice.choice((600, 720, 800, 1000)))
        QApplication.processEvents()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)  # the loop that the program runs in does so by itself

    def _look(self) -> None:
        """At every station."""
        for station in STATIONS:
            self.window.show_station(station)
            QApplication.processEvents()

    def _seen(self) -> list[Card]:
        """The jobs that are opened."""
        return self.window.session.store.cards(archived=True)[:: self.each]

    def warm(self) -> tuple[int, float]:
        """What is held once every job has been seen: pages and rows that are made when they are first wanted stay, and are no leak."""
        for card in self._seen():
            self.window.session.open(card.id)
            self._look()
            _every_page = self.window.stations["cover"].decides()
        return self.held()

    def held(self) -> tuple[int, float]:
        """Qt's objects below the window and our memory, once all is at rest."""
        window = self.window
        for card in window.session.store.cards()[len(SAMPLES) :]:
            window.session.store.delete(card.id)
        first = min(card.id for card in window.session.store.cards(archived=True))
        while window.session.open(first) and window.session.store.undo(first) is not None:
            pass  # to where it was when the window was opened
        window.session.open(first)
        window.resize(1280, 800)
        self._look()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        gc.collect()
        return len(window.findChildren(QObject)), memory_mb()


def soak(count: int, seed: int, each: int = 1) -> tuple[Counter[str], list[str]]:
    """So many events, with every job or one of each so many: what was done, and what went wrong or grew."""
    _app = QApplication.instance() or QApplication([])
    load_type()
    faults: list[str] = []
    hook = sys.excepthook

    def noted(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        faults.append("".join(traceback.format_exception(kind, error, trace))[-900:])

    sys.excepthook = noted
    with tempfile.TemporaryDirectory() as folder:
        here = Soak(seed, Path(folder), each)
        warm = here.warm()
        for _ in range(count):
            try:
                here.act()
            except Exception as error:
                noted(type(error), error, error.__traceback__)
        objects, memory = here.held()
        if objects > 1.25 * warm[0]:  # rows stay for the largest job there was; a leak has no end
            faults.append(f"{warm[0]} objects before, {objects} after {count} events")
        if memory > warm[1] + 30.0:
            faults.append(f"{warm[1]:.0f} MB before, {memory:.0f} after {count} events")
        print(f"objects {warm[0]} → {objects}, memory {warm[1]:.0f} → {memory:.0f} MB")
        here.closer.stop()
        here.window.session.unsaved = []
        here.window.close()
        here.window.deleteLater()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    sys.excepthook = hook
    return here.did, faults
