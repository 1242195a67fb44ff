"""A size set by hand, finished or cut, with its reason."""

from PySide6.QtWidgets import QDialog, QWidget

from omnipel.bench.finished import KINDS
from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, column, combo, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.tapefield import TapeField
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import cut_beyond
from omnipel.core.job.document import Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.words.phrases import NOTHING, Phrase, bare, mm, tr


class ByHandDialog(QDialog):
    """A finished size set by hand, with the reason; what follows from it is drafted and trued at once."""

    def __init__(self, parent: QWidget, session: Session, names: dict[str, Phrase]) -> None:
        super().__init__(parent)
        self.setWindowTitle(say(tr("Set a size by hand")))
        self.session = session
        self.which = combo(tr("Size"), [(words, name) for name, words in names.items()], lambda _n: self.show_size())
        self.field = TapeField(session, tr("Value"))
        self.kind = combo(tr("finished or cut"), KINDS, lambda _cut: self.show_size())
        self.reason = line(tr("Reason"), tr("why, in a few words"))
        self.field.entered.connect(self._entered)
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
                row(self.field, self.kind),
                self.reason,
                self.note,
                buttons,
                margins=16,
                spacing=12,
            )
        )
        self.setMinimumWidth(LOOK.px(480))
        self.length: float | None = None
        self.beyond = 0.0
        self.show_size()

    def _entered(self, length: float, _stay: bool) -> None:
        self.length = length
        self.field.show_length(length)
        self.reason.setFocus()

    def show_size(self) -> None:
        """Show the size that is picked."""
        name, draft = self.which.value, self.session.draft
        size = draft.cover.sizes.get(name) if isinstance(draft, Drafted) else None
        self.length = None
        found = cut_beyond(draft.panels, size) if isinstance(draft, Drafted) and size is not None else None
        self.kind.setVisible(found is not None)
        self.beyond = found or 0.0
        if size is not None:
            self.field.line.setModified(False)
            self.field.show_length(size.value + (self.beyond if self.kind.value else 0.0))
            both = tr("{finished} finished, {cut} cut", finished=bare(size.value), cut=mm(size.value + self.beyond))
            self.note.setText(self.session.tell(both) if self.beyond else "")
        mine = next((o for o in self.session.open_job.cover.overrides if o.size == name), None)
        self.drop.setVisible(mine is not None)
        self.reason.setText(mine.reason if mine else "")

    def _accept(self) -> None:
        if self.field.line.isModified():
            self.length = self.field.read()
            if self.length is None:
                return
        if self.length is None:
            self.length = self.field.stored
        if not self.reason.text().strip():
            self.note.setText(say(tr("Write down why: next year nobody remembers.")))
            self.reason.setFocus()
            return
        self.accept()

    def apply(self) -> None:
        """Set it; what is kept is the finished size."""
        if self.length is None:
            return
        name, finished = self.which.value, self.length - (self.beyond if self.kind.value else 0.0)
        if finished <= 0.0:
            self.session.say("look", tr("Less than its allowances: nothing of it would be left."))
            return
        made = Override(size=name, value=finished, reason=self.reason.text().strip()[:500])
        others = tuple(o for o in self.session.open_job.cover.overrides if o.size != name)
        reason = tr("{size} by hand: {value}", size=size_words(name), value=mm(finished, fine=True))
        self.session.set("cover.overrides", (*others, made), reason)

    def _drop(self) -> None:
        name = self.which.value
        self.session.change(tr("{size} as drafted", size=size_words(name)), Change(f"cover.overrides.{name}", act=Act.REMOVE))
        self.reject()
