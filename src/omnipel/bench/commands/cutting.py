"""Cutting with a machine: what is cut, what the machine has to be told, and how far it is."""

from __future__ import annotations

import os
import queue
import subprocess
import sys
import threading
from collections.abc import Callable
from dataclasses import replace
from typing import Any, Final

from PySide6.QtCore import QTimer
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QProgressBar, QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.announce import announce
from omnipel.bench.parts.asking import Question, answered, sized
from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, label, line, restyle, row
from omnipel.bench.session import Session
from omnipel.bench.speech import SPEECH, say
from omnipel.core.draft import Drafted
from omnipel.core.words.phrases import Count, Minutes, Name, Phrase, Refusal, Run, Value, tr
from omnipel.exchange.devices.cutter.link import CutBefore, Forgotten, Progress, Sending, Unreachable
from omnipel.exchange.devices.cutter.speaking import socket_path
from omnipel.exchange.devices.queue import handed_over
from omnipel.exchange.files.flat import Flat, flat, parts
from omnipel.exchange.files.hpgl import effort, instructions, width_needed
from omnipel.shop.machine import LANGUAGES, MOST_OFFSET, MOST_OVER, SETTING, machine_of
from omnipel.shop.whole import NotWritten

LOOK_MS: Final = 80
SIMULATED, DEVICE = "simulated", "device"
ABOUT: Final = tr(
    "What a machine cuts, and how. What will be cut is drawn, with how long that takes; it can be paused and stopped, and after a "
    "broken link it goes on without cutting anything twice."
)
MEANT: Final = {
    "language": tr(
        "Which of its two dialects a cutter takes: its manual says so. The plain one is understood by old plotters, too."
    ),
    "offset": tr(
        "How far the point of a drag knife trails behind its middle. Corners are swung around by it; nothing for a wheel or a pen."
    ),
    "over": tr("A closed line is cut so much further than its beginning, so that the piece comes away from the cloth."),
    "marks": tr("Without them only what is cut goes to the machine, and marks are made by hand from the marking-out sheet."),
    "where": tr(
        "To the cutter that is simulated in a window of its own, or to a real one at a plug of this computer or behind a print queue."
    ),
    "device": tr(
        "Where the machine is plugged in, as the system calls it; or the word queue, a colon, and the name of a print queue."
    ),
}
"""What its parts are for."""


class CuttingDialog(Dialog):
    """What is cut and how; stays open while the machine works, and one can work on beside it."""

    def __init__(self, parent: QWidget, session: Session, drafted: Drafted) -> None:
        super().__init__(parent, tr("Cut with a machine"), ABOUT)
        self.session, self.drafted = session, drafted
        self.machine = machine_of(session.store.setting(SETTING, ""))
        self.sending: Sending | None = None
        self.news: queue.SimpleQueue[Any] = queue.SimpleQueue()
        picks: list[tuple[Value, object]] = [(words, key) for key, words in parts(drafted)]
        self.what = combo(tr("What is cut"), [(Name(session.tell(words)), key) for words, key in picks], lambda _k: self._shown())
        self.what.show_value(next((key for _, key in picks if str(key).startswith("lay")), ""))
        self.view = PictureView(tr("What is cut"))
        self.view.margin = 10.0
        self.language = combo(
            tr("What it understands"), [(Name(name), name) for name in LANGUAGES], lambda v: self._told(language=v)
        )
        self.offset = length_field(session, tr("Knife offset"), lambda v: self._told(knife_offset=v), high=MOST_OFFSET, fine=True)
        self.over = length_field(session, tr("Over-cut"), lambda v: self._told(over_cut=v), high=MOST_OVER, fine=True)
        self.marks = check(tr("draw sew lines, marks and words with the pen"), lambda on: self._told(marks=on))
        places: list[tuple[Value, object]] = [(tr("the simulated cutter"), SIMULATED), (tr("a device or print queue"), DEVICE)]
        self.where = combo(tr("Where to"), places, self._sent_to)
        self.device = line(tr("Device or print queue"), tr("/dev/ttyUSB0, or queue:name"))
        self.device.editingFinished.connect(lambda: self._told(where=self.device.text().strip()))
        for name, words in MEANT.items():
            meaning(getattr(self, name), words)
        self.begin_simulated = button(tr("Start the simulated cutter"), start_simulated, "small")
        self.effort, self.state = label(wrap=True, name="soft"), label(wrap=True)
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName(say(tr("How far it is")))
        self.cut = button(tr("Cut"), self._cut, "main")
        self.pause = button(tr("Pause"), self._pause)
        self.stop = button(tr("Stop"), self._stop)
        self.leave = button(tr("Close"), self.close)
        buttons = row(self.pause, self.stop, self.leave, self.cut)
        buttons.insertStretch(0, 1)
        settings = column(
            label(tr("what is cut"), "soft"), self.what, self.effort,
            label(tr("what it understands"), "soft"), self.language,
            label(tr("its blade cuts behind its axis by"), "soft"), self.offset,
            label(tr("a closed line is followed on by"), "soft"), self.over, self.marks,
            label(tr("where to"), "soft"), self.where, self.device, self.begin_simulated, spacing=5,
        )  # fmt: skip
        settings.addStretch(1)
        body = row(settings, self.view, spacing=16)
        body.setStretch(1, 1)
        whole = column(label(tr("Cut with a machine"), "title"), body, self.state, self.bar, buttons, margins=16, spacing=12)
        whole.setStretch(1, 1)
        self.setLayout(whole)
        sized(self, 860, 620)
        self.timer = QTimer(self)
        self.timer.timeout.connect(self._hear)
        self._settings()
        self._shown()

    # -- what is asked

    def _settings(self) -> None:
        """Show what the machine is told."""
        machine = self.machine
        self.language.show_value(machine.language)
        self.offset.show_length(machine.knife_offset)
        self.over.show_length(machine.over_cut)
        self.marks.setChecked(machine.marks)
        self.where.show_value(DEVICE if machine.where else SIMULATED)
        self.device.setText(machine.where)
        self.device.setVisible(bool(machine.where))
        self.begin_simulated.setVisible(not machine.where)

    def _told(self, **told: Any) -> None:
        """Something about the machine is told; it holds for the shop."""
        self.machine = replace(self.machine, **told)
        self.session.keep_setting(SETTING, self.machine.text)
        self._settings()
        self._shown()

    def _sent_to(self, where: str) -> None:
        self._told(where="" if where == SIMULATED else self.machine.where or DEVICES[0])

    def _flat(self) -> Flat:
        return flat(self.drafted, self.session.voice, str(self.what.value))

    def _shown(self) -> None:
        """Show what is chosen, and how long it takes."""
        whole = self._flat()
        self.view.fitted = True
        self.view.set_drawing(whole.drawing)
        cut, drawn, minutes = effort(whole, self.machine)
        words = tr("{cut} to cut, {drawn} to draw: about {minutes}", cut=Run(cut), drawn=Run(drawn), minutes=Minutes(minutes))
        self.effort.setText(
            self.session.tell(words if drawn else tr("{cut} to cut: about {minutes}", cut=Run(cut), minutes=Minutes(minutes)))
        )
        self._buttons()

    def _buttons(self) -> None:
        """Which of them can be pressed."""
        busy, stops = self.sending is not None, self.drafted.stops
        for widget in (self.what, self.language, self.offset, self.over, self.marks, self.where, self.device):
            widget.setEnabled(not busy)
        self.cut.setEnabled(not busy and not stops)
        self.pause.setVisible(busy)
        self.stop.setVisible(busy)
        self.bar.setVisible(busy or self.bar.value() > 0)
        if stops and not busy:
            restyle(self.state, "stop")
            self.state.setText(say(tr("A finding says: do not cut.")))

    # -- cutting

    def _cut(self, run: int = 1, *, anew: bool = False) -> None:
        """Send it, or write it to the device."""
        whole = self._flat()
        told = instructions(whole, self.machine)
        if self.machine.where:
            try:
                handed_over("".join(told).encode("ascii"), self.machine.where)
            except (Refusal, NotWritten) as error:
                self._say("stop", error.phrase)
                return
            self._say("fine", tr("Handed over to {where}. The machine does the rest.", where=Name(self.machine.where)))
            return
        self.run = run
        self.sending = Sending(told, self.path, self.news.put, run, anew, tries=TRIES, wide=width_needed(whole))
        self.bar.setRange(0, len(told))
        self.bar.setValue(0)
        self._say("open", tr("Looking for the cutter …"))
        threading.Thread(target=self._work, args=(self.sending,), daemon=True).start()
        self.timer.start(LOOK_MS)
        self._buttons()

    path = property(lambda _self: socket_path())

    def _work(self, sending: Sending) -> None:
        """What the thread does: send, and tell how it ended."""
        try:
            sending.send()
            self.news.put((sending, None))
        except Refusal as error:
            self.news.put((sending, error))

    def _hear(self) -> None:
        """Show what the thread has told."""
        while not self.news.empty():
            told = self.news.get()
            if isinstance(told, Progress):
                self.bar.setValue(told.done)
                words = tr("{state} {n} of {all} steps.", state=told.words, n=Count(told.done), all=Count(told.blocks))
                waits = told.state.split()[0] in ("cloth", "edge", "tool") or not told.linked
                self._say("look" if waits else "fine" if told.state == "finished" else "open", words)
                self.pause.setText(say(tr("Go on") if told.state == "paused" else tr("Pause")))
            elif told[0] is self.sending:
                self._over(told[1])

    def _over(self, error: Refusal | None) -> None:
        """It came to an end, well or not."""
        left = self.sending is not None and self.sending.left.is_set()
        self.sending = None
        self.timer.stop()
        self._buttons()
        if isinstance(error, CutBefore):
            question = Question(tr("This was cut already. Is it to be cut once more?"), tr("Cut it once more"), tr("Leave it"))
            if answered(self, question) == 0:
                self._cut(self.run + 1)
                return
        elif isinstance(error, Forgotten):
            forgotten = tr(
                "The cutter was switched off and no longer knows what it had cut. Look at the cloth: is it to begin anew?"
            )
            if answered(self, Question(forgotten, tr("Begin anew"), tr("Leave it"))) == 0:
                self._cut(self.run, anew=True)
                return
        if isinstance(error, Unreachable):
            self._say("stop", tr("No cutter answers. Start it, then press Cut."))
        elif error is not None:
            self._say("look", tr("{fault}", fault=error.phrase))
        elif not left:
            self._say("fine", tr("Done: everything is cut."))

    def _say(self, style: str, words: Phrase) -> None:
        text = self.session.sentence(words)
        if text != self.state.text():
            restyle(self.state, style)
            self.state.setText(text)
            announce(self.state, text)

    def _pause(self) -> None:
        if self.sending is not None:
            self.sending.pause(self.sending.state != "paused")

    def _stop(self) -> None:
        """Stop at once; the cutter forgets the job, what lies on it is lost."""
        question = Question(tr("Stop at once? What is half cut stays so."), tr("Stop"), tr("Go on cutting"))
        if self.sending is not None and answered(self, question) == 0 and self.sending is not None:
            self.sending.drop()

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.sending is not None:
            question = Question(
                tr("The cutter goes on with what it has, and then waits. Press Cut again later, and it goes on from there."),
                tr("Close all the same"),
                tr("Stay"),
            )
            if answered(self, question) != 0:
                event.ignore()
                return
            if self.sending is not None:
                self.sending.leave()
        super().closeEvent(event)


TRIES: Final = 20
DEVICES: Final = ("/dev/usb/lp0",)
"""Where a cutter on a cable usually is."""


def start_simulated() -> None:
    """Start the simulated cutter as a program of its own."""
    speaks = {**os.environ, "LANGUAGE": SPEECH.voice().language}
    subprocess.Popen([sys.executable, "-m", "omnipel.cutter"], start_new_session=True, env=speaks)


def cut_with_machine(desk: Desk, opened: Callable[[CuttingDialog], object] = lambda _dialog: None) -> None:
    """Ask what is cut and how; the dialog stays while the machine works."""
    session = desk.session
    session.try_all()
    if not isinstance(session.draft, Drafted) or not session.draft.panels:
        session.say("look", tr("There are no panels to cut yet."))
        return
    dialog = CuttingDialog(desk.widget, session, session.draft)
    dialog.finished.connect(dialog.deleteLater)
    dialog.show()
    opened(dialog)
