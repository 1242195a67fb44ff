"""The switch that listens to a wireless tape."""

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.widgets import check, row
from omnipel.bench.session import Session
from omnipel.bench.stations.tape.wireless import WirelessTape
from omnipel.core.words.phrases import Name, tr
from omnipel.exchange.tape_device import socket_path


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

    def _listen(self, on: bool) -> None:
        """Listen, or no more."""
        if not on:
            if self.tape is not None:
                self.tape.stop()
            self.session.say("note", tr("No longer listening to the wireless tape."))
            return
        self.tape = WirelessTape(socket_path(), self.take)
        fault = self.tape.start()
        self.box.setChecked(not fault)
        if fault:
            self.session.say("stop", tr("Not listening: {fault}", fault=Name(fault)))
        else:
            self.session.say("fine", tr("Listening at {path}. Send with: omnipel tape", path=Name(str(self.tape.path))))
