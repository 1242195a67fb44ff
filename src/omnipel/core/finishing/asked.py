"""What something on a cover asks: only what changes it."""

from collections.abc import Collection, Iterator, Mapping

from omnipel.core.covers.fields import FEATURE_FIELDS
from omnipel.core.covers.options import Option
from omnipel.core.finishing.kind import Kind, Values
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.feature import LEVEL, Facing, Feature
from omnipel.core.job.findings import Impossible
from omnipel.core.words.phrases import Phrase, tr


def values_of(kind: Kind, feature: Feature, choices: CoverChoices) -> Values:
    """What was decided by its kind's own choices; what is usual where that is not lawful."""
    try:
        return kind.values(feature, choices)
    except Impossible:
        return {option.key: option.usual(kind.key, choices.habits) for option in kind.options}


def asked_of(feature: Feature, choices: CoverChoices, idle: Collection[str] = ()) -> Mapping[str, Phrase]:
    """Which lengths there are to decide about something on a cover, as it stands, and what they are called; not what is idle where it lies."""
    kind = KINDS.get(feature.kind)
    if kind is None:
        return {}
    asked = dict(kind.sizes(values_of(kind, feature, choices)))
    if feature.serves or feature.face is Facing.UNSAID:
        return asked
    level = {Facing.TOP: tr("from the middle to the front"), Facing.BELOW: tr("from the middle to the back")}
    down = level[feature.face] if feature.face in LEVEL else FEATURE_FIELDS["from_top"]
    asked = {"from_centre": FEATURE_FIELDS["from_centre"], "from_top": down, **asked}
    return {name: words for name, words in asked.items() if name not in idle}


def options_asked(feature: Feature, choices: CoverChoices, idle: Collection[str] = ()) -> Iterator[Option]:
    """Its kind's own choices that change anything, as the others stand."""
    kind = KINDS.get(feature.kind)
    if kind is None:
        return
    values = values_of(kind, feature, choices)
    for option in kind.options:
        if all(values[key] in lawful for key, lawful in option.only) and option.key not in idle:
            yield option
