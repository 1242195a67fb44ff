"""A word to who is elsewhere: a long search for a lay has ended while another window is in front."""

from __future__ import annotations

import shutil
from typing import Final

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QApplication

from omnipel.bench.window.window import Window
from omnipel.core.words.phrases import Name, Phrase, Run, term, tr

LONG_S: Final = 15.0
"""A shorter search is waited for; s."""


def watch(window: Window) -> None:
    """Tell it from now on."""
    window.session.cloth.ended.connect(lambda took: _ended(window, took))


def _ended(window: Window, took: float) -> None:
    session, lay = window.session, window.session.cloth.searched
    if took < LONG_S or window.isActiveWindow() or session.job is None or lay is None:
        return
    best = session.cloth.best() or lay
    tell(
        window,
        tr("{job}: the lay is ready", job=Name(session.job.name)),
        tr("{layer} laid on {length}", layer=term(lay.layer.value), length=Run(best.used.value)),
    )


def tell(window: Window, title: Phrase, words: Phrase) -> None:
    """Have the window asked for, and say it by the desktop's own notifications where they can be had."""
    QApplication.alert(window)
    program = shutil.which("notify-send")
    if program is not None:
        said = (window.session.sentence(title), window.session.sentence(words))
        QProcess.startDetached(program, ["--app-name=Omnipel", "--icon=org.omnipel.Omnipel", "--", *said])
