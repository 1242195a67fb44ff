"""The whole order of work as a table: what is done where, how long it takes, why it stands there; steps are moved as far as that is lawful."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Final

from PySide6.QtCore import QAbstractTableModel, QMimeData, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtGui import QBrush, QFont, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableView, QVBoxLayout, QWidget

from omnipel.bench.parts.announce import announce
from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.flow import flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.scrolled import Roomed
from omnipel.bench.parts.widgets import button, column, label, scrolled
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.bench.stations.sew.paces import PacesDialog
from omnipel.core.sewing.moving import because, dearer, moved, reasons, refusal, room_words
from omnipel.core.sewing.order import NotLawful
from omnipel.core.sewing.plan import Plan, Step
from omnipel.core.sewing.saying import changeover_words, rig_words, span_words, step_sum
from omnipel.core.words.phrases import NOTHING, Count, Minutes, Phrase, tr, trn

COLUMNS: Final = (tr("step"), NOTHING, tr("where"), tr("time"), tr("why here"))
NUMBER, WORDS, WHERE, TIME, WHY = range(len(COLUMNS))
LOW: Final = 380
"""With less height than this, px at 100 %, the whole page is scrolled."""
NARROW: Final = 440
"""A table less wide than this, px at 100 %, leaves out why a step stands where it does."""
MIME: Final = "application/x-omnipel-step"
Index = QModelIndex | QPersistentModelIndex
NOWHERE: Final = QModelIndex()


class StepModel(QAbstractTableModel):
    """The steps of a plan, one in each row."""

    dropped = Signal(str, int)
    """A step, by its key, is to stand at another place, counted from 0 with the step itself still where it is."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.plan: Plan | None = None
        self.done: frozenset[str] = frozenset()

    def show_plan(self, plan: Plan, done: frozenset[str]) -> None:
        """Show a plan."""
        self.beginResetModel()
        self.plan, self.done = plan, done
        self.endResetModel()

    def rowCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() or self.plan is None else len(self.plan.steps)

    def columnCount(self, parent: Index = NOWHERE) -> int:
        return len(COLUMNS)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation is Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return say(COLUMNS[section])
        if orientation is Qt.Orientation.Horizontal and role == Qt.ItemDataRole.TextAlignmentRole:
            return int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        return None

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if self.plan is None or not index.isValid():
            return None
        step = self.plan.steps[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return self.session.sentence(self._words(self.plan, step, index.column()))
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return self.session.tell(self._aloud(self.plan, step))
        if role == Qt.ItemDataRole.ForegroundRole:
            return QBrush(LOOK.colour("soft" if step.key in self.done or index.column() in (WHERE, WHY) else "ink"))
        if role == Qt.ItemDataRole.FontRole and index.column() in (NUMBER, WORDS):
            return LOOK.font(14, QFont.Weight.DemiBold if step.changeover or step.number == 1 else QFont.Weight.Normal)
        return None

    def _words(self, plan: Plan, step: Step, of: int) -> Phrase | Minutes:
        if of == NUMBER:
            return tr("✓ {n}", n=Count(step.number)) if step.key in self.done else tr("{n}", n=Count(step.number))
        if of == WORDS:
            return step.operation.words
        if of == WHERE:
            return rig_words(step.rig)
        return Minutes(step.likely.likely) if of == TIME else because(plan, step)

    def _aloud(self, plan: Plan, step: Step) -> Phrase:
        """A whole row, read out."""
        done = tr("done") if step.key in self.done else tr("to do")
        return tr(
            "{n}: {words}; {where}; {minutes}; {done}; {why}",
            n=Count(step.number),
            words=step.operation.words,
            where=self._words(plan, step, WHERE),
            minutes=Minutes(step.likely.likely),
            done=done,
            why=because(plan, step),
        )

    def flags(self, index: Index) -> Qt.ItemFlag:
        on = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsDragEnabled
        return on if index.isValid() else Qt.ItemFlag.ItemIsDropEnabled

    def supportedDropActions(self) -> Qt.DropAction:
        return Qt.DropAction.MoveAction

    def mimeTypes(self) -> list[str]:
        return [MIME]

    def mimeData(self, indexes: Any) -> QMimeData:
        made = QMimeData()
        if self.plan is not None and indexes:
            made.setData(MIME, self.plan.steps[indexes[0].row()].key.encode())
        return made

    def dropMimeData(self, data: QMimeData, action: Qt.DropAction, row: int, column_: int, parent: Index) -> bool:
        if not data.hasFormat(MIME):
            return False
        key = bytes(data.data(MIME).data()).decode()
        self.dropped.emit(key, row if row >= 0 else parent.row() if parent.isValid() else self.rowCount())
        return False  # the plan is made anew; the view must not take the row away


class StepTable(QTableView):
    """The table; Alt with the arrows moves a step, dragging too."""

    stepped = Signal(int)
    """The chosen step is to stand so many places later."""
    opened = Signal()
    """The chosen step is to be looked at."""

    def __init__(self, model: StepModel) -> None:
        super().__init__()
        self.setObjectName("steps")
        self.setModel(model)
        self.setAccessibleName(say(tr("All steps")))
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setDragDropOverwriteMode(False)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.setWordWrap(True)
        self.verticalHeader().hide()
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        head = self.horizontalHeader()
        head.setHighlightSections(False)
        head.setSectionsClickable(False)
        head.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.doubleClicked.connect(lambda _index: self.opened.emit())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.fit()

    def fit(self) -> None:
        """Give the columns their widths."""
        narrow = self.viewport().width() < LOOK.px(NARROW)  # why a step stands where it does is said of the chosen one below
        number, time = LOOK.px(34 if narrow else 48), LOOK.px(74)
        rest = max(1, self.viewport().width() - number - time)
        self.setColumnHidden(WHY, narrow)
        words, where = (rest - LOOK.px(64), LOOK.px(64)) if narrow else (int(rest * 0.48), int(rest * 0.18))
        for k, wide in enumerate((number, words, where, time, rest - words - where)):
            self.setColumnWidth(k, wide)
        self.verticalHeader().setMinimumSectionSize(LOOK.px(26))
        self.resizeRowsToContents()
        self.scrollTo(self.currentIndex())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()), 0)
        if by and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            self.stepped.emit(by)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.opened.emit()
        else:
            super().keyPressEvent(event)


class PlanMode(Roomed):
    """The table, and what there is to say about the chosen step."""

    def __init__(self, session: Session, look: Callable[[str], None]) -> None:
        super().__init__()
        self.session, self.sewing, self.look = session, sewing_of(session), look
        self.model = StepModel(session)
        self.model.dropped.connect(self._dropped)
        self.table = StepTable(self.model)
        self.table.stepped.connect(self._step)
        self.table.opened.connect(self._open)
        self.table.selectionModel().currentChanged.connect(lambda *_: self._told())
        self.head, self.sum, self.room = label(NOTHING, "head", wrap=True), label(NOTHING, wrap=True), label(NOTHING, wrap=True)
        self.refused, self.why = label(NOTHING, "look", wrap=True), label(NOTHING, "soft", wrap=True)
        self.earlier = button(tr("Earlier"), lambda: self._step(-1), tip=tr("Alt+Up"))
        self.later = button(tr("Later"), lambda: self._step(1), tip=tr("Alt+Down"))
        self.show_it = button(tr("Look at it"), self._open, tip=tr("Enter"))
        self.back = button(tr("Back to the proposed order"), self._proposed)
        self.paces = button(tr("Your paces…"), self._paces)
        self.over = label(NOTHING, "soft", wrap=True)
        told = QWidget()
        inside = column(self.head, self.sum, self.room, self.refused, self.why, spacing=4)
        inside.addStretch(1)
        told.setLayout(inside)
        self.below = scrolled(told)
        self.table.setMinimumHeight(LOOK.px(190))
        whole = QVBoxLayout(self)
        whole.setContentsMargins(8, 8, 8, 8)
        whole.setSpacing(8)
        whole.addWidget(self.over)
        whole.addWidget(self.table, 3)
        whole.addWidget(self.below, 1)
        whole.addLayout(flow(self.earlier, self.later, self.show_it, self.back, self.paces))
        self.shown: object = None
        self.not_there: tuple[object, Phrase] = None, NOTHING

    def stand_in(self, wide: int, high: int) -> None:
        """Take the room that is left, px: where it is low the page scrolls, and what is said of a step does not by itself."""
        low = high < LOOK.px(LOW)
        self.below.setMinimumHeight(0 if low else LOOK.px(120))
        self.below.show_whole(low)

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """The table, then what is done about a step."""
        return (self.table, self)

    def enter(self) -> None:
        """Somebody looks at the plan: the step that is due is chosen."""
        self.shown = None
        self.refresh()
        current = self.sewing.current
        self.choose(current.key if current is not None else "")
        self.table.setFocus()

    def refresh(self) -> None:
        """Show the plan as it stands."""
        plan, done = self.sewing.plan, self.sewing.done
        if plan is None:
            return
        known = (plan, done, self.session.unit)
        if known != self.shown:
            key, self.shown = self.key, known
            self.model.show_plan(plan, done)
            self.table.fit()
            self.choose(key)
        self.over.setText(self.session.tell(changeover_words(plan)))
        self.back.setEnabled(bool(self.session.open_job.sewing.order))
        self._told()

    @property
    def key(self) -> str:
        """The key of the chosen step; none where none is."""
        step = self.step
        return step.key if step is not None else ""

    @property
    def step(self) -> Step | None:
        """The chosen step."""
        plan, row = self.model.plan, self.table.currentIndex().row()
        return plan.steps[row] if plan is not None and 0 <= row < len(plan.steps) else None

    def choose(self, key: str) -> None:
        """Choose a step by its key, the first where it is not there."""
        plan = self.model.plan
        if plan is not None and plan.steps:
            number = plan.by_key[key].number if key in plan.by_key else 1
            self.table.setCurrentIndex(self.model.index(number - 1, WORDS))

    def _told(self) -> None:
        plan, step, tell = self.model.plan, self.step, self.session.sentence
        self.refused.setVisible(False)
        if step is not None and self.not_there[0] == (plan, step.key):
            self.refused.setText(tell(self.not_there[1]))
            self.refused.setVisible(True)
        if plan is None or step is None:
            return
        self.head.setText(tell(tr("{n}: {words}", n=Count(step.number), words=step.operation.words)))
        self.sum.setText(tell(tr("{sum} ({span})", sum=step_sum(plan, step), span=span_words(step.likely))))
        self.room.setText(tell(room_words(plan, step)))
        self.why.setText("\n".join(tell(line) for line in reasons(plan, step)))
        self.earlier.setEnabled(step.number > 1)
        self.later.setEnabled(step.number < len(plan.steps))

    def _open(self) -> None:
        if self.key:
            self.look(self.key)

    def _step(self, by: int) -> None:
        if self.step is not None:
            self._move(self.key, self.step.number - 1 + by)

    def _dropped(self, key: str, to: int) -> None:
        plan = self.model.plan
        if plan is not None and key in plan.by_key:
            at = plan.by_key[key].number - 1
            self._move(key, to - 1 if to > at else to)

    def _move(self, key: str, to: int) -> None:
        plan = self.model.plan
        if plan is None or not 0 <= to < len(plan.steps) or to == plan.by_key[key].number - 1:
            return
        step = plan.by_key[key]
        try:
            keys = moved(plan, key, to)
        except NotLawful as error:
            self.choose(key)
            self.not_there = (plan, key), refusal(plan, error)
            self._told()
            announce(self.table, self.refused.text(), now=True)
            return
        more = dearer(plan, keys)
        if self.sewing.order(keys, tr("step moved: {step}", step=step.operation.words)):
            self.choose(key)
            told = tr("{step}: now number {n}", step=step.operation.words, n=Count(to + 1))
            cost = trn("{n} changeover more", "{n} changeovers more", more) if more > 0 else tr("no changeover more")
            self.session.say("note", tr("{moved}, {cost}", moved=told, cost=cost))

    def _proposed(self) -> None:
        self.sewing.order((), tr("the proposed order of work"))

    def _paces(self) -> None:
        with chosen(PacesDialog(self, self.session)) as good:
            if good:
                self.refresh()
