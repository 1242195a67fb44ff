"""Finished or cut: a length that a hand worker thinks of the one way or the other, with one switch that shows both."""

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.tapefield import TapeField, length_field
from omnipel.bench.parts.widgets import column, label, row
from omnipel.bench.session import Session
from omnipel.core.words.phrases import NOTHING, Value, bare, mm, tr

KINDS = ((tr("finished"), False), (tr("cut"), True))


class FinishedOrCut(QWidget):
    """Takes a finished length, or the same with its allowances; what is kept is the finished one."""

    def __init__(
        self, session: Session, words: Value, commit: Callable[[float], object], *, low: float, high: float, strict: bool = False
    ) -> None:
        super().__init__()
        self.session, self.commit, self.least, self.most = session, commit, low, high
        self.finished = self.beyond = 0.0
        self.field: TapeField = length_field(session, words, self._taken, strict=strict)
        self.kind = combo(tr("finished or cut"), KINDS, lambda _cut: self._show())
        self.both = label(NOTHING, "soft", wrap=True)
        shown = row(self.field, self.kind)
        shown.setStretch(0, 1)
        self.setLayout(column(shown, self.both, spacing=2))
        self.setFocusProxy(self.field)

    @property
    def line(self) -> object:
        """The line that is typed into."""
        return self.field.line

    def show_length(self, finished: float, beyond: float | None) -> None:
        """Show a finished length that is cut so much longer; None: there is no cut that it belongs to, and no switch."""
        self.finished, self.beyond = finished, beyond or 0.0
        self.kind.setVisible(beyond is not None)
        self._show()

    @property
    def _more(self) -> float:
        """What the field shows more than what is kept, mm."""
        return self.beyond if self.kind.value else 0.0

    def _show(self) -> None:
        self.field.low, self.field.high = self.least + self._more, self.most + self._more
        self.field.show_length(self.finished + self._more)
        # 0 stands for "reckon it": there is nothing to add to.
        known = self.finished > 0.0 and self.beyond > 0.0
        both = tr("{finished} finished, {cut} cut", finished=bare(self.finished), cut=mm(self.finished + self.beyond))
        self.both.setText(self.session.tell(both) if known else "")
        self.both.setVisible(known)

    def _taken(self, length: float) -> None:
        self.commit(length - self._more)

    def read(self) -> float | None:
        """The finished length that stands in the field, typed or shown; None when it is none."""
        if not self.field.line.isModified():
            return self.finished
        length = self.field.read()
        return None if length is None else length - self._more
