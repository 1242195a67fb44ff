"""A tape path over a picture in space, with its value."""

import numpy as np
from numpy.typing import NDArray

from omnipel.core.pictures.drawing import Item, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.view import View
from omnipel.core.space.frames import Solid


def over(tape: Solid, view: View, words: str, text: float) -> list[Item]:
    """A tape path, to be drawn over a picture: its far side thin, an arrowhead where it stops, a bar where it starts, words beside it.

    Args:
        tape: the path, `(n, 3)`.
        view: where it is seen from.
        words: the reading's value.
        text: height of the words, mm.
    """
    matrix = view.matrix()
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
