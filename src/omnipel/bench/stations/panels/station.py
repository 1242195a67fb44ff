"""The Panels station: the sheet of panels to scale, the seam ledger, and every size with its sum."""

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QSizePolicy, QWidget

from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.parts.strokes import pen
from omnipel.bench.parts.widgets import Number, button, column, emptied, label, restyle, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.panels.byhand import ByHandDialog
from omnipel.bench.stations.panels.ledger import Ledger
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.pens import LAYER_WORDS
from omnipel.core.pictures.sheet import fitted_board
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Phrase, bare, listed, mm, term, tr
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.working import Worked


class BoardView(PictureView):
    """The board: all of it is fitted, with its words."""

    def frame(self) -> tuple[float, float, float, float]:
        return extent(self.drawing)


class PanelsStation(QWidget):
    """Shows what is to be cut."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.board = BoardView(tr("Panels to scale"))
        self.board.pointed.connect(self._pointed)
        self.board.clicked.connect(self._clicked)
        self.key = LayerKey()
        self.where = SketchView(tr("Where the chosen panels lie on the object"))
        self.ledger = Ledger(session)
        self.ledger.picked.connect(self._seam)
        self.sizes = QGridLayout()
        self.sizes.setHorizontalSpacing(12)
        self.sizes.setVerticalSpacing(3)
        self.sizes.setColumnStretch(0, 1)
        self.empty = label(NOTHING, "head", wrap=True)
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        sizes = QWidget()
        sizes.setLayout(self.sizes)
        self.print_it = button(tr("Print the pattern…"), lambda: session.go.emit(refs.PAPERS))
        beside = row(self.board, self.where)
        beside.setStretch(0, 3)
        beside.setStretch(1, 1)
        sheet = surface(column(beside, self.empty, self.key, margins=4, spacing=2))
        left, right = QWidget(), QWidget()
        ledger = column(label(tr("Seams, both sides"), "head"), scrolled(self.ledger), spacing=4)
        ledger.setStretch(1, 1)
        left.setLayout(ledger)
        head = Flow(gap=8)
        for widget in (label(tr("Sizes"), "head"), button(tr("Set one by hand…"), self.set_by_hand), self.print_it):
            head.addWidget(widget)
        told = column(head, scrolled(sizes), spacing=4)
        told.setStretch(1, 1)
        right.setLayout(told)
        self.setLayout(station(Columns((Part(left, 200), Part(right, 250)), sheet, shares=(3, 2))))
        self.made_for: tuple[object, ...] = ()

    def enter(self) -> None:
        """The station was opened."""
        self.board.lit = frozenset()
        self.ledger.pick("")
        self._on_object(frozenset())
        self.refresh()
        self.board.fit()
        self.board.setFocus()

    def resizeEvent(self, event: object) -> None:
        self._draw()

    def refresh(self) -> None:
        """Show the draft as it stands."""
        draft = self.session.draft
        panels = draft.panels if draft else ()
        self.board.setVisible(bool(panels))
        self.key.setVisible(bool(panels))
        self.empty.setVisible(not panels)
        if draft and not panels:
            self.empty.setText(
                self.session.sentence(draft.findings[0].text) if draft.findings else say(tr("Nothing is drafted yet."))
            )
            restyle(self.empty, "head")
        self.board.cloth = _cloth(self.session)
        self.print_it.setText(say(tr("Print it, to look at…") if draft and draft.stops else tr("Print the pattern…")))
        self._draw()
        self.ledger.show_seams(draft.seams if draft else ())
        self._on_object(self.where.shining)
        self._sizes(panels)

    def _draw(self) -> None:
        draft = self.session.draft
        if draft is None or not draft.panels:
            return
        # Letters keep their height in px: what a px measures follows from how the sheet fits the window.
        wide, high = max(self.board.width(), 200), max(self.board.height(), 120)
        drawing, _ = fitted_board(
            draft.panels,
            self.session.voice,
            LOOK.px(14),
            max(wide - 56.0 * LOOK.scale, 50.0),
            max(high - 56.0 * LOOK.scale, 50.0),
        )
        self.board.set_drawing(drawing)

    def _sizes(self, panels: tuple[Panel, ...]) -> None:
        wanted: list[tuple[str, Phrase, Worked]] = []
        for panel in panels:
            named = (
                (tr("finished length"), panel.length),
                (tr("finished height"), panel.width),
                (tr("cut length"), panel.cut_length),
                (tr("cut height"), panel.cut_width),
            )
            wanted += [(panel.name, words, size) for words, size in named]
            wanted += [(panel.name, term(words), size) for words, size in panel.sizes.items()]
        shape = (tuple((name, words) for name, words, _ in wanted), tuple(p.notes for p in panels), self.session.unit)
        if shape != self.made_for:
            self._lay_out_sizes(panels, wanted)
            self.made_for = shape
        for number, (name, words, size) in zip(self.numbers, wanted, strict=True):
            number.show_number(tr("{panel}, {size}", panel=term(name), size=words), size, bare(size.value))

    def _lay_out_sizes(self, panels: tuple[Panel, ...], wanted: list[tuple[str, Phrase, Worked]]) -> None:
        emptied(self.sizes)
        self.numbers: list[Number] = []
        line = 0
        for panel in panels:
            head = label(NOTHING, "head", wrap=True)
            notes = listed((panel.notes), "; ")
            words = tr("{panel}, cut {n}", panel=term(panel.name), n=Count(panel.count))
            if panel.notes:
                words = tr("{panel}, cut {n} · {notes}", panel=term(panel.name), n=Count(panel.count), notes=notes)
            head.setText(self.session.tell(words))
            self.sizes.addWidget(head, line, 0, 1, 2)
            for name, words, _ in wanted:
                if name == panel.name:
                    line += 1
                    number = Number(self.session)
                    number.setAlignment(Qt.AlignmentFlag.AlignRight)
                    self.numbers.append(number)
                    self.sizes.addWidget(label(words, "soft"), line, 0)
                    self.sizes.addWidget(number, line, 1)
            line += 1
        self.sizes.setRowStretch(line, 1)

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

    def field_words(self) -> dict[Ref, Phrase]:
        """Sizes have their own entries in go-to."""
        return {}

    # Pointing

    def _pointed(self, ref: Ref | None) -> None:
        panel = self._panel(ref.id) if ref is not None else None
        if ref is None or panel is None or not ref.part:
            return
        if ref.part in ("cut_length", "cut_width"):
            words = {"cut_length": tr("cut length"), "cut_width": tr("cut height")}[ref.part]
            self.session.point(tr("{panel}, {size}", panel=term(panel.name), size=words), getattr(panel, ref.part))
        else:
            self._edge(panel, ref.part)

    def _edge(self, panel: Panel, name: str) -> None:
        edges = [e for e in panel.edges if e.name == name]
        if not edges:
            return
        finish = edges[0].finish
        parts = listed((tr("{length} {what}", length=mm(length), what=what) for what, length, _ in finish.parts), " + ")
        self.session.say(
            "note",
            tr(
                "{panel}, {edge}: {length} on the sew line, {finish} {parts}",
                panel=term(panel.name),
                edge=term(name),
                length=mm(edges[0].curve.length, fine=True),
                finish=term(finish.kind),
                parts=parts,
            ),
        )

    def _panel(self, name: str) -> Panel | None:
        return next((p for p in (self.session.draft.panels if self.session.draft else ()) if p.name == name), None)

    def _clicked(self, ref: Ref | None) -> None:
        draft = self.session.draft
        seams, panel_of = (draft.seams, draft.cover.panel_of) if isinstance(draft, Drafted) else ((), {})
        of_edge = [t for t in seams for run in (*t.seam.a, *t.seam.b) if refs.panel(panel_of[run.piece], run.edge) == ref]
        if of_edge:
            self._seam(of_edge[0].seam.name)
        else:
            panel = ref if ref is not None and not ref.part else None
            self.board.lit = frozenset({panel}) if panel else frozenset()
            self.ledger.pick("")
            self._on_object(frozenset({panel}) if panel else frozenset())
            self.board.update()

    def _seam(self, name: str) -> None:
        """Light both sides of a seam on the board, and the panels they belong to on the object."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        for trued in draft.seams:
            if trued.seam.name == name:
                runs = [run for seam in trued.alike for run in (*seam.a, *seam.b)]
                self.board.lit = frozenset(refs.panel(draft.cover.panel_of[run.piece], run.edge) for run in runs)
                self.ledger.pick(name)
                self.board.update()
                self._on_object(frozenset({refs.seam(name)}))

    def _on_object(self, lit: frozenset[Ref]) -> None:
        """Show the cover on the object, with these parts standing out."""
        self.where.cloth = _cloth(self.session)
        self.where.show_scene(self.session.pictures.cover(), lit=lit)

    def go_to(self, ref: Ref) -> None:
        """Show a panel or a seam."""
        if ref.of is Of.SEAM and ref.id:
            self._seam(ref.id)
        elif ref.of is Of.PANEL and ref.id:
            self.board.lit = frozenset({ref.whole})
            self.board.update()


def _cloth(session: Session) -> QColor:
    colour = QColor(session.open_job.cover.cloth.colour)
    return colour if colour.isValid() else QColor("#9db08a")


class LayerKey(QWidget):
    """What each kind of line means, once."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(say(tr("Key: {lines}", lines=listed(LAYER_WORDS.values()))))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(300, LOOK.px(24))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(LOOK.font(13))
        x, middle = 12.0, self.height() / 2.0
        for layer, phrase in LAYER_WORDS.items():
            words = say(phrase)
            width = painter.fontMetrics().horizontalAdvance(words)
            if x + 34 + width > self.width():
                continue
            painter.setPen(pen(layer))
            painter.drawLine(int(x), int(middle), int(x + 28), int(middle))
            painter.setPen(LOOK.colour("ink"))
            painter.drawText(int(x + 34), int(middle + LOOK.px(5)), words)
            x += 34 + width + 20
        painter.end()
