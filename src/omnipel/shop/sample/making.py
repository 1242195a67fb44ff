"""The cloths and people of the sample shop, and how its jobs are made."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.starting import usual_choices
from omnipel.core.job.document import ClothChoice, ClothKind, Job
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Thing
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.units import Unit

MOSS = ClothChoice(name="solution-dyed acrylic, moss", colour="#6d8a63", thickness=0.5, usable_width=1500.0)
SLATE = ClothChoice(name="coated canvas, slate", colour="#6f7f8a", thickness=0.6, usable_width=1800.0)
WAXED = ClothChoice(
    name="waxed cotton, bark", colour="#8a7250", thickness=0.7, usable_width=1400.0, shrink_warp=0.02, shrink_weft=0.01
)
CHECK = ClothChoice(
    name="cotton check, plum", kind=ClothKind.COTTON, colour="#8c5a6e", thickness=0.3, usable_width=1400.0, gather_limit=3.5
)
TICKING = ClothChoice(
    name="striped ticking", kind=ClothKind.GENERAL, colour="#a58f5f", thickness=0.4, usable_width=1400.0, gather_limit=2.5
)
OILCLOTH = ClothChoice(
    name="oilcloth, quince", kind=ClothKind.GENERAL, colour="#c2a13f", thickness=0.5, usable_width=1400.0, frays=False
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
    )
