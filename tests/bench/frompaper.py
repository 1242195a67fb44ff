"""Cut sizes in inches, read back from a printed pattern."""

import io
import math

import numpy as np
from pdfminer.high_level import extract_pages, extract_text
from pdfminer.layout import LTCurve, LTTextContainer

from omnipel.core.words.notation import parse_length
from omnipel.core.words.units import Unit

POINT = 1.0 / 72.0
TILE = (841.0 - 30.0) / 25.4
"""The frame of a tile on the largest paper, in."""
T = 0.5 / 25.4
"""Thickness of the cloth a new job begins with, in."""


def drawn(pdf: bytes, panel: str) -> tuple[float, float]:
    """Length and height in inches of a panel's cut line, measured on its own sheet."""
    for page in extract_pages(io.BytesIO(pdf)):
        words = [box.get_text() for box in page if isinstance(box, LTTextContainer)]
        if any(text.casefold().startswith(f"{panel}, cut ") and "print at 100" in text for text in words):
            sizes = [
                np.ptp(np.array(item.pts), axis=0) * POINT for item in page if isinstance(item, LTCurve) and len(item.pts) > 3
            ]
            inside = [s for s in sizes if s[0] < TILE - 0.1]
            return tuple(max(inside, key=lambda s: s[0] * s[1]))
    raise AssertionError(f"no sheet of {panel}")


def told(pdf: bytes, panel: str) -> tuple[float, float]:
    """Cut length and height of a panel in inches as the cutting sheet says."""
    lines = [
        line.strip()
        for line in extract_text(io.BytesIO(pdf), page_numbers=[0, 1]).replace("\xa0", " ").splitlines()
        if line.strip()
    ]
    at = next(i for i, line in enumerate(lines) if line.split("  ")[0] == panel or line.startswith(f"{panel} "))
    cut = next(line for line in lines[at:] if line.startswith("cut ") and "×" in line)
    first, second = cut.removeprefix("cut ").split("finished")[0].split("×")
    return tuple(parse_length(text.strip().removesuffix(" in"), Unit.INCH_16) / 25.4 for text in (first, second))


def sixteenth(length: float) -> float:
    return math.floor(length * 16.0 + 0.5) / 16.0
