"""What everything that is asked about a job is for: what F1 says, in two or three sentences."""

from collections.abc import Mapping, Sequence
from typing import Final

from omnipel.core.covers import SCHEMES
from omnipel.core.explained.choices import CHOICES, Told
from omnipel.core.explained.parts import PARTS
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.forms import FORMS
from omnipel.core.forms.form import Place
from omnipel.core.job.document import Job
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Of, Ref

READING: Final = tr(
    "Take it twice where it matters: two that agree are worth more than one, and a slip shows at once. Type it as it stands on the tape."
)
OPTION: Final = tr("It is a choice of this way to cut the cover. Panels shows in every sum what it does.")


def explained(ref: Ref, job: Job) -> Told:
    """What a place of a job is for; nothing where nothing is known about it."""
    if ref.of is Of.READING and ref.id:
        place = next((p for p in _places(job) if p.key == ref.id), None)
        return (place.how, READING) if place is not None else ()
    if ref.of is Of.OPTION:
        scheme = SCHEMES.get(job.cover.scheme)
        option = next((o for o in scheme.options if o.key == ref.id), None) if scheme is not None else None
        if option is None:
            return ()
        return (*((option.why,) if option.why else ()), OPTION)
    if ref.of is Of.CHOICE:
        return _longest(ref, CHOICES)
    if ref.of is Of.FEATURE:
        feature = next((f for f in job.cover.features if f.id == ref.id), None)
        kind = KINDS.get(feature.kind) if feature is not None else None
        general = PARTS.get((Of.FEATURE, ref.part.split(".")[0]), PARTS[Of.FEATURE, ""])
        return (kind.about, *general) if kind is not None and not ref.part else general
    return PARTS.get((ref.of, ref.part.split(".")[0]), PARTS.get((ref.of, ""), ()))


def _places(job: Job) -> Sequence[Place]:
    form = FORMS.get(job.thing.form)
    return form.places(job.readings, job.thing) if form is not None else ()


def _longest(ref: Ref, known: Mapping[Ref, Told]) -> Told:
    """What is known of it, or of what it is a part of."""
    within = [(len(other.part), told) for other, told in known.items() if ref.within(other)]
    return max(within, key=lambda one: one[0])[1] if within else ()
