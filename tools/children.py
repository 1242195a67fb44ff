"""What the child processes of `make bench` run: a bare window, the program, its demo, all jobs at all stations, a shelf of thousands."""

BARE = """
import os, time
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([])
w = QMainWindow(); w.resize(1280, 800); w.show(); w.repaint()
os._exit(0)
"""
OWN = "import sys; from omnipel.cli import main; sys.exit(main(['--shop', sys.argv[1]]))"
DEMO = "import sys; from omnipel.cli import main; sys.exit(main(['--demo']))"
PEAK = """
def peak_mb():
    for line in open("/proc/self/status"):
        if line.startswith("VmHWM"):
            return int(line.split()[1]) / 1024
"""
MEMORY = f"""{PEAK}
import os, sys, tempfile
from pathlib import Path
from typing import Any
from PySide6.QtWidgets import QApplication
from omnipel.bench.parts.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.sharing import share
from omnipel.bench.window.window import Window
from omnipel.shop.sample import fill
share()
app = QApplication([]); load_type()
window = Window(Session(fill(Path(tempfile.mkdtemp()) / "q.sqlite")))
window.resize(1280, 800); window.show()
for card in window.session.store.cards():
    window.session.open(card.id)
    for station in ("object", "tape", "cover", "panels", "cloth"):
        window.show_station(station); app.processEvents(); window.repaint()
print(peak_mb(), flush=True)
os._exit(0)
"""
BIG = f"""{PEAK}
import os, sys, time
from pathlib import Path
from typing import Any
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from omnipel.bench.parts.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.sharing import share
from omnipel.bench.window.window import Window
from omnipel.shop.store import Store
share()
app = QApplication([]); load_type()
def opened(path):
    start = time.perf_counter()
    window = Window(Session(Store(Path(path)))); window.resize(1280, 800); window.show(); app.processEvents(); window.repaint()
    return window, (time.perf_counter() - start) * 1000
def rest(seconds):
    worst, until = 0.0, time.perf_counter() + seconds
    while time.perf_counter() < until:
        start = time.perf_counter(); app.processEvents(); worst = max(worst, time.perf_counter() - start); time.sleep(0.002)
    return worst * 1000
opened(sys.argv[1])[0].close()
first, few = opened(sys.argv[1]); first.close()
window, many = opened(sys.argv[2])
rest(3.0)
window.shelf.search.setFocus()
keys = []
for letter in "rain butt 12":
    start = time.perf_counter(); QTest.keyClick(window.shelf.search, letter); app.processEvents()
    keys.append((time.perf_counter() - start) * 1000); rest(0.1)
window.shelf.search.clear(); rest(0.5)
for _ in range(20):
    QTest.keyClick(window.shelf.view, Qt.Key.Key_PageDown); rest(0.03)
stall = rest(4.0)
print(few, many, sorted(keys)[len(keys) // 2], max(keys), stall, peak_mb(), flush=True)
os._exit(0)
"""
AWAKE = """
import os, sys, time
from pathlib import Path
from PySide6.QtCore import QEventLoop, Qt, QTimer
from PySide6.QtWidgets import QApplication
from omnipel.bench.parts.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.sharing import share
from omnipel.bench.window.window import Window
from omnipel.shop.store import Store
share()
app = QApplication([]); load_type()
window = Window(Session(Store(Path(sys.argv[1])))); window.resize(1280, 800); window.show()
def live(seconds):
    loop = QEventLoop(); QTimer.singleShot(int(seconds * 1000), loop.quit); loop.exec()
live(4.0)
still, busy, last = [], [], [0.0, 0.0]
def tick():
    now, spent = time.perf_counter(), time.thread_time()
    still.append((now - last[0]) * 1000.0 - 5.0); busy.append((spent - last[1]) * 1000.0); last[:] = now, spent
timer = QTimer(interval=5); timer.setTimerType(Qt.TimerType.PreciseTimer); timer.timeout.connect(tick)
cloth = window.session.cloth
for name in ("Honey extractor", "Butter churn", "Fermenting crock"):
    window.session.open(next(card.id for card in window.session.store.cards() if card.name == name))
    window.show_station("cloth")
    while cloth.current is None:
        live(0.05)
    live(1.0)
    last[:] = time.perf_counter(), time.thread_time()
    timer.start(); window.stations["cloth"].search.click(); live(4.0)
    window.stations["cloth"].search.click(); live(1.0); timer.stop()
print(max(busy), max(still), sum(one > 50.0 for one in still), len(still), flush=True)
cloth.rest()
os._exit(0)
"""
