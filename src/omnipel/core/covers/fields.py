"""What each field of a cover is called, wherever it is named: beside the field, in go-to, in the history, in what rounding would change."""

from collections.abc import Mapping
from typing import Final

from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.refs import Ref

FIELDS: Final[Mapping[Ref, Phrase]] = {
    refs.CLEARANCE_SCHOOL: tr("school"),
    refs.CLEARANCE: tr("gap or ease"),
    refs.EASE_ALONG: tr("ease along, left to right"),
    refs.EASE_DROP: tr("ease on the drop"),
    refs.SEAM_ALLOWANCE: tr("seam allowance"),
    refs.CLOSING_ALLOWANCE: tr("closing seam allowance"),
    refs.HEM_KIND: tr("edges are finished"),
    refs.HEM_WIDTH: tr("hem, casing or binding width"),
    refs.TURN_UNDER: tr("turn-under"),
    refs.RING: tr("strip sewn around"),
    refs.HEM_ORDER: tr("hem"),
    refs.CLIPS: tr("relief clips"),
    refs.ON_FOLD: tr("panels cut on the fold"),
    refs.MARKING: tr("how panels get onto the cloth"),
    refs.CLOTH_NAME: tr("cloth"),
    refs.CLOTH_KIND: tr("kind of cloth"),
    refs.CLOTH_THICKNESS: tr("thickness of the cloth"),
    refs.GATHER_LIMIT: tr("cloth gathers up to"),
    refs.PADDING: tr("thickness of padding"),
    refs.CLOTH_WIDTH: tr("usable width"),
    refs.CLOSURE_KIND: tr("lower edge opens by"),
    refs.CLOSURE_LENGTH: tr("how far it opens"),
    refs.LINING_SCHOOL: tr("lining"),
    refs.LINING_ALLOWANCE: tr("lining seam allowance"),
    refs.LINING_WIDTH: tr("usable lining width"),
    refs.LINING_ON: tr("panels that are lined"),
    refs.LINING_AROUND: tr("width of the lining around, 0 for as needed"),
    refs.LINING_PIECED: tr("piece the lining"),
    refs.TURNING_GAP: tr("turning gap"),
    refs.PADDING_INSET: tr("padding ends short by"),
    refs.PADDING_MATERIAL: tr("padding is of"),
    refs.PADDING_ON: tr("panels that are padded"),
    refs.PADDING_AT_SEAM: tr("padding runs to the seams"),
    refs.FUSED: tr("padding is fused"),
    refs.GRID: tr("quilted every (0: not)"),
    refs.STIFFENER: tr("thickness of a stiffener"),
    refs.STIFFENER_ON: tr("panels that are stiffened"),
    refs.STIFFENER_SHORT: tr("stiffener ends short of seams and folds by"),
    refs.QUILTING_ALONG: tr("quilting takes up, along"),
    refs.QUILTING_ACROSS: tr("quilting takes up, across"),
    refs.SHRINK_WARP: tr("first wash, along the warp"),
    refs.SHRINK_WEFT: tr("first wash, across it"),
    refs.PREWASHED: tr("washed before it is cut"),
    refs.JOIN: tr("seams are sewn"),
    refs.seam("", "kind"): tr("seams, one by one"),
    refs.parting(): tr("panels parted at a height"),
    refs.edge(""): tr("edges of the openings"),
    refs.FEATURES: tr("on the cover: ports, pockets, fasteners"),
}
"""By what they decide."""

LENGTHS: Final = (
    refs.SEAM_ALLOWANCE,
    refs.CLOSING_ALLOWANCE,
    refs.HEM_WIDTH,
    refs.TURN_UNDER,
    refs.CLOTH_WIDTH,
    refs.PADDING_INSET,
    refs.GRID,
    refs.STIFFENER_SHORT,
    refs.LINING_ALLOWANCE,
    refs.LINING_WIDTH,
    refs.LINING_AROUND,
    refs.TURNING_GAP,
    refs.CLOSURE_LENGTH,
)
"""Those that are chosen as a length; thicknesses are measured."""

FEATURE_FIELDS: Final[Mapping[str, Phrase]] = {
    "kind": tr("what it is"),
    "name": tr("name"),
    "face": tr("side"),
    "from_centre": tr("right of centre"),
    "from_top": tr("down from the top edge"),
    "width": tr("width"),
    "height": tr("height"),
    "options": tr("its own choices"),
    "serves": tr("what comes out through it"),
}
"""The fields of something put on the cover, by their name in the job."""

EDGE_FIELDS: Final[Mapping[str, Phrase]] = {
    "finish": tr("finished"),
    "finish.kind": tr("finished"),
    "finish.width": tr("hem, casing, facing or binding width"),
    "finish.turn_under": tr("turn-under, or allowance of the facing"),
    "order": tr("sewn"),
    "held_by": tr("held by"),
    "drawn_to": tr("drawn in to"),
    "wide": tr("cord or elastic, wide"),
}
"""What is decided about the edge of an opening, by its name in the job."""

SEAM_FIELDS: Final[Mapping[str, Phrase]] = {
    "kind": tr("sewn"),
    "allowance": tr("allowance"),
    "under": tr("allowance of the other side"),
    "wide": tr("its own width"),
    "fuller": tr("fuller"),
    "start": tr("begins at"),
    "stop": tr("ends at (0: at the end of the seam)"),
    "open_from": tr("left open from"),
    "open_to": tr("left open to"),
    "rows": tr("rows of topstitching"),
    "tacked": tr("both ends reinforced"),
}
"""What is decided about a seam, by its name in the job."""

SEAM_LENGTHS: Final = ("allowance", "under", "wide", "start", "stop", "open_from", "open_to")

EDGE_LENGTHS: Final = ("finish.width", "finish.turn_under", "drawn_to", "wide")

FEATURE_LENGTHS: Final = ("from_centre", "from_top", "width", "height")
PLACES: Final = frozenset(("from_centre", "from_top"))
"""Where something lies: nothing is a place, too."""
