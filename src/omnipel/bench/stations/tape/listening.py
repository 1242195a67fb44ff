"""The switch that listens to a wireless tape."""

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.widgets import check, row
from omnipel.bench.session import Session
from omnipel.bench.stations.tape.wireless import Taken, WirelessTape
from omnipel.core.words.phrases import Name, tr
from omnipel.exchange.devices.tape_device import socket_path

TAKEN = "tape taken"
"""The shop's setting that remembers the numbers of readings."""


class Listening(QWidget):
    """Listens while it is on.

    Args:
        session: the open shop and job.
        take: what is done with a line that came over the air; "" or why it was not taken.
    """

    def __init__(self, session: Session, take: Callable[[str], str]) -> None:
        super().__init__()
        self.session, self.take = session, take
        self.tape: WirelessTape | None = None
        self.box = check(tr("wireless tape"), self._listen, full=tr("listen to a wireless tape"))
        self.setLayout(row(self.box))
        session.ending.connect(self.stop)

    def _take(self, text: str, taken: Taken) -> str:
        """Take a reading in; that it has been taken is on disk when it is."""
        before = self.session.along
        self.session.along = {**before, TAKEN: taken.text}
        refused = self.take(text)
        if refused:
            self.session.along = before
        elif TAKEN in self.session.along and not self.session.unsaved:  # it changed nothing, and so no revision took it along
            self.session.along = before
            self.session.keep_setting(TAKEN, taken.text)
        return refused

    def _listen(self, on: bool) -> None:
        """Listen, or no more."""
        if not on:
            self.stop()
            self.session.say("note", tr("No longer listening to the wireless tape."))
            return
        taken = self.tape.taken if self.tape is not None else Taken(self.session.store.setting(TAKEN, "[]"))
        self.tape = WirelessTape(socket_path(), self._take, taken, lambda words: self.session.say("look", words))
        fault = self.tape.start()
        self.box.setChecked(fault is None)
        if fault is not None:
            self.session.say("stop", tr("Not listening: {fault}", fault=fault))
        else:
            self.session.say("fine", tr("Listening at {path}. Send with: omnipel tape", path=Name(str(self.tape.path))))

    def stop(self) -> None:
        """Hang up."""
        if self.tape is not None:
            self.tape.stop()
