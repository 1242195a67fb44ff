"""A new job with plausible sample readings, to start from."""

from dataclasses import replace

from omnipel.core.covers import SCHEMES
from omnipel.core.forms import FORMS
from omnipel.core.forms.thing import Thing
from omnipel.core.job import CoverChoices, Job
from omnipel.core.tape.readings import Reading
from omnipel.core.tape.units import Unit


def starter(form_key: str, scheme_key: str, unit: Unit = Unit.MM, *, name: str = "", with_readings: bool = True) -> Job:
    """A sound job of a form and a scheme.

    Raises:
        KeyError: one is unknown, or they do not go together; the message lists what there is.
    """
    form_key, scheme_key = key_of(form_key), key_of(scheme_key)
    if form_key not in FORMS:
        raise KeyError(f"there is no form {form_key!r}; there are: {', '.join(FORMS)}")
    form = FORMS[form_key]
    serving = [key for key, scheme in SCHEMES.items() if form_key in scheme.forms]
    if scheme_key not in serving:
        raise KeyError(f"no scheme {scheme_key!r} serves a {form.words.lower()}; these do: {', '.join(serving)}")
    scheme = SCHEMES[scheme_key]
    readings = tuple(Reading(place=w.place, repeats=(w.sample,)) for w in form.wanted(()) if w.needed) if with_readings else ()
    job = Job(
        name=name or f"{form.words}, {scheme.words.lower()}",
        unit=unit,
        thing=Thing(form=form_key, outline=form.outline),
        readings=readings,
        cover=CoverChoices(scheme=scheme_key),
        notes="A sample to start from: put your own readings in place of these." if with_readings else "",
    )
    return replace(job, cover=replace(job.cover, **scheme.starts_with))


def key_of(words: str) -> str:
    """A form's or scheme's key from how a person may write it.

    >>> key_of("Wall and lid")
    'wall-and-lid'
    """
    return "-".join(words.casefold().replace(",", " ").split())
