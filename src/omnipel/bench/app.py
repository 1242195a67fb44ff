"""Starts the bench on a shop."""

from __future__ import annotations

import os
import signal
import sys
import tempfile
import traceback
from collections.abc import Iterator, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from types import FrameType, TracebackType

from PySide6.QtCore import QSocketNotifier, QTimer
from PySide6.QtWidgets import QApplication

from omnipel.bench.commands.registry import later
from omnipel.bench.commands.tongue import take_tongue
from omnipel.bench.door import Door, handed_over
from omnipel.bench.notices import watch
from omnipel.bench.parts.asking import Question, QuestionDialog
from omnipel.bench.parts.look import load_type
from omnipel.bench.parts.ruler import icon
from omnipel.bench.reports import written
from omnipel.bench.session import Session
from omnipel.bench.sharing import share
from omnipel.bench.speech import SPEECH
from omnipel.bench.window.place import ANEW, SETTING, take_place
from omnipel.bench.window.window import Window
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.desktop.placing import ID
from omnipel.shop.demo import unpack
from omnipel.shop.opening import StoreError
from omnipel.shop.reasons import reason_of
from omnipel.shop.store import Store


def run(*, demo: bool = False, shop: Path | None = None, files: Sequence[Path] = (), new: bool = False) -> int:
    """Open the window and work until it is closed; the exit code. Where a window of this shop is open already it takes what is to be opened."""
    with _broken_off():
        app = QApplication.instance() or QApplication(sys.argv[:1])
        app.setApplicationName("Omnipel")
        app.setDesktopFileName(ID)  # type: ignore[attr-defined]
        where = shop or own_shop()
        if not demo and handed_over(where, files, new=new):
            return 0
        take_tongue()
        load_type()
        app.setWindowIcon(icon())  # type: ignore[attr-defined]
        try:
            if not demo:
                return _work(where, files, new=new)
            with tempfile.TemporaryDirectory(prefix="omnipel-demo-") as folder:
                shop = Path(folder) / "quillet-hill.sqlite"
                unpack(shop).close()
                return _work(shop, files, new=new, door=False)
        except StoreError as error:
            return _failed(error.phrase)
        except OSError as error:
            return _failed(reason_of(error))


def _failed(why: Phrase) -> int:
    """The start failed: say so in a window, too, since who starts from a launcher sees no terminal."""
    voice = SPEECH.voice()
    words = voice.say(tr("Omnipel cannot be opened. {why}", why=why))
    print(f"omnipel: {words}", file=sys.stderr)
    if os.environ.get("QT_QPA_PLATFORM") not in ("offscreen", "minimal"):
        dialog = QuestionDialog(None, Question(tr("Omnipel cannot be opened."), tr("Close"), more=voice.sentence(why)))
        dialog.exec()
    return 2


def _work(where: Path, files: Sequence[Path] = (), *, new: bool = False, door: bool = True) -> int:
    """Work on a shop; the exit code. A window that is to speak another language is opened anew, where the last one was."""
    at: tuple[int | None, str] = (None, "")
    while True:
        window = _opened(Store(where), at)
        listens = door and window.session.store.writable
        there = Door(where, lambda wanted, n, w=window: _came(w, wanted, new=n)) if listens else None  # type: ignore[misc]
        if there is not None:
            there.open()
        QTimer.singleShot(0, window, lambda w=window, f=list(files), n=new: _bring(w, f, new=n))
        with _signals(window):
            try:
                code = QApplication.exec()
            finally:
                if there is not None:
                    there.close()
        if code != ANEW:
            return code
        at, files, new = window.back_to, (), False
        window.deleteLater()


def _opened(store: Store, at: tuple[int | None, str]) -> Window:
    take_tongue(store)
    share()
    window = Window(Session(store))
    sys.excepthook = lambda kind, error, trace: _last_resort(window, kind, error, trace)
    watch(window)
    take_place(window, store.setting(SETTING, ""))
    window.show()
    if os.environ.get("OMNIPEL_QUIT_AFTER") == "shelf":  # the start-up benchmark
        window.repaint()
        sys.stdout.flush()
        os._exit(0)
    if at[0] is not None:
        window.session.open(at[0])
        window.show_station(at[1])
    return window


def _bring(window: Window, files: list[Path], *, new: bool) -> None:
    """Open what is asked for."""
    if files:
        later("jobs:bring_in")(window, files)
    if new:
        window.run_command("new")


def _came(window: Window, files: list[Path], *, new: bool) -> None:
    """Somebody was started later: come to the front, and open what they were given."""
    if window.isMinimized():
        window.showNormal()
    window.raise_()
    window.activateWindow()
    _bring(window, files, new=new)


@contextmanager
def _broken_off() -> Iterator[None]:
    """Until the window is there, a signal ends the program in an orderly way: what was made for the occasion is removed."""

    def leave(number: int, _frame: FrameType | None) -> None:
        raise SystemExit(128 + number)

    before = {number: signal.signal(number, leave) for number in (signal.SIGINT, signal.SIGTERM)}
    try:
        yield
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)


@contextmanager
def _signals(window: Window) -> Iterator[None]:
    """Ctrl+C in the terminal and being told to end close the window; Qt's loop is woken to hear of it."""
    hear, tell = os.pipe()
    for end in (hear, tell):
        os.set_blocking(end, False)

    def leave(number: int, _frame: FrameType | None) -> None:
        QTimer.singleShot(0, window, lambda: window.leave(128 + number))

    before = {number: signal.signal(number, leave) for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)}
    woken = signal.set_wakeup_fd(tell, warn_on_full_buffer=False)
    notifier = QSocketNotifier(hear, QSocketNotifier.Type.Read)
    notifier.activated.connect(lambda: os.read(hear, 64))
    try:
        yield
    finally:
        notifier.setEnabled(False)
        signal.set_wakeup_fd(woken)
        for number, handler in before.items():
            signal.signal(number, handler)
        os.close(hear)
        os.close(tell)


def own_shop() -> Path:
    """The user's shop, in the data folder."""
    import platformdirs

    return Path(platformdirs.user_data_dir("omnipel")) / "shop.sqlite"


def _last_resort(window: Window, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Our own bug: what is not on disk yet is tried again first, then it is said what happened and where the report lies; then it goes on."""
    if issubclass(kind, KeyboardInterrupt):
        window.leave(130)
        return
    traceback.print_exception(kind, error, trace)
    with suppress(Exception):  # whatever is broken: the report comes all the same
        window.session.save_waiting()
    report = written(kind, error, trace)
    fault = Name(f"{kind.__name__}: {error}")
    said = tr("Something went wrong inside Omnipel ({fault}). Your work is kept; the last step may not be shown.", fault=fault)
    if report is not None:
        said = tr("{said} A report without anything of your job lies at {path}.", said=said, path=Name(str(report)))
    window.session.say("stop", said)
