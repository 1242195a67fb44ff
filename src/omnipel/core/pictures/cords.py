"""What hangs out of casings and channels: the ends of a drawcord, a ribbon's bow."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
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

Vector = NDArray[np.float64]
"""A place or a way in space, `(3,)`."""
CHANNELS: Final = ("ribbon", "channel lower line")
"""Figures along which a ribbon runs."""
TAIL, LOOP, WIDE, CORD = 0.11, 0.05, 0.016, 0.009
"""How long an end and a loop are drawn, and how wide ribbon and cord, as shares of the cover's size: so that they can be seen."""
IN, OFF = 4.0, 0.004
"""So far from the edge one looks for the way of the cloth, mm; and so far before it a cord hangs, as a share of the size."""


@dataclass(frozen=True, slots=True)
class Foot:
    """Where cords come out: the place, the way outward, that of the cloth upward, and to places of the cloth farther and farther down."""

    at: Vector
    out: Vector
    up: Vector
    below: list[Vector]

    @property
    def falls(self) -> Vector:
        """The way in which an end hangs: plumb, unless the cloth below comes forward and bears it."""
        plumb = np.array((0.0, 0.0, -1.0))
        return max((plumb, *self.below), key=lambda way: float(way @ self.out) + (1e-6 if way is plumb else 0.0))


def cords(cover: Cover, pieces: list[Piece], size: float) -> Iterator[Sheet]:
    """The ends of cords where their casings begin, and bows where a ribbon is tied."""
    by_name = {piece.name: piece for piece in pieces}
    for edge in cover.edges:
        if edge.held_by is Hold.CORD and edge.runs and edge.runs[0].piece in by_name:
            run, fraction = Way(edge.runs, cover.flat).locate(0.0)
            curve = cover.flat[run.piece].edge(run.edge).curve
            inward = curve.heading_at(fraction) + math.pi / 2.0
            foot = _foot(by_name[run.piece], np.array(curve.at(fraction)), np.array((math.cos(inward), math.sin(inward))), size)
            yield from _tied(foot, refs.edge(edge.name), size, bow=False)
    tied = ((piece, f) for piece in pieces for f in cover.flat[piece.name].figures if f.name in CHANNELS and not piece.on)
    for piece, figure in list(tied)[:1]:
        along = figure.points[-1] - figure.points[0]
        place = figure.points[0] + along * min(0.02, IN / max(float(np.hypot(*along)), IN))
        foot = _foot(piece, place, np.array((0.0, 1.0)), size, within=True)
        yield from _tied(foot, refs.panel(piece.panel), size, bow=True)


def _foot(piece: Piece, place: Points, inward: Points, size: float, *, within: bool = False) -> Foot:
    """A place on a sewn piece, in its edge or `within` it."""
    at, above = piece.place.at(np.array((place, place + inward * IN)))
    beside = [place + inward * IN, *([place - inward * IN] if within else [])]
    out = normals(piece.place, np.array(beside)).sum(axis=0) * (-1.0 if piece.mirrored else 1.0)
    reach = np.array((IN, 0.5 * TAIL * size, TAIL * size) if within else ())
    below = [*piece.place.at(place - reach[:, None] * inward)] if within else []
    return Foot(at, _unit(out), _unit(above - at), [_unit(point - at) for point in below])


def _unit(way: Vector) -> Vector:
    made: Vector = way / (float(np.linalg.norm(way)) or 1.0)
    return made


def _tied(foot: Foot, ref: Ref, size: float, *, bow: bool) -> Iterator[Sheet]:
    aside = _unit(np.cross(foot.out, foot.up))
    wide = (WIDE if bow else CORD) * size
    start = foot.at + foot.out * OFF * size
    for side in (-1.0, 1.0):
        end = start + _unit(foot.falls + 0.35 * side * aside + 0.12 * foot.out) * TAIL * size
        yield _sheet(f"cord {side:g}", np.array((start, end)), foot.out, wide, ref)
        if bow:  # its loops stand off the cloth
            turns = np.linspace(0.0, 2.0 * math.pi, 13)
            across, off = 1.6 * LOOP * size * (1.0 - np.cos(turns)) * side, LOOP * size * np.sin(turns)
            forward = foot.out * (1.1 * LOOP * size * np.sin(turns / 2.0))[:, None]
            yield _sheet(
                f"bow {side:g}", start + across[:, None] * aside + 0.6 * off[:, None] * foot.out + forward, foot.up, wide, ref
            )


def _sheet(name: str, line: Solid, out: NDArray[np.float64], wide: float, ref: Ref) -> Sheet:
    """A ribbon flat before the cloth, each part as wide as it is across its own way."""
    rings: list[Solid] = []
    for a, b in zip(line, line[1:], strict=False):
        across = np.cross(b - a, out)
        across /= float(np.linalg.norm(across)) or 1.0
        rings.append(Ribbon(name, np.array((a, b)), across, wide).faces[0])
    return Sheet(name, Stuff.TRIM, tuple(rings), ref)
