"""One panel on the Cover station: its size and cloth, which layers lie on it, what is on it."""

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow, flow
from omnipel.bench.parts.onfold import fold_box, foldable
from omnipel.bench.parts.ontocloth import way_pick
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.widgets import Number, button, check, column, emptied, label
from omnipel.bench.session import Session
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.used import uses
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import meant
from omnipel.core.pictures.sheet import count_words
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, Value, mm, term, tr
from omnipel.core.words.refs import Ref

LAYERS_ON = (refs.LINING_ON, refs.PADDING_ON, refs.STIFFENER_ON)


class PanelPage(QWidget):
    """The panel that is chosen."""

    leads_to = Signal(object)
    """Something that belongs to it is to be chosen."""

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
            if foldable(panel):
                self.area.addWidget(fold_box(self.session, name, on=panel.fold is not None))
            self.area.addWidget(label(tr("onto the cloth"), "field"))
            self.area.addWidget(way_pick(self.session, panel))
            on = [(Name(f.name), refs.feature(f.id)) for f in draft.job.cover.features if self._lies(draft, f.id) == name]
            self._leads(tr("on it"), on)
            self._leads(tr("sewn by"), [(term(seam), refs.seam(seam)) for seam in self._seams(draft, name)])
            self._leads(tr("its free edges"), [(term(edge), refs.edge(edge)) for edge in self._edges(draft, name)])

    def _leads(self, words: Phrase, parts: Sequence[tuple[Value, Ref]]) -> None:
        """Buttons that lead to what belongs to the panel."""
        if parts:
            self.area.addWidget(label(words, "field"))
            self.area.addLayout(
                flow(*(button(called, partial(self.leads_to.emit, ref), "small") for called, ref in parts), gap=5)
            )

    def _seams(self, draft: Drafted, name: str) -> list[str]:
        met = [
            seam.whole or seam.name
            for seam in draft.cover.seams
            if any(draft.cover.panel_of[run.piece] == name for side in seam.sides for run in side)
        ]
        return list(dict.fromkeys(seam for seam in met if seam in draft.cover.joins))

    def _edges(self, draft: Drafted, name: str) -> list[str]:
        return [edge.name for edge in draft.cover.edges if any(draft.cover.panel_of[run.piece] == name for run in edge.runs)]

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
