"""What there is to say about seams, hems, cloth and what sticks out."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Final

from omnipel.core.advice.byhand import dropped
from omnipel.core.covers import following
from omnipel.core.covers.layering import HANGS
from omnipel.core.covers.scheme import Cover, Scheme
from omnipel.core.covers.sizes import size_words
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.fit.sewn import Sewn
from omnipel.core.forms.body import Body
from omnipel.core.forms.form import Form, Measured
from omnipel.core.forms.taper import tapers
from omnipel.core.job.document import Job, Override
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.tape.readings import value
from omnipel.core.words import refs
from omnipel.core.words.phrases import Length, listed, mm, term, tr
from omnipel.core.words.units import rounded_up

ON_THE_GROUND: Final = 20.0
"""A drop that is longer than the object is high by more than this lies on the ground, mm; less is lost in the measuring."""
WIDEST_CLOTH: Final = 5100.0
"""Cloth is woven and coated no wider than this, mm."""


def drops(job: Job, measured: Measured) -> Iterator[Finding]:
    """A drop that reaches below the ground: by just the hem, when it was measured to the cut edge; else the cover lies on the ground."""
    known, told = measured.get("height"), job.reading("height")
    reading, hem = job.reading("drop"), job.cover.hem.allowance
    if (known is None and told is None) or reading is None or reading.set_aside:
        return
    height = known.value if known is not None else value(told) if told is not None else 0.0
    over = value(reading) - height
    if hem and over > 0.0 and abs(over - hem) <= 5.0:
        text = tr(
            "The drop is {over} longer than the object is high, which is just the hem of {hem}. The drop seems to hold the hem already; it would be "
            "added a second time.",
            over=mm(over),
            hem=mm(hem),
        )
        shorter = replace(reading, repeats=tuple(length - hem for length in reading.repeats))
        remedy = Remedy(
            tr("Take the hem off the drop: {drop}", drop=mm(value(reading) - hem)), (Change(refs.reading("drop"), shorter),)
        )
        yield Finding("hem-counted-twice", Severity.LOOK, text, refs.reading("drop"), (remedy,))
    elif over > ON_THE_GROUND:
        text = tr(
            "The drop is {over} longer than the object is high: the cover would lie on the ground.", over=mm(over, fine=True)
        )
        level = replace(reading, repeats=(height,), left_out=(), sure=True)
        remedy = Remedy(tr("End at the ground: drop {drop}", drop=mm(height)), (Change(refs.reading("drop"), level),))
        yield Finding("drop-too-long", Severity.LOOK, text, refs.reading("drop"), (remedy,))


def seams(job: Job, cover: Cover, walked: Sequence[Trued]) -> Iterator[Finding]:
    """Seams whose sides do not fit one another."""
    overridden = {override.size: override for override in job.cover.overrides}
    for trued in walked:
        if trued.true:
            continue
        panels = listed((term(name) for name in dict.fromkeys(cover.panel_of[run.piece] for run in trued.seam.a)), " + ")
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
            remedies.append(dropped(easier))
        elif easier:
            remedies.append(_follow(trued, easier, cover.panel_of[trued.seam.a[0].piece]))
        others = [dropped(o.size) for o in job.cover.overrides if o.size != easier]
        yield Finding("seam-not-true", Severity.STOP, text, refs.seam(trued.seam.name), (*remedies, *others[:2]))


def broken(job: Job, cover: Cover, walked: Sequence[Trued], sewn: Sewn) -> Iterator[Finding]:
    """Promises of the scheme that the cover does not keep in space: a mistake of ours. What was set by hand answers for itself."""
    if job.cover.overrides:
        return
    for i in sewn.gaping:
        if walked[i].true:
            text = tr(
                "Our mistake, do not cut: as it is drafted, the two sides of {seam} lie {apart} apart when it is sewn.",
                seam=term(walked[i].seam.name),
                apart=mm(sewn.apart[i], fine=True),
            )
            yield Finding("promise-broken", Severity.STOP, text, refs.seam(walked[i].seam.name))
    if sewn.too_near and sewn.nearest is not None:
        near = sewn.nearest
        text = tr(
            "Our mistake, do not cut: the {piece} lies {gap} from the object when it is sewn, and {promised} was promised.",
            piece=term(cover.panel_of[near.piece]),
            gap=mm(near.gap, fine=True),
            promised=mm(near.promised, fine=True),
        )
        yield Finding("promise-broken", Severity.STOP, text, refs.panel(cover.panel_of[near.piece]))


def _follow(trued: Trued, size: str, name: str) -> Remedy:
    """Set the easier side to what the other side asks for."""
    wanted = trued.length_b * trued.seam.ratio * trued.seam.easier_share + trued.seam.easier_more
    follow = Override(size=size, value=wanted, reason=f"follows the other side of: {trued.seam.name}")
    panel = term(name)
    words = tr("Make the {panel} follow: {size} {wanted}", panel=panel, size=size_words(size), wanted=mm(wanted, fine=True))
    return Remedy(words, (Change(refs.by_hand(), follow, Act.ADD),))


def cloth(job: Job, cover: Cover) -> Iterator[Finding]:
    """Panels that do not go across their cloth, or not onto it at all, as they are cut before it is washed or quilted."""
    cloths = {Cloth.OUTER: job.cover.cloth, Cloth.LINING: job.cover.lining.cloth}
    for panel in cover.panels:
        if panel.cloth not in cloths:
            continue
        rough = panel.rough_cut or (panel.cut_length.value, panel.cut_width.value)
        long, short = sorted(rough, reverse=True)
        width = cloths[panel.cloth].cut_width
        if short > width:
            yield _too_wide(job, panel, long, short, width)
        elif long > width:
            text = tr(
                "The {panel} is cut {long} long and the cloth is {width} wide: it does not go across. Cut it along the cloth, where it takes {long} of "
                "length and {short} of the width.",
                panel=term(panel.name),
                long=mm(long),
                width=mm(width),
                short=mm(short),
            )
            yield Finding("cut-along-cloth", Severity.NOTE, text, refs.panel(panel.name))


def _too_wide(job: Job, panel: Panel, long: float, short: float, width: float) -> Finding:
    text = tr(
        "The {panel} is cut {long} by {short} and fits the cloth of {width} neither across nor along: piece it or take wider cloth.",
        panel=term(panel.name),
        long=mm(long),
        short=mm(short),
        width=mm(width),
    )
    wider = rounded_up(short, job.unit, 100.0, 6.0)
    at = refs.choice("cloth" if panel.cloth is Cloth.OUTER else "lining.cloth").at("usable_width")
    remedy = Remedy(tr("Take cloth {width} wide", width=Length(wider)), (Change(at, wider),))
    remedies = (remedy,) if wider <= WIDEST_CLOTH else ()
    if panel.cloth is Cloth.LINING and job.cover.lining.school in HANGS and not job.cover.lining.pieced:
        remedies = (Remedy(tr("Piece the lining"), (Change(refs.LINING_PIECED, True),)), *remedies)
    return Finding("longer-than-cloth", Severity.STOP, text, refs.panel(panel.name), remedies)


def sloping(form: Form, scheme: Scheme, body: Body) -> Iterator[Finding]:
    """A front that is lower than the back, under a scheme that cuts its top level."""
    if scheme.follows(body):
        return
    text = (
        tr(
            "The front is lower than the back, and {scheme} is cut as if it were not: it would stand off there.",
            scheme=scheme.words,
        )
        if scheme.tapers or not tapers(body)
        else tr(
            "The left end differs from the right one, and {scheme} is cut as if it did not: it would stand off there.",
            scheme=scheme.words,
        )
    )
    remedies = tuple(
        Remedy(tr("Use {scheme}", scheme=other.words), (Change(refs.SCHEME, other.key), Change(refs.option(), {})))
        for other in following(form, body)
    )
    yield Finding("slope-ignored", Severity.LOOK, text, refs.SCHEME, remedies)
