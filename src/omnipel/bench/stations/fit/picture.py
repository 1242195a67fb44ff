"""The made cover beside the planned one: where it jams, clicked on it; and what was measured, drawn ten times as far off as it is."""

from collections.abc import Sequence
from typing import Final

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.coverview import CoverView
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import check, column, label, row
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.walking import walk
from omnipel.core.job.trying import MOST_SPOTS, Spot, TryOn
from omnipel.core.pictures.drawing import Item, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.words.phrases import NOTHING, Count, term, tr, trn

TIMES: Final = 10.0
"""What is off is drawn so many times as far."""
RING: Final = 9.0
"""A spot is a ring of this radius, px; a click within it takes it away."""
STEPS: Final = 72


class FitView(CoverView):
    """The cover with its spots."""

    spotted = Signal(str, float, float)
    """A place was clicked: on which piece, where on its flat panel, mm."""
    unspotted = Signal(str)
    """A spot was clicked: its id."""

    def __init__(self, session: Session) -> None:
        super().__init__(
            tr("The sewn cover. Click where it jams or stands off; click a ring to take it away. Arrow keys turn it."), session
        )
        self.spots: list[tuple[Spot, NDArray[np.float64]]] = []
        self.off: list[tuple[NDArray[np.float64], str]] = []
        self.clicked.connect(self._met)

    def extras(self, text: float) -> list[Item]:
        """What was made, over what was planned."""
        made: list[Item] = []
        for ends, words in self.off:
            flat = ends @ self.view.matrix().T
            made.append(Path(flat[:, :2], Layer.TAPE, closed=True))
            low = flat[int(flat[:, 1].argmin())]
            made.append(Label((float(low[0]), float(low[1]) - 1.3 * text), words, text, Layer.TAPE, 0.5))
        return made

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number, (_, at) in enumerate(self.spots, 1):
            place, radius = self._on_screen(at), LOOK.px(RING)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(LOOK.colour("surface"), 5.0))
            painter.drawEllipse(place, radius, radius)
            painter.setPen(QPen(LOOK.colour("stop"), 2.6))
            painter.drawEllipse(place, radius, radius)
            if len(self.spots) > 1:
                painter.setFont(LOOK.font(12))
                painter.drawText(place + QPointF(radius + 3.0, 4.0), str(number))
        painter.end()

    def _on_screen(self, at: NDArray[np.float64]) -> QPointF:
        x, y, _ = (at @ self.view.matrix().T).tolist()
        return self.to_screen(x, y)

    def _met(self, _ref: object) -> None:
        near = [(spot.id, (self._on_screen(at) - self.here).manhattanLength()) for spot, at in self.spots]
        hit = min(near, key=lambda one: one[1], default=("", 1e9))
        if hit[1] <= 1.5 * LOOK.px(RING):
            self.unspotted.emit(hit[0])
            return
        draft = self.session.draft
        pieces = [piece.name for piece in draft.cover.pieces if not piece.on] if isinstance(draft, Drafted) else []
        met = self.met_at(self.here, pieces)
        if met is not None and met.flat is not None:
            self.spotted.emit(met.sheet.name, float(met.flat[0]), float(met.flat[1]))


class FitPicture(QWidget):
    """The picture, and what is shown of it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.fitting = session, fitting_of(session)
        self.view = FitView(session)
        self.view.hint = QSize(230, 170)
        self.view.spotted.connect(self._spot)
        self.view.unspotted.connect(self._unspot)
        self.times = check(tr("differences drawn × 10"), lambda _on: self._show())
        self.times.setChecked(True)
        self.where = label(NOTHING, "soft", wrap=True)
        bar = row(self.where, self.times, spacing=8)
        bar.setStretch(0, 1)
        layout = column(self.view, bar, spacing=4)
        layout.setStretch(0, 1)
        self.setLayout(layout)
        self.one = TryOn()

    def refresh(self, one: TryOn) -> None:
        """Show the cover, with what was said of it at a try-on."""
        self.one = one
        draft = self.session.draft
        pieces = named(draft.cover.pieces) if isinstance(draft, Drafted) else {}
        self.view.spots = [
            (spot, pieces[spot.piece].place.at(np.array([[spot.x, spot.y]]))[0]) for spot in one.spots if spot.piece in pieces
        ]
        count = len(one.spots)
        self.where.setText(
            self.session.tell(
                trn("{n} place where it does not sit", "{n} places where it does not sit", count, n=Count(count))
                if count
                else tr("Click where it jams, pulls or stands off.")
            )
        )
        self.where.setVisible(bool(one.id))
        self._show()

    def _show(self) -> None:
        self.view.off = self._off() if self.times.isChecked() else []
        self.times.setVisible(bool(self._off()))
        if isinstance(self.session.draft, Drafted):
            self.view.show_cover(frozenset())

    def _off(self) -> list[tuple[NDArray[np.float64], str]]:
        """Openings as they were made, ten times as far off as they are: wider or tighter around, lower or higher by what hangs there."""
        making = self.fitting.making
        if making is None:
            return []
        sizes = self.fitting.sizes_at(self.one)
        made = []
        for edge in making.edges:
            key = f"edge:{edge.name}"
            if key not in self.one.made or key not in sizes:
                continue
            around = self.one.made[key] - sizes[key].planned.value
            hung = {making.flat[run.piece].name for run in edge.runs}
            heights = [
                self.one.made[name] - sizes[name].planned.value
                for name in self.one.made
                if name in sizes and any(name.startswith(f"panel:{panel}/width") for panel in hung)
            ]
            down = sum(heights) / len(heights) if heights else 0.0
            if abs(around) < 0.5 and abs(down) < 0.5:
                continue
            ring = walk(edge.runs, making.pieces, making.flat, np.linspace(0.0, 1.0, STEPS, endpoint=False))
            centre = ring.mean(axis=0)
            times = max(0.2, 1.0 + TIMES * around / sizes[key].planned.value)
            placed = centre + (ring - centre) * (times, times, 1.0) - (0.0, 0.0, TIMES * down)
            made.append((placed, self.session.tell(tr("made (× 10)"))))
        return made

    def _spot(self, piece: str, x: float, y: float) -> None:
        if len(self.one.spots) < MOST_SPOTS:
            spots: Sequence[Spot] = (*self.one.spots, Spot(piece=piece, x=x, y=y))
            self.fitting.set("spots", tuple(spots), tr("a place where it does not sit: {piece}", piece=term(piece)))

    def _unspot(self, id_: str) -> None:
        spots = tuple(spot for spot in self.one.spots if spot.id != id_)
        self.fitting.set("spots", spots, tr("a place where it did not sit, taken away"))
