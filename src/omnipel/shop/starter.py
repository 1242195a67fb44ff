"""A new job: with plausible sample readings to start from, or empty."""

from dataclasses import replace

from omnipel.core.covers import SCHEMES, schemes_for
from omnipel.core.covers.starting import usual_choices
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import Body
from omnipel.core.forms.form import Form
from omnipel.core.forms.measuring import MissingReading, measure
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Impossible
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Thing
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.phrases import Name, Refusal, listed, tr
from omnipel.core.words.units import MM_PER_INCH, Unit


class UnknownPair(Refusal, KeyError):
    """A form or scheme that is not there, or a pair that does not go together; `phrase` lists what there is."""


def starter(
    form_key: str,
    scheme_key: str,
    unit: Unit = Unit.MM,
    *,
    name: str = "",
    with_readings: bool = True,
    habits: Habits | None = None,
) -> Job:
    """A sound job of a form and a scheme, in the habits of those who work in `unit`.

    Raises:
        UnknownPair: one is unknown, or they do not go together.
    """
    form_key, scheme_key = key_of(form_key), key_of(scheme_key)
    if form_key not in FORMS:
        raise UnknownPair(
            tr("there is no form “{form}”; there are: {forms}", form=Name(form_key), forms=listed(Name(key) for key in FORMS))
        )
    form = FORMS[form_key]
    serving = [scheme.key for scheme in schemes_for(form)]
    if scheme_key not in serving:
        raise UnknownPair(
            tr(
                "no scheme “{scheme}” serves the form “{form}”; these do: {schemes}",
                scheme=Name(scheme_key),
                form=form.words,
                schemes=listed(Name(key) for key in serving),
            )
        )
    scheme = SCHEMES[scheme_key]
    thing = Thing(form=form_key, outline=form.outline if with_readings else None)
    return Job(
        name=name or f"{form.words}, {str(scheme.words)[:1].lower()}{str(scheme.words)[1:]}",
        unit=unit,
        thing=thing,
        readings=sample_readings(form, thing, unit) if with_readings else (),
        cover=usual_choices(scheme, habits or Habits(system=System.of(unit))),
        notes="A sample to start from: put your own readings in place of these." if with_readings else "",
    )


def sample_readings(form: Form, thing: Thing, unit: Unit, taken: tuple[Reading, ...] = ()) -> tuple[Reading, ...]:
    """The readings taken, and plausible ones in place of those that are still missing."""
    readings = taken
    for _ in range(20):
        try:
            measure(form, readings, thing, unit)
        except MissingReading as open_:
            more = tuple(
                Reading(place=p.key, repeats=(rounded_sample(p.sample, unit),), instrument=p.instrument) for p in open_.easiest
            )
            gone = {reading.place for reading in more}
            readings = (*(r for r in readings if r.place not in gone), *more)
            if not more:
                break
        else:
            break
    return readings


def plausible(job: Job) -> Body | None:
    """The body as far as it is measured, with sample values where readings are still missing: for the sketch only."""
    form = FORMS.get(job.thing.form)
    if form is None:
        return None
    thing = job.thing if job.thing.outline is not None or form.traced != "needed" else replace(job.thing, outline=form.outline)
    kept = tuple(reading for reading in job.readings if not reading.set_aside)
    try:
        return form.build(measure(form, sample_readings(form, thing, job.unit, kept), thing, job.unit))
    except Impossible:
        return None


def rounded_sample(length: float, unit: Unit) -> float:
    """A sample length as somebody would read it in a unit: to the quarter inch, or as it is."""
    quarter = MM_PER_INCH / 4.0
    return max(1.0, round(length / quarter)) * quarter if unit.denominator else length


def key_of(words: str) -> str:
    """A form's or scheme's key from how a person may write it.

    >>> key_of("Wall and lid")
    'wall-and-lid'
    """
    return "-".join(words.casefold().replace(",", " ").split())
