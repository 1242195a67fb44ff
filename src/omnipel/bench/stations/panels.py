"""The Panels station: the sheet of panels to scale, the seam ledger, and every size with its sum."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFont, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.finished import KINDS
from omnipel.bench.look import LOOK
from omnipel.bench.parts import Number, button, column, combo, emptied, label, line, paint_state, restyle, row, scrolled, surface
from omnipel.bench.picture import PictureView, pen
from omnipel.bench.session import Session
from omnipel.bench.sketchview import SketchView
from omnipel.bench.speech import say
from omnipel.bench.tapefield import TapeField
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel, cut_beyond
from omnipel.core.drafting.seams import Trued
from omnipel.core.forms.mesh import Mesh
from omnipel.core.job.document import Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.pictures.pens import LAYER_WORDS, Layer
from omnipel.core.pictures.sheet import board
from omnipel.core.pictures.worn import COVER, worn
from omnipel.core.words.phrases import NOTHING, Count, Phrase, Ratio, bare, listed, mm, term, tr
from omnipel.core.words.working import Worked


class PanelsStation(QWidget):
    """Shows what is to be cut."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.board = PictureView(tr("Panels to scale"))
        self.board.pointed.connect(self._pointed)
        self.board.clicked.connect(self._clicked)
        self.key = LayerKey()
        self.where = SketchView(tr("Where the chosen panels lie on the object"))
        self.where.hide()
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
        self.print_it = button(tr("Print the pattern…"), lambda: session.go.emit("papers"))
        beside = row(self.board, self.where)
        beside.setStretch(0, 3)
        beside.setStretch(1, 1)
        sheet = surface(column(beside, self.empty, self.key, margins=4, spacing=2))
        lower = QHBoxLayout()
        lower.setSpacing(16)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addWidget(label(tr("Seams, both sides"), "head"))
        left.addWidget(scrolled(self.ledger), 1)
        right = QVBoxLayout()
        right.setSpacing(4)
        head = row(label(tr("Sizes"), "head"))
        head.addStretch(1)
        head.addWidget(button(tr("Set one by hand…"), self.set_by_hand))
        head.addWidget(self.print_it)
        right.addLayout(head)
        right.addWidget(scrolled(sizes), 1)
        lower.addLayout(left, 1)
        lower.addLayout(right, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 16, 16, 8)
        layout.setSpacing(8)
        layout.addWidget(sheet, 3)
        layout.addLayout(lower, 2)
        self.made_for: tuple[object, ...] = ()
        self.letters = 30.0  # height of the letters on the board, mm

    def enter(self) -> None:
        """The station was opened."""
        self.board.lit = frozenset()
        self.ledger.pick("")
        self._on_object(set())
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
        self._sizes(panels)

    def _draw(self) -> None:
        draft = self.session.draft
        if draft is None or not draft.panels:
            return
        # Letters keep their height in px: what a px measures follows from how the sheet fits the window.
        wide, high = max(self.board.width(), 200), max(self.board.height(), 120)
        drawing = None
        for _ in range(3):
            drawing = board(draft.panels, self.session.voice, self.letters, wide / high)
            x0, y0, x1, y1 = drawing.bounds
            wanted = LOOK.px(13) * max((x1 - x0) / max(wide - 56, 50), (y1 - y0) / max(high - 56, 50))
            if abs(wanted - self.letters) < 0.06 * wanted:
                break
            self.letters = wanted
        if drawing is not None:
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
        if dialog.exec() == QDialog.DialogCode.Accepted:
            dialog.apply()

    def field_words(self) -> dict[str, Phrase]:
        """Sizes have their own entries in go-to."""
        return {}

    # Pointing

    def _pointed(self, ref: str) -> None:
        parts = ref.split(".")
        panel = self._panel(parts[1]) if len(parts) > 1 else None
        if panel is None:
            return
        if len(parts) == 3 and parts[2] in ("cut_length", "cut_width"):
            words = {"cut_length": tr("cut length"), "cut_width": tr("cut height")}[parts[2]]
            self.session.point(tr("{panel}, {size}", panel=term(panel.name), size=words), getattr(panel, parts[2]))
        elif len(parts) == 3:
            self._edge(panel, parts[2])

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

    def _clicked(self, ref: str) -> None:
        parts = ref.split(".")
        seams = self.session.draft.seams if self.session.draft else ()
        of_edge = [
            t
            for t in seams
            for run in (*t.seam.a, *t.seam.b)
            if len(parts) == 3 and (run.panel, run.edge) == (parts[1], parts[2])
        ]
        if of_edge:
            self._seam(of_edge[0].seam.name)
        else:
            self.board.lit = frozenset({ref}) if len(parts) == 2 else frozenset()
            self.ledger.pick("")
            self._on_object({parts[1]} if len(parts) == 2 else set())
            self.board.update()

    def _seam(self, name: str) -> None:
        """Light both sides of a seam on the board, and the panels they belong to on the object."""
        for trued in self.session.draft.seams if self.session.draft else ():
            if trued.seam.name == name:
                runs = (*trued.seam.a, *trued.seam.b)
                self.board.lit = frozenset(f"panels.{run.panel}.{run.edge}" for run in runs)
                self.ledger.pick(name)
                self.board.update()
                self._on_object({run.panel for run in runs})

    def _on_object(self, panels: set[str]) -> None:
        """Show these panels on the object; without any, the picture gives its room back."""
        draft = self.session.draft
        shell = worn(draft.body, draft.cover) if isinstance(draft, Drafted) and panels else Mesh()
        self.where.setVisible(bool(shell.faces))
        if not shell.faces:
            return
        lit, rest = LOOK.colour("accent"), LOOK.colour("body")
        self.where.tints = {f.part: lit if f.part.removeprefix(COVER).rpartition(":")[0] in panels else rest for f in shell.faces}
        self.where.show_mesh(shell)

    def go_to(self, path: str) -> None:
        """Show a panel or a seam."""
        kind, _, name = path.partition(".")
        if kind == "seams" and name:
            self._seam(name)
        elif kind == "panels" and name:
            self.board.lit = frozenset({f"panels.{name.split('.')[0]}"})
            self.board.update()


def _cloth(session: Session) -> QColor:
    colour = QColor(session.open_job.cover.cloth.colour)
    return colour if colour.isValid() else QColor("#9db08a")


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


def truth(trued: Trued) -> Phrase:
    """Whether a seam is true, and if not by how much."""
    if trued.true:
        return tr("true")
    off = bare(abs(trued.difference), fine=True)
    return tr("over by {off}", off=off) if trued.difference > 0 else tr("short by {off}", off=off)


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
            if layer is Layer.FIGURE or x + 34 + width > self.width():
                continue
            painter.setPen(pen(layer))
            painter.drawLine(int(x), int(middle), int(x + 28), int(middle))
            painter.setPen(LOOK.colour("ink"))
            painter.drawText(int(x + 34), int(middle + LOOK.px(5)), words)
            x += 34 + width + 20
        painter.end()


class Ledger(QWidget):
    """Both sides of every seam as two bars, with the difference."""

    picked = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setAccessibleName(say(tr("Seam ledger")))
        self.session = session
        self.seams: tuple[Trued, ...] = ()
        self.chosen = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    @property
    def line(self) -> int:
        """Height of one seam, px."""
        return LOOK.px(46)

    def show_seams(self, seams: tuple[Trued, ...]) -> None:
        """Show these seams."""
        self.seams = seams
        self.setMinimumHeight(len(seams) * self.line + 4)
        told = listed(
            (
                tr("{seam}: {a} to {b}, {state}", seam=term(t.seam.name), a=mm(t.length_a), b=mm(t.length_b), state=truth(t))
                for t in seams
            ),
            "; ",
        )
        self.setAccessibleName(self.session.tell(tr("Seam ledger. {seams}", seams=told)))
        self.update()

    def pick(self, name: str) -> None:
        """Mark a seam as chosen."""
        self.chosen = name
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        longest = max((max(t.length_a, t.length_b * t.seam.ratio) for t in self.seams), default=1.0)
        for i, trued in enumerate(self.seams):
            self._paint_seam(painter, QRectF(0, i * self.line, self.width(), self.line - 4), trued, longest)
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("accent"), 1.5))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()

    def _paint_seam(self, painter: QPainter, box: QRectF, trued: Trued, longest: float) -> None:
        if trued.seam.name == self.chosen:
            painter.fillRect(box, LOOK.colour("glow"))
        state = "fine" if trued.true else "stop"
        paint_state(painter, QRectF(box.left() + 4, box.top() + 4, LOOK.px(14), LOOK.px(14)), state)
        painter.setPen(LOOK.colour("ink"))
        painter.setFont(LOOK.font(14, QFont.Weight.DemiBold))
        gathered = abs(trued.seam.ratio - 1.0) > 1e-9
        ratio = say(tr("  gathered {ratio}", ratio=Ratio(trued.seam.ratio))) if gathered else ""
        name_left = box.left() + LOOK.px(24)
        words = self.session.tell(truth(trued))
        numbers = f"{self._short(trued.length_a)} : {self._short(trued.length_b)}   {words}"
        painter.setFont(LOOK.font(13))
        wide = painter.fontMetrics().horizontalAdvance(numbers)
        right = box.right() - 6
        painter.setPen(LOOK.colour("stop" if not trued.true else "soft"))
        painter.drawText(int(right - wide), int(box.top() + LOOK.px(16)), numbers)
        painter.setFont(LOOK.font(14, QFont.Weight.DemiBold))
        painter.setPen(LOOK.colour("ink"))
        name = painter.fontMetrics().elidedText(
            say(term(trued.seam.name)) + ratio, Qt.TextElideMode.ElideRight, int(right - wide - name_left - 10)
        )
        painter.drawText(int(name_left), int(box.top() + LOOK.px(16)), name)
        top, room = box.top() + LOOK.px(23), box.width() - LOOK.px(24) - 10
        for k, length in enumerate((trued.length_a, trued.length_b * trued.seam.ratio)):
            bar = QRectF(name_left, top + k * LOOK.px(8), max(2.0, room * length / longest), LOOK.px(6))
            painter.fillRect(bar, LOOK.colour("accent") if k == 0 else LOOK.colour("soft"))

    def _short(self, length: float) -> str:
        return self.session.fmt(length, fine=True, with_unit=False)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() // self.line)
        if 0 <= i < len(self.seams):
            self.picked.emit(self.seams[i].seam.name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        names = [t.seam.name for t in self.seams]
        steps = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        if names and event.key() in steps:
            here = names.index(self.chosen) if self.chosen in names else -1
            self.picked.emit(names[(here + steps[Qt.Key(event.key())]) % len(names)])
        else:
            super().keyPressEvent(event)
