"""Ease that differs by direction: along (left to right) and on the drop.

A hand worker adds so much to each dimension, less or more along, and none to the drop. Schemes know one clearance for all sides; so they are given
the body as if it were longer by what is added along beyond that, and its drop by what is added there in its place.
"""

from dataclasses import fields, is_dataclass, replace
from typing import TypeVar

from omnipel.core.job.document import ClearanceSchool, CoverChoices
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked

AnyBody = TypeVar("AnyBody")


def directions(body: object, choices: CoverChoices, without: frozenset[Ref]) -> dict[Ref, str]:
    """In which directions a cover has an ease of its own, each with the part of the body that lies there."""
    if choices.clearance.school is not ClearanceSchool.DIMENSION or refs.ANY_CLEARANCE in without or not is_dataclass(body):
        return {}
    known = {field.name for field in fields(body)}
    found = {refs.EASE_ALONG: getattr(body, "left_to_right", "length"), refs.EASE_DROP: "drop"}
    return {ref: part for ref, part in found.items() if part in known and ref not in without}


def eased(body: AnyBody, choices: CoverChoices, without: frozenset[Ref]) -> AnyBody:
    """The body that a scheme is to cover with one clearance for all sides, so that each direction has its own ease."""
    given, parts = choices.clearance, directions(body, choices, without)
    across, more = worked(tr("ease"), given.amount, refs.CLEARANCE), {}
    if refs.EASE_ALONG in parts and given.along is not None:
        along = worked(tr("ease along"), given.along, refs.EASE_ALONG) - across
        more[parts[refs.EASE_ALONG]] = getattr(body, parts[refs.EASE_ALONG]) + along
    if refs.EASE_DROP in parts:
        drop = worked(tr("ease on the drop"), given.drop, refs.EASE_DROP) - across / 2.0
        more["drop"] = getattr(body, parts[refs.EASE_DROP]) + drop
    made: AnyBody = replace(body, **more) if more else body  # type: ignore[type-var]
    return made
