"""What each field of a cover is called, wherever it is named: beside the field, in go-to, in the history, in what rounding would change."""

from collections.abc import Mapping
from typing import Final

from omnipel.core.words.phrases import Phrase, tr

FIELDS: Final[Mapping[str, Phrase]] = {
    "clearance.school": tr("school"),
    "clearance.amount": tr("gap or ease"),
    "seam_allowance": tr("seam allowance"),
    "closing_allowance": tr("closing seam allowance"),
    "hem.kind": tr("lower edge"),
    "hem.width": tr("hem or casing width"),
    "hem.turn_under": tr("turn-under"),
    "ring": tr("joining a strip to a ring"),
    "hem_order": tr("hem"),
    "clips": tr("relief clips"),
    "cloth.name": tr("cloth"),
    "cloth.kind": tr("kind of cloth"),
    "cloth.thickness": tr("thickness of the cloth"),
    "padding": tr("thickness of padding"),
    "cloth.usable_width": tr("usable width"),
    "closure.kind": tr("lower edge opens by"),
    "closure.length": tr("how far it opens"),
    "lining.school": tr("lining"),
    "lining.seam_allowance": tr("lining seam allowance"),
    "lining.cloth.usable_width": tr("usable width of the lining"),
    "lining.turning_gap": tr("turning gap"),
    "padding_inset": tr("padding ends short of the seam by"),
    "quilting.along": tr("quilting takes up, along"),
    "quilting.across": tr("quilting takes up, across"),
    "cloth.shrink_warp": tr("first wash, along the warp"),
    "cloth.shrink_weft": tr("first wash, across it"),
    "features": tr("on the panels: ports, pockets, fasteners"),
}
"""By their path in the cover."""

LENGTHS: Final = (
    "seam_allowance",
    "closing_allowance",
    "hem.width",
    "hem.turn_under",
    "cloth.usable_width",
    "padding_inset",
    "lining.seam_allowance",
    "lining.cloth.usable_width",
    "lining.turning_gap",
    "closure.length",
)
"""Those that are chosen as a length; thicknesses are measured."""

FEATURE_FIELDS: Final[Mapping[str, Phrase]] = {
    "name": tr("name"),
    "panel": tr("panel"),
    "from_centre": tr("right of centre"),
    "from_top": tr("from the top"),
    "width": tr("width"),
    "height": tr("height"),
    "depth": tr("depth"),
    "shape": tr("shape"),
    "parts": tr("how many"),
    "slit_to": tr("slit"),
    "flap": tr("flap"),
    "edge": tr("caught in"),
}
"""The fields of something on a panel, by their name in the job."""

FEATURE_LENGTHS: Final = ("from_centre", "from_top", "width", "height", "depth")
PLACES: Final = frozenset(("from_centre", "from_top"))
"""Where something lies: nothing is a place, too."""
