"""What a choice costs, said where it is chosen: cloth, goods, seams and minutes more or less than as it stands."""

from collections.abc import Callable

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFrame

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.widgets import column, label
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.core.draft import Draft, Drafted
from omnipel.core.job.document import Job
from omnipel.core.words.phrases import NOTHING, Phrase
from omnipel.work.requests import Choice, Compared, compared

PAUSE_MS = 150


class CostLine(QFrame):
    """One line: what the choice that is looked at would cost; drafted behind the window, once for each."""

    def __init__(self, session: Session, tried: Callable[[object], Job | None]) -> None:
        super().__init__()
        self.session, self.tried = session, tried
        self.setObjectName("cost")
        self.words = label(NOTHING, "", wrap=True)
        self.setLayout(column(self.words, margins=6))
        self.told: dict[object, Phrase] = {}
        self.before: Draft | None = None
        self.wanted: object = None
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(PAUSE_MS)
        self.timer.timeout.connect(self._ask)
        self.hide()

    def look_at(self, value: object) -> None:
        """Say what a choice would cost; None: nothing is looked at."""
        self.wanted = value
        if self.before is not self.session.draft:
            self.before = self.session.draft
            self.told.clear()  # the job is another now
        if value is None:
            self.hide()
        elif value in self.told:
            self._say(self.told[value])
        else:
            self.timer.start()

    def _ask(self) -> None:
        value, before = self.wanted, self.session.draft
        job = self.tried(value) if value is not None else None
        if job is None or not isinstance(before, Drafted):
            self.hide()
            return

        def came(compared: Compared) -> None:
            self.session.drafts.keep(compared.after)
            if before is self.session.draft:
                self.told[value] = compared.words
                if self.wanted == value:
                    self._say(compared.words)

        asked = Choice(before, job, sewing_of(self.session).person)
        self.session.works.ask("cost", compared, asked, while_there(self, came), self.session.fault)

    def _say(self, words: Phrase) -> None:
        self.words.setText(self.session.tell(words))
        self.setVisible(bool(words))
