"""The sewn cover on its object: hover names a part, a click chooses it, a slider takes it apart and unrolls it into its flat panels."""

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QLineF, QPoint, QPointF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QLabel, QSlider, QWidget

from omnipel.bench.parts.coverview import CoverView
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.sketchview import SPOT
from omnipel.bench.parts.widgets import column, label, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cover.parts import Part, parts_of, walked
from omnipel.bench.stations.cover.rails import Rails, rails_of
from omnipel.core.draft import Draft, Drafted
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.pictures.drawing import Item, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.sheets import Sheet
from omnipel.core.pictures.unrolled import Unrolling, taken_apart
from omnipel.core.pictures.view import facing
from omnipel.core.pictures.worn import cover_sheets, level_line, lifted, uncovered
from omnipel.core.words import refs
from omnipel.core.words.phrases import listed, mm, term, tr
from omnipel.core.words.refs import Of, Ref

if TYPE_CHECKING:
    from omnipel.core.finishing.ground import Ground

SHOW = ((tr("on its object"), "both"), (tr("cover alone"), "cover"), (tr("object alone"), "object"))
Said = tuple[Facing, float, float]
"""A place on the cover as a person would say it: its side, across from the centre line of that, and down from its top edge, mm."""
GRIP = 13.0
"""A ring is taken hold of within so many px."""
STEPS = 200
"""A slider has so many steps."""


def places_asked(session: Session, feature: Feature) -> tuple[str, ...]:
    """Which of its two distances decide where something on the open job's cover lies; none where it goes with something else."""
    from omnipel.core.finishing.asked import asked_of  # loaded with the first job

    draft = session.draft
    lying = draft.cover.lying.get(feature.id) if isinstance(draft, Drafted) else None
    asked = asked_of(feature, session.open_job.cover, lying.idle if lying is not None else ())
    return tuple(name for name in ("from_centre", "from_top") if name in asked)


@dataclass(frozen=True, eq=False)
class Level:
    """A level of the object that is marked with words: so far below its top, and, with the object, so far above where it stands, mm."""

    draft: Drafted
    depth: float
    up: float
    words: str

    @cached_property
    def line(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Where it runs, `(n, 2, 3)`, and which way is out there; worked out when it is drawn."""
        body = self.draft.body
        top = max(float(face.points[:, 2].max()) for face in body.mesh().faces if face.part == "object")
        ends, out = level_line(body, top - max(self.depth, 0.02 * top))
        return ends + (0.0, 0.0, self.up), out


class PickedView(CoverView):
    """A picture whose parts are named when they are pointed at."""

    taken = Signal(object)
    """What is chosen and was put on the cover has been taken hold of."""
    carried = Signal()
    """It is carried along with the pointer."""
    dropped = Signal()
    """It is let go."""
    slid = Signal(str, float, bool)
    """An end of what the chosen seam is sewn with is dragged along it: which, to what length, and whether it is let go there."""

    def __init__(self, session: Session) -> None:
        super().__init__(tr("Picture of the sewn cover. Arrow keys turn it; the tree beside it names its parts."), session)
        self.said = ""
        self.at = QPointF()
        self.level: Level | None = None
        self.carries, self.slides = False, ""
        self.rails = Rails(Ref(Of.CHOICE))

    def extras(self, text: float) -> list[Item]:
        """The level that is marked, where it is seen."""
        if self.level is None:
            return []
        ends, out = self.level.line
        matrix = self.view.matrix()
        near = ends[out @ matrix[2] > 0.0]
        if not len(near):
            return []
        flat = near.reshape(-1, 3) @ matrix.T
        lead = flat[int(flat[:, 2].argmax())]
        label = Label((float(lead[0]), float(lead[1]) - 1.5 * text), self.level.words, text, Layer.TAPE, 0.5, strong=True)
        return [Path(flat[:, :2], Layer.TAPE, pairs=True), label]

    def tell(self, words: str, at: QPointF) -> None:
        """Name what is pointed at."""
        if (words, at) != (self.said, self.at):
            self.said, self.at = words, at
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("surface"))
        painter.setPen(QPen(LOOK.colour("accent"), 2.6))
        for _, place in self.rails.ends():
            painter.drawEllipse(self.to_screen(*(place @ self.view.matrix().T)[:2]), LOOK.px(SPOT), LOOK.px(SPOT))
        if self.said:
            lines = self.said.split("\n")
            painter.setFont(LOOK.font(14))
            high = painter.fontMetrics().height()
            wide = max(painter.fontMetrics().horizontalAdvance(line) for line in lines) + 16
            x = min(max(self.at.x() + 14.0, 4.0), self.width() - wide - 4.0)
            y = min(max(self.at.y() - high * len(lines) - 18.0, 4.0), self.height() - high * len(lines) - 12.0)
            painter.setPen(QPen(LOOK.colour("accent"), 1.2))
            painter.setBrush(LOOK.colour("surface"))
            painter.drawRoundedRect(int(x), int(y), int(wide), int(high * len(lines) + 8), 3, 3)
            painter.setPen(LOOK.colour("ink"))
            for k, line in enumerate(lines):
                painter.drawText(int(x + 8), int(y + 4 + high * (k + 1) - painter.fontMetrics().descent()), line)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        ref = self.ref_at(event.position())
        self.slides = self._end_at(event.position())
        self.carries = not self.slides and ref is not None and ref.of is Of.FEATURE and ref.whole in self.shining
        if self.carries and ref is not None:
            self.here = event.position()
            self.taken.emit(ref.whole)

    def drag(self, step: QPoint) -> None:
        if self.carries:
            self.carried.emit()
        elif self.slides:
            self._slide(done=False)
        else:
            super().drag(step)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dropped, slid = self.carries and self.moved, bool(self.slides) and self.moved
        super().mouseReleaseEvent(event)
        if dropped:
            self.dropped.emit()
        if slid:
            self._slide(done=True)
        self.carries, self.slides = False, ""

    def _end_at(self, point: QPointF) -> str:
        """Which end of what the chosen seam is sewn with is under a point of the screen."""
        near = [
            (QLineF(point, self.to_screen(*(place @ self.view.matrix().T)[:2])).length(), part)
            for part, place in self.rails.ends()
        ]
        return min(
            (one for one in near if one[0] <= LOOK.px(GRIP)),
            key=lambda one: (round(one[0]), one[1] == "start"),
            default=(0.0, ""),
        )[1]

    def _slide(self, *, done: bool) -> None:
        self.slid.emit(self.slides, self.rails.dragged(self.slides, self.view.matrix(), self.from_screen(self.here)), done)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Look at what was clicked face on; beside all, show all as at first."""
        met = self.met_at(event.position())
        self.fitted = True
        if met is not None and self.seen is not None:
            normal = self.scene.faces.normals[int(self.scene.firsts[self.scene.sheets.index(met.sheet)]) + met.facet]
            self.look_from(facing(normal))
        self.fit()


class CoverPicture(QWidget):
    """The picture, and what is shown of it."""

    chose = Signal(object)
    """A part was clicked."""
    spotted = Signal(object)
    """Where on the cover, as a person would say it: side, across, down; None beside it."""

    moved = Signal(object, object)
    """What was put on the cover has been dragged: it, and where to, as `spotted`."""
    stretched = Signal(object, float)
    """An end of what a seam is sewn with has been dragged: which length of it, and how long."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.hold: tuple[Ref, Said | None] | None = None
        self.goal: Said | None = None
        self.ground: tuple[Draft, Ground] | None = None
        self.chosen = Ref(Of.CHOICE)
        self.sketch = PickedView(session)
        self.sketch.taken.connect(self._taken)
        self.sketch.carried.connect(self._carried)
        self.sketch.dropped.connect(self._dropped)
        self.sketch.slid.connect(self._slid)
        self.sketch.hint = QSize(240, 190)
        self.sketch.pointed.connect(self._pointed)
        self.sketch.clicked.connect(self._clicked)
        self.what = combo(tr("What is shown"), SHOW, lambda _v: self.refresh())
        self.apart = QSlider(Qt.Orientation.Horizontal)
        self.apart.setRange(0, STEPS)
        self.apart.setAccessibleName(say(tr("Apart: from whole to flat panels")))
        self.apart.valueChanged.connect(lambda _v: self._show())
        self.lifted, self.outdated = 0.0, False
        self.unrolled: tuple[Draft | None, list[Unrolling], list[Sheet]] = (None, [], [])
        ends: list[QLabel] = [label(words, "soft") for words in (tr("whole"), tr("flat"))]
        bar = row(ends[0], self.apart, ends[1], spacing=8)
        bar.setStretch(1, 1)
        layout = column(self.sketch, bar, spacing=4)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def refresh(self) -> None:
        """Show the draft as it stands."""
        self.sketch.cloth = QColor(self.session.open_job.cover.cloth.colour)
        self.apart.setEnabled(isinstance(self.session.draft, Drafted))
        parts = [part.words for part in parts_of(self.session.open_job, self.session.draft)[3:] for part in part.parts]
        self.sketch.setAccessibleDescription(self.session.tell(tr("It shows {parts}.", parts=listed(parts))) if parts else "")
        self.outdated = True
        self._show()
        self.outdated = False

    def lift(self, height: float, depth: float | None, words: str) -> None:
        """Show the cover so far above where it will lie, mm; with a level of the object marked, so far below its top, in words; None: none."""
        draft = self.session.draft
        self.sketch.level = None
        if depth is not None and isinstance(draft, Drafted):
            self.sketch.level = Level(draft, depth, height if draft.cover.from_below else 0.0, words)
        if height != self.lifted:
            self.lifted = height
            if self.outdated:  # it is shown anew anyway
                return
            if height:
                self.apart.setValue(0)
            self._show()

    def light(self, chosen: Ref) -> None:
        """Let the chosen part stand out."""
        self.chosen = chosen
        self.sketch.light(frozenset({chosen}) if chosen.id else frozenset())
        self._rail()

    def _rail(self) -> None:
        """The ends of what the chosen seam is sewn with, where the cover is seen as it lies."""
        whole = not self.apart.value() and not self.lifted and self.what.value != "object"
        self.sketch.rails = rails_of(self.session, self.chosen) if whole else Rails(self.chosen)
        if not self.sketch.soon.isActive():  # else another picture is about to be drawn
            self.sketch.update()

    def _show(self) -> None:
        draft, body = self.session.draft, self.session.body
        if body is None:
            return
        lit, share = self.sketch.shining, self.apart.value() / STEPS
        self.sketch.show_other()
        if share > 0.0 or self.lifted or not isinstance(draft, Drafted) or self.what.value == "object":
            self.sketch.due.emit()  # it is shown at once
        if not isinstance(draft, Drafted) or self.what.value == "object":
            self.sketch.show_scene(uncovered(body), lit=lit)
        elif share > 0.0:
            self.sketch.level = None
            rolls, others = self._rolls(draft)
            hosts = {refs.feature(id_): lying.piece for id_, lying in draft.cover.lying.items()}
            self.sketch.show_scene(taken_apart(rolls, others, share, self.sketch.view, hosts), lit=lit)
        elif self.lifted:
            rolls, others = self._rolls(draft)
            sheets = [*(roll.sheet for roll in rolls), *others]
            scene = lifted(sheets, draft.body, self.lifted, from_below=draft.cover.from_below)
            self.sketch.show_scene(scene, lit=lit)
        else:
            self.sketch.show_cover(lit, alone=self.what.value == "cover")
        self._rail()

    def _rolls(self, draft: Drafted) -> tuple[list[Unrolling], list[Sheet]]:
        if self.unrolled[0] is not draft:
            sheets = cover_sheets(draft.cover, plain=True)
            self.unrolled = draft, [Unrolling(s) for s in sheets if s.flat], [s for s in sheets if not s.flat]
        return self.unrolled[1], self.unrolled[2]

    # Pointing

    def _pointed(self, ref: Ref | None) -> None:
        part = self._part(ref)
        words = ""
        if part is not None:
            words = self.session.tell(part.words)
            if part.size:
                words += f"\n{self.session.tell(part.size)}"
        self.sketch.tell(words, self.sketch.here)
        self.sketch.setCursor(Qt.CursorShape.PointingHandCursor if part is not None else Qt.CursorShape.ArrowCursor)

    def _part(self, ref: Ref | None) -> Part | None:
        if ref is None:
            return None
        wanted = ref.whole if ref.of in (Of.PANEL, Of.EDGE, Of.SEAM, Of.FEATURE) else ref
        parts = walked(parts_of(self.session.open_job, self.session.draft))
        return next((part for part in parts if part.ref == wanted), None)

    def _clicked(self, ref: Ref | None) -> None:
        part = self._part(ref)
        self.chose.emit(part.ref if part is not None else None)
        self.spotted.emit(self._spot())

    def _spot(self) -> Said | None:
        """Where on the cover the pointer is, as a person would say it."""
        from omnipel.core.finishing.ground import Ground  # loaded with the first job

        draft = self.session.draft
        if not isinstance(draft, Drafted) or self.apart.value():
            return None
        if self.ground is None or self.ground[0] is not draft:
            self.ground = draft, Ground(draft.cover)  # kept: it is asked at every step of the pointer
        ground = self.ground[1]
        met = self.sketch.met_at(self.sketch.here, ground.pieces.keys())
        if met is None or met.flat is None or not met.outside:
            return None
        return ground.said_at(met.sheet.name, met.flat)

    # Dragging along a seam

    def _slid(self, part: str, at: float, done: bool) -> None:
        near = self.session.open_job.cover.habits.system.near(at)
        if done:
            self.stretched.emit(self.sketch.rails.ref.at(part), near)
            self.sketch.tell("", self.sketch.here)
            return
        words = tr("from {at}", at=mm(near)) if part == "start" else tr("to {at}", at=mm(near)) if near else tr("to its end")
        self.sketch.tell(self.session.tell(words), self.sketch.here)

    # Dragging what was put on

    def _taken(self, ref: Ref) -> None:
        self.hold, self.goal = (ref, self._spot()), None

    def _carried(self) -> None:
        """It goes as far as the pointer does, by round steps; on another side to where the pointer is."""
        if self.hold is None:
            return
        (ref, grip), spot = self.hold, self._spot()
        feature = next(f for f in self.session.open_job.cover.features if f.id == ref.id)
        self.goal = None
        if not places_asked(self.session, feature):
            words = tr("it lies where the thing is that it is for") if feature.serves else tr("it follows its edge")
        elif spot is None:
            words = tr("not on the outside of the cover")
        else:
            face, across, down = spot
            if grip is not None and grip[0] is face is feature.face:
                across, down = feature.from_centre + across - grip[1], feature.from_top + down - grip[2]
            near = self.session.open_job.cover.habits.system.near
            self.goal = face, near(across), near(down)
            words = tr("{side}: {across} across, {down} down", side=term(face), across=mm(self.goal[1]), down=mm(self.goal[2]))
        self.sketch.tell(self.session.tell(words), self.sketch.here)

    def _dropped(self) -> None:
        if self.hold is not None and self.goal is not None:
            self.moved.emit(self.hold[0], self.goal)
        self.hold = None
        self.sketch.tell("", self.sketch.here)
