"""Pieces of cloth that are no rectangles: their corners, moved, added and taken off one by one."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

import shapely

from omnipel.core.job.laying import Remnant

Corner = tuple[float, float]
"""From the left end, and from the lower edge, mm."""

LEAST_AREA: Final = 100.0
"""A piece with less area is none, mm²."""


def corners(piece: Remnant) -> tuple[Corner, ...]:
    """The corners of a piece, in order around it."""
    return piece.outline or ((0.0, 0.0), (piece.length, 0.0), (piece.length, piece.width), (0.0, piece.width))


def with_corner(piece: Remnant, k: int, at: Corner) -> Remnant | None:
    """The piece with its corner k elsewhere; None where its outline would cross itself, or leave where a piece begins."""
    every = list(corners(piece))
    every[k] = at
    return _outlined(piece, every)


def with_more(piece: Remnant, k: int, at: Corner | None = None) -> Remnant | None:
    """The piece with one more corner after its corner k, at a place or halfway to the next; None as above."""
    every = list(corners(piece))
    (x, y), (to_x, to_y) = every[k], every[(k + 1) % len(every)]
    every.insert(k + 1, at or ((x + to_x) / 2.0, (y + to_y) / 2.0))
    return _outlined(piece, every)


def without_corner(piece: Remnant, k: int) -> Remnant | None:
    """The piece with its corner k cut off; None where too few are left."""
    every = list(corners(piece))
    del every[k]
    return _outlined(piece, every) if len(every) >= 3 else None


def squared(piece: Remnant) -> Remnant:
    """The rectangle around the piece."""
    return replace(piece, outline=())


def _outlined(piece: Remnant, every: list[Corner]) -> Remnant | None:
    outline = shapely.Polygon(every)
    if not outline.is_valid or outline.area < LEAST_AREA or outline.bounds[0] < 0.0 or outline.bounds[1] < 0.0:
        return None
    long, wide = outline.bounds[2], outline.bounds[3]
    box = {(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)}
    plain = len(every) == 4 and set(every) == box
    return replace(piece, length=long, width=wide, outline=() if plain else tuple(every))
