"""One panel on the Cover station: its size and cloth, which layers lie on it, what is on it."""

from functools import partial

from PySide6.QtWidgets import QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow, flow
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.widgets import Number, check, column, emptied, label
from omnipel.bench.session import Session
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.used import uses
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import meant
from omnipel.core.pictures.sheet import count_words
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, mm, term, tr
from omnipel.core.words.refs import Ref

LAYERS_ON = (refs.LINING_ON, refs.PADDING_ON, refs.STIFFENER_ON)


class PanelPage(QWidget):
    """The panel that is chosen."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.picked = session, ""
        self.area = QVBoxLayout()
        self.setLayout(column(self.area))
        self.made_for: tuple[object, ...] = ()

    def pick(self, name: str) -> None:
        """Show a panel."""
        self.picked = name
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        panel = next((p for p in draft.panels if p.name == name), None)
        shape = (name, panel, draft.job.cover, draft.job.unit)
        if shape == self.made_for or panel is None:
            return
        self.made_for = shape
        with same_focus(self):
            emptied(self.area)
            self.area.addWidget(label(count_words(panel), "soft"))
            sizes = ((tr("finished"), panel.length, panel.width), (tr("cut"), panel.cut_length, panel.cut_width))
            for words, long, wide in sizes:
                one, other = Number(self.session), Number(self.session)
                one.show_number(tr("{panel}, {what} length", panel=term(name), what=words), long, mm(long.value))
                other.show_number(tr("{panel}, {what} height", panel=term(name), what=words), wide, mm(wide.value))
                self.area.addLayout(flow(label(words, "soft"), one, label(tr("×"), "soft"), other))
            ticks = self._ticks(draft, name)
            if ticks.count():
                self.area.addWidget(label(tr("layers on it"), "field"))
                self.area.addLayout(ticks)
            on = [f.name for f in draft.job.cover.features if self._lies(draft, f.id) == name]
            for called in on:
                self.area.addWidget(label(tr("{feature} is on it", feature=Name(called)), "soft", wrap=True))

    def _lies(self, draft: Drafted, id_: str) -> str:
        lying = draft.cover.lying.get(id_)
        return draft.cover.panel_of[lying.piece] if lying is not None else ""

    def _ticks(self, draft: Drafted, name: str) -> Flow:
        """Which layers lie on it, those that may lie on some panels only."""
        made, job = Flow(gap=6), draft.job
        surface = {piece.panel for piece in draft.cover.pieces if not piece.on}
        names = tuple(p.name for p in draft.panels if p.cloth is Cloth.OUTER and p.name in surface)
        for ref in LAYERS_ON:
            if not uses(SCHEMES[job.cover.scheme], ref, job.cover, draft.cover) or name not in names:
                continue
            on: tuple[str, ...] = meant(job, ref)
            words = {refs.LINING_ON: tr("lined"), refs.PADDING_ON: tr("padded"), refs.STIFFENER_ON: tr("stiffened")}[ref]
            box = check(
                words, partial(self._ticked, ref, name, names, on), full=tr("{panel} {what}", panel=term(name), what=words)
            )
            box.setChecked(not on or name in on)
            made.addWidget(box)
        return made

    def _ticked(self, ref: Ref, name: str, names: tuple[str, ...], on: tuple[str, ...], ticked: bool) -> None:
        now = set(on or names) | {name} if ticked else set(on or names) - {name}
        kept = tuple(panel for panel in names if panel in now)
        self.session.set(ref, () if set(names) <= now or not kept else kept, FIELDS[ref])
