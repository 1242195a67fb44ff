"""What sizes are called: their names in files, as words."""

from collections.abc import Mapping
from typing import Final

from omnipel.core.words.phrases import Phrase, term, tr

SIZE_WORDS: Final[Mapping[str, Phrase]] = {
    "r_bottom": tr("radius of the bottom"),
    "r_top": tr("radius of the top"),
    "height": tr("height of the sides"),
    "arc": tr("length of the boxing"),
    "slant": tr("length along the sides"),
    "meridian": tr("length of a gore"),
    "ring": tr("ring"),
    "excess_percent": tr("excess in percent"),
    "angle_total_deg": tr("angle in degrees"),
    "panel_angle_deg": tr("angle of a panel in degrees"),
}
"""Names that are letters of a formula, or say too little; the others are their own words."""


def size_words(name: str) -> Phrase:
    """What a size is called.

    >>> str(size_words("wall_cut_length")), str(size_words("r_top"))
    ('wall cut length', 'radius of the top')
    """
    return SIZE_WORDS.get(name) or term(name.replace("_", " "))
