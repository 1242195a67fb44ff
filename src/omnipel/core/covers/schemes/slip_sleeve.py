"""Slip sleeve: two layers round a slab of thickness T, closed on three sides, hem or tuck at the mouth.

Width `W + T + 2c + t`: half the thickness goes over each long edge on both layers. Length `L + T/2 + c + t/2`: the mouth stays open.
"""

from omnipel.core.covers.cloths import SOFT
from omnipel.core.covers.options import length
from omnipel.core.covers.scheme import FLAT, Brief, Cover, Scheme, beyond, passages
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.forms.abilities import Ability, Slabby
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, tr

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
        count=2,
    )
    brief.note(cut_width=layer.cut_width, cut_length=layer.cut_length)

    # Seams
    seams = tuple(
        Seam(f"layers, {name}", (Run("layer", name),), (Run("layer", name),), kind=SeamKind.FELLED)
        for name in ("bottom", "left end", "top")
        if name != "left end"
    )
    seams = (
        *seams,
        Seam("layers, closed end", (Run("layer", "closed end"),), (Run("layer", "closed end"),), kind=SeamKind.FELLED),
    )
    passes = wide * 2.0 - brief.t * 2.0
    return brief.cover(
        (layer,),
        seams,
        profile=passages((0.0, body.length.value), passes),
        from_below=True,
        roles={"top": "layer", "side": "layer"},
        seams_across=2,
        turns=FLAT,
        findings=beyond(brief, "tuck", body.length.value / 2.0, tr("the slab is {long} long", long=mm(body.length.value))),
    )


SCHEME = Scheme(
    "slip-sleeve",
    tr("Slip sleeve"),
    tr("Two layers closed on three sides."),
    frozenset({Ability.SLAB}),
    OPTIONS,
    draft,
    {"cloth": SOFT},
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.CLOSURE}),
)
