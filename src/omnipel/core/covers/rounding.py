"""Rounds everything chosen to what is round in the job's unit: what changes when a job goes from millimetres to inches, or back.

What was measured is never touched.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, Final

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.job.document import ClearanceSchool, Job
from omnipel.core.tolerances import AS_TYPED
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.phrases import NOTHING, Length, Phrase, plain, tr
from omnipel.core.words.units import Unit

CHOSEN: Final[Mapping[str, Phrase]] = {
    "seam_allowance": tr("seam allowance"),
    "closing_allowance": tr("closing seam allowance"),
    "width": tr("width"),
    "turn_under": tr("turn-under"),
    "padding_inset": tr("padding ends short of the seam by"),
    "usable_width": tr("usable width"),
    "turning_gap": tr("turning gap"),
    "length": tr("length"),
    "from_centre": tr("from the centre"),
    "from_top": tr("from the top"),
    "height": tr("height"),
    "depth": tr("depth"),
}
"""What is chosen as a length, by its name in the job; thicknesses and what sticks out are measured."""
PLACES: Final = frozenset(("from_centre", "from_top"))
"""Where something lies: nothing is a place, too."""
OF: Final[Mapping[str, Phrase]] = {"cloth": tr("cloth"), "lining": tr("lining"), "hem": tr("hem"), "closure": tr("closure")}
"""What it is chosen for."""
METRIC_STEP: Final = 0.5
"""A chosen length in metric is round to this, mm."""


@dataclass(frozen=True, slots=True)
class Rounding:
    """One chosen length that is not round: what it is, and both lengths in mm."""

    words: Phrase
    before: float
    after: float

    @property
    def phrase(self) -> Phrase:
        """What changes."""
        return tr(
            "{what}: {before} → {after}",
            what=self.words,
            before=Length(self.before, fine=True, chosen=True),
            after=Length(self.after, fine=True),
        )


def step_of(unit: Unit) -> float:
    """What chosen lengths are rounded to, mm: a 16th of an inch (or the finer step the job is worked in), half a millimetre."""
    return min(unit.step, 25.4 / 16.0) if unit.denominator else METRIC_STEP


def round_to(length: float, step: float, *, place: bool = False) -> float:
    """A length rounded to a step, never to nothing; a `place` may come to lie in the middle."""
    rounded = math.floor(abs(length) / step + 0.5) * step
    return math.copysign(max(rounded, step if length and not place else 0.0), length) + 0.0


def rounded(job: Job) -> Job:
    """The job with everything chosen round in its unit, following that system's habits from now on."""
    cover = _rounded(job.cover, step_of(job.unit))
    lengths = {o.key for o in _options_of(job) if o.kind is OptionKind.LENGTH}
    options = {
        key: round_to(value, step_of(job.unit)) if key in lengths and isinstance(value, float | int) else value
        for key, value in job.cover.options.items()
    }
    clearance = cover.clearance
    if clearance.school is not ClearanceSchool.GIRTH:
        clearance = replace(clearance, amount=round_to(clearance.amount, step_of(job.unit)))
    habits = Habits(
        system=System.of(job.unit), own=job.cover.habits.own if job.cover.habits.system is System.of(job.unit) else {}
    )
    return replace(job, cover=replace(cover, options=options, clearance=clearance, habits=habits))


def roundings(job: Job) -> tuple[Rounding, ...]:
    """Everything that rounding would change."""
    after = rounded(job)
    found = [*_differences(job.cover, after.cover), *_options(job, after)]
    if job.cover.clearance != after.cover.clearance:
        found.insert(0, Rounding(tr("clearance"), job.cover.clearance.amount, after.cover.clearance.amount))
    return tuple(found)


def _rounded(node: Any, step: float) -> Any:
    """A value with its chosen lengths rounded, all the way down."""
    if isinstance(node, tuple):
        return tuple(_rounded(item, step) for item in node)
    if not is_dataclass(node) or isinstance(node, type):
        return node
    changes: dict[str, Any] = {}
    for f in fields(node):
        value = getattr(node, f.name)
        if f.name in CHOSEN and isinstance(value, float | int) and not isinstance(value, bool):
            changes[f.name] = round_to(value, step, place=f.name in PLACES)
        elif f.name not in ("habits", "options", "overrides", "clearance"):
            changes[f.name] = _rounded(value, step)
    return replace(node, **changes)


def _differences(before: Any, after: Any, of: Phrase = NOTHING) -> Iterator[Rounding]:
    """What changes inside a value; `of` says what it belongs to."""
    if isinstance(before, tuple):
        for a, b in zip(before, after, strict=True):
            yield from _differences(a, b, plain(a.name) if hasattr(a, "name") else of)
        return
    if not is_dataclass(before) or isinstance(before, type):
        return
    for f in fields(before):
        a, b = getattr(before, f.name), getattr(after, f.name)
        if f.name in ("habits", "options", "overrides", "clearance"):
            continue
        if f.name in CHOSEN and isinstance(a, float | int):
            if abs(a - b) > AS_TYPED:
                words = CHOSEN[f.name]
                yield Rounding(tr("{whole}, {what}", whole=of, what=words) if of else words, float(a), float(b))
        else:
            yield from _differences(a, b, _within(of, OF.get(f.name, NOTHING)))


def _within(whole: Phrase, part: Phrase) -> Phrase:
    return tr("{whole}, {what}", whole=whole, what=part) if whole and part else part or whole


def _options_of(job: Job) -> tuple[Option, ...]:
    scheme = SCHEMES.get(job.cover.scheme)
    return scheme.options if scheme is not None else ()


def _options(before: Job, after: Job) -> Iterator[Rounding]:
    """The scheme's own lengths, also those nobody has chosen: they follow the habits."""
    for option in _options_of(before):
        if option.kind is not OptionKind.LENGTH:
            continue
        old, new = (
            float(job.cover.options.get(option.key, option.usual(job.cover.scheme, job.cover.habits))) for job in (before, after)
        )
        if abs(old - new) > AS_TYPED:
            yield Rounding(option.words, old, new)
