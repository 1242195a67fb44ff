"""The sketch on which things that stick out are dragged to their place: begin, follow, commit or abort with Esc."""

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPoint, QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent

from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.session import Session
from omnipel.core.forms.body import WAYS
from omnipel.core.job.document import Job
from omnipel.core.job.thing import Face, SticksOut
from omnipel.core.pictures.worn import uncovered
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Of
from omnipel.shop.starter import plausible

SEEN = 0.02
"""A side that is seen more edge-on than this is not clicked on."""


class StickSketch(SketchView):
    """A sketch whose bumps can be dragged; elsewhere dragging turns it."""

    moved_to = Signal(str, float, float)
    """A thing was dropped: its id, from the centre line, from the top, mm."""
    placed_at = Signal(str, float, float)
    """A place was clicked while one is asked for: on which side, from its centre line, from the top, mm."""

    def __init__(self, session: Session) -> None:
        super().__init__(tr("Sketch of the object. Drag what sticks out to its place; drag elsewhere to turn."))
        self.session = session
        self.placing = False
        self.held: SticksOut | None = None
        self.there: SticksOut | None = None

    def refresh(self) -> None:
        """Show the job, with what is being dragged where it is now."""
        body = plausible(self._job()) if self.held is not None else self.session.body
        if body is not None:
            self.show_scene(uncovered(body))

    def _job(self) -> Job:
        job = self.session.open_job
        if self.held is None or self.there is None:
            return job
        things = tuple(self.there if t.id == self.held.id else t for t in job.thing.sticks_out)
        return replace(job, thing=replace(job.thing, sticks_out=things))

    def bump_at(self, point: QPointF) -> str:
        """The id of what sticks out under a point of the screen, "" for nothing."""
        met = self.met_at(point)
        return met.sheet.ref.id if met is not None and met.sheet.ref is not None and met.sheet.ref.of is Of.STICKS_OUT else ""

    def ask_place(self, on: bool) -> None:
        """Ask for a place: the next click on a side says where."""
        self.placing = on
        self.setCursor(Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor)

    def place_of(self, point: QPointF) -> tuple[Face, float, float] | None:
        """Where a point of the screen lies: on which side, right of its centre line and down from the top, mm; None beside the thing."""
        body = self.session.body
        if body is None:
            return None
        corners = np.concatenate([face.points for face in body.mesh().faces if face.part == "object"])
        low, high = corners.min(axis=0), corners.max(axis=0)
        middle, half = (low + high) / 2.0, (high - low) / 2.0
        for face in self._seen():
            right, down = self._on_screen(face)
            out = np.array((math.cos(WAYS[face]), math.sin(WAYS[face]), 0.0))
            origin = self.view.matrix()[:2] @ np.array((*(middle + out * half)[:2], high[2]))
            seen = np.array(self.from_screen(point)) - origin
            along, deeper = np.linalg.lstsq(np.column_stack((right, down)), seen, rcond=None)[0]
            if abs(along) <= abs(out[[1, 0]]) @ half[:2] and -0.02 <= deeper / (2.0 * half[2]) <= 1.0:
                return face, float(along), max(0.0, float(deeper))
        return None

    def _on_screen(self, face: Face) -> tuple[np.ndarray, np.ndarray]:
        """How a mm to the right along a side, and a mm down it, look on the screen."""
        matrix, way = self.view.matrix(), WAYS[face]
        return matrix[:2] @ np.array([-math.sin(way), math.cos(way), 0.0]), matrix[:2] @ np.array([0.0, 0.0, -1.0])

    def _seen(self) -> list[Face]:
        """The sides that are seen from outside, the one that is seen best first."""
        facing = {
            face: float(down[0] * right[1] - down[1] * right[0]) for face in WAYS for right, down in [self._on_screen(face)]
        }
        return sorted((face for face in WAYS if facing[face] > SEEN), key=lambda face: -facing[face])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.placing:
            place = self.place_of(event.position())
            if place is not None:
                self.placed_at.emit(*place)
            return
        super().mousePressEvent(event)
        id_ = self.bump_at(event.position())
        self.held = self.there = next((t for t in self.session.open_job.thing.sticks_out if t.id == id_), None)

    def drag(self, step: QPoint) -> None:
        if self.there is None:
            super().drag(step)
            return
        if self.there.face not in self._seen():
            return
        right, down = self._on_screen(self.there.face)
        seen = np.array([step.x(), -step.y()]) / self.zoom
        along, deeper = np.linalg.lstsq(np.column_stack((right, down)), seen, rcond=None)[0]
        there = self.there
        self.there = replace(
            there, from_centre=there.from_centre + float(along), from_top=max(0.0, there.from_top + float(deeper))
        )
        zoom, middle = self.zoom, self.middle
        self.refresh()
        self.zoom, self.middle = zoom, middle  # the picture stands still while something on it is moved

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        PictureView.mouseReleaseEvent(self, event)
        held, there = self.held, self.there
        self.held = self.there = None
        if held is not None and there is not None and self.moved and there != held:
            self.moved_to.emit(held.id, round(there.from_centre), round(there.from_top))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.held is not None:
            self.held = self.there = None
            self.refresh()
        else:
            super().keyPressEvent(event)
