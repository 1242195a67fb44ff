"""What hangs out of casings and channels: the ends of a drawcord, a ribbon's bow."""

import math
from collections.abc import Iterator
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Way
from omnipel.core.job.edges import Hold
from omnipel.core.pictures.sheets import Sheet, Stuff
from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Solid
from omnipel.core.space.placements import normals
from omnipel.core.space.ribbons import Ribbon
from omnipel.core.words import refs
from omnipel.core.words.refs import Ref

CHANNELS: Final = ("ribbon", "channel lower line")
"""Figures along which a ribbon runs."""
TAIL, LOOP, WIDE, CORD = 0.11, 0.05, 0.016, 0.009
"""How long an end and a loop are drawn, and how wide ribbon and cord, as shares of the cover's size: so that they can be seen."""
IN, OFF = 4.0, 0.004
"""So far from the edge one looks for the way of the cloth, mm; and so far before it a cord hangs, as a share of the size."""


def cords(cover: Cover, pieces: list[Piece], size: float) -> Iterator[Sheet]:
    """The ends of cords where their casings begin, and bows where a ribbon is tied."""
    by_name = {piece.name: piece for piece in pieces}
    for edge in cover.edges:
        if edge.held_by is Hold.CORD and edge.runs and edge.runs[0].piece in by_name:
            run, fraction = Way(edge.runs, cover.flat).locate(0.0)
            curve = cover.flat[run.piece].edge(run.edge).curve
            inward = curve.heading_at(fraction) + math.pi / 2.0
            foot = _foot(by_name[run.piece], np.array(curve.at(fraction)), np.array((math.cos(inward), math.sin(inward))))
            yield from _tied(foot, refs.edge(edge.name), size, bow=False)
    tied = ((piece, f) for piece in pieces for f in cover.flat[piece.name].figures if f.name in CHANNELS and not piece.on)
    for piece, figure in list(tied)[:1]:
        along = figure.points[-1] - figure.points[0]
        place = figure.points[0] + along * min(0.02, IN / max(float(np.hypot(*along)), IN))
        foot = _foot(piece, place, np.array((0.0, 1.0)))
        yield from _tied(foot, refs.panel(piece.panel), size, bow=True)


def _foot(piece: Piece, place: Points, inward: Points) -> tuple[Solid, Solid, Solid]:
    """A place on a sewn piece: where it is, outward there, and the way of the cloth away from `inward`."""
    at = piece.place.at(np.array((place, place + inward * IN)))
    out = normals(piece.place, (place + inward * IN)[None])[0] * (-1.0 if piece.mirrored else 1.0)
    down = at[0] - at[1]
    return at[0], out, down / (float(np.linalg.norm(down)) or 1.0)


def _tied(foot: tuple[Solid, Solid, Solid], ref: Ref, size: float, *, bow: bool) -> Iterator[Sheet]:
    at, out, down = foot
    aside = np.cross(down, out)
    aside /= float(np.linalg.norm(aside)) or 1.0
    wide = (WIDE if bow else CORD) * size
    start = at + out * OFF * size
    falls = np.array((0.0, 0.0, -1.0)) if abs(out[2]) < 0.9 else down
    for side in (-1.0, 1.0):
        way = falls + 0.35 * side * aside + 0.12 * out
        end = start + way / np.linalg.norm(way) * TAIL * size
        yield _sheet(f"cord {side:g}", np.array((start, end)), out, wide, ref)
        if bow:
            turns = np.linspace(0.0, 2.0 * math.pi, 13)
            across, up = 1.6 * LOOP * size * (1.0 - np.cos(turns)) * side, LOOP * size * np.sin(turns)
            loop = start + across[:, None] * aside - up[:, None] * falls + 0.3 * np.abs(across)[:, None] * out
            yield _sheet(f"bow {side:g}", loop, out, wide, ref)


def _sheet(name: str, line: Solid, out: NDArray[np.float64], wide: float, ref: Ref) -> Sheet:
    """A ribbon flat before the cloth, each part as wide as it is across its own way."""
    rings: list[Solid] = []
    for a, b in zip(line, line[1:], strict=False):
        across = np.cross(b - a, out)
        across /= float(np.linalg.norm(across)) or 1.0
        rings.append(Ribbon(name, np.array((a, b)), across, wide).faces[0])
    return Sheet(name, Stuff.TRIM, tuple(rings), ref)
