"""The panels that are parted by a level or an upright line: for a zip, or where cloth is joined."""

from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, emptied, label, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.draft import Drafted
from omnipel.core.finishing.pieced import off_corners
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.joining import Parting
from omnipel.core.words import refs
from omnipel.core.words.phrases import Value, mm, term, tr


class PartingList(QWidget):
    """The panels that are parted at a height: for a zip around, or where cloth is joined."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cards, self.adding = QVBoxLayout(), QVBoxLayout()
        self.setLayout(column(self.cards, self.adding, spacing=6))
        self.made_for: tuple[object, ...] = ()
        self.fields: dict[str, QWidget] = {}
        self.picked = ""
        self.part_it: QPushButton | None = None
        self.piece_it: QPushButton | None = None

    def pick(self, panel: str) -> None:
        """Show how a panel is parted."""
        self.picked = panel
        self.refresh()

    def panel_of(self, id_: str) -> str:
        """The panel that is parted so; without an id the first that is."""
        parted = self.session.open_job.cover.parted
        return next((p.panel for p in parted if p.id == id_ or not id_), self.picked)

    def refresh(self) -> None:
        """Show the partings as they stand."""
        job, draft = self.session.open_job, self.session.draft
        if not isinstance(draft, Drafted):
            return
        whole = self.picked.partition(",")[0]
        mine = tuple(parting for parting in job.cover.parted if self.picked.startswith(parting.panel) or parting.panel == whole)
        surface_ = {piece.panel for piece in draft.cover.pieces if not piece.on}
        able = not mine and any(p.name == self.picked and p.name in surface_ and p.cloth == "outer" for p in draft.panels)
        shape = (self.picked, mine, able, job.unit)
        if shape == self.made_for:
            return
        with same_focus(self):
            emptied(self.cards)
            emptied(self.adding)
            self.fields, self.part_it, self.piece_it = {}, None, None
            for parting in mine:
                self.cards.addWidget(self._card(parting))
            if able:
                self.part_it = button(tr("Part it at a height"), self._add, "small")
                self.piece_it = button(tr("Piece it across its length"), self._piece, "small")
                self.adding.addLayout(column(self.part_it, self.piece_it, spacing=4))
        self.made_for = shape

    def _card(self, parting: Parting) -> QWidget:
        ref, called = refs.parting(parting.id), term(parting.panel)
        field = length_field(
            self.session,
            tr("{panel}, parted at", panel=called),
            lambda at: self.session.set(ref.at("at"), at, tr("{panel}, parted at", panel=called)),
            strict=True,
        )
        field.show_length(parting.at)
        self.fields[parting.id] = field
        ends: list[tuple[Value, object]] = [(tr("above its lower edge"), False), (tr("below its upper edge"), True)]
        if parting.upright:
            ends = [(tr("from its left end"), False), (tr("from its right end"), True)]
        end = combo(
            tr("measured from"),
            ends,
            lambda top: self.session.set(ref.at("from_top"), top, tr("{panel}, measured from", panel=called)),
        )
        end.show_value(parting.from_top)
        sewn = check(
            tr("sewn together (else a zip)"),
            lambda on: self.session.set(ref.at("joined"), on, tr("{panel}, parts joined", panel=called)),
            full=tr("sewn together, where the cloth is too short; else a zip runs there"),
        )
        sewn.setChecked(parting.joined)
        gone = button(
            tr("Remove"), lambda: self.session.change(tr("{panel} in one", panel=called), Change(ref, act=Act.REMOVE)), "quiet"
        )
        gone.setAccessibleName(say(tr("Do not part the {panel}", panel=called)))
        made = QWidget()
        title = label(tr("{panel}, parted", panel=called), wrap=True)
        made.setLayout(column(row(title, gone), field, end, sewn, spacing=4))
        return made

    def _add(self) -> None:
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        name = self.picked
        panel = next(p for p in draft.panels if p.name == name)
        near = self.session.open_job.cover.habits.system.near(panel.width.value / 2.0)
        made = Parting(panel=name, at=near)
        self.session.change(tr("{panel} parted at {at}", panel=term(name), at=mm(near)), Change(refs.parting(), made, Act.ADD))

    def _piece(self) -> None:
        """Join a panel of two parts, off its corners, near its middle."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        name = self.picked
        panel = next(p for p in draft.panels if p.name == name)
        piece = next(p for p in draft.cover.pieces if p.panel == name)
        at = self.session.open_job.cover.habits.system.near(off_corners(piece, panel, panel.length.value / 2.0))
        made = Parting(panel=name, at=at, upright=True, joined=True)
        self.session.change(tr("{panel} pieced at {at}", panel=term(name), at=mm(at)), Change(refs.parting(), made, Act.ADD))
