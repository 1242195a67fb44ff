"""What a new job starts from: the habits of those who make it, and what its scheme begins with."""

from dataclasses import replace
from typing import Any

from omnipel.core.covers.cloths import SEAMS, WIDTHS
from omnipel.core.covers.scheme import Scheme
from omnipel.core.job.document import Clearance, ClothChoice, CoverChoices, Lining
from omnipel.core.job.finish import FinishKind, double_hem, usual_finish
from omnipel.core.job.layers import Stiffener
from omnipel.core.tolerances import AS_TYPED
from omnipel.core.words.habits import Habits


def begins_with(scheme: Scheme, habits: Habits) -> dict[str, Any]:
    """What a scheme begins with, names of habits turned into lengths, ways to finish an edge into finishes."""
    made: dict[str, Any] = {}
    for name, begun in scheme.starts_with.items():
        if isinstance(begun, FinishKind):
            made[name] = usual_finish(begun, habits, habits.mm("seam"))
        elif isinstance(begun, str):
            made[name] = habits.mm(begun)
        elif isinstance(begun, ClothChoice):
            made[name] = replace(begun, usable_width=habits.take("", WIDTHS[begun.usable_width]), sold_by=habits.system.sold_by)
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
        cloth=replace(plain.cloth, usable_width=habits.mm("width"), sold_by=habits.system.sold_by),
        lining=replace(
            Lining(),
            cloth=replace(Lining().cloth, usable_width=habits.mm("lining width"), sold_by=habits.system.sold_by),
            seam_allowance=habits.mm("lining seam"),
            turning_gap=habits.mm("turning gap"),
        ),
        padding_inset=habits.mm("padding inset"),
        stiffener=Stiffener(short=habits.mm("stiffener")),
        hem=double_hem(habits.mm("hem"), habits.mm("turn-under")),
    )
    begun = begins_with(scheme, habits)
    seam = habits.mm(SEAMS[begun.get("cloth", chosen.cloth).kind])
    return replace(chosen, **{"seam_allowance": seam, "closing_allowance": seam, **begun})


def with_cloth(choices: CoverChoices, cloth: ClothChoice) -> CoverChoices:
    """The choices with another cloth; allowances that stood at the habit of the old kind follow the new one."""
    usual, now = (choices.habits.mm(SEAMS[kind]) for kind in (choices.cloth.kind, cloth.kind))

    def follows(allowance: float) -> float:
        return now if abs(allowance - usual) <= AS_TYPED else allowance

    return replace(
        choices, cloth=cloth, seam_allowance=follows(choices.seam_allowance), closing_allowance=follows(choices.closing_allowance)
    )
