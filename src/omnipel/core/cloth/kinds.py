"""The kinds of cloth a shop begins with: starting values, all of which it can change."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.job.clothnames import BEGUN_WITH
from omnipel.core.job.document import ClothChoice, ClothKind, Iron, SoldAs
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Name, Phrase, Value, term, tr
from omnipel.core.words.units import MM_PER_INCH


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of cloth.

    Args:
        words: what it is called.
        about: what to know of it, in a line.
        cloth: its starting values as they are in millimetres.
        inches: its usable widths where cloth is sold by the inch.
    """

    words: Phrase
    about: Phrase
    cloth: ClothChoice
    inches: tuple[float, ...]

    def begun(self, system: System) -> ClothChoice:
        """Its starting values as those have them who work in a system."""
        if system is System.METRIC:
            return self.cloth
        widths = tuple(width * MM_PER_INCH for width in self.inches)
        long = round(self.cloth.piece_length / MM_PER_INCH / 6.0) * 6.0 * MM_PER_INCH
        return replace(
            self.cloth,
            usable_width=widths[-1],
            widths=widths,
            sold_by=system.sold_by,
            least=system.sold_by,
            repeat_along=round(self.cloth.repeat_along / MM_PER_INCH) * MM_PER_INCH,
            repeat_across=round(self.cloth.repeat_across / MM_PER_INCH) * MM_PER_INCH,
            piece_length=long,
        )


def _kind(words: Phrase, about: Phrase, widths: tuple[float, ...], inches: tuple[float, ...], cloth: ClothChoice) -> Kind:
    sold = replace(cloth, name=str(words), usable_width=widths[-1], widths=widths, sold_by=System.METRIC.sold_by, least=300.0)
    return Kind(words, about, sold, inches)


GENERAL, COTTON, CANVAS = ClothKind.GENERAL, ClothKind.COTTON, ClothKind.CANVAS

KINDS: Final[Mapping[str, Kind]] = {
    "acrylic": _kind(
        tr("solution-dyed acrylic canvas"),
        tr("for sun and rain; a hot knife stops its edge; stripes are possible"),
        (1170.0, 1520.0),
        (46.0, 60.0),
        ClothChoice(
            kind=CANVAS, colour="#6d8a63", thickness=0.5, weight=310.0, gather_limit=2.0, frays=True, hot_cut=True,
            iron=Iron.PRESS_CLOTH, waterproof=False, outdoors=True, needle="110", thread=90, stitch=6.0,
        ),
    ),
    "vinyl": _kind(
        tr("vinyl-coated polyester"),
        tr("no pins in the field, holes stay; a single hem is enough; never a hot knife: its fumes are toxic"),
        (1560.0,),
        (61.0,),
        ClothChoice(
            kind=CANVAS, colour="#5d7286", thickness=0.6, weight=610.0, gather_limit=1.5, frays=False, iron=Iron.NEVER,
            waterproof=True, outdoors=True, breathes=False, stiff=True, needle="110–120", thread=90, stitch=6.5,
        ),
    ),
    "pack cloth": _kind(
        tr("coated nylon pack cloth"),
        tr("stands abrasion, not sun"),
        (1500.0,),
        (59.0,),
        ClothChoice(
            kind=GENERAL, colour="#7a6f58", thickness=0.4, weight=330.0, gather_limit=2.5, frays=True, hot_cut=True,
            iron=Iron.NEVER, waterproof=True, breathes=False, needle="100", thread=70, stitch=4.0,
        ),
    ),
    "duck": _kind(
        tr("cotton duck"),
        tr("shrinks unless it is washed before; mildews when it stays damp"),
        (1450.0,),
        (57.0,),
        ClothChoice(
            kind=CANVAS, colour="#c4b594", thickness=0.7, weight=400.0, gather_limit=2.0, shrink_warp=0.05, shrink_weft=0.03,
            frays=True, iron=Iron.YES, needle="100", thread=70, stitch=3.5,
        ),
    ),
    "waxed cotton": _kind(
        tr("waxed cotton"),
        tr("pin holes stay; no iron, it would melt the wax"),
        (1450.0,),
        (57.0,),
        ClothChoice(
            kind=CANVAS, colour="#8a7250", thickness=0.6, weight=420.0, gather_limit=2.0, frays=False, iron=Iron.NEVER,
            waterproof=True, outdoors=True, needle="100", thread=70, stitch=4.0,
        ),
    ),
    "quilting cotton": _kind(
        tr("quilting cotton"),
        tr("wash it before; a print often has a top"),
        (1070.0,),
        (42.0,),
        ClothChoice(
            kind=COTTON, colour="#b98a7a", thickness=0.25, weight=150.0, gather_limit=3.0, shrink_warp=0.03, shrink_weft=0.02, prewashed=True,
            frays=True, one_way=True, iron=Iron.YES, needle="80", thread=40, stitch=2.5,
        ),
    ),
    "linen": _kind(
        tr("linen"),
        tr("wash it before: it shrinks most of all"),
        (1380.0,),
        (54.0,),
        ClothChoice(
            kind=GENERAL, colour="#b9ab8c", thickness=0.35, weight=200.0, gather_limit=3.0, shrink_warp=0.06, shrink_weft=0.03, prewashed=True,
            frays=True, iron=Iron.YES, needle="80–90", thread=40, stitch=2.5,
        ),
    ),
    "laminated knit": _kind(
        tr("laminated knit, waterproof"),
        tr("its film has a side; it touches food only where it is sold for that"),
        (1500.0,),
        (59.0,),
        ClothChoice(
            kind=GENERAL, colour="#d8d4c4", thickness=0.3, weight=180.0, gather_limit=2.5, frays=False, iron=Iron.NEVER,
            waterproof=True, breathes=False, needle="ballpoint 75", thread=40, stitch=3.0,
        ),
    ),
    "tarpaulin": _kind(
        tr("woven polyethylene tarpaulin"),
        tr("sold as a piece with hems of its own, which can be the lower edge"),
        (1800.0, 2900.0),
        (70.0, 114.0),
        ClothChoice(
            kind=GENERAL, colour="#4f7a5f", thickness=0.25, weight=150.0, gather_limit=1.5, frays=False, iron=Iron.NEVER,
            waterproof=True, outdoors=True, breathes=False, own_hem=True, sold_as=SoldAs.PIECE, piece_length=3800.0,
            needle="100", thread=70, stitch=5.0,
        ),
    ),
    "fleece": _kind(
        tr("fusible fleece"),
        tr("padding; its rough side is the glue"),
        (1100.0,),
        (44.0,),
        ClothChoice(kind=GENERAL, colour="#e6e2d6", thickness=2.0, weight=130.0, gather_limit=1.5, frays=False, iron=Iron.PRESS_CLOTH),
    ),
    "batting": _kind(
        tr("cotton batting"),
        tr("padding; quilted it takes up 2 to 4 %"),
        (2280.0,),
        (90.0,),
        ClothChoice(kind=GENERAL, colour="#ece7d8", thickness=3.0, weight=150.0, gather_limit=1.5, frays=False, iron=Iron.YES),
    ),
    "foam": _kind(
        tr("sewable foam"),
        tr("padding that stands by itself"),
        (1450.0,),
        (57.0,),
        ClothChoice(
            kind=GENERAL, colour="#d9d9d2", thickness=6.0, weight=250.0, gather_limit=1.0, frays=False, iron=Iron.PRESS_CLOTH,
            stiff=True, needle="90", thread=40, stitch=3.0,
        ),
    ),
    "clear vinyl": _kind(
        tr("clear vinyl"),
        tr("windows; never a hot knife, and not folded when it is cold"),
        (1370.0,),
        (54.0,),
        ClothChoice(
            kind=GENERAL, colour="#cfe0e2", thickness=0.5, weight=640.0, gather_limit=1.0, frays=False, iron=Iron.NEVER,
            waterproof=True, breathes=False, stiff=True, needle="100", thread=70, stitch=6.0,
        ),
    ),
}  # fmt: skip
"""By their keys."""

OF_LAYER: Final[Mapping[str, str]] = {"stiffener": "clear vinyl", "window": "clear vinyl"}
"""The kind that a layer begins with where the job does not say; padding begins with what it is of."""

NAMES: Final = frozenset(str(words) for words in (*(kind.words for kind in KINDS.values()), *BEGUN_WITH))


def cloth_words(name: str) -> Value:
    """What a cloth is called: a person's own words, or those of a kind as they are said in one's language."""
    return term(name) if name in NAMES else Name(name)


def needle_words(needle: str) -> Value:
    """What a needle is called: its number, with its point where that is not the usual one."""
    point, _, number = needle.partition(" ")
    return tr("ballpoint {number}", number=Name(number)) if point == "ballpoint" and number else Name(needle)
