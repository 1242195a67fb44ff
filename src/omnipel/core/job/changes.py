"""Changes to a job, by path."""

from collections.abc import Mapping
from dataclasses import fields, is_dataclass, replace
from typing import Any

from omnipel.core.job.document import Job
from omnipel.core.job.findings import Act, Change


def changed(job: Job, *changes: Change) -> Job:
    """The job with changes applied, in order.

    Raises:
        KeyError: a path leads nowhere.
    """
    for change in changes:
        job = _changed(job, change.path.split("."), change)
    return job


def _changed(node: Any, steps: list[str], change: Change) -> Any:
    """`node` with the change made `steps` further down."""
    if not steps:
        return (*node, change.value) if change.act is Act.ADD else change.value
    rest = list(steps)
    key, child = _step(node, rest, missing_ok=change.act is Act.SET)
    if change.act is Act.REMOVE and not rest:
        if isinstance(node, tuple):
            return tuple(item for i, item in enumerate(node) if i != key)
        return {name: value for name, value in node.items() if name != key}
    value = _changed(child, rest, change)
    if isinstance(node, tuple):
        return tuple(value if i == key else item for i, item in enumerate(node))
    if is_dataclass(node) and not isinstance(node, type):
        return replace(node, **{key: value})
    return {**node, key: value}


def _step(node: Any, steps: list[str], *, missing_ok: bool = False) -> tuple[Any, Any]:
    """Take one step off `steps`: the key and the child it leads to. Items of a tuple go by position or own name."""
    if isinstance(node, tuple):
        # An item's name may itself hold dots ("girth.2"), so the longest match wins.
        for cut in range(len(steps), 0, -1):
            wanted = ".".join(steps[:cut])
            for i, item in enumerate(node):
                if wanted in (getattr(item, "place", None), getattr(item, "name", None), getattr(item, "size", None), str(i)):
                    del steps[:cut]
                    return i, item
        raise KeyError(".".join(steps))
    key = steps.pop(0)
    if is_dataclass(node) and not isinstance(node, type):
        if key not in {f.name for f in fields(node)}:
            raise KeyError(key)
        return key, getattr(node, key)
    if isinstance(node, Mapping):
        if key not in node and not (missing_ok and not steps):
            raise KeyError(key)
        return key, node.get(key)
    raise KeyError(key)
