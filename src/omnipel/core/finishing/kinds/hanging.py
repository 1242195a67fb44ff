"""What hangs on a cover, where it lies in space: handles as bows of their own length, loops standing out, straps and ties hanging down."""

import math
from collections.abc import Iterator
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.finishing.kind import Put
from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Frame, vector
from omnipel.core.space.placements import STEP, normals
from omnipel.core.space.ribbons import Ribbon, bow, in_frame

OFF: Final = 1.0
"""Hanging things lie so far off the cloth, mm."""
LEVEL: Final = 0.7
"""A surface whose normal rises by more than this lies level: nothing hangs down there, it lies on it."""
SPLAYED: Final = 0.15
"""Two ties at one place are spread by so much of their length to each side."""
OPEN: Final = 3.0
"""The two halves of a loop are so far apart at its foot, mm."""


def frame_at(put: Put, at: Points, right: NDArray[np.float64]) -> Frame:
    """The plane that touches the cover at a flat place `(2,)` of its piece: a flat direction is its right, the inside of the panel or what is up is up."""
    place = put.spot.piece.place
    point = place.at(at[None, :])[0]
    out = normals(place, at[None, :])[0] * (-1.0 if put.spot.piece.mirrored else 1.0)
    ends = place.at(np.array([at + right * STEP, at - right * STEP]))
    along = ends[0] - ends[1]
    along = along / (float(np.linalg.norm(along)) or 1.0)
    return Frame(vector(point + OFF * out), vector(along), vector(np.cross(out, along)))


def here(put: Put, x: float = 0.0, y: float = 0.0) -> Frame:
    """The same at a place of its own frame, its right and its up as one looks at the cover."""
    return frame_at(put, put.spot.flat(np.array([(x, y)]))[0], put.spot.right)


def at_edge(put: Put, edge: str, share: float) -> Frame:
    """The same where it is caught in an edge: along that, to the right as one looks at the cover."""
    curve = put.host.edge(edge).curve
    heading = curve.heading_at(min(max(share, 1e-6), 1.0 - 1e-6))
    along = np.array((math.cos(heading), math.sin(heading)))
    return frame_at(put, np.array(curve.at(share)), along if along @ put.spot.right >= 0.0 else -along)


def handle(put: Put, name: str, frame: Frame, span: float, length: float) -> Ribbon:
    """A bow of its own length over where its ends are, standing off the cover."""
    standing = Frame(frame.origin, frame.right, frame.out)
    return in_frame(name, standing, bow(span, length), put.habit("webbing"))


def loop(put: Put, name: str, frame: Frame, stands: float) -> Ribbon:
    """Both ends together, standing out by so much: up one way and back the other."""
    half = OPEN / 2.0
    line = np.array([(-half, 0.0), (-half, stands), (half, stands), (half, 0.0)])
    return in_frame(name, Frame(frame.origin, frame.up, frame.out), line, put.habit("webbing"))


def strap(put: Put, name: str, frame: Frame, length: float) -> Ribbon:
    """One end, hanging down."""
    return _hung(name, frame, length, 0.0, put.habit("webbing"))


def ties(put: Put, name: str, frame: Frame, length: float) -> Iterator[Ribbon]:
    """Two, a little spread."""
    for side in (-SPLAYED, SPLAYED):
        yield _hung(name, frame, length, side, put.habit("tie width"))


def _hung(name: str, frame: Frame, length: float, aside: float, wide: float) -> Ribbon:
    out, right = np.array(frame.out), np.array(frame.right)
    down = np.array((0.0, 0.0, -1.0)) if abs(frame.out[2]) < LEVEL else -np.array(frame.up)
    way = down + aside * right
    way /= np.linalg.norm(way)
    across = np.cross(way, out)
    across /= float(np.linalg.norm(across)) or 1.0
    foot = np.array(frame.origin)
    return Ribbon(name, np.array([foot, foot + way * length]), across, wide)
