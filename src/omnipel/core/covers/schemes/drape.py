"""Drape with ties: two faces bagged together, as wide as the object plus clearance and as long as its over-the-top path, or shorter by a chosen gap from the
table; stiffening on the part that lies on top; four ties in the side seams where that part ends."""

from dataclasses import replace

import numpy as np
import shapely

from omnipel.core.covers.options import length
from omnipel.core.covers.places import UPRIGHT
from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme, beyond
from omnipel.core.drafting.panel import Cloth, Figure, MarkKind
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.abilities import Ability, Boxy
from omnipel.core.job.findings import Impossible
from omnipel.core.job.finish import RAW
from omnipel.core.space.paths import Path, through
from omnipel.core.space.placements import Laid, Swept
from omnipel.core.tolerances import MOST_GAP, SAME_POINT
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, tr
from omnipel.core.words.working import worked

OPTIONS = (
    length(
        "gap", tr("ends above the table"), Rule(20.0, 3 / 4), tr("Keeps the edges clean and the object breathing."), high=2000.0
    ),
    length("tie", tr("each tie"), Rule(300.0, 12.0), low=50.0, high=1000.0),
    length(
        "turning_gap",
        tr("turning gap"),
        Rule(120.0, 5.0),
        tr("{least} to {most}: a hand goes through.", least=Rule(80.0, 3.0), most=Rule(150.0, 6.0)),
        60.0,
        300.0,
    ),
)


def draft(body: Boxy, brief: Brief) -> Cover:
    """Two faces and the stiffening."""
    c = brief.clearance((body.length + body.width) * 2.0)

    # Sizes
    wide = brief.size("finished_width", body.length + c * 2.0, refs.ANY_CLEARANCE)
    long = brief.size("finished_length", body.path - brief.length("gap") * 2.0, refs.option("gap"))
    top = brief.size("stiffening_length", body.width)
    if long.value <= top.value:
        text = tr("{long} long it has nothing to hang down: {top} of that lie on top", long=mm(long.value), top=mm(top.value))
        raise Impossible(text, refs.option("gap"))

    # Panels
    a = brief.seam
    start = (long.value - top.value) / 2.0
    places = [(start, 0.0), (start + top.value, 0.0), (start, wide.value), (start + top.value, wide.value)]
    marks = tuple(
        Figure(f"tie {i}", np.array([(x, y - 6.0), (x, y + 6.0)]), MarkKind.POINT, holds="tie")
        for i, (x, y) in enumerate(places, 1)
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
        notes=(tr("turning gap of {gap} in one end", gap=mm(brief.number("turning_gap"))),),
    )
    less = worked(tr("kept out of the seams"), brief.habit("stiffening"))
    stiff = rectangle("stiffening", top, wide - less * 2.0, bottom=RAW, right=RAW, top=RAW, left=RAW, cloth=Cloth.PADDING)
    brief.note(cut_width=face.cut_width, cut_length=face.cut_length)

    # Pieces
    hung = Swept(
        over := _over(body, brief.t.value / 2.0),
        replace(UPRIGHT, origin=(wide.value / 2.0, 0.0, 0.0)),
        (-1.0, 0.0, 0.0),
        (long.value - over.length) / 2.0,
    )
    clear = brief.t.value / 2.0
    pieces = (
        placed(face, hung, clear=clear),
        placed(back, hung, mirrored=True, clear=clear),
        placed(stiff, Laid(hung, (start, less.value)), on="face"),
    )

    return brief.cover(
        (face, back, stiff),
        pieces,
        _seams(),
        seams_across=0,
        hardware=(Hardware(tr("tie tape"), brief.length("tie") * 4.0, note=tr("four ties, in the side seams")),),
        findings=beyond(brief, "turning_gap", MOST_GAP, tr("longer does not close neatly")),
    )


def _seams() -> tuple[Seam, ...]:
    """Both faces bagged all round."""
    return tuple(
        Seam(
            f"bag {name}",
            (Run("face", name),),
            (Run("lining", name),),
            kind=SeamKind.BAGGED,
            easier="finished_length" if name in ("bottom", "top") else "finished_width",
        )
        for name in ("bottom", "right", "top", "left")
    )


def _over(body: Boxy, out: float) -> Path:
    """From the front's foot over the top, and what stands up in its middle, to the foot of the back, this far outside."""
    middle = body.width.value / 2.0
    hull = shapely.MultiPoint(body.over_it).convex_hull.buffer(out, join_style="mitre")
    ring = shapely.get_coordinates(shapely.normalize(hull).exterior)[-2::-1]  # counter-clockwise
    low = float(ring[:, 1].min())
    feet = np.flatnonzero(ring[:, 1] < low + SAME_POINT)
    back, front = feet[ring[feet, 0].argmax()], feet[ring[feet, 0].argmin()]
    path = np.roll(ring, -back, axis=0)[: (front - back) % len(ring) + 1]
    return through(path[::-1] - (middle, 0.0))


SCHEME = Scheme(
    "drape",
    tr("Drape with ties"),
    tr("Two faces bagged, hung over, tied at the sides."),
    frozenset({Ability.BOXY}),
    OPTIONS,
    draft,
    without=frozenset(
        {
            refs.EASE_DROP,
            refs.CLOSING_ALLOWANCE,
            refs.HEM,
            refs.HEM_ORDER,
            refs.CLOTH_THICKNESS,
            refs.PADDING,
            refs.PADDING_INSET,
            refs.QUILTING,
            refs.LINING_SCHOOL,
            refs.LINING_ALLOWANCE,
            refs.TURNING_GAP,
            refs.CLOSURE,
        }
    ),
    edges=(),
)
