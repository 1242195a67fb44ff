"""Starts the bench on a shop."""

import os
import sys
import tempfile
import traceback
from pathlib import Path
from types import TracebackType

from PySide6.QtWidgets import QApplication

from omnipel.bench.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.window import Window
from omnipel.shop.store import Store


def run(*, demo: bool = False, shop: Path | None = None) -> int:
    """Open the window and work until it is closed; the exit code."""
    app = QApplication.instance() or QApplication(sys.argv[:1])
    app.setApplicationName("Omnipel")
    load_type()
    if demo:
        with tempfile.TemporaryDirectory(prefix="omnipel-demo-") as folder:
            from omnipel.shop.sample import fill

            return _work(fill(Path(folder) / "quillet-hill.sqlite"))
    return _work(Store(shop or own_shop()))


def _work(store: Store) -> int:
    window = Window(Session(store))
    sys.excepthook = lambda kind, error, trace: _last_resort(window, kind, error, trace)
    window.resize(1280, 800)
    window.show()
    if shot := os.environ.get("OMNIPEL_QUIT_AFTER_PAINT"):  # the start-up benchmark
        window.repaint()
        print(shot)
        window.close()
        return 0
    return QApplication.exec()


def own_shop() -> Path:
    """The user's shop, in the data folder."""
    import platformdirs

    return Path(platformdirs.user_data_dir("omnipel")) / "shop.sqlite"


def _last_resort(window: Window, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Our own bug: every edit is committed already; say so, keep the traceback, go on."""
    traceback.print_exception(kind, error, trace)
    if issubclass(kind, KeyboardInterrupt):
        QApplication.quit()
        return
    window.session.say(
        "stop",
        f"Something went wrong inside Omnipel ({kind.__name__}: {error}). Your work is kept; the last step may not be shown.",
    )
