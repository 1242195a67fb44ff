"""What the properties of a cloth are for, by their names in `ClothChoice`."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from omnipel.core.words.phrases import Phrase, tr

CLOTHS: Final[Mapping[str, Phrase]] = {
    "name": tr("What the shop calls this cloth. Its name stands on the shopping list, the lay and the care label."),
    "colour": tr("The colour in which the cover is shown, as six signs after a hash. It changes nothing that is cut."),
    "kind": tr("Canvas, other cloth, or thin cotton. It says what is usual for it: allowance, needle, thread and stitch."),
    "thickness": tr(
        "How thick one layer is: what bends around the thing has to be longer by it. Fold it sixteen times, press it, measure that and divide."
    ),
    "weight": tr("What a square of it weighs, as the seller says it: by it cloths are told apart. Nothing is reckoned from it."),
    "usable_width": tr("The width between the selvages that can be used. Panels are laid within it, and wider ones are pieced."),
    "widths": tr("Every width that it can be had in. A saving by another width is only proposed from these."),
    "sold_as": tr("Off a roll, by length; or in pieces of one length, of which whole ones are bought."),
    "piece_length": tr("How long one piece is, where it is sold in pieces."),
    "price": tr("What it costs. Left empty it is not known, and what is to be paid says so."),
    "sold_by": tr("The length is bought in whole steps of this: what the lay takes is rounded up to one."),
    "least": tr("Less than this is not cut off the roll for anyone."),
    "shrink_warp": tr(
        "What the first wash takes up along the selvage. Panels are cut longer by it, unless the cloth is washed before it is cut."
    ),
    "shrink_weft": tr("What the first wash takes up from selvage to selvage."),
    "prewashed": tr(
        "Washed and pressed before it is cut, it is cut as it is, and so much more of it is bought. "
        "Else its panels are cut larger, washed, and trimmed to their cut size."
    ),
    "gather_limit": tr(
        "How many times its length an edge of it can be drawn together. A cord closes no further than this lets it; try it on a scrap."
    ),
    "frays": tr("Its cut edges come apart, so raw allowances are neatened or felled, and thread is bought for that."),
    "one_way": tr("No panel may be turned head over heels on it. A lay takes more of such cloth."),
    "hot_cut": tr(
        "A hot knife may cut it, and its edges are sealed by that. Panels are laid apart by what the knife melts away."
    ),
    "own_hem": tr("Its own edges do not fray and can be left as they are, as hems."),
    "waterproof": tr("It keeps water off, so seams want sealing and pins leave holes: tape holds what is sewn."),
    "outdoors": tr("It lasts in the sun. Of other cloth it is said so where a thing is kept outdoors."),
    "food_safe": tr("It is sold as fit to touch food. Of other cloth it is said so where the thing holds food."),
    "stiff": tr("It stands by itself and does not drape. That is a note for whoever picks a cloth; nothing is reckoned from it."),
    "breathes": tr("It lets damp out. Under cloth that does not, what is covered wet stays wet."),
    "repeat_along": tr(
        "After so much along the cloth its pattern comes again. Pieces that are to meet along a seam are laid by it."
    ),
    "repeat_across": tr("After so much across the cloth its pattern comes again."),
    "iron": tr("Whether an iron may touch it, or only through a press cloth. Steps at the iron follow from it."),
    "needle": tr("With which needle it is sewn. Left empty it is the usual one for its kind; the shopping list has it, too."),
    "thread": tr("How heavy the thread is that it is sewn with. Left at nothing it is the usual one for its kind."),
    "stitch": tr(
        "How long its stitches are. Left at nothing they are as is usual for its kind; how much thread is used follows from it."
    ),
}
"""Of each property one or two sentences."""
