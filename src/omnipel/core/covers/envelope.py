"""Envelope: a front `w × h` and two backs `w × (h + lap)/2`, their lapped edges hemmed; lap 100–150.

On cloth with a repeat all panels start at the same point of it, and the notches fall on stripes.
"""

from omnipel.core.covers.scheme import FLAT, Brief, Cover, Scheme, length
from omnipel.core.drafting.curves import line
from omnipel.core.drafting.panel import Edge
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import checked, outline, rectangle, with_allowances
from omnipel.core.findings import Impossible
from omnipel.core.forms.slab import Slab

OPTIONS = (length("lap", "lap of the backs", 120.0, "100 to 150: it stays shut without a fastener.", 20.0, 400.0),)


def draft(body: Slab, brief: Brief) -> Cover:
    """Front and two backs."""
    u = brief.u((body.width + body.thickness) * 2.0)
    lap = brief.length("lap", "lap")

    # Sizes
    wide = brief.size("front_finished_width", body.width + body.thickness + u * 2.0)
    high = brief.size("front_finished_height", body.length + body.thickness + u * 2.0)
    back_high = brief.size("back_finished_height", (high + lap) / 2.0)
    if lap.value >= high.value:
        raise Impossible("the lap is longer than the cushion", "cover.options.lap")

    # Panels
    a, hem = brief.seam, brief.choices.hem
    x, y = (checked(wide, "the width of the front", "panels.front"), checked(high, "the height of the front", "panels.front"))
    low, top = (y - lap.value) / 2.0, (y + lap.value) / 2.0
    points = [(0.0, 0.0), (x, 0.0), (x, low), (x, top), (x, y), (0.0, y), (0.0, top), (0.0, low)]
    names = ("bottom", "right 1", "right lap", "right 2", "top", "left 2", "left lap", "left 1")
    edges = tuple(Edge(name, line(points[i], points[(i + 1) % 8]), a) for i, name in enumerate(names))
    side = (a, "cover.seam_allowance")
    front = outline("front", edges, wide, high, cut=(with_allowances(wide, side, side), with_allowances(high, side, side)))
    back = rectangle(
        "back",
        wide,
        back_high,
        bottom=a,
        right=a,
        top=hem,
        left=a,
        names={"top": "lapped edge"},
        sources={"top": "cover.hem"},
        count=2,
    )
    brief.note(front_cut_width=front.cut_length, front_cut_height=front.cut_width, back_cut_height=back.cut_width)

    # Seams: the lower back from the bottom up to the far side of the lap, the upper one from the top down to its near side
    seams = (
        Seam("lower back, bottom", (Run("back", "bottom"),), (Run("front", "bottom"),), easier="back_finished_width"),
        Seam("upper back, top", (Run("back", "bottom"),), (Run("front", "top"),)),
        Seam(
            "lower back, right",
            (Run("back", "left", reversed=True),),
            (Run("front", "right 1"), Run("front", "right lap")),
            easier="back_finished_height",
        ),
        Seam(
            "lower back, left",
            (Run("back", "right"),),
            (Run("front", "left 1", reversed=True), Run("front", "left lap", reversed=True)),
            easier="back_finished_height",
        ),
        Seam(
            "upper back, right",
            (Run("back", "right"),),
            (Run("front", "right 2", reversed=True), Run("front", "right lap", reversed=True)),
            easier="back_finished_height",
        ),
        Seam(
            "upper back, left",
            (Run("back", "left", reversed=True),),
            (Run("front", "left 2"), Run("front", "left lap")),
            easier="back_finished_height",
        ),
    )
    passes = wide * 2.0 - brief.t * 2.0
    return Cover(
        (front, back),
        seams,
        brief.sizes,
        ((0.0, passes), (body.length.value, passes)),
        from_below=True,
        roles={"top": "front", "side": "back"},
        seams_across=2,
        turns=FLAT,
    )


SCHEME = Scheme("envelope", "Envelope", "A front and two lapped backs.", ("slab",), OPTIONS, draft, {"seam_allowance": 10.0})
