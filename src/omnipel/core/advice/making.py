"""What there is to say about seams, hems, cloth and what sticks out."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

from omnipel.core.covers.scheme import Cover
from omnipel.core.covers.sizes import size_words
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.forms.form import Form
from omnipel.core.job.document import Feature, FeatureKind, Job, Override
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Face, Treatment
from omnipel.core.tape.readings import value
from omnipel.core.words import refs
from omnipel.core.words.phrases import Length, Name, listed, mm, term, tr
from omnipel.core.words.units import rounded_up


def hems(job: Job) -> Iterator[Finding]:
    """A drop that reaches below the ground by just the hem was measured to the cut edge: the hem would count twice."""
    drop, height, hem = job.reading("drop"), job.reading("height"), job.cover.hem.allowance
    if drop is None or height is None or not hem:
        return
    over = value(drop) - value(height)
    if over > 0.0 and abs(over - hem) <= 5.0:
        text = tr(
            "The drop is {over} longer than the object is high, which is just the hem of {hem}. The drop seems to hold the hem already; it would be "
            "added a second time.",
            over=mm(over),
            hem=mm(hem),
        )
        shorter = replace(drop, repeats=tuple(length - hem for length in drop.repeats))
        remedy = Remedy(
            tr("Take the hem off the drop: {drop}", drop=mm(value(drop) - hem)), (Change(refs.reading("drop"), shorter),)
        )
        yield Finding("hem-counted-twice", Severity.LOOK, text, refs.reading("drop"), (remedy,))


def sticking_out(job: Job, form: Form, cover: Cover) -> Iterator[Finding]:
    """Whether the cover does about everything that sticks out what it is to do."""
    served = {feature.serves for feature in job.cover.features if feature.kind is FeatureKind.PORT}
    for thing in job.thing.sticks_out:
        where, name = refs.sticks_out(thing.id), Name(thing.name)
        forget = Remedy(tr("Leave the {thing} out", thing=name), (Change(where, act=Act.REMOVE),))
        if thing.treatment is Treatment.PORT and thing.id not in served:
            host = wall(cover)
            size = thing.size + job.cover.habits.mm("port room")
            port = Feature(
                kind=FeatureKind.PORT,
                name=thing.name,
                serves=thing.id,
                panel=host.name if host else "wall",
                from_centre=thing.from_centre,
                from_top=max(0.0, thing.from_top),
                width=size,
                height=size,
            )
            text = tr("The {thing} is to come out through a port, and the cover has none for it yet.", thing=name)
            add = Remedy(tr("Add a port for the {thing}", thing=name), (Change(refs.feature(), port, Act.ADD),))
            yield Finding("port-missing", Severity.LOOK, text, where, (add, forget))
        drop = job.reading("drop") or job.reading("height")
        if thing.treatment is Treatment.BELOW and drop is not None:
            most = thing.from_top - thing.size / 2.0 - job.cover.habits.mm("below room")
            if value(drop) > most > 0.0:
                text = tr(
                    "The cover reaches {drop} down, over the {thing} that is to stay below it.", drop=mm(value(drop)), thing=name
                )
                shorter = Reading(place="drop", repeats=(most,))
                act = Change(refs.reading("drop"), shorter) if job.reading("drop") else Change(refs.reading(), shorter, Act.ADD)
                yield Finding(
                    "covers-too-far", Severity.LOOK, text, where, (Remedy(tr("Drop {drop}", drop=mm(most)), (act,)), forget)
                )
        if thing.treatment is Treatment.COVER and (not form.grows or (thing.face is Face.TOP and not form.dropped_over)):
            text = tr("The {thing} is to be covered over: take the readings over it, for its reach is not added.", thing=name)
            yield Finding("sticks-out-unreckoned", Severity.LOOK, text, where, (forget,))


def wall(cover: Cover) -> Panel | None:
    """The panel that hangs down to the lower edge, or the largest."""
    hemmed = [p for p in cover.panels if p.cloth is Cloth.OUTER and any(e.finish.folded for e in p.edges)]
    return max(hemmed or cover.panels, key=lambda p: p.length.value * p.width.value, default=None)


def seams(job: Job, walked: Sequence[Trued]) -> Iterator[Finding]:
    """Seams whose sides do not fit one another."""
    overridden = {override.size: override for override in job.cover.overrides}
    for trued in walked:
        if trued.true:
            continue
        panels = listed((term(name) for name in dict.fromkeys(run.panel for run in trued.seam.a)), " + ")
        more = mm(abs(trued.difference), fine=True)
        seam = term(trued.seam.name)
        text = (
            tr("{seam}: {panels} is {more} too long for its other side.", seam=seam, panels=panels, more=more)
            if trued.difference > 0
            else tr("{seam}: {panels} is {more} too short for its other side.", seam=seam, panels=panels, more=more)
        )
        remedies = []
        easier = trued.seam.easier
        if easier in overridden:
            remedies.append(Remedy(tr("Drop the size set by hand"), (Change(refs.by_hand(easier), act=Act.REMOVE),)))
        elif easier:
            remedies.append(_follow(trued, easier))
        others = [
            Remedy(tr("Drop the {size} set by hand", size=size_words(o.size)), (Change(refs.by_hand(o.size), act=Act.REMOVE),))
            for o in job.cover.overrides
            if o.size != easier
        ]
        yield Finding("seam-not-true", Severity.STOP, text, refs.seam(trued.seam.name), (*remedies, *others[:2]))


def _follow(trued: Trued, size: str) -> Remedy:
    """Set the easier side to what the other side asks for."""
    wanted = trued.length_b * trued.seam.ratio * trued.seam.easier_share
    follow = Override(size=size, value=wanted, reason=f"follows the other side of: {trued.seam.name}")
    panel = term(trued.seam.a[0].panel)
    words = tr("Make the {panel} follow: {size} {wanted}", panel=panel, size=size_words(size), wanted=mm(wanted, fine=True))
    return Remedy(words, (Change(refs.by_hand(), follow, Act.ADD),))


def cloth(job: Job, cover: Cover) -> Iterator[Finding]:
    """Panels that are longer than the cloth is wide."""
    width = job.cover.cloth.usable_width
    for panel in cover.panels:
        if panel.cloth is not Cloth.OUTER:
            continue
        long, short = sorted((panel.cut_length.value, panel.cut_width.value), reverse=True)
        if long > width:
            yield _too_long(job, panel, long, short, width)


def _too_long(job: Job, panel: Panel, long: float, short: float, width: float) -> Finding:
    name, where = term(panel.name), refs.panel(panel.name)
    if short <= width:
        text = tr(
            "The {panel} is cut {long} long and the cloth is {width} wide: it does not go across. Cut it along the cloth, where it takes {long} of "
            "length and {short} of the width.",
            panel=name,
            long=mm(long),
            width=mm(width),
            short=mm(short),
        )
        return Finding("longer-than-cloth", Severity.NOTE, text, where)
    text = tr(
        "The {panel} is cut {long} by {short} and fits the cloth of {width} neither across nor along: piece it or take wider cloth.",
        panel=name,
        long=mm(long),
        short=mm(short),
        width=mm(width),
    )
    wider = rounded_up(short, job.unit, 100.0, 6.0)
    remedy = Remedy(tr("Take cloth {width} wide", width=Length(wider)), (Change(refs.choice("cloth.usable_width"), wider),))
    return Finding("longer-than-cloth", Severity.STOP, text, where, (remedy,))


def by_hand(job: Job, cover: Cover) -> Iterator[Finding]:
    """Sizes set by hand that this cover does not have."""
    for override in job.cover.overrides:
        if override.size in cover.by_hand:
            continue
        text = tr(
            "{size} was set by hand to {value}, but this cover has no such size: it does nothing.",
            size=size_words(override.size),
            value=mm(override.value),
        )
        where = refs.by_hand(override.size)
        remedy = Remedy(tr("Leave it out"), (Change(where, act=Act.REMOVE),))
        yield Finding("size-unknown", Severity.LOOK, text, where, (remedy,))
