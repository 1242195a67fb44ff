"""The parts of a cover as a tree: the whole, its panels and what is on them, its seams, its edges; in the order of sewing."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import QSizePolicy, QTreeWidget, QTreeWidgetItem

from omnipel.bench.parts.look import LOOK
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.draft import Draft, Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.document import Job
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, bare, mm, term, tr, trn
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.units import Unit

WHOLE = refs.choice()
CLOTH = refs.CLOTH
LAYERS = refs.choice("lining")


@dataclass(frozen=True)
class Part:
    """A part of the cover: what it is, what it is called, its size in words, and its own parts."""

    ref: Ref
    words: Phrase | Name
    size: Phrase = NOTHING
    parts: tuple["Part", ...] = field(default=())


def parts_of(job: Job, draft: Draft | None) -> tuple[Part, ...]:
    """The parts of a job's cover, in the order of sewing: panels with what goes on while they are flat, then seams, then edges."""
    first = (Part(WHOLE, tr("Whole cover")), Part(CLOTH, tr("Cloth and allowances")), Part(LAYERS, tr("Lining, padding")))
    if not isinstance(draft, Drafted):
        return first
    cover = draft.cover
    surface = {piece.panel for piece in cover.pieces if not piece.on}
    on: dict[str, list[Part]] = {}
    loose: list[Part] = []
    for feature in job.cover.features:
        kind, lying = KINDS.get(feature.kind), cover.lying.get(feature.id)
        part = Part(refs.feature(feature.id), Name(feature.name), kind.words if kind is not None else NOTHING)
        (on.setdefault(cover.panel_of[lying.piece], []) if lying is not None else loose).append(part)
    panels = [
        Part(
            refs.panel(p.name),
            term(p.name),
            tr("{a} × {b}", a=bare(p.length.value), b=mm(p.width.value)),
            tuple(on.get(p.name, ())),
        )
        for p in draft.panels
        if p.cloth is Cloth.OUTER and p.name in surface
    ]
    seams = [Part(refs.seam(name), term(name), mm_words(long)) for name, long in cover.joins.items()]
    edges = [Part(refs.edge(e.name), term(e.name), mm_words(e.length.value)) for e in cover.edges if e.asked]
    made = [*first, *loose, Part(Ref(Of.PANEL), tr("Panels"), trn("{n} panel", "{n} panels", len(panels)), tuple(panels))]
    if seams:
        made.append(Part(Ref(Of.SEAM), tr("Seams"), trn("{n} seam", "{n} seams", len(seams)), tuple(seams)))
    if edges:
        made.append(Part(Ref(Of.EDGE), tr("Edges"), trn("{n} edge", "{n} edges", len(edges)), tuple(edges)))
    return tuple(made)


def walked(parts: Iterable[Part]) -> Iterator[Part]:
    """Parts, each followed by its own."""
    for part in parts:
        yield part
        yield from walked(part.parts)


def mm_words(length: float) -> Phrase:
    """A length as the size of a part."""
    return tr("{length}", length=mm(length))


class PartTree(QTreeWidget):
    """The tree; what is current in it is chosen."""

    chosen = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.told: tuple[tuple[Part, ...], Unit] | None = None
        self.items: dict[Ref, QTreeWidgetItem] = {}
        self.setObjectName("parts")
        self.setHeaderHidden(True)
        self.setIndentation(12)
        self.setRootIsDecorated(False)
        self.setUniformRowHeights(True)
        self.setAccessibleName(say(tr("Parts of the cover")))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Expanding)
        self.currentItemChanged.connect(self._current)

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(158), LOOK.px(240))

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(120), LOOK.px(120))

    def rescale(self) -> None:
        """The text is larger or smaller now."""
        self.updateGeometry()

    def refresh(self, chosen: Ref) -> None:
        """Show the parts as they stand."""
        parts = parts_of(self.session.open_job, self.session.draft)
        told = parts, self.session.unit
        if told != self.told or self.topLevelItemCount() == 0:
            every = list(walked(parts))
            self.blockSignals(True)
            if [part.ref for part in every] == list(self.items):  # the same parts, of other sizes
                for part in every:
                    self._say(self.items[part.ref], part)
            else:
                self.clear()
                self.items = {}
                for part in parts:
                    self._added(part, None)
                self.expandAll()
            self.told = told
            self.blockSignals(False)
        self.show_chosen(chosen)

    def _say(self, item: QTreeWidgetItem, part: Part) -> None:
        """Words and size of a part, as it is shown and as it is said; what stays is not told again."""
        words = self.session.tell(part.words)
        told = f"{words}, {self.session.tell(part.size)}" if part.size else words
        if item.text(0) != words:
            item.setText(0, words)
        if item.toolTip(0) != told:
            item.setToolTip(0, told)
            item.setData(0, Qt.ItemDataRole.AccessibleTextRole, told)

    def _added(self, part: Part, under: QTreeWidgetItem | None) -> None:
        item = QTreeWidgetItem()
        self._say(item, part)
        item.setData(0, Qt.ItemDataRole.UserRole, str(part.ref))
        self.items[part.ref] = item
        if under is None:
            self.addTopLevelItem(item)
        else:
            under.addChild(item)
        for inner in part.parts:
            self._added(inner, item)

    def show_chosen(self, ref: Ref) -> None:
        """Show which part is chosen."""
        item = self.items.get(ref)
        if item is not self.currentItem():
            self.blockSignals(True)
            self.setCurrentItem(item)  # type: ignore[arg-type]  # none: nothing is chosen
            self.blockSignals(False)

    def _current(self, item: QTreeWidgetItem | None, _before: object) -> None:
        ref = next((ref for ref, known in self.items.items() if known is item), None)
        if ref is not None:
            self.chosen.emit(ref)

    def every(self) -> Iterator[Ref]:
        """All parts that can be chosen."""
        return iter(self.items)
