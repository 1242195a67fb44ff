"""The edges of the openings: a card for each, with its finish, when it is sewn, and what holds or draws it in."""

from functools import partial

from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import Picker, combo, of_enum
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import column, emptied, label, surface
from omnipel.bench.session import Session
from omnipel.bench.stations.cover.reasons import HOLD_WHY
from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.fields import EDGE_FIELDS
from omnipel.core.draft import Drafted
from omnipel.core.finishing.drawn_in import tunnel_for
from omnipel.core.finishing.edges import USUAL_WIDE
from omnipel.core.job.document import LiningSchool
from omnipel.core.job.edges import DRAWS, EdgeChoice, HemOrder, Hold
from omnipel.core.job.findings import Change
from omnipel.core.job.finish import HEMS, TURNED_UNDER, Finish, FinishKind, refinished_as
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, Value, mm, term, tr

NO_WIDTH = (FinishKind.RAW, FinishKind.SELVAGE)
WIDTHS = {
    FinishKind.BOUND: tr("binding, finished width"),
    FinishKind.FACING: tr("facing, finished depth"),
    FinishKind.PIPED: tr("cord diameter"),
    FinishKind.BAGGED: tr("seam allowance"),
    FinishKind.CORD_CASING: tr("casing width"),
    FinishKind.ELASTIC_CASING: tr("casing width"),
}
"""What the width of a finish is called, where it is not a hem's."""


class EdgeList(QWidget):
    """All openings of the cover that somebody decides about."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cards = QVBoxLayout()
        self.cards.setSpacing(6)
        self.setLayout(column(self.cards, spacing=8))
        self.made_for: tuple[object, ...] = ()
        self.by_name: dict[str, EdgeCard] = {}

    def refresh(self) -> None:
        """Show the edges as they stand."""
        job, draft = self.session.open_job, self.session.draft
        if not isinstance(draft, Drafted):
            return
        edges = tuple(edge for edge in draft.cover.edges if edge.asked)
        told = tuple((e.name, e.finish, e.order, e.held_by, e.drawn) for e in edges)
        shape = (told, job.cover.edges, job.cover.hem, job.cover.hem_order, job.cover.lining.school, job.unit)
        if shape != self.made_for:
            with same_focus(self):
                emptied(self.cards)
                self.by_name = {edge.name: EdgeCard(self.session, edge) for edge in edges}
                for card in self.by_name.values():
                    self.cards.addWidget(card)
            self.made_for = shape
        for edge in edges:
            self.by_name[edge.name].retold(edge)


class EdgeCard(QWidget):
    """One opening: its edge's finish, when it is sewn, what holds it."""

    def __init__(self, session: Session, edge: Dressed) -> None:
        super().__init__()
        self.session, self.edge = session, edge
        self.chosen = session.open_job.cover.edges.get(edge.name, EdgeChoice())
        self.called = term(edge.name)
        self.fields: dict[str, QWidget] = {}
        self.title = label(NOTHING, "field", wrap=True)
        self.retold(edge)
        beside = Flow(gap=6)
        beside.addWidget(self._finish())
        if edge.finish.folded:
            beside.addWidget(self._order())
        beside.addWidget(self._held_by())
        grid = QGridLayout()
        grid.setSpacing(6)
        for k, (part, words, value) in enumerate(self._lengths()):
            field = length_field(session, tr("{edge}: {what}", edge=self.called, what=words), partial(self._set, part), low=0.0)
            field.show_length(value)
            self.fields[part] = field
            grid.addWidget(label(words, "soft", wrap=True), k // 2 * 2, k % 2)
            grid.addWidget(field, k // 2 * 2 + 1, k % 2)
        why = label(HOLD_WHY[edge.held_by], "soft", wrap=True)
        self.setLayout(column(surface(column(self.title, beside, grid, why, margins=8))))

    def retold(self, edge: Dressed) -> None:
        """Its length and how far it is drawn in, as they are now."""
        self.edge = edge
        title = tr("{edge}: {length} around", edge=self.called, length=mm(edge.length.value))
        if edge.drawn:
            title = tr("{title}, drawn in to {drawn}", title=title, drawn=mm(edge.drawn_to))
        self.title.setText(self.session.tell(title))

    def _lengths(self) -> list[tuple[str, Phrase, float]]:
        """The lengths that count for something as the edge is made."""
        found: list[tuple[str, Phrase, float]] = []
        own = self.chosen.finish
        if own is not None and own.kind not in NO_WIDTH:
            found.append(("finish.width", WIDTHS.get(own.kind, tr("hem width")), own.width))
            if own.kind in TURNED_UNDER:
                found.append(("finish.turn_under", tr("turn-under"), own.turn_under))
            elif own.kind in (FinishKind.FACING, FinishKind.PIPED):
                found.append(("finish.turn_under", tr("seam allowance"), own.turn_under))
        if self.edge.drawn:
            found.append(("drawn_to", tr("drawn in to (0: as far as the cloth gathers)"), self.chosen.drawn_to))
        if self.edge.held_by is not Hold.NOTHING:
            usual = self.session.open_job.cover.habits.mm(USUAL_WIDE[self.edge.held_by])
            words = tr("cord diameter") if self.edge.held_by is Hold.CORD else tr("how wide it is")
            found.append(("wide", words, self.chosen.wide or usual))
        return found

    def _finish(self) -> Picker:
        cover = self.session.open_job.cover
        lined = cover.lining.school in (LiningSchool.BAGGED, LiningSchool.BOUND)
        kinds = [kind for kind in HEMS if kind is not FinishKind.BAGGED or lined]
        usual = tr("as usual: {finish}", finish=term(self.edge.finish.kind)) if self.chosen.finish is None else tr("as usual")
        picks: list[tuple[Value, object]] = [(usual, None), *of_enum(kinds)]

        def picked(kind: FinishKind | None) -> None:
            made = None if kind is None else refinished_as(self.edge.finish, kind, cover.habits, cover.seam_allowance)
            self._set("finish", made)

        return self._combo("finish", picks, self.chosen.finish.kind if self.chosen.finish else None, picked)

    def _order(self) -> Picker:
        usual: list[tuple[Value, object]] = [(tr("sewn as all hems: {order}", order=term(self.edge.order)), None)]
        return self._combo("order", [*usual, *of_enum(HemOrder)], self.chosen.order, lambda order: self._set("order", order))

    def _held_by(self) -> Picker:
        picks: list[tuple[Value, object]] = [
            (tr("held by nothing") if hold is Hold.NOTHING else term(hold), hold) for hold in Hold
        ]
        return self._combo("held_by", picks, self.chosen.held_by, self._hold)

    def _hold(self, hold: Hold) -> None:
        """What holds the edge; where it runs in a tunnel and there is none wide enough, the edge becomes one."""
        ref, cover = refs.edge(self.edge.name), self.session.open_job.cover
        changes = [Change(ref.at("held_by"), hold), Change(ref.at("wide"), 0.0), Change(ref.at("drawn_to"), 0.0)]
        words = tr("{edge}: {hold}", edge=self.called, hold=term(hold))
        if hold in DRAWS:
            casing: Finish = tunnel_for(hold, cover.habits.mm(USUAL_WIDE[hold]), cover.habits)
            if self.edge.finish.folded < casing.width:
                changes.append(Change(ref.at("finish"), casing))
                words = tr("{edge}: {hold}, in a {casing}", edge=self.called, hold=term(hold), casing=term(casing.kind))
        self.session.change(words, *changes)

    def _combo(self, part: str, picks: list[tuple[Value, object]], value: object, picked: object) -> Picker:
        made = combo(tr("{edge}: {what}", edge=self.called, what=EDGE_FIELDS[part]), picks, picked)  # type: ignore[arg-type]
        made.show_value(value)
        self.fields[part] = made
        return made

    def _set(self, part: str, value: object) -> None:
        ref = refs.edge(self.edge.name, part)
        words = tr("{edge}: {what}", edge=self.called, what=EDGE_FIELDS[part])
        self.session.set(ref, value, words)
