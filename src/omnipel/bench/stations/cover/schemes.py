"""The lawful schemes side by side: the real cover small, panels, seam metres, cloth, hardest seam."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial

import shapely
from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QFont, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QWidget

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.heard import GROUP
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import thumbnail
from omnipel.bench.parts.widgets import emptied
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.covers import SCHEMES, following, schemes_for
from omnipel.core.covers.scheme import Scheme
from omnipel.core.covers.starting import begins_with, usual_choices, with_cloth
from omnipel.core.draft import Draft, Drafted
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Trued
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.view import View
from omnipel.core.plane.curves import Arc
from omnipel.core.words.phrases import Area, Phrase, Ratio, Run, mm, tr, trn
from omnipel.core.words.typeset import held
from omnipel.work.requests import pictured

NEARLY_STRAIGHT = 3000.0
"""A seam of a larger radius sews like a straight one, mm."""
PAUSE_MS = 180
"""The candidates are drafted again when typing has paused for this long."""


def with_scheme(job: Job, scheme: Scheme) -> Job:
    """The job cut by another scheme; what somebody chose stays, but what only belonged to a scheme begins afresh, or goes with it."""
    cover, before = job.cover, SCHEMES.get(job.cover.scheme)
    start = {key: value for key, value in begins_with(scheme, cover.habits).items() if key != "cloth"}
    if before is not None:
        then, now = (usual_choices(each, cover.habits) for each in (before, scheme))
        begun = {key for key in begins_with(before, cover.habits) if getattr(cover, key) == getattr(then, key)}
        start = {key: getattr(now, key) for key in begun - {"cloth"}} | start
        if cover.cloth == then.cloth:
            cover = with_cloth(cover, now.cloth)
    return replace(job, cover=replace(cover, **{**start, "scheme": scheme.key, "options": {}, "overrides": ()}))


@dataclass(frozen=True, slots=True)
class Figures:
    """What a scheme comes to."""

    panels: int
    seam_mm: float
    cloth_mm2: float
    hardest: Phrase


def figures_of(drafted: Draft) -> Figures:
    """Panels, seam length, cloth, and the seam that is hardest to sew."""
    outer = [p for p in drafted.panels if p.cloth is Cloth.OUTER]
    cloth = sum(shapely.Polygon(cut_line(p)).area * p.count for p in outer)
    hardest = max(drafted.seams, key=lambda trued: _trouble(trued, drafted), default=None)
    return Figures(
        sum(p.count for p in outer),
        sum(t.length_b * t.times for t in drafted.seams),
        cloth,
        _why(hardest, drafted) if hardest else tr("no seam"),
    )


def _trouble(trued: Trued, drafted: Draft) -> float:
    """How hard a seam is: gathers first, then tight rings, then corners, then length."""
    bent = _bent(trued, drafted)
    return 5.0 * (trued.seam.ratio > 1.001) + 400.0 * bent + 0.3 * len(trued.seam.b) + trued.length_b / 20_000.0


def _bent(trued: Trued, drafted: Draft) -> float:
    """How tight the curve is that a seam runs along, 1/mm."""
    flat = drafted.cover.flat if isinstance(drafted, Drafted) else {}
    edges = (flat[run.piece].edge(run.edge).curve for run in trued.seam.b if run.piece in flat)
    return max((abs(e.curvature) for e in edges if isinstance(e, Arc)), default=0.0)


def _why(trued: Trued, drafted: Draft) -> Phrase:
    bent = _bent(trued, drafted)
    if trued.seam.ratio > 1.001:
        return tr("gathers {ratio}", ratio=Ratio(trued.seam.ratio, 1))
    if bent > 1.0 / NEARLY_STRAIGHT:
        radius = mm(1.0 / bent)
        return tr("ring of radius {radius}", radius=radius) if trued.seam.ring else tr("curve of radius {radius}", radius=radius)
    corners = len(trued.seam.b) - 1
    return trn("{n} corner in one seam", "{n} corners in one seam", corners) if corners else tr("straight seams only")


class SchemeStrip(QWidget):
    """A card for each scheme that serves the form."""

    heard_as = GROUP

    picked = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setAccessibleName(say(tr("Schemes")))
        self.session = session
        self.cards: list[SchemeCard] = []
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(0, 0, 0, 0)
        self.row.setSpacing(8)
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(PAUSE_MS)
        self.timer.timeout.connect(self.draft_now)

    def refresh(self) -> None:
        """Show which is chosen now; draft the others when there is a pause."""
        job = self.session.open_job
        form = FORMS.get(job.thing.form)
        able = following(form, self.session.body) if form else []
        serving = [s for s in schemes_for(form) if s in able or s.key == job.cover.scheme] if form else []
        if [card.scheme for card in self.cards] != serving:
            emptied(self.row)
            self.cards = [SchemeCard(scheme) for scheme in serving]
            for card in self.cards:
                card.clicked.connect(lambda _checked=False, k=card.scheme.key: self.picked.emit(k))
                self.row.addWidget(card)
            self.row.addStretch(1)
        for card in self.cards:
            card.setChecked(card.scheme.key == job.cover.scheme)  # paints it where that changes it
        self.timer.start()

    def draft_now(self) -> None:
        """Draft every candidate as it would come out, behind the window, one after another: who types meanwhile has the processor."""
        session = self.session
        if session.job is None:
            return
        for card in self.cards:
            if card.scheme.key != session.open_job.cover.scheme:
                other = with_scheme(session.open_job, card.scheme)
                session.works.ask(("scheme", card.scheme.key), pictured, other, partial(self._show, card), session.fault)
            elif session.draft is not None:
                # Its picture is shown beside this card, too.
                own = isinstance(session.draft, Drafted)
                drawing = drawn(session.pictures.small(), View()) if own else Drawing(())
                card.show_draft(session.draft, drawing, session)

    def _show(self, card: "SchemeCard", made: tuple[Draft, Drawing]) -> None:
        """Show what a candidate comes to."""
        self.session.drafts.keep(made[0])
        if card in self.cards:
            card.show_draft(*made, self.session)


MARK = "✓ "
NARROW, ROWS = 200, 3
"""Why a scheme does not come out yet is said in so many rows of this width, px."""


def in_rows(words: str, metrics: QFontMetrics, wide: int) -> list[str]:
    """Words in rows of a width; what is left over stands in the last."""
    rows: list[str] = []
    for word in held(words).split(" "):
        longer = f"{rows[-1]} {word}" if rows else word
        if rows and (len(rows) == ROWS or metrics.horizontalAdvance(longer) <= wide):
            rows[-1] = longer
        else:
            rows.append(word)
    return rows


class SchemeCard(Entered, QAbstractButton):
    """One scheme: the real cover small, its name and figures."""

    def __init__(self, scheme: Scheme) -> None:
        super().__init__()
        self.scheme = scheme
        self.picture = thumbnail(Drawing(()))
        self.painted: tuple[tuple[object, ...], QPixmap] = ((), QPixmap())
        self.cloth = QColor("#9db08a")
        self.lines: tuple[str, ...] = ()
        self.why = ""
        self.setCheckable(True)
        self.setAutoExclusive(True)  # one of them: told as a radio button
        self.setToolTip(say(scheme.about))
        self.setAccessibleName(f"{say(scheme.words)}. {say(scheme.about)}")
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)

    def show_draft(self, drafted: Draft, drawing: Drawing, session: Session) -> None:
        """Show what this scheme comes to."""
        self.cloth = QColor(drafted.job.cover.cloth.colour)
        if isinstance(drafted, Drafted):
            self.picture = thumbnail(drawing)
            f = figures_of(drafted)
            pieces = trn("{n} piece · {seam} seam", "{n} pieces · {seam} seam", f.panels, seam=Run(f.seam_mm))
            self.lines = (session.tell(pieces), session.tell(Area(f.cloth_mm2)), session.tell(f.hardest))
            self.why = ""
        else:
            self.picture, self.lines = thumbnail(Drawing(())), ()
            self.why = session.sentence(next((found.text for found in drafted.findings), tr("not yet")))
        told = self.why or ". ".join(self.lines)
        self.setAccessibleName(f"{say(self.scheme.words)}. {say(self.scheme.about)} {told}")
        self.setToolTip(f"{say(self.scheme.about)}\n{self.why}" if self.why else say(self.scheme.about))
        self.updateGeometry()
        self.update()

    def _written(self) -> Iterator[tuple[str, QFont]]:
        """Its lines, each with its type."""
        yield (MARK if self.isChecked() else "") + say(self.scheme.words), LOOK.font(14, QFont.Weight.DemiBold)
        for words in self.lines or in_rows(self.why, QFontMetrics(LOOK.font(12)), LOOK.px(NARROW)):
            yield words, LOOK.font(12)

    @property
    def _indent(self) -> int:
        """Where its words begin: beside its picture, if there is one."""
        return 14 if self.why else LOOK.px(62) + 14

    def sizeHint(self) -> QSize:
        # As wide whether it is the chosen one or not.
        wide = max(QFontMetrics(font).horizontalAdvance(words.removeprefix(MARK)) for words, font in self._written())
        wide += QFontMetrics(LOOK.font(14)).horizontalAdvance(MARK)
        return QSize(min(max(LOOK.px(196), self._indent + 12 + wide), LOOK.px(300)), LOOK.px(86))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("surface"))
        ring = LOOK.colour("accent" if self.isChecked() or self.hasFocus() else "soft")
        painter.setPen(QPen(ring, 3.0 if self.isChecked() else 2.0 if self.hasFocus() else 1.0))
        painter.drawRoundedRect(self.rect().adjusted(2, 2, -2, -2), 4, 4)
        if not self.why:
            painter.drawPixmap(8, 8, self._pixmap(LOOK.px(62), self.height() - 16, painter.device().devicePixelRatioF()))
        left = self._indent
        y, room = LOOK.px(24), self.width() - left - 8
        for i, (words, font) in enumerate(self._written()):
            painter.setFont(font)
            painter.setPen(LOOK.colour("ink" if i == 0 else "soft"))
            painter.drawText(left, y, painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room))
            y += LOOK.px(18 if i == 0 else 16)
        painter.end()

    def _pixmap(self, wide: int, high: int, fineness: float) -> QPixmap:
        """Its picture, painted once for a size and a look."""
        asked = (self.picture, wide, high, fineness, self.cloth.rgb(), LOOK.colours)
        if asked != self.painted[0]:
            self.painted = asked, self.picture.pixmap(wide, high, fineness, self.cloth)
        return self.painted[1]

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Right, Qt.Key.Key_Left):
            (self.focusNextChild if event.key() == Qt.Key.Key_Right else self.focusPreviousChild)()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        super().mousePressEvent(event)
