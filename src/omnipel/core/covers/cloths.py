"""Cloths that some schemes start with, and the allowance each kind is sewn with."""

from omnipel.core.job.document import ClothChoice, ClothKind
from omnipel.core.words.phrases import Rule

QUILTING = ClothChoice(
    name="quilting cotton", kind=ClothKind.COTTON, colour="#b98a7a", thickness=0.3, usable_width=1100.0, gather_limit=3.0
)
"""Gathers 3 : 1."""
SHIRTING = ClothChoice(
    name="cotton shirting", kind=ClothKind.COTTON, colour="#b9a36d", thickness=0.3, usable_width=1400.0, gather_limit=4.0
)
"""Fine enough to draw in to the neck."""
SOFT = ClothChoice(kind=ClothKind.GENERAL)
"""For what is filled or padded."""
WIDE = ClothChoice(usable_width=2000.0)
"""Wide enough for a sheet with its drops."""

SEAMS = {ClothKind.CANVAS: "seam", ClothKind.GENERAL: "seam general", ClothKind.COTTON: "seam cotton"}
"""The habit of its seam allowance."""

WIDTHS = {
    1100.0: Rule(1100.0, 42.0),
    1400.0: Rule(1400.0, 54.0),
    1500.0: Rule(1500.0, 60.0),
    1800.0: Rule(1800.0, 72.0),
    2000.0: Rule(2000.0, 78.0),
}
"""The same bolts as they are sold in inches."""
