"""Judgement calls as findings: readings, going on, seams, hems, cloth. Each says what, where, and what to do."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

from omnipel.core.covers.closing import SPREAD
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.fit.going_on import Fit
from omnipel.core.forms.body import Body
from omnipel.core.forms.thing import Treatment
from omnipel.core.job import ClearanceSchool, ClosureKind, Feature, FeatureKind, Job, Override
from omnipel.core.tape.readings import Reading
from omnipel.core.tape.units import format_length
from omnipel.core.tolerances import FLAP_CLEARANCE, SURE_CHANCE, TIGHT_CLEARANCE

GROWN_FORMS = ("drum", "box")
"""Forms whose girth grows over what sticks out; the others are measured over it."""
PORT_ROOM = 20.0
"""A port is this much larger than what comes out of it, mm."""
BELOW_ROOM = 10.0
"""A cover ends this far above what it leaves below, mm."""

WANTED_CLEARANCE = 8.0
"""What a remedy for a tight cover aims at: comfortably over tight, far from flapping."""


def judge(job: Job, body: Body | None, cover: Cover | None, seams: Sequence[Trued], fit: Fit | None) -> tuple[Finding, ...]:
    """Everything there is to say about a draft, stops first."""
    found = [*_readings(job), *(body.checks if body else ())]
    if cover is not None:
        found += [
            *cover.findings,
            *_hems(job),
            *_sticks_out(job, cover),
            *_fit(job, fit),
            *_seams(job, seams),
            *_cloth(job, cover),
        ]
    order = (Severity.STOP, Severity.LOOK, Severity.NOTE)
    return tuple(sorted(found, key=lambda finding: order.index(finding.severity)))


def _readings(job: Job) -> Iterator[Finding]:
    for reading in job.readings:
        where = f"readings.{reading.place}"
        for i in reading.misreads:
            others = [mm for k, mm in enumerate(reading.repeats) if k != i and k not in reading.left_out]
            text = (
                f"{reading.place}: {format_length(reading.repeats[i], job.unit, with_unit=True)} is far from the others "
                f"({', '.join(format_length(mm, job.unit) for mm in others)}). A misread?"
            )
            leave_out = Change(f"{where}.left_out", tuple(sorted({*reading.left_out, i})))
            yield Finding("reading-misread", Severity.LOOK, text, where, (Remedy("Leave it out", (leave_out,)),))


def _hems(job: Job) -> Iterator[Finding]:
    """A drop that reaches below the ground by just the hem was measured to the cut edge: the hem would count twice."""
    drop, height, hem = job.reading("drop"), job.reading("height"), job.cover.hem.allowance
    if drop is None or height is None or not hem:
        return
    over = drop.value - height.value
    if over > 0.0 and abs(over - hem) <= 5.0:
        text = (
            f"The drop is {_fmt(job, over)} longer than the object is high, which is just the hem of {_fmt(job, hem)}. "
            "The drop seems to hold the hem already; it would be added a second time."
        )
        shorter = replace(drop, repeats=tuple(mm - hem for mm in drop.repeats))
        remedy = Remedy(f"Take the hem off the drop: {_fmt(job, drop.value - hem)}", (Change("readings.drop", shorter),))
        yield Finding("hem-counted-twice", Severity.LOOK, text, "readings.drop", (remedy,))


def _sticks_out(job: Job, cover: Cover) -> Iterator[Finding]:
    """Whether the cover does about everything that sticks out what it is to do."""
    named = {feature.name for feature in job.cover.features}
    for i, thing in enumerate(job.thing.sticks_out):
        where = f"thing.sticks_out.{i}"
        forget = Remedy(f"Leave the {thing.name} out", (Change(where, act=Act.REMOVE),))
        if thing.treatment is Treatment.PORT and thing.name not in named:
            host = _wall(cover)
            port = Feature(
                kind=FeatureKind.PORT,
                name=thing.name,
                panel=host.name if host else "wall",
                from_centre=thing.from_centre,
                from_top=max(0.0, thing.from_top),
                width=thing.size + PORT_ROOM,
                height=thing.size + PORT_ROOM,
            )
            text = f"The {thing.name} is to come out through a port, and the cover has none for it yet."
            add = Remedy(f"Add a port for the {thing.name}", (Change("cover.features", port, Act.ADD),))
            yield Finding("port-missing", Severity.LOOK, text, where, (add, forget))
        drop = job.reading("drop") or job.reading("height")
        if thing.treatment is Treatment.BELOW and drop is not None:
            most = thing.from_top - thing.size / 2.0 - BELOW_ROOM
            if drop.value > most > 0.0:
                text = f"The cover reaches {_fmt(job, drop.value)} down, over the {thing.name} that is to stay below it."
                shorter = Reading(place="drop", repeats=(most,), note=f"ends above the {thing.name}")
                act = Change("readings.drop", shorter) if job.reading("drop") else Change("readings", shorter, Act.ADD)
                yield Finding("covers-too-far", Severity.LOOK, text, where, (Remedy(f"Drop {_fmt(job, most)}", (act,)), forget))
        if thing.treatment is Treatment.COVER and job.thing.form not in GROWN_FORMS:
            text = f"The {thing.name} is to be covered over: take the girths of a {job.thing.form} over it, for its reach is not added."
            yield Finding("sticks-out-unreckoned", Severity.LOOK, text, where, (forget,))


def _wall(cover: Cover) -> Panel | None:
    """The panel that hangs down to the lower edge, or the largest."""
    hemmed = [p for p in cover.panels if p.cloth is Cloth.OUTER and any(e.finish.folded for e in p.edges)]
    return max(hemmed or cover.panels, key=lambda p: p.length.value * p.width.value, default=None)


def _fit(job: Job, fit: Fit | None) -> Iterator[Finding]:
    if fit is None:
        return
    slack, gap, where = fit.tightest.slack.value, fit.tightest.clearance, "cover.clearance.amount"
    at = f"{_fmt(job, fit.tightest.depth)} below the top" if fit.tightest.depth else "at the top"
    verdict = fit.verdict
    if verdict == "will not go on":
        text = f"It will not go on: the cover is {_fmt(job, -slack)} narrower around than what it must pass {at}."
        yield Finding("will-not-go-on", Severity.STOP, text, where, (*_open(job, fit), *_widen(job, fit)))
    elif verdict == "tight":
        text = (
            f"Tight {at}: {_fmt(job, slack)} of slack around is a gap of only {_fmt(job, gap)} each side. "
            f"Under {TIGHT_CLEARANCE:g} mm it is a struggle."
        )
        yield Finding("tight", Severity.LOOK, text, where, _widen(job, fit))
    elif verdict == "flaps":
        text = (
            f"It will flap: the gap is {_fmt(job, min(s.clearance for s in fit.slacks))} on each side "
            f"even where it is tightest. Over {FLAP_CLEARANCE:g} mm it pools water."
        )
        yield Finding("flaps", Severity.LOOK, text, where, _widen(job, fit, WANTED_CLEARANCE + 4.0))
    if slack >= 0.0 and fit.chance < SURE_CHANCE:
        most = f" Most of it comes from the {fit.matters_most}: measure it again." if fit.matters_most else ""
        text = f"The chance that it goes on is {fit.chance:.0%}: slack {_fmt(job, slack)}, spread {_fmt(job, fit.sigma)}.{most}"
        needed = 1.645 * fit.sigma / fit.tightest.turns
        place = f"readings.{fit.matters_most}" if fit.matters_most else where
        yield Finding("chance-low", Severity.LOOK, text, place, _widen(job, fit, max(WANTED_CLEARANCE, needed + 1.0)))


def _fmt(job: Job, mm: float) -> str:
    return format_length(mm, job.unit, with_unit=True)


def _open(job: Job, fit: Fit) -> tuple[Remedy, ...]:
    """A zip from the lower edge up, long enough to pass everywhere; where that is longer than the cover, none."""
    if job.cover.overrides or job.cover.closure.kind is not ClosureKind.NONE:
        return ()
    lowest = max(s.depth for s in fit.slacks)
    failing = [i for i, s in enumerate(fit.slacks) if s.slack.value < 0.0]
    if failing[0] == 0:
        return ()
    above, below = fit.slacks[failing[0] - 1], fit.slacks[failing[0]]
    # The slit has to begin where the slack runs out, and to spread by what is missing further down.
    part = above.slack.value / (above.slack.value - below.slack.value)
    starts = above.depth + part * (below.depth - above.depth)
    needed = max(lowest - starts, *(lowest - fit.slacks[i].depth - fit.slacks[i].slack.value / SPREAD for i in failing))
    length = math.ceil(needed / 10.0) * 10.0 + 20.0
    if length > lowest:
        return ()
    changes = (Change("cover.closure.kind", ClosureKind.ZIP), Change("cover.closure.length", length))
    return (Remedy(f"Let a zip of {_fmt(job, length)} open it from below", changes),)


def _widen(job: Job, fit: Fit, wanted: float = WANTED_CLEARANCE) -> tuple[Remedy, ...]:
    """Set the clearance so that the tightest place has the wanted gap; a size set by hand has to be dropped first."""
    if job.cover.overrides:
        changes = tuple(Change(f"cover.overrides.{o.size}", act=Act.REMOVE) for o in job.cover.overrides)
        return (Remedy("Drop the sizes set by hand", changes),)
    given = job.cover.clearance
    more = wanted - fit.tightest.clearance
    match given.school:
        case ClearanceSchool.SIDE:
            amount = math.ceil(given.amount + more)
        case ClearanceSchool.DIMENSION:
            amount = math.ceil(given.amount + 2.0 * more)
        case ClearanceSchool.GIRTH:
            return (
                Remedy(
                    "Give the clearance by the side",
                    (Change("cover.clearance.school", ClearanceSchool.SIDE), Change("cover.clearance.amount", wanted)),
                ),
            )
    if amount < 0:
        return ()
    shown = format_length(amount, job.unit, with_unit=True)
    return (
        Remedy(
            f"{'Clearance' if given.school is ClearanceSchool.SIDE else 'Ease'} {shown}",
            (Change("cover.clearance.amount", float(amount)),),
        ),
    )


def _seams(job: Job, seams: Sequence[Trued]) -> Iterator[Finding]:
    overridden = {override.size: override for override in job.cover.overrides}
    for trued in seams:
        if trued.true:
            continue
        over = "too long" if trued.difference > 0 else "too short"
        text = (
            f"{trued.seam.name}: {' + '.join(dict.fromkeys(run.panel for run in trued.seam.a))} is "
            f"{_fmt(job, abs(trued.difference))} {over} for its other side."
        )
        remedies = []
        easier = trued.seam.easier
        if easier in overridden:
            remedies.append(Remedy("Drop the size set by hand", (Change(f"cover.overrides.{easier}", act=Act.REMOVE),)))
        elif easier:
            remedies.append(_follow(trued, easier))
        others = [
            Remedy(f"Drop {o.size.replace('_', ' ')} set by hand", (Change(f"cover.overrides.{o.size}", act=Act.REMOVE),))
            for o in job.cover.overrides
            if o.size != easier
        ]
        yield Finding("seam-not-true", Severity.STOP, text, f"seams.{trued.seam.name}", (*remedies, *others[:2]))


def _follow(trued: Trued, size: str) -> Remedy:
    """Set the easier side to what the other side asks for."""
    wanted = trued.length_b * trued.seam.ratio * trued.seam.easier_share
    follow = Override(size=size, value=wanted, reason=f"follows the other side of: {trued.seam.name}")
    return Remedy(
        f"Make the {trued.seam.a[0].panel} follow: {size.replace('_', ' ')} {wanted:.0f} mm",
        (Change("cover.overrides", follow, Act.ADD),),
    )


def _cloth(job: Job, cover: Cover) -> Iterator[Finding]:
    width = job.cover.cloth.usable_width
    for panel in cover.panels:
        if panel.cloth is not Cloth.OUTER:
            continue
        long, short = sorted((panel.cut_length.value, panel.cut_width.value), reverse=True)
        if long <= width:
            continue
        yield _too_long(job, panel, long, short, width)


def _too_long(job: Job, panel: Panel, long: float, short: float, width: float) -> Finding:
    if short <= width:
        text = (
            f"The {panel.name} is cut {_fmt(job, long)} long and the cloth is {_fmt(job, width)} wide: it does not go across. "
            f"Cut it along the cloth, where it takes {_fmt(job, long)} of length and {_fmt(job, short)} of the width."
        )
        return Finding("longer-than-cloth", Severity.NOTE, text, f"panels.{panel.name}")
    text = (
        f"The {panel.name} is cut {_fmt(job, long)} by {_fmt(job, short)} and fits the cloth of "
        f"{_fmt(job, width)} neither across nor along: piece it or take wider cloth."
    )
    remedy = Remedy(
        f"Take cloth {_fmt(job, math.ceil(short / 100.0) * 100.0)} wide",
        (Change("cover.cloth.usable_width", math.ceil(short / 100.0) * 100.0),),
    )
    return Finding("longer-than-cloth", Severity.STOP, text, f"panels.{panel.name}", (remedy,))
