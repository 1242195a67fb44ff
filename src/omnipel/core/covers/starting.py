"""What a new job starts from: the habits of those who make it, and what its scheme begins with."""

from dataclasses import replace
from typing import Any

from omnipel.core.covers.cloths import WIDTHS
from omnipel.core.covers.scheme import Scheme
from omnipel.core.job.document import Clearance, ClothChoice, CoverChoices, Lining
from omnipel.core.job.finish import double_hem
from omnipel.core.words.habits import Habits


def begins_with(scheme: Scheme, habits: Habits) -> dict[str, Any]:
    """What a scheme begins with, names of habits turned into lengths."""
    made: dict[str, Any] = {}
    for name, begun in scheme.starts_with.items():
        if isinstance(begun, str):
            made[name] = habits.mm(begun)
        elif isinstance(begun, ClothChoice):
            made[name] = replace(begun, usable_width=habits.take("", WIDTHS[begun.usable_width]))
        else:
            made[name] = begun
    return made


def usual_choices(scheme: Scheme, habits: Habits) -> CoverChoices:
    """The choices of a new job: everything as those who make it usually do."""
    plain = CoverChoices(scheme=scheme.key)
    chosen = replace(
        plain,
        habits=habits,
        clearance=Clearance(amount=habits.mm("clearance")),
        cloth=replace(plain.cloth, usable_width=habits.mm("width")),
        lining=replace(
            Lining(),
            cloth=replace(Lining().cloth, usable_width=habits.mm("lining width")),
            seam_allowance=habits.mm("lining seam"),
            turning_gap=habits.mm("turning gap"),
        ),
        padding_inset=habits.mm("padding inset"),
        seam_allowance=habits.mm("seam"),
        closing_allowance=habits.mm("seam"),
        hem=double_hem(habits.mm("hem"), habits.mm("turn-under")),
    )
    return replace(chosen, **begins_with(scheme, habits))
