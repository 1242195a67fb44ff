"""Slip sleeve: two layers round a slab of thickness T, closed on three sides, hem or tuck at the mouth.

Width `W + T + 2c + t`: half the thickness goes over each long edge on both layers. Length `L + T/2 + c + t/2`: the mouth stays open.
"""

from omnipel.core.covers.cloths import SOFT
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import FLAT, Brief, Cover, Scheme, beyond, passages
from omnipel.core.covers.tube import Tube
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.abilities import Ability, Slabby
from omnipel.core.space.placements import Laid
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, tr
from omnipel.core.words.working import Worked

OPTIONS = (
    length(
        "tuck",
        tr("tuck beyond the slab"),
        why=tr("0: ends with the slab. {tuck} tucks in and keeps dust out.", tuck=Rule(120.0, 5.0)),
        high=500.0,
        ends_at=("mouth",),
    ),
)


def draft(body: Slabby, brief: Brief) -> Cover:
    """Two layers."""
    u = brief.u((body.width + body.thickness) * 2.0)

    # Sizes
    wide = brief.size("finished_width", body.width + body.thickness + u * 2.0, refs.ANY_CLEARANCE)
    long = brief.size(
        "finished_length", body.length + body.thickness / 2.0 + u + brief.length("tuck"), refs.ANY_CLEARANCE, refs.option("tuck")
    )

    # Panels
    a, hem = brief.seam, brief.choices.hem
    layer = rectangle(
        "layer",
        long,
        wide,
        bottom=a,
        right=hem,
        top=a,
        left=a,
        names={"right": "mouth", "left": "closed end"},
        sources={"right": refs.HEM},
    )
    brief.note(cut_width=layer.cut_width, cut_length=layer.cut_length)

    passes = wide * 2.0 - brief.t * 2.0
    return brief.cover(
        (layer,),
        _pieces(body, brief, layer, u),
        _seams(),
        openings={"mouth": Run("lower layer", "mouth")},
        profile=passages((0.0, body.length.value), passes),
        from_below=True,
        seams_across=2,
        turns=FLAT,
        findings=beyond(brief, "tuck", body.length.value / 2.0, tr("the slab is {long} long", long=mm(body.length.value))),
    )


def _pieces(body: Slabby, brief: Brief, layer: Panel, u: Worked) -> list[Piece]:
    """Both layers as one tube along x, its closed end to the left; its `s` comes to the underside first."""
    thick = body.thickness.value + brief.t.value
    across, end = layer.width.value - thick, -(body.length.value / 2.0 + u.value - brief.t.value / 2.0)
    fold = thick / 2.0
    tube = Tube(
        across,
        thick,
        fold,
        layer.length.value,
        closed_below=True,
        closed_above=False,
        origin=(end, 0.0, body.thickness.value / 2.0),
        across=(0.0, 1.0, 0.0),
        up=(1.0, 0.0, 0.0),
    )
    clear = min(brief.t.value / 2.0, (across - body.width.value) / 2.0)
    return [
        placed(layer, Laid(tube.place(), (begin, 0.0), (0.0, 1.0)), name, clear=clear)
        for name, begin in (("lower layer", tube.around / 2.0), ("upper layer", tube.around))
    ]


def _seams() -> tuple[Seam, ...]:
    """Both long sides and the closed end."""
    return tuple(
        Seam(name, (Run(one, a, reversed=turned),), (Run(other, b, reversed=not turned),), kind=SeamKind.FELLED)
        for name, one, a, other, b, turned in (
            ("long side at the back", "lower layer", "bottom", "upper layer", "top", False),
            ("long side in front", "upper layer", "bottom", "lower layer", "top", False),
            ("closed end", "lower layer", "closed end", "upper layer", "closed end", False),
        )
    )


SCHEME = Scheme(
    "slip-sleeve",
    tr("Slip sleeve"),
    tr("Two layers closed on three sides."),
    frozenset({Ability.SLAB}),
    OPTIONS,
    draft,
    {"cloth": SOFT},
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.CLOSURE, refs.EASE_ALONG}),
    edges=("mouth",),
)
