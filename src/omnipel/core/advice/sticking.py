"""What there is to say about what sticks out: a port that is missing, a cover that reaches too far, a thing that lies beside the object."""

import math
from collections.abc import Iterator
from dataclasses import replace
from typing import Final

from omnipel.core.advice.openseams import stands_open, ways_open
from omnipel.core.covers.scheme import Cover
from omnipel.core.forms.body import Body, section_at, stands
from omnipel.core.forms.form import Form, Measured
from omnipel.core.job.document import ClearanceSchool, CoverChoices, Job
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.tolerances import SHORTEST
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, mm, tr

FAR_OUT: Final = 2.0
"""What stands out further than so many times the object's size is hardly meant."""


def sticking_out(job: Job, form: Form, measured: Measured, body: Body, cover: Cover) -> Iterator[Finding]:
    """Whether the cover does about everything that sticks out what it is to do."""
    served = {feature.serves for feature in job.cover.features if feature.kind == "port"}
    for thing in job.thing.sticks_out:
        ref = refs.sticks_out(thing.id)
        forget = Remedy(tr("Leave the {thing} out", thing=Name(thing.name)), (Change(ref, act=Act.REMOVE),))
        other_ways = tuple(_other_ways(form, thing))
        yield from _misplaced(thing, body, forget)
        axis = stands(body, thing) if thing.treatment is Treatment.PORT and thing.id not in served else None
        if thing.treatment is Treatment.PORT and thing.id not in served and (axis is None or not stands_open(cover, thing, axis)):
            text = tr("The {thing} is to come out through a port, and the cover has none for it yet.", thing=Name(thing.name))
            open_ = () if axis is None else tuple(ways_open(cover, job.cover, thing, axis, room_around(job.cover)))
            yield Finding(
                "port-missing",
                Severity.LOOK,
                text,
                ref,
                (_port(job, thing), *open_, *_slit(job, cover, thing), *other_ways, forget),
            )
        if thing.treatment is Treatment.BELOW:
            yield from _left_below(job, measured, thing, (*other_ways, forget))
        reckoned = form.tops if thing.face is Face.TOP else form.grows and bool(cover.profile)
        if thing.treatment is Treatment.COVER and not reckoned:
            text = tr(
                "The {thing} is to be covered over: take the readings over it, for its reach is not added.",
                thing=Name(thing.name),
            )
            yield Finding("sticks-out-unreckoned", Severity.LOOK, text, ref, (forget,))


def _other_ways(form: Form, thing: SticksOut) -> Iterator[Remedy]:
    """To cover over it instead, where the form reckons with that."""
    if (form.tops if thing.face is Face.TOP else form.grows) and thing.treatment is not Treatment.COVER:
        words = tr("Cover over the {thing}", thing=Name(thing.name))
        yield Remedy(words, (Change(refs.sticks_out(thing.id).at("treatment"), Treatment.COVER),))


def _slit(job: Job, cover: Cover, thing: SticksOut) -> Iterator[Remedy]:
    """A port with a slit to the open edge, for what cannot be put through: with a flap over it, so that it stays shut."""
    if thing.face is Face.TOP:
        return
    way = "up" if cover.from_below else "down"
    edge = tr("with a slit up to the edge") if cover.from_below else tr("with a slit down to the edge")
    port = _port_for(job, thing)
    port = replace(port, options={**port.options, "slit": way, "flap": "over the slit"})
    words = tr("Add a port for the {thing}, {edge}", thing=Name(thing.name), edge=edge)
    yield Remedy(words, (Change(refs.feature(), port, Act.ADD),))


def _port(job: Job, thing: SticksOut) -> Remedy:
    """A port where the thing comes out."""
    return Remedy(
        tr("Add a port for the {thing}", thing=Name(thing.name)), (Change(refs.feature(), _port_for(job, thing), Act.ADD),)
    )


def _port_for(job: Job, thing: SticksOut) -> Feature:
    return Feature(
        kind="port",
        name=thing.name,
        serves=thing.id,
        face=Facing(thing.face.value),
        from_centre=thing.from_centre,
        from_top=0.0 if thing.face is Face.TOP else thing.from_top,
        width=thing.size,
        height=thing.size,
        options={"room": room_around(job.cover)},
    )


def room_around(choices: CoverChoices) -> float:
    """How much larger on each side a port is than what comes through it: the gap of the cover, and a little, mm."""
    habits, clearance = choices.habits, choices.clearance
    gap = {ClearanceSchool.SIDE: clearance.amount, ClearanceSchool.DIMENSION: clearance.amount / 2.0}.get(clearance.school)
    return (gap if gap is not None else habits.mm("clearance")) + habits.mm("room around a port")


def _left_below(job: Job, measured: Measured, thing: SticksOut, others: tuple[Remedy, ...]) -> Iterator[Finding]:
    """A cover that reaches over something that is to stay free below its edge."""
    ref, name = refs.sticks_out(thing.id), Name(thing.name)
    most = thing.from_top - thing.size / 2.0 - job.cover.habits.mm("below room")
    drop = measured.get("drop") or measured.get("height")
    if drop is None or drop.value <= most:
        return
    if most < SHORTEST:
        text = tr("The {thing} is to stay free below the cover, but it stands at the top: nothing would be covered.", thing=name)
        yield Finding("nothing-to-cover", Severity.STOP, text, ref, others)
        return
    text = tr("The cover reaches {drop} down, over the {thing} that is to stay below it.", drop=mm(drop.value), thing=name)
    shorter = Remedy(
        tr("Drop {drop}", drop=mm(most)), (Change(refs.reading("drop"), Reading(place="drop", repeats=(most,), sure=True)),)
    )
    droppable = any(place.key == "drop" for place in measured.places)
    yield Finding("covers-too-far", Severity.LOOK, text, ref, (*((shorter,) if droppable else ()), *others))


def _misplaced(thing: SticksOut, body: Body, forget: Remedy) -> Iterator[Finding]:
    """Something that is said to stick out where the object is not, or further than can be meant."""
    if not body.sections:
        return
    ref, name, half = refs.sticks_out(thing.id), Name(thing.name), thing.size / 2.0
    deepest = max(section.depth for section in body.sections)
    there = section_at(body.sections, max(0.0, thing.from_top))
    along = 1 if thing.face in (Face.RIGHT, Face.LEFT) else 0
    across = (there.spans[along].value if there.spans else there.girth.value / 2.0) / 2.0
    largest = max(deepest, across * 2.0)
    if thing.reach > FAR_OUT * largest or thing.size > FAR_OUT * largest:
        text = tr(
            "The {thing} stands out {reach} and is {size} across, and the object is {largest} at its largest. Is that so?",
            thing=name,
            reach=mm(thing.reach),
            size=mm(thing.size),
            largest=mm(largest),
        )
        yield Finding("sticks-out-beside", Severity.LOOK, text, ref, (forget,))
    elif thing.face is not Face.TOP and thing.from_top < 0.0:
        text = tr("The {thing} is said to be above the top edge: what stands up there is on the top.", thing=name)
        up = Remedy(tr("The {thing} stands on the top", thing=name), (Change(ref.at("face"), Face.TOP),))
        yield Finding("sticks-out-beside", Severity.LOOK, text, ref, (up, forget))
    elif thing.face is not Face.TOP and deepest > 0.0 and thing.from_top - half > deepest:
        text = tr("The {thing} is said to be {down} down, below where the object ends.", thing=name, down=mm(thing.from_top))
        yield Finding("sticks-out-beside", Severity.LOOK, text, ref, (forget,))
    elif thing.face is not Face.TOP and abs(thing.from_centre) > across + half:
        text = tr(
            "The {thing} is said to be {away} from the centre line, beside the object.",
            thing=name,
            away=mm(abs(thing.from_centre)),
        )
        inward = math.copysign(max(0.0, across - half), thing.from_centre)
        where = tr("{thing}: {across} from the centre line", thing=name, across=mm(abs(inward)))
        if not inward:
            where = tr("{thing}: on the centre line", thing=name)
        move = Remedy(where, (Change(ref.at("from_centre"), inward),))
        yield Finding("sticks-out-beside", Severity.LOOK, text, ref, (move, forget))
