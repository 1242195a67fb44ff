"""Drape with ties: two faces bagged together, as wide as the object plus clearance and as long as its over-the-top path, or shorter by a chosen gap from the
table; stiffening on the part that lies on top; four ties in the side seams where that part ends."""

import numpy as np

from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme, length
from omnipel.core.drafting.finishes import RAW
from omnipel.core.drafting.panel import Cloth, Figure, MarkKind
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.box import Box
from omnipel.core.working import worked

OPTIONS = (
    length("gap", "ends above the table", 20.0, "Keeps the edges clean and the object breathing.", 0.0, 2000.0),
    length("tie", "each tie", 300.0, "", 50.0, 1000.0),
    length("turning_gap", "turning gap", 120.0, "80 to 150: a hand goes through.", 60.0, 300.0),
)


def draft(body: Box, brief: Brief) -> Cover:
    """Two faces and the stiffening."""
    c = brief.clearance((body.length + body.width) * 2.0)

    # Sizes
    wide = brief.size("finished_width", body.length + c * 2.0)
    path = body.path or body.height * 2.0 + body.width
    long = brief.size("finished_length", path - brief.length("gap", "gap from the table") * 2.0)
    top = brief.size("stiffening_length", body.width)

    # Panels
    a = brief.seam
    start = (long.value - top.value) / 2.0
    places = [(start, 0.0), (start + top.value, 0.0), (start, wide.value), (start + top.value, wide.value)]
    marks = tuple(
        Figure(f"tie {i}", np.array([(x, y - 6.0), (x, y + 6.0)]), MarkKind.POINT) for i, (x, y) in enumerate(places, 1)
    )
    face = rectangle("face", long, wide, bottom=a, right=a, top=a, left=a, figures=marks)
    back = rectangle(
        "lining",
        long,
        wide,
        bottom=a,
        right=a,
        top=a,
        left=a,
        cloth=Cloth.LINING,
        note=f"turning gap {brief.number('turning_gap'):.0f} in one end",
    )
    less = worked("kept out of the seams", 2.0)
    stiff = rectangle("stiffening", top, wide - less * 2.0, bottom=RAW, right=RAW, top=RAW, left=RAW, cloth=Cloth.PADDING)
    brief.note(cut_width=face.cut_width, cut_length=face.cut_length)

    # Seams
    seams = tuple(
        Seam(
            f"bag {name}",
            (Run("face", name),),
            (Run("lining", name),),
            kind=SeamKind.BAGGED,
            easier="finished_length" if name in ("bottom", "top") else "finished_width",
        )
        for name in ("bottom", "right", "top", "left")
    )
    tie = worked("tie", brief.number("tie"), "cover.options.tie") * 4.0
    return Cover(
        (face, back, stiff),
        seams,
        brief.sizes,
        roles={"top": "face", "front": "face", "back": "face"},
        seams_across=0,
        hardware=(Hardware("tie tape", tie, note="four ties, in the side seams"),),
    )


SCHEME = Scheme("drape", "Drape with ties", "Two faces bagged, hung over, tied at the sides.", ("box",), OPTIONS, draft)
