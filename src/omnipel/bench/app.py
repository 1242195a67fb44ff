"""Starts the bench on a shop."""

import os
import sys
import tempfile
import traceback
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLabel, QMainWindow

from omnipel.bench.parts.look import LIGHT, load_type
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Name, tr

if TYPE_CHECKING:
    from omnipel.bench.window.window import Window
    from omnipel.shop.store import Store


def run(*, demo: bool = False, shop: Path | None = None) -> int:
    """Open the window and work until it is closed; the exit code."""
    app = QApplication.instance() or QApplication(sys.argv[:1])
    app.setApplicationName("Omnipel")
    load_type()
    front = opening()
    if os.environ.get("OMNIPEL_QUIT_AFTER") == "first paint":  # the start-up benchmark
        return 0
    # Only now what takes time to load: numbers, geometry, documents, stations.
    from omnipel.shop.store import Store

    if demo:
        with tempfile.TemporaryDirectory(prefix="omnipel-demo-") as folder:
            from omnipel.shop.sample import fill

            return _work(fill(Path(folder) / "quillet-hill.sqlite"), front)
    return _work(Store(shop or own_shop()), front)


def opening() -> QMainWindow:
    """The empty window, painted at once: it stands while the shop is being opened."""
    front = QMainWindow()
    front.setWindowTitle("Omnipel")
    front.resize(1280, 800)
    words = QLabel(say(tr("Opening the shop …")))
    words.setAlignment(Qt.AlignmentFlag.AlignCenter)
    words.setStyleSheet(f"background: {LIGHT.ground}; color: {LIGHT.soft}; font-size: 20px;")
    front.setCentralWidget(words)
    front.show()
    front.repaint()
    return front


def _work(store: "Store", front: QMainWindow) -> int:
    from omnipel.bench.session import Session
    from omnipel.bench.window.window import Window

    window = Window(Session(store))
    sys.excepthook = lambda kind, error, trace: _last_resort(window, kind, error, trace)
    window.setGeometry(front.geometry())
    window.show()
    front.close()
    if os.environ.get("OMNIPEL_QUIT_AFTER") == "shelf":
        window.repaint()
        window.close()
        return 0
    return QApplication.exec()


def own_shop() -> Path:
    """The user's shop, in the data folder."""
    import platformdirs

    return Path(platformdirs.user_data_dir("omnipel")) / "shop.sqlite"


def _last_resort(window: "Window", kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Our own bug: every edit is committed already; say so, keep the traceback, go on."""
    traceback.print_exception(kind, error, trace)
    if issubclass(kind, KeyboardInterrupt):
        QApplication.quit()
        return
    window.session.say(
        "stop",
        tr(
            "Something went wrong inside Omnipel ({fault}). Your work is kept; the last step may not be shown.",
            fault=Name(f"{kind.__name__}: {error}"),
        ),
    )
