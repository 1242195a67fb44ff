"""Small lawful changes that save a buying step: at most five, best first, each with one button."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from omnipel.bench.parts.widgets import emptied, label
from omnipel.bench.session import Session
from omnipel.core.words.phrases import tr


class Savings(QWidget):
    """The advices."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.list = QVBoxLayout(self)
        self.list.setContentsMargins(0, 0, 8, 0)
        emptied(self.list)
        self.list.addWidget(label(tr("Nothing is looked for yet."), "soft", wrap=True))

    def ask(self) -> None:
        """Look for them, behind the window."""
