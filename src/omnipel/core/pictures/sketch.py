"""The measured sketch: the object's faces projected and shaded, with tape paths and dimensions over it.

Parallel projection; the viewer stands in front (−y), turned by `yaw` about the vertical and looking down by `pitch`. Faces that
look away are left out and the rest is drawn from far to near.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import CREASE, Mesh

LIGHT = np.array([-0.45, -0.65, 0.62])


@dataclass(frozen=True, slots=True)
class View:
    """Where the sketch is seen from, radians."""

    yaw: float = 0.5
    pitch: float = 0.42

    def matrix(self) -> NDArray[np.float64]:
        """Rows: screen x, screen y, towards the viewer; `(3, 3)`."""
        cy, sy, cp, sp = math.cos(self.yaw), math.sin(self.yaw), math.cos(self.pitch), math.sin(self.pitch)
        return np.array([[cy, sy, 0.0], [-sy * sp, cy * sp, cp], [sy * cp, -cy * cp, sp]])


def sketch(mesh: Mesh, view: View, tape: Solid | None = None, words: str = "", text: float = 12.0, *, over: str = "") -> Drawing:
    """Draw a mesh, and over it the tape path in focus with start and stop.

    Args:
        mesh: faces and lines.
        view: where it is seen from.
        tape: path of the reading in focus, `(n, 3)`.
        words: the reading's value, written beside the path.
        text: height of the words, mm.
        over: parts that begin so are drawn after the others.
    """
    matrix = view.matrix()
    items: list[Item] = []
    if mesh.faces:
        towards = mesh.normals @ matrix[2]
        items = [*_faces(mesh, matrix, towards, over), _lines(mesh, matrix, towards)]
    if tape is not None and len(tape):
        items += _tape(tape, matrix, words, text)
    return Drawing(tuple(items))


def _faces(mesh: Mesh, matrix: NDArray[np.float64], towards: NDArray[np.float64], over: str) -> list[Item]:
    """Faces that look at the viewer, far to near."""
    tones = 0.45 + 0.55 * np.clip(mesh.normals @ (LIGHT / np.linalg.norm(LIGHT)), 0.0, 1.0)
    depth = mesh.middles @ matrix[2]
    if over:  # what lies close over the object is drawn after it, or neighbouring facets would show through one another
        depth = depth + np.array([face.part.startswith(over) for face in mesh.faces]) * (np.ptp(depth) + 1.0)
    order = np.argsort(depth, kind="stable")
    flat = matrix[:2].T
    return [
        Path(mesh.faces[i].points @ flat, Layer.FACE, True, mesh.faces[i].part, float(tones[i]))
        for i in order
        if towards[i] > 1e-9
    ]


def _lines(mesh: Mesh, matrix: NDArray[np.float64], towards: NDArray[np.float64]) -> Item:
    """Creases between faces that are seen, and the silhouette, as one item of separate segments."""
    ends, sides = mesh.edges
    seen = np.append(towards > 1e-9, False)  # the last stands for "no face"
    first, second = seen[sides[:, 0]], seen[sides[:, 1]]
    cosine = np.einsum("ij,ij->i", mesh.normals[sides[:, 0]], mesh.normals[sides[:, 1]])
    drawn = (first != second) | (first & second & (cosine < math.cos(CREASE)))
    return Path(ends[drawn].reshape(-1, 3) @ matrix[:2].T, Layer.OUTLINE, pairs=True)


def _tape(tape: Solid, matrix: NDArray[np.float64], words: str, text: float) -> list[Item]:
    """The path, its far side thin, an arrowhead where it stops and a bar where it starts."""
    flat = tape @ matrix.T
    path = flat[:, :2]
    if np.allclose(tape[0], tape[-1]) and len(tape) > 8:
        middle = tape.mean(axis=0) @ matrix.T
        near = flat[:, 2] >= middle[2]
        runs = _runs(near)
        items: list[Item] = [Path(path[run], Layer.TAPE, far=not near[run[0]]) for run in runs if len(run) > 1]
        lead = path[np.argmax(flat[:, 2])]
        items.append(_label(lead, words, text, below=True))
        return items
    items = [Path(path, Layer.TAPE)]
    last = path[-1] - path[-2]
    along = last / (np.hypot(*last) or 1.0)
    first = path[1] - path[0]
    start_along = first / (np.hypot(*first) or 1.0)
    across, start_across = np.array([-along[1], along[0]]), np.array([-start_along[1], start_along[0]])
    head = text * 0.8
    items.append(
        Path(
            np.array([path[-1] - along * head + across * head * 0.5, path[-1], path[-1] - along * head - across * head * 0.5]),
            Layer.TAPE,
        )
    )
    items.append(Path(np.array([path[0] - start_across * head * 0.6, path[0] + start_across * head * 0.6]), Layer.TAPE))
    items.append(_label(path[len(path) // 2] if len(path) > 2 else path.mean(axis=0), words, text, below=False))
    return items


def _label(at: NDArray[np.float64], words: str, text: float, *, below: bool) -> Label:
    drop = -1.6 * text if below else 0.4 * text
    return Label(
        (float(at[0]) + (0.0 if below else text * 0.6), float(at[1]) + drop),
        words,
        text,
        Layer.TAPE,
        0.5 if below else 0.0,
        strong=True,
    )


def _runs(flags: NDArray[np.bool_]) -> list[list[int]]:
    """Consecutive indices with the same flag, each run reaching the first index of the next."""
    runs: list[list[int]] = [[0]]
    for i in range(1, len(flags)):
        runs[-1].append(i)
        if flags[i] != flags[i - 1]:
            runs.append([i])
    return runs
