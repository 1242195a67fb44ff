"""What a choice costs, said where it is chosen: cloth, goods and seams more or less than as it stands."""

from collections.abc import Callable, Iterable

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFrame

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.widgets import column, label
from omnipel.bench.session import Session
from omnipel.core.costs import cost
from omnipel.core.draft import Draft, Drafted
from omnipel.core.job.document import Job
from omnipel.core.words.phrases import NOTHING, listed, tr
from omnipel.work.requests import drafts_of

PAUSE_MS = 150


class CostLine(QFrame):
    """One line: what the choice that is looked at would cost; drafted behind the window, once for each."""

    def __init__(self, session: Session, tried: Callable[[object], Job | None]) -> None:
        super().__init__()
        self.session, self.tried = session, tried
        self.setObjectName("cost")
        self.words = label(NOTHING, "", wrap=True)
        self.setLayout(column(self.words, margins=6))
        self.drafts: dict[object, Draft] = {}
        self.wanted: object = None
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(PAUSE_MS)
        self.timer.timeout.connect(self._ask)
        self.hide()

    def look_at(self, value: object) -> None:
        """Say what a choice would cost; None: nothing is looked at."""
        self.wanted = value
        if value is None:
            self.hide()
        elif value in self.drafts:
            self._say(self.drafts[value])
        else:
            self.timer.start()

    def _ask(self) -> None:
        value = self.wanted
        job = self.tried(value) if value is not None else None
        if job is None:
            self.hide()
            return

        def came(drafts: tuple[Draft, ...]) -> None:
            self.drafts[value] = drafts[0]
            self.session.drafts.keep(drafts[0])
            if self.wanted == value:
                self._say(drafts[0])

        self.session.works.ask("cost", drafts_of, (job,), while_there(self, came), self.session.fault)

    def _say(self, after: Draft) -> None:
        before = self.session.draft
        if not isinstance(before, Drafted) or not isinstance(after, Drafted):
            self.hide()
            return
        found = list(cost(before, after))
        self.words.setText(self.session.tell(listed(found, "  ") if found else tr("no more cloth, no more goods")))
        self.show()


def of_all(lines: Iterable[CostLine]) -> None:
    """Forget what was drafted: the job is another now."""
    for line in lines:
        line.drafts.clear()
        line.hide()
