"""`make bench`: speed against goals and against a reference in the same run. Machines are shared: read ratios, not seconds."""

import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

BARE = """
import os, time
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([])
w = QMainWindow(); w.resize(1280, 800); w.show(); w.repaint(); print("painted")
"""
DEMO = "import sys; from omnipel.cli import main; sys.exit(main(['--demo']))"
MEMORY = """
import os, resource, sys, tempfile
from pathlib import Path
from PySide6.QtWidgets import QApplication
from omnipel.bench.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.window import Window
from omnipel.shop.sample import fill
app = QApplication([]); load_type()
window = Window(Session(fill(Path(tempfile.mkdtemp()) / "q.sqlite")))
window.resize(1280, 800); window.show()
for card in window.session.store.cards():
    window.session.open(card.id)
    for station in ("object", "tape", "cover", "panels"):
        window.show_station(station); app.processEvents(); window.repaint()
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)
os._exit(0)
"""


def median_ms(run: Callable[[], object], rounds: int = 60, warm: int = 5) -> float:
    """Median of many runs, ms."""
    for _ in range(warm):
        run()
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        run()
        times.append((time.perf_counter() - start) * 1000.0)
    return statistics.median(times)


def told(what: str, value: str, goal: str, ok: bool) -> None:
    """One line of the result."""
    print(f"{'ok  ' if ok else 'SLOW'}  {what:<58} {value:>14}   goal {goal}")


def child(code: str, until: str = "", runs: int = 5) -> float:
    """Least time of a child process, s."""
    environment = os.environ | {"OMNIPEL_QUIT_AFTER": until}
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, env=environment, timeout=60)
        times.append(time.perf_counter() - start)
    return min(times)


def core() -> None:
    """Drafting."""
    from omnipel.core.draft import draft
    from omnipel.shop.starter import starter

    job = starter("drum", "wall-and-lid")
    ms = median_ms(lambda: draft(job))
    told("draft of the drum", f"{ms:.2f} ms", "under 3 ms", ms < 3.0)


def window() -> None:
    """What the person waits for."""
    from PySide6.QtWidgets import QApplication

    from omnipel.bench.look import load_type
    from omnipel.bench.session import Session
    from omnipel.bench.window import Window
    from omnipel.shop.sample import fill

    app = QApplication.instance() or QApplication([])
    load_type()
    with tempfile.TemporaryDirectory() as folder:
        made = Window(Session(fill(Path(folder) / "q.sqlite")))
        made.resize(1280, 800)
        made.show()
        made.session.open(made.session.store.cards()[0].id)
        girth = 1700.0
        for station in ("tape", "cover", "panels"):
            made.show_station(station)
            app.processEvents()

            def change() -> None:
                nonlocal girth
                girth += 1.0
                made.session.set("readings.girth.repeats", (girth,), "girth")
                app.processEvents()

            ms = median_ms(change, 40)
            told(f"reading changed, committed, {station} station repainted", f"{ms:.1f} ms", "under 25 ms", ms < 25.0)
        made.close()


def start() -> None:
    """Start to first painted window against a bare one, and memory."""
    bare, first, shelf = child(BARE), child(DEMO, "first paint"), child(DEMO, "shelf")
    what = f"start to first painted window, against a bare one ({bare:.2f} s)"
    told(what, f"{first / bare:.2f} times", "under 2.5", first / bare < 2.5)
    print(f"      start to the painted shelf {shelf:.2f} s, {shelf / bare:.2f} times the bare window")
    peak = float(subprocess.run([sys.executable, "-c", MEMORY], check=True, capture_output=True, text=True).stdout)
    told("peak memory of the demo, all jobs and stations seen", f"{peak:.0f} MB", "under 220 MB", peak < 220.0)


if __name__ == "__main__":
    core()
    window()
    start()
    print(f"this process: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")
    os._exit(0)
