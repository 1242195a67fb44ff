"""Jobs that validate, and are absurd: any decision at its bounds and far from what is usual."""

import math
from collections.abc import Callable
from dataclasses import replace
from enum import StrEnum
from random import Random
from typing import Any, get_type_hints

from annotated_types import Ge, Gt, Le

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.draft import draft
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.forms import FORMS
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import Closure, ClothChoice, CoverChoices, Job, Lining, Override, TakeUp
from omnipel.core.job.feature import Choice, Facing, Feature
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import HEMS, Finish
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.tolerances import LONGEST
from omnipel.core.words import refs
from omnipel.core.words.habits import HABITS
from omnipel.core.words.units import Unit
from omnipel.shop.document import lawful
from omnipel.shop.starter import starter

PAIRS = tuple(lawful_pairs())


def attacked(dice: Random) -> Job:
    """A job of any pair with some decisions made anyhow: most a little off, some absurd."""
    while True:
        form, scheme = dice.choice(PAIRS)
        job = starter(form, scheme, dice.choice(list(Unit)))
        for _ in range(dice.choice((1, 1, 2, 3, 5))):
            job = dice.choices(list(MOVES), [MOVES[move] for move in MOVES])[0](job, dice)
        if lawful(job):
            return job


def number(dice: Random, low: float, high: float, usual: float) -> float:
    """A number within bounds: a bound, near what is usual, or anywhere between."""
    kind = dice.random()
    if kind < 0.15:
        return dice.choice((low, high))
    if kind < 0.65:
        return min(max(usual * math.exp(dice.gauss(0.0, 0.7)), low), high)
    return min(max(math.exp(dice.uniform(math.log(max(low, 0.1)), math.log(max(high, 0.2)))), low), high)


def bounds(kind: type, name: str) -> tuple[float, float]:
    """Lawful values of a number in one of the job's types."""
    hint = get_type_hints(kind, include_extras=True)[name]
    low, high = 0.0, LONGEST
    for mark in getattr(hint, "__metadata__", ()):
        if isinstance(mark, Ge):
            low = float(mark.ge)
        elif isinstance(mark, Gt):
            low = float(mark.gt) + 0.01
        elif isinstance(mark, Le):
            high = float(mark.le)
    return low, high


def any_of(kind: type, name: str, value: Any, dice: Random) -> Any:
    """Another lawful value for an attribute that holds a number, a word or yes and no."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, StrEnum):
        return dice.choice(list(type(value)))
    low, high = bounds(kind, name)
    if isinstance(value, int):
        return round(dice.uniform(low, high))
    return number(dice, low, high, value or 20.0)


WAYS = tuple(
    (path, owner, name)
    for path, owner, names in (
        (
            "",
            CoverChoices,
            ["padding", "padding_inset", "seam_allowance", "closing_allowance", "ring", "hem_order", "clips", "sewing_sigma"],
        ),
        ("clearance", type(CoverChoices(scheme="x").clearance), ["school", "amount"]),
        ("cloth", ClothChoice, ["thickness", "usable_width", "gather_limit", "shrink_warp", "shrink_weft", "frays"]),
        ("quilting", TakeUp, ["along", "across"]),
        ("lining", Lining, ["school", "seam_allowance", "turning_gap"]),
        ("lining.cloth", ClothChoice, ["thickness", "usable_width", "shrink_warp"]),
        ("closure", Closure, ["kind", "length", "kind", "length"]),
        ("hem", Finish, ["kind", "width", "turn_under", "width"]),
    )
    for name in names
)


def decide(job: Job, dice: Random) -> Job:
    """One choice about the cover, anyhow."""
    path, owner, name = dice.choice(WAYS)
    ref = refs.choice(f"{path}.{name}" if path else name)
    if path == "hem" and name == "kind":
        return changed(job, Change(ref, dice.choice(HEMS)))
    return changed(job, Change(ref, any_of(owner, name, meant(job, ref), dice)))


def choose(job: Job, dice: Random) -> Job:
    """One of the scheme's own choices, anyhow."""
    options = SCHEMES[job.cover.scheme].options
    if not options:
        return decide(job, dice)
    option = dice.choice(options)
    return changed(job, Change(refs.option(option.key), option_value(job, option, dice)))


def option_value(job: Job, option: Option, dice: Random) -> Any:
    match option.kind:
        case OptionKind.YES:
            return dice.random() < 0.5
        case OptionKind.PICK:
            return dice.choice(option.picks)
        case OptionKind.COUNT:
            return float(round(number(dice, option.low, option.high, float(option.default) or 3.0)))
        case _:
            usual = float(option.usual(job.cover.scheme, job.cover.habits))
            return number(dice, option.low, option.high, usual or 50.0)


def read_wrong(job: Job, dice: Random) -> Job:
    """One reading taken, or taken wrongly."""
    places = FORMS[job.thing.form].places(job.readings, job.thing)
    if not places:
        return job
    place = dice.choice(places)
    old = job.reading(place.key)
    size = old.repeats[0] if old else place.sample
    repeats = tuple(
        number(dice, 0.1, LONGEST, size) if dice.random() < 0.3 else size * dice.uniform(0.9, 1.1)
        for _ in range(dice.choice((1, 1, 2, 3)))
    )
    beside = number(dice, 0.1, 3000.0, 100.0) if place.beside is not None and dice.random() < 0.7 else None
    sigma = dice.choice((None,) * 9 + (1e-300, 0.1, 30.0, LONGEST))
    return changed(
        job,
        Change(
            refs.reading(place.key),
            Reading(place=place.key, repeats=repeats, instrument=dice.choice(list(Instrument)), beside=beside, sigma=sigma),
        ),
    )


def stick_out(job: Job, dice: Random) -> Job:
    """Something sticks out of it."""
    if len(job.thing.sticks_out) > 3:
        return job
    made = SticksOut(
        name=dice.choice(("1", "2", "tap", "knob")),
        from_top=number(dice, -50.0, 3000.0, 120.0),
        from_centre=dice.uniform(-400.0, 400.0),
        reach=number(dice, 0.1, 2000.0, 40.0),
        size=number(dice, 0.1, 2000.0, 40.0),
        treatment=dice.choice(list(Treatment)),
        face=dice.choice(list(Face)),
    )
    return changed(job, Change(refs.sticks_out(), made, Act.ADD))


def put_on(job: Job, dice: Random) -> Job:
    """Something is put on the cover, anywhere, with any choices."""
    if len(job.cover.features) > 4:
        return decide(job, dice)
    kind = KINDS[dice.choice(sorted(KINDS))]
    options: dict[str, Choice] = {}
    for option in kind.options:
        if dice.random() < 0.4:
            values: list[Choice] = [*option.picks] or [dice.choice((0.0, 1.0, 3.0, 40.0, 900.0, -1.0, 1e9))]
            if option.kind is OptionKind.YES:
                values = [True, False]
            elif option.kind is OptionKind.TEXT:
                values = ["", "Ж", "M 0 0 L 10 0 L 5 9 z", "no such thing"]
            options[option.key] = dice.choice(values)
    if dice.random() < 0.03:
        options["nothing"] = 1.0
    made = Feature(
        kind=kind.key if dice.random() < 0.97 else "nothing",
        name=dice.choice(("1", "2", "3", "it", "pouch")),
        face=dice.choice(list(Facing)),
        was_on=dice.choice(("", "wall", "end", "gore")),
        from_centre=number(dice, -400.0, 400.0, dice.uniform(-300.0, 300.0)),
        from_top=number(dice, -50.0, 3000.0, dice.uniform(0.0, 500.0)),
        width=number(dice, 0.1, 5000.0, 80.0),
        height=number(dice, 0.1, 5000.0, 60.0),
        options=options,
        serves=dice.choice(("", "", "1")),
    )
    return changed(job, Change(refs.feature(), made, Act.ADD))


def by_hand(job: Job, dice: Random) -> Job:
    """A size set by hand, also one that this cover does not have."""
    cover = getattr(draft(job), "cover", None)
    names = [*(cover.by_hand if cover else ()), "no_such_size"]
    name = dice.choice(names)
    size = cover.sizes[name].value if cover and name in cover.sizes else 100.0
    value = min(max(size * dice.choice((0.5, 0.9, 0.99, 1.01, 1.1, 3.0)), 0.01), LONGEST)
    return changed(job, Change(refs.by_hand(), Override(size=name, value=value, reason="a remnant"), Act.ADD))


def fold(job: Job, dice: Random) -> Job:
    """A panel cut on the fold."""
    panels = draft(job).panels
    return replace(job, cover=replace(job.cover, on_fold=(dice.choice(panels).name,))) if panels else job


def habit(job: Job, dice: Random) -> Job:
    """A habit of the shop that the job was made with."""
    name, habits = dice.choice(list(HABITS)), job.cover.habits
    usual, most = HABITS[name].usual(habits.system), HABITS[name].most(habits.system)
    return changed(job, Change(refs.HABITS, replace(habits, own={**habits.own, name: number(dice, 0.0, most, usual)})))


def outline(job: Job, dice: Random) -> Job:
    """What was traced, smoothed anyhow."""
    traced = job.thing.outline
    if traced is None:
        return read_wrong(job, dice)
    return changed(job, Change(refs.OUTLINE.at("smoothing"), number(dice, 0.0, 100.0, 2.0)))


MOVES: dict[Callable[[Job, Random], Job], float] = {
    decide: 6.0,
    choose: 6.0,
    read_wrong: 4.0,
    stick_out: 2.0,
    put_on: 5.0,
    by_hand: 2.0,
    fold: 0.5,
    habit: 0.7,
    outline: 0.5,
}
