"""Changes to a job, by reference."""

from collections.abc import Callable, Mapping
from dataclasses import fields, replace
from typing import Any, Final

from omnipel.core.job.document import Job, LayChoice, with_reading
from omnipel.core.job.edges import EdgeChoice
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.joining import SeamChoice
from omnipel.core.job.sewing import StepLog
from omnipel.core.words.refs import Of, Ref


def changed(job: Job, *changes: Change) -> Job:
    """The job with changes applied, in order.

    Raises:
        KeyError: a reference leads nowhere in this job.
    """
    for change in changes:
        job = _MADE[change.ref.of](job, change)
    return job


def meant(job: Job, ref: Ref) -> Any:
    """What a reference means in a job: a value, or a thing in one of its lists.

    Raises:
        KeyError: it leads nowhere in this job.
    """
    match ref.of:
        case Of.OPTION:
            return job.cover.options[ref.id]
        case Of.EDGE | Of.SEAM | Of.LAY | Of.STEP:
            node: Any = _decided(job, ref)
        case Of.PARTING:
            node = next((parting for parting in job.cover.parted if parting.id == ref.id), None)
        case Of.READING:
            node = job.reading(ref.id)
        case Of.STICKS_OUT:
            node = next((thing for thing in job.thing.sticks_out if thing.id == ref.id), None)
        case Of.FEATURE:
            node = next((feature for feature in job.cover.features if feature.id == ref.id), None)
        case Of.TRY | Of.ALTERATION | Of.LOG:
            node = next((item for item in getattr(job, _LISTS[ref.of]) if item.id == ref.id), None)
        case Of.BY_HAND:
            node = next((override for override in job.cover.overrides if override.size == ref.id), None)
        case _:
            node = {Of.JOB: job, Of.THING: job.thing, Of.CHOICE: job.cover}.get(ref.of)
    if node is None:
        raise KeyError(str(ref))
    for name in ref.part.split(".") if ref.part else ():
        if isinstance(node, Mapping):
            if name not in node:
                raise KeyError(str(ref))
            node = node[name]
            continue
        if node is None or name not in {field.name for field in fields(node)}:
            raise KeyError(str(ref))
        node = getattr(node, name)
    return node


def _decided(job: Job, ref: Ref) -> Any:
    """What is decided about something that is known by its name; what it begins as, where nothing is."""
    if ref.of is Of.LAY:
        return job.lays.get(ref.id, LayChoice())
    if ref.of is Of.STEP:
        return job.sewing.steps.get(ref.id, StepLog())
    return job.cover.edges.get(ref.id, EdgeChoice()) if ref.of is Of.EDGE else job.cover.seams.get(ref.id, SeamChoice())


def _of_job(job: Job, change: Change) -> Job:
    made: Job = _deeper(job, change.ref, change.value)
    return made


def _of_thing(job: Job, change: Change) -> Job:
    return replace(job, thing=_deeper(job.thing, change.ref, change.value))


def _of_cover(job: Job, change: Change) -> Job:
    return replace(job, cover=_deeper(job.cover, change.ref, change.value))


def _of_reading(job: Job, change: Change) -> Job:
    if change.act is Act.SET and change.ref.id and not change.ref.part:
        return with_reading(job, change.value)
    return replace(job, readings=_item(job.readings, "place", change))


def _of_sticks_out(job: Job, change: Change) -> Job:
    return replace(job, thing=replace(job.thing, sticks_out=_item(job.thing.sticks_out, "id", change)))


def _of_feature(job: Job, change: Change) -> Job:
    return replace(job, cover=replace(job.cover, features=_item(job.cover.features, "id", change)))


def _of_by_hand(job: Job, change: Change) -> Job:
    if change.act is Act.ADD:  # a size is set by hand once
        kept = tuple(o for o in job.cover.overrides if o.size != change.value.size)
        return replace(job, cover=replace(job.cover, overrides=(*kept, change.value)))
    return replace(job, cover=replace(job.cover, overrides=_item(job.cover.overrides, "size", change)))


def _of_option(job: Job, change: Change) -> Job:
    options, key = job.cover.options, change.ref.id
    if change.act is Act.REMOVE:
        if key not in options:
            raise KeyError(str(change.ref))
        made: Mapping[str, Any] = {name: value for name, value in options.items() if name != key}
    else:
        made = {**options, key: change.value} if key else change.value
    return replace(job, cover=replace(job.cover, options=made))


def _of_seam(job: Job, change: Change) -> Job:
    return replace(job, cover=replace(job.cover, seams=_by_name(job.cover.seams, SeamChoice(), change)))


def _of_parting(job: Job, change: Change) -> Job:
    return replace(job, cover=replace(job.cover, parted=_item(job.cover.parted, "id", change)))


def _of_lay(job: Job, change: Change) -> Job:
    return replace(job, lays=_by_name(job.lays, LayChoice(), change))


def _of_step(job: Job, change: Change) -> Job:
    return replace(job, sewing=replace(job.sewing, steps=_by_name(job.sewing.steps, StepLog(), change)))


def _of_list(job: Job, change: Change) -> Job:
    name = _LISTS[change.ref.of]
    items: Any = {name: _item(getattr(job, name), "id", change)}
    return replace(job, **items)


_LISTS: Final = {Of.TRY: "tries", Of.ALTERATION: "alterations", Of.LOG: "log"}
"""Lists of the job itself."""


def _of_edge(job: Job, change: Change) -> Job:
    edges, name = dict(job.cover.edges), change.ref.id
    chosen = edges.get(name, EdgeChoice())
    if change.ref.part.startswith("finish.") and chosen.finish is None:  # a part of what it has as all edges have
        edges[name] = replace(chosen, finish=job.cover.hem)
    return replace(job, cover=replace(job.cover, edges=_by_name(edges, EdgeChoice(), change)))


def _by_name(decided: Mapping[str, Any], begun: Any, change: Change) -> Mapping[str, Any]:
    """Decisions by name with one of them changed, made from what it begins as, or dropped: one that decides nothing is not kept."""
    name, made = change.ref.id, dict(decided)
    if not name:
        return dict(change.value)
    chosen = made.pop(name, begun)
    if change.act is not Act.REMOVE:
        chosen = _deeper(chosen, change.ref, change.value)
        if chosen != type(begun)():
            made[name] = chosen
    return made


_MADE: dict[Of, Callable[[Job, Change], Job]] = {
    Of.JOB: _of_job,
    Of.THING: _of_thing,
    Of.STICKS_OUT: _of_sticks_out,
    Of.READING: _of_reading,
    Of.CHOICE: _of_cover,
    Of.OPTION: _of_option,
    Of.BY_HAND: _of_by_hand,
    Of.FEATURE: _of_feature,
    Of.EDGE: _of_edge,
    Of.SEAM: _of_seam,
    Of.PARTING: _of_parting,
    Of.LAY: _of_lay,
    Of.STEP: _of_step,
    **dict.fromkeys(_LISTS, _of_list),
}


def _item(items: tuple[Any, ...], known_by: str, change: Change) -> tuple[Any, ...]:
    """A list with one item of it set, changed, taken away or added."""
    if change.act is Act.ADD:
        return (*items, change.value)
    if change.act is Act.SET and not change.ref.id:  # all of them
        return tuple(change.value)
    found = next((i for i, item in enumerate(items) if getattr(item, known_by) == change.ref.id), None)
    if found is None:
        raise KeyError(str(change.ref))
    if change.act is Act.REMOVE:
        return (*items[:found], *items[found + 1 :])
    return (*items[:found], _deeper(items[found], change.ref, change.value), *items[found + 1 :])


def _deeper(node: Any, ref: Ref, value: Any) -> Any:
    """`node` with what the reference's part means set to `value`."""
    return _set(node, ref.part.split(".") if ref.part else [], value, ref)


def _set(node: Any, steps: list[str], value: Any, ref: Ref) -> Any:
    if not steps:
        return value
    if isinstance(node, Mapping):
        return {**node, steps[0]: value}
    if steps[0] not in {field.name for field in fields(node)}:
        raise KeyError(str(ref))
    return replace(node, **{steps[0]: _set(getattr(node, steps[0]), steps[1:], value, ref)})
