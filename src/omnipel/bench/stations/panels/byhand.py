"""A size set by hand, finished or cut, with its reason."""

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.finished import FinishedOrCut
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.widgets import button, column, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import cut_beyond
from omnipel.core.job.document import Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.tolerances import LONGEST
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, mm, tr


class ByHandDialog(Dialog):
    """A finished size set by hand, with the reason; what follows from it is drafted and trued at once."""

    def __init__(self, parent: QWidget, session: Session, names: dict[str, Phrase]) -> None:
        super().__init__(
            parent,
            tr("Set a size by hand"),
            tr(
                "A size of your own in place of the drafted one, finished or cut, with the reason. What follows from it is drafted and trued at "
                "once, and it is said where it no longer fits."
            ),
        )
        self.session = session
        self.length: float | None = None
        self.beyond: float | None = None
        self.which = combo(tr("Size"), [(words, name) for name, words in names.items()], lambda _n: self.show_size())
        self.value = FinishedOrCut(session, tr("Value"), self._entered, low=0.0, high=LONGEST, strict=True)
        self.reason = line(tr("Reason"), tr("why, in a few words"))
        meaning(
            self.which,
            tr("Which size is set. A size that follows from others can be set, too; what it followed from stays as it is."),
        )
        meaning(self.reason, tr("Why it is set, for whoever reads the cutting sheet a year from now."))
        self.note = label(NOTHING, "soft", wrap=True)
        self.drop = button(tr("Back to the drafted size"), self._drop)
        done = button(tr("Set it"), self._accept, "main")
        done.setDefault(True)
        buttons = row(self.drop, button(tr("Cancel"), self.reject), done)
        buttons.insertStretch(1, 1)
        self.setLayout(
            column(
                label(tr("Set a size by hand"), "title"),
                row(label(tr("size")), self.which),
                self.value,
                self.reason,
                self.note,
                buttons,
                margins=16,
                spacing=12,
            )
        )
        self.setMinimumWidth(LOOK.px(480))
        self.show_size()

    def _entered(self, finished: float) -> None:
        self.value.show_length(finished, self.beyond)
        self.reason.setFocus()

    def show_size(self) -> None:
        """Show the size that is picked."""
        name, draft = self.which.value, self.session.draft
        size = draft.cover.sizes.get(name) if isinstance(draft, Drafted) else None
        self.beyond = cut_beyond(draft.panels, size) if isinstance(draft, Drafted) and size is not None else None
        if size is not None:
            self.value.field.line.setModified(False)
            self.value.show_length(size.value, self.beyond)
        mine = next((o for o in self.session.open_job.cover.overrides if o.size == name), None)
        self.drop.setVisible(mine is not None)
        self.reason.setText(mine.reason if mine else "")

    def _accept(self) -> None:
        self.length = self.value.read()
        if self.length is None:
            return
        if not self.reason.text().strip():
            self.note.setText(say(tr("Write down why: next year nobody remembers.")))
            self.reason.setFocus()
            return
        self.accept()

    def apply(self) -> None:
        """Set it; what is kept is the finished size."""
        if self.length is None:
            return
        name = self.which.value
        made = Override(size=name, value=self.length, reason=self.reason.text().strip()[:500])
        reason = tr("{size} by hand: {value}", size=size_words(name), value=mm(self.length, fine=True))
        self.session.change(reason, Change(refs.by_hand(), made, Act.ADD))

    def _drop(self) -> None:
        name = self.which.value
        self.session.change(tr("{size} as drafted", size=size_words(name)), Change(refs.by_hand(name), act=Act.REMOVE))
        self.reject()
