"""Outlines of letters from a typeface: the shipped one, or one that is installed."""

import os
from collections.abc import Iterator, Mapping
from functools import cache, lru_cache
from pathlib import Path
from typing import Any, Final

import numpy as np

from omnipel.core.plane.curves import Points

SHIPPED: Final = Path(__file__).parent.parent.parent / "type" / "SourceSansPro-Bold.ttf"
STEPS: Final = 8
"""A curve of a letter is drawn with so many straight steps."""


class NoLetters(ValueError):
    """A typeface that cannot be read; says why."""


@cache
def installed() -> Mapping[str, Path]:
    """The typefaces that are installed, by the names of their files without ending."""
    home = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")
    folders = (Path("/usr/share/fonts"), Path("/usr/local/share/fonts"), home / "fonts")
    files = (file for folder in folders for ending in ("ttf", "otf") for file in sorted(folder.rglob(f"*.{ending}")))
    return {file.stem: file for file in files}


@lru_cache(maxsize=64)
def lettered(text: str, cap_height: float, typeface: str = "") -> tuple[tuple[Points, ...], frozenset[str]]:
    """A line of letters, capitals so high, mm, its middle at 0, 0: closed rings as the typeface has them, and the letters that it lacks.

    `typeface` is one of those installed; "" is the shipped one.

    Raises:
        NoLetters: there is no such typeface, or it cannot be read.
    """
    font = _font(typeface)
    glyphs, known = font.getGlyphSet(), font.getBestCmap()
    scale = cap_height / _cap_height(font, glyphs, known)
    rings: list[Points] = []
    missing, at = set(), 0.0
    for letter in text:
        name = known.get(ord(letter))
        if name is None:
            missing.add(letter)
            continue
        rings += [(ring + (at, 0.0)) * scale for ring in _rings(glyphs, name)]
        at += glyphs[name].width
    drawn = [ring for ring in rings if len(ring) > 2]
    if not drawn:
        return (), frozenset(missing)
    everything = np.concatenate(drawn)
    middle = np.array(((everything[:, 0].min() + everything[:, 0].max()) / 2.0, cap_height / 2.0))
    made = tuple(np.ascontiguousarray(ring - middle) for ring in drawn)
    for ring in made:
        ring.setflags(write=False)
    return made, frozenset(missing)


@cache
def _font(typeface: str) -> Any:
    from fontTools.ttLib import TTFont, TTLibError

    file = installed().get(typeface) if typeface else SHIPPED
    if file is None:
        raise NoLetters(typeface)
    try:
        return TTFont(file, lazy=True)
    except (OSError, TTLibError) as error:
        raise NoLetters(str(error)) from None


def _cap_height(font: Any, glyphs: Any, known: Mapping[int, str]) -> float:
    """How high its capitals are, in its own units: an H, or what it says, or seven tenths of its body."""
    if ord("H") in known:
        rings = list(_rings(glyphs, known[ord("H")]))
        if rings:
            return float(max(ring[:, 1].max() for ring in rings)) or 1.0
    return float(getattr(font["OS/2"], "sCapHeight", 0) or 0.7 * font["head"].unitsPerEm)


def _rings(glyphs: Any, name: str) -> Iterator[Points]:
    """The rings of a letter, in the typeface's own units."""
    from fontTools.pens.basePen import decomposeQuadraticSegment
    from fontTools.pens.recordingPen import DecomposingRecordingPen

    pen = DecomposingRecordingPen(glyphs)
    glyphs[name].draw(pen)
    ring: list[tuple[float, float]] = []
    for verb, points in pen.value:
        match verb:
            case "moveTo":
                ring = [points[0]]
            case "lineTo":
                ring.append(points[0])
            case "curveTo":
                ring += _curve(ring[-1], *points)
            case "qCurveTo" if points[-1] is not None:
                for off, on in decomposeQuadraticSegment(points):
                    ring += _curve(ring[-1], off, on)
            case _:
                if len(ring) > 1 and ring[0] == ring[-1]:
                    ring.pop()
                yield np.array(ring, dtype=np.float64).reshape(-1, 2)
                ring = []


def _curve(*points: tuple[float, float]) -> list[tuple[float, float]]:
    """A Bézier curve's points after its first, by de Casteljau's construction."""
    made = []
    for k in range(1, STEPS + 1):
        share, left = k / STEPS, np.array(points, dtype=np.float64)
        while len(left) > 1:
            left = left[:-1] * (1.0 - share) + left[1:] * share
        made.append((float(left[0][0]), float(left[0][1])))
    return made
