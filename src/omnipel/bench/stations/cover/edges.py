"""The edge of an opening: its finish as cross-sections to pick from, its lengths in the drawing, when it is sewn, what holds or draws it in."""

from dataclasses import replace
from functools import partial

from PySide6.QtGui import QColor
from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import Picker, combo, of_enum
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.sections import SectionTile, SectionTiles, SectionView
from omnipel.bench.parts.tapefield import TapeField, length_field
from omnipel.bench.parts.widgets import column, emptied, label
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cover.costs import CostLine
from omnipel.bench.stations.cover.reasons import HOLD_WHY
from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.fields import EDGE_FIELDS
from omnipel.core.draft import Drafted
from omnipel.core.drafting.crosssection import Side
from omnipel.core.drafting.crosssection import edge as section_of
from omnipel.core.finishing.drawn_in import tunnel_for
from omnipel.core.finishing.edges import USUAL_WIDE
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, LiningSchool
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


class EdgePage(QWidget):
    """The card of the opening whose edge is chosen."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.picked = ""
        self.card_area = QVBoxLayout()
        self.setLayout(column(self.card_area))
        self.made_for: tuple[object, ...] = ()
        self.card: EdgeCard | None = None

    @property
    def names(self) -> tuple[str, ...]:
        """The openings whose edges somebody decides about."""
        draft = self.session.draft
        return tuple(edge.name for edge in draft.cover.edges if edge.asked) if isinstance(draft, Drafted) else ()

    def pick(self, name: str) -> None:
        """Show the card of an edge."""
        self.picked = name
        self.refresh()

    def refresh(self) -> None:
        """Show the edge as it stands."""
        job, draft = self.session.open_job, self.session.draft
        if not isinstance(draft, Drafted):
            return
        if self.picked not in self.names:
            self.picked = next(iter(self.names), "")
        edge = next((e for e in draft.cover.edges if e.name == self.picked), None)
        told = (edge.name, edge.finish, edge.order, edge.held_by, edge.drawn) if edge is not None else None
        cloth = (job.cover.cloth.colour, job.cover.seam_allowance)
        shape = (told, job.cover.edges, job.cover.hem, job.cover.hem_order, job.cover.lining.school, job.unit, cloth)
        if shape != self.made_for:
            with same_focus(self):
                emptied(self.card_area)
                self.card = EdgeCard(self.session, edge) if edge is not None else None
                if self.card is not None:
                    self.card_area.addWidget(self.card)
            self.made_for = shape
        if self.card is not None and edge is not None:
            self.card.retold(edge)


class EdgeCard(QWidget):
    """One opening: its edge's finish, when it is sewn, what holds it."""

    def __init__(self, session: Session, edge: Dressed) -> None:
        super().__init__()
        self.session, self.edge = session, edge
        self.chosen = session.open_job.cover.edges.get(edge.name, EdgeChoice())
        self.called = term(edge.name)
        self.cloth = QColor(session.open_job.cover.cloth.colour)
        self.fields: dict[str, QWidget] = {}
        self.title, self.cost = label(NOTHING, "soft", wrap=True), CostLine(session, self._tried)
        self.retold(edge)
        beside = Flow(gap=6)
        if edge.finish.folded:
            beside.addWidget(self._order())
        beside.addWidget(self._held_by())
        lengths = {part: (words, self._length(part, words, value)) for part, words, value in self._lengths()}
        drawn = section_of(edge.finish)
        inside = {m.part: f"finish.{m.part}" for m in drawn.measures if f"finish.{m.part}" in lengths}
        fields = {part: (say(lengths[key][0]), lengths[key][1]) for part, key in inside.items()}
        grid = QGridLayout()
        grid.setSpacing(6)
        rest = [part for part in lengths if part not in inside.values()]
        for k, part in enumerate(rest):
            grid.addWidget(label(lengths[part][0], "soft", wrap=True), k, 0)
            grid.addWidget(lengths[part][1], k, 1)
        why = label(HOLD_WHY[edge.held_by], "soft", wrap=True)
        large = SectionView(
            drawn, self.cloth, fields, lambda side: say(tr("the cover")) if side is Side.FIRST else say(tr("the lining"))
        )
        self.setLayout(column(self.title, self._finish(), large, self.cost, beside, grid, why, spacing=7))

    def _length(self, part: str, words: Phrase, value: float) -> TapeField:
        field = length_field(self.session, tr("{edge}: {what}", edge=self.called, what=words), partial(self._set, part), low=0.0)
        field.show_length(value)
        self.fields[part] = field
        return field

    def retold(self, edge: Dressed) -> None:
        """Its length and how far it is drawn in, as they are now."""
        self.edge = edge
        title = tr("{length} around", length=mm(edge.length.value))
        if edge.drawn:
            title = tr("{title}, drawn in to {drawn}", title=title, drawn=mm(edge.drawn_to))
        self.title.setText(self.session.tell(title))

    def _lengths(self) -> list[tuple[str, Phrase, float]]:
        """The lengths that count for something as the edge is made."""
        found: list[tuple[str, Phrase, float]] = []
        own = self.edge.finish
        if own.kind not in NO_WIDTH:
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

    def _finish(self) -> SectionTiles:
        """The ways to finish it, as usual first."""
        cover = self.session.open_job.cover
        lined = cover.lining.school in (LiningSchool.BAGGED, LiningSchool.BOUND)
        about = tr("as all edges of the cover: {finish}", finish=term(cover.hem.kind))
        tiles = [SectionTile(say(tr("as usual")), say(about), section_of(cover.hem), None)]
        kinds = [kind for kind in HEMS if kind is not FinishKind.BAGGED or lined]
        tiles += [SectionTile(say(term(kind)), "", section_of(self._made(kind)), kind) for kind in kinds]
        self.tiles = SectionTiles(tr("{edge}: {what}", edge=self.called, what=EDGE_FIELDS["finish"]), tiles, self.cloth)
        now = self.chosen.finish.kind if self.chosen.finish else None
        self.tiles.show_value(now)
        self.tiles.picked.connect(lambda kind: self._set("finish", None if kind is None else self._made(kind)))
        self.tiles.pointed.connect(lambda kind: self.cost.look_at(None if kind is None or kind == now else kind))
        self.fields["finish"] = self.tiles
        return self.tiles

    def _made(self, kind: FinishKind) -> Finish:
        """How it is finished in another way."""
        cover = self.session.open_job.cover
        return refinished_as(self.edge.finish, kind, cover.habits, cover.seam_allowance)

    def _tried(self, kind: object) -> Job | None:
        """The job with the edge finished in another way."""
        assert isinstance(kind, FinishKind)
        return changed(self.session.open_job, Change(refs.edge(self.edge.name, "finish"), self._made(kind)))

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
        """Decide a part of it. A width that was as usual becomes its own, with all the rest of its finish."""
        ref, words = refs.edge(self.edge.name, part), tr("{edge}: {what}", edge=self.called, what=EDGE_FIELDS[part])
        if part.startswith("finish.") and self.chosen.finish is None:
            own = replace(self.edge.finish, **{part.partition(".")[2]: value})  # type: ignore[arg-type]
            self.session.set(refs.edge(self.edge.name, "finish"), own, words)
            return
        self.session.set(ref, value, words)
