"""The Panels station: the sheet of panels to scale, the seam ledger, and every size with its sum."""

import numpy as np
from PySide6.QtCore import QSize
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.coverview import CoverView
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.signs import Vacant
from omnipel.bench.parts.widgets import button, column, label, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.panels.board import BoardView, LayerKey
from omnipel.bench.stations.panels.byhand import ByHandDialog
from omnipel.bench.stations.panels.ledger import Ledger
from omnipel.bench.stations.panels.sizes import Sizes
from omnipel.bench.stations.panels.walk import SeamWalk
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.drafting.walking import Step, walk
from omnipel.core.pictures.board import Board, fitted_board
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.sheet import by, count_words
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, mm, term, tr
from omnipel.core.words.refs import Of, Ref


class PanelsStation(AtBench):
    """Shows what is to be cut."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.board = BoardView(tr("Panels to scale"), session)
        self.board.pointed.connect(self._pointed)
        self.board.clicked.connect(self._clicked)
        self.board.stepped.connect(self._stepped)
        self.board.about_to_paint = self._fit
        self.key = LayerKey()
        self.where = CoverView(tr("Where the chosen panels lie on the object"), session)
        self.ledger = Ledger(session)
        self.ledger.picked.connect(self._seam)
        self.sizes = Sizes(session)
        self.walk = SeamWalk(session)
        self.walk.walked.connect(self._walked)
        self.made, self.drawn_at = Board(Drawing(()), 1.0), QSize()
        self.seam, self.chosen = "", frozenset[Ref]()
        self.empty = Vacant("panels", tr("Go to what is to be done"), self._next)
        self.print_it = button(tr("Print the pattern…"), lambda: session.go.emit(refs.PAPERS))
        self.by_hand = button(tr("Set one by hand…"), self.set_by_hand)
        beside = row(self.board, self.where)
        beside.setStretch(0, 3)
        beside.setStretch(1, 1)
        sheet = surface(column(beside, self.empty, self.walk, self.key, margins=4, spacing=2))
        left, right = QWidget(), QWidget()
        ledger = column(label(tr("Seams, both sides"), "head"), scrolled(self.ledger), spacing=4)
        ledger.setStretch(1, 1)
        left.setLayout(ledger)
        head = Flow(gap=8)
        for widget in (label(tr("Sizes"), "head"), self.by_hand, self.print_it):
            head.addWidget(widget)
        told = column(head, scrolled(self.sizes), spacing=4)
        told.setStretch(1, 1)
        right.setLayout(told)
        self.setLayout(station(Columns((Part(left, 200), Part(right, 250)), sheet, shares=(3, 2))))

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """In this order the keys walk it: the panels, their seams, their sizes."""
        return (self.board, self.walk, self.ledger, self.sizes)

    def enter(self) -> None:
        """The station was opened."""
        self._seam("")
        self.refresh()
        self.board.fit()
        self.board.setFocus()

    def refresh(self) -> None:
        """Show the draft as it stands."""
        draft = self.session.draft
        panels = draft.panels if draft else ()
        self.board.setVisible(bool(panels))
        self.key.setVisible(bool(panels))
        self.walk.setVisible(bool(panels))
        self.empty.setVisible(not panels)
        self.where.setVisible(bool(panels))
        for does in (self.by_hand, self.print_it):
            does.setEnabled(bool(panels))
        if draft and not panels:
            self.empty.say(
                self.session.sentence(draft.findings[0].text) if draft.findings else say(tr("Nothing is drafted yet."))
            )
        told = listed(_words(p) for p in panels)
        self.board.setAccessibleDescription(self.session.tell(tr("It shows {parts}.", parts=told)) if panels else "")
        self.board.cloth = _cloth(self.session)
        self.print_it.setText(say(tr("Print it, to look at…") if draft and draft.stops else tr("Print the pattern…")))
        self._draw()
        self.ledger.show_seams(draft.seams if draft else ())
        self._on_object(self.where.shining)
        self.sizes.show_panels(panels)
        self._walk()

    def _next(self) -> None:
        if (step := sewing_of(self.session).next) is not None:
            self.session.go.emit(step.where)

    def _fit(self) -> None:
        """The board came to another size, in whatever way: its words have their height in px there."""
        if self.drawn_at != self.board.size():
            self._draw()

    def _draw(self) -> None:
        draft = self.session.draft
        if draft is None or not draft.panels:
            return
        # Letters keep their height in px: what a px measures follows from how the sheet fits the window.
        self.drawn_at = self.board.size()
        wide, high = max(self.board.width(), 200), max(self.board.height(), 120)
        self.made = fitted_board(
            draft.panels,
            self.session.voice,
            LOOK.px(14),
            max(wide - 56.0 * LOOK.scale, 50.0),
            max(high - 56.0 * LOOK.scale, 50.0),
            self.made,
        )
        self.board.set_drawing(self.made.drawing)
        self.board.name_panels({refs.panel(p.name): self.session.tell(_words(p)) for p in draft.panels})
        self.board.check(self.chosen)

    def size_names(self) -> dict[str, Phrase]:
        """Sizes that can be set by hand, as the scheme declares them: name → words."""
        draft = self.session.draft
        return {name: size_words(name) for name in draft.cover.by_hand} if isinstance(draft, Drafted) else {}

    def set_by_hand(self, name: str = "") -> None:
        """Ask for a finished size, its value and the reason."""
        names = self.size_names()
        if not names:
            self.session.say("note", tr("This cover has no size that could be set by hand."))
            return
        dialog = ByHandDialog(self, self.session, names)
        if name in names:
            dialog.which.show_value(name)
            dialog.show_size()
        with chosen(dialog) as yes:
            if yes:
                dialog.apply()

    # Pointing

    def _pointed(self, ref: Ref | None) -> None:
        seam = self._seam_at(ref)
        self._light(self.chosen if seam is None else frozenset(self._edges_of(seam)))
        panel = self._panel(ref.id) if ref is not None else None
        if ref is None or panel is None or not ref.part:
            return
        if ref.part in ("cut_length", "cut_width"):
            words = {"cut_length": tr("cut length"), "cut_width": tr("cut height")}[ref.part]
            self.session.point(tr("{panel}, {size}", panel=term(panel.name), size=words), getattr(panel, ref.part))
        else:
            self._edge(panel, ref.part, seam)

    def _edge(self, panel: Panel, name: str, seam: Trued | None) -> None:
        """Say what an edge is, and what it is sewn to."""
        edges = [e for e in panel.edges if e.name == name]
        if not edges:
            return
        finish = edges[0].finish
        parts = listed((tr("{length} {what}", length=mm(length), what=what) for what, length, _ in finish.parts), " + ")
        words = tr(
            "{panel}, {edge}: {length} on the sew line, {finish} {parts}",
            panel=term(panel.name),
            edge=term(name),
            length=mm(edges[0].curve.length, fine=True),
            finish=term(finish.kind),
            parts=parts,
        )
        if seam is not None:
            partners = [refs_ for refs_ in self._edges_of(seam) if refs_ != refs.panel(panel.name, name)]
            told = listed(tr("{panel}, {edge}", panel=term(p.id), edge=term(p.part)) for p in partners[:2])
            words = tr("{words}; sewn to {others}, a click goes there", words=words, others=told) if partners else words
        self.session.say("note", words)

    def _seam_at(self, ref: Ref | None) -> Trued | None:
        """The seam that an edge of a panel is sewn in."""
        draft = self.session.draft
        if ref is None or not ref.part or not isinstance(draft, Drafted):
            return None
        return next((trued for trued in draft.seams if ref in self._edges_of(trued)), None)

    def _edges_of(self, trued: Trued) -> list[Ref]:
        """The edges of panels that a seam and those alike join, each once."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return []
        runs = (run for seam in trued.alike or (trued.seam,) for run in (*seam.a, *seam.b))
        return list(dict.fromkeys(refs.panel(draft.cover.panel_of[run.piece], run.edge) for run in runs))

    def _panel(self, name: str) -> Panel | None:
        return next((p for p in (self.session.draft.panels if self.session.draft else ()) if p.name == name), None)

    def _clicked(self, ref: Ref | None) -> None:
        seam = self._seam_at(ref)
        if seam is not None and ref is not None:
            self._seam(seam.seam.name)
            others = [edge for edge in self._edges_of(seam) if edge != ref] or [ref]
            self._look_at(others[0])
            return
        panel = ref if ref is not None and not ref.part else None
        self._seam("")
        self.chosen = frozenset({panel}) if panel else frozenset()
        self._light(self.chosen)
        self._on_object(self.chosen)

    def _stepped(self, step: int) -> None:
        """Choose the next panel, or the one before, and say what it is."""
        panels = self.session.draft.panels if self.session.draft else ()
        names = [panel.name for panel in panels]
        here = next((names.index(ref.id) for ref in self.chosen if not ref.part and ref.id in names), -1 if step > 0 else 0)
        if panels:
            panel = panels[(here + step) % len(panels)]
            self._clicked(refs.panel(panel.name))
            self.session.say("note", _words(panel))

    def _look_at(self, edge: Ref) -> None:
        """Bring the middle of an edge into sight, where not all panels are seen."""
        panel = self._panel(edge.id)
        at = self.made.at(panel, panel.edge(edge.part).curve.at(0.5)) if panel is not None else None
        if at is not None:
            self.board.look_at(*at)

    def _seam(self, name: str) -> None:
        """Choose a seam, or none: both its sides stand out on the board, its line on the cover, and it can be walked."""
        draft = self.session.draft
        found = (trued for trued in (draft.seams if draft else ()) if trued.seam.name == name)
        self.seam, self.chosen = name, frozenset(edge for trued in found for edge in self._edges_of(trued))
        self.ledger.pick(name)
        self._light(self.chosen)
        self._on_object(frozenset({refs.seam(name)}) if name else frozenset())
        self._walk()

    def _light(self, lit: frozenset[Ref]) -> None:
        """Let edges or a panel stand out on the board."""
        if lit != self.board.lit:
            self.board.lit = lit
            self.board.check(lit)
            self.board.update()

    def _walk(self) -> None:
        """Put the walk on the seam that is chosen."""
        draft = self.session.draft
        cover = draft.cover if isinstance(draft, Drafted) else None
        self.walk.show_seam(cover, next((t for t in (draft.seams if draft else ()) if t.seam.name == self.seam), None))

    def _walked(self, come: tuple[float, Step] | None) -> None:
        """Mark on the board and on the cover where one has come to."""
        draft = self.session.draft
        if come is None or not isinstance(draft, Drafted) or self.walk.trued is None:
            self.board.mark(())
            self.where.mark(None)
            return
        share, step = come
        places = []
        for piece, place, _ in step.sides:
            panel = self._panel(draft.cover.panel_of[piece])
            at = self.made.at(panel, place) if panel is not None else None
            places += [at] if at is not None else []
        self.board.mark(tuple(places))
        pieces = {piece.name: piece for piece in draft.cover.pieces}
        self.where.mark(walk(self.walk.trued.seam.b, pieces, draft.cover.flat, np.array((share,))))

    def _on_object(self, lit: frozenset[Ref]) -> None:
        """Show the cover on the object, with these parts standing out."""
        self.where.show_cover(lit)

    def meant(self) -> Ref:
        """The panel or the seam that is looked at; panels at large while none is."""
        return refs.seam(self.seam) if self.seam else next(iter(self.chosen), Ref(Of.PANEL))

    def go_to(self, ref: Ref) -> None:
        """Show a panel or a seam."""
        if ref.of is Of.SEAM and ref.id:
            self._seam(ref.id)
        elif ref.of is Of.PANEL and ref.id:
            self._clicked(ref.whole)


def _words(panel: Panel) -> Phrase:
    """A panel, how many are cut of it, and how large."""
    size = by(panel.cut_length, panel.cut_width)
    return tr("{panel}, {count}, cut {size}", panel=term(panel.name), count=count_words(panel), size=size)


def _cloth(session: Session) -> QColor:
    colour = QColor(session.open_job.cover.cloth.colour)
    return colour if colour.isValid() else QColor("#9db08a")
