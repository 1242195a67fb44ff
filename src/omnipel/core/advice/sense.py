"""What can hardly be meant: decisions far beyond what any cover has, hems deeper than their panel, allowances wider than what they are on."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.scheme import Cover, Scheme
from omnipel.core.covers.starting import usual_choices
from omnipel.core.covers.used import uses
from omnipel.core.drafting.cutline import Crowded, crowded
from omnipel.core.drafting.panel import Cloth, Edge, Panel
from omnipel.core.job.changes import meant
from omnipel.core.job.document import ClearanceSchool, ClosureKind, CoverChoices, Job
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import FOLDED, SEWN, TURNED_UNDER
from omnipel.core.space.frames import lengths
from omnipel.core.tolerances import SAME_POINT
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Phrase, Share, Value, mm, term, tr
from omnipel.core.words.refs import Of, Ref


@dataclass(frozen=True, slots=True)
class Sense:
    """What a decision is hardly ever more than, mm or as a share."""

    most: float
    share: bool = False

    def shown(self, value: float) -> Value:
        """A value of it, in words."""
        return Share(value, 1) if self.share else mm(value, fine=True)


SENSE: Final[Mapping[Ref, Sense]] = {
    refs.SEAM_ALLOWANCE: Sense(50.0),
    refs.CLOSING_ALLOWANCE: Sense(50.0),
    refs.HEM_WIDTH: Sense(200.0),
    refs.CLOTH_THICKNESS: Sense(8.0),
    refs.PADDING: Sense(100.0),
    refs.PADDING_INSET: Sense(80.0),
    refs.LINING_ALLOWANCE: Sense(50.0),
    refs.QUILTING_ALONG: Sense(0.12, share=True),
    refs.QUILTING_ACROSS: Sense(0.12, share=True),
    refs.SHRINK_WARP: Sense(0.15, share=True),
    refs.SHRINK_WEFT: Sense(0.15, share=True),
}
"""Twice and more of the widest that is sewn; the widest cloth of a shop shrinks by a tenth."""
HALF: Final = 0.5
"""An allowance wider than this share of its panel leaves nothing to see between two of them."""


def beyond_sense(job: Job, scheme: Scheme, cover: Cover) -> Iterator[Finding]:
    """General choices far beyond what any cover has."""
    usual = usual_choices(scheme, job.cover.habits)
    for ref, sense in SENSE.items():
        value = float(meant(job, ref))
        if value > sense.most and uses(scheme, ref, job.cover, cover):
            text = tr(
                "{what}: {value}. Hardly any cover has more than {most}.",
                what=FIELDS[ref],
                value=sense.shown(value),
                most=sense.shown(sense.most),
            )
            back = float(meant(replace(job, cover=usual), ref))
            words = tr("{what}: back to {usual}", what=FIELDS[ref], usual=sense.shown(back))
            yield Finding("hardly-meant", Severity.LOOK, text, ref, (Remedy(words, (Change(ref, back),)),))
    yield from _turned_under(job, scheme, cover)
    yield from _no_use(job, scheme, usual)


def _turned_under(job: Job, scheme: Scheme, cover: Cover) -> Iterator[Finding]:
    """A turn-under wider than the hem it lies in sticks out above it."""
    decided = [(job.cover.hem, refs.TURN_UNDER)] if uses(scheme, refs.TURN_UNDER, job.cover, cover) else []
    own = {edge.name: job.cover.edges[edge.name].finish for edge in cover.edges if edge.name in job.cover.edges}
    decided += [(finish, refs.edge(name, "finish.turn_under")) for name, finish in own.items() if finish is not None]
    for hem, ref in decided:
        if hem.kind in TURNED_UNDER and hem.turn_under > hem.width:
            text = tr(
                "The turn-under of {turn} is wider than the hem of {hem} that it lies in: it would stick out above.",
                turn=mm(hem.turn_under),
                hem=mm(hem.width),
            )
            less = Remedy(tr("Turn under {width}", width=mm(hem.width)), (Change(ref, hem.width),))
            yield Finding("hardly-meant", Severity.LOOK, text, ref, (less,))


def _no_use(job: Job, scheme: Scheme, plain: CoverChoices) -> Iterator[Finding]:
    """What was decided, and what a cover of this scheme has no use for."""
    decided: dict[Ref, tuple[Phrase, bool, object]] = {
        refs.CLOSURE: (tr("the closure of the lower edge"), job.cover.closure.kind is not ClosureKind.NONE, plain.closure),
        refs.PADDING: (tr("padding"), job.cover.padding > 0.0, 0.0),
        refs.LINING_SCHOOL: (tr("a lining"), job.cover.lining.school != plain.lining.school, plain.lining.school),
    }
    for ref, (what, there, without) in decided.items():
        if there and not uses(scheme, ref, job.cover):
            text = tr("{scheme} has no use for {what}: it changes nothing.", scheme=scheme.words, what=what)
            remedy = Remedy(tr("Do without {what}", what=what), (Change(ref, without),))
            yield Finding("choice-unused", Severity.LOOK, text, ref, (remedy,))


def panels(job: Job, scheme: Scheme, cover: Cover) -> Iterator[Finding]:
    """Hems deeper than there is room for them, and allowances wider than half of what they are on."""
    narrowest: dict[Ref, tuple[float, Panel, Edge]] = {}
    for panel in cover.panels:
        if panel.cloth is not Cloth.OUTER:
            continue
        for edge in panel.edges:
            if edge.finish.kind in FOLDED and edge.finish.folded >= room_for_fold(panel, edge):
                yield _too_deep(job, scheme, panel, edge)
                break
        if (meets := crowded(panel)) is not None:
            yield _meeting(job, scheme, panel, meets)
        short = min(panel.length.value, panel.width.value)
        for edge in panel.edges:
            where = edge.source if edge.source in (refs.CLOSING_ALLOWANCE, refs.SEAM_ALLOWANCE) else None
            if where is None:
                continue
            wide = edge.finish.kind in SEWN and edge.finish.width > HALF * short and edge.curve.length > short / 8.0
            if wide and short < narrowest.get(where, (math.inf,))[0]:
                narrowest[where] = short, panel, edge
    for where, (short, panel, edge) in narrowest.items():
        yield _too_wide(job, panel, edge, where, short)


def room_for_fold(panel: Panel, edge: Edge) -> float:
    """How deep a hem along an edge may fold back onto its panel, mm: to the nearest part of the panel's outline that is not beside it."""
    lines = np.array([shapely.LineString(other.curve.points(0.5)) for other in (edge, *panel.edges)])
    points = panel.sew_points
    far = float(shapely.distance(lines[0], shapely.points(points)).max())
    if len(panel.edges) == 1:
        inner = shapely.make_valid(shapely.Polygon(points))
        return float(math.sqrt(4.0 * math.pi * inner.area) / math.tau) if inner.area else 0.0
    ends = np.array([(other.curve.start, other.curve.end) for other in panel.edges])
    mine = np.array((edge.curve.start, edge.curve.end))
    near = lengths(ends[:, :, None] - mine) < SAME_POINT * max(1.0, panel.length.value)
    others = np.array([other is not edge for other in panel.edges]) & ~near.any(axis=(1, 2))
    deep = np.array([other.finish.folded for other in panel.edges])
    return float(np.min((shapely.distance(lines[0], lines[1:]) - deep)[others], initial=far))


def _too_deep(job: Job, scheme: Scheme, panel: Panel, edge: Edge) -> Finding:
    room = max(0.0, room_for_fold(panel, edge))
    text = tr(
        "The {finish} of {depth} along the {edge} is deeper than the {panel} has room for{room}.",
        finish=term(edge.finish.kind),
        depth=mm(edge.finish.folded),
        edge=term(edge.name),
        panel=term(panel.name),
        room=tr(": {room}", room=mm(room)) if room else NOTHING,
    )
    remedies = []
    if edge.source is not None and (edge.source == refs.HEM or edge.source.of is Of.EDGE):
        system = job.cover.habits.system
        width = min(usual_choices(scheme, job.cover.habits).hem.width, max(system.step, system.down(room * HALF)))
        changes = [Change(edge.source.at("width"), width)]
        if edge.finish.turn_under > width:
            changes.append(Change(edge.source.at("turn_under"), width))
        remedies.append(Remedy(tr("Hem {width}", width=mm(width)), tuple(changes)))
    return Finding("hem-too-deep", Severity.STOP, text, refs.panel(panel.name, edge.name), tuple(remedies))


def _meeting(job: Job, scheme: Scheme, panel: Panel, meets: Crowded) -> Finding:
    """Two allowances that would lie on each other."""
    text = tr(
        "The {edge} and the {facing} of the {panel} lie {apart} apart: there is no room for the allowances on both.",
        edge=term(meets.edge.name),
        facing=term(meets.facing.name),
        panel=term(panel.name),
        apart=mm(meets.apart),
    )
    remedies = [
        Remedy(tr("{what}: {n}", what=option.words, n=Count(more)), (Change(refs.option(option.key), float(more)),))
        for option in scheme.options
        if option.key == "panels" and (more := panel.count + 1) <= option.high
    ]
    less = job.cover.habits.system.down(meets.apart * HALF)
    if less > 0.0:
        remedies += [
            Remedy(tr("{what}: {less}", what=FIELDS[ref], less=mm(less)), (Change(ref, less),))
            for ref in (refs.CLOSING_ALLOWANCE, refs.SEAM_ALLOWANCE)
            if uses(scheme, ref, job.cover) and meant(job, ref) > less
        ]
    return Finding("allowances-meet", Severity.STOP, text, refs.panel(panel.name, meets.edge.name), tuple(remedies))


def _too_wide(job: Job, panel: Panel, edge: Edge, where: Ref, short: float) -> Finding:
    text = tr(
        "The allowance of {allowance} is wide for the {panel}, which is {short} at its narrowest.",
        allowance=mm(edge.finish.width),
        panel=term(panel.name),
        short=mm(short),
    )
    system = job.cover.habits.system
    less = max(system.step, system.down(short * HALF * 0.5))
    remedy = Remedy(tr("{what}: {less}", what=FIELDS[where], less=mm(less)), (Change(where, less),))
    return Finding("allowance-too-wide", Severity.LOOK, text, where, (remedy,))


def loose(job: Job, scheme: Scheme, cover: Cover, passes: bool) -> Iterator[Finding]:
    """A clearance far beyond sense on a cover that has to pass over nothing."""
    given = job.cover.clearance
    most = {ClearanceSchool.SIDE: 100.0, ClearanceSchool.DIMENSION: 200.0, ClearanceSchool.GIRTH: 0.3}[given.school]
    if passes or given.amount <= most or not uses(scheme, refs.CLEARANCE, job.cover, cover):
        return
    usual = job.cover.habits.mm("clearance")
    share = given.school is ClearanceSchool.GIRTH
    text = tr("The clearance is {value}: the cover would be a tent.", value=Share(given.amount) if share else mm(given.amount))
    changes = (Change(refs.CLEARANCE_SCHOOL, ClearanceSchool.SIDE), Change(refs.CLEARANCE, usual))
    yield Finding("hardly-meant", Severity.LOOK, text, refs.CLEARANCE, (Remedy(tr("Clearance {gap}", gap=mm(usual)), changes),))
