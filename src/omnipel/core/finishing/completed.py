"""What every cover gets after its scheme has drafted it: features on panels, closure, lining and padding, take-up."""

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

from omnipel.core.covers.scheme import Cover, Scheme
from omnipel.core.drafting.onfold import fold_of
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.pieces import counted
from omnipel.core.finishing.closing import with_closure
from omnipel.core.finishing.edges import with_edges
from omnipel.core.finishing.features import through, with_features
from omnipel.core.finishing.fuller import ungathered
from omnipel.core.finishing.inward import Inward
from omnipel.core.finishing.joined import with_seams
from omnipel.core.finishing.layers import with_layers
from omnipel.core.finishing.refitted import refitted
from omnipel.core.finishing.taken import with_takes
from omnipel.core.forms.body import Standing
from omnipel.core.job.document import CoverChoices, LiningSchool, RingSchool
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import HEMS, SEWN, Spared
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.refs import Of


def of_use(choices: CoverChoices, scheme: Scheme) -> CoverChoices:
    """The choices without the layers that a scheme has no use for."""
    if refs.PADDING in scheme.without:
        choices = replace(choices, padding=0.0)
    if refs.LINING_SCHOOL in scheme.without:
        choices = replace(choices, lining=replace(choices.lining, school=LiningSchool.NONE))
    return choices


def completed(cover: Cover, choices: CoverChoices, scheme: Scheme, stands: Standing, inward: Inward) -> Cover:
    """The cover with everything that was chosen besides its scheme.

    Args:
        cover: what the scheme drafted.
        choices: those that it has a use for.
        scheme: which.
        stands: where what sticks out does.
        inward: drafts the cover at the gap of its inner layers.
    """

    cover = _sewn(cover, choices, scheme)
    if choices.features:
        cover = with_features(cover, choices, stands)
    openings, there = through(cover, choices)

    def sewn_inside(drafted: Cover, cloth: Cloth) -> Cover:
        how = ungathered(choices) if cloth is Cloth.PADDING else choices
        made = _sewn(drafted, how, scheme, cover.joins)
        return with_features(made, openings, there) if openings.features else made

    if refs.CLOSURE not in scheme.without:
        cover = with_closure(cover, choices)
    cover = with_takes(with_layers(cover, choices, inward, sewn_inside), choices)
    first = frozenset(
        (cover.panel_of[run.piece], run.edge) for edge in cover.edges if edge.order is HemOrder.HEM_FIRST for run in edge.runs
    )
    finished = [_taken_up(_hemmed_first(panel, first), choices) for panel in cover.panels]
    panels, said = _on_fold(finished, choices.on_fold)
    return replace(cover, panels=counted(panels, cover.pieces), findings=(*cover.findings, *said))


def _sewn(cover: Cover, choices: CoverChoices, scheme: Scheme, outer: Mapping[str, float] | None = None) -> Cover:
    """The cover with its seams and edges; `outer` is how long the seams of the outer are, where this lies inside of it."""
    made = with_edges(with_seams(cover, choices, outer), choices, scheme.edges)
    if choices.ring is RingSchool.MEET_AND_TRIM:
        made = _cut_long(made, scheme.trimmed, choices.habits.mm("spare to trim"))
    return made


def _cut_long(cover: Cover, panels: tuple[str, ...], spare: float) -> Cover:
    """The cover with the free ends of strips cut longer, to be trimmed when they have come round."""
    wanted = {}
    for piece in (piece for piece in cover.pieces if piece.panel in panels):
        hems = (edge for edge in cover.flat[piece.name].edges if edge.finish.kind in HEMS)
        ends = [edge for edge in hems if edge.source is None or edge.source.of is not Of.OPTION]  # a scheme's own casing is none
        wanted[piece.name] = {
            edge.name: (
                Spared(kind=edge.finish.kind, width=edge.finish.width, turn_under=edge.finish.turn_under, spare=spare),
                edge.source,
            )
            for edge in ends
        }
    note = tr("cut long: trim both ends to their hem when they have come round; {spare} each are for that", spare=mm(spare))
    made = refitted(cover, wanted)
    return replace(made, panels=tuple(replace(p, notes=(*p.notes, note)) if p.name in panels else p for p in made.panels))


def _on_fold(panels: Sequence[Panel], wanted: Collection[str]) -> tuple[tuple[Panel, ...], list[Finding]]:
    """The panels with the lines by which those that are wanted so lie on the fold of the cloth, and what there is to say where they cannot."""
    folds = {panel.name: fold_of(panel) for panel in panels if panel.name in wanted}
    made = tuple(replace(p, fold=folds[p.name]) if folds.get(p.name) else p for p in panels)
    amiss = [name for name in wanted if not folds.get(name)]
    if not amiss:
        return made, []
    kept = tuple(name for name in wanted if folds.get(name))
    remedy = Remedy(tr("Cut it whole"), (Change(refs.ON_FOLD, kept),))
    if amiss[0] in folds:
        text = tr("The {panel} is not the same on both sides of its middle: it cannot be cut on the fold.", panel=term(amiss[0]))
    else:
        text = tr("The {panel} is to be cut on the fold, and this cover does not have one.", panel=term(amiss[0]))
    return made, [Finding("not-on-fold", Severity.LOOK, text, refs.ON_FOLD, (remedy,))]


def _hemmed_first(panel: Panel, first: frozenset[tuple[str, str]]) -> Panel:
    """Hem first: a hem beside a seam is sewn while the panel is flat, and the seam then runs through it."""
    beside = any(
        hem.finish.folded and other.finish.kind in SEWN and (panel.name, hem.name) in first
        for before, after in zip(panel.edges, (*panel.edges[1:], panel.edges[0]), strict=True)
        for hem, other in ((before, after), (after, before))
    )
    if not beside or panel.cloth is not Cloth.OUTER:
        return panel
    return replace(panel, notes=(*panel.notes, tr("hem it flat, before its seams")))


def _taken_up(panel: Panel, choices: CoverChoices) -> Panel:
    """Shares lost to quilting and to a wash of the pieces multiply: what is left is (1 − q)(1 − s)."""
    left = [1.0 - share for share in panel.take_up]
    if choices.padding and panel.cloth in (Cloth.OUTER, Cloth.PADDING):
        left = [left[0] * (1.0 - choices.quilting.along), left[1] * (1.0 - choices.quilting.across)]
    cloth = {Cloth.OUTER: choices.cloth, Cloth.LINING: choices.lining.cloth}.get(panel.cloth)
    if cloth is not None:
        warp_along_x = abs(math.cos(panel.grain)) > 0.5
        warp, weft = cloth.still_shrinks
        shrink = (warp, weft) if warp_along_x else (weft, warp)
        left = [left[0] * (1.0 - shrink[0]), left[1] * (1.0 - shrink[1])]
    share = (1.0 - left[0], 1.0 - left[1])
    return replace(panel, take_up=share) if share != panel.take_up else panel
