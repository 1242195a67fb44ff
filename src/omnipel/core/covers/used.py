"""What a cover uses of all that could be decided: what it has no use for is not offered."""

from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import Final

from omnipel.core.covers.options import Option
from omnipel.core.covers.scheme import Cover, Scheme
from omnipel.core.drafting.panel import Cloth, Edge, MarkKind
from omnipel.core.drafting.seams import Seam
from omnipel.core.forms.body import Body
from omnipel.core.job.document import ClipSchool, ClosureKind, CoverChoices, LiningSchool
from omnipel.core.job.finish import SEWN, TURNED_UNDER, FinishKind
from omnipel.core.plane.curves import Arc
from omnipel.core.tolerances import CLIP_RADIUS
from omnipel.core.words import refs
from omnipel.core.words.refs import Ref


def options_used(scheme: Scheme, choices: CoverChoices, body: Body | None, cover: Cover | None = None) -> tuple[Option, ...]:
    """The scheme's own choices that change anything, as the others stand and as far as no size set by hand stands in for them."""
    stand = {o.key: choices.options.get(o.key, o.usual(scheme.key, choices.habits)) for o in scheme.options}
    return tuple(
        option
        for option in scheme.options
        if all(stand.get(key) in values for key, values in option.only)
        and (option.needs is None or body is None or option.needs(body))
        and not (cover is not None and refs.option(option.key) in cover.stood_in)
    )


def uses(scheme: Scheme, ref: Ref, choices: CoverChoices, cover: Cover | None = None) -> bool:
    """Whether a choice about the cover changes anything, as the others stand and as far as no size set by hand stands in for it."""
    if cover is not None and any(ref.within(stood_in) for stood_in in cover.stood_in):
        return False
    if any(ref.within(unused) for unused in scheme.without):
        rescued = _RESCUED.get(ref)
        return rescued is not None and rescued(choices, cover)
    rule = _RULES.get(ref)
    return rule is None or rule(scheme, choices, cover)


def _sewn(cover: Cover | None) -> bool:
    """Whether any edge is sewn to another; it may be, as long as there is no cover."""
    return cover is None or any(edge.finish.kind in SEWN for panel in cover.panels for edge in panel.edges)


def _hemmed(cover: Cover | None) -> bool:
    """Whether any edge is finished as all edges of the cover are; it may be, as long as there is no cover."""
    return _decides(cover, refs.HEM)


def _schooled(seam: Seam, choices: CoverChoices, cover: Cover) -> bool:
    """Whether a seam is sewn as the job's school has it, as long as nothing else is decided for it."""
    name = seam.whole or seam.name
    own = choices.seams.get(name)
    return name in cover.joins and seam.ratio == 1.0 and not name.startswith("parting of ") and not (own is not None and own.kind)


def _hem_beside_a_seam(cover: Cover | None) -> bool:
    """Whether a hem meets a seam, so that one of the two is sewn first; it may, as long as there is no cover."""
    return cover is None or any(
        {before.finish.folded > 0.0, after.finish.folded > 0.0} == {False, True}
        and {before.finish.kind, after.finish.kind} & SEWN
        for panel in cover.panels
        if panel.cloth is Cloth.OUTER
        for before, after in pairwise((*panel.edges, panel.edges[0]))
    )


def _reversible(choices: CoverChoices) -> bool:
    """Whether it has two right sides: its second layer is its lining."""
    return choices.options.get("layers") == "reversible"


def _sewn_alone(choices: CoverChoices) -> bool:
    """Whether a lining has seams of its own."""
    return choices.lining.school in (LiningSchool.BAGGED, LiningSchool.BOUND) and not _reversible(choices)


def _decides(cover: Cover | None, ref: Ref) -> bool:
    """Whether the finish of any edge is decided there; it may be, as long as there is no cover."""
    return cover is None or any(edge.source == ref for panel in cover.panels for edge in panel.edges)


def _bagged(choices: CoverChoices) -> bool:
    """Whether a lining is sewn in with a seam of its own."""
    return choices.lining.school is LiningSchool.BAGGED and not _reversible(choices)


def _pieced(choices: CoverChoices, cover: Cover) -> bool:
    """Whether a panel of the lining is wider than its cloth, or was; or a strip of it narrower around than is needed."""
    width = choices.lining.cloth.cut_width
    if any(finding.code == "lining-narrow" for finding in cover.findings):
        return True
    cut = [p.rough_cut or (p.cut_length.value, p.cut_width.value) for p in cover.panels if p.cloth is Cloth.LINING]
    return any(min(size) > width for size in cut) or any(seam.name.startswith("piecing of ") for seam in cover.seams)


def _turned(cover: Cover | None) -> bool:
    """Whether the lining is turned through a gap; it may be, as long as there is no cover."""
    marks = (MarkKind.POINT, "gap")
    return cover is None or any(
        (notch.kind, notch.label) == marks for panel in cover.panels if panel.cloth is Cloth.LINING for notch in panel.notches
    )


def _clipped(choices: CoverChoices, cover: Cover | None) -> bool:
    """Whether there is an edge to clip; where that is done after sewing, no panel shows it."""
    panels = cover.panels if cover is not None else ()
    if choices.clips in (ClipSchool.STRAIGHT, ClipSchool.DISC):
        return any(notch.kind is MarkKind.CLIP for panel in panels for notch in panel.notches)
    return any(_bent(edge) for panel in panels for edge in panel.edges)


def _bent(edge: Edge) -> bool:
    """Whether an edge is sewn and bent so far that what is sewn to it wants relief clips."""
    curve = edge.curve
    return edge.finish.kind in SEWN and isinstance(curve, Arc) and abs(curve.curvature) * CLIP_RADIUS > 1.0


def _sewn_on(choices: CoverChoices, cover: Cover | None) -> bool:
    """Whether something with pieces of its own is sewn onto the panels; as long as there is no cover, whether it is to be."""
    return bool(choices.features) and _sewn(cover)


def _bagged_edge(cover: Cover | None) -> bool:
    """Whether an edge is bagged with the seam allowance."""
    return cover is not None and any(
        edge.finish.kind is FinishKind.BAGGED and edge.source == refs.SEAM_ALLOWANCE
        for panel in cover.panels
        for edge in panel.edges
    )


_RESCUED: Final[Mapping[Ref, Callable[[CoverChoices, Cover | None], bool]]] = {
    refs.SEAM_ALLOWANCE: lambda c, k: _sewn_on(c, k) or _reversible(c) or _bagged_edge(k)
}
"""What a scheme has no use for itself, but what is put on its panels may have."""

_RULES: Final[Mapping[Ref, Callable[[Scheme, CoverChoices, Cover | None], bool]]] = {
    refs.SEAM_ALLOWANCE: lambda s, c, k: _sewn(k),
    refs.PREWASHED: lambda s, c, k: c.cloth.shrinks,
    refs.EASE_ALONG: lambda s, c, k: k is not None and refs.EASE_ALONG in k.directions,
    refs.EASE_DROP: lambda s, c, k: k is not None and refs.EASE_DROP in k.directions,
    refs.HEM_ORDER: lambda s, c, k: _hem_beside_a_seam(k),
    refs.JOIN: lambda s, c, k: k is None or any(_schooled(seam, c, k) for seam in k.seams),
    refs.seam("", "kind"): lambda s, c, k: k is None or bool(k.joins),
    refs.edge(""): lambda s, c, k: bool(s.edges),
    refs.HEM_KIND: lambda s, c, k: _hemmed(k),
    refs.LINING_SCHOOL: lambda s, c, k: not _reversible(c),
    refs.RING: lambda s, c, k: s.rings or bool(s.trimmed),
    refs.CLIPS: lambda s, c, k: _clipped(c, k),
    refs.HEM_WIDTH: lambda s, c, k: _hemmed(k) and c.hem.kind not in (FinishKind.RAW, FinishKind.SELVAGE),
    refs.TURN_UNDER: lambda s, c, k: _hemmed(k) and c.hem.kind in (*TURNED_UNDER, FinishKind.FACING, FinishKind.PIPED),
    refs.CLOSURE_LENGTH: lambda s, c, k: c.closure.kind is not ClosureKind.NONE,
    refs.PADDING_INSET: lambda s, c, k: c.padding > 0.0 and (k is None or not k.padded or (k.inset and not c.padded.at_seam)),
    refs.PADDING_MATERIAL: lambda s, c, k: k is not None and k.padded,
    refs.PADDING_ON: lambda s, c, k: k is not None and k.padded,
    refs.PADDING_AT_SEAM: lambda s, c, k: k is not None and k.padded and k.inset,
    refs.FUSED: lambda s, c, k: k is not None and k.padded,
    refs.GRID: lambda s, c, k: k is not None and k.padded,
    refs.STIFFENER_ON: lambda s, c, k: c.stiffener.thickness > 0.0,
    refs.STIFFENER_SHORT: lambda s, c, k: c.stiffener.thickness > 0.0,
    refs.QUILTING_ALONG: lambda s, c, k: c.padding > 0.0,
    refs.QUILTING_ACROSS: lambda s, c, k: c.padding > 0.0,
    refs.LINING_ALLOWANCE: lambda s, c, k: _sewn_alone(c) and _decides(k, refs.LINING_ALLOWANCE),
    refs.TURNING_GAP: lambda s, c, k: _bagged(c) and _turned(k),
    refs.LINING_ON: lambda s, c, k: (
        c.lining.school is LiningSchool.AS_ONE and not _reversible(c) and refs.LINING_SCHOOL not in s.without
    ),
    refs.LINING_AROUND: lambda s, c, k: _sewn_alone(c) and k is not None and k.ringed,
    refs.LINING_PIECED: lambda s, c, k: _sewn_alone(c) and k is not None and _pieced(c, k),
    refs.LINING_WIDTH: lambda s, c, k: (
        c.lining.school is not LiningSchool.NONE or any(q.cloth is Cloth.LINING for q in (k.panels if k is not None else ()))
    ),
    refs.GATHER_LIMIT: lambda s, c, k: k is None or k.gathers,
}
