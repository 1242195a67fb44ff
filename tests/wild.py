"""Wild but lawful jobs of every pair, and everything a draft says: what the properties are tried on."""

import os
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import fields, is_dataclass, replace
from itertools import product
from random import Random
from typing import Any

from hypothesis import HealthCheck, Phase, settings
from hypothesis import strategies as st

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.draft import Draft, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.forms import FORMS
from omnipel.core.job.changes import changed
from omnipel.core.job.document import ClearanceSchool, Closure, ClosureKind, Job, LiningSchool, Override, RingSchool, TakeUp
from omnipel.core.job.edges import EdgeChoice, HemOrder, Hold
from omnipel.core.job.feature import Choice, Facing, Feature
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import BOUND, Finish, FinishKind, cord_casing, double_hem, elastic_casing, single_hem
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.units import Unit
from omnipel.core.words.working import Worked
from omnipel.shop.starter import starter

HEMS = (
    double_hem(25.0, 15.0),
    single_hem(20.0),
    BOUND,
    cord_casing(6.0, 10.0),
    elastic_casing(12.0, 8.0),
    Finish(kind=FinishKind.FACING, width=40.0, turn_under=10.0),
    Finish(kind=FinishKind.PIPED, width=4.0, turn_under=10.0),
)


EFFORT = float(os.environ.get("OMNIPEL_EFFORT", "0.09"))
"""The share of what could be tried that is tried at every landing; 1 before a release."""


def one_in(few: int) -> int:
    """A step through a list: one in so many is looked at, all where effort is no object."""
    return 1 if EFFORT >= 1.0 else few


def some(*sides: Iterable[Any], of: int = 2) -> list[tuple[Any, ...]]:
    """One in so many of all combinations, picked as by lot and always the same; all of them where effort is no object."""
    every = [tuple(part for side in case for part in (side if isinstance(side, tuple) else (side,))) for case in product(*sides)]
    kept = sorted(Random(7).sample(range(len(every)), -(-len(every) // of)))
    return every if EFFORT >= 1.0 else [every[k] for k in kept]


def tried(examples: int) -> Any:
    """Settings of a property that is tried so often, or the share of it that is worth while, without a clock."""
    examples = max(2, round(examples * EFFORT))
    examples = min(examples, int(os.environ.get("OMNIPEL_TRIES", examples)))  # fewer while mutants are tried
    phases = [Phase.explicit, Phase.generate] if os.environ.get("OMNIPEL_AS_FOUND") else list(Phase)  # not made smaller
    return settings(max_examples=examples, deadline=None, database=None, phases=phases, suppress_health_check=list(HealthCheck))


@st.composite
def wild_jobs(draw: st.DrawFn, form: str, scheme: str, unit: Unit | None = None) -> Job:
    """A job of a pair with anything decided that can be decided, and readings near those of the sample."""
    job = starter(form, scheme, unit or draw(st.sampled_from(Unit)))
    near = st.floats(0.7, 1.4)
    instruments = st.sampled_from(Instrument)
    readings = [replace(r, repeats=(r.repeats[0] * draw(near),), instrument=draw(instruments)) for r in job.readings]
    readings += [
        Reading(place=place.key, repeats=(place.sample * draw(near),), instrument=draw(instruments))
        for place in FORMS[form].places(job.readings, job.thing)
        if job.reading(place.key) is None and draw(st.integers(0, 5)) == 0
    ]
    if readings and draw(st.booleans()):
        first = readings[0]
        readings[0] = replace(
            first, repeats=tuple(first.repeats[0] * k for k in (1.0, 1.001, draw(st.sampled_from([0.999, 0.9]))))
        )
    school = draw(st.sampled_from(ClearanceSchool))
    closure = draw(st.sampled_from(ClosureKind))
    things = tuple(
        SticksOut(
            name=name,
            from_top=draw(st.floats(10.0, 200.0)),
            from_centre=draw(st.floats(-80.0, 80.0)),
            reach=draw(st.floats(5.0, 90.0)),
            size=draw(st.floats(10.0, 90.0)),
            treatment=draw(st.sampled_from(Treatment)),
            face=draw(st.sampled_from(Face)),
        )
        for name in draw(st.sampled_from([(), (), ("tap",), ("knob", "lever")]))
    )
    cover = replace(
        job.cover,
        clearance=replace(
            job.cover.clearance, school=school, amount=draw(st.floats(0.0, 0.08 if school is ClearanceSchool.GIRTH else 30.0))
        ),
        cloth=replace(
            job.cover.cloth, thickness=draw(st.floats(0.1, 3.0)), usable_width=draw(st.sampled_from([600.0, 1500.0, 50_000.0]))
        ),
        padding=draw(st.sampled_from([0.0, 0.0, 6.0, 20.0])),
        lining=replace(
            job.cover.lining, school=draw(st.sampled_from(LiningSchool)), turning_gap=draw(st.sampled_from([30.0, 120.0]))
        ),
        closure=Closure(kind=closure, length=draw(st.sampled_from([0.0, 120.0]))),
        quilting=draw(st.sampled_from([TakeUp(), TakeUp(), TakeUp(along=0.03, across=0.05)])),
        ring=draw(st.sampled_from(RingSchool)),
        hem=draw(st.sampled_from((job.cover.hem, *HEMS))),
        edges=draw(wild_edges(scheme)),
        seam_allowance=draw(st.sampled_from([6.0, 12.0, 12.7, 20.0])),
        closing_allowance=draw(st.sampled_from([6.0, 12.0, 20.0])),
        options=draw(wild_options(scheme, job)),
    )
    job = replace(job, readings=tuple(readings), cover=cover, thing=replace(job.thing, sticks_out=things))
    return draw(dressed(job))


@st.composite
def wild_edges(draw: st.DrawFn, scheme: str) -> dict[str, EdgeChoice]:
    """Something decided about some of the openings of a scheme."""
    return {
        name: EdgeChoice(
            finish=draw(st.sampled_from((None, *HEMS))),
            order=draw(st.sampled_from((None, *HemOrder))),
            held_by=draw(st.sampled_from(Hold)),
            drawn_to=draw(st.sampled_from([0.0, 900.0])),
        )
        for name in SCHEMES[scheme].edges
        if draw(st.booleans())
    }


@st.composite
def wild_options(draw: st.DrawFn, scheme: str, job: Job) -> dict[str, Any]:
    """Some of a scheme's own choices made."""
    made: dict[str, Any] = {}
    for option in SCHEMES[scheme].options:
        if draw(st.integers(0, 2)):
            continue
        match option.kind:
            case OptionKind.YES:
                made[option.key] = draw(st.booleans())
            case OptionKind.PICK:
                made[option.key] = draw(st.sampled_from(option.picks))
            case OptionKind.LENGTH:
                usual = option.usual(scheme, job.cover.habits)
                made[option.key] = float(usual) * draw(st.floats(0.5, 1.5)) if usual else draw(st.sampled_from([0.0, 40.0]))
                made[option.key] = min(max(made[option.key], option.low), option.high)
            case _:
                made[option.key] = min(max(float(option.default) or 4.0, option.low), option.high)
    return made


@st.composite
def wild_features(draw: st.DrawFn, name: str, job: Job) -> Feature:
    """Anything that can be put on a cover, anywhere."""
    kind = draw(st.sampled_from(sorted(KINDS)))
    return Feature(
        kind=kind,
        name=name,
        face=draw(st.sampled_from([face for face in Facing if face is not Facing.UNSAID])),
        from_top=draw(st.floats(0.0, 300.0)),
        from_centre=draw(st.floats(-150.0, 150.0)),
        width=draw(st.floats(10.0, 200.0)),
        height=draw(st.floats(10.0, 200.0)),
        options=draw(chosen_of(KINDS[kind].options, kind, job)),
    )


@st.composite
def chosen_of(draw: st.DrawFn, options: Sequence[Option], whose: str, job: Job) -> dict[str, Choice]:
    """Some of the choices made otherwise than usual."""
    made: dict[str, Choice] = {}
    for option in options:
        if draw(st.integers(0, 2)):
            continue
        match option.kind:
            case OptionKind.PICK:
                made[option.key] = draw(st.sampled_from(option.picks))
            case OptionKind.YES:
                made[option.key] = draw(st.booleans())
            case OptionKind.TEXT | OptionKind.DRAWING:
                made[option.key] = draw(st.sampled_from(["", "Quillet", "Ж 7"])) if option.key == "text" else ""
            case OptionKind.COUNT:
                made[option.key] = float(draw(st.integers(max(1, int(option.low)), 4)))
            case _:
                usual = float(option.usual(whose, job.cover.habits))
                made[option.key] = min(
                    max(usual * draw(st.floats(0.5, 1.5)) or draw(st.sampled_from([0.0, 40.0])), option.low), option.high
                )
    return made


@st.composite
def dressed(draw: st.DrawFn, job: Job) -> Job:
    """The job with features on its panels, a panel on the fold, a size set by hand."""
    drafted = draft(job)
    if not drafted.panels or draw(st.integers(0, 1)):
        return job
    panels = [p for p in drafted.panels if p.cloth is Cloth.OUTER]
    features = tuple(draw(wild_features(f"it {i}", job)) for i in range(draw(st.integers(0, 3))))
    job = replace(job, cover=replace(job.cover, features=features))
    if draw(st.booleans()):
        job = replace(job, cover=replace(job.cover, on_fold=(draw(st.sampled_from(panels)).name,)))
    by_hand = drafted.cover.by_hand
    if by_hand and draw(st.booleans()):
        name = draw(st.sampled_from(by_hand))
        size = drafted.cover.sizes[name].value
        if size > 1.0:
            override = Override(size=name, value=min(99_000.0, size * draw(st.floats(0.95, 1.1))), reason="a remnant")
            job = changed(job, Change(refs.by_hand(), override, Act.ADD))
    return job


def inside(value: object, seen: set[int] | None = None) -> Iterator[Phrase | Worked]:
    """Every phrase and every sum that is held anywhere inside a value."""
    seen = set() if seen is None else seen
    if isinstance(value, Phrase | Worked):
        yield value
    if id(value) in seen or isinstance(value, str | bytes | int | float):
        return
    seen.add(id(value))
    if isinstance(value, Mapping):
        for part in value.values():
            yield from inside(part, seen)
    elif isinstance(value, tuple | list | frozenset | set):
        for part in value:
            yield from inside(part, seen)
    elif is_dataclass(value):
        for field in fields(value):
            yield from inside(getattr(value, field.name), seen)


def said(drafted: Draft) -> Iterator[Phrase | Worked]:
    """What a draft says: findings, remedies, sums, goods, notes, and the places it may be read at."""
    yield from inside(drafted)
    form, scheme = FORMS[drafted.job.thing.form], SCHEMES[drafted.job.cover.scheme]
    yield from inside(form.places(drafted.job.readings, drafted.job.thing))
    yield from (form.words, form.about, scheme.words, scheme.about)
    yield from inside(scheme.options)
    yield from (option.bounds for option in scheme.options)
