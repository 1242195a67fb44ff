"""Jobs that several tests start from."""

from typing import Any

from omnipel.core.job.document import Clearance, ClothChoice, CoverChoices, Job
from omnipel.core.job.finish import BOUND, Finish, double_hem
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Thing


def job(
    form: str,
    scheme: str,
    readings: dict[str, Any],
    *,
    c: float = 10.0,
    t: float = 0.5,
    a: float = 12.0,
    a_close: float | None = None,
    hem: Finish | None = None,
    thing: dict[str, Any] | None = None,
    options: dict[str, Any] | None = None,
    **cover: Any,
) -> Job:
    """A job in the trade's symbols; a reading is a number or a tuple of repeats."""
    return Job(
        name="test",
        thing=Thing(form=form, **(thing or {})),
        readings=tuple(Reading(place=k, repeats=v if isinstance(v, tuple) else (v,)) for k, v in readings.items()),
        cover=CoverChoices(
            scheme=scheme,
            clearance=Clearance(amount=c),
            cloth=ClothChoice(thickness=t, usable_width=cover.pop("usable_width", 30_000.0)),
            seam_allowance=a,
            closing_allowance=a if a_close is None else a_close,
            hem=hem or double_hem(25.0, 15.0),
            options=options or {},
            **cover,
        ),
    )


def drum(girth: Any = 1763.0, drop: Any = 655.0, **more: Any) -> Job:
    """A drum under a wall and lid."""
    readings = {"girth": girth, "drop": drop, **more.pop("readings", {})}
    return job("drum", "wall-and-lid", readings, **more)


def hem_of(e: float) -> Finish:
    """A lower edge whose whole allowance is `e`."""
    return double_hem(e - min(15.0, e / 2), min(15.0, e / 2)) if e else BOUND
