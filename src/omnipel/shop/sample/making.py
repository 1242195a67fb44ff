"""The cloths and people of the sample shop, and how its jobs are made."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from omnipel.core.cloth.kinds import KINDS
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.starting import usual_choices
from omnipel.core.job.document import ClothChoice, Job, LayChoice
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Thing
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.units import Unit


def _of(kind: str, name: str, colour: str, price: float, **more: Any) -> ClothChoice:
    """A cloth of a kind, as the co-operative buys it."""
    return replace(KINDS[kind].cloth, name=name, colour=colour, price=price, **more)


MOSS = _of("acrylic", "solution-dyed acrylic, moss", "#6d8a63", 18.5, thickness=0.5, usable_width=1500.0, widths=(1170.0, 1500.0))
SLATE = _of(
    "vinyl", "coated canvas, slate", "#6f7f8a", 14.2, usable_width=1800.0, widths=(1560.0, 1800.0), gather_limit=2.0, frays=True
)
WAXED = _of(
    "waxed cotton", "waxed cotton, bark", "#8a7250", 21.0, thickness=0.7, usable_width=1400.0, widths=(1400.0,), frays=True,
    shrink_warp=0.02, shrink_weft=0.01,
)  # fmt: skip
CHECK = _of(
    "quilting cotton", "cotton check, plum", "#8c5a6e", 9.8, thickness=0.3, usable_width=1400.0, widths=(1400.0,), gather_limit=3.5,
    shrink_warp=0.0, shrink_weft=0.0, one_way=False,
)  # fmt: skip
TICKING = _of(
    "linen", "striped ticking", "#a58f5f", 12.4, thickness=0.4, usable_width=1400.0, widths=(1400.0,), gather_limit=2.5,
    shrink_warp=0.0, shrink_weft=0.0, repeat_across=42.0,
)  # fmt: skip
OILCLOTH = _of(
    "laminated knit", "oilcloth, quince", "#c2a13f", 11.0, thickness=0.5, usable_width=1400.0, widths=(1400.0,), food_safe=True
)

TILDA, ANSEL, BRAM, ODA = ("Apiary, Tilda Marrow", "Orchard, Ansel Brook", "Press house, Bram Teasel", "Kitchen, Oda Fennimore")


def made(
    name: str,
    form: str,
    scheme: str,
    readings: Mapping[str, Any],
    cloth: ClothChoice,
    *,
    owner: str,
    place: str,
    thing: Mapping[str, Any] | None = None,
    unit: Unit = Unit.MM,
    notes: str = "",
    copies: int = 1,
    lays: Mapping[str, LayChoice] | None = None,
    **cover: Any,
) -> Job:
    """A job with the scheme's own beginnings; a reading is one number or a tuple of repeats."""
    taken = tuple(Reading(place=k, repeats=v if isinstance(v, tuple) else (v,)) for k, v in readings.items())
    choices = replace(usual_choices(SCHEMES[scheme], Habits(system=System.of(unit))), **{"cloth": cloth, **cover})
    return Job(
        name=name,
        owner=owner,
        place=place,
        unit=unit,
        thing=Thing(form=form, **(thing or {})),
        readings=taken,
        cover=choices,
        notes=notes,
        copies=copies,
        lays=lays or {},
    )
